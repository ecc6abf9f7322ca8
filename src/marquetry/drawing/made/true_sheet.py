"""A made part on paper to true size: both sides, the cut, every size, a scale bar and a square of 10 mm."""

import textwrap
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.making.measures import Measure
from marquetry.core.making.views import MadeDrawing
from marquetry.core.values.figures import figure
from marquetry.drawing.made.cut_marks import CutPlace, cut_marks, extent
from marquetry.drawing.made.view_marks import ViewPlace, view_marks
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

MARGIN = 14.0
LINE = 5.0
SQUARE, BAR = 10.0, 100.0
MOST_LINES, MOST_LETTERS = 22, 96


@dataclass(frozen=True, slots=True)
class SheetSize:
    """Paper by its name, mm."""

    name: str
    width: float
    height: float


A4 = SheetSize("A4", 210.0, 297.0)
LETTER = SheetSize("Letter", 215.9, 279.4)
SIZES = (A4, LETTER)


def true_sheet(
    drawing: MadeDrawing,
    measures: tuple[Measure, ...],
    told: Sequence[str],
    heads: tuple[str, str],
    paper: SheetSize,
) -> Scene:
    """The part on one sheet; `heads` are its title and what it belongs to, `told` what else is said of it."""
    marks: list[Mark] = [
        Label((MARGIN, paper.height - MARGIN - 4.0), heads[0], "", 5.5),
        Label((MARGIN, paper.height - MARGIN - 10.0), heads[1], "quiet", 3.2),
    ]
    reach = drawing.reach + 5.0
    gap = min(2 * reach + 8.0, paper.width / 2)
    middle = paper.height - MARGIN - 18.0 - reach
    for number, view in enumerate(drawing.views):
        at = (paper.width / 2 + (number - 0.5) * gap, middle)
        marks += view_marks(view, ViewPlace(at))
        marks.append(Label((at[0], middle - reach - 3.0), view.title, "quiet", 3.0, "middle"))
    y = middle - reach - 12.0
    if drawing.cut is not None:
        low, high, _ = extent(drawing.cut)
        place = CutPlace((paper.width * 0.4, y - high), size=2.8)
        marks += cut_marks(drawing.cut, measures, place, "print")
        across = sum(measure.is_diameter for measure in measures)
        y -= (high - low) + 12.0 + across * 6.4
        marks.append(Label((paper.width / 2, y), drawing.cut.title, "quiet", 3.0, "middle"))
        y -= 8.0
    marks += _table(measures, [*drawing.told, *told], y)
    marks += _scale(paper)
    words = "Print at 100 %, not fitted to the page: the square measures 10 mm a side."
    return Scene(
        paper.width, paper.height, f"{heads[0]}, {paper.name}", words, (Cluster(tuple(marks), "made"),)
    )


def _table(measures: tuple[Measure, ...], told: Sequence[str], y: float) -> Iterator[Mark]:
    lines = [_row(measure) for measure in measures]
    wrapped = [piece for line in told for piece in textwrap.wrap(line, MOST_LETTERS)]
    for number, line in enumerate([*lines, *wrapped][:MOST_LINES]):
        yield Label((MARGIN, y - number * LINE), line, "figure" if number < len(lines) else "", 3.2)


def _row(measure: Measure) -> str:
    sign = "Ø " if measure.is_diameter else ""
    return f"{measure.label.removesuffix(' Ø')}: {sign}{figure(measure.value, 2, 'mm')}"


def _scale(paper: SheetSize) -> Iterator[Mark]:
    """The square whose side is measured before anything is cut, and a bar of 100 mm."""
    y = MARGIN
    yield Box((MARGIN, y), SQUARE, SQUARE, "made-square")
    yield Label((MARGIN + SQUARE + 3.0, y + 6.0), "This square is 10 mm a side: measure it first.", "", 3.2)
    yield Label((MARGIN + SQUARE + 3.0, y + 1.0), "Print at 100 %, never fitted to the page.", "quiet", 3.2)
    start = paper.width - MARGIN - BAR
    yield Line(((start, y), (start + BAR, y)), "made-edge")
    for step in range(11):
        x = start + step * BAR / 10
        yield Line(((x, y), (x, y + (3.0 if step % 5 == 0 else 1.6))), "made-edge")
    yield Label((start + BAR, y + 4.4), "100 mm", "quiet", 2.8, "end")
