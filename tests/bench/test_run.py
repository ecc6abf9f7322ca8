"""Where a build stands: against a reckoning of the test's own over random walks, and what opens what again."""

import random
from dataclasses import replace
from typing import Any

import pytest

from marquetry.core.bench.clock import MINUTE_MS, ahead, seconds_by_step, timers_of
from marquetry.core.bench.failures import FAILURES
from marquetry.core.bench.log import BenchWhat, LogEntry, last_undoable, standing
from marquetry.core.bench.mishap_kinds import (
    MISHAP_BY_KEY,
    MISHAPS,
    failures_of,
    likely_first,
    minutes_booked,
    opens,
)
from marquetry.core.bench.procedure import Procedure
from marquetry.core.bench.run import SETTLED, Run
from marquetry.core.bench.steps import STEPS
from tests.bench.test_procedure import skerry_light, steps_of, with_entries
from tests.strategies import MODEL

STEPS_OF_SKERRY = steps_of(skerry_light())


def entry(number: int, step: str, what: BenchWhat, **more: Any) -> LogEntry:
    sign = STEPS_OF_SKERRY.by_id[step].sign if step in STEPS_OF_SKERRY.by_id else ""
    return LogEntry(f"key-{number:05}", step, what, number * 1000, sign=sign, id=number, **more)


def walked(until: str, steps: Procedure = STEPS_OF_SKERRY) -> list[LogEntry]:
    """Every step before the one named, answered in order."""
    found: list[LogEntry] = []
    for number, step in enumerate(steps.steps, 1):
        if step.id == until:
            break
        found.append(replace(entry(number, step.id, "yes" if step.is_gate else "done"), sign=step.sign))
    return found


def run_of(entries: list[LogEntry], steps: Procedure = STEPS_OF_SKERRY, now_ms: int = 10**9) -> Run:
    return Run(steps, entries, now_ms)


def counted(entries: list[LogEntry]) -> set[str]:
    """Which answers count, by the rule told in words: waited-for answers stand, and from before."""
    undone = {one.undoes for one in entries if one.what == "undo"}
    at: dict[str, tuple[int, str]] = {}
    for one in entries:
        if one.key in undone:
            continue
        if one.what in {"done", "yes", "skip", "no"}:
            at[one.step] = (one.at_ms, one.what)
        elif one.what == "open":
            at.pop(one.step, None)
    count: set[str] = set()
    for step in STEPS_OF_SKERRY.steps:
        mine = at.get(step.id)
        if mine and mine[1] != "no" and all(w in count and at[w][0] <= mine[0] for w in step.waits):
            count.add(step.id)
    return count


@pytest.mark.parametrize("seed", range(12))
def test_any_walk_agrees_with_the_rule_in_words(seed: int) -> None:
    draws = random.Random(seed)
    entries: list[LogEntry] = []
    names = list(STEPS_OF_SKERRY.by_id)
    for number in range(1, 260):
        run = run_of(entries)
        chance = draws.random()
        step = run.here if chance < 0.7 and run.here else draws.choice(names)
        gate = STEPS_OF_SKERRY.by_id[step].is_gate
        kinds: tuple[BenchWhat, ...] = ("yes" if gate else "done", "skip", "open", "no")
        (what,) = draws.choices(kinds, [12, 2, 1, int(gate)])
        new = entry(number, step, what, words="a reason")
        if chance > 0.97 and entries:
            new = LogEntry(
                f"key-{number:05}", "", "undo", number * 1000, undoes=draws.choice(entries).key, id=number
            )
        if not run.refusal(new):
            entries.append(new)
        now = run_of(entries)
        assert {name for name, stand in now.stands.items() if stand.counts} == counted(entries)
        for stand in now.stands.values():
            assert (stand.state in SETTLED) == stand.counts
            assert stand.state != "open" or not stand.waits
        assert now.here == "" or now.stands[now.here].state not in SETTLED


