"""Drawings of the story: strips of days, planks of years, deviations on a rule, chances, the card."""

import io
import re
from collections.abc import Sequence

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from marquetry.core.face.face import seen_face
from marquetry.core.fit.report import report_on
from marquetry.core.story.calibration import ChanceBand
from marquetry.core.story.card import CardRow
from marquetry.core.story.moment import TRADES, Trade
from marquetry.core.story.years import WatchYears
from marquetry.core.values.day import later
from marquetry.demo.workshop import demo_sheets
from marquetry.drawing.pdf import pdf_bytes
from marquetry.drawing.raster import png_bytes
from marquetry.drawing.scene import Box, Cluster, Label, Line, Scene
from marquetry.drawing.story import chance_curve, day_strips, off_strips, spec_card, year_planks
from marquetry.drawing.story.day_strips import MOST_COLUMNS, StripDay, gathered
from marquetry.drawing.story.off_strips import Strokes
from marquetry.drawing.story.spec_card import FOOT, HEIGHT, VALUE, WIDTH, CardWords
from tests.strategies import MODEL

FIRST = "2025-03-01"
counts = st.dictionaries(st.sampled_from(TRADES), st.integers(1, 40), min_size=1, max_size=6)


def days_of(found: Sequence[dict[Trade, int]]) -> list[StripDay]:
    return [StripDay(later(FIRST, 3 * k), one, f"/log#{k}") for k, one in enumerate(found)]


@given(st.lists(counts, min_size=1, max_size=200))
def test_strips_hold_every_moment_in_order_and_lead_to_their_days(found: list[dict[Trade, int]]) -> None:
    days = days_of(found)
    columns = gathered(days)
    assert len(columns) <= MOST_COLUMNS
    assert sum(c.total for c in columns) == sum(sum(one.values()) for one in found)
    assert [c.day for c in columns] == sorted(c.day for c in columns)
    scene = day_strips.day_strips(days, "A watch")
    drawn = [mark for mark in scene.walk() if isinstance(mark, Cluster)]
    assert [mark.link for mark in drawn] == [c.link for c in columns]
    tall = {
        c.total: sum(b.height for b in mark.children if isinstance(b, Box))
        for c, mark in zip(columns, drawn, strict=True)
    }
    assert [tall[total] for total in sorted(tall)] == sorted(tall.values()), "a busier day is never lower"
    for box in (mark for mark in scene.walk() if isinstance(mark, Box)):
        assert 0 <= box.at[0] <= box.at[0] + box.width <= scene.width
        assert box.at[1] + box.height <= scene.height


def test_a_watch_of_which_nothing_is_told_has_an_empty_strip() -> None:
    assert day_strips.day_strips([], "A watch").marks == ()


watches = st.lists(
    st.tuples(st.integers(0, 1500), st.integers(0, 200), st.booleans()), min_size=1, max_size=30
)


@given(watches)
def test_planks_and_their_names_never_lie_over_each_other(found: list[tuple[int, int, bool]]) -> None:
    told = [
        WatchYears(
            n, f"Watch {n}", later(FIRST, begun), later(FIRST, begun + took) if ended else None,
            "sold" if ended else "bench",
        )
        for n, (begun, took, ended) in enumerate(sorted(found))
    ]  # fmt: skip
    scene = year_planks.year_planks(told, later(FIRST, 1800), {0: "/story"})
    planks = [mark for mark in scene.walk() if isinstance(mark, Cluster)]
    assert len(planks) == len(told)
    spans = []
    for plank in planks:
        box = next(m for m in plank.children if isinstance(m, Box))
        name = next(m for m in plank.children if isinstance(m, Label))
        long = len(name.text) * year_planks.LETTER
        assert box.at[0] >= 0
        assert box.at[0] + box.width <= scene.width
        spans.append((box.at[1], min(box.at[0], name.at[0]), max(box.at[0] + box.width, name.at[0] + long)))
    for place, (row, left, _) in enumerate(spans):
        assert all(end <= left + 1e-6 for other, _, end in spans[:place] if other == row)


@given(st.lists(st.floats(-0.4, 0.4), max_size=80), st.floats(0.02, 0.3))
def test_every_deviation_is_on_the_rule_once(values: list[float], reach: float) -> None:
    scene = off_strips.off_strips(Strokes(values, (-0.01, 0.02), reach, 0.05), "mm", 0.5)
    marks = [mark for mark in scene.walk() if isinstance(mark, Line) and mark.classes == "off-stroke"]
    assert len(marks) == len(values)
    middles = sorted(sum(x for x, _ in mark.points) / 4 for mark in marks)
    expected = sorted(
        (off_strips.LEFT + off_strips.RIGHT) / 2 + v / 0.5 * (off_strips.RIGHT - off_strips.LEFT) / 2
        for v in values
    )
    assert middles == pytest.approx(expected, abs=0.6)
    assert all(max(y for _, y in mark.points) <= off_strips.BASE + off_strips.ROOM for mark in marks)
    band = next(m for m in scene.walk() if isinstance(m, Box) and m.classes == "off-reach")
    assert band.width == pytest.approx(2 * reach / 1.0 * (off_strips.RIGHT - off_strips.LEFT))


