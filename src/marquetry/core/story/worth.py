"""What a seller's figure is worth: how far it was off where it was measured later, and what to expect next.

Deviations (measured less listed, mm or degrees) of one supplier and one kind of dimension are taken as normal
with unknown mean and spread. Before any was seen, they are held for what a listed figure usually is; the
pairs of all suppliers move that, and what comes of it is the prior for each supplier, as if `PRIOR_PAIRS`
more had been seen. So a supplier with few pairs is told nearly as all are, one with many by its own.

Conjugate normal and scaled inverse chi-square: Gelman and others, Bayesian Data Analysis, 3rd edition,
section 3.3, equations 3.6 to 3.9; the next deviation follows Student's t. The spread of measuring is left in
it: a tolerance for the next figure has to cover it too.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import fmean, stdev

from marquetry.core.fit.sellers import WORTH_LABELS, WorthKind
from marquetry.core.story.student import t_95
from marquetry.core.values.dimension import (
    RECTANGULAR_DIVISOR,
    USUAL_TOLERANCE,
    Dimension,
    Source,
    Unit,
)
from marquetry.core.values.limits import SLACK

PRIOR_PAIRS = 4.0
"""So many pairs the belief from before counts for; 4 gives a spread a standard error of about a third."""
STEP = 0.01
"""A proposed tolerance is rounded up to this, mm or degrees: never better than was found."""


@dataclass(frozen=True, slots=True)
class ListedPair:
    """A listed figure and what was measured of it later; `supplier` is empty where nobody noted one."""

    supplier: str
    kind: WorthKind
    unit: Unit
    listed: Dimension
    measured: Dimension
    name: str = ""
    path: str = ""
    part_id: int = 0

    @property
    def deviation(self) -> float:
        """Measured less listed, in the dimension's own unit: positive where the part is larger."""
        return self.measured.value - self.listed.value

    @property
    def is_outside(self) -> bool:
        """Whether it lay outside the tolerance that was claimed or taken for granted."""
        return abs(self.deviation) > self.listed.tol + SLACK


@dataclass(frozen=True, slots=True)
class DeviationBelief:
    """What is held of deviations: mean and spread in mm or degrees, each with the pairs it counts for."""

    mean: float
    spread: float
    mean_pairs: float = PRIOR_PAIRS
    spread_pairs: float = PRIOR_PAIRS

    def after(self, deviations: Sequence[float]) -> "DeviationBelief":
        """The belief once these were seen, mm or degrees."""
        n = len(deviations)
        if n == 0:
            return self
        seen = fmean(deviations)
        weight = self.mean_pairs + n
        mean = (self.mean_pairs * self.mean + n * seen) / weight
        squares = self.spread_pairs * self.spread**2 + sum((d - seen) ** 2 for d in deviations)
        squares += self.mean_pairs * n / weight * (seen - self.mean) ** 2
        freedom = self.spread_pairs + n
        return DeviationBelief(mean, math.sqrt(squares / freedom), weight, freedom)

    def as_prior(self) -> "DeviationBelief":
        """The same, held no more firmly than so few pairs would make it."""
        return DeviationBelief(self.mean, self.spread)

    @property
    def mean_doubt(self) -> float:
        """Half width of the interval that holds the mean with 95 %, mm or degrees."""
        return t_95(self.spread_pairs) * self.spread / math.sqrt(self.mean_pairs)

    @property
    def reach(self) -> float:
        """The next deviation lies within ± this with at least 95 %, mm or degrees: bias and spread."""
        next_one = self.spread * math.sqrt(1.0 + 1.0 / self.mean_pairs)
        return abs(self.mean) + t_95(self.spread_pairs) * next_one


def unseen(unit: Unit) -> DeviationBelief:
    """What is held before any pair was seen: no bias, and the spread of a usual listed tolerance."""
    return DeviationBelief(0.0, USUAL_TOLERANCE[unit][Source.LISTED] / RECTANGULAR_DIVISOR)


@dataclass(frozen=True, slots=True)
class FigureWorth:
    """What figures of one kind from one supplier are worth; lengths in mm, angles in degrees.

    `plain_bias` and `plain_spread` are those of its own pairs alone, None with too few; `belief` is what is
    to be expected, drawn towards `others`, what holds for all suppliers.
    """

    supplier: str
    kind: WorthKind
    unit: Unit
    pairs: tuple[ListedPair, ...]
    belief: DeviationBelief
    others: DeviationBelief

    @property
    def count(self) -> int:
        """How many pairs of its own there are."""
        return len(self.pairs)

    @property
    def outside(self) -> int:
        """How many of them lay outside what was claimed."""
        return sum(pair.is_outside for pair in self.pairs)

    @property
    def plain_bias(self) -> float | None:
        """Mean of its own deviations, mm or degrees; None without any."""
        return fmean(pair.deviation for pair in self.pairs) if self.pairs else None

    @property
    def plain_spread(self) -> float | None:
        """Standard deviation of its own deviations, mm or degrees; None with fewer than two."""
        return stdev(pair.deviation for pair in self.pairs) if self.count > 1 else None

    @property
    def leaning(self) -> float:
        """How much of what is told comes from all suppliers, 0 to 1, a plain ratio."""
        return PRIOR_PAIRS / (PRIOR_PAIRS + self.count)

    @property
    def tolerance(self) -> float:
        """The tolerance that the next listed figure deserves, mm or degrees, rounded up."""
        return math.ceil(self.belief.reach / STEP - SLACK) * STEP


def worth_of(pairs: Iterable[ListedPair]) -> list[FigureWorth]:
    """What figures are worth, by kind of dimension and supplier; the most pairs of a kind first."""
    by_kind: dict[tuple[WorthKind, Unit], list[ListedPair]] = {}
    for pair in pairs:
        by_kind.setdefault((pair.kind, pair.unit), []).append(pair)
    found: list[FigureWorth] = []
    for (kind, unit), every in by_kind.items():
        others = unseen(unit).after([pair.deviation for pair in every])
        by_supplier: dict[str, list[ListedPair]] = {}
        for pair in every:
            by_supplier.setdefault(pair.supplier, []).append(pair)
        for supplier, own in by_supplier.items():
            belief = others.as_prior().after([pair.deviation for pair in own])
            found.append(FigureWorth(supplier, kind, unit, tuple(own), belief, others))
    order = list(WORTH_LABELS)
    return sorted(found, key=lambda one: (order.index(one.kind), -one.count, one.supplier))
