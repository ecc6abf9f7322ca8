"""Drawings of proofs: what is drawn lies where its figures say, and on the paper."""

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.face.face import seen_face
from marquetry.core.proving.lume_decay import LumeReading, lume_decay
from marquetry.core.proving.meeting import looks
from marquetry.core.proving.positions import POSITIONS
from marquetry.core.proving.pressure import PressureReading, hold
from marquetry.core.proving.sound.timing import Traced
from marquetry.core.proving.wrist import WristEntry, stretches
from marquetry.demo.workshop import demo_sheets
from marquetry.drawing.proving.beat_rings import GAP, MIDDLE, SIDE, beat_rings, small_rings
from marquetry.drawing.proving.decay_curve import decay_curve
from marquetry.drawing.proving.give_curve import FOOT, LEFT, RIGHT, TOP, give_curve
from marquetry.drawing.proving.hands_meet import hands_meet
from marquetry.drawing.proving.offset_days import offset_days
from marquetry.drawing.proving.proof_plate import SPOTS, STATE_LOOKS, ProofNote, proof_plate
from marquetry.drawing.scene import Box, Cluster, Dot, Label, Line, Scene
from marquetry.drawing.svg import to_svg
from tests.strategies import MODEL, report_on

DEMO = demo_sheets(MODEL.anatomy)


def beats(rate: float, error: float = 0.0, count: int = 100, seconds: float = 20.0) -> list[Traced]:
    """Beats of a watch that gains `rate` s a day, as a trace tells them."""
    return [
        Traced(n * seconds / count, -rate / 86.4 * n * seconds / count + error * (n % 2), n % 2)
        for n in range(count)
    ]


def dots(scene: Scene, classes: str) -> list[Dot]:
    return [mark for mark in scene.walk() if isinstance(mark, Dot) and mark.classes == classes]


def on_paper(scene: Scene) -> bool:
    """Whether every mark but faces lies on the paper."""
    for mark in scene.walk():
        points = mark.points if isinstance(mark, Line) else (mark.centre,) if isinstance(mark, Dot) else ()
        points = (mark.at,) if isinstance(mark, Label) else points
        if not all(-0.01 <= x <= scene.width + 0.01 and -0.01 <= y <= scene.height + 0.01 for x, y in points):
            return False
    return True


def radius(dot: Dot) -> float:
    return math.dist(dot.centre, (SIDE / 2, SIDE / 2))


@settings(max_examples=40)
@given(st.floats(-2000.0, 2000.0), st.floats(-5.0, 5.0), st.floats(100.0, 360.0) | st.none())
def test_rings_open_outwards_where_a_watch_gains(rate: float, error: float, amplitude: float | None) -> None:
    scene = beat_rings(beats(rate, error), 20.0, amplitude, "heard")
    even = [radius(dot) for dot in dots(scene, "beat-even")]
    assert len(even) == len(dots(scene, "beat-odd")) == 50
    if abs(rate) > 1.0:
        assert (even[-1] > even[0]) == (rate > 0)
    assert all(MIDDLE - 20.0 <= each <= MIDDLE + 20.0 for each in even)
    assert on_paper(scene)
    assert len(dots(scene, "turn-end")) == (amplitude is not None)


def test_a_beat_stands_where_its_moment_and_its_deviation_say() -> None:
    quarter = 20.0 * (90.0 - GAP / 2) / (360.0 - GAP)
    scene = beat_rings([Traced(quarter, 0.0, 0), Traced(10.0, 1.0, 1)], 20.0, None, "two")
    (right,), (low,) = dots(scene, "beat-even"), dots(scene, "beat-odd")
    assert right.centre == pytest.approx((SIDE / 2 + MIDDLE, SIDE / 2))
    assert low.centre[0] == pytest.approx(SIDE / 2)
    assert radius(low) < MIDDLE, "late lies inwards"


@pytest.mark.parametrize("position", [position.key for position in POSITIONS])
def test_each_position_has_a_pose_of_its_own(position: str) -> None:
    drawn = {p.key: to_svg(small_rings((), 20.0, p.key, "nothing yet")) for p in POSITIONS}
    assert sum(svg == drawn[position] for svg in drawn.values()) == 1  # type: ignore[index]  # one of the six


