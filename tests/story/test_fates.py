"""What becomes of a watch: which steps may follow which, where it is then, what can be taken back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.story.fates import (
    FATE_WHATS,
    WHERE_WORDS,
    FateWhat,
    WatchFate,
    fate_moments,
    fate_told,
    is_done_with,
    numbers_out,
    refuse_fate,
    service_visits,
    whereabouts,
)
from marquetry.core.values.errors import TakenError
from marquetry.core.values.money import Money


def steps(*whats: FateWhat, number: int = 1) -> list[WatchFate]:
    return [WatchFate(what, number, day="2027-01-15", id=place) for place, what in enumerate(whats, 1)]


@pytest.mark.parametrize(
    ("before", "where", "may"),
    [
        ((), "bench", {"sold", "given", "kept", "apart"}),
        (("sold",), "sold", {"back"}),
        (("given",), "given", {"back"}),
        (("kept",), "kept", {"sold", "given", "apart", "back"}),
        (("kept", "sold"), "sold", {"back"}),
        (("apart",), "apart", set()),
        (("sold", "back"), "service", {"found", "changed", "out"}),
        (("sold", "back", "found"), "service", {"found", "changed", "out"}),
        (("sold", "back", "found", "changed", "out"), "sold", {"back"}),
        (("given", "back", "out", "back"), "service", {"found", "changed", "out"}),
        (("kept", "back", "out"), "kept", {"sold", "given", "apart", "back"}),
    ],
)
def test_where_a_watch_is_and_what_may_follow(
    before: tuple[FateWhat, ...], where: str, may: set[str]
) -> None:
    so_far = steps(*before)
    assert whereabouts(so_far) == where
    assert where in WHERE_WORDS
    allowed = set()
    for what in FATE_WHATS:
        try:
            refuse_fate(so_far, WatchFate(what), 1)
        except TakenError:
            continue
        allowed.add(what)
    assert allowed == may


@given(st.lists(st.tuples(st.sampled_from(FATE_WHATS), st.integers(1, 3)), max_size=25))
def test_numbers_of_a_series_go_their_own_ways_and_a_step_taken_back_never_was(
    tried: list[tuple[FateWhat, int]],
) -> None:
    every: list[WatchFate] = []
    for what, number in tried:
        new = WatchFate(what, number, day="2027-01-15", id=len(every) + 1)
        before = {n: whereabouts(every, n) for n in (1, 2, 3)}
        try:
            refuse_fate(every, new, 3)
        except TakenError:
            continue
        undone = [*every, new, WatchFate("undo", number, id=new.id + 1, undoes=new.id)]
        assert {n: whereabouts(undone, n) for n in (1, 2, 3)} == before
        every.append(new)
        assert all(whereabouts(every, n) == before[n] for n in (1, 2, 3) if n != number)
    out = numbers_out(every, 3)
    assert is_done_with(every, 3) == (out == [1, 2, 3])
    assert all(whereabouts(every, n) in {"bench", "service"} for n in {1, 2, 3} - set(out))
    assert len(list(fate_moments(every))) == len(every)
    assert sum(len(visit.steps) + 1 for visit in service_visits(every)) == sum(
        fate.what in {"back", "found", "changed", "out"} for fate in every
    )


def test_a_number_that_there_is_not_is_refused() -> None:
    for number in (0, 4):
        with pytest.raises(TakenError):
            refuse_fate([], WatchFate("sold", number), 3)


def test_steps_are_told_in_words_and_those_taken_back_are_marked() -> None:
    sold = WatchFate("sold", 2, "the pilot", "on the quay", Money(70000, "EUR"), "2027-01-15", id=1)
    assert (
        fate_told(sold, named=True).replace("\u00a0", " ")
        == "No. 2: Sold to the pilot for 700.00 EUR. on the quay"
    )
    moments = list(fate_moments([sold, WatchFate("undo", 2, id=2, undoes=1)]))
    assert [(moment.undone, moment.clock) for moment in moments] == [(True, False)]
    assert fate_told(WatchFate("apart")).endswith("back on the shelf")
