"""Quotes as they were told, and series: how many of a watch are built, and whose which number is."""

import json
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.store.database import Connection, transaction


@dataclass(frozen=True, slots=True)
class ToldQuote:
    """A quote as it was told: its reckoning and its words stay as they were."""

    number: int
    told: Mapping[str, Json]
    day: str
    is_withdrawn: bool


@dataclass(frozen=True, slots=True)
class GivenNumber:
    """A number of the series and whose it is."""

    number: int
    buyer: str
    words: str
    day: str


@dataclass(frozen=True, slots=True)
class Series:
    """How many of a watch are built, with the numbers that were given out."""

    version: int
    count: int
    given: tuple[GivenNumber, ...]


def quotes_of(connection: Connection, watch_id: int) -> list[ToldQuote]:
    """Every quote for a watch, the newest first."""
    rows = connection.execute(
        "SELECT * FROM quote WHERE watch_id = :id ORDER BY number DESC", {"id": watch_id}
    )
    return [
        ToldQuote(row["number"], json.loads(row["told"]), row["day"], bool(row["withdrawn"])) for row in rows
    ]


def quote_of(connection: Connection, watch_id: int, number: int) -> ToldQuote:
    """One quote by its number; NotFoundError where the watch has none such."""
    found = next((quote for quote in quotes_of(connection, watch_id) if quote.number == number), None)
    if found is None:
        raise NotFoundError(f"quote {number} for this watch")
    return found


def tell_quote(connection: Connection, watch_id: int, told: Mapping[str, Json], day: str) -> int:
    """Keep a quote as it is told and return its number; former ones stay."""
    row = connection.execute(
        """INSERT INTO quote (watch_id, number, told, day)
           SELECT :watch, coalesce(max(number), 0) + 1, :told, :day FROM quote WHERE watch_id = :watch
           RETURNING number""",
        {"watch": watch_id, "told": json.dumps(told, ensure_ascii=False), "day": day},
    ).fetchone()
    return int(row["number"])


def withdraw(connection: Connection, watch_id: int, number: int, *, withdrawn: bool) -> None:
    """Mark a quote as no longer held, or as held again."""
    quote_of(connection, watch_id, number)
    connection.execute(
        "UPDATE quote SET withdrawn = :withdrawn WHERE watch_id = :watch AND number = :number",
        {"withdrawn": int(withdrawn), "watch": watch_id, "number": number},
    )


def series_of(connection: Connection, watch_id: int) -> Series:
    """The series of a watch; one of one where none was begun."""
    row = connection.execute("SELECT * FROM series WHERE watch_id = :id", {"id": watch_id}).fetchone()
    rows = connection.execute(
        "SELECT * FROM series_number WHERE watch_id = :id ORDER BY number", {"id": watch_id}
    )
    given = tuple(GivenNumber(r["number"], r["buyer"], r["words"], r["day"]) for r in rows)
    return Series(row["version"] if row else 0, row["count"] if row else 1, given)


def set_series(connection: Connection, watch_id: int, based_on: int, count: int) -> None:
    """Say how many are built. TakenError below a number given out.

    StaleVersionError where it changed since.
    """
    with transaction(connection):
        before = series_of(connection, watch_id)
        if before.version != based_on:
            raise StaleVersionError(based_on, before.version, "series")
        if any(given.number > count for given in before.given):
            raise TakenError(f"Number {before.given[-1].number} is given out. Nothing was changed.")
        connection.execute(
            """INSERT INTO series (watch_id, count) VALUES (:watch, :count)
               ON CONFLICT (watch_id) DO UPDATE SET count = excluded.count, version = version + 1""",
            {"watch": watch_id, "count": count},
        )


def give_number(connection: Connection, watch_id: int, given: GivenNumber) -> None:
    """Give a number to a buyer. TakenError where it is another's or beyond the series."""
    with transaction(connection):
        before = series_of(connection, watch_id)
        if not 1 <= given.number <= before.count:
            raise TakenError(f"The series has numbers 1 to {before.count}. Nothing was changed.")
        held = next((one.buyer for one in before.given if one.number == given.number), None)
        if held is not None:
            raise TakenError(f"Number {given.number} is {held}'s. Nothing was changed.")
        connection.execute(
            "INSERT INTO series (watch_id, count) VALUES (:watch, 1) ON CONFLICT DO NOTHING",
            {"watch": watch_id},
        )
        connection.execute(
            """INSERT INTO series_number (watch_id, number, buyer, words, day)
               VALUES (:watch, :number, :buyer, :words, :day)""",
            {
                "watch": watch_id,
                "number": given.number,
                "buyer": given.buyer,
                "words": given.words,
                "day": given.day,
            },
        )


def take_number_back(connection: Connection, watch_id: int, number: int) -> None:
    """Take a number back from its buyer."""
    connection.execute(
        "DELETE FROM series_number WHERE watch_id = :watch AND number = :number",
        {"watch": watch_id, "number": number},
    )