def rows(loss: float) -> list[PressureReading]:
    return [
        PressureReading(
            t, 3.0 * min(1.0, t / 5.0), 30.0 * min(1.0, t / 5.0) * (1.0 - loss * max(0, t - 5) / 60.0)
        )
        for t in range(90)
    ]


@pytest.mark.parametrize("loss", [0.0, 0.3])
def test_the_line_that_decides_goes_through_the_readings(loss: float) -> None:
    readings = rows(loss)
    scene = give_curve(readings, hold(readings))
    assert on_paper(scene)
    line = next(mark for mark in scene.walk() if isinstance(mark, Line) and mark.classes == "chamber-line")
    (x1, y1), (x2, y2) = line.points
    given_dots = [dot.centre for dot in dots(scene, "chamber-give")]
    for x, y in given_dots:
        if x1 <= x <= x2:
            assert y == pytest.approx(y1 + (y2 - y1) * (x - x1) / (x2 - x1), abs=0.2)
    assert (y2 < y1 - 5.0) == (loss > 0.0)
    assert all(LEFT <= x <= RIGHT and FOOT <= y <= TOP for x, y in given_dots)


@given(st.lists(st.tuples(st.floats(0, 300), st.floats(-1, 20), st.floats(-50, 500)), max_size=30))
def test_any_readings_are_drawn_on_the_paper(found: list[tuple[float, float, float]]) -> None:
    readings = [PressureReading(*row) for row in found]
    assert on_paper(give_curve(readings, hold(readings) if readings else None))


@given(st.lists(st.tuples(st.floats(0, 400), st.floats(-400, 400)), min_size=1, max_size=12))
def test_readings_from_the_wrist_stand_on_the_paper(found: list[tuple[float, float]]) -> None:
    entries = [WristEntry(hours * 3600.0, "read", offset) for hours, offset in found]
    scene = offset_days(stretches(entries)[0])
    assert on_paper(scene)
    assert len(dots(scene, "beat-even")) == len(found)


@given(st.floats(0.01, 2.0), st.floats(0.1, 1.5), st.lists(st.floats(0.5, 300.0), min_size=1, max_size=6))
def test_a_fading_patch_lies_on_its_law(first: float, exponent: float, minutes: list[float]) -> None:
    readings = [LumeReading(t, first * t**-exponent) for t in minutes]
    law = lume_decay(readings)
    scene = decay_curve({"dial": readings}, {"dial": law} if law else {})
    assert on_paper(scene)
    assert len(dots(scene, "fade-dial")) == len(minutes)


def test_two_hands_that_meet_point_the_same_way() -> None:
    hands = ("hour", "minute", "seconds")
    for meeting in looks(hands):
        dark = [
            mark for mark in hands_meet(meeting, hands).walk()
            if isinstance(mark, Line) and mark.classes.startswith("meet-hand")
        ]  # fmt: skip
        turns = [
            math.atan2(hand.points[1][0] - hand.points[0][0], hand.points[1][1] - hand.points[0][1])
            for hand in dark
        ]
        assert len(turns) == 2
        assert abs(math.remainder(turns[0] - turns[1], math.tau)) < math.radians(3.5), meeting.clock


@pytest.mark.parametrize("name", sorted(DEMO))
@pytest.mark.parametrize("state", sorted(STATE_LOOKS))
def test_every_proof_is_led_to_its_place_and_its_page(name: str, state: str) -> None:
    build = DEMO[name]
    notes = [ProofNote(key, key.title(), state, "how it stands", f"/{key}") for key in SPOTS]  # type: ignore[arg-type]  # one of the states
    scene = proof_plate(seen_face(build, report_on(build)), notes, name)
    linked = [mark for mark in scene.walk() if isinstance(mark, Cluster) and mark.link]
    assert {mark.link for mark in linked} == {f"/{key}" for key in SPOTS}
    assert all(STATE_LOOKS[state] in mark.classes for mark in linked)  # type: ignore[index]  # as above
    boxes = sorted(mark.at for cluster in linked for mark in cluster.children if isinstance(mark, Box))
    apart = [b[1] - a[1] for a, b in pairwise(boxes) if a[0] == b[0]]
    assert min(apart) >= 17.0, "no note lies over another"
