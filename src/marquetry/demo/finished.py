"""The watches that the demo workshop finished over the years, made up by its own code so that they agree.

Each is listed, measured, begun, built, proved and sold; what the bench finds follows from the true parts
(`habits`), never from the report. `finished.jsonl` holds a watch a line.
"""

import json
import random
import time
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from importlib.resources import files
from itertools import groupby
from pathlib import Path

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.mishap_kinds import MISHAP_BY_KEY, opens
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import SETTLED, Run
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import Report, report_on
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.story.fates import FateWhat, WatchFate
from marquetry.core.trade.ledger import pay
from marquetry.core.trade.quote import QuoteLine, QuoteTerms, as_told, quoted
from marquetry.core.trade.terms import Terms
from marquetry.core.values.day import later
from marquetry.core.values.money import Money
from marquetry.demo.building import MINUTE_MS, Walk
from marquetry.demo.dating import date_sheet, dated, moment
from marquetry.demo.habits import TrueSize, as_it_is, as_listed, measured, true_sizes
from marquetry.demo.proving import prove_briefly
from marquetry.demo.shelf import with_pieces
from marquetry.store import bench_log, bookings, fates, mishaps, quotes, shelf, terms_of_trade, watches
from marquetry.store.bookings import NewBooking
from marquetry.store.database import Connection
from marquetry.store.mishaps import NewMishap

MEASURED_LATE = ("strap.width", "bezel_insert.outer_diameter", "bezel_insert.thickness")
"""What nobody measures before the watch is begun."""
NO_DATE: dict[str, Json] = {"water_depth_m": 100, "functions": ["hours", "minutes", "seconds"]}
SLOWER = {"stem": 1.5, "hands": 1.3, "case": 0.9}
"""How much longer than usual this workshop takes, by group of steps."""
SPOT_U = 0.03
SLIPS = 0.008
"""How often a gate does not hold though the parts fit: by the bench's own hand."""


@dataclass(frozen=True)
class Making:
    """One finished watch on its way: its row, its number, its draw, the day it was begun."""

    connection: Connection
    database: Path
    row: Mapping[str, Json]
    draw: random.Random
    today: str

    def at(self, days: int, clock: str = "10:00:00") -> str:
        """A moment so many days after the watch was begun."""
        return moment(self.today, self.row["ago"] - days, clock)

    def day(self, days: int) -> str:
        """The day of it."""
        return later(self.today, days - self.row["ago"])


def finish_watches(
    connection: Connection, database: Path, sheets: Mapping[str, Build], terms: Mapping[str, Terms]
) -> dict[str, int]:
    """All of them, the oldest first; gives their numbers by name."""
    today = time.strftime("%Y-%m-%d", time.gmtime())
    numbers = {}
    for line in files("marquetry.demo").joinpath("finished.jsonl").read_text("utf-8").splitlines():
        row = json.loads(line)
        making = Making(connection, database, row, random.Random(row["name"]), today)  # noqa: S311  # a story, no secret
        numbers[str(row["name"])] = _made(making, sheets["skerry-light"], terms)
    return numbers


