"""A sketch for a dimension that no section shows: a place by angle or radius, a ring's width, a bar's length.

It is not to scale, and says so.
"""

import math
import re
from collections.abc import Iterator

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.figures import figure
from marquetry.drawing.dimension_line import arrows, told_beside
from marquetry.drawing.part_sketches import MeasuredAt, PartSketch, sketch_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Dot, Label, Line, Mark, Paper, Scene

CENTRE: Paper = (55.0, 28.0)
RADIUS = 17.0
INSIDE = re.compile(r"inner|bore|hole|aperture")
"""Words of a diameter that is taken inside a ring."""
NOT_TO_SCALE = "sketch, not to scale"


def plain_sketch(anatomy: Anatomy, path: str, known: Dimension | None, width: float, height: float) -> Scene:
    """The sketch of the dimension at `path`, its figure on it where it is known."""
    quantity = anatomy.quantity_at(path)
    words = "?" if known is None else figure(known.value)
    kind, _, below = path.partition(".")
    found = sketch_of(kind, below)
    marks = _on_sketch(*found, quantity.told(words)) if found else _by_nature(quantity, below, words, known)
    foot = Label((width / 2, 3.0), NOT_TO_SCALE, "quiet", 3.6, "middle")
    return Scene(width, height, f"{anatomy.label_of(path)}: {NOT_TO_SCALE}", "", (*marks, foot))


def _on_sketch(sketch: PartSketch, span: MeasuredAt, words: str) -> Iterator[Mark]:
    yield from sketch.marks
    yield Cluster(tuple(arrows((span.start, span.end), span.line)), "dimension")
    yield told_beside(span.line, words)


def _by_nature(quantity: Quantity, below: str, words: str, known: Dimension | None) -> Iterator[Mark]:
    if quantity.unit == "°":
        return _protractor(CENTRE, words + "°", 40.0 if known is None else known.value)
    if quantity.nature == "radius":
        return _radius(CENTRE, words)
    if quantity.nature == "diameter":
        return _ring(CENTRE, quantity.told(words), inside=INSIDE.search(below) is not None)
    return _bar(CENTRE, words)


def _protractor(centre: Paper, words: str, angle: float) -> Iterator[Mark]:
    plan = Plan(1.0, centre=centre)
    yield plan.circle(2 * RADIUS, "body body-dial")
    yield plan.tick(0.0, RADIUS + 3.0, 0.0, "centre-line")
    yield plan.tick(0.0, RADIUS + 3.0, angle, "dimension-line")
    yield plan.arc(RADIUS * 0.6, 0.0, angle, "dimension-line")
    yield Label(_outside(plan, 0.0), "12", "quiet halo", 3.2, "middle")
    yield Label(_outside(plan, angle), words, "figure halo", 4.2, "start")


def _outside(plan: Plan, angle: float) -> Paper:
    x, y = plan.at(RADIUS + 4.5, angle)
    return x + (2.0 if math.sin(math.radians(angle)) > 0 else -6.0 if angle else 0.0), y - 1.2


def _radius(centre: Paper, words: str) -> Iterator[Mark]:
    plan = Plan(1.0, centre=centre)
    yield plan.circle(2 * RADIUS, "body body-dial")
    yield Dot(centre, 0.6, "turn-end")
    yield plan.round_at(RADIUS * 0.72, 60.0, 3.0, "body body-void")
    yield plan.tick(0.0, RADIUS * 0.72, 60.0, "dimension-line")
    x, y = plan.at(RADIUS * 0.36, 60.0)
    yield Label((x - 3.0, y + 2.4), words, "figure halo", 4.2, "middle")


def _ring(centre: Paper, words: str, *, inside: bool) -> Iterator[Mark]:
    plan = Plan(1.0, centre=centre)
    x, y = centre
    half = 0.65 * RADIUS if inside else RADIUS
    line = (x - half, y), (x + half, y)
    yield plan.circle(2 * RADIUS, "body body-steel")
    yield plan.circle(1.3 * RADIUS, "body body-void")
    yield from arrows(line, line)
    yield told_beside(line, words)


def _bar(centre: Paper, words: str) -> Iterator[Mark]:
    x, y = centre
    corners = ((x - 30, y - 6), (x + 30, y - 6), (x + 30, y + 2), (x - 30, y + 2))
    yield Line(corners, "body body-steel", closed=True)
    yield from (
        Line(((x + side * 30, y + 2), (x + side * 30, y + 9)), "dimension-extension") for side in (-1, 1)
    )
    yield Line(((x - 30, y + 7), (x + 30, y + 7)), "dimension-line")
    yield Label((x, y + 8.6), words, "figure halo", 4.2, "middle")
