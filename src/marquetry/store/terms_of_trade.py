"""What the workshop reckons with: rates by day, home currency, pay of an hour, spares; and its sundries."""

import json
import sqlite3
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from marquetry.core.sheet.entries import Json
from marquetry.core.trade.rates import Rates
from marquetry.core.trade.series import SPARES
from marquetry.core.trade.sundries import USUAL_SUNDRIES, SundryKind, UsualSundry
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.core.values.money import USUAL_CURRENCY, Money
from marquetry.store.database import Connection, transaction

HOUR_KINDS = ("bench", "making", "drawing", "talking")
"""Kinds of work whose hours are kept apart."""


@dataclass(frozen=True, slots=True)
class TradeTerms:
    """Pay of an hour in home's minor units by kind of work, where it is set; spares in per cent by kind.

    `bench_days`: parts are wanted so many days before a watch is. `maker`: the name under quotes.
    `contact`: whom the wearer of a watch may ask, as it stands on the sheet handed over.
    """

    home: str = USUAL_CURRENCY
    hours: Mapping[str, int] = field(default_factory=dict)
    spares: Mapping[str, int] = field(default_factory=dict)
    bench_days: int = 14
    maker: str = ""
    contact: str = ""

    @classmethod
    def of(cls, told: Mapping[str, Json]) -> "TradeTerms":
        """The terms with what the workshop set, the rest as shipped."""
        hours = dict(told.get("hours", {}))
        spares = {**SPARES, **told.get("spares", {})}
        home = str(told.get("home", USUAL_CURRENCY))
        maker, contact = str(told.get("maker", "")), str(told.get("contact", ""))
        return cls(home, hours, spares, int(told.get("bench_days", 14)), maker, contact)

    def has_rate(self, kind: str) -> bool:
        """Whether hours of that kind have a price: none does until the workshop sets it."""
        return kind in self.hours

    def pay(self, kind: str) -> Money:
        """Pay of an hour of that kind of work; nothing until a rate is set."""
        return Money(self.hours.get(kind, 0), self.home)


def trade_terms(connection: Connection) -> TradeTerms:
    """The workshop's terms."""
    rows = connection.execute("SELECT key, value FROM trade_setting")
    return TradeTerms.of({row["key"]: json.loads(row["value"]) for row in rows})


def set_terms(connection: Connection, told: Mapping[str, Json]) -> None:
    """Set some of the terms, all of them together."""
    with transaction(connection):
        for key, value in told.items():
            connection.execute(
                "INSERT OR REPLACE INTO trade_setting (key, value) VALUES (:key, :value)",
                {"key": key, "value": json.dumps(value)},
            )


def rates(connection: Connection) -> Rates:
    """Every rate that was entered, with the home currency."""
    found: dict[str, dict[str, Decimal]] = {}
    for row in connection.execute("SELECT * FROM rate ORDER BY currency, day"):
        found.setdefault(row["currency"], {})[row["day"]] = Decimal(row["rate"])
    return Rates(trade_terms(connection).home, found)


def set_rate(connection: Connection, currency: str, day: str, rate: Decimal | None) -> None:
    """Note a rate that holds from a day on, or take it back."""
    key = {"currency": currency, "day": day}
    if rate is None:
        connection.execute("DELETE FROM rate WHERE currency = :currency AND day = :day", key)
        return
    connection.execute(
        "INSERT OR REPLACE INTO rate (currency, day, rate) VALUES (:currency, :day, :rate)",
        {**key, "rate": str(rate)},
    )


@dataclass(frozen=True, slots=True)
class Sundry:
    """A consumable, a tool or a material; `held` pieces are there, `least` are wanted there."""

    id: int
    version: int
    key: str
    kind: SundryKind
    name: str
    held: int
    least: int
    place: str

    @property
    def is_counted(self) -> bool:
        """Whether anybody ever said how many are there: as shipped, nobody did."""
        return self.version > 1 or self.held > 0 or self.least > 0


