"""How good the report was: against plain counts, published figures, and worlds whose chances are true."""

import random
from statistics import fmean, stdev

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.story.calibration import (
    BANDS,
    brier,
    chance_bands,
    check_records,
    gap_records,
    wilson,
)
from marquetry.core.story.foretold import Foretold


def answer(chance: float, held: bool, check: str = "rotor_clearance") -> Foretold:  # noqa: FBT001  # it is the answer
    return Foretold(1, "A watch", check, "rotor_free", chance, held)


def gap(value: float, found: float, check: str = "stem_cut") -> Foretold:
    return Foretold(
        1, "A watch", check, "measure_gap", value=value, low=value - 0.1, high=value + 0.1, found=found
    )


answers = st.lists(st.tuples(st.floats(0, 1), st.booleans()), min_size=1, max_size=60)


@pytest.mark.parametrize(
    ("held", "count", "low", "high"),
    [
        (0, 10, 0.0, 0.2775),
        (10, 10, 0.7225, 1.0),
        (5, 10, 0.2366, 0.7634),
        (81, 263, 0.2553, 0.3662),
        (1, 1, 0.2065, 1.0),
    ],
    ids=["none", "all", "half", "Newcombe 1998, table I", "one alone"],
)
def test_the_interval_of_a_share_is_wilsons(held: int, count: int, low: float, high: float) -> None:
    assert wilson(held, count) == pytest.approx((low, high), abs=6e-5)


@given(answers)
def test_bands_hold_everything_once_and_count_as_one_would(told: list[tuple[float, bool]]) -> None:
    bands = chance_bands([answer(*one) for one in told])
    assert sum(band.count for band in bands) == len(told)
    assert sum(band.held for band in bands) == sum(held for _, held in told)
    for band in bands:
        within = [
            (c, h) for c, h in told if band.low <= c < band.high or (c == 1.0 and band.high == BANDS[-1])
        ]
        assert band.mean == pytest.approx(fmean(c for c, _ in within))
        assert band.share == pytest.approx(fmean(h for _, h in within))
        assert band.least - 1e-12 <= band.share <= band.most + 1e-12
    assert brier([answer(*one) for one in told]) == pytest.approx(fmean((c - h) ** 2 for c, h in told))


@given(answers)
def test_by_check_the_sums_are_plain_sums(told: list[tuple[float, bool]]) -> None:
    every = [answer(*one, "a" if place % 3 else "b") for place, one in enumerate(told)]
    records = {record.check: record for record in check_records(every)}
    for name, record in records.items():
        ours = [one for one in every if one.check == name]
        assert record.count == len(ours)
        assert record.expected == pytest.approx(sum(one.chance or 0.0 for one in ours))
        assert record.held == sum(bool(one.held) for one in ours)
    hopes = [record.hope for record in check_records(every)]
    assert hopes == sorted(hopes, reverse=True)


def test_true_chances_are_seldom_called_too_hopeful_and_false_ones_mostly_are() -> None:
    draw = random.Random(3)  # noqa: S311  # a test's own draw
    called = {"true": 0, "false": 0}
    for _ in range(400):
        chances = [draw.choice((0.7, 0.9, 0.97)) for _ in range(30)]
        for world, less in (("true", 0.0), ("false", 0.25)):
            told = [answer(c, draw.random() < c - less) for c in chances]
            called[world] += check_records(told)[0].is_too_hopeful
    assert called["true"] < 0.05 * 400
    assert called["false"] > 0.7 * 400


def test_what_never_failed_is_never_too_hopeful() -> None:
    assert not any(record.is_too_hopeful for record in check_records([answer(1.0, held=True)] * 40))
    assert check_records([answer(1.0, held=True)] * 40 + [answer(1.0, held=False)])[0].is_too_hopeful


@given(st.lists(st.floats(-0.3, 0.3), min_size=1, max_size=20))
def test_gaps_are_told_by_their_plain_mean_and_spread(offs: list[float]) -> None:
    (record,) = gap_records([gap(8.0, 8.0 + off) for off in offs])
    assert record.mean == pytest.approx(fmean(offs), abs=1e-9)
    assert record.outside == sum(abs(8.0 + off - 8.0) > 0.1 for off in offs)
    if len(offs) == 1:
        assert record.spread is None
        assert record.doubt is None, "one alone tells nothing of the next"
    else:
        assert record.spread == pytest.approx(stdev(offs), abs=1e-9)
        assert record.doubt is not None
        assert record.doubt >= 1.96 * stdev(offs) / len(offs) ** 0.5 - 1e-9


def test_what_was_not_foretold_or_not_found_counts_nowhere() -> None:
    nothing = [Foretold(1, "A", "stem_cut", "measure_gap", value=8.0), Foretold(1, "A", "x", "y", chance=0.9)]
    assert (chance_bands(nothing), brier(nothing), check_records(nothing), gap_records(nothing)) == (
        [],
        None,
        [],
        [],
    )
