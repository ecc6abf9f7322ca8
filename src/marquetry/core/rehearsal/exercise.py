"""What an exercise is: what it says of itself, the moves it offers, what they do, and how it went.

Every exercise is played on a twin. A move's chances are drawn from the seed and the move's place alone, so a
play is replayed from its record: exercise, sheet, seed, moves.
"""

import random
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, ClassVar, Generic, Literal, TypeVar

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.twin import Twin
from marquetry.core.values.limits import Limits

OfferKind = Literal["tap", "hold", "pick", "amount"]
"""How a move is made: at once, by holding and letting go, one of several, or with a figure."""
TICK_MS, LONGEST_HOLD_MS = 40, 8_000
"""While a key is held its movement is told every so many milliseconds, and no hold is longer."""


@dataclass(frozen=True, slots=True)
class PlayMove:
    """One thing done. `value` is an amount in its offer's unit, or how long it was held, in ms."""

    what: str
    value: float = 0.0
    word: str = ""


@dataclass(frozen=True, slots=True)
class Option:
    """One of several that may be picked; `is_on` where it is picked already."""

    word: str
    label: str
    is_on: bool = False


@dataclass(frozen=True, slots=True)
class MoveOffer:
    """A move that may be made now. `key` presses it; amounts lie within `low` and `high`, in `unit`.

    `ends`: the play is over with it, and judged.
    """

    what: str
    label: str
    key: str
    kind: OfferKind = "tap"
    options: tuple[Option, ...] = ()
    usual: float = 0.0
    low: float = 0.0
    high: float = 0.0
    step: float = 0.05
    unit: str = "mm"
    ends: bool = False


@dataclass(frozen=True, slots=True)
class Aimed:
    """One figure of the result beside what it was to be."""

    label: str
    value: float
    band: Limits
    unit: str = "mm"
    decimals: int = 2

    @property
    def is_reached(self) -> bool:
        """Whether it lies where it was to lie."""
        return self.band.admit(self.value)


@dataclass(frozen=True, slots=True)
class PlayOutcome:
    """How a play went: every figure against its aim, and what a teacher says to it.

    `moment` is the number of the move, from 1, at which it went wrong; 0 where it did not.
    """

    reached: bool
    figures: tuple[Aimed, ...]
    words: str
    moment: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class At:
    """Where a play stands. `notes` is what the player was told, `spoilt` why the aim is out of reach."""

    twin: Twin = field(repr=False)
    notes: tuple[str, ...] = ()
    spoilt: str = ""
    done: bool = False


S = TypeVar("S", bound=At)


@dataclass(frozen=True, slots=True)
class Mistake(Generic[S]):
    """A way to go wrong that everybody knows: how it is played, and in what share of plays it fails.

    `fails` is the share of plays that miss the aim, from lowest to highest; a test plays a thousand seeds.
    """

    key: str
    words: str
    fails: tuple[float, float]
    move: Callable[[S], PlayMove]

    @property
    def of_a_hundred(self) -> tuple[int, int]:
        """How many of a hundred plays miss the aim, at least and at most."""
        low, high = self.fails
        return round(100 * low), round(100 * high)


class Exercise(ABC, Generic[S]):
    """One exercise. `steps` are the bench's steps it is for, `counts` what counts with the reason of each.

    `piece` names the watch of the set it is played on where none of one's own is chosen; `checks` are the
    findings it hangs on: what they lack is assumed.
    """

    key: ClassVar[str]
    title: ClassVar[str]
    task: ClassVar[str]
    aim: ClassVar[str]
    steps: ClassVar[tuple[str, ...]]
    counts: ClassVar[tuple[tuple[str, str], ...]]
    caution: ClassVar[str] = ""
    piece: ClassVar[str] = "three-hands"
    checks: ClassVar[tuple[str, ...]] = ()

    @property
    @abstractmethod
    def mistakes(self) -> tuple[Mistake[S], ...]:
        """The obvious ones."""

    @abstractmethod
    def lacking(self, situation: Situation) -> str:
        """Why this watch cannot be rehearsed on; empty where it can."""

    @abstractmethod
    def begin(self, twin: Twin) -> S:
        """Where a play begins."""

    @abstractmethod
    def offers(self, at: S) -> tuple[MoveOffer, ...]:
        """What may be done now."""

    @abstractmethod
    def after(self, at: S, move: PlayMove, draw: random.Random) -> S:
        """Where it stands after a move that was offered."""

    @abstractmethod
    def figures(self, at: S) -> tuple[Aimed, ...]:
        """The result in figures, each against its aim."""

    @abstractmethod
    def praise(self, at: S) -> str:
        """What a teacher says where the aim was reached."""

    @abstractmethod
    def sure(self, at: S) -> PlayMove:
        """What a sure hand does now, from what the player can know."""

    def blame(self, at: S) -> str:
        """What a teacher says where it was not."""
        return at.spoilt

    def moment(self, at: S) -> int:  # noqa: ARG002  # mostly it is where the aim got out of reach
        """Number of the move at which it went wrong, from 1, where the exercise tells; else 0."""
        return 0

    def prepared(self, twin: Twin, draw: random.Random) -> Twin:  # noqa: ARG002  # most leave it as it is
        """The twin as this exercise wants it: with a fault to be found, say."""
        return twin

    def track(self, at: S, what: str, draw: random.Random) -> tuple[float, ...]:  # noqa: ARG002  # most have none
        """How far a held move has gone after each tick, in the move's own unit; empty where none moves."""
        return ()


AnyExercise = Exercise[Any]
"""An exercise, whatever it keeps in mind."""


def ticks(path: Callable[[float], float]) -> tuple[float, ...]:
    """A path by milliseconds, told at every tick of the longest hold."""
    return tuple(round(path(ms), 4) for ms in range(0, LONGEST_HOLD_MS + 1, TICK_MS))


def held_until(path: Callable[[float], float], aim: float, least_ms: float = 0.0) -> float:
    """Thousandths of seconds until a rising path is at its aim; the longest hold where it never is."""
    low, high = least_ms, float(LONGEST_HOLD_MS)
    if path(high) < aim:
        return high
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if path(middle) < aim else (low, middle)
    return high


def times(count: int) -> str:
    """How often, in words: once, twice, 3 times."""
    return {0: "never", 1: "once", 2: "twice"}.get(count, f"{count} times")


def noted(at: S, words: str) -> S:
    """The same with a note more."""
    return replace(at, notes=(*at.notes, words))


def is_admitted(figures: Sequence[Aimed]) -> bool:
    """Whether every figure reached its aim."""
    return all(one.is_reached for one in figures)
