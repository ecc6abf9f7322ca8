"""What the watches on the bench still lack, what of it is there or coming, and the demand left."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from marquetry.core.fit.rules import Rules
from marquetry.core.making.kinds import MADE
from marquetry.core.trade.needs import Lack, lacks_of
from marquetry.core.trade.offer import Demand, Need, Offer, SupplierTerms
from marquetry.core.trade.sundries import sundries_for
from marquetry.core.values.day import later
from marquetry.core.values.money import Money
from marquetry.store import blanks, briefs, kits, quotes, terms_of_trade
from marquetry.store.database import Connection
from marquetry.store.suppliers import offers_in_force, suppliers
from marquetry.store.terms_of_trade import Sundry
from marquetry.store.watches import StoredWatch


@dataclass(frozen=True, slots=True)
class Needed:
    """Something wanted for a watch by a day; `open` is what is to be bought.

    `kept` lie aside for it, `there` of the rest is free on the shelf, `on_way` is awaited already.
    """

    lack: Lack
    watch: StoredWatch
    by: str
    kept: int
    there: int
    on_way: int

    @property
    def open(self) -> int:
        """How many are still to be bought."""
        return max(self.lack.pieces - self.kept - self.there - self.on_way, 0)


def needed_for(
    connection: Connection,
    watches: Iterable[StoredWatch],
    rules: Mapping[int, Rules],
    there: tuple["Market", Mapping[str, int]],
    today: str,
) -> tuple[Needed, ...]:
    """All that the watches lack, the shelf and what is on its way taken off in their order.

    `there` is the market, and what is awaited by its key.
    """
    names = {
        row["id"]: row["name"]
        for row in connection.execute("SELECT id, name FROM part WHERE removed_at IS NULL")
    }
    terms = terms_of_trade.trade_terms(connection)
    held = _Held(kept_pieces(connection), free_pieces(connection), dict(there[1]))
    offered = {offer.part for offer in there[0].offers}
    sundries = terms_of_trade.sundries(connection)
    found = []
    for watch in watches:
        by = wanted_by(connection, watch.id, terms.bench_days, today)
        count = quotes.series_of(connection, watch.id).count
        lacks = [
            *lacks_of(
                watch.build,
                count,
                terms.spares if count > 1 else {},
                names,
                kits.beside_of(connection, watch.id),
            ),
            *_sundries(sundries, watch, rules[watch.id], offered),
            *_blanks(connection, sundries, watch),
        ]
        bought = [lack for lack in lacks if lack.key in offered or not is_made_here(lack.slot)]
        found += [_after_stock(lack, watch, by, held) for lack in bought]
    return tuple(found)


MADE_HERE = frozenset(kind.part for kind in MADE) - {"dial"}
"""What is made here where nobody offers it: a need of material, not of the part."""


def is_made_here(slot: str) -> bool:
    """Whether what goes there can be made here as often as it is wanted."""
    return slot.partition(".")[0] in MADE_HERE


def wanted_by(connection: Connection, watch_id: int, bench_days: int, today: str) -> str:
    """The day on which parts are wanted: so many before the watch is; nothing where no day was said."""
    day = briefs.brief_of(connection, watch_id).wish("day").in_force
    return max(later(day, -bench_days), today) if day else ""


@dataclass(frozen=True, slots=True)
class _Held:
    """What is kept for a watch, free, and on its way, by key: what one watch takes is gone for the next."""

    kept: Mapping[tuple[str, int], int]
    free: dict[str, int]
    way: dict[str, int]


def _after_stock(lack: Lack, watch: StoredWatch, by: str, held: _Held) -> Needed:
    free, way = held.free, held.way
    kept = 0 if lack.is_spare else min(held.kept.get((lack.key, watch.id), 0), lack.pieces)
    there = min(free.get(lack.key, 0), lack.pieces - kept)
    on_way = min(way.get(lack.key, 0), lack.pieces - kept - there)
    if lack.what == "sundry" and there:
        on_way = 0
    free[lack.key] = free.get(lack.key, 0) - (0 if lack.what == "sundry" else there)
    way[lack.key] = way.get(lack.key, 0) - on_way
    return Needed(lack, watch, by, kept, there, on_way)


def free_pieces(connection: Connection) -> dict[str, int]:
    """How many of each part lie on the shelf for nobody in particular and without a fault; sundries held."""
    rows = connection.execute(
        """SELECT part_id, count(*) AS free FROM piece LEFT JOIN in_watch ON in_watch.piece_id = piece.id
            WHERE state = 'shelf' AND in_watch.watch_id IS NULL AND kept_for IS NULL AND condition <> 'faulty'
            GROUP BY part_id"""
    )
    found = {f"part:{row['part_id']}": int(row["free"]) for row in rows}
    return found | {f"sundry:{one.id}": one.held for one in terms_of_trade.sundries(connection)}


def kept_pieces(connection: Connection) -> dict[tuple[str, int], int]:
    """How many pieces are kept for a watch and not in it yet, by the part's key and the watch."""
    rows = connection.execute(
        """SELECT 'part:' || part_id AS key, kept_for, count(*) AS kept
             FROM piece LEFT JOIN in_watch ON in_watch.piece_id = piece.id
            WHERE kept_for IS NOT NULL AND in_watch.watch_id IS NULL AND state = 'shelf'
              AND condition <> 'faulty' GROUP BY part_id, kept_for"""
    )
    return {(row["key"], row["kept_for"]): row["kept"] for row in rows}


