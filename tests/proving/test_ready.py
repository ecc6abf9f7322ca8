"""Ready to hand over: what a watch asks for, what passes, what lapses when it is opened."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.bench.situation import Situation
from marquetry.core.brief.wish import Brief
from marquetry.core.proving.asked import TESTS, readiness, round_of
from marquetry.core.proving.positions import POSITIONS, PositionTiming, rate_round
from marquetry.core.proving.ready import Readiness
from marquetry.core.proving.record import PROOF_KINDS, Proof, ProofKind, proofs_standing
from marquetry.core.proving.told import proof_told
from marquetry.core.proving.wrist import WristEntry
from marquetry.core.proving.wrist_records import wrist_entry, wrist_result
from marquetry.core.story.handover import HandedOver, chapters
from marquetry.demo.workshop import demo_sheets
from tests.strategies import MODEL, report_on, rules

DEMO = demo_sheets(MODEL.anatomy)

SITUATION = Situation(report_on(DEMO["skerry-light"]))
TIGHT = {"verdict": "tight", "held_bar": 10.0}


def heard(position: str, at: int, rate: float = 3.0, swing: float | None = 280.0, beat: float = 0.3) -> Proof:
    result: Any = {"rate_s_per_day": rate, "rate_u": 0.1, "beat_error_ms": beat, "amplitude_deg": swing}
    return Proof(f"heard-{position}-{at}", "sound", position, at, result=result)


def every(ready: Readiness, at: int = 10) -> list[Proof]:
    """One passing record of each item that is asked for."""
    found: list[Proof] = []
    for state in ready.states:
        kind: ProofKind = state.test.key
        for item in state.items:
            key = f"{kind}-{item.key}-{at}"
            if kind == "sound":
                found.append(heard(item.key, at))
            elif kind == "wrist":
                for hours, offset in ((0, 0.0), (30, 4.0)):
                    result = wrist_result(WristEntry(0.0, "read", offset))
                    found.append(Proof(f"{key}-{hours}", kind, "worn", at + hours * 3_600_000, result=result))
            elif kind == "lume":
                found += [
                    Proof(f"{key}-{t}", kind, item.key, at, result={"minutes": t, "brightness": 1.0 / t})
                    for t in (1, 10)
                ]
            else:
                found.append(Proof(key, kind, item.key, at, "passed", result=TIGHT if kind == "dry" else {}))
    return found


def states(proofs: list[Proof], closed: int | None = None, *, is_open: bool = False) -> dict[str, str]:
    return {s.test.key: s.state for s in readiness(SITUATION, proofs, closed, is_open=is_open).states}


ALL = every(readiness(SITUATION, []))
LATER = 200_000_000


def test_nothing_is_ready_before_everything_passed() -> None:
    assert set(states([]).values()) == {"open"}
    assert set(states(ALL).values()) == {"passed"}
    assert readiness(SITUATION, ALL, 5).is_ready
    assert not readiness(SITUATION, ALL, 5, is_open=True).is_ready
    for gone in ALL:
        if gone.kind in {"functions", "meeting", "loupe", "angle", "date", "dry", "sound"}:
            assert not readiness(SITUATION, [proof for proof in ALL if proof is not gone]).is_ready, gone.item


LAPSE: Any = (
    ([], {}),
    (
        [("back", LATER)],
        {"functions": "lapsed", "sound": "lapsed", "dry": "lapsed", "wrist": "lapsed", "loupe": "lapsed"},
    ),
    ([("hands", LATER)], {test.key: "lapsed" for test in TESTS}),
    ([("hands", 1)], {}),
)


@pytest.mark.parametrize(("opened", "lapsed"), LAPSE)
def test_opening_lapses_what_must_be_done_again(
    opened: list[tuple[str, int]], lapsed: dict[str, str]
) -> None:
    proofs = ALL + [Proof(f"opened-{at}", "opened", what, at) for what, at in opened]
    found = states(proofs)
    assert found == {key: lapsed.get(key, "passed") for key in found}
    assert {state.words for state in readiness(SITUATION, proofs).states if state.state == "lapsed"} <= {
        "lapsed when the watch was opened"
    }


def test_closing_at_the_bench_lapses_the_same_and_hands_stand() -> None:
    found = states(ALL, closed=LATER)
    assert {key for key, state in found.items() if state == "passed"} == {"meeting", "date", "angle", "lume"}


def test_the_newest_record_decides_and_a_slip_is_taken_back() -> None:
    slip = Proof("slip-0001", "loupe", "dust", 50, "failed")
    assert states([*ALL, slip])["loupe"] == "failed"
    back = Proof("back-0001", "undo", "", 60, undoes="slip-0001")
    assert states([*ALL, slip, back])["loupe"] == "passed"
    assert slip not in proofs_standing([*ALL, slip, back])


DRY = (
    ({"verdict": "tight", "held_bar": 10.0}, "passed", "passed"), ({"verdict": "tight", "held_bar": 3.0}, "passed", "unsure"),
    ({"verdict": "leak", "held_bar": 10.0}, "failed", "failed"), ({"verdict": "short", "held_bar": 10.0}, "unsure", "unsure"),
)  # fmt: skip


@pytest.mark.parametrize(("result", "verdict", "state"), DRY)
def test_a_dry_test_counts_at_the_depth_that_is_wanted(result: Any, verdict: Any, state: str) -> None:
    assert states([Proof("dry-00001", "dry", "case", 5, verdict, result=result)])["dry"] == state


ROUNDS: Any = (
    ({}, set()),
    ({"dial_up": {"rate": 60.0}, "dial_down": {"rate": 58.0}}, {"rate", "position_spread"}),
    ({"dial_up": {"swing": 150.0}}, {"amplitude"}),
    ({"crown_up": {"swing": 150.0}}, set()),
    ({"crown_left": {"beat": 1.2}}, {"beat_error"}),
    ({"crown_left": {"rate": -25.0}}, {"position_spread"}),
)


@pytest.mark.parametrize(("changed", "broken"), ROUNDS)
def test_six_positions_are_judged_by_house_rules(changed: dict[str, Any], broken: set[str]) -> None:
    proofs = [heard(p.key, 5, **changed.get(p.key, {})) for p in POSITIONS]
    ready = readiness(SITUATION, proofs)
    found = round_of(ready)
    assert found is not None
    assert {each.key for each in found.judged if not each.holds} == broken
    assert ready.by_key["sound"].state == ("failed" if broken else "passed")
    assert all(bool(each.means) and bool(each.helps) for each in found.judged if not each.holds)


def test_mean_spread_and_hanging_less_lying() -> None:
    heard_at = {str(p.key): PositionTiming(float(n), 0.3, 0.1) for n, p in enumerate(POSITIONS)}
    found = rate_round(heard_at, rules())
    assert found is not None
    assert (found.mean, found.spread, found.hanging_less_lying) == (2.5, 5.0, 3.5 - 0.5)
    assert found.mean_u == pytest.approx(0.3 / 6**0.5)
    assert rate_round({}, rules()) is None


def test_a_part_of_a_round_is_begun() -> None:
    assert states([heard("dial_up", 5)])["sound"] == "begun"
    one = Proof("worn-0001", "wrist", "worn", 5, result=wrist_result(WristEntry(0.0)))
    assert states([one])["wrist"] == "begun"
    assert wrist_entry(Proof("rubbish-1", "wrist", "worn", 5, result={"what": "flew"})) is None


def test_what_a_watch_lacks_is_not_asked_for() -> None:
    plain = DEMO["orchard"]
    asked = {state.test.key for state in readiness(Situation(report_on(plain)), []).states}
    assert "date" not in asked
    assert asked >= {"functions", "sound", "meeting", "loupe", "wrist"}


@pytest.mark.parametrize("kind", sorted(set(PROOF_KINDS) - {"undo"}))
def test_every_record_is_told_in_words(kind: Any) -> None:
    told = proof_told(Proof("told-0001", kind, "dial", 5, "passed", "as seen", result={"what": "read"}))
    assert told.endswith("as seen")
    assert len(told) > len("as seen") + 4


events = st.lists(
    st.tuples(
        st.sampled_from(["functions", "loupe", "meeting", "angle", "opened", "undo"]),
        st.integers(0, 30),
        st.sampled_from(["passed", "failed"]),
    ),
    max_size=24,
)
LASTING = {"meeting", "angle"}


def plainly(told: list[tuple[str, int, str]], closed: int | None) -> dict[str, str]:
    """The states by a plain walk through what happened, one after the other, as a builder would tell it."""
    items = {
        str(state.test.key): [item.key for item in state.items] for state in readiness(SITUATION, []).states
    }
    gone = {int(at) for kind, at, _ in told if kind == "undo" and at < len(told) and told[at][0] != "undo"}
    verdicts: dict[str, dict[str, str]] = {key: {} for key in items}
    seen: set[str] = set()
    for number, (kind, at, verdict) in enumerate(told):
        if closed == number:
            for key in set(items) - LASTING:
                verdicts[key].clear()
        if kind == "undo" or number in gone:
            continue
        if kind == "opened":
            for key in items:
                if at % 2 or key not in LASTING:
                    verdicts[key].clear()
        else:
            verdicts[kind][items[kind][at % len(items[kind])]] = verdict
            seen.add(kind)
    return {
        key: _plain_state(verdicts[key], items[key], ever=key in seen)
        for key in ("functions", "loupe", "meeting", "angle")
    }


def _plain_state(verdicts: dict[str, str], items: list[str], *, ever: bool) -> str:
    if not verdicts:
        return "lapsed" if ever else "open"
    if "failed" in verdicts.values():
        return "failed"
    return "passed" if len(verdicts) == len(items) else "begun"


@settings(max_examples=250, deadline=None)
@given(events, st.none() | st.integers(0, 23))
def test_whatever_happens_the_states_are_those_of_a_plain_walk(
    told: list[tuple[str, int, str]], closed: int | None
) -> None:
    items = {
        str(state.test.key): [item.key for item in state.items] for state in readiness(SITUATION, []).states
    }
    proofs = []
    for number, (kind, at, verdict) in enumerate(told):
        if kind == "undo":
            back = f"event-{at:03}" if at < len(told) and told[at][0] != "undo" else "nothing-at-all"
            proofs.append(Proof(f"event-{number:03}", "undo", "", number * 10, undoes=back))
        elif kind == "opened":
            proofs.append(Proof(f"event-{number:03}", "opened", "hands" if at % 2 else "back", number * 10))
        else:
            item = items[kind][at % len(items[kind])]
            proofs.append(Proof(f"event-{number:03}", kind, item, number * 10, verdict))  # type: ignore[arg-type]  # one of the kinds
    closed_ms = None if closed is None or closed >= len(told) else closed * 10 - 5
    found = states(proofs, closed_ms)
    expected = plainly(told, closed)
    assert {key: found[key] for key in expected} == expected


DRIVES: dict[str, tuple[set[str], set[str], set[str], str]] = {
    # The drive: proofs it does not ask for, functions it has and has not, a line of the sheet that goes along.
    "automatic": (set(), {"rotor"}, {"stepping"}, "the rotor winds it on"),
    "hand-wound": (set(), {"winding"}, {"rotor", "stepping"}, "until it stops by itself"),
    "battery": ({"sound"}, {"stepping"}, {"rotor", "winding"}, "the battery is empty"),
}


@pytest.mark.parametrize("drive", DRIVES)
def test_each_drive_is_proved_and_handed_over_in_its_own_way(drive: str) -> None:
    gone, has, has_not, line = DRIVES[drive]
    build = DEMO["skerry-light"].with_entry("movement.drive", drive)
    situation = Situation(report_on(build))
    asked = {state.test.key: {item.key for item in state.items} for state in readiness(situation, []).states}
    assert {"sound", "wrist"} - set(asked) == gone
    assert has <= asked["functions"]
    assert not has_not & asked["functions"]
    handed = HandedOver(situation, readiness(situation, []), Brief.of([], []), None, "", 13)
    setting = " ".join(chapters(handed)[0].lines)
    assert line in setting
    assert "unscrews anticlockwise" in setting
    assert ("it winds" in setting) == (drive != "battery")
