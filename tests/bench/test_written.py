"""What taps write into the sheet: fit and bench say the same of one watch, and an undo puts everything back."""

import copy
import json
from dataclasses import replace
from typing import Any

import pytest

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation, alteration_step
from marquetry.core.bench.written import feet_missed, written
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.statements import Alteration, Change
from tests.bench.test_worked_cases import cases
from tests.strategies import ANATOMY, MODEL, report_on


def sheet(name: str, **rules: Any) -> Build:
    told = json.loads(next(case for case in cases("steps") if case.stem == name).read_text("utf-8"))["build"]
    return Build({**copy.deepcopy(told), "rules": {**told.get("rules", {}), **rules}}, ANATOMY)


def run_on(build: Build, entries: list[LogEntry]) -> Run:
    kept = frozenset(entry.step for entry in entries if entry.what == "done")
    rules = Rules(MODEL, build.rules)
    return Run(procedure(Situation(report_on(build, rules), kept=kept)), entries, 10**9)


def tap(number: int, step: str, what: Any = "done", value: float | None = None) -> LogEntry:
    return LogEntry(f"key-{number:05}", step, what, number * 1000, value, id=number)


def tapped(build: Build, *taps: LogEntry) -> tuple[Build, list[LogEntry]]:
    """The sheet after one tap after another, as the program takes them."""
    entries: list[LogEntry] = []
    for one in taps:
        before = run_on(build, entries)
        entries = [*entries, one]
        build = written(
            build, replace(before, entries=entries), [one], lambda ms: f"2026-12-01T{ms:06}Z"
        ).build
    return build, entries


def walked(until: str) -> list[LogEntry]:
    """Every step of the first watch before that one, answered in order."""
    steps = run_on(sheet("p00"), []).procedure.steps
    before = steps[: [step.id for step in steps].index(until)]
    return [tap(number, step.id, "yes" if step.is_gate else "done") for number, step in enumerate(before, 1)]


STEM = (
    tap(1, "measure_gap", "gap", 8.02), tap(2, "cut_stem", "cut", 7.85), tap(3, "cut_stem"), tap(4, "dress_stem_end", "file", 0.15),
)  # fmt: skip
WRITES: dict[str, tuple[Build, tuple[LogEntry, ...], str, Any]] = {
    "feet off": (sheet("p01"), (tap(1, "remove_feet"),), "dial.feet", []),
    "a stem cut and filed": (sheet("p00"), STEM, "stem.thread_length.value", 3.0),
    "pads of a thickness that was read": (
        sheet("p01"), (tap(1, "remove_feet"), tap(2, "place_pads", "height", 0.12), tap(3, "place_pads")),
        "dial.fastening.thickness.value", 0.12,
    ),
    "pads read afterwards": (
        sheet("p01"), (tap(1, "remove_feet"), tap(2, "place_pads"), tap(3, "place_pads", "height", 0.2)),
        "dial.fastening.thickness.value", 0.2,
    ),
    "pads nobody read": (sheet("p01"), (tap(1, "place_pads"),), "dial.fastening.thickness.source", "assumed"),
    "a hand pressed": (sheet("p00"), (*walked("check_hour"), tap(90, "check_hour", "height", 0.55)), "hands.hour.pressed", 0.55),
    "a dial laid on": (sheet("p00"), (*walked("trial_dial"), tap(90, "trial_dial", "yes")), "", None),
    "a crystal pressed": (sheet("p00"), (tap(1, "press_crystal"),), "", None),
}  # fmt: skip


@pytest.mark.parametrize("name", WRITES)
def test_a_step_writes_what_it_did_and_its_undo_puts_everything_back(name: str) -> None:
    build, taps, path, expected = WRITES[name]
    after, entries = tapped(build, *taps)
    assert after != build
    if path:
        assert after.at(path) == (
            pytest.approx(expected, abs=1e-6) if isinstance(expected, float) else expected
        )
    assert written(after, run_on(after, entries), [], str).build == after, "another look writes nothing more"
    back = after
    for number, one in enumerate(reversed(taps), 100):
        undo = LogEntry(f"undo-{number}", "", "undo", number * 1000, undoes=one.key, id=number)
        before = run_on(back, entries)
        entries = [*entries, undo]
        back = written(back, replace(before, entries=entries), [undo], str).build
    assert back.raw == build.raw


