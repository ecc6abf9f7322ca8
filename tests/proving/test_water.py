"""A dry test's verdict, against least squares of numpy's; its file, and its stand-in."""

import json
import random
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.proving.pressure import Hold, PressureReading, hold
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.devices.chamber import LOSSES, Chamber
from marquetry.formats.pressure_csv import COLUMNS, hold_document, read_series, series_text


def series(
    loss: float, give: float = 50.0, noise: float = 0.05, held: float = 60.0, every: float = 0.5
) -> list[PressureReading]:
    """Pressure on within five seconds, held, let off; the give falls by `loss` of itself a minute."""
    chance = random.Random(3)
    rows = []
    for number in range(int((held + 8.0) / every)):
        time = number * every
        pressure = 3.0 * min(1.0, time / 5.0, max(0.0, (held + 8.0 - time) / 3.0))
        now = give * (1.0 - loss * max(0.0, time - 15.0) / 60.0) * pressure / 3.0
        rows.append(PressureReading(time, pressure, now + chance.gauss(0.0, noise)))
    return rows


VERDICTS: Any = (
    (0.0, {}, "tight"), (0.004, {}, "tight"), (0.1, {}, "leak"), (0.021, {"noise": 0.4}, "unsure"),
    (-0.2, {}, "unsure"), (0.0, {"held": 27.0}, "short"), (0.0, {"give": 0.02, "noise": 0.05}, "unreadable"),
    (0.3, {"held": 20.0}, "short"), (0.0, {"give": 0.0, "noise": 0.0}, "unreadable"),
)  # fmt: skip


@pytest.mark.parametrize(("loss", "how", "verdict"), VERDICTS)
def test_the_verdict(loss: float, how: dict[str, float], verdict: str) -> None:
    found = hold(series(loss, **how))
    assert found.verdict == verdict
    assert (found.loss is None) == (verdict == "short" or how.get("give") == 0.0)


@settings(max_examples=40, deadline=None)
@given(st.floats(-0.1, 0.4), st.floats(20.0, 90.0), st.floats(0.01, 0.5), st.randoms())
def test_loss_and_doubt_are_those_of_plain_least_squares_in_any_order(
    loss: float, give: float, noise: float, order: random.Random
) -> None:
    rows = series(loss, give, noise)
    shuffled = list(rows)
    order.shuffle(shuffled)
    found = hold(shuffled)
    held = [row for row in rows if row.pressure >= 0.98 * 3.0]
    rest = [row for row in held if row.time >= held[0].time + 10.0]
    time, values = np.array([r.time for r in rest]), np.array([r.deflection for r in rest])
    (slope, _), covariance = np.polyfit(time, values, 1, cov="unscaled")
    spread = np.sqrt(np.sum((values - np.polyval(np.polyfit(time, values, 1), time)) ** 2) / (len(time) - 2))
    first = values[:3].mean()
    assert found.loss == pytest.approx(-60.0 * slope / first, abs=1e-9)
    assert found.u == pytest.approx(60.0 * spread * np.sqrt(covariance[0, 0]) / first, rel=1e-6)
    assert found.deflection == pytest.approx(first)
    assert found.seconds == pytest.approx(held[-1].time - held[0].time)


def test_what_comes_after_the_hold_is_not_used() -> None:
    rows = series(0.0)
    again = [PressureReading(row.time + 100.0, row.pressure, 10.0) for row in rows]
    assert hold(rows) == hold([*rows, *again])


GOOD = f"# a comment\n{COLUMNS}\n0,0,1\n1,2.5,3e1\n"
BAD = (
    ("0,1\n", "line 1"), ("# a\n0,1,2\n1,x,2\n", "line 3"), ("0,1,nan\n", "line 1"), ("0,1,2,3\n", "line 1"),
    ("0,inf,2\n", "line 1"), ("", "none"), ("# only words\n", "none"), (f"{COLUMNS}\n", "none"),
)  # fmt: skip


def test_a_file_is_read_with_comments_with_or_without_its_heading() -> None:
    expected = [PressureReading(0, 0, 1), PressureReading(1, 2.5, 30)]
    assert read_series(GOOD.encode()) == read_series(("\ufeff" + GOOD).encode()) == expected
    assert read_series(b"0,0,1\r\n1,2.5,30\r\n") == expected
    assert read_series(series_text(expected, ["made here"]).encode()) == expected


@pytest.mark.parametrize(("text", "words"), BAD)
def test_a_file_with_rubbish_is_told_by_its_line(text: str, words: str) -> None:
    with pytest.raises(SheetError, match=words):
        read_series(text.encode())


@pytest.mark.parametrize("raw", [b"\xff\xfe\x00", b"x" * 4_000_001])
def test_what_is_no_text_or_too_much_is_refused(raw: bytes) -> None:
    with pytest.raises(SheetError):
        read_series(raw)


@settings(max_examples=200, deadline=None)
@given(st.binary(max_size=200) | st.text("0123456789,.-e\n#naif", max_size=200).map(str.encode))
def test_any_bytes_are_a_series_or_refused(raw: bytes) -> None:
    try:
        readings = read_series(raw)
    except SheetError:
        return
    found = hold(readings)
    assert isinstance(found, Hold)
    assert "NaN" not in json.dumps(hold_document(found))


@pytest.mark.parametrize("case", LOSSES)
def test_the_stand_ins_case_is_found_to_be_what_it_is(case: str) -> None:
    readings = list(Chamber(case, 5.0, 90.0, seed=2).readings())  # type: ignore[arg-type]  # one of its cases
    assert hold(readings).verdict == ("tight" if case == "sound" else "leak")
    assert len(list(Chamber("sound", 5.0, 40.0, seed=2).lines(faster=1e9))) > 50


@pytest.mark.parametrize("how", [{"bar": 0.1}, {"bar": 99.0}, {"hold_s": 0.0}])
def test_a_chamber_that_cannot_be_is_refused(how: Any) -> None:
    with pytest.raises(DimensionError):
        Chamber("sound", **how)