def test_chances_stand_on_the_line_where_they_are_true() -> None:
    bands = [ChanceBand(0.8, 0.95, 20, 0.9, 18, 0.7, 0.97), ChanceBand(0.5, 0.8, 20, 0.6, 3, 0.05, 0.36)]
    scene = chance_curve.chance_curve(bands)
    true, off = (m for m in scene.walk() if isinstance(m, Line) and m.classes.startswith("curve-band"))
    (x, _), (_, y), *_ = true.points
    assert x - chance_curve.LEFT == pytest.approx(y - chance_curve.BASE), "18 of 20 at 0.9"
    assert off.classes == "curve-band curve-off"
    assert [mark.text for mark in scene.walk() if isinstance(mark, Label) and " of " in mark.text] == [
        "18 of 20",
        "3 of 20",
    ]


BUILD = demo_sheets(MODEL.anatomy)["orchard"]
FACE = seen_face(BUILD, report_on(BUILD, MODEL.rules_of(BUILD)))
ROWS = [
    CardRow("diameter", "Across", "Ø 36.0 mm", "measured"), CardRow("height", "Height", "9.8 mm", "computed"),
    CardRow("lugs", "Lug width", "18.1 mm", "listed"),
    CardRow("strap", "Strap", "a strap with a long name, and another one beside it that is longer", "told"),
    CardRow("water", "Water", "dry at 3.0 bar (as 30 m), 2027-01-15", "tested"),
]  # fmt: skip


def card(rows: list[CardRow] = ROWS, name: str = "Orchard", line: str = "") -> Scene:
    return spec_card.spec_card(FACE, CardWords(name, line, "Kittiwake Bench"), rows)


@pytest.mark.parametrize("line", ["", "for the press room"])
def test_a_card_has_its_rows_in_order_within_its_frame(line: str) -> None:
    scene = card(line=line)
    labels = [mark for mark in scene.walk() if isinstance(mark, Label)]
    heights = [next(label.at[1] for label in labels if label.text == row.label) for row in ROWS]
    assert heights == sorted(heights, reverse=True)
    for label in (one for one in labels if one.at[0] == VALUE):
        assert label.at[0] + 0.5 * label.size * len(label.text) < WIDTH - 3
        assert FOOT <= label.at[1] < HEIGHT
    legend = {"measured", "from measures", "as listed", "tested"}
    assert legend <= {label.text for label in labels}, "every mark on it is explained"


def test_a_card_with_too_much_to_say_leaves_out_the_last() -> None:
    scene = card([CardRow(str(n), f"Row {n}", "word " * 18) for n in range(20)])
    shown = [mark.text for mark in scene.walk() if isinstance(mark, Label) and mark.text.startswith("Row")]
    assert shown == [f"Row {n}" for n in range(len(shown))]
    assert 2 < len(shown) < 20


def test_names_are_escaped_and_long_ones_fit() -> None:
    from marquetry.drawing.svg import to_svg  # noqa: PLC0415  # for this test alone

    drawn = to_svg(card(name="<script>&" + "W" * 60), standalone=True)
    assert "<script>" not in drawn
    assert re.search(r">&lt;script&gt;&amp;W+<", drawn)


def test_a_picture_has_the_asked_size_and_the_colours_of_the_face() -> None:
    image = Image.open(io.BytesIO(png_bytes(card(), 4.0, paper="#ffffff"))).convert("RGB")
    assert abs(image.width - WIDTH * 4) <= 1
    assert abs(image.height - HEIGHT * 4) <= 1
    colours = image.quantize(32).getcolors() or []
    assert len(colours) > 20
    part = Image.open(io.BytesIO(png_bytes(card(), 4.0, window=(10.0, 20.0, 50.0, 60.0))))
    assert abs(part.width - 200) <= 1
    assert abs(part.height - 240) <= 1
    with pytest.raises(ValueError, match="pixels"):
        png_bytes(card(), 100.0)


def test_paper_holds_the_face_and_words_that_can_be_sought() -> None:
    content = pdf_bytes([card()], "Orchard")
    assert b"/Subtype /Image" in content
    assert b"Fraunces" in content
    assert content == pdf_bytes([card()], "Orchard"), "byte for byte"
