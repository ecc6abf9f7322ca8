"""Blanks, samples and attempts of one kind: numbered pieces, each with its stages, counted and never typed.

Of the next order it is asked that it brings the good ones that are wanted with a chance of four in five.
Before anything was tried every share of good ones is held as likely as any other (a uniform prior), so the
number of good ones among n is beta-binomial (Bernardo and Smith, Bayesian Theory, section 3.2).
"""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, lgamma
from typing import Literal

from marquetry.core.values.money import Money

BlankState = Literal["work", "good", "test", "spoilt"]
BLANK_STATES: tuple[BlankState, ...] = ("work", "good", "test", "spoilt")
STATE_WORDS = {"work": "in work", "good": "good", "test": "test", "spoilt": "spoilt"}
STAGES = ("cut", "base coat", "print", "lume", "clear coat")
"""The usual stages of a dial's blank; any other may be named."""
SURE, ROUNDING = 0.8, 1e-9
"""Four in five: with four blanks and nothing known it is just that, and gamma functions are not so exact."""
MOST_ORDERED = 500
MOST_BLANKS = 1000


@dataclass(frozen=True, slots=True)
class BlankStage:
    """A stage that a blank has gone through, and what that cost for this one piece."""

    id: int
    stage: str
    cost: Money | None = None
    at: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Blank:
    """One piece of a batch: its number, what was done to it, and what became of it.

    `spoilt_at` is the stage at which it was spoilt, `why` in words; `piece_id` its piece of the shelf.
    """

    id: int
    number: int
    stages: tuple[BlankStage, ...] = ()
    state: BlankState = "work"
    spoilt_at: str = ""
    why: str = ""
    piece_id: int | None = None
    version: int = 1

    @property
    def costs(self) -> tuple[Money, ...]:
        """What its stages cost, by currency."""
        return sums_of(stage.cost for stage in self.stages)

    @property
    def told(self) -> str:
        """What became of it, in words."""
        at = f" at {self.spoilt_at}" if self.spoilt_at else ""
        return f"{STATE_WORDS[self.state]}{at}{f': {self.why}' if self.why else ''}"


@dataclass(frozen=True, slots=True)
class Batch:
    """A batch with its blanks by number; `wanted` good ones are needed in all."""

    id: int
    name: str
    wanted: int
    blanks: tuple[Blank, ...]
    at: str = ""

    def count(self, state: BlankState) -> int:
        """How many blanks are in that state."""
        return sum(blank.state == state for blank in self.blanks)

    @property
    def bought(self) -> int:
        """How many there are or were, whatever became of them."""
        return len(self.blanks)

    @property
    def costs(self) -> tuple[Money, ...]:
        """What all stages of all blanks cost, by currency."""
        return sums_of(stage.cost for blank in self.blanks for stage in blank.stages)

    @property
    def lessons(self) -> tuple[tuple[str, int], ...]:
        """Why they were spoilt, at which stage, and how many, the costliest first."""
        told: Counter[str] = Counter()
        for blank in self.blanks:
            if blank.state == "spoilt":
                told[": ".join(filter(None, (blank.spoilt_at, blank.why))) or "no reason told"] += 1
        return tuple(told.most_common())

    @property
    def next_order(self) -> int:
        """The least number to order so that what is wanted comes with four chances in five.

        Those in work are tries as those to be ordered are; a test piece is neither good nor a try.
        """
        lacking = self.wanted - self.count("good")
        if lacking <= 0:
            return 0
        in_work, told = self.count("work"), (self.count("good"), self.count("spoilt"))
        enough = (n for n in range(MOST_ORDERED) if chance_of(lacking, in_work + n, *told) > SURE - ROUNDING)
        return next(enough, MOST_ORDERED)


def sums_of(costs: Iterable[Money | None]) -> tuple[Money, ...]:
    """The sums of some costs, one a currency, in minor units; what nobody noted counts nothing."""
    sums: dict[str, int] = {}
    for cost in costs:
        if cost is not None:
            sums[cost.currency] = sums.get(cost.currency, 0) + cost.minor
    return tuple(Money(minor, currency) for currency, minor in sorted(sums.items()))


def chance_of(wanted: int, tried: int, good: int, spoilt: int) -> float:
    """The chance that of `tried` more at least `wanted` come out good, after so many good and spoilt ones."""
    return sum(_beta_binomial(k, tried, good + 1, spoilt + 1) for k in range(wanted, tried + 1))


def _beta_binomial(k: int, n: int, a: int, b: int) -> float:
    choose = lgamma(n + 1) - lgamma(k + 1) - lgamma(n - k + 1)
    return exp(choose + _log_beta(k + a, n - k + b) - _log_beta(a, b))


def _log_beta(a: float, b: float) -> float:
    return lgamma(a) + lgamma(b) - lgamma(a + b)


TrialKind = Literal["paint", "coat", "print", "lume", "gasket"]
TRIAL_KINDS: tuple[TrialKind, ...] = ("paint", "coat", "print", "lume", "gasket")


@dataclass(frozen=True, slots=True, kw_only=True)
class FinishTrial:
    """A trial of a finish or of a gasket: in how many layers, what it did, and whether it was chosen.

    `blank_id` is the blank it was done on, where that is one of the watch's; else `blank` says it in words.
    """

    id: int = 0
    kind: TrialKind
    what: str
    layers: int = 1
    blank: str = ""
    did: str = ""
    is_chosen: bool = False
    version: int = 1
    at: str = ""
    blank_id: int | None = None
