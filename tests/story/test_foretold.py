"""What was foretold beside what was found: on the demo's builds, by plain arithmetic on the raw log."""

from pathlib import Path
from statistics import fmean

import pytest

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.bench.steps import STEPS
from marquetry.core.fit.report import Report, report_on
from marquetry.core.story.foretold import foretold_of
from marquetry.core.story.times import StepTake, group_paces, mishap_costs, paces, takes_of
from marquetry.core.story.years import WatchYears, in_years, median_days
from marquetry.demo.workshop import demo_sheets
from marquetry.store import bench_log
from marquetry.store.as_begun import BegunBuild, begun_build
from marquetry.store.database import connect
from tests.strategies import MODEL

BUILD = demo_sheets(MODEL.anatomy)["skerry-light"]
REPORT = report_on(BUILD, MODEL.rules_of(BUILD))


def run_of(*entries: LogEntry) -> Run:
    return Run(procedure(Situation(REPORT)), entries, 10**9)


def entry(place: int, step: str, what: str, value: float | None = None) -> LogEntry:
    return LogEntry(f"entry-{place:04}", step, what, 60_000 * place, value, id=place)  # type: ignore[arg-type]


def test_every_check_that_a_step_tells_of_is_one() -> None:
    told = {check for step in STEPS for check in step.tells}
    assert told <= {check.name for check in MODEL.checks}
    assert len(told) > 9


@pytest.mark.parametrize(
    ("answers", "held"),
    [
        (("yes",), True), (("no", "yes"), False), (("mishap", "yes"), False), (("skip",), None), ((), None),
        (("start", "yes", "no"), True),
    ],
)  # fmt: skip
def test_the_first_answer_counts(answers: tuple[str, ...], held: bool | None) -> None:  # noqa: FBT001  # it is the answer
    entries = [entry(place, "rotor_free", what) for place, what in enumerate(answers, 1)]
    found = {one.check: one for one in foretold_of(1, REPORT, run_of(*entries))}
    assert (found["rotor_clearance"].held if "rotor_clearance" in found else None) is held
    if held is not None:
        assert found["rotor_clearance"].chance == REPORT.findings["rotor_clearance"].chance


def test_steps_that_tell_of_one_check_are_one_answer() -> None:
    entries = [entry(1, "check_hour", "yes"), entry(2, "check_minute", "no"), entry(3, "check_minute", "yes")]
    found = [one for one in foretold_of(1, REPORT, run_of(*entries)) if one.check == "hand_stack"]
    assert [(one.held, one.step) for one in found] == [(False, "check_minute")]


@pytest.mark.parametrize(
    ("log", "expected"),
    [
        ((("gap", 8.0), ("gap", 8.1)), 8.05), ((("gap", 8.0), ("cut", 7.5), ("gap", 0.6)), 8.0),
        ((("gap", 8.0), ("mishap", None), ("gap", 9.0)), 8.0), ((("cut", 7.5), ("gap", 0.6)), None),
        ((), None),
    ],
    ids=["the mean of two", "until the first cut", "of the stem that was read", "not before", "nothing"],
)  # fmt: skip
def test_what_had_to_come_off_is_what_was_read_before_anything_did(
    log: tuple[tuple[str, float | None], ...], expected: float | None
) -> None:
    entries = [entry(place, "measure_gap", what, value) for place, (what, value) in enumerate(log, 1)]
    found = [one for one in foretold_of(1, REPORT, run_of(*entries)) if one.found is not None]
    assert [one.found for one in found] == ([] if expected is None else [pytest.approx(expected)])
    for one in found:
        assert (one.value, one.low, one.high) == (
            REPORT.findings["stem_cut"].value,
            REPORT.findings["stem_cut"].low,
            REPORT.findings["stem_cut"].high,
        )
        assert one.is_within is (one.low <= expected <= one.high)  # type: ignore[operator]


def of_demo(database: Path) -> list[tuple[BegunBuild, Report, Run]]:
    connection = connect(database, MODEL)
    found = []
    for number in bench_log.watches_with_log(connection):
        build = begun_build(connection, number)
        assert build is not None
        before = report_on(build.before, MODEL.rules_of(build.before))
        then = report_on(build.then, MODEL.rules_of(build.then))
        found.append((build, before, Run(procedure(Situation(then)), build.entries, build.entries[-1].at_ms)))
    connection.close()
    return found


def test_the_demo_s_figures_are_those_of_its_raw_log(database: Path) -> None:
    demo = of_demo(database)
    takes = [takes_of(run) for _, _, run in demo]
    for build, before, run in demo:
        every = foretold_of(build.watch.id, before, run)
        chances = {one.check: one.chance for one in every if one.chance is not None}
        assert chances == {check: before.findings[check].chance for check in chances}
        gaps = [e.value for e in build.entries if e.what == "gap" and e.step == "measure_gap"]
        cut = [one for one in every if one.check == "stem_cut" and one.found is not None]
        assert bool(cut) == bool(gaps)
        if cut and "stem_short" not in {e.detail.get("kind") for e in build.entries if e.what == "mishap"}:
            assert cut[0].found == pytest.approx(fmean(v for v in gaps if v is not None))
    flat = [take for one in takes for take in one]
    groups = group_paces(takes)
    assert sum(group.taken for group in groups) == pytest.approx(sum(take.taken for take in flat))
    assert sum(group.usual for group in groups) == pytest.approx(sum(take.usual for take in flat))
    assert sum(step.count for step in paces(takes)) == len(flat)


def test_paces_are_medians_furthest_over_first() -> None:
    builds = [
        [StepTake("a", "A", "stem", 5, t), StepTake("b", "B", "dial", 10, 4 * t)] for t in (4.0, 6.0, 30.0)
    ]
    assert [(step.step, step.taken, step.over, step.count) for step in paces(builds)] == [
        ("b", 24.0, 14.0, 3),
        ("a", 6.0, 1.0, 3),
    ]


def test_mishaps_cost_what_their_bookings_add_up_to() -> None:
    costs = mishap_costs([("x", 5, 300), ("y", 0, 900), ("x", 7, 200)], {"x": "Ex"})
    assert [(c.label, c.count, c.minutes, c.minor) for c in costs] == [("y", 1, 0, 900), ("Ex", 2, 12, 500)]


def test_years_hold_each_watch_that_left_in_its_own() -> None:
    watches = [
        WatchYears(1, "A", "2025-01-01", "2025-03-02", "sold", 60, 100, 90, 150),
        WatchYears(2, "B", "2025-12-01", "2026-01-10", "given", 30, 50),
        WatchYears(3, "C", "2026-02-01", None, "bench"),
        WatchYears(4, "D", "2026-01-01", "2026-01-31", "sold", 90, 10, None, 5),
    ]  # fmt: skip
    years = in_years(watches)
    assert [(y.year, [w.name for w in y.watches], y.hours, y.spent, y.brought) for y in years] == [
        ("2026", ["B", "D"], 2.0, 60, 5), ("2025", ["A"], 1.0, 100, 150),
    ]  # fmt: skip
    assert median_days(watches) == 40.0
    assert (median_days(watches[2:3]), watches[0].left, watches[1].left) == (None, 50, None)
