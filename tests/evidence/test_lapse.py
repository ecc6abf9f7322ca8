"""What lapses by what is done to a watch, and what another part takes with it."""

from typing import Any

import pytest

from marquetry.core.evidence.lapse import came_together, lapsed, replaced, settled
from marquetry.core.sheet.build import Build
from tests.strategies import MODEL, case_build

DRY_FITS = MODEL.dry_fit_by_key
FITS = {"fits": True, "on": "2026-11-28"}
OFF = {"id": "a1", "title": "Feet off", "kind": "feet_off", "done": None}


def tried_build() -> Build:
    """A watch with three dry fits, parts that came together, and words of a family."""
    build = case_build(1).with_statement(
        "tried", dict.fromkeys(("dial_on", "dial_in_case", "strap_at_lugs"), FITS)
    )
    build = build.with_statement("together", [["case", "dial", "movement"], ["case", "strap"]])
    return build.with_statement("assumed_words", ["dial.windows", "crystal.material"])


def changed(build: Build, path: str, value: Any) -> Build:
    return build.without(path) if value is None else build.with_entry(path, value)


@pytest.mark.parametrize(
    ("path", "value", "left"),
    [
        (
            "dial.thickness",
            {"value": 0.41, "source": "measured"},
            {"dial_on", "dial_in_case", "strap_at_lugs"},
        ),
        ("dial.thickness", {"value": 0.35, "source": "planned"}, {"strap_at_lugs"}),
        ("dial.feet", [], {"strap_at_lugs"}),
        ("dial.shelf_part", 7, {"dial_on", "dial_in_case", "strap_at_lugs"}),
        ("strap", None, {"dial_on", "dial_in_case"}),
        ("movement.functions", ["hours", "minutes", "seconds"], {"dial_on", "dial_in_case", "strap_at_lugs"}),
    ],
)
def test_a_dry_fit_lapses_by_another_part_or_an_alteration_and_never_by_measuring(
    path: str, value: Any, left: set[str]
) -> None:
    before = tried_build()
    if path == "dial.shelf_part":
        after = before.with_parts({"dial": {**before.parts["dial"], "shelf_part": value}})
    else:
        after = changed(before, path, value)
    assert set(lapsed(before, after, DRY_FITS).tried) == left


def test_an_alteration_that_is_planned_lapses_what_was_tried_with_the_part_as_it_was() -> None:
    before = tried_build()
    change = {"path": "dial.feet", "from": before.at("dial.feet"), "to": []}
    after = before.with_statement("alterations", [{**OFF, "changes": [change]}])
    assert set(settled(before, after, DRY_FITS).tried) == {"strap_at_lugs"}
    assert after.count("dial.feet") == before.count("dial.feet") > 0
    assert after.as_planned.count("dial.feet") == 0
    assert after.as_planned.as_planned is after.as_planned


def test_another_part_takes_all_with_it_that_was_said_of_the_old_one() -> None:
    change = {"path": "dial.centre_hole", "from": 1.9, "to": 2.0}
    hole = {"id": "a2", "title": "Hole", "kind": "hole_broached", "done": None, "changes": [change]}
    build = tried_build().with_statement("alterations", [hole])
    after = replaced(build, ["dial"], DRY_FITS)
    assert (set(after.tried), after.alterations) == ({"strap_at_lugs"}, ())
    assert after.together == (frozenset({"case", "movement"}), frozenset({"case", "strap"}))
    assert after.assumed_words == {"crystal.material"}
    linked = tried_build().with_parts({"dial": {"name": "Another", "shelf_part": 7}})
    assert set(settled(tried_build(), linked, DRY_FITS).tried) == {"strap_at_lugs"}


def test_an_alteration_is_planned_until_it_is_done() -> None:
    build = case_build(1)
    change = {"path": "dial.centre_hole", "from": build.at("dial.centre_hole"), "to": 2.05}
    planned = build.with_statement("alterations", [{**OFF, "kind": "hole_broached", "changes": [change]}])
    assert planned.as_planned.dimensions["dial.centre_hole"].source == "planned"
    assert planned.as_planned.dimensions["dial.centre_hole"].tol == 0.05
    done = planned.with_statement(
        "alterations", [{**planned.raw["alterations"][0], "done": "2026-11-29T09:00:00Z"}]
    )
    assert done.as_planned == done


def test_what_came_on_the_movement_stays_until_it_is_another_one() -> None:
    plain = case_build(1)
    build = came_together(plain, [["movement", "dial", "hands"]])
    assert build.at("movement.arrives_with") == ["dial", "hands"]
    assert build.at("movement.arrives_stays") is True
    assert came_together(build, []).raw == plain.with_statement("together", []).raw
    assert came_together(plain, [["case", "dial"]]).parts == plain.parts
    other = build.with_parts({"dial": {"name": "Another", "shelf_part": 7}})
    after = settled(build, other, DRY_FITS)
    assert (after.at("movement.arrives_with"), after.at("movement.arrives_stays")) == (
        ["dial", "hands"],
        None,
    )
    spoken = build.with_parts({"hands": {**build.parts["hands"], "name": "The same, told more"}})
    assert settled(build, spoken, DRY_FITS).at("movement.arrives_stays") is True
