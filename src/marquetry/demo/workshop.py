"""Puts the demo workshop into an empty database; one that holds anything keeps what was changed."""

import shutil
import time
from importlib.resources import files
from pathlib import Path

from marquetry.core.fit.model import Model
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.demo.briefs import talk_over
from marquetry.demo.building import LAST_WINTER_DAYS, build_watches
from marquetry.demo.dating import dated, moment
from marquetry.demo.finished import finish_watches
from marquetry.demo.kit import receive_mail
from marquetry.demo.making import make_parts
from marquetry.demo.orders import enter_rates, trade, watch_terms
from marquetry.demo.proving import prove_watch
from marquetry.demo.rehearsing import rehearse
from marquetry.demo.shelf import stock_shelf, take_donors_apart, with_pieces
from marquetry.demo.tide_table import hand_down_lessons, tell_tide_table
from marquetry.formats import build_sheet
from marquetry.store.archive import is_empty
from marquetry.store.database import Connection, connect, open_workshop, transaction
from marquetry.store.house import furnish
from marquetry.store.photos import folder_of
from marquetry.store.watches import add_watch

SHEETS = ("skerry-light", "night-ferry", "orchard")


def demo_sheets(anatomy: Anatomy) -> dict[str, Build]:
    """The demo's watches by file name, as they are before anybody touched them."""
    folder = files("marquetry.demo")
    return {name: build_sheet.loads(folder.joinpath(f"{name}.json").read_bytes(), anatomy) for name in SHEETS}


def demo_builds(anatomy: Anatomy) -> list[Build]:
    """The same, in the order of the bench."""
    return list(demo_sheets(anatomy).values())


def make_demo(database: Path, model: Model, *, fresh: bool = False) -> None:
    """Fill the database with the demo where it holds nothing, or where a `fresh` start is wanted."""
    if fresh:
        for suffix in ("", "-wal", "-shm"):
            database.with_name(database.name + suffix).unlink(missing_ok=True)
        shutil.rmtree(folder_of(database), ignore_errors=True)
    open_workshop(database, model)
    connection = connect(database, model)
    try:
        furnish(connection)
        if is_empty(connection):
            _furnish(connection, database)
    finally:
        connection.close()


def _furnish(connection: Connection, database: Path) -> None:
    """The watches with their pieces, the shelf, the donors; all of it or, after a kill, none of it."""
    sheets = demo_sheets(connection.model.anatomy)
    with transaction(connection):
        enter_rates(connection)
        stock_shelf(connection, sheets)
        terms = watch_terms()
        numbers = {
            name: add_watch(connection, with_pieces(connection, build, terms))
            for name, build in sheets.items()
        }
        take_donors_apart(connection, sheets)
        talk_over(connection, numbers)
        make_parts(connection, numbers)
        trade(connection, numbers)
        finished = build_watches(connection, numbers, sheets, terms)
        with dated(connection, moment(time.strftime("%Y-%m-%d", time.gmtime()), LAST_WINTER_DAYS - 1)):
            prove_watch(connection, database, finished)
        tell_tide_table(connection, finished)
        rehearse(connection)
        receive_mail(connection)
        hand_down_lessons(connection, finish_watches(connection, database, sheets, terms))
