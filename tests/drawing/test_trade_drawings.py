"""Drawings of trade: lanes over the days, the plank of money to scale, codes that lead where they say."""

import pytest
import segno
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.values.day import later
from marquetry.drawing.scene import Box, CutFace, Label, Line, Scene
from marquetry.drawing.trade.label_code import ANY_MASK, MODULE, QUIET, label_code
from marquetry.drawing.trade.lanes import LEFT, RIGHT, Lane, lanes
from marquetry.drawing.trade.money_inlay import LEAST, TONES, Strip, money_inlay
from marquetry.drawing.trade.money_inlay import LEFT as PLANK_LEFT
from marquetry.drawing.trade.money_inlay import WIDTH as PLANK_WIDTH

TODAY = "2026-11-24"


def boxes(scene: Scene, word: str) -> list[Box]:
    return [mark for mark in scene.walk() if isinstance(mark, Box) and word in mark.classes]


@given(
    st.lists(st.tuples(st.integers(-40, 0), st.integers(0, 90), st.integers(0, 60)), min_size=1, max_size=8)
)
def test_a_lane_is_as_long_as_its_days_and_its_risk_follows_it(days: list[tuple[int, int, int]]) -> None:
    orders = [
        Lane(f"S{n}", later(TODAY, begun), later(TODAY, taken), later(TODAY, taken + risk), "60.00 EUR")
        for n, (begun, taken, risk) in enumerate(days)
    ]
    scene = lanes(orders, TODAY, [(later(TODAY, 30), "Skerry Light")])
    bodies, risks = boxes(scene, "body"), boxes(scene, "lane-risk")
    assert len(bodies) == len(days)
    assert len(risks) == sum(risk > 0 for _, _, risk in days)
    scales = [
        body.width / (taken - begun)
        for body, (begun, taken, _) in zip(bodies, days, strict=True)
        if taken - begun > 9
    ]
    assert all(scale == pytest.approx(scales[0]) for scale in scales), "one scale for all"
    for box in (*bodies, *risks):
        assert LEFT - 0.01 <= box.at[0] <= box.at[0] + box.width <= RIGHT + 0.81
    assert len({box.at[1] for box in bodies}) == len(days), "a lane each"
    assert any(isinstance(mark, Label) and mark.text == "today" for mark in scene.walk())


def test_a_late_order_is_marked_as_late() -> None:
    scene = lanes([Lane("S", "2026-11-01", "2026-11-10", "2026-11-12", "late", is_late=True)], TODAY, [])
    assert [mark for mark in scene.walk() if isinstance(mark, Line) and mark.classes == "lane-late"]
    assert "S arrives 2026-11-10" in scene.description


strips = st.lists(
    st.tuples(st.sampled_from(sorted(TONES)), st.integers(-500, 200_000)),
    min_size=1,
    max_size=9,
    unique_by=lambda s: s[0],
)


@given(strips, st.none() | st.integers(1, 300_000))
def test_the_plank_is_to_scale_without_a_gap_and_names_every_strip(
    told: list[tuple[str, int]], budget: int | None
) -> None:
    held = [Strip(kind, f"{kind} things", minor, f"{minor / 100:.2f} EUR") for kind, minor in told]
    scene = money_inlay(held, budget, "1350.00 EUR")
    drawn = [mark for mark in scene.walk() if isinstance(mark, Box)]
    spent = [strip for strip in held if strip.minor > 0]
    assert len(drawn) == len(spent)
    at = PLANK_LEFT
    for box in drawn:
        assert box.at[0] == pytest.approx(at)
        at += box.width
    wide = [(box.width, strip.minor) for box, strip in zip(drawn, spent, strict=True) if box.width > LEAST]
    assert all(width / minor == pytest.approx(wide[0][0] / wide[0][1]) for width, minor in wide)
    assert at <= (PLANK_WIDTH - PLANK_LEFT) + LEAST * len(drawn)
    words = " ".join(mark.text for mark in scene.walk() if isinstance(mark, Label))
    assert all(strip.words in words and strip.told in words for strip in spent)
    assert ("budget" in words) == (budget is not None)


@given(st.integers(1, 10**9))
def test_a_code_holds_the_modules_of_its_address(number: int) -> None:
    address = f"http://127.0.0.1:8765/parts/{number}"
    scene = label_code(address, "Gull grey")
    (dark,) = (mark for mark in scene.marks if isinstance(mark, CutFace))
    rows = [list(row) for row in segno.make(address, error="m", micro=False, mask=ANY_MASK).matrix]
    drawn = [[0] * len(rows) for _ in rows]
    for (left, low), (right, _), _, _ in dark.outlines:
        row = len(rows) - 1 - round(low / MODULE - QUIET)
        for place in range(round(left / MODULE) - QUIET, round(right / MODULE) - QUIET):
            drawn[row][place] = 1
    assert drawn == [[int(bool(cell)) for cell in row] for row in rows]
    assert scene.description == address
