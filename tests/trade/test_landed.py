"""Money: shares that add up, currencies and their decimals, landed cost and refunds."""

import json
from decimal import Decimal
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.cli import main
from marquetry.core.trade.landed import Billed, Landed, OrderedLine, landed
from marquetry.core.trade.rates import Rates
from marquetry.core.trade.shares import shared
from marquetry.core.values.errors import DimensionError, RateError
from marquetry.core.values.money import Money, parse_money

RATES = Rates("EUR", {"GBP": {"2026-11-01": Decimal("1.17"), "2026-11-20": Decimal("1.16")}, "JPY": {"2026-01-01": Decimal("0.0061")}})  # fmt: skip


@given(st.integers(-(10**9), 10**9), st.lists(st.integers(0, 10**6), min_size=1, max_size=12))
def test_shares_add_up_and_none_is_off_by_a_whole_unit(minor: int, weights: list[int]) -> None:
    shares = shared(minor, weights)
    assert sum(shares) == minor
    whole = sum(weights) or len(weights)
    for share, weight in zip(shares, weights if any(weights) else [1] * len(weights), strict=True):
        assert abs(share - Fraction(minor * weight, whole)) < 1


@pytest.mark.parametrize(
    ("minor", "weights", "shares"),
    [
        (100, [1, 1, 1], [34, 33, 33]), (101, [1, 1, 1], [34, 34, 33]), (-100, [1, 1, 1], [-34, -33, -33]),
        (10, [0, 0], [5, 5]), (10, [3, 0], [10, 0]), (5, [1, 2, 1], [1, 3, 1]), (0, [7], [0]), (3, [], []),
    ],
)  # fmt: skip
def test_shares_by_hand(minor: int, weights: list[int], shares: list[int]) -> None:
    assert shared(minor, weights) == shares


@pytest.mark.parametrize(
    ("typed", "minor", "told"),
    [
        ("12.50", 1250, "12.50\u00a0EUR"), ("12,5 gbp", 1250, "12.50\u00a0GBP"), ("1200 JPY", 1200, "1200\u00a0JPY"),
        ("9.750 TND", 9750, "9.750\u00a0TND"), ("7 TND", 7000, "7.000\u00a0TND"),
    ],
)  # fmt: skip
def test_a_sum_has_its_currencys_decimals(typed: str, minor: int, told: str) -> None:
    found = parse_money("paid", typed, "EUR")
    assert found is not None
    assert (found.minor, str(found)) == (minor, told)
    assert Money.of(Decimal(found.plain), found.currency) == found


@pytest.mark.parametrize("typed", ["12.505", "12 EUX", "12.5 JPY", "-3", "abc", "1e3"])
def test_what_is_no_sum_is_refused(typed: str) -> None:
    with pytest.raises(DimensionError):
        parse_money("paid", typed, "EUR")


def test_the_newest_rate_not_after_the_day_holds_and_none_is_made_up() -> None:
    assert RATES.converted(Money(1000, "GBP"), "2026-11-19") == Money(1170, "EUR")
    assert RATES.converted(Money(1000, "GBP"), "2026-11-20") == Money(1160, "EUR")
    assert RATES.converted(Money(5000, "JPY"), "2026-11-20") == Money(3050, "EUR")
    with pytest.raises(RateError, match="GBP of 2026-10-31"):
        RATES.converted(Money(1, "GBP"), "2026-10-31")


prices = st.decimals("0", "200", places=3, allow_nan=False)
lines = st.lists(st.builds(OrderedLine, st.just("part"), st.integers(1, 7), prices), min_size=1, max_size=5)
sums = st.integers(0, 5000)
percents = st.decimals("0", "30", places=1)


