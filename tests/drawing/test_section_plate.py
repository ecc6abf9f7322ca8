"""The section as data and as SVG: to scale, complete, labels apart, nothing unescaped."""

import re
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from lxml import etree

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.model import Model
from marquetry.core.section.lay_out import Section, lay_out
from marquetry.core.section.undrawable import refuse_undrawable
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.schema import Group, PlainRing, Quantity
from marquetry.core.sheet.ways import JAWS
from marquetry.core.values.errors import SheetError
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.labels import LabelBoard
from marquetry.drawing.margin_notes import FEW_NOTES
from marquetry.drawing.scene import Box, Cluster, Line, Scene
from marquetry.drawing.section_plate import section_plate
from marquetry.drawing.section_thumb import section_thumb
from marquetry.drawing.sheet import NOTE_HEIGHT, STRETCHES, VIEWS, Display
from marquetry.drawing.svg import number, to_svg
from tests.strategies import MODEL, builds, case_build, report_on

SVG = {"s": "http://www.w3.org/2000/svg"}


def section_of(build: Build) -> Section:
    return lay_out(build, report_on(build))


def plate(build: Build, display: Display | None = None) -> Scene:
    return section_plate(section_of(build), build.name, display)


def outline(section: Section, part: str) -> tuple[tuple[float, float], ...]:
    return next(body.outline for body in section.bodies if body.part == part and body.material != "void")


def test_everything_that_is_described_can_be_drawn() -> None:
    refuse_undrawable(MODEL)
    assert len([check for check in MODEL.checks if check.span]) > 25


def titled(title: str, *span: str) -> Model:
    """The model with one more check of this title, drawn between these stations."""
    words = Words(means="It means.", below="It is.", helps=())
    drawn = Span("z", span[0], span[1], beside=span[2]) if span else None
    made = FormulaCheck(
        name="new", title=title, limits=Limits(0.0, None), formula=lambda _: 1.0, span=drawn, words=words
    )
    return MODEL.with_check(made)


def ringed(**changed: Any) -> Model:
    """The model with one more part, a plain ring."""
    sizes = tuple(
        Quantity(key, key, 1.0, (0.1, 9.0), JAWS, "thickness") for key in ("inside", "outside", "high")
    )
    ring = {"inner": "inside", "outer": "outside", "thickness": "high", "lies_on": "back_inner", **changed}
    return MODEL.with_part(Group("hoop", "Hoop", sizes, drawn=PlainRing(**ring)))


@pytest.mark.parametrize(
    ("model", "told"),
    [
        (titled("Far too long a title for a note"), "check new, title: expected at most 25 letters"),
        (titled("New", "nowhere", "seat", "dial_edge"), "check new, span's start: expected a name"),
        (titled("New", "seat", "nowhere", "dial_edge"), "check new, span's end: expected a name"),
        (titled("New", "seat", "seat", "nowhere"), "check new, span's beside: expected a name"),
        (ringed(lies_on="nowhere"), "part hoop, lies_on: expected a height in core"),
        (ringed(outer="width"), "part hoop, drawn: expected a dimension of the part, found width."),
    ],
)  # fmt: skip
def test_what_cannot_be_drawn_is_told_in_one_sentence(model: Model, told: str) -> None:
    with pytest.raises(SheetError, match=re.escape(told)):
        refuse_undrawable(model)


@pytest.mark.parametrize(
    ("check", "distance"), [("stem_height", 0.74), ("rotor_clearance", 1.35), ("dial_cover", 0.85)]
)
def test_a_gap_is_as_long_as_what_it_dimensions(check: str, distance: float) -> None:
    """Case 02; the cover is drawn with the dial centred, half the bore's play more than its worst place."""
    (gap,) = (g for g in section_of(case_build(2)).gaps if g.finding.check == check)
    (r1, z1), (r2, z2) = gap.start, gap.end
    assert abs(r2 - r1) + abs(z2 - z1) == pytest.approx(distance)


def test_bodies_lie_where_their_dimensions_say() -> None:
    section = section_of(case_build(3))
    assert {z for _, z in outline(section, "spacers.0")} == {0.0, -0.74}
    assert {round(z, 6) for _, z in outline(section, "dial")} == {-0.74, -1.14}
    assert max(r for r, _ in outline(section, "dial")) == 14.25
    assert max(z for _, z in outline(section, "movement")) == pytest.approx(-1.14)
    assert min(z for _, z in outline(section, "crystal")) == pytest.approx(2.1)