def test_a_stem_that_was_written_is_not_counted_twice() -> None:
    build = sheet("p00")
    after, entries = tapped(build, *STEM)
    plain, counted = run_on(build, entries), run_on(after, entries)
    assert counted.ledger == plain.ledger
    length = after.dimensions["stem.length"]
    assert length.value == pytest.approx(build.dimensions["stem.length"].value - 8.0, abs=0.05)
    left = report_on(after).findings["stem_cut"].value
    assert left is not None
    assert plain.ledger.now is not None
    assert left == pytest.approx(plain.ledger.now.r, abs=1e-3)


def test_a_planned_cut_is_judged_by_what_was_read_and_its_undo_finds_the_plan() -> None:
    build = sheet("p00")
    length = build.at("stem.length")
    planned = Alteration(
        "shorter",
        "Shorten the stem",
        "stem_cut",
        (Change("stem.length", length, {"value": 20.0, "source": "planned"}),),
    )
    build = build.with_statement("alterations", [planned.as_dict()])
    after, entries = tapped(build, *STEM)
    read, plain = after.dimensions["stem.length"], run_on(build, entries).ledger
    assert read.value == pytest.approx(length["value"] - 8.0, abs=0.05)
    assert read.source.value == "measured"
    assert run_on(after, entries).ledger == plain, "counted from the stem as it was bought"
    assert [one.id for one in after.alterations] == ["shorter", "bench:cut_stem"]
    gap_alone, _ = tapped(build, STEM[0], STEM[2])
    assert gap_alone.dimensions["stem.length"].value == 20.0, "nothing was noted as cut: the plan stands"
    undo = LogEntry("undo-1", "", "undo", 99_000, undoes=STEM[2].key, id=99)
    back = written(after, replace(run_on(after, entries), entries=[*entries, undo]), [undo], str).build
    assert back.raw == build.raw


def test_an_alteration_of_any_name_has_a_step_that_can_be_tapped() -> None:
    names = ["short", "x" * 34, *(f"take-the-edge-of-the-bezel-down-by-{n:02}" for n in range(9))]
    names += ["a/b", "a/c", "what?", "50 %", "tab\tbed", "ring & dial"]
    steps = [alteration_step(Alteration(name, name, "other", ())) for name in names]
    assert steps[:2] == ["alter:short", "alter:" + "x" * 34]
    assert len(set(steps)) == len(names)
    assert max(len(step) for step in steps) == 40
    assert not any(set(step) & set("/?#%&\t") for step in steps), "each has an address of its own"


def test_all_hands_on_the_fit_says_what_the_bench_says_of_them() -> None:
    build = sheet("p00")
    report = report_on(build)
    plan = run_on(build, []).procedure.situation.shims
    deep = {hand: height - (0.4 if hand == "minute" else 0.0) for hand, height in plan.items()}
    for heights, verdict in ((plan, "clear"), (deep, "clash")):
        told = build
        for hand, height in heights.items():
            told = told.with_entry(f"hands.{hand}.pressed", round(height, 4))
        found = report_on(told).findings["hand_stack"]
        assert found.verdict.value == verdict
        assert found.detail is not None
    assert report.findings["hand_stack"].value is not None


def test_feet_that_miss_are_planned_as_chosen_and_have_their_step() -> None:
    found = run_on(sheet("p01"), []).procedure.situation
    assert feet_missed(found, found.real, "feet_miss", "bend") is None
    assert feet_missed(found, found.real, "hand_leans", "off") is None
    for way, step in (("off", "remove_feet"), ("holes", "drill_feet_holes")):
        after = feet_missed(found, found.real, "feet_miss", way)
        assert after is not None
        steps = run_on(after, []).procedure.by_id
        assert {"remove_feet", "drill_feet_holes"} & set(steps) == {step}
        assert steps[step].alteration
        done, entries = tapped(after, tap(1, step))
        assert done.alterations[0].done
        assert step in run_on(done, entries).procedure.by_id
