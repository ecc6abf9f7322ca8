"""Readings, worksheets, pictures and threads: published or hand-computed figures, and their doubt."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.measuring.instrument import USUAL_INSTRUMENTS, Instrument
from marquetry.core.measuring.picture_scale import PlanPoint, fit, polar
from marquetry.core.measuring.repeated import repeated
from marquetry.core.measuring.thread import thread_matches, threads
from marquetry.core.measuring.worksheets import WORKSHEETS, worksheet_named, worksheets_for
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import DimensionError, NotFoundError
from tests.strategies import ANATOMY

CALIPER = USUAL_INSTRUMENTS[0]
BORE = ANATOMY.quantity_at("case.dial_bore")


def measured(value: float, tol: float = 0.02) -> Dimension:
    return Dimension(value, tol, Source.MEASURED)


def test_types_a_and_b_add_in_squares() -> None:
    """28.60, 28.62, 28.61: s = 0.01, type A 0.01/√3; type B hypot(0.02/2, 0.01/√12)."""
    found = repeated([28.60, 28.62, 28.61], CALIPER)
    assert found.mean == pytest.approx(28.61)
    assert found.spread == pytest.approx(0.01)
    assert found.type_a == pytest.approx(0.01 / math.sqrt(3))
    assert found.type_b == pytest.approx(math.hypot(0.01, 0.01 / math.sqrt(12)))
    assert found.dimension().tol == pytest.approx(2 * math.hypot(found.type_a, found.type_b))
    assert found.dimension().source is Source.MEASURED


@pytest.mark.parametrize(
    ("readings", "outliers"),
    [
        ([28.60, 28.61, 28.62, 28.61, 28.91], (4,)),
        ([28.60, 28.60, 28.60, 28.60, 28.60, 28.70], (5,)),
        ([28.60, 28.61, 28.62, 28.63], ()),
        ([28.60, 29.60], ()),
        ([28.60] * 5, ()),
        ([28.60], ()),
    ],
)
def test_a_reading_far_from_the_rest_is_flagged_and_kept(readings: list[float], outliers: object) -> None:
    found = repeated(readings, CALIPER)
    assert found.outliers == outliers
    assert found.mean == pytest.approx(np.mean(readings))


@pytest.mark.parametrize("readings", [[], [28.6] * 51])
def test_no_readings_or_too_many_are_refused(readings: list[float]) -> None:
    with pytest.raises(DimensionError, match="one to 50 readings"):
        repeated(readings, CALIPER)


@given(st.lists(st.floats(10, 40), min_size=2, max_size=20), st.floats(0.001, 0.1))
def test_more_of_the_same_readings_never_raise_the_doubt(readings: list[float], uncertainty: float) -> None:
    instrument = Instrument("any", 0.01, uncertainty, ("inside",))
    once, twice = repeated(readings, instrument), repeated(readings * 2, instrument)
    assert twice.standard_uncertainty <= once.standard_uncertainty + 1e-9
    assert once.standard_uncertainty >= uncertainty / 2 - 1e-12


FOOT_ANGLE = math.radians(33)
ROWS = [
    ("seat-to-tube", {"seat": 5.86, "hole": 1.99, "bore": 2.5}, {"seat_to_tube": 2.62}),
    ("seat-to-back-plane", {"disc_to_plane": 5.45, "disc": 0.40}, {"seat_to_back_plane": 5.85}),
    ("crystal-ledge", {"height": 9.40, "rim": 0.83, "seat": 5.85}, {"seat_to_crystal": 2.72}),
    ("post-minute", {"above": 1.47, "dial": 0.40, "behind": 0.0}, {"posts.minute.top": 1.87}),
    ("ball-case-movement_bore", {"ball": 30.0, "top": 18.2}, {"movement_bore": 2 * math.sqrt(11.8 * 18.2)}),
    ("pins-dial-centre_hole", {"goes": 1.94, "not": 1.96}, {"centre_hole": 1.95}),
    ("stem-seated", {"edge": 42.1, "movement": 27.0, "stem": 24.5}, {"centre_to_stem_tip": 4.1}),
    (
        "place-foot",
        {
            "dial": 28.5,
            "across": 0.7,
            "edge": 14.25 - 12.6 - 0.35,
            "chord": math.sqrt(12.6**2 + 14.25**2 - 2 * 12.6 * 14.25 * math.cos(FOOT_ANGLE)) - 0.35,
        },
        {"feet.*.radius": 12.6, "feet.*.angle": 33.0},
    ),
]


@pytest.mark.parametrize(
    ("key", "readings", "expected"), ROWS, ids=lambda row: row if isinstance(row, str) else ""
)
def test_a_worksheet_computes_what_its_readings_say(
    key: str, readings: dict[str, float], expected: dict[str, float]
) -> None:
    found = worksheet_named(key).compute({name: measured(value) for name, value in readings.items()})
    assert {path: computed.dimension.value for path, computed in found.items()} == pytest.approx(expected)
    for computed in found.values():
        assert computed.dimension.tol > 0
        assert sum(computed.shares.values()) == pytest.approx(1.0)


def test_a_worksheet_carries_the_doubt_first_order_and_counts_a_reading_once() -> None:
    readings = {"seat": measured(5.86), "hole": measured(1.99, 0.03), "bore": measured(2.5, 0.02)}
    found = worksheet_named("seat-to-tube").compute(readings)["seat_to_tube"]
    assert found.dimension.tol == pytest.approx(math.sqrt(0.02**2 + 0.03**2 + 0.01**2))
    foot = dict(ROWS[-1][1])
    place = worksheet_named("place-foot").compute({k: measured(v, 0.02) for k, v in foot.items()})
    # radius = dial/2 − edge − across/2
    assert place["feet.*.radius"].dimension.tol == pytest.approx(math.sqrt(0.01**2 + 0.02**2 + 0.01**2))


def test_readings_that_cannot_belong_together_are_refused() -> None:
    impossible = {
        "dial": measured(28.5),
        "across": measured(0.7),
        "edge": measured(1.3),
        "chord": measured(40.0),
    }
    with pytest.raises(DimensionError, match="belong to one part"):
        worksheet_named("place-foot").compute(impossible)
    with pytest.raises(DimensionError, match="belong to one part"):
        worksheet_named("ball-case-dial_bore").compute({"ball": measured(20.0), "top": measured(21.0)})
    with pytest.raises(NotFoundError):
        worksheet_named("guesswork")


def test_every_worksheet_serves_a_described_dimension_and_every_hard_one_has_a_worksheet() -> None:
    for worksheet in WORKSHEETS:
        for result in worksheet.results:
            path = f"{worksheet.part}.{result.path.replace('*', '0')}"
            assert isinstance(ANATOMY.entry_at(path)[-1], Quantity)
            assert worksheet in worksheets_for(path)
    assert [w.key for w in worksheets_for("case.seat_to_tube")] == ["seat-to-tube"]
    assert worksheets_for("dial.feet.3.angle")
    assert worksheets_for("movement.centre_to_stem_tip")


CORNERS: list[PlanPoint] = [(-10.0, -10.0), (10.0, -10.0), (10.0, 10.0), (-10.0, 10.0)]


def seen(place: PlanPoint) -> PlanPoint:
    """A picture 20 pixels a millimetre, turned by 7° and stretched by a hundredth, y down."""
    x, y = place
    turn = math.radians(7)
    return (
        400 + 20.2 * (x * math.cos(turn) + y * math.sin(turn)),
        300 - 20.0 * (y * math.cos(turn) - x * math.sin(turn)),
    )


def test_a_picture_gives_places_back_and_its_residuals_their_doubt() -> None:
    exact = fit([seen(corner) for corner in CORNERS], CORNERS)
    assert exact.residuals == pytest.approx([0.0] * 4, abs=1e-9)
    angle = math.radians(33)
    foot = (12.6 * math.sin(angle), 12.6 * math.cos(angle))
    radius, place = polar(exact, seen((0.0, 0.0)), seen(foot))
    assert (radius.value, place.value) == pytest.approx((12.6, 33.0))
    assert polar(exact, seen((0.0, 0.0)), seen(foot), from_back=True)[1].value == pytest.approx(327.0)
    clicked = [seen(corner) for corner in CORNERS]
    clicked[0] = (clicked[0][0] + 8.0, clicked[0][1])
    rough = fit(clicked, CORNERS)
    assert max(rough.residuals) > 0.05
    assert polar(rough, seen((0.0, 0.0)), seen(foot))[0].tol > radius.tol


@pytest.mark.parametrize(
    "marks", [CORNERS[:2], [(0.0, 0.0), (1.0, 1.0), (2.0, 2.0)]], ids=["two marks", "in one line"]
)
def test_marks_that_fix_no_map_are_refused(marks: list[PlanPoint]) -> None:
    with pytest.raises(DimensionError):
        fit([seen(mark) for mark in marks], marks)


@pytest.mark.parametrize(
    ("outside", "over", "pitches", "name"),
    [(0.89, 2.25, 10, "0.90"), (0.98, 1.25, 5, "1.00"), (1.18, 2.5, 10, "1.20"), (0.50, 1.26, 10, "0.50")],
)
def test_a_thread_is_told_by_diameter_and_pitch(outside: float, over: float, pitches: int, name: str) -> None:
    first = thread_matches(measured(outside, 0.01), measured(over), pitches)[0]
    assert (first.thread.name, first.fits) == (name, True)


def test_a_thread_of_no_standard_fits_none() -> None:
    assert len(threads()) == 14
    assert not any(c.fits for c in thread_matches(measured(0.75, 0.01), measured(3.0), 10))