def _made(making: Making, base: Build, terms: Mapping[str, Terms]) -> int:
    connection, row = making.connection, making.row
    build, sellers = _chosen(making, base.renamed(row["name"]), terms)
    if "date" not in (build.at("movement.functions") or []):
        build = build.with_target(NO_DATE)
    sizes = list(true_sizes(build, sellers, making.draw))
    with dated(connection, making.at(0)):
        number = watches.add_watch(connection, with_pieces(connection, as_listed(build, sizes), terms))
    date_sheet(connection, number, making.at(0))
    _quote(making, number)
    early = [size for size in sizes if size.path not in MEASURED_LATE]
    _measure(making, number, early, making.row["days"] // 2)
    _build(making, number, as_it_is(build, sizes))
    _measure(making, number, [size for size in sizes if size not in early], making.row["days"] - 4)
    closed = prove_briefly(connection, making.database, number, making.draw)
    _end(making, number, later(closed, 3))
    return number


def _chosen(making: Making, build: Build, terms: Mapping[str, Terms]) -> tuple[Build, dict[str, str]]:
    """The base with the row's parts of the shelf in it, and who sells each part."""
    for name in making.row["parts"]:
        found = making.connection.execute("SELECT id FROM part WHERE name = ?", (name,)).fetchone()
        part = shelf.part(making.connection, found["id"]).part
        build = build.with_entry(part.kind.slot, part.document)
    sellers = {}
    for key in build.parts:
        name = build.at(f"{key}.name")
        known = shelf.part_named(making.connection, key, str(name)) if isinstance(name, str) else None
        told = terms.get(str(name)) or (known.terms if known else None)
        sellers[key] = told.supplier if told else ""
    return build, sellers


def _measure(making: Making, number: int, sizes: list[TrueSize], days: int) -> None:
    """Part after part, by caliper: what was read of one is saved at once."""
    connection = making.connection
    stored = watches.watch(connection, number)
    for count, (part, ours) in enumerate(groupby(sizes, key=lambda size: size.path.partition(".")[0])):
        if not stored.build.has(part):
            continue
        after, read = stored.build, list(ours)
        for size in read:
            after = after.with_entry(size.path, dimension_as_json(measured(size, making.draw)))
        more = f" and {len(read) - 1} more" if read[1:] else ""
        words = f"measured: {after.anatomy.label_of(read[0].path)}{more}"
        at = making.at(days, f"{14 + count // 12:02}:{5 * (count % 12):02}:00")
        with dated(connection, at):
            stored = watches.save(connection, number, stored.version, after, words, stored)
        date_sheet(connection, number, at)


def _build(making: Making, number: int, truth: Build) -> None:
    connection, draw = making.connection, making.draw
    stored = watches.watch(connection, number)
    situation = Situation(report_on(stored.build, connection.model.rules_of(stored.build)))
    truly = report_on(truth, connection.model.rules_of(truth))
    begins = int(time.time() * 1000) - (making.row["ago"] - making.row["days"] + 8) * 24 * 60 * MINUTE_MS
    slug = making.row["name"].lower().replace(" ", "-")
    walk = Walk(
        procedure(situation), begins, slug, pace=lambda group: draw.uniform(0.7, 1.5) * SLOWER.get(group, 1.0)
    )
    walk.read = _readings(truly, draw)
    walk.height_off = lambda: draw.gauss(-0.01, 0.035)
    mishap = making.row.get("mishap")
    for step in walk.steps.steps:
        walk.fails = _fails(step.step.tells, truly, draw)
        walk.do(step)
        if mishap and step.id == mishap[1]:
            _mishap(making, number, walk, mishap)
            _go_on(making, number, walk)
            return
    bench_log.add_entries(connection, number, walk.entries)


def _go_on(making: Making, number: int, walk: Walk) -> None:
    """Whatever a mishap left open or opened again, in order, until nothing is open."""
    connection, walk.fails = making.connection, False
    while True:
        build = watches.watch(connection, number).build
        walk.steps = procedure(Situation(report_on(build, connection.model.rules_of(build))))
        run = Run(walk.steps, bench_log.entries_of(connection, number), walk.at_ms)
        left = [stand.step for stand in run.stands.values() if stand.state not in SETTLED]
        if not left:
            return
        for step in left:
            walk.do(step)
        bench_log.add_entries(connection, number, walk.entries)
        walk.name, walk.entries = f"{walk.name}-on", []


def _readings(truly: Report, draw: random.Random) -> dict[str, tuple[tuple[str, float], ...]]:
    """What the bench reads of the stem: the true gap twice, a cut short of it, the rest filed."""
    cut = truly.findings["stem_cut"].value
    if cut is None:
        return {}
    gaps = [round(draw.gauss(cut, SPOT_U), 2) for _ in range(2)]
    off = round(cut - draw.uniform(0.15, 0.25), 2)
    rest = max(round(cut - off + draw.gauss(0.0, 0.02), 2), 0.02)
    return {
        "measure_gap": tuple(("gap", gap) for gap in gaps),
        "cut_stem": (("cut", off),),
        "dress_stem_end": (("gap", rest), ("file", round(rest - 0.02, 2))),
    }


def _fails(checks: tuple[str, ...], truly: Report, draw: random.Random) -> bool:
    """Whether a gate does not hold at first: where the true parts do not fit, or by the bench's own hand."""
    found = [truly.findings[check] for check in checks if check in truly.findings]
    return any(one.verdict.value == "clash" for one in found) or (bool(found) and draw.random() < SLIPS)


def _mishap(making: Making, number: int, walk: Walk, told: list[str]) -> None:
    """It goes wrong once, is put right by the way named, and the steps that it opened are done again."""
    connection, (key, step, way_key, lesson) = making.connection, told
    kind = MISHAP_BY_KEY[key]
    way = next(way for way in kind.ways if way.key == way_key)
    bench_log.add_entries(connection, number, walk.entries)
    walk.entries = []
    entry = LogEntry(f"{walk.name}-mishap", step, "mishap", walk.at_ms, words=f"{kind.label}: {way.words}")
    again = opens(walk.steps, way, step)
    at = time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime(walk.at_ms / 1000))
    with dated(connection, at):
        before = watches.watch(connection, number)
        mishaps.note(connection, before, NewMishap(kind, way, entry, again, lesson, at[:10]))
    after = watches.watch(connection, number)
    if after.version != before.version:
        date_sheet(connection, number, at)
        _another(making, after, at, kind.part)
    walk.name, walk.at_ms = f"{walk.name}-again", walk.at_ms + (way.minutes + 5) * MINUTE_MS


