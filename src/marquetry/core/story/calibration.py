"""How good the report was: whether chances come true, which checks were too hopeful, how far gaps were off.

Chances are laid into bands; of each band the mean chance is set against the share that held, with Wilson's
interval for a share of few (E. B. Wilson, J. Am. Stat. Assoc. 22, 1927). One figure for all is Brier's score:
the mean square of chance less outcome, 0 for a prophet, 0.25 for a coin (G. W. Brier, Mon. Weather Rev. 78,
1950). Of gaps: mean and spread of found less foretold, the mean with its 95 % after the GUM (JCGM 100:2008).
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import fmean, stdev

from marquetry.core.story.foretold import Foretold
from marquetry.core.story.student import t_95

BANDS = (0.0, 0.5, 0.8, 0.95, 0.995, 1.0)
"""Edges of the bands: most chances lie near one, where a tenth decides."""
Z_95 = 1.959964
FEW = 5
"""Below so many, a figure is told as one that says little."""


@dataclass(frozen=True, slots=True)
class ChanceBand:
    """What was foretold with a chance from `low` to `high`: how many, their mean chance, how many held.

    `least` and `most` bound the true share with 95 %; all are plain ratios from 0 to 1.
    """

    low: float
    high: float
    count: int
    mean: float
    held: int
    least: float
    most: float

    @property
    def share(self) -> float:
        """The share that held, 0 to 1."""
        return self.held / self.count

    @property
    def is_true(self) -> bool:
        """Whether the mean chance lies where the true share may lie."""
        return self.least <= self.mean <= self.most


def wilson(held: int, count: int) -> tuple[float, float]:
    """Where the true share may lie with 95 %, 0 to 1, once so many of so many held."""
    share, square = held / count, Z_95**2
    middle = (share + square / (2 * count)) / (1 + square / count)
    half = Z_95 * math.sqrt(share * (1 - share) / count + square / (4 * count**2)) / (1 + square / count)
    return max(middle - half, 0.0), min(middle + half, 1.0)


def chance_bands(foretold: Iterable[Foretold]) -> list[ChanceBand]:
    """The bands that anything was foretold in, the least chance first."""
    told = [(one.chance, one.held) for one in foretold if one.chance is not None and one.held is not None]
    found = []
    for low, high in pairwise(BANDS):
        within = [(c, h) for c, h in told if low <= c < high or (high == BANDS[-1] and c >= high)]
        if within:
            held = sum(h for _, h in within)
            least, most = wilson(held, len(within))
            found.append(ChanceBand(low, high, len(within), fmean(c for c, _ in within), held, least, most))
    return found


def brier(foretold: Iterable[Foretold]) -> float | None:
    """Brier's score of everything that was foretold with a chance, 0 to 1; None without anything."""
    told = [(one.chance, one.held) for one in foretold if one.chance is not None and one.held is not None]
    return fmean((chance - held) ** 2 for chance, held in told) if told else None


@dataclass(frozen=True, slots=True)
class CheckRecord:
    """How one check did: how many were foretold, how many were to be expected to hold, how many did."""

    check: str
    count: int
    expected: float
    held: int

    @property
    def hope(self) -> float:
        """How many fewer held than were to be expected, in counts; below nought where more did."""
        return self.expected - self.held

    @property
    def is_too_hopeful(self) -> bool:
        """Whether so few would hold less than once in forty, were the chances right (Poisson's bound).

        The number that fail is taken as Poisson's with the failures foretold: exact enough where each fails
        rarely, and on the careful side where it does not.
        """
        failed, mean = self.count - self.held, self.count - self.expected
        below = sum(math.exp(-mean) * mean**k / math.factorial(k) for k in range(failed))
        return failed > 0 and 1.0 - below < 1.0 / 40.0


def check_records(foretold: Iterable[Foretold]) -> list[CheckRecord]:
    """By check, the most hopeful first."""
    found: dict[str, list[tuple[float, bool]]] = {}
    for one in foretold:
        if one.chance is not None and one.held is not None:
            found.setdefault(one.check, []).append((one.chance, one.held))
    records = [
        CheckRecord(check, len(told), sum(c for c, _ in told), sum(h for _, h in told))
        for check, told in found.items()
    ]
    return sorted(records, key=lambda record: -record.hope)


@dataclass(frozen=True, slots=True)
class GapRecord:
    """How far gaps of one check were off, mm: each one, and their mean with its 95 %, None with too few."""

    check: str
    gaps: tuple[Foretold, ...]

    @property
    def offs(self) -> Sequence[float]:
        """Found less foretold, mm."""
        return [one.off for one in self.gaps if one.off is not None]

    @property
    def mean(self) -> float:
        """Their mean, mm."""
        return fmean(self.offs)

    @property
    def spread(self) -> float | None:
        """Their standard deviation, mm; None for one alone."""
        return stdev(self.offs) if len(self.offs) > 1 else None

    @property
    def doubt(self) -> float | None:
        """Half width of the interval that holds the true mean with 95 %, mm; None for one alone."""
        spread, n = self.spread, len(self.offs)
        return None if spread is None else t_95(n - 1) * spread / math.sqrt(n)

    @property
    def outside(self) -> int:
        """How many lay outside the worst case."""
        return sum(one.is_within is False for one in self.gaps)


def gap_records(foretold: Iterable[Foretold]) -> list[GapRecord]:
    """By check, those with most first."""
    found: dict[str, list[Foretold]] = {}
    for one in foretold:
        if one.off is not None:
            found.setdefault(one.check, []).append(one)
    return sorted(
        (GapRecord(check, tuple(gaps)) for check, gaps in found.items()), key=lambda r: -len(r.gaps)
    )
