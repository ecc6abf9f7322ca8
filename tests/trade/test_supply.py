"""Orders on their way, offers by packs, the ways to buy one part, days: by tables and against plain counting."""

import itertools
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from marquetry.core.trade.lacking import Lacking
from marquetry.core.trade.landed import Billed
from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.trade.purchase import most_packs
from marquetry.core.trade.supply import (
    SupplyLine,
    SupplyOrder,
    SupplyState,
    SupplyStep,
    SupplyWhat,
    billed_lines,
)
from marquetry.core.trade.ways import OfferedPart, goods_by_packs
from marquetry.core.values.day import days_between, later, parse_day
from marquetry.core.values.errors import DimensionError, TakenError

LINES = (
    SupplyLine(1, "dial", 7, None, 3, Decimal("38.00")),
    SupplyLine(2, "grease", None, 4, 1, Decimal("6.90")),
)
Told = tuple[SupplyWhat, int | None, int]


def order(*told: Told, undone: int = 0) -> SupplyOrder:
    """An order of three dials and a tin of grease with these steps; `undone` is taken back at the end."""
    steps = [
        SupplyStep(n, what, line, pieces, 0, "", f"2026-11-{n + 10}")
        for n, (what, line, pieces) in enumerate(told, 1)
    ]
    if undone:
        former = steps[undone - 1]
        steps.append(SupplyStep(99, former.what, former.line_id, former.pieces, 0, "", "2026-12-01", undone))
    bill = Billed("Sandbank", "EUR", "2026-11-10", billed_lines(LINES))
    return SupplyOrder(5, 1, 1, bill, "2026-11-20", "2026-11-24", "", LINES, tuple(steps))


ALL: tuple[Told, ...] = (("sent", None, 0), ("arrived", 1, 3), ("arrived", 2, 1))


@pytest.mark.parametrize(
    ("told", "undone", "state", "troubles", "late"),
    [
        ((), 0, "open", (), True),
        ((("sent", None, 0),), 0, "sent", (), True),
        ((("sent", None, 0),), 1, "open", (), True),
        ((("sent", None, 0), ("arrived", 1, 2)), 0, "part arrived", (), True),
        (ALL, 0, "arrived", (), False),
        (ALL, 3, "part arrived", (), True),
        ((*ALL, ("faulty", 1, 1), ("returned", 1, 1)), 0, "arrived", ("1 faulty", "1 returned"), False),
        ((("sent", None, 0), ("lost", 1, 3), ("lost", 2, 1)), 0, "lost", ("4 lost",), False),
        ((("sent", None, 0), ("lost", 1, 3), ("arrived", 2, 1)), 0, "arrived", ("3 lost",), False),
        ((("called off", None, 0),), 0, "called off", (), False),
        ((("called off", None, 0),), 1, "open", (), True),
    ],
)  # fmt: skip
def test_the_state_of_an_order_follows_from_its_steps(
    told: tuple[Told, ...], undone: int, state: str, troubles: tuple[str, ...], late: bool
) -> None:
    found = order(*told, undone=undone)
    assert (found.state, found.troubles) == (SupplyState(state), troubles)
    assert found.is_late("2026-11-21") is late
    assert not found.is_late("2026-11-20"), "the day it is awaited is in time"
    assert (found.days_taken() is not None) is (state == "arrived")


@pytest.mark.parametrize(
    ("told", "what", "line", "pieces", "most"),
    [
        ((), "arrived", 1, 4, "3 at most"),
        (ALL, "arrived", 1, 1, "0 at most"),
        (ALL, "lost", 2, 1, "0 at most"),
        (ALL, "returned", 1, 4, "3 at most"),
        ((*ALL, ("faulty", 1, 2)), "faulty", 1, 2, "1 at most"),
        (ALL, "refunded", 1, 1, "0 at most"),
        ((*ALL, ("returned", 1, 2), ("refunded", 1, 1)), "refunded", 1, 2, "1 at most"),
        (ALL, "called off", None, 0, "note the rest as lost"),
        ((("called off", None, 0),), "arrived", 1, 1, "was called off"),
        ((), "arrived", 1, 0, "of how many"),
        ((), "lost", None, 1, "of which line"),
    ],
)  # fmt: skip
def test_what_cannot_happen_to_an_order_is_refused(
    told: tuple[Told, ...], what: SupplyWhat, line: int | None, pieces: int, most: str
) -> None:
    found = order(*told)
    with pytest.raises(TakenError, match=most):
        found.refuse(what, None if line is None else found.line(line), pieces)
    with pytest.raises(TakenError, match="no line 9"):
        found.line(9)


def offer(
    price: str,
    pack: int = 1,
    breaks: tuple[tuple[int, str], ...] = (),
    stock: int | None = None,
    supplier: str = "A",
) -> Offer:
    return Offer(
        supplier, "pip", Decimal(price), "EUR", pack, tuple((n, Decimal(p)) for n, p in breaks), stock
    )


