"""Verdicts where parts or dimensions are missing, beyond the worked cases."""

import pytest

from marquetry.core.fit.checks.feet import feet_told
from marquetry.core.fit.checks.hands import PressPlan, press_plan
from marquetry.core.remedies import matches
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict
from tests.strategies import ANATOMY, case_build, report_on


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
    assert press_plan(finding) == PressPlan({}, ("hour.post_shoulder", "hour.post_engagement"))


def test_feet_on_a_wider_circle_are_told_by_their_span() -> None:
    build = case_build(1)
    for foot in (0, 1):
        build = build.with_entry(f"dial.feet.{foot}.radius", {"value": 12.9, "source": "measured"})
    told = feet_told(report_on(build).findings["dial_feet"])
    assert told is not None
    assert (told.pairs, told.remove) == ((), (0, 1))
    assert told.span_error == pytest.approx(0.6)
    assert told.turn == pytest.approx(0.0)


def test_a_small_turn_of_the_dial_lets_feet_meet() -> None:
    """Both feet stand 0.4° off: the dial may turn that far, so nothing is lost."""
    build = case_build(1)
    for foot, angle in ((0, 33.4), (1, 213.4)):
        build = build.with_entry(f"dial.feet.{foot}.angle", {"value": angle, "source": "measured"})
    assert report_on(build).findings["dial_feet"].value == pytest.approx(0.1)


@pytest.mark.parametrize(
    ("edits", "check", "verdict", "told"),
    [
        ({"dial.windows": ["day", "date"]}, "functions", "clash", ["day_missing"]),
        ({"hands.h24": {}}, "functions", "clash", ["hand_without_post:h24"]),
        ({"hands.seconds": None}, "functions", "tight", ["post_without_hand:seconds"]),
        (
            {"hands.h24": {}, "hands.hour": None, "dial.windows": []},
            "functions",
            "clash",
            ["hand_without_post:h24", "date_unused", "post_without_hand:hour"],
        ),
        ({"movement.functions": []}, "functions", "unmeasured", None),
        ({"stem.thread": "1.00"}, "stem_thread", "clash", None),
        ({"stem.thread": " "}, "stem_thread", "unmeasured", None),
        ({"stem.thread": "M0,9 mm"}, "stem_thread", "clear", None),
        ({"crystal.material": "quartz"}, "crystal_strength", "skipped", None),
        ({"crystal.material": None, "crystal.centre_thickness": None}, "crystal_strength", "skipped", None),
        ({"bezel.clicks": None}, "bezel_index", "skipped", None),
        ({"dial.date_window_angle": None}, "date_radius", "skipped", None),
        ({"dial.date_window_radius": None}, "date_radius", "unmeasured", None),
        ({"crystal_gasket.flange": None}, "crystal_proud", "unmeasured", None),
        ({"strap": None}, "wrist_span", "clear", None),
        ({"strap.end_link_overhang": 9.0}, "wrist_span", "clash", None),
        ({"dial.feet": [{"length": 0.5}]}, "foot_engagement", "clash", None),
        ({"dial.feet.0.length": 0.4}, "foot_engagement", "clash", None),
        ({"case.crown_angle": 450}, "date_angle", "clear", None),
        ({"hands.hour.bore": 1.51}, "hand_grip.hour", "clash", None),
    ],
)
def test_checks_that_are_more_than_a_sum(
    edits: dict[str, object], check: str, verdict: str, told: list[str] | None
) -> None:
    build = case_build(1)
    for path, value in edits.items():
        build = build.without(path) if value is None else build.with_entry(path, value)
    finding = report_on(build).findings[check]
    assert finding.verdict.value == verdict
    assert told is None or finding.as_dict()["issues"] == told


def test_a_foot_that_is_to_be_taken_off_does_not_count_as_holding() -> None:
    """Case 06 with a short third foot: it goes, so the two kept ones decide."""
    build = case_build(6).with_entry("dial.feet.2.length", 0.2)
    assert report_on(build).findings["foot_engagement"].value == pytest.approx(1.4)


def test_without_depth_or_wrist_their_checks_are_skipped() -> None:
    document = case_build(1).document
    document["target"] = {"water_depth_m": None}
    findings = report_on(Build(document, ANATOMY)).findings
    assert findings["crystal_strength"].verdict is findings["wrist_span"].verdict is Verdict.SKIPPED


def test_the_best_pair_is_found_among_as_many_feet_and_holes_as_a_sheet_may_hold() -> None:
    """Eight of each, of which only the last two feet stand over the first two holes."""
    document = case_build(1).document
    parts = document["parts"]
    good, holes = parts["dial"]["feet"], parts["movement"]["foot_holes"]
    astray = [{**good[0], "radius": 5.0 + k / 10, "angle": 7.0 * k} for k in range(6)]
    parts["dial"]["feet"] = [*astray, *good]
    parts["movement"]["foot_holes"] = [
        *holes,
        *({**holes[0], "radius": 9.0, "angle": 11.0 * k} for k in range(6)),
    ]
    finding = report_on(Build(document, ANATOMY)).findings["dial_feet"]
    assert finding.value == pytest.approx(0.1)
    told = feet_told(finding)
    assert told is not None
    assert (told.pairs, told.remove) == (((6, 0), (7, 1)), tuple(range(6)))


