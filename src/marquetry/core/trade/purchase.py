"""The purchase as a mixed-integer program: which packs of which offers, so that the total is the least.

Duty and each order's total in home's currency are rounded, and the sum of the rounded is what is to be least.
The program leaves rounding out and grants each order what it could gain by it at most (`lucky`): its least
objective is a bound below every exact total. Whichever suppliers it names, with or without free postage, are
a `corner`; within one, `corner.py` reckons every set of lines near the bound exactly. The corner is then
forbidden and the program asked again, until its bound is above the best total: that is the proof.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from math import ceil, lcm

from marquetry.core.trade.lacking import Lacking, in_time
from marquetry.core.trade.offer import Demand, Offer, SupplierTerms, Tier
from marquetry.core.trade.solver import Coefficients, Program, Solution

WHOLE = 1 - 1e-9
"""The price of a limit stays below that of the goods, or more goods would cost nothing."""
LEAST_ON = 0.5
"""A switch above it is on: the solver leaves them within a millionth of 0 and 1."""


@dataclass(frozen=True, slots=True)
class OrderCorner:
    """Which suppliers are ordered from, and which of them send free of postage."""

    used: frozenset[str]
    free: frozenset[str]

    def wants(self, terms: SupplierTerms) -> int:
        """What the goods have to reach here, in minor units of the supplier's currency."""
        free_over = terms.free_over if terms.name in self.free else None
        return max(free_over or 0, terms.minimum)


@dataclass
class SupplierPart:
    """What stands in the program for one supplier: its switches, and its goods in minor units as a row."""

    terms: SupplierTerms
    rate: Fraction
    used: int
    free: int | None = None
    limit_rows: dict[int, int] = field(default_factory=dict)
    goods: dict[int, float] = field(default_factory=dict)
    packs: dict[int, float] = field(default_factory=dict)

    @property
    def is_open(self) -> bool:
        """Whether ordering from it costs nothing but the goods: then no corner says whether it is used."""
        return self.terms.postage == 0 and self.terms.minimum == 0

    @property
    def of_goods(self) -> float:
        """What a minor unit of goods costs with duty, unrounded, in home's minor units."""
        return float(self.rate * (1 + Fraction(self.terms.duty_percent) / 100))

    @property
    def of_postage(self) -> float:
        """What postage costs, unrounded, in home's minor units."""
        return float(self.rate * self.terms.postage)

    @property
    def lucky(self) -> float:
        """What rounding can bring at most, of the duty and of the total, in home's minor units."""
        duty = self.rate / 2 if self.terms.duty_percent else Fraction(0)
        return float(duty + (Fraction(1, 2) if self.rate.denominator > 1 or duty else 0))


