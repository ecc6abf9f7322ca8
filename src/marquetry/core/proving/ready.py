"""Ready to hand over: every proof that this watch's parts ask for, passed since it was last closed.

Each is described once, here. Opening the watch lets lapse what must be done again: what the back lets in,
or, where hands or dial were touched, everything.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from marquetry.core.bench.situation import Situation
from marquetry.core.proving.record import Proof, ProofKind, newest, proofs_standing, result_number

ProofState = Literal["passed", "failed", "unsure", "begun", "open", "lapsed"]
OpenedWhat = Literal["back", "hands"]
OPENED: dict[OpenedWhat, str] = {
    "back": "The back, crown or crystal was off",
    "hands": "Hands, dial or movement were touched",
}
"""What may have been opened: the second lets everything lapse."""
BEFORE_ALL = -1
ALONE = "alone"
"""The item of a dry test made with the case alone, before the movement was in it."""


@dataclass(frozen=True, slots=True)
class Item:
    """One thing that a proof consists of."""

    key: str
    label: str


Asks = Callable[[Situation], Sequence[Item]]
Says = Callable[["Readiness", Sequence[Proof]], tuple[ProofState, str]]


@dataclass(frozen=True, slots=True)
class ProofTest:
    """A proof by the kind of its records, and what of it this watch asks for (none: it asks for none).

    `says` judges the records that stand; None: each item by its own newest record. `lasts`: it stands when
    only the back was off.
    """

    key: ProofKind
    label: str
    why: str
    asks: Asks
    says: Says | None = None
    lasts: bool = False


@dataclass(frozen=True, slots=True)
class TestState:
    """Where one proof stands, in a `state` and in `words`; `done` of `items` have passed."""

    test: ProofTest
    state: ProofState
    words: str
    items: Sequence[Item]
    records: dict[str, Proof]
    done: int = 0


@dataclass(frozen=True)
class Readiness:
    """The proofs of one watch.

    `closed_ms` is when the bench closed it last, or opened it again; None where that is not told.
    `is_open`: the bench says that it is open at this moment. `doubts` are the steps at which the builder was
    not sure and went on: they forbid nothing, and are told beside the proofs.
    """

    tests: Sequence[ProofTest]
    situation: Situation
    proofs: Sequence[Proof]
    closed_ms: int | None = None
    is_open: bool = False
    doubts: tuple[str, ...] = ()

    @cached_property
    def standing(self) -> list[Proof]:
        """Records that were not taken back."""
        return proofs_standing(self.proofs)

    @cached_property
    def states(self) -> list[TestState]:
        """Every proof that this watch asks for."""
        found = [(test, test.asks(self.situation)) for test in self.tests]
        return [self._state(test, items) for test, items in found if items]

    @cached_property
    def by_key(self) -> dict[str, TestState]:
        """The same by key."""
        return {state.test.key: state for state in self.states}

    @property
    def passed(self) -> int:
        """How many have passed."""
        return sum(state.state == "passed" for state in self.states)

    @property
    def is_ready(self) -> bool:
        """Whether it may be handed over."""
        return not self.is_open and self.passed == len(self.states)

    def test(self, key: ProofKind) -> ProofTest:
        """The proof of that kind."""
        return next(test for test in self.tests if test.key == key)

    def since_ms(self, test: ProofTest) -> int:
        """Records from before this moment have lapsed, milliseconds since 1970."""
        opened = [
            proof.at_ms
            for proof in self.standing
            if proof.kind == "opened" and not (test.lasts and proof.item != "hands")
        ]
        closed = self.closed_ms if self.closed_ms is not None and not test.lasts else BEFORE_ALL
        return max([closed, *opened])

    def counting(self, test: ProofTest) -> list[Proof]:
        """The records of a proof that have not lapsed."""
        since = self.since_ms(test)
        return [
            proof
            for proof in self.standing
            if proof.kind == test.key and proof.at_ms >= since and proof.item != ALONE
        ]

    @property
    def dry_tests(self) -> list[Proof]:
        """Dry tests that count, and decide: one without pressure decides only where it failed."""
        counting = self.counting(self.test("dry"))
        return [one for one in counting if one.verdict == "failed" or result_number(one, "held_bar")]

    @property
    def alone(self) -> list[Proof]:
        """Dry tests of the case without its movement: they prove nothing of the watch, and never lapse."""
        return [proof for proof in self.standing if proof.kind == "dry" and proof.item == ALONE]

    def _state(self, test: ProofTest, items: Sequence[Item]) -> TestState:
        counting = self.counting(test)
        records = newest(counting, test.key)
        ever = any(proof.kind == test.key and proof.item != ALONE for proof in self.standing)
        if not counting:
            words = "lapsed when the watch was opened" if ever else "not yet"
            return TestState(test, "lapsed" if ever else "open", words, items, records)
        done = sum(item.key in records and records[item.key].verdict != "failed" for item in items)
        state, words = test.says(self, counting) if test.says else _each(items, records)
        return TestState(test, state, words, items, records, done)


def _each(items: Sequence[Item], records: dict[str, Proof]) -> tuple[ProofState, str]:
    verdicts = {item.label: records[item.key].verdict for item in items if item.key in records}
    failed = [label for label, verdict in verdicts.items() if verdict == "failed"]
    if failed:
        return "failed", f"{failed[0]}: no" + (f", and {len(failed) - 1} more" if failed[1:] else "")
    passed = sum(verdict == "passed" for verdict in verdicts.values())
    if passed == len(items):
        return "passed", "all passed" if len(items) > 1 else "passed"
    return "begun", f"{passed} of {len(items)}"
