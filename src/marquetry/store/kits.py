"""Parts of a seller's text taken: each in the catalogue once, with what is asked as an offer of that day."""

from dataclasses import dataclass
from decimal import Decimal

from marquetry.core.measuring.listing.learnt import LearntLabel
from marquetry.core.measuring.listing.taken import text_kept
from marquetry.core.sheet.part import Part
from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.trade.terms import Terms
from marquetry.core.values.money import Money
from marquetry.store import sellers_words, shelf, suppliers
from marquetry.store.database import Connection

NOT_TOLD = "Seller not told"
"""Who offers what a text asks, where the builder did not say whose it is."""
USUAL_DAYS = 14
"""Days until an order arrives, of a supplier of whom nothing is known but its name."""


@dataclass(frozen=True, slots=True)
class Sale:
    """Whose text it is and when: every price of it is an offer of this seller on this day.

    `postage` where the text tells it, for a supplier that is new; `taught` what its words mean.
    """

    seller: str
    day: str
    sender: str = ""
    postage: Money | None = None
    taught: tuple[LearntLabel, ...] = ()


def seller_number(connection: Connection, sale: Sale, currency: str) -> int:
    """The supplier of the sale who sells in that currency, added where there is none.

    A supplier sells in one currency: sums of another one are kept under its name and that currency, so that
    no price is ever taken for another currency's.
    """
    name = sale.seller.strip() or NOT_TOLD
    for called in (name, f"{name} ({currency})"):
        known = next((one for one in suppliers.suppliers(connection) if one.terms.name == called), None)
        if known is None:
            in_its_own = sale.postage is not None and sale.postage.currency == currency
            postage = sale.postage.minor if sale.postage is not None and in_its_own else 0
            terms = SupplierTerms(name=called, currency=currency, postage=postage, days=USUAL_DAYS)
            return suppliers.add_supplier(connection, terms)
        if known.terms.currency == currency:
            return known.id
    raise AssertionError("a supplier that is named after a currency sells in it")


def catalogued(connection: Connection, part: Part, price: Money | None, sale: Sale) -> int:
    """The number of the part in the catalogue, with its price as an offer; what it has is not doubled."""
    known = shelf.part_named(connection, part.kind.key, part.name)
    is_same = known is not None and text_kept(known.part.document) == text_kept(part.document)
    seller = (
        None
        if price is None
        else suppliers.supplier(connection, seller_number(connection, sale, price.currency))
    )
    terms = Terms(supplier=seller.terms.name if seller else "", price=price)
    number = known.id if known is not None and is_same else shelf.add_part(connection, part, terms)
    if price is not None:
        offer_of(connection, number, price, sale)
    return number


def offer_of(connection: Connection, part_id: int, price: Money, sale: Sale) -> None:
    """Remember what the seller asks for a part of the catalogue; the same price of a day is told once."""
    seller = suppliers.supplier(connection, seller_number(connection, sale, price.currency))
    asked = Decimal(price.plain)
    theirs = (one for one in suppliers.offers_of(connection, part_id) if one.supplier_id == seller.id)
    newest = next(theirs, None)
    if newest is not None and (newest.seen_on, newest.offer.price) == (sale.day, asked):
        return
    key = suppliers.key_of(part_id, None)
    offer = Offer(supplier=seller.terms.name, part=key, price=asked, currency=price.currency)
    suppliers.add_offer(connection, seller.id, key, offer, sale.day)


def remember_seller(connection: Connection, sale: Sale, currency: str) -> None:
    """Know the seller by the mail's sender from now on, and its own words by what they mean."""
    if not sale.seller.strip() or not (sale.sender or sale.taught):
        return
    number = seller_number(connection, sale, currency)
    sellers_words.know_sender(connection, number, sale.sender)
    for label in sale.taught:
        sellers_words.learn(connection, number, label)


def keep_beside(connection: Connection, watch_id: int, part_id: int) -> None:
    """A watch needs the part beside the one in its slot."""
    connection.execute(
        "INSERT OR IGNORE INTO beside_part (watch_id, part_id) VALUES (:watch, :part)",
        {"watch": watch_id, "part": part_id},
    )


def beside_of(connection: Connection, watch_id: int) -> list[int]:
    """The parts that a watch needs beside those in its slots, by their numbers in the catalogue."""
    rows = connection.execute(
        """SELECT part_id FROM beside_part JOIN part ON part.id = part_id
            WHERE watch_id = :watch AND removed_at IS NULL ORDER BY part_id""",
        {"watch": watch_id},
    )
    return [row["part_id"] for row in rows]