def _sundries(
    held: Sequence[Sundry], watch: StoredWatch, rules: Rules, offered: Collection[str]
) -> list[Lack]:
    """Consumables and tools that the watch asks for; told are those that were counted or are offered."""
    known = {one.key: one for one in held if one.key}
    return [
        Lack(
            "sundry",
            f"sundry:{known[usual.key].id}",
            usual.name,
            max(known[usual.key].least, 1),
            usual.reason,
            is_told=known[usual.key].is_counted or f"sundry:{known[usual.key].id}" in offered,
        )
        for usual in sundries_for(watch.build, rules)
        if usual.key in known
    ]


def _blanks(connection: Connection, sundries: Sequence[Sundry], watch: StoredWatch) -> list[Lack]:
    """Blanks of batches that run short; a batch that no sundry is called after cannot be bought by name."""
    held = {one.name: one for one in sundries if one.kind == "material"}
    found = []
    for batch in blanks.batches_of(connection, watch.id):
        if batch.next_order:
            why = f"blanks: {batch.count('good')} of {batch.wanted} good so far"
            known = held.get(batch.name)
            key = f"sundry:{known.id}" if known else f"batch:{batch.id}"
            found.append(
                Lack("sundry" if known else "unknown", key, batch.name, batch.next_order, why, "dial")
            )
    return found


@dataclass(frozen=True, slots=True)
class Market:
    """Suppliers and offers as a plan takes them; `left_out` are suppliers whose currency has no rate."""

    suppliers: tuple[SupplierTerms, ...]
    offers: tuple[Offer, ...]
    rates: dict[str, Decimal]
    home: str
    left_out: tuple[str, ...]


def market(connection: Connection, today: str) -> Market:
    """Every offer in force, and the catalogue's price where a part's supplier has no offer of it."""
    rates = terms_of_trade.rates(connection)
    known = [one.terms for one in suppliers(connection)]
    usable = tuple(terms for terms in known if rates.knows(terms.currency, today))
    names = {terms.name: terms for terms in usable}
    offers = [one.offer for one in offers_in_force(connection)]
    there = {(offer.supplier, offer.part) for offer in offers}
    listed = [
        offer
        for offer in connection.kept.of(connection, catalogue_offers)
        if (offer.supplier, offer.part) not in there
    ]
    return Market(
        usable,
        tuple(offer for offer in (*offers, *listed) if offer.supplier in names),
        {terms.currency: rates.rate(terms.currency, today) for terms in usable},
        rates.home,
        tuple(terms.name for terms in known if terms.name not in names),
    )


def catalogue_offers(connection: Connection) -> list[Offer]:
    """What the catalogue says a part costs at its supplier, in that supplier's currency."""
    rows = connection.execute(
        """SELECT part.id, price_minor, supplier.name, part.currency FROM part
             JOIN supplier ON supplier.id = part.supplier_id
            WHERE price_minor IS NOT NULL AND removed_at IS NULL AND part.currency = supplier.currency"""
    )
    return [
        Offer(
            row["name"],
            f"part:{row['id']}",
            Decimal(Money(row["price_minor"], row["currency"]).plain),
            row["currency"],
        )
        for row in rows
    ]


def demand_of(needed: Iterable[Needed], on: Market, today: str) -> Demand:
    """The demand for all that is still to be bought and can be named to a supplier."""
    needs = tuple(
        Need(one.lack.key, one.open, one.by or None)
        for one in needed
        if one.open and one.lack.what != "unknown" and one.lack.is_told
    )
    wanted = {need.part for need in needs}
    offers = tuple(offer for offer in on.offers if offer.part in wanted)
    sellers = {offer.supplier for offer in offers}
    suppliers = tuple(terms for terms in on.suppliers if terms.name in sellers)
    return Demand(on.home, on.rates, needs, {}, suppliers, offers, today)


def without_days(demand: Demand, day: str | None = None) -> Demand:
    """The same demand with one deadline less, or with none."""
    needs = tuple(replace(need, by=None) if day is None or need.by == day else need for need in demand.needs)
    return replace(demand, needs=needs)


def only_from(demand: Demand, name: str) -> Demand:
    """The same demand with one supplier alone."""
    return replace(
        demand,
        suppliers=tuple(terms for terms in demand.suppliers if terms.name == name),
        offers=tuple(offer for offer in demand.offers if offer.supplier == name),
    )
