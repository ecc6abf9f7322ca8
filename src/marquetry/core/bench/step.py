"""One step of the bench, described once: when it stands, what it waits for, what it is for, and how.

The list, the bench's screens, the work sheet, the plan before starting and the mishaps all read this.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, TypeAlias

from marquetry.core.bench.situation import Situation

BenchGroup = Literal[
    "prepare", "movement", "dial", "hands", "case", "casing", "stem", "close", "outside", "prove"
]
GROUPS: tuple[BenchGroup, ...] = (
    "prepare", "movement", "dial", "hands", "case", "casing", "stem", "close", "outside", "prove",
)  # fmt: skip
GROUP_LABELS: dict[BenchGroup, str] = {
    "prepare": "Prepare",
    "movement": "Movement",
    "dial": "Dial",
    "hands": "Hands",
    "case": "Case",
    "casing": "Casing up",
    "stem": "Stem",
    "close": "Close",
    "outside": "Outside",
    "prove": "Prove",
}
BenchPlace = Literal[
    "section", "back", "pads", "drill", "release", "hands", "stem", "insert", "front", "dial", "calendar",
    "window", "crown", "positions", "turns",
]  # fmt: skip
"""Which of the program's own plates shows where a step happens."""
BenchPoint = Literal[
    "", "washer", "post", "rest", "hands", "press", "inside", "axis", "gap", "seal", "drop", "wipe", "pull",
    "off", "disc", "jump",
]  # fmt: skip
"""What the plate points out beside the parts: where a drop goes, what is looked for, which way to press."""
StepEntry = Literal["", "gap", "cut", "file", "height", "pads"]
"""What is read or taken off during a step, and written down there."""
Told: TypeAlias = str | Callable[[Situation], str]
"""Words, or what makes them of the watch."""
StepIds: TypeAlias = tuple[str, ...] | Callable[[Situation], tuple[str, ...]]


def told(words: Told, situation: Situation) -> str:
    """The words for this watch."""
    return words if isinstance(words, str) else words(situation)


@dataclass(frozen=True, slots=True)
class Curing:
    """Something that sets once a step is done: for how many minutes, and which steps wait for it."""

    what: Told
    minutes: Callable[[Situation], int]
    holds: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchStep:
    """A step. It stands where all its `parts` are in the sheet and `applies` says so.

    `question` makes it a gate: it is passed by yes. `wrong` is what usually goes wrong, and how one sees it
    in time. `tools` and `consumables` are keys of the usual sundries; `minutes` is what it usually takes.
    `figure` is the one that matters, told large. `shows` are the parts that its drawing picks out, `points`
    what it points at; `proof` is what among the proofs of a watch it leads to; `tells` are the checks that
    its outcome proves right or wrong.
    """

    id: str
    title: Told
    group: BenchGroup
    why: str
    how: Told
    wrong: str
    parts: tuple[str, ...] = ()
    applies: Callable[[Situation], bool] = lambda _: True
    after: StepIds = ()
    gates: StepIds = ()
    question: Told = ""
    tools: StepIds = ()
    consumables: tuple[str, ...] | Callable[[Situation], tuple[str, ...]] = ()
    caution: Told = ""
    place: BenchPlace = "section"
    shows: tuple[str, ...] = ()
    points: BenchPoint = ""
    entry: StepEntry = ""
    hand: str = ""
    minutes: int = 3
    figure: Callable[[Situation], tuple[str, str] | None] = lambda _: None
    curing: Curing | None = None
    proof: str = ""
    tells: tuple[str, ...] = ()

    def stands(self, situation: Situation) -> bool:
        """Whether this watch needs it."""
        return situation.has(*self.parts) and self.applies(situation)
