"""One date window whichever of the two an edit moves, and a design that a bought blank keeps."""

from typing import Any

import pytest

from marquetry.core.fit.cutouts import date_window_angle, date_window_radius
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import with_one_date_window
from marquetry.core.sheet.design import with_design
from tests.strategies import MODEL, case_build

RECTANGLE = {"shape": "rectangle", "for": "date", "at_radius": 10.4, "angle": 90, "width": 2, "height": 2.6}
ARC = {"shape": "arc", "for": "date", "inner_radius": 9.0, "outer_radius": 11.0, "from": 350, "to": 20}
OPEN = {"shape": "round", "for": "open", "at_radius": 6.0, "angle": 10, "diameter": 2.0}
PLAN = {"value": 0.0, "tol": 0.05, "source": "planned"}


def dial(*cutouts: dict[str, Any]) -> Build:
    """A watch whose dial has these cut-outs and says nothing else of its date."""
    build = case_build(1)
    for path in ("dial.date_window_angle", "dial.date_window_radius"):
        build = build.without(path) if build.at(path) is not None else build
    return build.with_entry("dial.cutouts", list(cutouts))


def size(build: Build, path: str) -> float:
    return build.dimensions[path].value


def edited(build: Build, path: str, value: float) -> Build:
    return with_one_date_window(build, build.with_entry(path, {**PLAN, "value": value}))


@pytest.mark.parametrize(
    ("cut", "path", "value", "angle", "radius"),
    [
        (RECTANGLE, "dial.cutouts.1.angle", 95.0, 95.0, 10.4),
        (RECTANGLE, "dial.cutouts.1.at_radius", 9.9, 90.0, 9.9),
        (RECTANGLE, "dial.date_window_angle", 120.0, 120.0, 10.4),
        (RECTANGLE, "dial.date_window_radius", 9.7, 90.0, 9.7),
        (ARC, "dial.cutouts.1.to", 30.0, 10.0, 10.0),
        (ARC, "dial.cutouts.1.outer_radius", 12.0, 5.0, 10.5),
        (ARC, "dial.date_window_angle", 15.0, 15.0, 10.0),
        (ARC, "dial.date_window_radius", 10.3, 5.0, 10.3),
    ],
)
def test_the_date_window_stands_in_one_place_whichever_is_moved(
    cut: dict[str, Any], path: str, value: float, angle: float, radius: float
) -> None:
    plain = dial(OPEN)
    both = with_one_date_window(plain, plain.with_entry("dial.cutouts", [OPEN, cut]))
    after = edited(both, path, value)
    p = Plausible(after, MODEL.rules_of(after))
    assert float(date_window_angle(p)) % 360 == pytest.approx(angle), "where the cut-out is"
    assert float(date_window_radius(p)) == pytest.approx(radius)
    assert size(after, "dial.date_window_angle") == pytest.approx(angle), "and what the sheet says of it"
    assert size(after, "dial.date_window_radius") == pytest.approx(radius)
    assert after.at("dial.cutouts.0") == both.at("dial.cutouts.0"), "no other window moves"


def test_an_arc_that_is_moved_keeps_its_sweep_across_twelve() -> None:
    moved = edited(with_one_date_window(dial(), dial(ARC)), "dial.date_window_angle", 100.0)
    begin, end = size(moved, "dial.cutouts.0.from"), size(moved, "dial.cutouts.0.to")
    assert [begin, end] == pytest.approx([85.0, 115.0])


def test_without_a_cut_out_for_the_date_nothing_follows() -> None:
    build = dial(OPEN)
    after = build.with_entry("dial.date_window_angle", {**PLAN, "value": 90.0})
    assert with_one_date_window(build, after) == after


def test_a_bought_blank_keeps_the_design_and_a_finished_dial_does_not() -> None:
    drawn = [{**RECTANGLE, "width": {"value": 2.0, "tol": 0.05, "source": "planned"}}]
    build = dial().with_entry("dial.cutouts", drawn)
    build = build.with_entry("dial.face", {"finish": "matt"})
    build = build.with_entry("dial.diameter", {"value": 28.4, "tol": 0.05, "source": "planned"})
    blank = {"name": "Brass blank", "diameter": {"value": 28.5, "source": "listed"}}
    laid = with_design(build, "dial", blank)
    assert laid["cutouts"] == build.at("dial.cutouts")
    assert laid["face"] == {"finish": "matt"}
    assert laid["diameter"] == blank["diameter"], "what the blank says itself stands"
    finished = {**blank, "windows": ["date"]}
    assert with_design(build, "dial", finished) == finished
    assert with_design(dial(RECTANGLE), "dial", blank) == blank, "what is cut already is another dial"
    assert with_design(build, "case", blank) == blank
