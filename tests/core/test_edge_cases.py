"""Verdicts where parts or dimensions are missing, beyond the worked cases."""

import pytest

from marquetry.core.finding import Verdict
from marquetry.core.report import report_on
from tests.strategies import case_build


@pytest.mark.parametrize(
    ("removed", "check", "verdict", "missing"),
    [
        ("movement", "stem_height", "skipped", ()),
        ("case_back", "rotor_clearance", "skipped", ()),
        ("hands", "hand_stack", "skipped", ()),
        ("hands.hour", "hand_stack", "clear", ()),
        ("crystal", "hand_stack", "skipped", ()),
        ("crystal_gasket", "hand_stack", "clear", ()),
        ("chapter_ring", "stem_height", "clear", ()),
        ("chapter_ring.drop", "stem_height", "unmeasured", ("chapter_ring.drop",)),
        ("chapter_ring.inner_diameter", "dial_cover", "unmeasured", ("chapter_ring.inner_diameter",)),
        ("dial.feet", "dial_feet", "skipped", ()),
        ("dial.feet.1", "dial_feet", "unmeasured", ("dial.feet",)),
        ("movement.foot_holes", "dial_feet", "unmeasured", ("movement.foot_holes",)),
        ("dial.feet.1.angle", "dial_feet", "unmeasured", ("dial.feet.1.angle",)),
        ("case.crown_angle", "dial_feet", "unmeasured", ("case.crown_angle",)),
        ("dial.features.0.inner_radius", "hand_stack", "unmeasured", ("dial.features.0.inner_radius",)),
        (
            "movement.posts.hour",
            "hand_stack",
            "unmeasured",
            ("movement.posts.hour.top", "movement.posts.hour.grip"),
        ),
    ],
)
def test_what_is_missing_is_named(removed: str, check: str, verdict: str, missing: tuple[str, ...]) -> None:
    finding = report_on(case_build(1).without(removed)).findings[check]
    assert (finding.verdict.value, finding.missing) == (verdict, missing)


def test_a_spacer_without_side_or_thickness_is_unmeasured() -> None:
    build = case_build(2).with_entry("spacers.-", {})
    assert report_on(build).findings["stem_height"].missing == ("spacers.0.side",)
    build = build.with_entry("spacers.0.side", "movement")
    assert report_on(build).findings["stem_height"].missing == ("spacers.0.thickness",)


def test_a_hard_limit_that_cannot_be_kept_gives_no_press_plan() -> None:
    build = case_build(1).with_entry("movement.posts.hour.grip", {"value": 0.1, "source": "measured"})
    finding = report_on(build).findings["hand_stack"]
    assert finding.verdict is Verdict.CLASH
    assert finding.value == pytest.approx(0.1 - 0.25)
    assert finding.extras["heights"] == {}
    assert finding.extras["binding"] == ["hour.post_shoulder", "hour.post_engagement"]


def test_feet_on_a_wider_circle_are_told_by_their_span() -> None:
    build = case_build(1)
    for foot in (0, 1):
        build = build.with_entry(f"dial.feet.{foot}.radius", {"value": 12.9, "source": "measured"})
    extras = report_on(build).findings["dial_feet"].extras
    assert extras["pairs"] == []
    assert extras["remove"] == [0, 1]
    assert extras["span_error"] == pytest.approx(0.6)
    assert extras["turn"] == pytest.approx(0.0)


def test_a_small_turn_of_the_dial_lets_feet_meet() -> None:
    """Both feet stand 0.4° off: the dial may turn that far, so nothing is lost."""
    build = case_build(1)
    for foot, angle in ((0, 33.4), (1, 213.4)):
        build = build.with_entry(f"dial.feet.{foot}.angle", {"value": angle, "source": "measured"})
    assert report_on(build).findings["dial_feet"].value == pytest.approx(0.1)
