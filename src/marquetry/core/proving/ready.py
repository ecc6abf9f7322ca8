"""Ready to hand over: every proof that this watch's parts ask for, passed since it was last closed.

Each is described once, here. Opening the watch lets lapse what must be done again: what the back lets in,
or, where hands or dial were touched, everything.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from marquetry.core.bench.situation import Situation
from marquetry.core.proving.meeting import looks
from marquetry.core.proving.positions import POSITIONS, PositionTiming, RateRound, rate_round
from marquetry.core.proving.pressure_words import METRES_A_BAR
from marquetry.core.proving.record import Proof, ProofKind, newest, proofs_standing, result_number
from marquetry.core.proving.rounds import LOUPE, functions_of
from marquetry.core.proving.wrist import WORN_H, WristStretch, stretches
from marquetry.core.proving.wrist_records import wrist_entry
from marquetry.core.values.figures import figure

ProofState = Literal["passed", "failed", "unsure", "begun", "open", "lapsed"]
OpenedWhat = Literal["back", "hands"]
OPENED: dict[OpenedWhat, str] = {
    "back": "The back, crown or crystal was off",
    "hands": "Hands, dial or movement were touched",
}
"""What may have been opened: the second lets everything lapse."""
BEFORE_ALL = -1


@dataclass(frozen=True, slots=True)
class Item:
    """One thing that a proof consists of."""

    key: str
    label: str


Asks = Callable[[Situation], Sequence[Item]]
Says = Callable[["Readiness", Sequence[Proof]], tuple[ProofState, str]]


@dataclass(frozen=True, slots=True)
class ProofTest:
    """A proof: of which `kind` its records are, what of it this watch asks for (none: it asks for none).

    `says` judges the records that stand; None: each item by its own newest record. `lasts`: it stands when
    only the back was off.
    """

    key: str
    kind: ProofKind
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
    """The proofs of one watch. `closed_ms` is when the bench closed it last; None where that is not told.

    `is_open`: the bench says that it is open at this moment.
    """

    situation: Situation
    proofs: Sequence[Proof]
    closed_ms: int | None = None
    is_open: bool = False

    @cached_property
    def standing(self) -> list[Proof]:
        """Records that were not taken back."""
        return proofs_standing(self.proofs)

    @cached_property
    def states(self) -> list[TestState]:
        """Every proof that this watch asks for."""
        found = [(test, test.asks(self.situation)) for test in TESTS]
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
        return [proof for proof in self.standing if proof.kind == test.kind and proof.at_ms >= since]

    def _state(self, test: ProofTest, items: Sequence[Item]) -> TestState:
        counting = self.counting(test)
        records = newest(counting, test.kind)
        ever = any(proof.kind == test.kind for proof in self.standing)
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


def _functions(s: Situation) -> Sequence[Item]:
    return [Item(each.key, each.label) for each in functions_of(s)] if s.has("movement") else []


def _positions(s: Situation) -> Sequence[Item]:
    return [Item(position.key, position.label) for position in POSITIONS] if s.has("movement") else []


def timings_of(records: dict[str, Proof]) -> dict[str, PositionTiming]:
    """What was heard in each position, of records by position."""
    found: dict[str, PositionTiming] = {}
    for position in POSITIONS:
        record = records.get(position.key)
        if record is None:
            continue
        rate, u, beat = (result_number(record, key) for key in ("rate_s_per_day", "rate_u", "beat_error_ms"))
        if rate is not None and u is not None and beat is not None:
            found[position.key] = PositionTiming(rate, u, beat, result_number(record, "amplitude_deg"))
    return found


def round_of(ready: Readiness) -> RateRound | None:
    """The six positions together, of those that count."""
    return rate_round(timings_of(newest(ready.counting(BY_KEY["sound"]), "sound")), ready.situation.rules)


def _sound(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    heard = timings_of(newest(counting, "sound"))
    together = rate_round(heard, ready.situation.rules)
    if together is None:
        return "open", "not yet"
    words = f"{figure(together.mean, 1, 's/d', signed=True)}, spread {figure(together.spread, 1, 's/d')}"
    wrong = [each for each in together.judged if not each.holds]
    if len(heard) < len(POSITIONS):
        return "begun", f"{len(heard)} of {len(POSITIONS)}: {words}"
    return ("failed", f"{wrong[0].label} {wrong[0].value}") if wrong else ("passed", words)


def wrist_of(ready: Readiness) -> list[WristStretch]:
    """The stretches worn since the watch was closed."""
    return stretches(filter(None, map(wrist_entry, ready.counting(BY_KEY["wrist"]))))


def _wrist(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    told = [s for s in stretches(filter(None, map(wrist_entry, counting))) if s.rate is not None]
    if not told:
        return "begun", "one reading; another tomorrow at the same time"
    last = told[-1]
    words = f"{figure(last.rate or 0.0, 1, 's/d', signed=True)} over {figure(last.hours, 0, 'h')}"
    if last.hours < WORN_H:
        return "begun", words
    holds = ready.situation.rules.band("rate").admit(last.rate or 0.0)
    return ("passed" if holds else "failed"), words


def wanted_bar(s: Situation) -> float:
    """The pressure at which the wanted depth is tested, in bar; 0 where none is wanted."""
    return (s.build.target("water_depth_m") or 0.0) / METRES_A_BAR


def _dry(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    last = counting[-1]
    held = result_number(last, "held_bar") or 0.0
    words = f"{last.result.get('verdict', '')} at {figure(held, 1, 'bar')}"
    if last.verdict == "passed" and held < 0.98 * wanted_bar(ready.situation):
        return "unsure", f"{words}; {figure(wanted_bar(ready.situation), 1, 'bar')} wanted"
    return last.verdict or "unsure", words


def _meetings(s: Situation) -> Sequence[Item]:
    return [Item(each.item, each.clock) for each in looks(s.hands)]


def _date(s: Situation) -> Sequence[Item]:
    return (
        [Item("jump", "Date's jump")]
        if "date" in s.names("movement.functions") and s.names("dial.windows")
        else []
    )


def _turned(s: Situation) -> Sequence[Item]:
    found = [
        Item(hand, f"{label} hand")
        for hand, label in (("hour", "Hour"), ("minute", "Minute"), ("h24", "24-hour"))
        if hand in s.hands
    ]
    if s.has("dial"):
        found.append(Item("dial", "Dial"))
    if s.has("bezel"):
        found.append(Item("index", "Bezel's index"))
    return found


def _glows(s: Situation) -> Sequence[Item]:
    glowing = (("dial", "Dial"), ("hands", "Hands"), ("insert", "Insert"))
    return [Item(key, label) for key, label in glowing if s.word(f"{key}.glow") not in {"", "nothing"}]


TESTS: tuple[ProofTest, ...] = (
    ProofTest(
        "functions",
        "functions",
        "Every function",
        "A function that fails on the wrist comes back.",
        _functions,
    ),
    ProofTest(
        "sound", "sound", "Running, heard", "Rate, swing and beat error in six positions.", _positions, _sound
    ),
    ProofTest(
        "meeting",
        "meeting",
        "Hands meet",
        "Where one passes over another is where they touch.",
        _meetings,
        lasts=True,
    ),
    ProofTest(
        "date", "date", "Date's jump", "A date that jumps late was set beside midnight.", _date, lasts=True
    ),
    ProofTest(
        "angle", "angle", "Straight", "Hands at noon, dial and index by a photograph.", _turned, lasts=True
    ),
    ProofTest(
        "lume", "lume", "In the dark", "Dial, hands and insert should fade together.", _glows, lasts=True
    ),
    ProofTest(
        "dry",
        "dry",
        "Water, dry test",
        "A depth counts only for what was tested.",
        lambda s: [Item("case", "Case")] if wanted_bar(s) else [],
        _dry,
    ),
    ProofTest(
        "wrist",
        "wrist",
        "Worn a day",
        "Rotor, hands and rate are proved by wearing.",
        lambda s: [Item("worn", "Worn")] if s.has("movement") else [],
        _wrist,
    ),
    ProofTest(
        "loupe",
        "loupe",
        "Under the loupe",
        "Dust and marks are seen before the client sees them.",
        lambda _: [Item(each.key, each.label) for each in LOUPE],
    ),
)
"""In the order in which they are best done: what may send the watch back comes first."""
BY_KEY = {test.key: test for test in TESTS}
