"""A thousand watches for each exercise: a sure hand reaches the aim, the obvious mistakes fail as often as stated."""

from collections import Counter

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.exercise import AnyExercise
from marquetry.core.rehearsal.pieces import piece
from marquetry.core.rehearsal.play import Play, played
from tests.strategies import ANATOMY, MODEL, report_on

SEEDS = 1000
AT_LEAST = 990


def play_a_thousand(exercise: AnyExercise) -> None:
    """Hold what an exercise says of its sure hand and of its mistakes against so many watches."""
    build = piece(exercise.piece, ANATOMY)
    rules = MODEL.rules_of(build)
    assert exercise.lacking(Situation(report_on(build, rules))) == "" or exercise.key in {"spacer", "measure"}
    reached, missed = 0, Counter[str]()
    for seed in range(SEEDS):
        begun = Play.begin(exercise, build, rules, seed)
        ended = played(begun, exercise.sure)
        assert ended.outcome
        reached += ended.outcome.reached
        for mistake in exercise.mistakes:
            found = played(begun, mistake.move).outcome
            assert found
            assert found.words
            assert found.reached or found.moment >= 1, "the moment it went wrong is told"
            missed[mistake.key] += not found.reached
    assert reached >= AT_LEAST
    for mistake in exercise.mistakes:
        low, high = mistake.fails
        assert low <= missed[mistake.key] / SEEDS <= high, f"{mistake.key}: {missed[mistake.key]}"
