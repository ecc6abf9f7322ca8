"""Lume by its source, the watch on a wrist by plain geometry, and what does not go together."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.face.accord import face_notes, is_warm
from marquetry.core.face.face import seen_face
from marquetry.core.face.night import LONGEST, pastes
from marquetry.core.face.on_wrist import BAR_UP, USUAL_WRIST, worn
from marquetry.core.face.shade import contrast, lit, luminance, mixed
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.colours import GLOWS, PALETTE
from tests.strategies import case_build, report_on

minutes = st.floats(0.0, LONGEST)


@pytest.mark.parametrize(
    ("after", "expected"),
    [(10, 140.0), (60, 20.0)],
    ids=["DIN 67510-1, ten minutes", "DIN 67510-1, an hour"],
)
def test_the_green_paste_is_as_bright_as_its_class_has_to_be(after: float, expected: float) -> None:
    assert pastes()["green"].brightness(after) == pytest.approx(expected, rel=0.005)


def test_every_glow_has_a_paste_with_a_source() -> None:
    assert set(pastes()) == set(GLOWS)
    assert all(paste.source for paste in pastes().values())
    assert [p.source for p in pastes().values() if "assumed" not in p.source] == ["DIN 67510-1"]


@given(glow=st.sampled_from(sorted(GLOWS)), early=minutes, later=minutes)
def test_lume_only_gets_darker(glow: str, early: float, later: float) -> None:
    early, later = sorted((early, later))
    paste = pastes()[glow]
    assert paste.brightness(early) >= paste.brightness(later) > 0
    assert 1 >= paste.seen(early) >= paste.seen(later) >= 0
    assert paste.seen(0.0) <= pastes()["green"].seen(0.0) == 1


@pytest.mark.parametrize(
    ("colour", "expected"), [("#ffffff", 1.0), ("#000000", 0.0), ("#808080", 0.2159), ("#ff0000", 0.2126)]
)
def test_luminance_is_that_of_the_published_formula(colour: str, expected: float) -> None:
    assert luminance(colour) == pytest.approx(expected, abs=1e-4)


def test_shades_lie_between_their_colours() -> None:
    assert contrast("#ffffff", "#000000") == pytest.approx(21.0)
    assert mixed("#102030", "#304050", 0.0) == "#102030"
    assert mixed("#102030", "#304050", 1.0) == "#304050"
    assert mixed("#000000", "#ffffff", 0.5) == "#808080"
    assert luminance(lit("#446688", 0.8)) > luminance("#446688") > luminance(lit("#446688", -0.8))
    assert is_warm(PALETTE["gold"])
    assert not is_warm(PALETTE["steel"])


def half_height_at(a: float, b: float, x: float) -> float:
    """Height of an ellipse over its middle, found by halving instead of the square root."""
    low, high = 0.0, b
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if (x / a) ** 2 + (middle / b) ** 2 < 1 else (low, middle)
    return low


@pytest.mark.parametrize("circumference", [150.0, 172.0, 205.0])
def test_the_gap_at_the_lugs_is_what_the_wrist_falls_away(circumference: float) -> None:
    build = case_build(16).with_target({"wrist_circumference_mm": circumference})
    sits = worn(Plausible(build, report_on(build).rules))
    a, b = sits.wide / 2, sits.high / 2
    steps = 20_000
    turns = [2 * math.pi * k / steps for k in range(steps + 1)]
    around = sum(
        math.hypot(a * (math.cos(t) - math.cos(u)), b * (math.sin(t) - math.sin(u)))
        for t, u in pairwise(turns)
    )
    assert around == pytest.approx(circumference, rel=1e-4)
    p = Plausible(build, report_on(build).rules)
    axis = p["case.diameter"] / 2 + p["case.bar_to_case"]
    fallen = b - half_height_at(a, b, axis)
    assert sits.gap == pytest.approx(BAR_UP + fallen - sits.thickness / 2, abs=1e-6)
    assert sits.is_wished


def test_a_thicker_strap_floats_less_and_a_wrist_nobody_wished_is_a_usual_one() -> None:
    build = case_build(16)
    gaps = []
    for thickness in (1.6, 2.8, 4.5):
        there = build.with_target({}).with_entry("strap.thickness", thickness)
        sits = worn(Plausible(there, report_on(there).rules))
        assert (sits.circumference, sits.is_wished) == (USUAL_WRIST, False)
        gaps.append(sits.gap)
    assert gaps == sorted(gaps, reverse=True)
    assert gaps[0] - gaps[2] == pytest.approx((4.5 - 1.6) / 2)


STEEL = {
    "case.face": {"colour": "steel", "finish": "polished"},
    "bezel.face": {"colour": "steel", "finish": "polished"},
    "crown.face": {"colour": "steel"},
    "strap.face": {"surface": "leather", "colour": "tan"},
}
WHITE = {
    "colour": "white",
    "finish": "matt",
    "glow": "green",
    "daylight": "cream",
    "markers": [{"lume": True}],
}
BLUED = {"shape": "sword", "colour": "heat blue", "glow": "green", "daylight": "cream"}
SLATE = {"colour": "slate", "glow": "green", "daylight": "cream", "pip": "triangle"}
GOOD = {**STEEL, "dial.face": WHITE, "hands.face": BLUED, "bezel_insert.face": SLATE,
        "calendar_disc.face": {"colour": "white"}}  # fmt: skip


def dressed(changes: dict[str, object]) -> Build:
    build = case_build(16)
    for part in ("case", "bezel", "crown", "strap", "dial", "hands", "bezel_insert", "calendar_disc"):
        look = {**GOOD, **changes}.get(f"{part}.face")
        build = build.with_entry(part, {**(build.at(part) or {}), "name": part, "face": look or {}})
    return build


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({}, []),
        ({"crown.face": {"colour": "gold"}},
         ["Metals of two colours: crown warm, case and bezel white or dark."]),
        ({"bezel.face": {"colour": "steel", "finish": "brushed round"}},
         ["Finishes side by side: case polished, bezel brushed."]),
        ({"strap.face": {"surface": "links", "colour": "brass"}},
         ["Metals of two colours: bracelet warm, case and bezel and crown white or dark."]),
        ({"hands.face": {**BLUED, "colour": "white"}},
         ["Hands and dial are nearly of one tone (contrast 1.1 : 1): hard to read."]),
        ({"calendar_disc.face": {"colour": "black"}},
         ["The date disc stands out from the dial: a disc in the dial's colour would not."]),
        ({"hands.face": {**BLUED, "glow": "blue"}},
         ["Glows in different colours: dial green, hands blue, insert green."]),
        ({"hands.face": {**BLUED, "glow": "purple"}},
         ["Glows in different colours: dial green, hands purple, insert green.",
          "After an hour the dial is 12.9 times as bright as the hands."]),
        ({"hands.face": {**BLUED, "daylight": "white"}},
         ["By day the lume has different colours on dial, hands and insert."]),
        ({"hands.face": {**BLUED, "glow": "nothing"}},
         ["The dial glows, the hands do not: no time to be read at night."]),
        ({"dial.face": {**WHITE, "markers": [{}]}},
         ["The hands glow, the dial does not: no time to be read at night."]),
        ({"dial.face": {**WHITE, "markers": [{"lume": True, "made": "applied", "colour": "gold"}]}},
         ["Applied markers and hands are metals of two colours."]),
    ],
)  # fmt: skip
def test_what_does_not_go_together_is_noted(changes: dict[str, object], said: list[str]) -> None:
    build = dressed(changes)
    notes = face_notes(seen_face(build, report_on(build)))
    assert [note.words for note in notes] == said
    assert all(set(note.parts) <= set(build.parts) for note in notes)


def test_nothing_is_noted_of_what_nobody_told() -> None:
    build = case_build(16)
    for part in build.parts:
        if isinstance(build.at(part), dict):
            build = build.with_entry(f"{part}.name", "x")
    assert face_notes(seen_face(build, report_on(build))) == ()