def test_what_must_wait_is_refused_and_a_skip_wants_its_reason() -> None:
    run = run_of(walked("press_hour"))
    told = {
        "before its turn": run.refusal(entry(900, "press_minute", "done")),
        "a question done": run.refusal(entry(901, "check_movement", "done")),
        "skipped without a word": run.refusal(entry(902, "press_hour", "skip")),
        "skipped with one": run.refusal(entry(903, "press_hour", "skip", words="worn hands")),
        "in its turn": run.refusal(entry(904, "press_hour", "done")),
        "no is always heard": run.refusal(entry(905, "crown_works", "no")),
    }
    assert "waits for “Hour hand: level, clear, two turns”" in told["before its turn"]
    assert "yes, no, or skipped" in told["a question done"]
    assert "reason" in told["skipped without a word"]
    taken = ("skipped with one", "in its turn", "no is always heard")
    assert [told[name] for name in taken] == ["", "", ""]


def test_another_part_opens_what_hangs_on_it_and_another_way_only_its_own_step() -> None:
    done = walked("last_dust")
    other = steps_of(with_entries(skerry_light(), crystal__name="Another crystal"))
    again = {stand.step.id for stand in run_of(done, other).again}
    assert {"crystal_side", "press_crystal", "crystal_seated", "fit_bezel", "dust_case", "case_up"} <= again
    assert not {"press_hour", "calendar_works", "fix_dial"} & again
    soft = steps_of(skerry_light(), {"school_lock": "soft_cement"})
    assert {stand.step.id for stand in run_of(done, soft).again} == {
        "lock_thread",
        "wipe_excess",
        "seat_crown",
    }
    creep = steps_of(skerry_light(), {"school_stem": "creep"})
    assert {s.step.id for s in run_of(done, creep).again} == {"measure_gap", "cut_stem", "dress_stem_end"}


def test_a_step_that_comes_into_the_list_opens_what_was_done_after_it() -> None:
    done = walked("last_dust")
    turned = steps_of(with_entries(skerry_light(), case__crown_angle=120))
    run = run_of(done, turned)
    assert run.here == "remove_feet"
    assert {"trial_dial", "fix_dial", "press_hour", "case_up"} <= {stand.step.id for stand in run.again}
    assert run.stands["press_crystal"].state == "done"


def test_what_sets_holds_its_steps_until_it_rings_or_is_passed_over() -> None:
    done = walked("seat_crown")
    begun = entry(800, "lock_thread", "timer", value=20.0, words="Threadlocker sets")
    held = run_of([*done, begun], now_ms=begun.at_ms + 19 * MINUTE_MS).stands["seat_crown"]
    assert (held.state, held.timer is not None) == ("waiting", True)
    rung = run_of([*done, begun], now_ms=begun.at_ms + 20 * MINUTE_MS)
    assert rung.stands["seat_crown"].state == "open"
    assert not rung.timers["lock_thread"].holds(rung.now_ms)
    early = run_of([*done, begun, entry(801, "lock_thread", "quiet")], now_ms=begun.at_ms + MINUTE_MS)
    assert early.stands["seat_crown"].state == "open"
    assert not timers_of([begun, entry(802, "lock_thread", "open")])


def test_time_on_a_step_runs_from_its_start_to_its_end_at_each_device() -> None:
    def at(seconds: int, step: str, what: BenchWhat, device: str = "tablet") -> LogEntry:
        return LogEntry(f"time-{seconds:05}", step, what, seconds * 1000, device=device)

    entries = [
        at(0, "clean_dial", "start"), at(60, "clean_dial", "pause"), at(100, "clean_dial", "start"),
        at(130, "clean_dial", "done"), at(131, "trial_dial", "start"), at(140, "fix_dial", "start", "desk"),
        at(151, "trial_dial", "yes"), at(160, "seat_ring", "start"),
    ]  # fmt: skip
    spent = seconds_by_step(entries, 200_000)
    assert spent == {"clean_dial": 90, "trial_dial": 20, "seat_ring": 40, "fix_dial": 60}
    assert seconds_by_step([at(0, "seat_ring", "start")], 10**9) == {"seat_ring": 1800}


def test_how_long_is_left_goes_by_own_times_where_there_are_any() -> None:
    found = ahead([("clean_dial", 4, 0), ("lock_thread", 3, 20)], {"clean_dial": 9.5})
    assert (found.minutes, found.setting, found.steps, found.own) == (12.5, 20, 2, 1)


