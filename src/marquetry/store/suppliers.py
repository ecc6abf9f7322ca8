"""Suppliers: how they sell, what they offered and when, and how their orders went."""

import json
import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.store.database import Connection, transaction


@dataclass(frozen=True, slots=True)
class Supplier:
    """A supplier as it is on disk; `notes` say how it handled faults, and what else is to be remembered."""

    id: int
    version: int
    terms: SupplierTerms
    notes: str


@dataclass(frozen=True, slots=True)
class KnownOffer:
    """What a supplier asked on a day for a part or a sundry, by number; `offer.part` is its key."""

    id: int
    supplier_id: int
    part_id: int | None
    sundry_id: int | None
    name: str
    offer: Offer
    seen_on: str


def suppliers(connection: Connection) -> list[Supplier]:
    """Every supplier by name."""
    return [_supplier(row) for row in connection.execute("SELECT * FROM supplier ORDER BY name")]


def supplier(connection: Connection, number: int) -> Supplier:
    """One supplier; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM supplier WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"supplier {number}")
    return _supplier(row)


def add_supplier(connection: Connection, terms: SupplierTerms, notes: str = "") -> int:
    """Note a supplier and return its number; TakenError where one is called so."""
    try:
        cursor = connection.execute(
            """INSERT INTO supplier (name, currency, notes, postage_minor, free_over_minor, minimum_minor,
                                     duty_percent, days, up_to)
               VALUES (:name, :currency, :notes, :postage, :free_over, :minimum, :duty, :days, :up_to)""",
            _values(terms, notes),
        )
    except sqlite3.IntegrityError:
        raise TakenError(f"There is a supplier called {terms.name} already. Nothing was changed.") from None
    return int(cursor.lastrowid or 0)


def change_supplier(
    connection: Connection, number: int, based_on: int, terms: SupplierTerms, notes: str
) -> None:
    """Note how a supplier sells now. StaleVersionError where it changed since.

    TakenError for a name in use.
    """
    before = supplier(connection, number)
    if before.version != based_on:
        raise StaleVersionError(based_on, before.version, "supplier")
    try:
        connection.execute(
            """UPDATE supplier SET name = :name, currency = :currency, notes = :notes, postage_minor =
            :postage, free_over_minor = :free_over, minimum_minor = :minimum, duty_percent = :duty, days =
            :days, up_to = :up_to, version = version + 1 WHERE id = :id""",
            {"id": number, **_values(terms, notes)},
        )
    except sqlite3.IntegrityError:
        raise TakenError(f"There is a supplier called {terms.name} already. Nothing was changed.") from None


def _values(terms: SupplierTerms, notes: str) -> dict[str, object]:
    return {
        "name": terms.name, "currency": terms.currency, "notes": notes, "postage": terms.postage,
        "free_over": terms.free_over, "minimum": terms.minimum, "duty": str(terms.duty_percent),
        "days": terms.days, "up_to": terms.up_to,
    }  # fmt: skip


def _supplier(row: sqlite3.Row) -> Supplier:
    terms = SupplierTerms(
        row["name"],
        row["currency"],
        row["postage_minor"],
        row["days"],
        row["free_over_minor"],
        row["minimum_minor"] or 0,
        Decimal(row["duty_percent"]),
        row["up_to"],
    )
    return Supplier(row["id"], row["version"], terms, row["notes"])


def key_of(part_id: int | None, sundry_id: int | None) -> str:
    """The key by which needs, offers and stock name the same thing."""
    return f"part:{part_id}" if part_id is not None else f"sundry:{sundry_id}"


def number_in(key: str, what: str) -> int | None:
    """The number in a key of that kind, `part` or `sundry`; None for another's."""
    head, _, number = key.partition(":")
    return int(number) if head == what and number.isdecimal() else None


OFFERS = """
    SELECT offer.*, supplier.name AS supplier, supplier.currency,
           coalesce(part.name, sundry.name) AS name
      FROM offer JOIN supplier ON supplier.id = offer.supplier_id
      LEFT JOIN part ON part.id = offer.part_id
      LEFT JOIN sundry ON sundry.id = offer.sundry_id
"""


def offers_in_force(connection: Connection, keys: Iterable[str] | None = None) -> list[KnownOffer]:
    """The newest price of each pack at each supplier; an offer that ended is none. All, or for some keys."""
    newest: dict[tuple[int, str, int], KnownOffer | None] = {}
    wanted = None if keys is None else set(keys)
    for row in connection.execute(f"{OFFERS} ORDER BY seen_on, offer.id"):
        key = key_of(row["part_id"], row["sundry_id"])
        if wanted is None or key in wanted:
            newest[row["supplier_id"], key, row["pack"]] = None if row["price"] is None else _offer(row)
    return [offer for offer in newest.values() if offer is not None]


def offers_of(connection: Connection, part_id: int | None, sundry_id: int | None = None) -> list[KnownOffer]:
    """Every price that was ever seen for one thing, the newest first; what ended is left out."""
    rows = connection.execute(
        f"{OFFERS} WHERE offer.part_id IS :part AND offer.sundry_id IS :sundry AND price IS NOT NULL"
        " ORDER BY seen_on DESC, offer.id DESC",
        {"part": part_id, "sundry": sundry_id},
    )
    return [_offer(row) for row in rows]


def add_offer(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection, supplier_id: int, key: str, offer: Offer | None, seen_on: str, pack: int = 1
) -> int:
    """Remember what a supplier asks for a thing since a day; None says that it is offered no more."""
    breaks = [[pieces, str(price)] for pieces, price in offer.breaks] if offer else []
    cursor = connection.execute(
        """INSERT INTO offer (supplier_id, part_id, sundry_id, price, pack, breaks, stock, seen_on)
           VALUES (:supplier, :part, :sundry, :price, :pack, :breaks, :stock, :seen)""",
        {
            "supplier": supplier_id, "part": number_in(key, "part"), "sundry": number_in(key, "sundry"),
            "price": str(offer.price) if offer else None, "pack": offer.pack if offer else pack,
            "breaks": json.dumps(breaks), "stock": offer.stock if offer else None, "seen": seen_on,
        },
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def end_offer(connection: Connection, number: int, day: str) -> None:
    """Note that an offer is no more; what it was stays remembered. NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM offer WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"offer {number}")
    with transaction(connection):
        key = key_of(row["part_id"], row["sundry_id"])
        add_offer(connection, row["supplier_id"], key, None, max(day, row["seen_on"]), row["pack"])


def _offer(row: sqlite3.Row) -> KnownOffer:
    breaks = tuple((pieces, Decimal(price)) for pieces, price in json.loads(row["breaks"]))
    key = key_of(row["part_id"], row["sundry_id"])
    offer = Offer(
        row["supplier"], key, Decimal(row["price"]), row["currency"], row["pack"], breaks, row["stock"]
    )
    return KnownOffer(
        row["id"], row["supplier_id"], row["part_id"], row["sundry_id"], row["name"], offer, row["seen_on"]
    )
