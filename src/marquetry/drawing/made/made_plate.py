"""A made part beside its fields: from the crystal, from behind, and cut, as large as the page allows."""

from marquetry.core.making.measures import Measure
from marquetry.core.making.views import MadeDrawing
from marquetry.core.values.figures import figure
from marquetry.drawing.made.cut_marks import ASIDE, FIRST, LEVEL, CutPlace, cut_marks, extent
from marquetry.drawing.made.view_marks import ViewPlace, view_marks
from marquetry.drawing.scene import Cluster, Label, Mark, Scene

WIDTH, HEIGHT = 190.0, 126.0
VIEW_HIGH = 56.0
AXIS = 0.345
"""Where the cut's axis stands across the plate."""
WORDS = 4.0
"""Height of the words, mm: twelve pixels where the plate is 600 wide."""
STRETCHES = (1.0, 2.0, 3.0, 4.0, 6.0, 8.0)
WANTED_HIGH = 16.0
"""A cut lower than this on paper, mm, is stretched."""


def made_plate(drawing: MadeDrawing, measures: tuple[Measure, ...], material: str, title: str) -> Scene:
    """The part's views above, its cut with all sizes below."""
    if drawing.cut is None:
        return _sheet_plate(drawing, title)
    low, high, reach = extent(drawing.cut)
    across = sum(measure.is_diameter for measure in measures)
    scale = min((VIEW_HIGH - 8.0) / (2 * drawing.reach), 2.2)
    marks: list[Mark] = []
    for number, view in enumerate(drawing.views):
        at = (WIDTH * (0.27 + 0.46 * number), HEIGHT - VIEW_HIGH / 2 - 2.0)
        marks += view_marks(view, ViewPlace(at, scale), words=WORDS)
        foot = (at[0], HEIGHT - VIEW_HIGH - 2.4)
        marks.append(Label(foot, view.title, "quiet", WORDS, "middle"))
    room = HEIGHT - VIEW_HIGH - 16.0 - across * LEVEL - FIRST
    upright = len(measures) - across
    beside = WIDTH - WIDTH * AXIS - FIRST - ASIDE * upright
    wide = min(112.0 / (2 * reach), 3.8, beside / reach)
    tall = (high - low) * wide
    stretch = next((s for s in STRETCHES if tall * s >= WANTED_HIGH), STRETCHES[-1])
    while tall * stretch > room and stretch > 1.0:
        stretch = STRETCHES[STRETCHES.index(stretch) - 1]
    if tall * stretch > room:
        wide *= room / (tall * stretch)
    top = HEIGHT - VIEW_HIGH - 9.0
    place = CutPlace((WIDTH * AXIS, top - high * wide * stretch), wide, stretch, WORDS)
    marks += cut_marks(drawing.cut, measures, place, material)
    words = drawing.cut.title + ("" if stretch == 1.0 else f"; heights drawn {stretch:g} times")
    marks.append(Label((3.0, 2.0), words, "quiet", WORDS))
    marks.append(Label((WIDTH - 3.0, 2.0), f"{figure(scale, 1)} : 1 above", "quiet", WORDS, "end"))
    return Scene(
        WIDTH,
        HEIGHT,
        title,
        "Seen from both sides and cut through its axis, to scale.",
        (Cluster(tuple(marks), "made"),),
    )


def _sheet_plate(drawing: MadeDrawing, title: str) -> Scene:
    scale = min((HEIGHT - 22.0) / (2 * drawing.reach), 3.6)
    front = drawing.views[0]
    marks: list[Mark] = list(view_marks(front, ViewPlace((WIDTH / 2, HEIGHT / 2 + 4.0), scale), words=WORDS))
    marks.append(Label((WIDTH / 2, 3.0), front.title, "quiet", WORDS, "middle"))
    return Scene(
        WIDTH, HEIGHT, title, "Where the holes are drilled, to scale.", (Cluster(tuple(marks), "made"),)
    )
