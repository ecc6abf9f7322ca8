"""A donor cut through: what is still there in its material, what has left as an empty outline."""

from collections.abc import Collection

from marquetry.core.fit.rules import Rules
from marquetry.core.section.body import Body, Drawn
from marquetry.core.section.inner_bodies import hand_heights
from marquetry.core.section.lay_out import bodies_of
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part, parts_of
from marquetry.core.sheet.usual_build import usual_build
from marquetry.drawing.scene import Cluster, Scene
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window

WIDTH, HEIGHT, EDGE = 132.0, 46.0, 1.0
STRETCH = 1.5


def donor_drawing(build: Build, rules: Rules, taken: Collection[str]) -> Scene:
    """The whole section of a donor; `taken` are the kinds of part that are no longer with it.

    Nobody measures a watch before taking it apart: what is not known is drawn where usual, dashed.
    """
    bodies = _bodies(build, rules)
    if not bodies:
        return Scene(WIDTH, HEIGHT, f"{build.name}: nothing of it is seen in section", "", ())
    points = [point for body in bodies for point in body.outline]
    right = max(r for r, _ in points)
    window = Window(-right, right, min(z for _, z in points), max(z for _, z in points))
    sheet = _fitted(window)
    gone = tuple(body for body in bodies if body.kind in taken and body.material != "void")
    here = tuple(body for body in bodies if body.kind not in taken)
    marks = (
        Cluster(tuple(draw_faces(gone, sheet, window)), "bodies taken"),
        Cluster(tuple(draw_faces(here, sheet, window)), "bodies"),
    )
    told = "Its parts cut through the axis; those that were taken are outlines."
    return Scene(WIDTH, HEIGHT, f"{build.name}: what is left of it", told, marks)


def _bodies(build: Build, rules: Rules) -> tuple[Body, ...]:
    """Every cut body of what the donor had, standing in a usual watch."""
    parts = [Part.of(kind, document) for _, kind, document in parts_of(build) if not kind.is_many]
    drawn = Drawn(usual_build(build.anatomy).with_read({part.kind.key: part.read for part in parts}), rules)
    had = {part.kind.key for part in parts}
    found = bodies_of(drawn, hand_heights(drawn))
    return tuple(body.of_its_own() for body in found if body.kind in had)


def _fitted(window: Window) -> Sheet:
    across, up = window.right - window.left, (window.high - window.low) * STRETCH
    scale = min((WIDTH - 2 * EDGE) / across, (HEIGHT - 2 * EDGE) / up)
    bottom = (HEIGHT - up * scale) / 2 - window.low * scale * STRETCH
    return Sheet(scale, STRETCH, (WIDTH / 2, bottom))
