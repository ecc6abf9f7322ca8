"""Twins and plays: what is drawn, what follows from a record, what is refused, when practice comes back."""

import math
import random
from itertools import pairwise
from pathlib import Path
from statistics import NormalDist

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.actions.hand_press import HandsAt
from marquetry.core.rehearsal.actions.stem_cut import StemAt, jaws
from marquetry.core.rehearsal.exercise import LONGEST_HOLD_MS, TICK_MS, AnyExercise, MoveOffer, PlayMove
from marquetry.core.rehearsal.exercises import EXERCISES, exercise, exercises_for
from marquetry.core.rehearsal.pieces import PIECES, piece
from marquetry.core.rehearsal.play import Play, played
from marquetry.core.rehearsal.practice import DRAWER_DAYS, Practised, next_up, standing_of
from marquetry.core.rehearsal.twin import draw_twin
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.core.values.verdict import Verdict
from tests.strategies import ANATOMY, MODEL, builds, report_on

KEYS = [one.key for one in EXERCISES]


def begun(one: AnyExercise, seed: int, build: Build | None = None) -> Play:
    build = build or piece(one.piece, ANATOMY)
    return Play.begin(one, build, MODEL.rules_of(build), seed)


@settings(max_examples=40, deadline=None)
@given(builds(), st.integers(0, 10**9))
def test_a_true_part_lies_within_its_tolerance_and_is_the_same_for_the_same_seed(
    build: Build, seed: int
) -> None:
    twin, again = (draw_twin(build, MODEL.rules_of(build), seed) for _ in range(2))
    assert twin.true == again.true
    assert set(twin.true.dimensions) == set(build.dimensions)
    for path, believed in build.dimensions.items():
        true = twin.true.dimensions[path]
        assert true.source is Source.EXACT
        assert abs(true.value - believed.value) <= believed.tol + 1e-4, path


def test_parts_are_drawn_as_the_report_reckons_their_chances() -> None:
    """Over many seeds a measured figure is spread as its standard uncertainty says, a listed one flat."""
    build = piece("three-hands", ANATOMY)
    by = MODEL.rules_of(build)
    drawn = [draw_twin(build, by, seed).true.dimensions for seed in range(400)]
    for path in ("case.seat_to_tube", "crystal.edge_thickness"):
        believed = build.dimensions[path]
        off = [one[path].value - believed.value for one in drawn]
        spread = math.sqrt(sum(x * x for x in off) / len(off))
        assert spread == pytest.approx(believed.standard_uncertainty, rel=0.15), path
        assert abs(sum(off) / len(off)) < believed.tol / 6


def test_what_a_check_lacks_is_assumed_and_then_drawn() -> None:
    build = piece("three-hands", ANATOMY).without("case.centre_to_tube_end")
    twin = draw_twin(build, MODEL.rules_of(build), 5, ("stem_cut",))
    assert twin.believed.dimensions["case.centre_to_tube_end"].source is Source.ASSUMED
    assert twin.report.findings["stem_cut"].verdict is not Verdict.UNMEASURED


def test_the_set_is_whole_and_in_order() -> None:
    for name in PIECES:
        build = piece(name, ANATOMY)
        found = report_on(build)
        assert found.count(Verdict.CLASH) == 0, name
        assert build.name.startswith("Practice watch")
    with pytest.raises(NotFoundError):
        piece("../three-hands", ANATOMY)


def some_move(offer: MoveOffer, draw: random.Random) -> PlayMove:
    word = draw.choice(offer.options).word if offer.options else ""
    value = {"hold": draw.uniform(0, 3000), "amount": draw.uniform(offer.low, offer.high)}.get(
        offer.kind, 0.0
    )
    return PlayMove(offer.what, value, word)


@pytest.mark.parametrize("key", KEYS)
def test_any_play_is_replayed_from_its_record_and_ends_in_words(key: str) -> None:
    """Whatever is done in whatever order, nothing raises, and the same moves give the same states."""
    one = exercise(key)
    for seed in range(12):
        draw, play = random.Random(seed), begun(one, seed)
        for _ in range(40):
            if play.now.done:
                break
            offers = play.offers
            assert len({offer.key for offer in offers}) == len(offers), "each has a key of its own"
            for offer in offers:
                track = play.track(offer.what)
                assert not track or len(track) == LONGEST_HOLD_MS // TICK_MS + 1
            play = play.after(some_move(draw.choice(offers), draw))
        again = begun(one, seed).replayed(play.moves)
        assert repr(again.now) == repr(play.now)
        assert again.outcome == play.outcome
        assert play.up_to(1).now == play.states[min(1, len(play.moves))]
        if play.outcome:
            assert play.outcome.words
            assert play.offers == ()
            assert play.outcome.reached or 1 <= play.outcome.moment <= len(play.moves)


@pytest.mark.parametrize("key", KEYS)
def test_what_is_not_offered_is_refused_and_changes_nothing(key: str) -> None:
    play = begun(exercise(key), 1)
    wrong = [PlayMove("fly")]
    for offer in play.offers:
        if offer.kind == "pick":
            wrong += [PlayMove(offer.what, word="nothing"), PlayMove(offer.what)]
        if offer.kind in {"hold", "amount"}:
            wrong += [PlayMove(offer.what, value) for value in (-1.0, math.nan, math.inf, 1e9)]
    for move in wrong:
        with pytest.raises(MarquetryError):
            play.after(move)
    ended = played(play, play.exercise.sure)
    with pytest.raises(MarquetryError):
        ended.after(ended.moves[0])


