"""Hands as pressed: at the press plan every gap has what was promised, and a hand moved moves its gaps."""

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from marquetry.core.bench.pressed import Pressed, pressed, ways_out
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import SheetError
from tests.strategies import MODEL, builds, case_build, report_on


def plan_of(build: Build) -> dict[str, float]:
    plan = press_plan(report_on(build).findings["hand_stack"])
    return dict(plan.heights) if plan else {}


def at(build: Build, heights: dict[str, float]) -> Pressed:
    return pressed(build, MODEL.rules_of(build), heights)


@settings(max_examples=40)
@given(builds())
def test_at_the_press_plan_the_least_spare_is_the_stacks_own(build: Build) -> None:
    heights, found = plan_of(build), report_on(build).findings["hand_stack"].value
    assume(heights and found is not None)
    gaps = at(build, heights).gaps
    wanted = [gap.spare for gap in gaps if gap.gap is not None]
    hard = [gap.spare for gap in gaps if gap.gap is None]
    assert min(hard) >= -1e-6
    assert min(wanted) == pytest.approx(found, abs=1e-6)


@settings(max_examples=40)
@given(builds(), st.floats(-0.4, 0.4))
def test_a_hand_lifted_gives_below_what_it_takes_above(build: Build, by: float) -> None:
    heights = plan_of(build)
    assume("minute" in heights)
    before = {gap.between: gap.spare for gap in at(build, heights).gaps}
    after = {gap.between: gap.spare for gap in at(build, {**heights, "minute": heights["minute"] + by}).gaps}
    up = {"minute over dial", "minute above shoulder", "minute over hour", "minute pipe over hour"}
    down = {
        "crystal over minute tip",
        "minute below last grip",
        "seconds over minute",
        "seconds pipe over minute",
    }
    for name, spare in after.items():
        moved = by if name in up or name.startswith("minute over") else -by if name in down else None
        if moved is not None:
            assert spare == pytest.approx(before[name] + moved, abs=1e-9), name
        elif "minute" not in name:
            assert spare == pytest.approx(before[name], abs=1e-9), name


LEVELS = {"clear": 0.0, "tight": -0.05, "clash": -0.30}


@pytest.mark.parametrize("verdict", LEVELS)
def test_the_verdict_and_what_to_do(verdict: str) -> None:
    """The crystal of the case in order lowered until the seconds' tip has less than wanted, then none."""
    build = case_build(1)
    heights = plan_of(build)
    room = next(gap for gap in at(build, heights).gaps if gap.between == "crystal over seconds tip")
    assert room.gap is not None
    wanted = room.gap - room.spare
    lower = {"clear": 0.0, "tight": room.spare + wanted / 2, "clash": room.gap + 0.05}[verdict]
    seat = build.dimensions["case.seat_to_crystal"].value
    found = at(build.with_entry("case.seat_to_crystal", seat - lower), heights)
    assert found.verdict.value == verdict
    told = ways_out(found)
    assert told[0].startswith("Leave it" if verdict == "clear" else "Crystal over")
    assert len(found.about("seconds")) < len(found.gaps)


def test_a_hand_that_is_not_on_yet_bounds_nothing() -> None:
    build = case_build(10)
    heights = plan_of(build)
    assert list(heights) == ["h24", "hour", "minute", "seconds"]
    found = at(build, {"h24": heights["h24"], "minute": heights["minute"]})
    names = {gap.between for gap in found.gaps}
    assert "minute over h24" in names
    assert {gap.words for gap in found.gaps} >= {"Minute over 24-hour", "24-hour over dial"}
    assert not any("hour hand" in name or name.startswith("hour ") for name in names)


def test_without_a_crystal_nothing_is_told() -> None:
    with pytest.raises(SheetError, match="crystal"):
        at(case_build(1).without("crystal"), {"hour": 0.8})