def test_undo_takes_back_the_newest_that_can_be() -> None:
    entries = [
        entry(1, "lay_out_parts", "start"),
        entry(2, "lay_out_parts", "done"),
        entry(3, "check_movement", "start"),
    ]
    last = last_undoable(entries, 5000)
    assert last is not None
    assert last.key == "key-00002"
    undone = [*entries, LogEntry("key-00004", "", "undo", 4000, undoes=last.key, id=4)]
    assert [one.key for one in standing(undone)] == ["key-00001", "key-00003"]
    assert last_undoable(undone, 5000) is None
    assert last_undoable(entries, 1500) is None
    assert run_of(undone).here == "lay_out_parts"


def test_the_stems_readings_begin_anew_with_another_stem() -> None:
    readings = [entry(900, "measure_gap", "gap", value=8.0), entry(901, "cut_stem", "cut", value=8.3)]
    assert run_of(readings).ledger.advice == "short"
    lost = LogEntry(
        "mishap-1", "cut_stem", "mishap", 902_000, detail={"new_stem": True, "opens": ["trial_stem"]}
    )
    again = run_of([*readings, lost])
    assert again.stem_events == ()
    assert again.ledger.advice == "cut"


def test_every_mishap_says_what_to_look_at_and_how_back() -> None:
    known = {step.id for step in STEPS}
    every = (*FAILURES, *MISHAPS)
    assert len({kind.key for kind in every}) == len(every) == len(MISHAP_BY_KEY)
    checks = {check.name.partition(".")[0] for check in MODEL.checks}
    for kind in every:
        assert kind.look
        assert {*kind.likely, *kind.of} <= known, kind.key
        assert set(kind.checks) <= checks, kind.key
        assert any(way.accepts for way in kind.ways_back), kind.key
        assert len({way.key for way in kind.ways_back}) == len(kind.ways_back), kind.key
        for way in kind.ways_back:
            assert way.risk.endswith("."), way
            for at in ("press_minute", "check_seconds", "cut_stem", "nowhere"):
                again = opens(STEPS_OF_SKERRY, way, at)
                assert set(again) <= set(STEPS_OF_SKERRY.by_id)
                assert not again or set(STEPS_OF_SKERRY.depending_on(again[0])) == set(again[1:])
    assert likely_first("cut_stem")[0].key == "stem_short"
    deep = next(kind for kind in MISHAPS if kind.key == "hand_too_deep")
    assert opens(STEPS_OF_SKERRY, deep.ways[0], "check_minute")[0] == "press_minute"


def test_a_height_read_before_a_hand_was_pressed_again_is_of_another_height() -> None:
    done = walked("press_seconds")
    read = entry(500, "check_minute", "height", value=0.88)
    assert run_of([*done, read]).heights == {"minute": 0.88}
    lifted = LogEntry(
        "mishap-1", "check_minute", "mishap", 501_000, detail={"opens": ["press_minute", "check_minute"]}
    )
    assert run_of([*done, read, lifted]).heights == {}
    again = [*done, read, lifted, entry(502, "press_minute", "done")]
    assert run_of(again).heights == {}
    assert run_of([*again, entry(503, "check_minute", "height", value=1.29)]).heights == {"minute": 1.29}


def test_what_was_opened_on_purpose_is_not_said_to_stand() -> None:
    done = walked("last_dust")
    on_purpose = run_of([*done, entry(900, "press_crystal", "open")])
    assert on_purpose.stands["press_crystal"].again == "opened again"
    names = {stand.step.id for stand in on_purpose.may_stand}
    assert "press_crystal" not in names
    assert "crystal_seated" in names
    refusals = [on_purpose.refusal(entry(901, name, "yes")) for name in ("crystal_seated", "case_up")]
    assert all("waits for" in refusal for refusal in refusals)
    by_part = run_of(done, steps_of(with_entries(skerry_light(), crystal__name="Another crystal")))
    assert "press_crystal" in {stand.step.id for stand in by_part.may_stand}


