"""The steps of any watch under any schools: what they wait for holds, each school changes its own."""

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.bench.procedure import Procedure, WatchStep, procedure
from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import GROUPS
from marquetry.core.bench.steps import STEPS
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.trade.sundries import SUNDRY_BY_KEY, sundries_for
from tests.bench.test_worked_cases import cases
from tests.strategies import ANATOMY, MODEL, builds, report_on

schools = st.fixed_dictionaries(
    {key: st.sampled_from([p.key for p in school.practices]) for key, school in MODEL.schools.items()}
)


def steps_of(build: Build, house: Any = None) -> Procedure:
    rules = Rules(MODEL, build.rules, house)
    return procedure(Situation(report_on(build, rules)))


def told_of(step: WatchStep) -> tuple[object, ...]:
    """All of a step that a school could change."""
    return (step.title, step.how, step.caution, step.parts, step.consumables, step.figure, step.curing)


def skerry_light() -> Build:
    return Build(json.loads(cases("steps")[0].read_text("utf-8"))["build"], ANATOMY)


@settings(max_examples=40)
@given(builds(), schools)
def test_no_school_breaks_what_a_step_waits_for(build: Build, house: dict[str, str]) -> None:
    found = steps_of(build, house)
    place = {step.id: number for number, step in enumerate(found.steps)}
    assert len(place) == len(found.steps)
    for step in found.steps:
        for waited in (*step.after, *step.gates):
            assert place[waited] < place[step.id], (waited, step.id)
        for gate in step.gates:
            assert found.by_id[gate].is_gate, (gate, step.id)
        assert set(step.held_by) <= set(place)
        assert all(build.has(part) for part in step.parts)


@settings(max_examples=40)
@given(builds(), schools)
def test_what_the_steps_ask_for_is_what_the_watch_asks_for(build: Build, house: dict[str, str]) -> None:
    """The order page and the bench read one list of tools and consumables."""
    rules = Rules(MODEL, build.rules, house)
    found = steps_of(build, house)
    asked = {sundry.key for sundry in sundries_for(build, rules)}
    wanted = {*found.tools, *found.consumables}
    assert {SUNDRY_BY_KEY[key].name for key in wanted - asked} <= {"Adhesive pads"}


def test_every_step_is_told_once_and_fully() -> None:
    ids = [step.id for step in STEPS]
    assert len(set(ids)) == len(ids)
    groups = [GROUPS.index(step.group) for step in STEPS]
    assert groups == sorted(groups)
    for step in STEPS:
        assert step.why.endswith("."), step.id
        assert step.wrong.endswith("."), step.id
        assert callable(step.tools) or set(step.tools) <= set(SUNDRY_BY_KEY), step.id


CHANGES: dict[tuple[str, str], set[str]] = {
    ("school_order", "case_first"): set(),
    ("school_stem", "creep"): {"stem"},
    ("school_stem", "eye"): {"stem"},
    ("school_lock", "soft_cement"): {"stem"},
    ("school_lock", "none"): {"stem"},
    ("school_crystal", "warm_case"): {"case"},
}


@pytest.mark.parametrize(("key", "choice"), CHANGES, ids=str)
def test_a_school_changes_its_own_and_nothing_else(key: str, choice: str) -> None:
    before, after = steps_of(skerry_light()), steps_of(skerry_light(), {key: choice})
    touched = {
        step.group
        for step in (*before.steps, *after.steps)
        if before.by_id.get(step.id) is None
        or after.by_id.get(step.id) is None
        or told_of(before.by_id[step.id]) != told_of(after.by_id[step.id])
    }
    assert touched == CHANGES[key, choice]
    order = [step.id for step in after.steps]
    if key == "school_order":
        assert sorted(order) == sorted(step.id for step in before.steps)
        assert order.index("press_crystal") < order.index("calendar_works")
    gone = {step.id for step in before.steps} - set(order)
    assert gone == ({"lock_thread", "wipe_excess"} if choice == "none" else set())


def test_handling_is_told_where_skin_could_touch() -> None:
    for choice, word in (("gloves", "Gloves"), ("cots", "Finger cots"), ("paper", "Paper")):
        found = steps_of(skerry_light(), {"school_hands_off": choice})
        told = {step.id for step in found.steps if word in step.how}
        assert {"clean_dial", "press_hour", "press_minute"} <= told


def with_entries(build: Build, **entries: Any) -> Build:
    """The build with other entries; a donor is a word that no description of a part has."""
    donor = entries.pop("crown__donor", "")
    if donor:
        document = build.document
        document["parts"]["crown"]["donor"] = donor
        build = Build(document, ANATOMY)
    for path, value in entries.items():
        build = build.with_entry(path.replace("__", "."), value)
    return build


