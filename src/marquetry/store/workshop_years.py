"""Every watch of the workshop from its beginning to its end, with hours and money, in home's currency."""

import json

from marquetry.core.story.fates import OUTCOMES, WatchFate, fates_standing, whereabouts
from marquetry.core.story.years import WatchYears
from marquetry.core.trade.ledger import ENTRY_KINDS, EntryKind, Ledger
from marquetry.core.trade.rates import Rates
from marquetry.core.values.errors import DimensionError, RateError
from marquetry.core.values.money import USUAL_CURRENCY, Money, parse_money
from marquetry.store import bookings, fates, terms_of_trade
from marquetry.store.database import Connection

BEGAN = """
    SELECT watch.id, json_extract(now.sheet, '$.name') AS name,
           substr(min(coalesce((SELECT min(at) FROM wish WHERE watch_id = watch.id), first.saved_at),
                      first.saved_at), 1, 10) AS began
      FROM watch JOIN revision AS now ON now.watch_id = watch.id AND now.version = watch.version
      JOIN revision AS first ON first.watch_id = watch.id AND first.version = 1
     WHERE removed_at IS NULL ORDER BY began, watch.id
"""
QUOTED = """
    SELECT watch_id, told FROM quote WHERE withdrawn = 0
     ORDER BY watch_id, number DESC
"""


def ledgers(connection: Connection, today: str) -> dict[int, Ledger]:
    """The books of every watch by its number."""
    numbers = [row["id"] for row in connection.execute("SELECT id FROM watch WHERE removed_at IS NULL")]
    return bookings.ledgers_of(connection, numbers, today)


def workshop_years(connection: Connection, books: dict[int, Ledger]) -> list[WatchYears]:
    """Every watch, the earliest begun first."""
    rates, every = terms_of_trade.rates(connection), fates.all_fates(connection)
    quoted = {row["watch_id"]: row["told"] for row in connection.execute(QUOTED)}
    found = []
    for row in connection.execute(BEGAN):
        steps = fates_standing(every.get(row["id"], ()))
        ledger = books[row["id"]]
        ended = next((step.day for step in reversed(steps) if step.what in OUTCOMES), None)
        found.append(
            WatchYears(
                row["id"], row["name"], row["began"], ended, whereabouts(steps, _last_number(steps)),
                sum(entry.minutes for entry in ledger.entries if entry.kind == "hours"),
                ledger.total.minor, _quoted(quoted.get(row["id"]), rates), _brought(steps, rates),
            )
        )  # fmt: skip
    return found


def _last_number(steps: list[WatchFate]) -> int:
    """Which number of a series something happened to last."""
    return steps[-1].number if steps else 1


def _at_home(rates: Rates, money: Money, day: str) -> int | None:
    try:
        return rates.converted(money, day).minor
    except RateError:
        return None


def _quoted(told: str | None, rates: Rates) -> int | None:
    """The price of the whole that was told last; None where none was, or it cannot be told at home."""
    if told is None:
        return None
    try:
        total = parse_money("total", str(json.loads(told)["total"]), USUAL_CURRENCY)
    except DimensionError:
        return None
    return total.minor if total is not None and total.currency == rates.home else None


def _brought(steps: list[WatchFate], rates: Rates) -> int | None:
    """What it was sold for, all numbers together; None where nothing was, or a rate is not known."""
    sums = [_at_home(rates, step.price, step.day) for step in steps if step.price is not None]
    known = [minor for minor in sums if minor is not None]
    return sum(known) if known else None


def by_kind(books: dict[int, Ledger]) -> list[tuple[EntryKind, str, int]]:
    """Where the money of all watches went, in home's minor units by kind of entry; no kind without any."""
    sums = [
        (kind, label, sum(ledger.sum_of(kind).minor for ledger in books.values()))
        for kind, label in ENTRY_KINDS
    ]
    return [one for one in sums if one[2]]