RING_KEYS = [
    ("nib", "recess", "clear", []),
    ("notch", "pin", "clear", []),
    ("nib", "pin", "clash", ["nib_without_recess", "pin_without_notch"]),
    ("nib", "none", "clash", ["nib_without_recess"]),
    ("none", "pin", "clash", ["pin_without_notch"]),
    ("notch", "recess", "tight", ["ring_unlocated"]),
    ("notch", "none", "tight", ["ring_unlocated"]),
    ("none", "recess", "tight", ["ring_unlocated"]),
    ("none", "none", "tight", ["ring_unlocated"]),
]


@pytest.mark.parametrize(("ring", "case_key", "verdict", "issues"), RING_KEYS)
@pytest.mark.parametrize("flags", [(True, True), (False, True), (None, None)])
def test_what_keeps_the_ring_upright_decides_where_both_say_it(
    ring: str, case_key: str, verdict: str, issues: list[str], flags: tuple[bool | None, bool | None]
) -> None:
    """Whatever the older flags say; where one of the two is not told, the flags decide as before."""
    build = case_build(1).with_entry("chapter_ring.key", ring).with_entry("case.ring_key", case_key)
    for path, flag in zip(("case.ring_notch", "chapter_ring.notch"), flags, strict=True):
        build = build.without(path) if flag is None and build.at(path) is not None else build
        build = build if flag is None else build.with_entry(path, flag)
    found = report_on(build).findings["ring_notch"].as_dict()
    assert (found["verdict"], found.get("issues", [])) == (verdict, issues)
    half = report_on(build.without("case.ring_key")).findings["ring_notch"]
    expected = {(True, True): "clear", (False, True): "clash", (None, None): "unmeasured"}[flags]
    assert half.verdict.value == expected


@pytest.mark.parametrize("ring", ["nib", "notch", "none"])
@pytest.mark.parametrize("case_key", ["recess", "pin", "none"])
def test_a_ring_is_mended_by_its_remedies_and_the_case_is_never_filed(ring: str, case_key: str) -> None:
    build = case_build(1).with_entry("chapter_ring.key", ring).with_entry("case.ring_key", case_key)
    report = report_on(build)
    offered = list(matches.ideas(build, report, "ring_notch"))
    assert all(idea.build.at("case.ring_key") == case_key for idea in offered)
    if report.findings["ring_notch"].verdict is Verdict.CLASH:
        after = [report_on(idea.build).findings["ring_notch"].verdict for idea in offered]
        assert after
        assert Verdict.CLASH not in after[1:], "at most what mends one of two faults leaves the other"


PITCH = 360 / 31


@pytest.mark.parametrize("disc", [True, False])
@pytest.mark.parametrize(
    ("crown", "shown", "numerals", "off"),
    [
        (90, 90, 0, 0.0),
        (114, 90, 2, 24 - 2 * PITCH),
        (66, 90, -2, 2 * PITCH - 24),
        (180, 90, 8, 90 - 8 * PITCH),
        (90, 90.8, 0, -0.8),
        (90 + 1.5 * PITCH, 90, 2, -PITCH / 2),
        (90 + 2.5 * PITCH, 90, 2, PITCH / 2),
        (270, 90, -16, -180 + 16 * PITCH),
        (269, 90, 15, 179 - 15 * PITCH),
    ],
)
def test_a_date_is_shown_by_the_numeral_that_comes_nearest(
    crown: float, shown: float, numerals: int, off: float, *, disc: bool
) -> None:
    """By a disc of its own; without one the figure is as before, and words name what stands nearest."""
    build = case_build(1).with_entry("case.crown_angle", crown).with_entry("movement.date_angle", 0)
    build = build.with_entry("dial.date_window_angle", shown)
    build = build.with_entry("calendar_disc", {"crown_angle": crown}) if disc else build
    finding = report_on(build).findings["date_angle"]
    whole = numerals * PITCH + off
    assert finding.value == pytest.approx(off if disc else whole, abs=1e-9)
    assert finding.as_dict().get("numerals_off") == (numerals if disc else None)
    told = " ".join(finding.detail.told()) if finding.detail else ""
    assert bool(told) == bool(numerals)


def test_the_sentence_of_a_date_off_its_place_is_the_page_s_own() -> None:
    build = case_build(1).with_entry("case.crown_angle", 114).with_entry("movement.date_angle", 0)
    finding = report_on(build.with_entry("dial.date_window_angle", 90)).findings["date_angle"]
    assert finding.detail is not None
    assert finding.detail.told() == (
        "Nearest to the window: two numerals on, 0.8\u00a0° off, leaning 23\u00a0°. "
        "A disc printed for this crown place shows it.",
    )


def test_two_dozen_feet_over_two_dozen_holes_are_told_at_once() -> None:
    """Of eight over eight every way is tried; so many as here, those that could be best at most."""
    feet = [{"radius": 12.6, "angle": 15 * n, "diameter": 0.7, "length": 1.4} for n in range(24)]
    holes = [{"radius": 12.6, "angle": 15 * n - 90, "diameter": 0.9} for n in range(24)]
    build = case_build(1).with_entry("dial.feet", feet).with_entry("movement.foot_holes", holes)
    finding = report_on(build).findings["dial_feet"]
    assert finding.value == pytest.approx(0.15)
    told = feet_told(finding)
    assert told is not None
    assert told.pairs == ((0, 0), (1, 1))