@given(lines, sums, sums, sums, percents, percents, st.booleans(), st.sampled_from(["EUR", "GBP", "JPY"]))
def test_nothing_is_made_or_lost_between_a_bill_and_its_pieces(  # noqa: PLR0913, PLR0917  # one a part of a bill
    ordered: list[OrderedLine], postage: int, charges: int, discount: int,
    duty: Decimal, tax: Decimal, on_postage: bool, currency: str,
) -> None:  # fmt: skip
    billed = Billed("A", currency, "2026-11-24", tuple(ordered), postage, charges, 0, duty, tax, on_postage)
    goods = sum(billed.goods())
    billed = Billed(
        "A",
        currency,
        "2026-11-24",
        tuple(ordered),
        postage,
        charges,
        min(discount, goods),
        duty,
        tax,
        on_postage,
    )
    found = landed(billed, RATES)
    assert found.sum_of("goods") == goods
    assert (found.sum_of("postage"), found.sum_of("charges")) == (postage, charges)
    taxed = goods - billed.discount
    assert found.sum_of("duty") == round(taxed * Fraction(duty) / 100)
    assert found.sum_of("tax") == round((taxed + postage * on_postage) * Fraction(tax) / 100)
    assert found.total.minor == sum(cost for line in found.lines for cost in line.pieces)
    assert found.total_home.minor == sum(cost for line in found.lines for cost in line.pieces_home)
    for line in found.lines:
        assert sum(line.pieces) == line.landed
        assert max(line.pieces) - min(line.pieces) <= 1
        assert list(line.pieces) == sorted(line.pieces, reverse=True), "remainders go to the first"
        assert sum(line.returnable) + line.postage + line.charges == line.landed


def worked() -> Landed:
    """Worked by hand on paper: 3 × 10.00 and 1 × 5.00, postage 4.00, discount 3.00, duty 4.5 %, tax 20 % of all."""
    ordered = (OrderedLine("crystal", 3, Decimal(10)), OrderedLine("tube", 1, Decimal(5)))
    billed = Billed(
        "Avocet", "GBP", "2026-11-10", ordered, 400, 0, 300, Decimal("4.5"), Decimal(20), tax_on_postage=True
    )
    return landed(billed, RATES)


def test_an_order_worked_by_hand() -> None:
    crystal, tube = worked().lines
    assert (crystal.goods, crystal.discount, crystal.postage, crystal.duty, crystal.tax) == (
        3000,
        257,
        343,
        123,
        617,
    )
    assert (tube.goods, tube.discount, tube.postage, tube.duty, tube.tax) == (500, 43, 57, 21, 103)
    assert (crystal.pieces, tube.pieces) == ((1276, 1275, 1275), (638,))
    assert (worked().total, worked().total_home) == (Money(4464, "GBP"), Money(5223, "EUR"))
    assert [cost for line in worked().lines for cost in line.pieces_home] == [1493, 1492, 1492, 746]


def test_the_command_tells_every_share_and_refuses_a_day_without_a_rate(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    bill = {
        "format": "marquetry-order/1", "home": "EUR", "rates": {"GBP": {"2026-11-01": "1.17"}},
        "supplier": "Avocet", "currency": "GBP", "day": "2026-11-10", "postage": "4.00", "discount": "3.00",
        "duty_percent": "4.5", "tax_percent": "20", "tax_on": "goods+postage",
        "lines": [{"part": "crystal", "pieces": 3, "price": "10.00"}, {"part": "tube", "pieces": 1, "price": "5.00"}],
    }  # fmt: skip
    file = tmp_path / "order.json"
    file.write_text(json.dumps(bill), "utf-8")
    assert main(["landed", str(file), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert (told["total"], told["total_home"], told["lines"][1]["landed"]) == ("44.64", "52.23", "6.38")
    assert [piece["landed_home"] for piece in told["pieces"]] == ["14.93", "14.92", "14.92", "7.46"]
    assert main(["landed", str(file)]) == 0
    assert "tax 6.17" in capsys.readouterr().out
    file.write_text(json.dumps({**bill, "day": "2026-10-10"}), "utf-8")
    assert main(["landed", str(file)]) == 2
    assert "no rate for GBP of 2026-10-10" in capsys.readouterr().err
