"""A part with one of its dimensions on it: the drawing on a measuring card."""

from collections.abc import Iterator

from marquetry.core.fit.rules import Rules
from marquetry.core.section.body import Body
from marquetry.core.section.extent import Extent, extent_of, part_bodies
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.usual_build import usual_build
from marquetry.core.values.figures import figure
from marquetry.drawing.dimension_line import arrows, told_beside
from marquetry.drawing.plain_sketch import plain_sketch
from marquetry.drawing.scene import Cluster, Label, Line, Mark, Paper, Scene
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window

WIDTH, HEIGHT = 110.0, 56.0
EDGE, EDGE_BESIDE = 9.0, 3.0
"""Paper round the part; less where the dimension stands beside it and needs none above."""
SMALL = 0.4
"""A dimension of less than this share of its part is drawn in a close-up."""
CLEAR = 3.5
"""Paper millimetres between the part and its dimension line."""
CLOSEST = 2.2
"""A drawing shows at least this many millimetres of height, however thin the part."""


def dimension_drawing(part: Part, path: str, rules: Rules) -> Scene:
    """Draw `part` among usual neighbours, with the dimension at `path` below it between arrows."""
    whole = among_usual(part)
    full = f"{part.kind.prefix}.{path}"
    extent = extent_of(whole, rules, full)
    if extent is None:
        return plain_sketch(part.kind.anatomy, full, part.dimensions.get(path), WIDTH, HEIGHT)
    bodies = part_bodies(whole, rules, part.kind.key)
    window = _window(bodies, extent)
    sheet = _fitted(window, EDGE if extent.axis == "r" else EDGE_BESIDE)
    top = min(max(z for body in bodies for _, z in body.outline), window.high)
    line = _beside(sheet, extent, top)
    marks = (
        Cluster(tuple(draw_faces(bodies, sheet, window)), "bodies"),
        *_axis(sheet, window, top),
        Cluster(tuple(arrows((sheet.at(extent.start), sheet.at(extent.end)), line)), "dimension"),
        _label(line, part, path),
    )
    return Scene(WIDTH, HEIGHT, f"{part.kind.anatomy.label_of(full)}: where it is measured", "", marks)


def among_usual(part: Part) -> Build:
    """A usual watch with this part in it: its faces need something to stand on."""
    return usual_build(part.kind.anatomy).with_read({part.kind.key: part.read})


def _window(bodies: tuple[Body, ...], extent: Extent) -> Window:
    """What is shown: the whole part for a large dimension, a close-up where it is small beside the part."""
    points = [p for body in bodies for p in body.outline]
    low, high = min(z for _, z in points), max(z for _, z in points)
    right = max(r for r, _ in points)
    long = max(abs(extent.end[0] - extent.start[0]), abs(extent.end[1] - extent.start[1]), 0.4)
    if extent.across:
        half = right if long > SMALL * right else max(1.8 * long, CLOSEST)
        return Window(-half - 0.6, half + 0.6, low - 0.6, high + 0.6)
    if extent.axis == "r" and extent.start[0] == 0.0:
        return Window(-0.8, right + 0.6, low - 0.6, high + 0.6)
    r, z = (extent.start[0] + extent.end[0]) / 2, (extent.start[1] + extent.end[1]) / 2
    tall = max(2.2 * long, CLOSEST) / 2
    if extent.axis == "z" and long > SMALL * (high - low):
        tall, z = (high - low) / 2 + 0.3, (high + low) / 2
    reach = tall * WIDTH / HEIGHT
    return Window(max(r - reach, -1.2), r + reach, z - tall, z + tall)


def _fitted(window: Window, edge: float) -> Sheet:
    across, up = window.right - window.left, window.high - window.low
    scale = min((WIDTH - 2 * edge) / across, (HEIGHT - 2 * edge) / up)
    left = (WIDTH - across * scale) / 2 - window.left * scale
    bottom = (HEIGHT - up * scale) / 2 - window.low * scale
    return Sheet(scale, 1.0, (left, bottom))


def _axis(sheet: Sheet, window: Window, top: float) -> Iterator[Mark]:
    """The part's axis; it ends below the dimension line, so that no figure stands on it."""
    if window.left <= 0 <= window.right:
        x, y = sheet.at((0.0, top))
        yield Line((sheet.at((0.0, window.low)), (x, y + CLEAR / 2)), "centre-line")


def _beside(sheet: Sheet, extent: Extent, top: float) -> tuple[Paper, Paper]:
    """Where the dimension line runs: above the whole part, or right of what it measures, inside the sheet."""
    (px, py), (qx, qy) = sheet.at(extent.start), sheet.at(extent.end)
    if extent.axis == "r":
        y = min(sheet.at((0.0, top))[1] + CLEAR, HEIGHT - 6.0)
        return (px, y), (qx, y)
    x = min(max(px, qx) + 6.0, WIDTH - 16.0)
    return (x, py), (x, qy)


def _label(line: tuple[Paper, Paper], part: Part, path: str) -> Label:
    known, quantity = part.dimensions.get(path), part.kind.anatomy.quantity_at(f"{part.kind.prefix}.{path}")
    words = "?" if known is None else figure(known.value)
    return told_beside(line, quantity.told(words))
