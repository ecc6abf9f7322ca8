"""Where hands meet, the wrist, angles in pictures, light that fades: against reckonings of the test's own."""

import math
import random
from itertools import combinations
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from marquetry.core.face.face import seen_face
from marquetry.core.face.proved_light import with_proved_light
from marquetry.core.proving.angle import picture_angle, squared_up
from marquetry.core.proving.lume_decay import LumeReading, linear, lume_decay, lume_reading, together
from marquetry.core.proving.meeting import clock_words, looks, minutes_from_midnight
from marquetry.core.proving.wrist import WristEntry, offset_at_minute, power_reserve_h, stretches, unwrapped
from marquetry.core.values.errors import DimensionError
from marquetry.demo.workshop import demo_sheets
from tests.strategies import MODEL, report_on

DEMO = demo_sheets(MODEL.anatomy)

TURN_S = {"h24": 86_400.0, "hour": 43_200.0, "minute": 3_600.0, "seconds": 60.0}
HAND_SETS = [c for n in range(1, 5) for c in combinations(TURN_S, n)]


def apart(seconds: float, lower: str, upper: str) -> float:
    one, other = (seconds / TURN_S[hand] % 1.0 for hand in (lower, upper))
    return abs((one - other + 0.5) % 1.0 - 0.5) * 360.0


@given(
    st.sampled_from(HAND_SETS),
    st.lists(st.tuples(st.text("abc", min_size=1), st.floats(0, 359)), max_size=14),
)
def test_hands_lie_over_each_other_at_every_look(
    hands: tuple[str, ...], raised: list[tuple[str, float]]
) -> None:
    found = looks(hands, raised)
    assert len(found) <= 12
    assert {(each.lower, each.upper) for each in found} == set(
        combinations([h for h in TURN_S if h in hands], 2)
    )
    for each in found:
        faster = max(360.0 / TURN_S[each.lower], 360.0 / TURN_S[each.upper])
        assert apart(each.seconds, each.lower, each.upper) <= 0.51 * faster, each.clock
        assert each.seconds < 43_200
    if found:
        assert sorted(f for each in found for f in each.features) == sorted(name for name, _ in raised)
    assert len({each.item for each in found}) == len(found)


def test_hour_and_minute_meet_eleven_times_in_twelve_hours() -> None:
    clocks = [each.clock for each in looks(("hour", "minute"))]
    assert clocks[:3] == ["12:00:00", "1:05:27", "2:10:55"]
    assert len(clocks) == 11


@pytest.mark.parametrize(
    ("typed", "minutes"), [("00:04", 4), ("23:52", -8), ("0:00", 0), ("12:00", 720), (" 12.01", -719)]
)
def test_minutes_from_midnight(typed: str, minutes: int) -> None:
    assert minutes_from_midnight("jumped", typed) == minutes
    assert str(abs(minutes)) in clock_words(minutes) or minutes == 0


@pytest.mark.parametrize("typed", ["", "24:00", "12:60", "noon", "1:2:3", "-1:00", "١٢:٠٠", "123:00"])
def test_what_is_no_time_is_refused(typed: str) -> None:
    with pytest.raises(DimensionError):
        minutes_from_midnight("jumped", typed)


entry_lists = st.lists(
    st.tuples(st.floats(0.0, 400.0), st.floats(-30.0, 30.0), st.floats(0.2, 3.0)), min_size=2, max_size=9,
    unique_by=lambda row: round(row[0], 1),
)  # fmt: skip


@given(entry_lists)
def test_the_rate_from_the_wrist_is_weighted_least_squares(rows: list[tuple[float, float, float]]) -> None:
    rows.sort()
    assume(rows[-1][0] - rows[0][0] > 1.0)
    found = stretches([WristEntry(hours * 3600.0, "read", off, u=u) for hours, off, u in rows])[0]
    days = np.array([(row[0] - rows[0][0]) / 24.0 for row in rows])
    weights = np.array([1.0 / row[2] for row in rows])
    fit, covariance = np.polyfit(days, [row[1] for row in rows], 1, w=weights, cov="unscaled")
    assert found.rate == pytest.approx(fit[0], abs=1e-6 + 1e-6 * abs(fit[0]))
    assert found.rate_u == pytest.approx(math.sqrt(covariance[0, 0]), rel=1e-6)
    assert found.start == pytest.approx(fit[1], abs=1e-6)


