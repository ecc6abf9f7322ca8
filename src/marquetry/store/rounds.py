"""Measuring rounds on their way: planned, done and skipped, so that one can be left and taken up again."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection

RoundOf = Literal["watch", "drawer", "donor"]
OwnerOfStep = Literal["watch", "part"]


@dataclass(frozen=True, slots=True)
class RoundStep:
    """One dimension to measure: whose, its path as the owner's card names it, with what, and why."""

    owner: OwnerOfStep
    number: int
    path: str
    tool: str
    why: str


@dataclass(frozen=True, slots=True)
class StoredRound:
    """A round as it is on disk. Steps are counted from 0; `taken` are readings of the step at hand."""

    what: RoundOf
    which: str
    plan: tuple[RoundStep, ...]
    done: frozenset[int]
    skipped: frozenset[int]
    taken: tuple[float, ...]
    verdicts: Mapping[str, str]

    @property
    def at(self) -> int | None:
        """The step at hand: the first that is neither done nor skipped; None at the end."""
        gone = self.done | self.skipped
        return next((number for number in range(len(self.plan)) if number not in gone), None)


def stored_round(connection: Connection, what: RoundOf, which: str) -> StoredRound | None:
    """The round of that name, where one was begun."""
    row = connection.execute(
        "SELECT * FROM measuring_round WHERE what = :what AND which = :which", {"what": what, "which": which}
    ).fetchone()
    if row is None:
        return None
    return StoredRound(
        what,
        which,
        tuple(RoundStep(*step) for step in json.loads(row["plan"])),
        frozenset(json.loads(row["done"])),
        frozenset(json.loads(row["skipped"])),
        tuple(json.loads(row["taken"])),
        json.loads(row["verdicts"]),
    )


def begin(
    connection: Connection, what: RoundOf, which: str, plan: Sequence[RoundStep], verdicts: Mapping[str, str]
) -> None:
    """Begin a round, in place of one that was begun before."""
    steps = [[step.owner, step.number, step.path, step.tool, step.why] for step in plan]
    connection.execute(
        """
        INSERT OR REPLACE INTO measuring_round (what, which, plan, verdicts)
        VALUES (:what, :which, :plan, :verdicts)
        """,
        {"what": what, "which": which, "plan": json.dumps(steps), "verdicts": json.dumps(dict(verdicts))},
    )


def note(connection: Connection, round_: StoredRound) -> None:
    """Keep how far a round is; NotFoundError where it was ended meanwhile."""
    changed = connection.execute(
        """
        UPDATE measuring_round SET done = :done, skipped = :skipped, taken = :taken
         WHERE what = :what AND which = :which
        """,
        {
            "what": round_.what,
            "which": round_.which,
            "done": json.dumps(sorted(round_.done)),
            "skipped": json.dumps(sorted(round_.skipped)),
            "taken": json.dumps(list(round_.taken)),
        },
    )
    if changed.rowcount == 0:
        raise NotFoundError("measuring round here; begin one")


def end(connection: Connection, what: RoundOf, which: str) -> None:
    """Put the round away; what was measured stays."""
    connection.execute(
        "DELETE FROM measuring_round WHERE what = :what AND which = :which", {"what": what, "which": which}
    )