def _another(making: Making, stored: watches.StoredWatch, at: str, part: str) -> None:
    """Another piece of the same part in place of the one that was spoilt."""
    connection = making.connection
    with dated(connection, at):
        build = with_pieces(connection, stored.build, {}, only=part)
        watches.save(
            connection, stored.id, stored.version, build, f"another {part.replace('_', ' ')} from the shelf"
        )
    date_sheet(connection, stored.id, at)


def _quote(making: Making, number: int) -> None:
    """A price told before it was begun, where one was asked; and the hours talked over it."""
    connection, row = making.connection, making.row
    terms = terms_of_trade.trade_terms(connection)
    hours = pay(row["hours"] * 60, terms.pay("bench"))
    booked = NewBooking("hours", "bench: the build", hours, making.day(row["days"] - 6), row["hours"] * 60)
    bookings.book(connection, number, booked)
    if "quote" in row:
        planned = QuoteTerms(1, 60 * max(row["hours"] - 2, 4), 0, Decimal(8), step=10)
        parts = max(row["quote"] - 30 * (row["hours"] - 2), 200) * 90
        told = as_told(
            quoted((QuoteLine("parts", parts),), planned, terms.pay("bench")), row["name"], terms.maker,
            making.day(30), "One watch, tested; a strap.",
        )  # fmt: skip
        told["query"] = {"count": 1, "hours": str(planned.minutes / 60), "setting_up": "0", "margin": "8 %"}
        quotes.tell_quote(connection, number, told, making.day(2))


def _end(making: Making, number: int, day: str) -> None:
    connection, row = making.connection, making.row

    def take(what: FateWhat, days: int, words: str = "", price: Money | None = None) -> None:
        who = row["who"] if what in {"sold", "given", "back"} else ""
        fate = WatchFate(what, 1, who, words, price, later(day, days))
        with dated(connection, f"{later(day, days)}T12:00:00Z"):
            fates.take_fate(connection, watches.watch(connection, number), fate)
        if what == "apart":
            date_sheet(connection, number, f"{later(day, days)}T12:00:00Z")

    price = Money(row["price"] * 100, "EUR") if "price" in row else None
    take(row["outcome"], 0, row.get("words", ""), price)
    if "service" in row:
        came, found, done = row["service"]
        take("back", 120, came)
        take("found", 121, found)
        take("changed", 123, done)
        take("out", 126)
