"""Hands, markers and cases from their measures: they reach where they are measured, whatever their shape."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.face.case_shapes import body, lugs
from marquetry.core.face.face import seen_face
from marquetry.core.face.hand_shapes import PROFILES, Contour, hand_shape, turned, usual_width
from marquetry.core.face.marker_places import PLACES, apart, marker_places
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.faces import COUNTERWEIGHTS, HAND_SHAPES, OUTLINES
from marquetry.core.sheet.described.faces import PLACES as OFFERED
from marquetry.core.sheet.described.words import HANDS
from marquetry.drawing.face.light import THROW, shadow_of
from tests.strategies import case_build, report_on

lengths = st.floats(3.0, 18.0)


def area(outline: Contour) -> float:
    """Twice the signed area, by the shoelace formula."""
    return sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise([*outline, outline[0]]))


def inside(point: tuple[float, float], outline: Contour) -> bool:
    """Whether a point lies in an outline, by the ray that crosses its edges."""
    x, y = point
    crossings = 0
    for (ax, ay), (bx, by) in pairwise([*outline, outline[0]]):
        if (ay > y) != (by > y) and x < ax + (y - ay) / (by - ay) * (bx - ax):
            crossings += 1
    return crossings % 2 == 1


def test_every_shape_that_is_offered_is_drawn() -> None:
    assert set(PROFILES) == set(HAND_SHAPES)
    assert set(PLACES) | {"all twenty-four"} == set(OFFERED)


@given(
    hand=st.sampled_from(HANDS), shape=st.sampled_from(HAND_SHAPES), length=lengths,
    weight=st.sampled_from(COUNTERWEIGHTS), share=st.floats(0.5, 2.0),
)  # fmt: skip
def test_a_hand_reaches_its_length_and_its_width_and_is_even(
    hand: str, shape: str, length: float, weight: str, share: float
) -> None:
    width = usual_width(hand, shape, length) * share
    made = hand_shape(hand, shape, length, width, weight)
    assert max(y for _, y in made.outline) == pytest.approx(length)
    beyond = [x for x, y in made.outline if y >= 0]
    assert max(beyond) == pytest.approx(width / 2, rel=0.03)
    assert sum(beyond) == pytest.approx(0.0, abs=1e-9)
    assert abs(area(made.outline)) > 0
    assert min(y for _, y in made.outline) < 0 or weight == "none"
    for point in made.lume:
        assert inside((point[0] * 0.97, point[1]), made.outline), (shape, point)


@given(shape=st.sampled_from(HAND_SHAPES), length=lengths, factor=st.floats(1.1, 2.0))
def test_a_longer_hand_of_a_set_is_the_same_hand_larger(shape: str, length: float, factor: float) -> None:
    small, large = usual_width("minute", shape, length), usual_width("minute", shape, length * factor)
    assert large / small == pytest.approx(factor)
    turn = turned(((0.0, length),), 90.0)
    assert turn[0] == pytest.approx((length, 0.0), abs=1e-9)


@given(low=st.floats(0.1, 2.0), more=st.floats(0.1, 2.0))
def test_a_hand_twice_as_high_throws_its_shadow_twice_as_far(low: float, more: float) -> None:
    near, far = math.hypot(*shadow_of(low)), math.hypot(*shadow_of(low + more))
    assert near == pytest.approx(THROW * low)
    assert far / near == pytest.approx((low + more) / low)
    assert shadow_of(low)[0] > 0 > shadow_of(low)[1], "to the lower right: the lamp stands at the upper left"


def test_hands_are_drawn_at_the_heights_of_the_press_plan() -> None:
    build = case_build(10)
    report = report_on(build)
    face = seen_face(build, report)
    drawn = {hand.key: hand.height for hand in face.hands}
    assert list(drawn) == [hand for hand in HANDS if build.has(f"hands.{hand}")]
    assert sorted(drawn.values()) == list(drawn.values()), "each above the one beneath"
    plan = press_plan(report.findings["hand_stack"])
    assert plan is not None
    assert drawn == pytest.approx(dict(plan.heights))


@pytest.mark.parametrize(
    ("places", "angles"),
    [
        ("twelve", [0]),
        ("quarters", [0, 90, 180, 270]),
        ("three, six, nine", [90, 180, 270]),
        ("all but quarters", [30, 60, 120, 150, 210, 240, 300, 330]),
        ("even hours", [0, 60, 120, 180, 240, 300]),
        ("somewhere else", [30 * k for k in range(12)]),
        ("all twenty-four", [15 * k for k in range(24)]),
    ],
)
def test_markers_stand_where_they_are_said_to(places: str, angles: list[float]) -> None:
    found = marker_places(places)
    assert [place.angle for place in found] == angles
    assert marker_places("twelve")[0].numeral == "12"
    assert marker_places("all twenty-four")[0].numeral == "24"
    assert [place.roman for place in marker_places("quarters")] == ["XII", "III", "VI", "IX"]


def test_no_marker_stands_in_a_window() -> None:
    build = (
        case_build(1).with_entry("dial.date_window_angle", 90.0).with_entry("dial.date_window_radius", 10.3)
    )
    build = build.with_entry(
        "dial.face", {"markers": [{"shape": "baton", "inner_radius": 9.0, "outer_radius": 11.5}]}
    )
    for angle, count in ((90.0, 11), (45.0, 12), (None, 12)):
        there = build.with_entry("dial.date_window_angle", angle) if angle is not None else (
            build.without("dial.date_window_angle").with_entry("dial.windows", [])
        )  # fmt: skip
        dial = seen_face(there, report_on(there)).dial
        assert dial is not None
        assert len(dial.markers) == count
        assert len(dial.windows) == (0 if angle is None else 1)
        for window in dial.windows:
            assert all(apart(marker.angle, window.angle) > 8 for marker in dial.markers)


@pytest.mark.parametrize("outline", OUTLINES)
@given(radius=st.floats(14.0, 24.0))
def test_a_case_is_as_wide_as_it_is_measured(outline: str, radius: float) -> None:
    points = body(outline, radius)
    assert max(x for x, _ in points) == pytest.approx(radius)
    assert min(x for x, _ in points) == pytest.approx(-radius)
    for lug in lugs("short", radius, radius + 4.0, 10.0):
        assert max(abs(y) for _, y in lug) == pytest.approx(radius + 4.0)
        assert min(abs(x) for x, _ in lug) == pytest.approx(10.0)


def applied(build: Build, heights: float) -> float:
    """How high the drawn markers stand where the measured feature is so high."""
    built = build.with_entry("dial.features", [{"inner_radius": 9.4, "height": heights}])
    built = built.with_entry(
        "dial.face", {"markers": [{"made": "applied", "inner_radius": 9.4, "outer_radius": 11.0}]}
    )
    dial = seen_face(built, report_on(built)).dial
    assert dial is not None
    return dial.markers[0].height


def test_an_applied_marker_stands_as_high_as_its_feature_is_measured() -> None:
    assert applied(case_build(1), 0.42) == pytest.approx(0.42)
    assert applied(case_build(1), 0.18) == pytest.approx(0.18)