class Purchase:
    """The program for a demand; with `may_miss`, switches let a part be left out whole."""

    def __init__(self, demand: Demand, parts: tuple[Lacking, ...], *, may_miss: bool = False) -> None:
        self.demand, self.parts, self.program = demand, parts, Program()
        self.packs: dict[int, dict[int, int]] = {}
        self.most: dict[int, int] = {}
        self.missing: dict[str, int] = {}
        names = {demand.offers[place].supplier for part in parts for place, _ in in_time(demand, part)}
        self.suppliers = {
            terms.name: SupplierPart(terms, demand.rate(terms.currency), self.program.switch())
            for terms in demand.suppliers
            if terms.name in names
        }
        for part in parts:
            self._cover(part, may_miss=may_miss)
        self.cost: dict[int, float] = {}
        for supplier in self.suppliers.values():
            self._price(supplier)

    def _cover(self, part: Lacking, *, may_miss: bool) -> None:
        """All pieces of a part by their days, or the part left out."""
        if may_miss:
            self.missing[part.part] = self.program.switch()
        helps = [(day, self._offered(part, place)) for place, day in in_time(self.demand, part)]
        for day, pieces in part.until:
            row = {
                v: c for arrives, served in helps if arrives <= day for one in served for v, c in one.items()
            }
            if may_miss:
                row[self.missing[part.part]] = pieces
            self.program.hold(row, low=pieces)

    def _offered(self, part: Lacking, place: int) -> list[dict[int, float]]:
        """Packs of one offer by its tiers; what it serves of the need, each piece counted once."""
        offer, program = self.demand.offers[place], self.program
        supplier = self.suppliers[offer.supplier]
        most = most_packs(offer, part.pieces, supplier.terms, supplier.rate)
        self.most[place] = most
        tiers = tiers_of(offer, most)
        switches, served, packs = [], [], {}
        for tier in tiers:
            on = supplier.used if len(tiers) == 1 else program.switch()
            switches.append(on)
            count, goods = self._line(offer, tier, on, alone=len(tiers) == 1)
            served.append(self._serves(count, offer.pack, part.pieces, on, at_most=tier.reach * offer.pack))
            if part.part in self.missing:
                program.hold({**count, self.missing[part.part]: float(tier.reach)}, high=tier.reach)
            packs.update({v: round(c) for v, c in count.items()})
            supplier.goods.update(goods)
            supplier.packs.update(count)
        if len(tiers) > 1:
            program.hold({**dict.fromkeys(switches, 1.0), supplier.used: -1.0}, high=0)
        self.packs[place] = packs
        return served

    def _serves(
        self, count: Coefficients, pack: int, need: int, on: int, *, at_most: int
    ) -> dict[int, float]:
        """What a line serves of the need, as a row: never more than the need, nothing when off."""
        pieces = {v: c * pack for v, c in count.items()}
        if at_most <= need:
            return pieces
        serves = self.program.variable(0, need)
        self.program.hold({serves: 1.0, on: -float(need)}, high=0)
        self.program.hold({serves: 1.0, **{v: -c for v, c in pieces.items()}}, high=0)
        return {serves: 1.0}

    def _line(
        self, offer: Offer, tier: Tier, on: int, *, alone: bool
    ) -> tuple[dict[int, float], dict[int, float]]:
        """Packs within a tier, and what they cost in minor units, each as a row.

        Where a pack's price is finer than the currency, packs are counted as rounds of `period`, whose price
        is an even whole number, and a rest, whose price is rounded as the line will be.
        """
        each, program = offer.minor_price(tier.price) * offer.pack, self.program
        if each.denominator == 1:
            packs = program.variable(0, tier.reach, is_whole=True)
            count, goods = {packs: 1.0}, {packs: float(each)}
        else:
            period = lcm(each.denominator * 2, 1)
            rounds = program.variable(0, tier.reach // period, is_whole=True)
            rests = {program.switch(): rest for rest in range(1, min(period, tier.reach + 1))}
            count = {rounds: float(period), **{v: float(rest) for v, rest in rests.items()}}
            goods = {
                rounds: float(each * period),
                **{v: float(round(each * rest)) for v, rest in rests.items()},
            }
            program.hold({**dict.fromkeys(rests, 1.0), on: -1.0}, high=0)
        program.hold({**count, on: -float(tier.reach)}, high=0)
        if not alone:
            program.hold({**count, on: -float(tier.first)}, low=0)
        return count, goods

    def _price(self, supplier: SupplierPart) -> None:
        """Postage, minimum and duty of one order, less what rounding could gain."""
        program, terms, used = self.program, supplier.terms, supplier.used
        if supplier.lucky >= supplier.of_postage:
            program.hold({**supplier.packs, used: -1.0}, low=0)
        self.cost.update({v: supplier.of_goods * c for v, c in supplier.goods.items()})
        self.cost[used] = supplier.of_postage - supplier.lucky
        if terms.minimum:
            row = program.hold({**supplier.goods, used: -float(terms.minimum)}, low=0)
            supplier.limit_rows[terms.minimum] = row
        if terms.postage and terms.free_over is not None:
            supplier.free = program.switch()
            program.hold({supplier.free: 1.0, used: -1.0}, high=0)
            row = program.hold({**supplier.goods, supplier.free: -float(terms.free_over)}, low=0)
            supplier.limit_rows[terms.free_over] = row
            self.cost[supplier.free] = -supplier.of_postage

    def packs_in(self, solution: Solution) -> dict[int, int]:
        """Whole count of packs of each offer, by its place in the demand."""
        return {
            place: sum(round(solution.values[v]) * each for v, each in counted.items())
            for place, counted in self.packs.items()
        }

    def corner_of(self, solution: Solution) -> OrderCorner:
        """Who is ordered from in the solution, and who sends free; those who cost nothing always may be."""
        on = {v for _, v in self._switches() if solution.values[v] > LEAST_ON}
        used = {name for name, s in self.suppliers.items() if s.is_open or s.used in on}
        free = {name for name, s in self.suppliers.items() if s.free in on}
        return OrderCorner(frozenset(used), frozenset(free))

    def _switches(self) -> Iterator[tuple[str, int]]:
        for name, supplier in self.suppliers.items():
            if not supplier.is_open:
                yield name, supplier.used
            if supplier.free is not None:
                yield name, supplier.free

    def forbid(self, solution: Solution) -> bool:
        """Let the program look beyond the corner of the solution; False where there is no other."""
        row: dict[int, float] = {}
        on = 0
        for _, switch in self._switches():
            is_on = solution.values[switch] > LEAST_ON
            row[switch] = -1.0 if is_on else 1.0
            on += is_on
        if row:
            self.program.hold(row, low=1 - on)
        return bool(row)

    def limit_prices(self, corner: OrderCorner) -> dict[str, float]:
        """The price of each supplier's limit in the corner, home's minor units for one of goods."""
        fixed = {s.used: float(name in corner.used) for name, s in self.suppliers.items() if not s.is_open}
        fixed |= {
            s.free: float(name in corner.free) for name, s in self.suppliers.items() if s.free is not None
        }
        rows = {
            name: s.limit_rows[corner.wants(s.terms)]
            for name, s in self.suppliers.items()
            if name in corner.used and corner.wants(s.terms)
        }
        prices = self.program.prices(self.cost, fixed, list(rows.values())) if rows else []
        return {
            name: min(price, self.suppliers[name].of_goods * WHOLE)
            for name, price in zip(rows, prices, strict=True)
        }

    def least(self) -> Solution | None:
        """The least bound there is yet, in home's minor units; None where every corner was looked into."""
        objective: Coefficients = self.cost
        return self.program.least(objective)


def most_packs(offer: Offer, pieces: int, terms: SupplierTerms, rate: Fraction) -> int:
    """Whole count of packs beyond which one more helps nobody.

    What covers the need at the least sum could stand in for any more; it loses at most the postage that more
    goods would have saved, or what was wanting to the minimum. `rate` is home's minor units for one of the
    supplier's: a saving has to be seen after both roundings.
    """
    need = -(-pieces // offer.pack)
    if offer.most_packs is not None and offer.most_packs <= need:
        return offer.most_packs
    tiers = [
        (tier, offer.minor_price(tier.price) * offer.pack) for tier in offer.tiers() if tier.reach >= need
    ]
    # A break may be dearer than what is before it: then the whole line leaps there, past any minimum.
    firsts = [tier.first for tier, _ in tiers if tier.first > need]
    leaps = [Fraction(offer.sum_of(first) - offer.sum_of(first - 1)) for first in firsts]
    dearest = max([*leaps, *(each for _, each in tiers)])
    worth = terms.postage + terms.minimum + 2 + ceil(1 / rate) + 2 * ceil(dearest)
    limit = min(offer.sum_of(max(tier.first, need)) for tier, _ in tiers) + worth
    reached = [need]
    for tier, each in tiers:
        first = max(tier.first, need)
        if offer.sum_of(first) <= limit:
            reached.append(min(max(int(limit // each), first), tier.reach) if each else first)
    packs = max(reached)
    return packs if offer.most_packs is None else min(packs, offer.most_packs)


def tiers_of(offer: Offer, most: int) -> list[Tier]:
    """The offer's tiers up to so many packs."""
    return [
        Tier(tier.first, min(tier.reach, most), tier.price) for tier in offer.tiers() if tier.first <= most
    ]
