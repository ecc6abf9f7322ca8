"""Quotes, spares, series, needs: each by cases worked by hand."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.sheet.families import ready_family, usual_watch
from marquetry.core.trade.ledger import Ledger, LedgerEntry, OpenCost, pay, to_finish
from marquetry.core.trade.needs import ESSENTIAL, lacks_of
from marquetry.core.trade.quote import QuoteLine, QuoteTerms, quoted
from marquetry.core.trade.series import PartForSeries, both_reach, series_reach, spares_of
from marquetry.core.trade.sundries import sundries_for
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money
from tests.strategies import ANATOMY, MODEL, case_build

HOUR = Money(3000, "EUR")


@pytest.mark.parametrize(
    ("terms", "each", "total", "deposit"),
    [
        (QuoteTerms(), "105.00", "105.00", "32.00"),
        (QuoteTerms(step=10), "110.00", "110.00", "33.00"),
        (QuoteTerms(margin_percent=Decimal(15)), "120.00", "120.00", "36.00"),
        (QuoteTerms(margin_minor=499, step=1), "106.00", "106.00", "32.00"),
        (QuoteTerms(minutes=90), "150.00", "150.00", "45.00"),
        (QuoteTerms(count=3, setting_up=100, minutes=20), "130.00", "390.00", "117.00"),
        (QuoteTerms(deposit_percent=Decimal(0)), "105.00", "105.00", "0.00"),
    ],
)
def test_a_quote_by_hand(terms: QuoteTerms, each: str, total: str, deposit: str) -> None:
    """Parts are 100.20. Of three, 100 minutes of setting up are 50.00, 16.67 for the first: 127.54 is 130."""
    found = quoted((QuoteLine("parts", 10020),), terms, HOUR)
    assert (found.each.plain, found.total.plain, found.deposit.plain) == (each, total, deposit)
    assert found.cost == found.total, "what was rounded up stands in a line of its own"


@given(
    st.integers(0, 10**6),
    st.integers(1, 9),
    st.integers(0, 600),
    st.integers(0, 600),
    st.decimals("0", "80", places=1),
)
def test_a_quote_never_asks_less_than_it_costs(
    minor: int, count: int, minutes: int, setting_up: int, margin: Decimal
) -> None:
    terms = QuoteTerms(count, minutes, setting_up, margin)
    found = quoted((QuoteLine("parts", minor),), terms, HOUR)
    least = minor * count + pay(minutes, HOUR).minor * count + pay(setting_up, HOUR).minor
    assert found.total.minor >= least
    assert found.each.minor % 500 == 0
    assert sum(line.minor for line in found.lines) == found.total.minor
    with pytest.raises(DimensionError):
        quoted((), QuoteTerms(count=0), HOUR)


@pytest.mark.parametrize(("minutes", "minor"), [(60, 3000), (1, 50), (90, 4500), (7, 350)])
def test_hours_are_rounded_each_by_itself(minutes: int, minor: int) -> None:
    assert pay(minutes, HOUR) == Money(minor, "EUR")
    assert pay(1, Money(3001, "EUR")) == Money(50, "EUR")


@pytest.mark.parametrize(
    ("percent", "used", "spares"),
    [(20, 3, 1), (20, 5, 1), (20, 6, 2), (10, 1, 1), (50, 3, 2), (100, 4, 4), (0, 4, 0), (20, 0, 0)],
)
def test_spares_by_rule(percent: int, used: int, spares: int) -> None:
    assert spares_of(percent, used) == spares
    with pytest.raises(DimensionError):
        spares_of(-1, 1)


def part(key: str, there: int, more: int | None, each: int = 1) -> PartForSeries:
    return PartForSeries(key, key, each, there, more)


def test_a_series_ends_with_the_part_that_runs_out_first_and_shared_parts_count_once() -> None:
    reach = series_reach(
        [part("dial", 2, 3), part("hands", 1, None), part("screw", 9, 0, each=2), part("stem", 0, 4)]
    )
    assert (reach.count, reach.ends, reach.from_shelf) == (4, ("screw", "stem"), 0)
    assert series_reach([part("hands", 1, None)]).count is None
    skerry, ferry = [part("dial", 3, 0), part("stem", 4, 1)], [part("stem", 4, 1), part("case", 9, 0)]
    assert both_reach(skerry, ferry) == (5, 4, 3, 2)


def test_what_a_watch_lacks_and_asks_for_at_the_bench() -> None:
    build = case_build(1)
    linked = build.with_entry("dial", {**build.at("dial"), "shelf_part": 7}).without("strap")
    lacks = {
        lack.key: lack
        for lack in lacks_of(linked, 1, {"dial": 10}, {7: "Lamp-room white"})
        if not lack.is_spare
    }
    assert lacks["part:7"].pieces == 1
    assert lacks["kind:strap"].what == "unknown"
    owned = linked.with_entry("dial", {**linked.at("dial"), "shelf_piece": 3})
    three = [
        lack for lack in lacks_of(owned, 3, {"dial": 10}, {7: "Lamp-room white"}) if lack.key == "part:7"
    ]
    assert [(lack.pieces, lack.is_spare) for lack in three] == [(2, False), (1, True)]
    assert not [lack for lack in lacks_of(owned, 1, {}, {7: "x"}) if lack.slot == "dial"]
    beside = [
        lack for lack in lacks_of(owned, 2, {}, {7: "x", 9: "Second strap"}, (9, 11)) if lack.key == "part:9"
    ]
    assert [(lack.name, lack.pieces, lack.slot) for lack in beside] == [("Second strap", 2, "")]
    assert set(ESSENTIAL) <= {kind.key for kind in MODEL.anatomy.kinds}
    rules = MODEL.rules_of(build)
    assert "adhesive_pads" in {one.key for one in sundries_for(build, rules)}
    other = MODEL.rules(house={"school_feet": "new_holes"})
    assert "adhesive_pads" not in {one.key for one in sundries_for(build.without("stem"), other)}


def test_what_came_with_a_bought_part_and_what_nobody_chose_is_told_apart() -> None:
    usual = usual_watch(ready_family("three-hands-39"), ANATOMY)
    told = {lack.slot: lack.is_told for lack in lacks_of(usual, 1, {}, {})}
    assert not any(told.values()), "a family chose them, and nobody else"
    named = usual.with_entry("dial.name", "Winkle")
    assert {lack.slot for lack in lacks_of(named, 1, {}, {}) if lack.is_told} == {"dial"}
    bought = named.with_entry("case", {**named.at("case"), "shelf_part": 7})
    together = bought.with_statement("together", [["case", "case_back", "crystal"]])
    left = {lack.slot for lack in lacks_of(together, 1, {}, {7: "Rowan"})}
    assert "case" in left
    assert not {"case_back", "crystal"} & left


def test_a_ledger_adds_up_and_what_has_no_price_is_told() -> None:
    entries = (
        LedgerEntry("piece", "dial", 4400),
        LedgerEntry("hours", "bench", 1500, minutes=30),
        LedgerEntry("loss", "x", -20),
    )
    ledger = Ledger("EUR", entries)
    assert (ledger.total, ledger.minutes) == (Money(5880, "EUR"), 30)
    assert [kind for kind, _, _ in ledger.kinds()] == ["piece", "loss", "hours"]
    assert to_finish([OpenCost("a", 1, 100, 140), OpenCost("b", 2, None, None)]) == (100, 140, ("b",))
