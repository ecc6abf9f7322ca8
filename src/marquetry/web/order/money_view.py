"""The money of a watch: its ledger, what it still needs, the budget, quotes, its series."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.sheet.part import PART_LINK, parts_of
from marquetry.core.trade.ledger import BOOKED_BY_HAND, ENTRY_KINDS, Ledger, OpenCost, to_finish
from marquetry.core.trade.offer import Offer
from marquetry.core.trade.quote import STEPS, Quote, QuoteLine, QuoteTerms, quoted
from marquetry.core.trade.rates import Rates
from marquetry.core.trade.series import PartForSeries, SeriesReach, both_reach, series_reach
from marquetry.core.trade.shares import shared
from marquetry.core.values.errors import DimensionError, RateError
from marquetry.core.values.money import USUAL_CURRENCY, Money, parse_money
from marquetry.drawing.scene import Scene
from marquetry.drawing.trade.money_inlay import Strip, money_inlay
from marquetry.store import bookings, briefs, donors, fates, pieces, quotes, supply_orders, terms_of_trade
from marquetry.store.database import Connection
from marquetry.store.pieces import Piece
from marquetry.store.quotes import Series, ToldQuote
from marquetry.store.terms_of_trade import HOUR_KINDS, TradeTerms
from marquetry.store.watches import StoredWatch
from marquetry.web.order.forms import QuoteLook
from marquetry.web.order.needed import MADE_HERE, Market, Needed, free_pieces, market, needed_for
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class DonorShare:
    """A donor that pieces of the watch came out of: what it cost, what its leftovers brought back."""

    id: int
    name: str
    paid: Money | None
    brought: tuple[Money, ...]
    balance: Money | None


@dataclass(frozen=True, slots=True)
class MoneyPage:
    """All that the money page shows."""

    watch: StoredWatch
    way: WayThrough
    ledger: Ledger
    best: Money
    dearest: Money
    unpriced: tuple[str, ...]
    budget: Money | None
    of_batch: int
    picture: Scene
    donors: tuple[DonorShare, ...]
    kept: tuple[Piece, ...]
    terms: TradeTerms
    quotes: list[ToldQuote]
    errors: dict[str, str]
    kinds: tuple[tuple[str, str], ...] = (
        ("part", "A part"),
        *((k, w) for k, w in ENTRY_KINDS if k in BOOKED_BY_HAND),
    )
    hour_kinds: tuple[str, ...] = HOUR_KINDS

    @property
    def in_the_end(self) -> tuple[Money, Money]:
        """What it will have cost, at best and at worst."""
        return self.ledger.total + self.best, self.ledger.total + self.dearest

    @property
    def over(self) -> Money | None:
        """By how much the budget is passed at best; None where it is not, or there is none."""
        if self.budget is None or self.budget.currency != self.ledger.home:
            return None
        minor = self.in_the_end[0].minor - self.budget.minor
        return Money(minor, self.ledger.home) if minor > 0 else None

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.ledger.home)


def open_costs(needed: Sequence[Needed], on: Market, rates: Rates, today: str) -> list[OpenCost]:
    """What is open at the best offer and the dearest, spares too, postage aside; in home's minor units."""
    found = []
    for one in needed:
        if one.open and one.lack.what == "part":
            costs = [_each(offer, rates, today) for offer in on.offers if offer.part == one.lack.key]
            known = sorted(cost for cost in costs if cost is not None)
            best, dearest = (known[0] * one.open, known[-1] * one.open) if known else (None, None)
            found.append(OpenCost(one.lack.name, one.open, best, dearest))
        elif one.open and one.lack.what == "unknown" and one.lack.is_told:
            found.append(OpenCost(one.lack.name, one.open, None, None))
    return found


def _each(offer: Offer, rates: Rates, today: str) -> int | None:
    try:
        return rates.converted(Money(round(offer.minor_price(offer.price)), offer.currency), today).minor
    except RateError:
        return None


@dataclass(frozen=True, slots=True)
class Finishing:
    """The ledger of a watch, or of the series that it is, and what is still open of it."""

    ledger: Ledger
    open: tuple[OpenCost, ...]
    best: int
    dearest: int
    unpriced: tuple[str, ...]
    count: int


def finishing(visit: Visit, today: str) -> Finishing:
    """What a watch cost and what it still needs, in home's minor units; of a series all of them."""
    connection, watch = visit.connection, visit.stored
    ledger = bookings.ledger_of(connection, watch.id, today)
    on = market(connection, today)
    there = (on, supply_orders.awaited(connection))
    needed = needed_for(connection, [watch], {watch.id: visit.rules(watch.build)}, there, today)
    costs = open_costs(needed, on, terms_of_trade.rates(connection), today)
    best, dearest, unpriced = to_finish(costs)
    count = quotes.series_of(connection, watch.id).count
    names = tuple(dict.fromkeys((*ledger.unpriced, *unpriced)))
    return Finishing(ledger, tuple(costs), best, dearest, names, count)