def sundries(connection: Connection) -> list[Sundry]:
    """Every sundry, by kind and name."""
    rows = connection.execute("SELECT * FROM sundry ORDER BY kind, name")
    return [_sundry(row) for row in rows]


def sundry(connection: Connection, number: int) -> Sundry:
    """One sundry; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM sundry WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"sundry {number}")
    return _sundry(row)


def add_sundry(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    kind: SundryKind,
    name: str,
    held: int = 0,
    least: int = 0,
    place: str = "",
    key: str = "",
) -> int:
    """Note a sundry and return its number; TakenError where one is called so."""
    try:
        cursor = connection.execute(
            """INSERT INTO sundry (key, kind, name, held, least, place)
               VALUES (:key, :kind, :name, :held, :least, :place)""",
            {"key": key, "kind": kind, "name": name, "held": held, "least": least, "place": place},
        )
    except sqlite3.IntegrityError:
        raise TakenError(f"There is a {name} already. Nothing was changed.") from None
    return int(cursor.lastrowid or 0)


def change_sundry(  # noqa: PLR0913, PLR0917  # as above
    connection: Connection, number: int, based_on: int, held: int, least: int, place: str
) -> None:
    """Note how many are there, how many are wanted, and where. StaleVersionError where it changed since."""
    row = connection.execute(
        """UPDATE sundry SET held = :held, least = :least, place = :place, version = version + 1
            WHERE id = :id AND version = :based RETURNING version""",
        {"id": number, "based": based_on, "held": held, "least": least, "place": place},
    ).fetchone()
    if row is None:
        raise StaleVersionError(based_on, sundry(connection, number).version, "sundry")


def lacking_tools(connection: Connection) -> frozenset[str]:
    """Keys of usual tools that the workshop said it has not; those that nobody counted are none of them."""
    every = (one for one in sundries(connection) if one.kind == "tool" and one.key)
    return frozenset(one.key for one in every if one.is_counted and not one.held)


def usual_tools(connection: Connection) -> list[tuple[Sundry, UsualSundry]]:
    """The usual tools as they come to hand, each with what is known of it here."""
    known = {one.key: one for one in sundries(connection) if one.kind == "tool" and one.key}
    return [(known[usual.key], usual) for usual in USUAL_SUNDRIES if usual.key in known]


def note_bench_tools(connection: Connection, chosen: Collection[str]) -> None:
    """Keep which of the usual tools the workshop has not.

    One that nobody counted and that stays ticked stays uncounted: a form's own tick is nobody's word.
    """
    with transaction(connection):
        for one in sundries(connection):
            if one.kind == "tool" and one.key:
                is_there = one.key in chosen
                held = max(one.held, 1) if is_there else 0
                if held != one.held if one.is_counted else not is_there:
                    change_sundry(connection, one.id, one.version, held, one.least, one.place)


def take_of(connection: Connection, number: int, pieces: int) -> None:
    """So many more are there, or fewer where `pieces` is below zero; never fewer than none."""
    connection.execute(
        "UPDATE sundry SET held = max(held + :pieces, 0), version = version + 1 WHERE id = :id",
        {"id": number, "pieces": pieces},
    )


def furnish_sundries(connection: Connection) -> None:
    """Give a workshop the usual sundries, none of them there; those it has stay as they are."""
    known = {row["key"] for row in connection.execute("SELECT key FROM sundry")}
    names = {row["name"] for row in connection.execute("SELECT name FROM sundry")}
    with transaction(connection):
        for usual in USUAL_SUNDRIES:
            if usual.key not in known and usual.name not in names:
                add_sundry(connection, usual.kind, usual.name, key=usual.key)


def _sundry(row: sqlite3.Row) -> Sundry:
    names = ("id", "version", "key", "kind", "name", "held", "least", "place")
    return Sundry(*(row[name] for name in names))
