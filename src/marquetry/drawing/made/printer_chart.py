"""A printer's error as a picture: how far each size came out off what was asked, with the fit."""

from collections.abc import Iterator

from marquetry.core.making.printer import PrinterFit
from marquetry.core.values.figures import figure
from marquetry.drawing.scene import Dot, Label, Line, Mark, Scene

WIDTH, HEIGHT = 96.0, 50.0
WORDS = 4.6
"""Height of the figures, mm: twelve pixels where the chart is 260 wide."""
WORDS_APART = 22.0
"""Two figures nearer than this, mm, would lie over each other."""
LEFT, RIGHT, LOW, HIGH = 20.0, 93.0, 15.0, 46.0


def printer_chart(fit: PrinterFit, words: str) -> Scene:
    """Deviation over what was asked for, mm; the band is a print's standard uncertainty either way."""
    asked = [pair.nominal for pair in fit.pairs]
    off = [pair.measured - pair.nominal for pair in fit.pairs]
    margin = max((max(asked) - min(asked)) * 0.08, 0.5)
    left, right = min(asked) - margin, max(asked) + margin
    reach = max(0.05, *(abs(value) for value in off)) * 1.3

    def at(nominal: float, deviation: float) -> tuple[float, float]:
        x = LEFT + (nominal - left) / (right - left) * (RIGHT - LEFT)
        y = (LOW + HIGH) / 2 + deviation / reach * (HIGH - LOW) / 2
        return x, min(max(y, LOW), HIGH)

    marks: list[Mark] = [*_band(fit, left, right, at), Line((at(left, 0.0), at(right, 0.0)), "plan-line")]
    marks.append(Line(tuple(at(x, fit.a + (fit.b - 1) * x) for x in (left, right)), "turn-line"))
    marks += [Dot(at(n, d), 0.9, "turn-end") for n, d in zip(asked, off, strict=True)]
    for value in (reach / 1.3, 0.0, -reach / 1.3):
        told = figure(value, 2, signed=True)
        marks.append(Label((LEFT - 1.5, at(left, value)[1] - 1.6), told, "figure", WORDS, "end"))
    ends = dict.fromkeys((min(asked), max(asked)))
    near = at(max(asked), 0.0)[0] - at(min(asked), 0.0)[0] < WORDS_APART
    for nominal in list(ends)[:1] if near else ends:
        marks.append(Label((at(nominal, 0.0)[0], 7.6), figure(nominal), "figure", WORDS, "middle"))
    marks.append(Label((RIGHT, 1.4), "asked for, mm", "quiet", WORDS, "end"))
    return Scene(
        WIDTH, HEIGHT, f"Deviation of {words}", "Measured less asked for, mm, with the fit.", tuple(marks)
    )


def _band(fit: PrinterFit, left: float, right: float, at: "object") -> Iterator[Mark]:
    steps = [left + (right - left) * k / 16 for k in range(17)]
    doubts = [fit.doubt_at(x) for x in steps]
    if not callable(at) or any(doubt is None for doubt in doubts):
        return
    middle = [fit.a + (fit.b - 1) * x for x in steps]
    upper = [at(x, m + (d or 0.0)) for x, m, d in zip(steps, middle, doubts, strict=True)]
    lower = [at(x, m - (d or 0.0)) for x, m, d in zip(steps, middle, doubts, strict=True)]
    yield Line((*upper, *reversed(lower)), "ruler-band", closed=True)