def test_a_setting_begins_a_stretch_and_one_reading_tells_no_rate() -> None:
    found = stretches([
        WristEntry(0.0, "set", 0.0), WristEntry(43_200.0, "read", 3.0, "worn"), WristEntry(86_400.0, "read", 4.0, "dial_up"),
        WristEntry(90_000.0, "set", 0.0),
    ])  # fmt: skip
    assert [stretch.rate for stretch in found] == [pytest.approx(4.0), None]
    assert [(way, round(rate, 3)) for way, rate, _ in found[0].by_way] == [("worn", 6.0), ("dial_up", 2.0)]
    assert stretches([]) == []


@given(st.lists(st.floats(-100.0, 100.0), min_size=1, max_size=20), st.floats(-43_000.0, 43_000.0))
def test_offsets_that_wrap_are_laid_out_straight(steps: list[float], start: float) -> None:
    true = start + np.cumsum(steps)
    shown = [(value + 43_200.0) % 86_400.0 - 43_200.0 for value in true]
    laid = np.array(unwrapped(shown))
    assert np.allclose(np.diff(laid), np.diff(true), atol=1e-6)


@given(st.floats(0.0, 2e9), st.floats(-500.0, 500.0), st.floats(-29.0, 29.0))
def test_a_full_minute_tells_the_offset_nearest_to_the_last(at: float, before: float, since: float) -> None:
    """The watch shows a full minute: time and offset together are a multiple of sixty."""
    found = offset_at_minute(at, before)
    assert abs((at + found + 30.0) % 60.0 - 30.0) < 1e-5
    assert abs(found - before) <= 30.0 + 1e-6
    shifted = offset_at_minute(at - since, found)
    assert shifted == pytest.approx(found + since, abs=1e-5)


@pytest.mark.parametrize(
    ("told", "hours"),
    [
        ((("wound", 0), ("stopped", 41)), 41.0),
        ((("stopped", 3),), None),
        ((("wound", 0), ("wound", 5), ("stopped", 45)), 40.0),
        ((), None),
    ],
)
def test_the_power_reserve_is_from_the_last_winding_to_the_stop(told: Any, hours: float | None) -> None:
    assert power_reserve_h([WristEntry(at * 3600.0, what) for what, at in told]) == hours


points = st.tuples(st.floats(0.0, 1000.0), st.floats(0.0, 1000.0))


@given(
    st.floats(-179.0, 179.0), st.floats(0.0, 360.0), st.floats(40.0, 500.0), st.floats(40.0, 500.0), points
)
def test_an_angle_comes_out_clockwise(
    degrees: float, start: float, d1: float, d2: float, centre: Any
) -> None:
    def at(angle: float, distance: float) -> tuple[float, float]:
        turned = math.radians(angle)
        return centre[0] + distance * math.sin(turned), centre[1] - distance * math.cos(turned)

    found = picture_angle(centre, at(start, d1), at(start + degrees, d2))
    assert found.degrees == pytest.approx(degrees, abs=1e-6)


@pytest.mark.parametrize(
    ("marker", "tip"), [((0, -300), (10, -200)), ((0, -300), (0, 250)), ((0, -300), (150, 0))]
)
def test_the_doubt_of_an_angle_is_what_clicks_scatter(marker: tuple[int, int], tip: tuple[int, int]) -> None:
    chance = random.Random(5)
    u = picture_angle((0.0, 0.0), marker, tip).u

    def jittered(point: tuple[float, float]) -> tuple[float, float]:
        return point[0] + chance.gauss(0, 1), point[1] + chance.gauss(0, 1)

    drawn = [picture_angle(jittered((0, 0)), jittered(marker), jittered(tip)).degrees for _ in range(4000)]
    middle = [math.remainder(value - drawn[0], 360.0) for value in drawn]
    assert u == pytest.approx(float(np.std(middle)), rel=0.06)