@pytest.mark.parametrize(
    ("sold", "sums"),
    [
        (offer("0.60"), [0, 60, 120, 180]),
        (offer("0.45", pack=5), [0, 225, 450]),
        (offer("1.90", breaks=((3, "1.40"),)), [0, 190, 380, 420, 560]),
        (offer("1.90", breaks=((4, "1.00"), (2, "1.50"))), [0, 190, 300, 450, 400]),
        (offer("1.00", pack=2, breaks=((3, "0.50"),)), [0, 200, 200, 300]),
        (offer("0.125"), [0, 12, 25, 38, 50]),
        (offer("0.005"), [0, 0, 1, 2, 2, 2, 3]),
        (offer("2.00", breaks=((1, "1.00"),)), [0, 100, 200]),
    ],
)  # fmt: skip
def test_what_packs_cost_by_hand(sold: Offer, sums: list[int]) -> None:
    assert [sold.sum_of(packs) for packs in range(len(sums))] == sums
    assert list(goods_by_packs(sold, len(sums) - 1)) == sums
    starts = [tier.first for tier in sold.tiers()]
    assert starts == sorted(set(starts))
    assert starts[0] == 1


prices = st.integers(1, 400).map(lambda n: f"{n / 100:.2f}")
offers = st.lists(
    st.builds(
        offer, prices, st.integers(1, 4), st.lists(st.tuples(st.integers(2, 9), prices), max_size=2).map(tuple),
        st.none() | st.integers(0, 12), st.sampled_from("ABC"),
    ),
    min_size=1, max_size=3,
)  # fmt: skip


@settings(deadline=None, max_examples=60)
@given(offers, st.integers(1, 6), st.integers(0, 60))
def test_the_cheapest_way_and_all_near_it_are_what_trying_every_count_finds(
    sold: list[Offer], need: int, room: int
) -> None:
    rows = [
        (place, "2026-12-01", one, 8 if one.most_packs is None else min(8, one.most_packs))
        for place, one in enumerate(sold)
    ]
    priced = OfferedPart(Lacking("pip", (("2026-12-02", need),)), rows).priced(
        {"A": 1.0, "B": 1.17, "C": 0.5}
    )
    each = {"A": Fraction(1), "B": Fraction(117, 100), "C": Fraction(1, 2)}
    costs = {
        counts: float(sum(each[one.supplier] * one.sum_of(n) for n, one in zip(counts, sold, strict=True)))
        for counts in itertools.product(*(range(row[3] + 1) for row in rows))
        if sum(n * one.pack for n, one in zip(counts, sold, strict=True)) >= need
    }
    least = priced.least()
    assert (least is None) == (not costs)
    if least is None:
        return
    assert least[1] == pytest.approx(min(costs.values()))
    limit = least[1] + room + 0.001
    found = {
        tuple({p.place: p.packs for p in taken}.get(place, 0) for place in range(len(sold)))
        for taken, _ in priced.within(limit)
    }
    assert found == {counts for counts, cost in costs.items() if cost <= limit}


@settings(deadline=None, max_examples=50)
@given(
    offers,
    st.integers(1, 6),
    st.integers(0, 200),
    st.integers(0, 200),
    st.sampled_from([Fraction(1), Fraction(3, 100)]),
)
@example([offer("0.01", 1, ((5, "0.04"),), None, "A")], 1, 0, 5, Fraction(3, 100))
def test_more_packs_than_the_most_never_pay(
    sold: list[Offer], need: int, postage: int, minimum: int, rate: Fraction
) -> None:
    """Any more packs are beaten by some fewer ones that cover the need: postage lost, minimum reached, seen at home."""
    terms = SupplierTerms("A", "EUR", postage, 5, 5000, minimum)
    for one in sold:
        most = most_packs(one, need, terms, rate)
        enough = -(-need // one.pack)
        if one.most_packs is not None and one.most_packs <= enough:
            assert most == one.most_packs
            continue
        assert most >= enough
        sums = list(goods_by_packs(one, most + 9))
        fewer = [minor for minor in sums[enough : most + 1] if minor >= minimum] or [
            max(sums[enough : most + 1])
        ]
        for more in (most + 1, most + 9):
            if one.most_packs is None or more <= one.most_packs:
                assert min(fewer) + postage + 1 + 1 / rate <= sums[more]


@pytest.mark.parametrize(
    ("day", "days", "then"),
    [("2026-11-24", 9, "2026-12-03"), ("2026-12-31", 1, "2027-01-01"), ("2028-02-28", 1, "2028-02-29"), ("2027-03-20", -14, "2027-03-06"), ("2026-11-24", 0, "2026-11-24")],
)  # fmt: skip
def test_days_are_counted_on_the_calendar(day: str, days: int, then: str) -> None:
    assert later(day, days) == then
    assert days_between(day, then) == days
    assert parse_day("day", f" {day} ") == day


@pytest.mark.parametrize(
    "typed", ["", "soon", "2026-13-01", "2026-02-30", "26-11-24", "2026-11-24T10:00", "３０２６-11-24"]
)
def test_what_is_no_day_is_refused(typed: str) -> None:
    with pytest.raises(DimensionError, match="due"):
        parse_day("due", typed)
