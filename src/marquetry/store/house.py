"""The workshop's own rules and instruments."""

import json
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.fit.rules import House
from marquetry.core.fit.sellers import LEARNED, SCHOOL_LISTED
from marquetry.core.measuring.instrument import USUAL_INSTRUMENTS, Instrument
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import NotFoundError
from marquetry.store import terms_of_trade
from marquetry.store.database import Connection, transaction
from marquetry.store.sellers_worth import sellers_worth


@dataclass(frozen=True, slots=True)
class HouseRule:
    """A rule the workshop set: its value as JSON, where it comes from, and since when."""

    value: Json
    origin: str
    set_at: str


@dataclass(frozen=True, slots=True)
class OwnedInstrument:
    """An instrument with its number, and the day it was last checked against a gauge block."""

    id: int
    instrument: Instrument
    checked_on: str | None = None


def house_rules(connection: Connection) -> dict[str, HouseRule]:
    """Every rule that differs from the default, by its key."""
    rows = connection.execute("SELECT key, value, origin, set_at FROM house_rule ORDER BY key")
    return {row["key"]: HouseRule(json.loads(row["value"]), row["origin"], row["set_at"]) for row in rows}


def rule_values(connection: Connection) -> House:
    """The rules as core takes them, with what sellers are worth where any rules in force go by it."""
    return as_house(connection, house_rules(connection))


def as_house(connection: Connection, rules: Mapping[str, HouseRule]) -> House:
    """These rules, those in force or others, as core takes them."""
    values = House({key: rule.value for key, rule in rules.items()})
    if values.get(SCHOOL_LISTED) == LEARNED or connection.kept.of(connection, _sheet_goes_by_worth):
        values.sellers = sellers_worth(connection)
    return values


def _sheet_goes_by_worth(connection: Connection) -> bool:
    """Whether any sheet in use says in its own rules how sellers' figures are taken."""
    # Asked again after every save: LIKE, to which large letters are small, takes 5 ms for 15 sheets.
    query = """
        SELECT EXISTS (SELECT 1 FROM watch JOIN revision ON watch_id = watch.id
                               AND revision.version = watch.version WHERE instr(sheet, :words))
            OR EXISTS (SELECT 1 FROM variant WHERE instr(sheet, :words))
    """
    return bool(connection.execute(query, {"words": f'"{SCHOOL_LISTED}"'}).fetchone()[0])


def set_rule(connection: Connection, key: str, value: Json, origin: str) -> None:
    """Set one rule, or put it back to its default where `value` is None."""
    if value is None:
        connection.execute("DELETE FROM house_rule WHERE key = :key", {"key": key})
        return
    connection.execute(
        """
        INSERT INTO house_rule (key, value, origin) VALUES (:key, :value, :origin)
            ON CONFLICT (key) DO UPDATE SET value = excluded.value, origin = excluded.origin,
               set_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now')
        """,
        {"key": key, "value": json.dumps(value), "origin": origin},
    )


def take_set(connection: Connection, name: str, rules: Mapping[str, Json]) -> None:
    """Replace all limits and numbers by those of a ready set; the schools stay as they are."""
    with transaction(connection):
        connection.execute("DELETE FROM house_rule WHERE key NOT LIKE 'school!_%' ESCAPE '!'")
        for key, value in rules.items():
            set_rule(connection, key, value, f"set “{name}”")


def instruments(connection: Connection) -> list[OwnedInstrument]:
    """The workshop's instruments, the finest first."""
    rows = connection.execute(
        "SELECT id, name, resolution, uncertainty, ways, checked_on FROM instrument ORDER BY uncertainty, id"
    )
    return [
        OwnedInstrument(
            row["id"],
            Instrument(row["name"], row["resolution"], row["uncertainty"], tuple(json.loads(row["ways"]))),
            row["checked_on"],
        )
        for row in rows
    ]


def add_instrument(connection: Connection, instrument: Instrument) -> None:
    """Note an instrument the workshop has."""
    connection.execute(
        """
        INSERT INTO instrument (name, resolution, uncertainty, ways)
        VALUES (:name, :resolution, :uncertainty, :ways)
        """,
        {
            "name": instrument.name,
            "resolution": instrument.resolution,
            "uncertainty": instrument.uncertainty,
            "ways": json.dumps(instrument.ways),
        },
    )


def note_checked(connection: Connection, number: int, day: str | None) -> None:
    """Note the day an instrument was checked; NotFoundError where there is none of that number."""
    done = connection.execute("UPDATE instrument SET checked_on = ? WHERE id = ?", (day, number))
    if done.rowcount == 0:
        raise NotFoundError(f"instrument {number}")


def remove_instrument(connection: Connection, number: int) -> None:
    """Forget an instrument; NotFoundError where there is none of that number."""
    done = connection.execute("DELETE FROM instrument WHERE id = :id", {"id": number})
    if done.rowcount == 0:
        raise NotFoundError(f"instrument {number}")


def furnish(connection: Connection) -> None:
    """Give a new workshop the usual instruments and sundries; one that has any keeps its own."""
    terms_of_trade.furnish_sundries(connection)
    if not instruments(connection):
        with transaction(connection):
            for instrument in USUAL_INSTRUMENTS:
                add_instrument(connection, instrument)
