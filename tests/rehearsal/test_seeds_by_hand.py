"""A thousand watches for what is done by hand; a file of its own, so that a worker of its own may play it."""

import pytest

from marquetry.core.rehearsal.exercises import exercise
from tests.rehearsal.seeds import play_a_thousand


@pytest.mark.parametrize("key", ["stem", "hands", "gasket", "midnight", "feet"])
def test_who_plays_surely_reaches_the_aim_and_who_errs_misses_it_as_often_as_stated(key: str) -> None:
    play_a_thousand(exercise(key))
