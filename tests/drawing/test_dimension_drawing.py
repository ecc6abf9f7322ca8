"""Where each dimension is measured: every one can be drawn, inside its sheet, arrows on what they measure."""

import pytest

from marquetry.core.section.extent import extent_of, part_bodies
from marquetry.core.sheet.part import Part
from marquetry.drawing.dimension_drawing import HEIGHT, WIDTH, among_usual, dimension_drawing
from marquetry.drawing.part_sketches import CASE, SKETCHES, sketch_of
from marquetry.drawing.plain_sketch import NOT_TO_SCALE, plain_sketch
from marquetry.drawing.scene import Box, Dot, Label, Line, Scene
from tests.strategies import ANATOMY, MODEL

EVERY = [(kind.key, path) for kind in ANATOMY.kinds for path, _ in kind.quantities()]


def points(scene: Scene) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for mark in scene.walk():
        if isinstance(mark, Line):
            found += mark.points
        elif isinstance(mark, Dot):
            (x, y), r = mark.centre, mark.radius
            found += [(x - r, y - r), (x + r, y + r)]
        elif isinstance(mark, Box | Label):
            found.append(mark.at)
    return found


def figures(scene: Scene) -> list[str]:
    return [m.text for m in scene.walk() if isinstance(m, Label) and "figure" in m.classes]


@pytest.mark.parametrize(("kind", "path"), EVERY)
def test_every_dimension_is_drawn_with_its_figure_asked_for(kind: str, path: str) -> None:
    part = Part.of(ANATOMY.kind(kind), {"name": "Plain"})
    scene = dimension_drawing(part, path, MODEL.rules_of(part.build))
    assert "?" in "".join(figures(scene))
    assert any(isinstance(m, Line) and "dimension-line" in m.classes for m in scene.walk())
    if NOT_TO_SCALE in scene.title:
        assert all(0 <= x <= WIDTH and 0 <= y <= HEIGHT - 3 for x, y in points(scene))


def test_every_place_on_a_sketch_is_a_dimension_and_its_arrow_runs_beside_it() -> None:
    for kind, sketch in SKETCHES.items():
        for path, span in sketch.spans.items():
            assert ANATOMY.is_quantity(f"{kind}.{path}"), (kind, path)
            (ax, ay), (bx, by) = span.line
            if ay == by:
                assert {ax, bx} == {span.start[0], span.end[0]}
            else:
                assert ax == bx
                assert {ay, by} == {span.start[1], span.end[1]}


def test_a_stem_s_axis_is_told_from_the_movement_s_own_face_at_its_edge() -> None:
    """As the body is drawn: what else lies there by chance must not be taken for the face."""
    build = among_usual(Part.of(ANATOMY.kind("movement"), {"face_to_stem": 2.22, "diameter": 27.0}))
    rules = MODEL.rules_of(build)
    extent = extent_of(build, rules, "movement.face_to_stem")
    own = {body.material: body for body in part_bodies(build, rules, "movement") if body.part == "movement"}
    face = max(z for _, z in own["movement"].outline)
    slot = [z for _, z in own["void"].outline]
    assert extent is not None
    assert extent.start == pytest.approx((27.0 / 2, face))
    assert extent.end == pytest.approx((27.0 / 2, (min(slot) + max(slot)) / 2))


def test_a_known_value_stands_on_the_sketch_and_an_inner_diameter_is_taken_inside() -> None:
    part = Part.of(ANATOMY.kind("case"), {"lug_width": 20.1})
    assert figures(dimension_drawing(part, "lug_width", MODEL.rules_of(part.build))) == ["20.10"]
    assert sketch_of("case", "lug_width") == (CASE, CASE.spans["lug_width"])
    widths = []
    for path in ("bezel.turning_inner_diameter", "spacers.outer_diameter"):
        scene = plain_sketch(ANATOMY, path, None, WIDTH, HEIGHT)
        (line,) = [m for m in scene.walk() if isinstance(m, Line) and "dimension-line" in m.classes]
        widths.append(line.points[1][0] - line.points[0][0])
    assert widths[0] < widths[1]
