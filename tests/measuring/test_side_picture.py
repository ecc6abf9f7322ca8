"""A height in a side picture: against the figures a drawing was made from, turned, and with its doubt."""

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.measuring.side_picture import height_in_picture
from marquetry.core.values.errors import DimensionError

Point = tuple[float, float]


def drawn(turn: float, per_mm: float, *, jitter: random.Random | None = None) -> dict[str, Point]:
    """A dial, a shim of 1.29 mm beside the post, a blade 0.83 mm over the dial, as pixels."""
    spots = {
        "shim low": (-2.0, 0.0),
        "shim high": (-2.0, 1.29),
        "left": (-6.0, 0.0),
        "right": (6.0, 0.0),
        "blade": (3.0, 0.83),
    }
    found = {}
    for name, (x, y) in spots.items():
        across = x * math.cos(turn) - y * math.sin(turn)
        up = x * math.sin(turn) + y * math.cos(turn)
        off = (jitter.gauss(0, 1), jitter.gauss(0, 1)) if jitter else (0.0, 0.0)
        found[name] = (900 + across * per_mm + off[0], 700 - up * per_mm + off[1])
    return found


def read(spots: dict[str, Point]) -> tuple[float, float]:
    known, floor = (spots["shim low"], spots["shim high"]), (spots["left"], spots["right"])
    found = height_in_picture(known, 1.29, floor, spots["blade"])
    return found.value, found.tol


@given(st.floats(-0.5, 0.5), st.floats(40, 300))
def test_a_turned_picture_gives_the_height_it_was_drawn_from(turn: float, per_mm: float) -> None:
    value, tol = read(drawn(turn, per_mm))
    assert value == pytest.approx(0.83, abs=1e-9)
    swapped = drawn(turn, per_mm)
    swapped["left"], swapped["right"] = swapped["right"], swapped["left"]
    assert read(swapped)[0] == pytest.approx(0.83, abs=1e-9)
    assert 0 < tol < 12 / per_mm


def test_the_doubt_told_covers_what_unsteady_clicks_do() -> None:
    draws = random.Random(3)  # noqa: S311  # seeded clicks
    found = [read(drawn(0.1, 120, jitter=draws)) for _ in range(800)]
    inside = sum(abs(value - 0.83) <= tol for value, tol in found)
    assert 0.93 < inside / 800 < 0.98


@pytest.mark.parametrize(
    ("known_mm", "spoil"), [(0.0, {}), (1.29, {"shim high": (900.0, 700.0), "shim low": (902.0, 700.0)})]
)
def test_what_tells_no_scale_is_refused(known_mm: float, spoil: dict[str, Point]) -> None:
    spots = {**drawn(0.0, 100), **spoil}
    with pytest.raises(DimensionError):
        height_in_picture(
            (spots["shim low"], spots["shim high"]), known_mm, (spots["left"], spots["right"]), spots["blade"]
        )