WHEN: dict[str, tuple[dict[str, Any], dict[str, str], set[str], set[str]]] = {
    "a donor": (
        {"crown__donor": "Old Tern"}, {},
        {"open_donor", "stem_out_of_donor", "hands_off_donor", "dial_off_donor", "keep_donor_gaskets"}, set(),
    ),
    "a case to brush": ({"case__refinish": True}, {}, {"finish_case"}, set()),
    "a bracelet": ({"strap__links": 18}, {}, {"size_bracelet"}, set()),
    "feet that miss, on pads": (
        {"case__crown_angle": 120}, {}, {"remove_feet", "dress_stubs", "place_pads"}, {"drill_feet_holes"},
    ),
    "feet that miss, drilled": (
        {"case__crown_angle": 120}, {"school_feet": "new_holes"},
        {"rotor_off", "drill_feet_holes", "clear_chips", "rotor_on"}, {"remove_feet", "place_pads"},
    ),
    "two feet kept, whatever the school": (
        {}, {"school_feet": "new_holes"}, {"fix_dial"}, {"drill_feet_holes", "remove_feet", "place_pads"},
    ),
    "a window without its works": (
        {"movement__functions": ["hours", "minutes"]}, {}, set(), {"calendar_works", "find_midnight", "date_in_window"},
    ),
    "a date no one sees, left": ({"dial__windows": []}, {}, {"calendar_works", "find_midnight"}, {"date_in_window"}),
    "a date no one sees, stripped": (
        {"dial__windows": []}, {"school_calendar": "strip_calendar"}, {"strip_calendar", "calendar_works"},
        {"find_midnight", "date_in_window"},
    ),
    "only what is not shown is stripped": (
        {"movement__functions": ["hours", "date", "day"]}, {"school_calendar": "strip_calendar"},
        {"strip_calendar", "date_in_window", "find_midnight"}, set(),
    ),
    "a stem that is short enough": ({"stem__length": 10}, {}, {"measure_gap"}, {"cut_stem", "dress_stem_end"}),
    "a seconds post to take out": (
        {"movement__remove_seconds_post": True}, {}, set(), {"take_out_seconds_post"},
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", WHEN)
def test_a_step_stands_only_where_the_watch_needs_it(name: str) -> None:
    entries, house, there, absent = WHEN[name]
    ids = {step.id for step in steps_of(with_entries(skerry_light(), **dict(entries)), house).steps}
    assert there <= ids
    assert not absent & ids


def test_a_seconds_post_comes_out_only_without_its_hand() -> None:
    build = with_entries(skerry_light(), movement__remove_seconds_post=True).without("hands.seconds")
    assert "take_out_seconds_post" in {step.id for step in steps_of(build).steps}


WORDS: dict[str, tuple[dict[str, Any], str, str]] = {
    "pressed feet": ({"movement__dial_fixing": "pressed"}, "fix_dial", "two fingers"),
    "foot screws": ({"movement__dial_fixing": "screws"}, "fix_dial", "half a turn more"),
    "clamps": ({"movement__dial_fixing": "clamps"}, "fix_dial", "clamp"),
    "a lever": ({"movement__stem_release": "lever"}, "stem_out", "setting lever"),
    "a button": ({"movement__stem_release": "button"}, "stem_out", "button"),
    "a screw": ({"movement__stem_release": "screw"}, "stem_out", "half a turn, try, then a quarter"),
    "case screws": ({"case__holding": "case screws"}, "case_up", "Case screws"),
    "a notch without a detent": (
        {"case__ring_notch": False, "chapter_ring__notch": True}, "seat_ring", "thin tape",
    ),
    "a detent without a notch": (
        {"case__ring_notch": True, "chapter_ring__notch": False}, "seat_ring", "detent off",
    ),
    "both": ({"case__ring_notch": True, "chapter_ring__notch": True}, "seat_ring", "Notch over"),
}  # fmt: skip


@pytest.mark.parametrize("name", WORDS)
def test_words_follow_what_is_known(name: str) -> None:
    entries, step, words = WORDS[name]
    assert words in steps_of(with_entries(skerry_light(), **dict(entries))).by_id[step].how


def test_a_screw_carries_its_caution_and_glass_and_steel_theirs() -> None:
    by_id = steps_of(with_entries(skerry_light(), movement__stem_release="screw")).by_id
    assert "must not be turned out" in by_id["stem_out"].caution
    assert "Eye protection" in by_id["cut_stem"].caution
    assert "Eye protection" in by_id["press_crystal"].caution


def test_undoing_a_step_reopens_what_hangs_on_it() -> None:
    found = steps_of(skerry_light())
    again = found.depending_on("press_minute")
    assert {
        "check_minute",
        "press_seconds",
        "hands_round",
        "case_up",
        "close_back",
        "hand_over_ready",
    } <= set(again)
    assert not {"press_crystal", "crown_seal", "check_hour"} & set(again)
