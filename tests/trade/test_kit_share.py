"""The price of a whole kit shared among its parts: by their own prices or evenly, never beyond what it holds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.trade.kit_share import BY_THEIR_OWN, EVENLY, KitLine, kit_prices
from marquetry.core.values.money import Money


def eur(minor: int) -> Money:
    return Money(minor, "EUR")


@pytest.mark.parametrize(
    ("own", "whole", "beside", "prices", "how"),
    [
        ([6000, 2490, 1500], 9500, [], [5706, 2368, 1426], BY_THEIR_OWN),
        ([6000, 2490, 1500], 10480, [490], [6000, 2490, 1500], ""),
        ([None, None, None], 13900, [], [4634, 4633, 4633], EVENLY),
        ([6000, None, None], 10000, [1000], [6000, 1500, 1500], EVENLY),
        ([6000, None], 5000, [], [6000, None], ""),
        ([6000, None], None, [], [6000, None], ""),
        ([1000, 500], 300, [400], [1000, 500], ""),
    ],
)
def test_a_whole_is_shared_and_said_how(
    own: list[int | None], whole: int | None, beside: list[int], prices: list[int | None], how: str
) -> None:
    lines = [KitLine(None if minor is None else eur(minor)) for minor in own]
    found = kit_prices(lines, None if whole is None else eur(whole), [eur(minor) for minor in beside])
    assert [one.price and one.price.minor for one in found] == prices
    assert {one.how for one in found} <= {"", how}


def test_the_sum_of_an_order_that_is_too_small_changes_no_price() -> None:
    lines = [KitLine(eur(6000)), KitLine(eur(2490))]
    assert [one.price for one in kit_prices(lines, eur(8000), is_offer=False)] == [eur(6000), eur(2490)]


def test_two_pieces_share_twice_and_another_currency_is_left_alone() -> None:
    found = kit_prices([KitLine(None, 2), KitLine(None, 1)], eur(900))
    assert [one.price for one in found] == [eur(300), eur(300)]
    dollars = KitLine(Money(1800, "USD"))
    assert [one.price for one in kit_prices([dollars, KitLine(None)], eur(900))] == [dollars.price, None]


@given(
    own=st.lists(st.none() | st.integers(0, 10**6), min_size=1, max_size=9),
    whole=st.integers(0, 10**7),
    beside=st.integers(0, 10**6),
)
def test_no_share_is_below_nothing_and_together_they_are_no_more_than_the_whole(
    own: list[int | None], whole: int, beside: int
) -> None:
    found = kit_prices(
        [KitLine(None if minor is None else eur(minor)) for minor in own], eur(whole), [eur(beside)]
    )
    shared = [one.price.minor for one in found if one.price and one.how]
    assert all(one.price is None or one.price.minor >= 0 for one in found)
    if shared:
        assert sum(one.price.minor for one in found if one.price) == whole - beside
    else:
        assert [one.price and one.price.minor for one in found] == own