def test_a_cut_by_eye_fails_as_often_as_its_spread_says() -> None:
    """An oracle of its own: what is left is normal round 0, with the doubt of the figures and of the cut."""
    one = exercise("stem")
    mistake = next(found for found in one.mistakes if found.key == "by_eye")
    lefts, u = [], 0.0
    for seed in range(500):
        state = played(begun(one, seed), mistake.move).now
        assert isinstance(state, StemAt)
        lefts.append(state.left)
        u = state.of.start.u if state.of.start else 0.0
    normal = NormalDist(0.0, math.hypot(u, 0.30))
    expected = 1 - (normal.cdf(0.10) - normal.cdf(-0.15))
    found = sum(not -0.15 <= left <= 0.10 for left in lefts) / len(lefts)
    assert found == pytest.approx(expected, abs=3 * math.sqrt(expected * (1 - expected) / len(lefts)))


def test_what_the_player_sees_while_holding_is_what_happens_on_letting_go() -> None:
    for key, what in (("stem", "cut"), ("stem", "file"), ("gasket", "press"), ("midnight", "turn")):
        play = begun(exercise(key), 3)
        if key == "gasket":
            play = play.after(PlayMove("lay"))
        track = play.track(what)
        assert all(b >= a for a, b in pairwise(track)), "it only ever goes on"
        assert track[-1] > track[0]
    hands = begun(exercise("hands"), 3).after(PlayMove("shim", 0.65))
    track = hands.track("press")
    for ms in (400, 1200, 2400):
        state = hands.after(PlayMove("press", float(ms))).now
        assert isinstance(state, HandsAt)
        assert state.blade.height == pytest.approx(track[ms // TICK_MS], abs=1e-4)
    assert jaws(8.0)(0) == 7.0, "they begin a millimetre outside the mark"
    assert jaws(0.0)(1000) > jaws(0.0)(0) == 0.0


def test_a_watch_that_cannot_be_rehearsed_on_says_why() -> None:
    empty = Situation(report_on(Build.empty("Nothing", ANATOMY)))
    for one in EXERCISES:
        told = one.lacking(empty)
        assert told.endswith("."), one.key
    build = piece("three-hands", ANATOMY)
    short = build.with_entry("stem.length", build.dimensions["stem.length"].value - 8.0)
    assert "have to come off" in exercise("stem").lacking(Situation(report_on(short)))


def test_a_thousand_watches_are_played_of_every_exercise() -> None:
    told = "".join(file.read_text("utf-8") for file in Path(__file__).parent.glob("test_seeds_*.py"))
    assert all(f'"{key}"' in told for key in KEYS)


def test_every_exercise_says_what_counts_and_why_and_is_for_steps_of_the_bench() -> None:
    from marquetry.core.bench.steps import STEPS  # noqa: PLC0415  # its table, for this test alone

    ids = {step.id for step in STEPS}
    for one in EXERCISES:
        assert len(one.counts) >= 3
        assert all(what and why.endswith(".") for what, why in one.counts)
        assert set(one.steps) <= ids
        assert one in exercises_for(one.steps[0])
        assert len(one.mistakes) >= 2
    with pytest.raises(NotFoundError):
        exercise("no such")


DAY = "2026-11-{:02d}"
PLAYS = [
    # day, reached, helped → drawer, due
    ((1, True, False), 0, "2026-11-03"),
    ((3, True, False), 1, "2026-11-07"),
    ((7, True, True), 1, "2026-11-11"),
    ((11, True, False), 2, "2026-11-19"),
    ((19, False, False), 0, "2026-11-21"),
    ((21, True, True), 0, "2026-11-23"),
]


def test_what_is_reached_goes_a_drawer_on_and_what_is_missed_goes_back() -> None:
    made: list[Practised] = []
    assert standing_of("stem", made).drawer == -1
    for (day, reached, helped), drawer, due in PLAYS:
        made.append(Practised("stem", DAY.format(day), reached, helped))
        found = standing_of("stem", [*made, Practised("feet", DAY.format(day), reached=False)])
        assert (found.drawer, found.due) == (drawer, due)
        assert found.failed_last is not reached
        assert found.is_due(due)
        assert not found.is_due(DAY.format(day))
    assert (found.plays, found.reached) == (6, 5)


@given(st.lists(st.tuples(st.booleans(), st.booleans()), max_size=12))
def test_no_row_of_plays_leaves_the_drawers(rows: list[tuple[bool, bool]]) -> None:
    plays = [Practised("stem", "2026-11-01", reached, helped) for reached, helped in rows]
    drawer = standing_of("stem", plays).drawer
    assert -1 <= drawer < len(DRAWER_DAYS)
    if rows and not rows[-1][0]:
        assert drawer == 0


def test_what_went_wrong_last_comes_up_before_what_is_only_due() -> None:
    plays = [
        Practised("stem", "2026-11-01", reached=True),
        Practised("feet", "2026-11-04", reached=False),
        Practised("hands", "2026-11-20", reached=False),
    ]
    standings = [standing_of(key, plays) for key in ("stem", "feet", "hands", "gasket")]
    assert [one.exercise for one in next_up(standings, "2026-11-10")] == ["feet", "stem"]