def budget_of(visit: Visit, today: str) -> Money | None:
    """The budget in force in the brief, at home where a rate is known."""
    told = briefs.brief_of(visit.connection, visit.stored.id).wish("budget").in_force
    try:
        budget = parse_money("budget", told, USUAL_CURRENCY)
    except DimensionError:
        return None
    rates = terms_of_trade.rates(visit.connection)
    if budget is None or not rates.knows(budget.currency, today):
        return budget
    return rates.converted(budget, today)


def money_page(visit: Visit, today: str, errors: dict[str, str] | None = None) -> MoneyPage:
    """Compute the page."""
    connection, found = visit.connection, finishing(visit, today)
    ledger, budget = found.ledger, budget_of(visit, today)
    open_sum = Money(found.best, ledger.home)
    strips = [Strip(kind, label, money.minor, str(money)) for kind, label, money in ledger.kinds()]
    strips.append(Strip("open", "still open", open_sum.minor, str(open_sum)))
    mark = budget.minor if budget and budget.currency == ledger.home else None
    return MoneyPage(
        visit.stored,
        visit.way("order"),
        ledger,
        open_sum,
        Money(found.dearest, ledger.home),
        found.unpriced,
        budget,
        found.count,
        money_inlay(strips, mark, str(budget or "")),
        _donors(visit),
        tuple(pieces.kept_for(connection, visit.stored.id)),
        terms_of_trade.trade_terms(connection),
        quotes.quotes_of(connection, visit.stored.id),
        errors or {},
    )


def _donors(visit: Visit) -> tuple[DonorShare, ...]:
    rows = visit.connection.execute(
        """SELECT DISTINCT donor.id, donor.name FROM in_watch JOIN piece ON piece.id = piece_id
             JOIN donor ON donor.id = donor_id WHERE watch_id = :id ORDER BY donor.id""",
        {"id": visit.stored.id},
    ).fetchall()
    found = []
    for row in rows:
        balance, brought = donors.balance_of(visit.connection, row["id"])
        paid = donors.donor(visit.connection, row["id"]).paid
        back = Money(paid.minor - balance.minor, paid.currency) if paid and balance else None
        every = (*((back,) if back and back.minor else ()), *brought)
        found.append(DonorShare(row["id"], row["name"], paid, every, balance))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class QuotePage:
    """All that the quote's page shows: the reckoning as the address says it."""

    watch: StoredWatch
    way: WayThrough
    look: QuoteLook
    quote: Quote | None
    unpriced: tuple[str, ...]
    short: Money | None
    """By how much it is below what it costs so far and still will; None where it covers that."""
    hours_booked: str
    quotes: list[ToldQuote]
    terms: TradeTerms
    steps: tuple[int, ...]
    error: str = ""

    @property
    def missing(self) -> list[str]:
        """What the sum does not count, for want of a price."""
        hours = [] if self.terms.has_rate("bench") else ["every hour of work: no rate is set"]
        return [*self.unpriced, *hours]

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.terms.home)


def quote_page(visit: Visit, look: QuoteLook, today: str, error: str = "") -> QuotePage:
    """Compute the page; a figure that cannot be is told and nothing is reckoned."""
    terms, found = terms_of_trade.trade_terms(visit.connection), finishing(visit, today)
    look = look if look.count else look.model_copy(update={"count": found.count})
    quote = None
    try:
        quote = reckoned_quote(found, look.terms(terms.home), terms)
    except DimensionError as refused:
        error = str(refused)
    return QuotePage(
        visit.stored,
        visit.way("order"),
        look,
        quote,
        found.unpriced,
        None if quote is None else shortfall(found, quote),
        f"{found.ledger.minutes / 60:.1f}",
        quotes.quotes_of(visit.connection, visit.stored.id),
        terms,
        STEPS,
        error,
    )