def test_minutes_booked_with_mishaps_are_those_of_their_ways() -> None:
    def mishap(kind: str, way: str, **more: Any) -> LogEntry:
        detail = {"kind": kind, "way": way, "hours": 7, **more}
        return LogEntry(f"mishap-{kind}", "check_minute", "mishap", 1, detail=detail)

    known = {(kind.key, way.key): way.minutes for kind in MISHAPS for way in kind.ways}
    for (kind, way), minutes in known.items():
        assert minutes_booked([mishap(kind, way)]) == minutes
    some = [mishap("hand_too_deep", "lift"), mishap("screw_lost", "found"), mishap("no such", "way")]
    assert minutes_booked(some) == known["hand_too_deep", "lift"] + known["screw_lost", "found"]
    assert minutes_booked([entry(1, "fit_bezel", "done")]) == 0
    unpriced = LogEntry("m", "check_minute", "mishap", 1, detail={"kind": "hand_too_deep", "way": "lift"})
    assert minutes_booked([unpriced]) == 0


OWN_FAILURES = {
    "trial_dial": ["window_off", "dial_not_flat", "ring_lifts", "hole_touches", "feet_miss"],
    "bezel_turns": ["bezel_tight", "bezel_loose", "bezel_silent", "click_spring_lost", "bezel_stuck"],
    "crystal_seated": ["crystal_proud", "crystal_leans", "gasket_folded", "crystal_cracked"],
    "crystal_side": ["side_unknown"],
    "washer_seated": ["washer_missing", "washer_over"],
    "date_in_window": ["half_numeral", "wrong_numeral", "numeral_askew"],
    "dial_square": ["dial_turned", "ring_turned"],
    "rotor_free": ["rotor_loose", "rotor_rubs"],
    "crown_works": ["crown_proud", "crown_comes_out", "date_unset", "crown_wobbles"],
    "check_minute": ["hand_touches", "hand_low", "hand_high", "hand_leans", "hand_loose"],
    "functions_all": ["no_winding", "no_setting", "no_date", "no_hacking"],
    "check_movement": ["movement_faulty", "magnetised", "not_as_sold"],
}


@pytest.mark.parametrize("step", OWN_FAILURES)
def test_a_no_shows_what_that_question_may_mean_first(step: str) -> None:
    assert {kind.key for kind in failures_of(STEPS_OF_SKERRY, step)} == set(OWN_FAILURES[step])


def test_every_question_of_a_watch_has_its_own_failures() -> None:
    gates = {step.id for step in STEPS_OF_SKERRY.steps if step.is_gate}
    assert {step for step in gates if not failures_of(STEPS_OF_SKERRY, step)} == set()


def doubt(number: int, step: str) -> LogEntry:
    return entry(number, step, "skip", words="Not sure, go on", detail={"unsure": True})


def test_a_doubt_is_passed_and_asked_again_before_the_back_is_closed() -> None:
    done = [
        each if each.step != "crystal_seated" else doubt(each.id, each.step) for each in walked("close_back")
    ]
    run = run_of(done)
    assert [stand.step.id for stand in run.doubts] == ["crystal_seated"]
    assert run.stands["case_up"].counts
    closing = run.stands["close_back"]
    assert (closing.state, closing.asks_again) == ("waiting", ("crystal_seated",))
    assert "waits for" in run.refusal(entry(800, "close_back", "done"))
    for again in (doubt(801, "crystal_seated"), entry(801, "crystal_seated", "yes")):
        assert not run.is_settled_already(again)
        after = run_of([*done, again])
        assert after.stands["close_back"].state == "open"
        assert after.stands["case_up"].counts, "what was built upon the doubt stays built"
        assert not after.refusal(entry(802, "close_back", "done"))
        assert after.is_settled_already(doubt(803, "crystal_seated")) == (again.what == "skip")
    no = run_of([*done, entry(801, "crystal_seated", "no")])
    assert not no.stands["case_up"].counts


@pytest.mark.parametrize("step", ["press_hour", "check_movement", "calendar_works", "clean_dial"])
def test_a_second_answer_says_what_stands_already(step: str) -> None:
    run = run_of(walked("press_minute"))
    what: BenchWhat = "yes" if run.procedure.by_id[step].is_gate else "done"
    assert run.is_settled_already(entry(900, step, what))
    assert run.is_settled_already(entry(900, step, "skip", words="seen"))
    assert not run.is_settled_already(entry(900, step, "no"))
    assert not run.is_settled_already(entry(900, step, "open"))
    assert not run.is_settled_already(entry(900, "press_minute", "done"))