@settings(max_examples=60)
@given(
    st.floats(-0.0006, 0.0006),
    st.floats(-0.0006, 0.0006),
    st.floats(0.6, 1.4),
    st.floats(-0.3, 0.3),
    st.floats(-60, 60),
)
def test_a_picture_taken_askew_is_squared_up(
    p: float, q: float, wide: float, shear: float, degrees: float
) -> None:
    """Whatever projective map a camera makes of a dial, the angle on the dial comes back."""

    def seen(x: float, y: float) -> tuple[float, float]:
        w = 1.0 + p * x + q * y
        return (wide * x + shear * y) / w + 500.0, (0.1 * x + y) / w + 400.0

    turned = math.radians(degrees)
    corners = [seen(0, -300), seen(300, 0), seen(0, 300), seen(-300, 0)]
    flat = squared_up(
        corners, [seen(0, 0), seen(0, -300), seen(250 * math.sin(turned), -250 * math.cos(turned))]
    )
    centre, marker, tip = flat
    assert picture_angle(centre, marker, tip).degrees == pytest.approx(degrees, abs=1e-5)


@pytest.mark.parametrize(
    "corners",
    [[(0, 0)] * 4, [(0, 0), (1, 1), (2, 2), (3, 3)], [(0, 0), (100, 0), (200, 0), (300, 0)], [(0, 0)] * 3],
)
def test_corners_that_span_no_dial_are_refused(corners: Any) -> None:
    with pytest.raises(DimensionError):
        squared_up(corners, [(1.0, 1.0)])
    with pytest.raises(DimensionError):
        picture_angle((0.0, 0.0), (3.0, 0.0), (100.0, 0.0))


@given(
    st.floats(0.05, 5.0),
    st.floats(0.2, 1.6),
    st.lists(st.floats(0.5, 200.0), min_size=2, max_size=8, unique=True),
)
def test_a_law_is_found_again_in_what_it_gives(first: float, exponent: float, minutes: list[float]) -> None:
    assume(max(minutes) > 1.5 * min(minutes))
    found = lume_decay([LumeReading(t, first * t**-exponent) for t in minutes])
    assert found is not None
    assert found.exponent == pytest.approx(exponent, abs=1e-6)
    assert found.brightness(10.0) == pytest.approx(first * 10.0**-exponent, rel=1e-6)
    half = found.half_min
    assert half is not None
    assert found.brightness(half) == pytest.approx(found.brightness(1.0) / 2.0, rel=1e-6)


def test_what_fades_apart_is_told_by_how_many_times() -> None:
    laws = {
        name: lume_decay([LumeReading(t, a * t**-n) for t in (1.0, 10.0, 60.0)])
        for name, a, n in (("dial", 1.0, 0.9), ("hands", 0.8, 1.2))
    }
    found = together({name: law for name, law in laws.items() if law})
    assert [minutes for minutes, _, _ in found] == [1.0, 10.0, 60.0]
    assert [ratio for _, ratio, _ in found] == pytest.approx([1.25, 1.25 * 10**0.3, 1.25 * 60**0.3])
    assert [passes for _, _, passes in found] == [True, False, False]
    assert lume_decay([LumeReading(1.0, 2.0)]) is None


@pytest.mark.parametrize(("level", "light"), [(0, 0.0), (10, 10 / 255 / 12.92), (255, 1.0), (188, 0.5029)])
def test_the_curve_of_srgb_is_undone(level: float, light: float) -> None:
    assert linear(level) == pytest.approx(light, abs=1e-4)


@pytest.mark.parametrize("how", [(0.0, 0.5, 0.5), (1.0, 0.0, 0.5), (1.0, 0.5, 0.0), (9999.0, 0.5, 0.5)])
def test_a_reading_with_no_light_in_it_is_refused(how: tuple[float, float, float]) -> None:
    with pytest.raises(DimensionError):
        lume_reading(*how)


def test_the_night_face_fades_as_it_was_measured() -> None:
    build = DEMO["skerry-light"]
    face = seen_face(build, report_on(build, MODEL.rules_of(build)))
    lit = with_proved_light(face, {"dial": (0.06, 1.0), "hands": (0.03, 1.2)})
    assert lit.dial is not None
    dial = next(marker.lume for marker in lit.dial.markers if marker.lume)
    hands = next(hand.lume for hand in lit.hands if hand.lume)
    assert dial.paste.brightness(10.0) == pytest.approx(2.0 * hands.paste.brightness(10.0))
    assert dial.paste.brightness(100.0) == pytest.approx(dial.paste.brightness(10.0) / 10.0)
    assert with_proved_light(face, {}) is face