def shortfall(found: Finishing, quote: Quote) -> Money | None:
    """By how much a quote is below cost: all that is booked, hours too, and what is still open.

    The hours of a quote are those that are asked for; those that were booked may be more.
    """
    cost = -(-(found.ledger.total.minor + found.best) * quote.terms.count // found.count)
    short = cost - quote.total.minor
    return Money(short, found.ledger.home) if short > 0 else None


def reckoned_quote(found: Finishing, asked: QuoteTerms, terms: TradeTerms) -> Quote:
    """The quote for so many: a share of what the series cost and still needs, and hours as asked."""
    sums = [(label.lower(), money.minor) for kind, label, money in found.ledger.kinds() if kind != "hours"]
    lines = tuple(
        QuoteLine(words, shared(minor, [1] * found.count)[0])
        for words, minor in (*sums, ("parts still to come", found.best))
        if minor
    )
    return quoted(lines, asked, terms.pay("bench"))


LONGEST_BAR = 24


@dataclass(frozen=True, slots=True)
class SeriesPage:
    """All that the series' page shows."""

    watch: StoredWatch
    way: WayThrough
    series: Series
    reach: SeriesReach
    parts: tuple[PartForSeries, ...]
    beside: tuple[tuple[str, tuple[int, ...], tuple[str, ...]], ...]
    without: tuple[str, ...]
    errors: dict[str, str]

    def bar(self, part: PartForSeries) -> list[str]:
        """One mark for each piece that is there or offered, at most so many as stand in a line."""
        there = min(part.there, LONGEST_BAR)
        more = LONGEST_BAR - there
        return ["there"] * there + ["more"] * (more if part.more is None else min(part.more, more))

    @property
    def free_numbers(self) -> tuple[int, ...]:
        """Numbers that are nobody's yet."""
        held = {given.number for given in self.series.given}
        return tuple(number for number in range(1, self.series.count + 1) if number not in held)


def series_page(visit: Visit, today: str, errors: dict[str, str] | None = None) -> SeriesPage:
    """Compute the page: how far shelf and offers reach, and what a second watch leaves of shared parts."""
    connection = visit.connection
    reachable = Reachable.now(connection, today)
    parts, without = parts_for(connection, visit.stored, reachable)
    beside = []
    for other in fates.watches_at_work(connection):
        if other.id == visit.stored.id:
            continue
        theirs, _ = parts_for(connection, other, reachable)
        keys = {one.key for one in theirs}
        shared = tuple(part.name for part in parts if part.key in keys)
        if shared:
            beside.append((other.build.name, both_reach(parts, theirs)[:8], shared))
    return SeriesPage(
        visit.stored,
        visit.way("order"),
        quotes.series_of(connection, visit.stored.id),
        series_reach(parts),
        parts,
        tuple(beside),
        without,
        errors or {},
    )


@dataclass(frozen=True, slots=True)
class Reachable:
    """What is there and what can be bought, for all watches alike: free pieces and offers by part."""

    free: Mapping[str, int]
    offers: Mapping[str, Sequence[Offer]]

    @classmethod
    def now(cls, connection: Connection, today: str) -> "Reachable":
        """As it stands on a day."""
        offers: dict[str, list[Offer]] = {}
        for offer in market(connection, today).offers:
            offers.setdefault(offer.part, []).append(offer)
        return cls(free_pieces(connection), offers)


def parts_for(
    connection: Connection, watch: StoredWatch, reachable: Reachable
) -> tuple[tuple[PartForSeries, ...], tuple[str, ...]]:
    """The parts of a watch with what is there and what can be bought; names of those that cannot be told."""
    each: dict[int, tuple[str, int]] = {}
    kinds: dict[int, str] = {}
    without = []
    for _, kind, document in parts_of(watch.build):
        number, name = document.get(PART_LINK), str(document.get("name") or kind.label)
        if isinstance(number, int):
            kinds[number] = kind.key
            each[number] = (name, each.get(number, (name, 0))[1] + 1)
        else:
            without.append(name)
    own = _own_pieces(connection, watch.id)
    found = []
    for number, (name, count) in each.items():
        key = f"part:{number}"
        offers = reachable.offers.get(key, ())
        endless = any(offer.stock is None for offer in offers) or (not offers and kinds[number] in MADE_HERE)
        more = None if endless else sum((offer.most_packs or 0) * offer.pack for offer in offers)
        found.append(PartForSeries(key, name, count, reachable.free.get(key, 0) + own.get(number, 0), more))
    return tuple(found), tuple(without)


def _own_pieces(connection: Connection, watch_id: int) -> dict[int, int]:
    """How many pieces of each part are in the watch or lie aside for it, by the part's number."""
    rows = connection.execute(
        """WITH own AS (SELECT piece_id FROM in_watch WHERE watch_id = :watch UNION
               SELECT id FROM piece WHERE kept_for = :watch AND state = 'shelf'
                  AND NOT EXISTS (SELECT 1 FROM in_watch WHERE piece_id = piece.id))
           SELECT part_id, count(*) AS held FROM own JOIN piece ON piece.id = piece_id GROUP BY part_id""",
        {"watch": watch_id},
    )
    return {row["part_id"]: row["held"] for row in rows}
