"""A finding on a ruler: the band it should lie in, its worst case, and its nominal value."""

from collections.abc import Iterator

from marquetry.core.fit.finding import Finding
from marquetry.core.values.figures import figure
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

WIDTH, HEIGHT, EDGE = 96.0, 17.0, 9.0
LINE, BAND = 8.0, 2.6


def limit_ruler(finding: Finding, decimals: int) -> Scene | None:
    """The ruler, or None where the finding has no figure."""
    if finding.value is None or finding.low is None or finding.high is None:
        return None
    words = f"Value {figure(finding.value, decimals)} between its worst cases, against its limits"
    marks = (Cluster(tuple(_marks(finding, decimals)), f"ruler verdict-{finding.verdict.value}"),)
    return Scene(WIDTH, HEIGHT, "Limits and worst case", words, marks)


def _marks(finding: Finding, decimals: int) -> Iterator[Mark]:
    value, low, high = finding.value or 0.0, finding.low or 0.0, finding.high or 0.0
    ends = [end for end in (finding.limits.low, finding.limits.high) if end is not None]
    least, most = min([low, *ends]), max([high, *ends])
    room = (most - least) or 1.0

    def x(at: float) -> float:
        return EDGE + (at - least) / room * (WIDTH - 2 * EDGE)

    left = 0.0 if finding.limits.low is None else x(finding.limits.low)
    right = WIDTH if finding.limits.high is None else x(finding.limits.high)
    yield Box((left, LINE - BAND), right - left, 2 * BAND, "ruler-band")
    yield Line(((0.0, LINE), (WIDTH, LINE)), "frame")
    for end in ends:
        yield Line(((x(end), LINE - BAND - 1.2), (x(end), LINE + BAND + 1.2)), "ruler-limit")
        yield Label((x(end), 0.8), figure(end, decimals), "figure quiet", 3.2, "middle")
    yield Box((x(low), LINE - 1.0), max(x(high) - x(low), 0.4), 2.0, "ruler-worst")
    yield Line(((x(value), LINE - BAND), (x(value), LINE + BAND)), "ruler-value")
    yield Label(
        (min(max(x(value), 7.0), WIDTH - 7.0), LINE + BAND + 1.6),
        figure(value, decimals),
        "figure word",
        3.4,
        "middle",
    )
