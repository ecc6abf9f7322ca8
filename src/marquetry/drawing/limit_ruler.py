"""A finding on a ruler: the band it should lie in, its worst case, and its nominal value."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from marquetry.core.fit.finding import Finding
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.drawing.scene import Box, Cluster, Label, LabelEnd, Line, Mark, Scene

WIDTH, HEIGHT, EDGE = 96.0, 17.0, 9.0
LINE, BAND = 8.0, 2.6
TOLD_WIDE = 12.0
"""A limit's figure in mm on the paper, with some air."""


def limit_ruler(finding: Finding, decimals: int) -> Scene | None:
    """The ruler, or None where the finding has no figure."""
    if finding.value is None or finding.low is None or finding.high is None:
        return None
    words = f"Value {figure(finding.value, decimals)} between its worst cases, against its limits"
    marks = (Cluster(tuple(_marks(finding, decimals)), f"ruler verdict-{finding.verdict.value}"),)
    return Scene(WIDTH, HEIGHT, "Limits and worst case", words, marks)


@dataclass(frozen=True, slots=True)
class RulerLine:
    """Where a ruler lies on its paper: its line from `left` to `right` at `level`, half a `band` high, mm.

    What is told lies `inset` from its ends; an open end is shown by `air`, a share of what lies between.
    """

    left: float
    right: float
    level: float
    band: float
    inset: float
    air: float = 0.0

    def scale(self, limits: Limits, low: float, high: float) -> Callable[[float], float]:
        """From a figure to its place on the line: both limits and all between low and high find room."""
        ends = [end for end in (limits.low, limits.high) if end is not None]
        least, most = min([low, *ends]), max([high, *ends])
        room = (most - least) * self.air or (1.0 if self.air else 0.0)
        least -= room if limits.low is None else room / 6
        most += room if limits.high is None else room / 6
        left, wide = self.left + self.inset, self.right - self.left - 2 * self.inset
        return lambda at: left + (at - least) / ((most - least) or 1.0) * wide

    def marks(self, limits: Limits, low: float, value: float, high: float) -> Iterator[Mark]:
        """The band of the limits, the line, the limits, the worst case where there is one, the value."""
        x = self.scale(limits, low, high)
        left = self.left if limits.low is None else x(limits.low)
        right = self.right if limits.high is None else x(limits.high)
        yield Box((left, self.level - self.band), right - left, 2 * self.band, "ruler-band")
        yield Line(((self.left, self.level), (self.right, self.level)), "frame")
        beyond = self.band + 1.2
        for end in (limits.low, limits.high):
            if end is not None:
                yield Line(((x(end), self.level - beyond), (x(end), self.level + beyond)), "ruler-limit")
        if high > low:
            yield Box((x(low), self.level - 1.0), max(x(high) - x(low), 0.4), 2.0, "ruler-worst")
        yield Line(((x(value), self.level - self.band), (x(value), self.level + self.band)), "ruler-value")


OWN_LINE = RulerLine(0.0, WIDTH, LINE, BAND, EDGE)


def _marks(finding: Finding, decimals: int) -> Iterator[Mark]:
    value, low, high = finding.value or 0.0, finding.low or 0.0, finding.high or 0.0
    yield from OWN_LINE.marks(finding.limits, low, value, high)
    x = OWN_LINE.scale(finding.limits, low, high)
    ends = [end for end in (finding.limits.low, finding.limits.high) if end is not None]
    # Beside a spread as wide as all parts on sale the limits lie close: their figures go to either side.
    close = len(ends) > 1 and x(ends[1]) - x(ends[0]) < TOLD_WIDE
    sides: tuple[LabelEnd, ...] = ("end", "start") if close else ("middle", "middle")
    for end, side in zip(ends, sides, strict=False):
        yield Label((x(end), 0.8), figure(end, decimals), "figure quiet", 3.2, side)
    middle = min(max(x(value), 7.0), WIDTH - 7.0)
    yield Label((middle, LINE + BAND + 1.6), figure(value, decimals), "figure word", 3.4, "middle")