def test_heights_are_stretched_and_the_scale_is_told() -> None:
    for stretch in STRETCHES:
        scene = plate(case_build(1), Display(stretch=stretch))
        (dial,) = (m for m in scene.walk() if isinstance(m, Line) and m.title == "Dial")
        xs, ys = zip(*dial.points, strict=True)
        wide, high = (14.25 - 1.95 / 2), 0.4
        assert (max(ys) - min(ys)) / high == pytest.approx(stretch * (max(xs) - min(xs)) / wide)


def test_what_is_not_measured_is_dashed_and_says_so() -> None:
    text = to_svg(plate(case_build(9)), standalone=True)
    root: Any = etree.fromstring(text)
    dashed = root.xpath("//s:path[contains(@class, 'assumed')]/s:title/text()", namespaces=SVG)
    assert any("Movement" in title and "dial face to stem axis" in title for title in dashed)
    assert "Dashed: not measured, drawn where usual" in text


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(builds())
def test_any_build_is_drawn_in_every_view_and_notes_never_overlap(build: Build) -> None:
    for view in VIEWS:
        scene = plate(build, Display(view=view))
        notes = [m for m in scene.walk() if isinstance(m, Box) and m.classes == "note-back"]
        for x in {note.at[0] for note in notes}:
            bottoms = sorted(note.at[1] for note in notes if note.at[0] == x)
            assert all(above - below >= NOTE_HEIGHT - 1e-6 for below, above in pairwise(bottoms))
            assert all(0 <= b <= scene.height - NOTE_HEIGHT for b in bottoms)
        etree.fromstring(to_svg(scene))
    etree.fromstring(to_svg(section_thumb(section_of(build), build.name)))


def test_each_spoken_finding_has_its_gap_and_its_note() -> None:
    build = case_build(9)
    scene = plate(build, Display(link="?view=half&", chosen="dial_cover"))
    groups = [m for m in scene.walk() if isinstance(m, Cluster)]
    findings = report_on(build).findings.values()
    spanned = {
        f.check for f in findings if f.verdict is not Verdict.SKIPPED and MODEL.check_by_name[f.check].span
    }
    assert {group.data["check"] for group in groups if group.data} == spanned
    noted = {g.link.split("check=")[1] for g in groups if g.link}
    assert len(noted) == FEW_NOTES
    assert "dial_cover" in noted
    assert {f.check for f in findings if f.verdict.gravity > 1 and f.check in spanned} <= noted


def test_the_chosen_finding_has_a_note_however_clear_it_is() -> None:
    for check in ("crystal_squeeze", "insert_recess"):
        scene = plate(case_build(1), Display(link="?view=half&", chosen=check))
        links = [m.link for m in scene.walk() if isinstance(m, Cluster) and m.link]
        assert f"?view=half&check={check}" in links


def test_a_name_cannot_break_out_of_the_drawing() -> None:
    build = case_build(1).renamed("</svg><script>alert(1)</script>")
    for standalone in (True, False):
        assert "<script" not in to_svg(plate(build), standalone=standalone)


def test_a_file_of_its_own_has_its_size_in_millimetres_and_its_style_within() -> None:
    root = etree.fromstring(to_svg(plate(case_build(1), Display(link="?view=half")), standalone=True))
    assert (root.get("width"), root.get("viewBox")) == ("320mm", "0 0 320 144")
    assert root.xpath("//s:style", namespaces=SVG)
    assert not root.xpath("//s:a", namespaces=SVG)


@pytest.mark.parametrize(
    ("value", "text"), [(1.0, "1"), (-0.001, "0"), (12.345, "12.35"), (100.0, "100"), (0.1, "0.1")]
)
def test_numbers_are_written_one_way(value: float, text: str) -> None:
    assert number(value) == text


def test_labels_at_one_place_are_put_beside_each_other() -> None:
    board = LabelBoard()
    for _ in range(6):
        board.place((10.0, 10.0), "0.10", 3.0)
    boxes = board.taken
    assert len({box[:2] for box in boxes}) == 6
