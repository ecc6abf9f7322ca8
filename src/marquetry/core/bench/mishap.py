"""A mishap or a question's failure: what to look at first, the ways back with what each costs, what to note.

Each kind is described once, in `mishap_kinds` and `failures`; what it costs and which steps open again is
worked out from the watch.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from marquetry.core.bench.procedure import Procedure
from marquetry.core.bench.situation import Situation

PieceFate = Literal["", "scratched", "scrapped", "refitted", "returned"]
"""What becomes of the part's piece on a way back; one returned lies faulty on the shelf."""
UNSURE = "unsure"
"""The way back that goes on without knowing."""
UNSURE_WORDS = "Not sure, go on"
StepOf = Callable[[Procedure, str], str]
"""The step that a way back undoes, of this watch, seen from the step at hand; empty for none."""


@dataclass(frozen=True, slots=True)
class WayBack:
    """One way back: how long it takes, what becomes of the piece, the step it undoes, what it risks."""

    key: str
    words: str
    minutes: int
    risk: str
    fate: PieceFate = ""
    undoes: StepOf = lambda _p, _at: ""

    @property
    def accepts(self) -> bool:
        """Whether it is taken as it is: then its question counts as settled."""
        return self.key in {"accept", "leave"}

    @property
    def is_unsure(self) -> bool:
        """Whether the work goes on with a doubt, which is asked about again before the back is closed."""
        return self.key == UNSURE

    @property
    def wants_another(self) -> bool:
        """Whether another piece of the part is needed."""
        return self.fate in {"scrapped", "returned"}


@dataclass(frozen=True, slots=True)
class MishapKind:
    """One kind of mishap. `part` is the slot its piece lies in, `likely` the steps it happens at.

    `of` names the questions that it is a failure of: answered no, they show it first. `checks` are the
    findings that explain it where a figure does. `is_sellers`: it was so when it came; its seller is told.
    """

    key: str
    label: str
    look: str
    ways: tuple[WayBack, ...]
    lesson: str
    part: str = ""
    likely: tuple[str, ...] = ()
    caution: str = ""
    of: tuple[str, ...] = ()
    checks: tuple[str, ...] = ()
    is_sellers: bool = False
    applies: Callable[[Situation], bool] = lambda _: True

    @property
    def ways_back(self) -> tuple[WayBack, ...]:
        """Every way back: to take it as it is, is always one."""
        return self.ways if any(way.accepts for way in self.ways) else (*self.ways, ACCEPT)


ACCEPT = WayBack("accept", "Accept it as it is", 0, "It is seen, or felt, for as long as it is worn.")
GO_ON = WayBack(UNSURE, UNSURE_WORDS, 0, "The doubt is kept, and asked again before the back is closed.")


def first_of(*names: str) -> StepOf:
    """The first of these that stands in the watch."""
    return lambda p, _at: next((name for name in names if name in p.by_id), "")


def hand_at(p: Procedure, at: str) -> str:
    """The press of the hand at hand; else the last one pressed."""
    hand = at.partition("_")[2]
    if f"press_{hand}" in p.by_id:
        return f"press_{hand}"
    pressed = [step.id for step in p.steps if step.id.startswith("press_") and step.step.hand]
    return pressed[-1] if pressed else ""


def here(p: Procedure, at: str) -> str:
    """The step at hand itself."""
    return at if at in p.by_id else ""


AGAIN = "Do it again"
PRESSES = ("press_h24", "press_hour", "press_minute", "press_seconds")
CHECKS = ("check_h24", "check_hour", "check_minute", "check_seconds", "hands_round")
