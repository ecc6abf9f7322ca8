"""Where each size of a made part comes from: the watch's own parts and the clearances of the house rules.

One row a field. Nothing is asked that the fit does not ask: what a row aims at are the limits by which the part
is judged afterwards.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

HUNDREDTHS, HALF_STEP = 2, 0.005
"""Sizes are proposed to so many decimals: finer nobody makes them."""
SPARE = 0.10
"""What is kept beyond a limit that is open on the other side, mm."""


@dataclass(frozen=True, slots=True)
class SizeProposal:
    """A size proposed for a field, mm, degrees, or a word, with where it comes from.

    `is_known` is False where a neighbour it rests on is not known, so that a usual size stands in for it.
    """

    path: str
    value: float | str | int
    because: str
    is_known: bool = True

    def is_so(self, build: Build) -> bool:
        """Whether the sheet says so already, to the hundredth that is proposed."""
        known = build.dimensions.get(self.path)
        if known is None:
            return bool(build.at(self.path) == self.value)
        return abs(known.value - float(self.value)) < HALF_STEP

    def entry(self, build: Build) -> Json:
        """The value as a build sheet carries it."""
        quantity = build.anatomy.entry_at(self.path)[-1]
        if isinstance(quantity, Quantity):
            return dimension_as_json(Dimension.of(float(self.value), None, Source.PLANNED, quantity.unit))
        return self.value


class Neighbours(Plausible):
    """The watch's own parts, usual sizes where they are not known, and the house rules."""

    def middle(self, check: str) -> float:
        """What a check's limits want: their middle, or a little beyond the only one; in its own unit, mm or °."""
        limits = self.rules.limits(check, self.rules.model.check(check).limits)
        if limits.low is not None and limits.high is not None:
            return (limits.low + limits.high) / 2
        return (limits.low or 0.0) + SPARE if limits.high is None else limits.high - SPARE

    def mm(self, path: str) -> str:
        """The dimension as words carry it."""
        return figure(float(nominal(self[path])), 2, "mm")


@dataclass(frozen=True, slots=True)
class SizeRow:
    """One row: what is proposed for `path`, from which neighbours, and in which words.

    `{path}` below a list is one thing's; `needs` are the dimensions it rests on.
    """

    path: str
    value: Callable[[Neighbours], float | str | int]
    because: str
    needs: tuple[str, ...] = ()


def proposal_of(row: SizeRow, build: Build, rules: Rules) -> SizeProposal:
    """The row worked out for a watch."""
    p = Neighbours(build, rules)
    value = row.value(p)
    missing = [path for path in row.needs if path not in build.dimensions]
    labels = "; ".join(build.anatomy.label_of(path) for path in missing)
    because = f"a usual size: {labels} not known" if missing else row.because
    told = value if isinstance(value, str | int) else round(float(nominal(value)), HUNDREDTHS)
    return SizeProposal(row.path, told, because, not missing)


def proposals(rows: tuple[SizeRow, ...], build: Build, rules: Rules) -> Iterator[SizeProposal]:
    """Every row worked out for a watch, in mm and degrees."""
    return (proposal_of(row, build, rules) for row in rows)
