"""Blanks, samples and attempts: how many were bought, came out good, were spoilt and why; what to order next.

Of the next order it is asked that it brings the good ones that are wanted with a chance of four in five.
Before anything was tried every share of good ones is held as likely as any other (a uniform prior), so the
number of good ones among n is beta-binomial (Bernardo and Smith, Bayesian Theory, section 3.2).
"""

from collections import Counter
from dataclasses import dataclass
from math import exp, lgamma
from typing import Literal

BatchWhat = Literal["bought", "cut", "good", "spoilt"]
SURE = 0.8
MOST_ORDERED = 500


@dataclass(frozen=True, slots=True)
class BatchStep:
    """What happened to so many of a batch; `stage` is the step of the work at which they were spoilt."""

    what: BatchWhat
    count: int
    stage: str = ""
    why: str = ""
    at: str = ""
    id: int = 0


@dataclass(frozen=True, slots=True)
class Batch:
    """A batch with its steps, the oldest first; `wanted` good ones are needed in all."""

    id: int
    name: str
    wanted: int
    steps: tuple[BatchStep, ...]
    at: str = ""

    def count(self, what: BatchWhat) -> int:
        """How many were bought, cut, came out good, or were spoilt."""
        return sum(step.count for step in self.steps if step.what == what)

    @property
    def begun(self) -> int:
        """How many were taken up: those that were cut, or what came of more than were noted as cut."""
        return max(self.count("cut"), self.count("good") + self.count("spoilt"))

    @property
    def in_work(self) -> int:
        """How many were taken up and are neither good nor spoilt yet."""
        return self.begun - self.count("good") - self.count("spoilt")

    @property
    def left(self) -> int:
        """How many are left over untouched; never less than none, whatever was noted."""
        return max(self.count("bought") - self.begun, 0)

    @property
    def lessons(self) -> tuple[tuple[str, int], ...]:
        """Why they were spoilt, at which step, and how many, the costliest first."""
        told: Counter[str] = Counter()
        for step in self.steps:
            if step.what == "spoilt":
                told[": ".join(filter(None, (step.stage, step.why))) or "no reason told"] += step.count
        return tuple(told.most_common())

    @property
    def next_order(self) -> int:
        """How many to order beside those left, so that what is wanted comes with four chances in five."""
        lacking = self.wanted - self.count("good")
        if lacking <= 0:
            return 0
        for tried in range(lacking, MOST_ORDERED):
            if chance_of(lacking, tried, self.count("good"), self.count("spoilt")) >= SURE:
                return max(tried - self.left - self.in_work, 0)
        return MOST_ORDERED


def chance_of(wanted: int, tried: int, good: int, spoilt: int) -> float:
    """The chance that of `tried` more at least `wanted` come out good, after so many good and spoilt ones."""
    return sum(_beta_binomial(k, tried, good + 1, spoilt + 1) for k in range(wanted, tried + 1))


def _beta_binomial(k: int, n: int, a: int, b: int) -> float:
    choose = lgamma(n + 1) - lgamma(k + 1) - lgamma(n - k + 1)
    return exp(choose + _log_beta(k + a, n - k + b) - _log_beta(a, b))


def _log_beta(a: float, b: float) -> float:
    return lgamma(a) + lgamma(b) - lgamma(a + b)


TrialKind = Literal["paint", "coat", "print", "lume"]
TRIAL_KINDS: tuple[TrialKind, ...] = ("paint", "coat", "print", "lume")


@dataclass(frozen=True, slots=True)
class FinishTrial:
    """A trial of a finish: on which blank, in how many layers, what it did, and whether it was chosen."""

    id: int
    kind: TrialKind
    what: str
    layers: int
    blank: str
    did: str
    is_chosen: bool
    version: int
    at: str
