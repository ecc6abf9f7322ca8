"""Front and dial's back: to scale, the right way round, and telling what to take off."""

import math

import pytest
from hypothesis import HealthCheck, given, settings
from lxml import etree

from marquetry.core.sheet.build import Build
from marquetry.drawing.hand_turns import turns_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.plate import plate
from marquetry.drawing.scene import Cluster, Dot, Label, Line, Scene
from marquetry.drawing.sheet import Display
from marquetry.drawing.svg import to_svg
from tests.strategies import ANATOMY, builds, case_build, report_on


def drawn(build: Build, display: Display) -> Scene:
    return plate(build, report_on(build), display)


def titled(scene: Scene, title: str) -> Line:
    return next(mark for mark in scene.walk() if isinstance(mark, Line) and mark.title == title)


@pytest.mark.parametrize(
    ("hand", "angle", "toward"), [(1, 0, (0, 1)), (1, 90, (1, 0)), (1, 180, (0, -1)), (-1, 90, (-1, 0))]
)
def test_angles_run_clockwise_from_twelve_and_turn_round_behind(
    hand: int, angle: float, toward: tuple[int, int]
) -> None:
    x, y = Plan(2.0, hand=hand, centre=(0.0, 0.0)).at(5.0, angle)
    assert (x / 10, y / 10) == pytest.approx(toward, abs=1e-9)


@pytest.mark.parametrize(
    ("time", "hand", "angle"),
    [
        ("03:00:00", "hour", 90),
        ("15:00", "h24", 225),
        ("10:09:36", "minute", 57.6),
        ("0:0:45", "seconds", 270),
    ],
)
def test_hands_show_the_time(time: str, hand: str, angle: float) -> None:
    assert turns_of(time)[hand] == pytest.approx(angle)


def test_the_minute_hand_is_drawn_to_its_length_in_true_size() -> None:
    scene = drawn(case_build(1), Display(view="front", time="12:00:00", true_size=True, measured=True))
    ys = [y for _, y in titled(scene, "Hands, minute hand").points]
    assert max(ys) - min(ys) == pytest.approx(12.3 + 2.0)


def test_the_date_window_stands_at_three_before_and_at_nine_behind() -> None:
    for view, sign in (("front", 1), ("back", -1)):
        scene = drawn(case_build(1), Display(view=view, measured=True))  # type: ignore[arg-type]  # both are views
        xs = [x for x, _ in titled(scene, "Date window").points]
        assert math.copysign(1, sum(xs) / 4 - scene.width / 2) == sign


@pytest.mark.parametrize(
    ("number", "told"),
    [
        (1, set()),
        (5, {"foot 1, take off", "foot 2, take off", "+24.0\u00a0°"}),
        (6, {"foot 3, take off", "foot 4, take off"}),
    ],
)
def test_the_back_tells_which_feet_to_take_off_and_the_turn(number: int, told: set[str]) -> None:
    scene = drawn(case_build(number), Display(view="back"))
    labels = {mark.text for mark in scene.walk() if isinstance(mark, Label)}
    assert told <= labels
    assert {label for label in labels if "take off" in label} == {
        label for label in told if "take off" in label
    }


def test_a_foot_over_its_hole_is_drawn_over_it() -> None:
    """Case 01: feet and holes have the same centres once the holes are turned by the crown's place."""
    dots = [
        mark
        for mark in drawn(case_build(1), Display(view="back", true_size=True)).walk()
        if isinstance(mark, Dot)
    ]
    holes = {tuple(round(c, 6) for c in d.centre) for d in dots if d.classes == "body body-void"}
    feet = {tuple(round(c, 6) for c in d.centre) for d in dots if d.classes == "body body-hand"}
    assert len(feet & holes) == 2


@settings(max_examples=20, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(builds())
def test_any_build_is_drawn_from_front_and_back(build: Build) -> None:
    for view in ("front", "back"):
        for true_size in (False, True):
            scene = drawn(build, Display(view=view, true_size=true_size))
            etree.fromstring(to_svg(scene))
    findings = report_on(build).findings
    marks = drawn(build, Display(view="back")).walk()
    groups = {mark.data["check"] for mark in marks if isinstance(mark, Cluster) and mark.data}
    assert ("dial_feet" in groups) == (findings["dial_feet"].verdict.value != "skipped")


def test_an_empty_watch_is_drawn_without_a_fault() -> None:
    for view in ("half", "whole", "hands", "front", "back"):
        tree = etree.fromstring(to_svg(drawn(Build.empty("Blank", ANATOMY), Display(view=view))))
        assert str(tree.get("viewBox")).startswith("0 0 ")
        assert tree.xpath("//*[local-name()='path' or local-name()='rect']")
        assert not tree.xpath("//*[contains(@class, 'verdict-clash')]")
