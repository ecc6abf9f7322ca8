"""What the demo workshop built: Skerry Light half, Night Ferry waiting for its print, Orchard at its feet.

And Tide Table, finished last winter with a mishap. Logs are walked through the procedure itself, step by
step, so that they stand in the order in which the program would have asked.
"""

import time
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.mishap_kinds import MISHAP_BY_KEY, opens
from marquetry.core.bench.procedure import Procedure, WatchStep, procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.bench.written import written
from marquetry.core.fit.report import report_on
from marquetry.core.sheet.build import Build
from marquetry.core.trade.terms import Terms
from marquetry.core.values.day import later
from marquetry.demo.dating import date_sheet, dated, moment
from marquetry.demo.shelf import with_pieces
from marquetry.store import bench_log, mishaps, shelf, watches
from marquetry.store.database import Connection
from marquetry.store.mishaps import NewMishap

MINUTE_MS, DAY_MS = 60_000, 86_400_000
TIDE_TABLE = "Tide Table"
LAST_WINTER_DAYS = 290
PACE = (0.8, 1.3, 1.0, 0.7, 1.1, 1.6, 0.9)
"""What steps took, as parts of their usual time, one after the other."""


@dataclass
class Walk:
    """One log on its way: the entries so far, the moment, the steps left.

    `read` is what is read at a step; `pace` how long a group of steps takes, as a part of the usual;
    `height_off` how far a hand comes to stand from its shim, mm; `fails`: the next gate does
    not hold at first.
    """

    steps: Procedure
    at_ms: int
    name: str
    entries: list[LogEntry] = field(default_factory=list)
    read: Mapping[str, tuple[tuple[str, float], ...]] = field(default_factory=lambda: READ)
    pace: Callable[[str], float] | None = None
    height_off: Callable[[], float] = lambda: 0.0
    fails: bool = False

    def add(self, step: str, what: str, value: float | None = None, words: str = "") -> LogEntry:
        """One entry, signed as the program signs it."""
        known = self.steps.by_id.get(step)
        sign = known.sign if known and what in {"done", "yes", "skip"} else ""
        key = f"demo-{self.name}-{len(self.entries):04}"
        entry = LogEntry(key, step, what, self.at_ms, value, words=words, sign=sign, device="bench")  # type: ignore[arg-type]  # one of the log's words
        self.entries.append(entry)
        return entry

    def do(self, step: WatchStep, words: str = "") -> None:
        """Begin a step, take the time it takes, and settle it; what sets after it, sets in time."""
        pace = self.pace(step.group) if self.pace else PACE[len(self.entries) % len(PACE)]
        self.add(step.id, "start")
        self.at_ms += round(step.step.minutes * pace * MINUTE_MS)
        if self.fails and step.is_gate:
            self.add(step.id, "no")
            self.at_ms += 6 * MINUTE_MS
        for what, value in self.read.get(step.id, ()):
            self.add(step.id, what, value)
        if step.step.entry == "height" and step.step.hand in self.steps.situation.shims:
            height = self.steps.situation.shims[step.step.hand] + self.height_off()
            self.add(step.id, "height", round(height, 2))
        answer = "skip" if words else "yes" if step.is_gate else "done"
        self.add(step.id, answer, words=words)
        if step.curing and not words:
            self.add(step.id, "timer", float(step.curing_minutes), step.curing[0])
            self.at_ms += step.curing_minutes * MINUTE_MS
            self.add(step.id, "quiet")
        self.at_ms += MINUTE_MS // 4


READ: Mapping[str, tuple[tuple[str, float], ...]] = {
    "measure_gap": (("gap", 8.03), ("gap", 8.05)),
    "cut_stem": (("cut", 7.85),),
    "dress_stem_end": (("gap", 0.21), ("file", 0.16), ("gap", 0.03)),
}


def tide_table(connection: Connection, sheets: Mapping[str, Build]) -> Build:
    """The watch: Skerry Light's case and movement under a chart-blue dial."""
    build = sheets["skerry-light"].renamed(TIDE_TABLE)
    dial = shelf.part_named(connection, "dial", "Chart blue, date")
    return build.with_entry("dial", dial.part.document) if dial else build


def build_watches(
    connection: Connection,
    numbers: Mapping[str, int],
    sheets: Mapping[str, Build],
    terms: Mapping[str, Terms],
) -> int:
    """Every log of the demo; `numbers` are the watches by their names among the demo's sheets.

    Gives the number of the watch that is finished.
    """
    now = time.time_ns() // 1_000_000
    begun = moment(time.strftime("%Y-%m-%d", time.gmtime()), LAST_WINTER_DAYS + 33)
    with dated(connection, begun):
        finished = watches.add_watch(
            connection, with_pieces(connection, tide_table(connection, sheets), terms)
        )
    date_sheet(connection, finished, begun)
    _finish(connection, finished, now - LAST_WINTER_DAYS * DAY_MS)
    skerry = _walk(connection, numbers["skerry-light"], now - DAY_MS, "skerry")
    _until(skerry, "fit_bezel", {"grease_click": "Looked at in another way"})
    _keep(connection, numbers["skerry-light"], skerry)
    ferry = _walk(connection, numbers["night-ferry"], now - 3 * DAY_MS, "ferry")
    _until(ferry, "fix_dial")
    ferry.add("fix_dial", "note", words="Waits for its print: the holder's third try is on the printer.")
    _keep(connection, numbers["night-ferry"], ferry)
    orchard = _walk(connection, numbers["orchard"], now - 2 * DAY_MS, "orchard")
    _until(orchard, "remove_feet")
    _keep(connection, numbers["orchard"], orchard)
    return finished


def _walk(connection: Connection, watch_id: int, begins_ms: int, name: str) -> Walk:
    build = watches.watch(connection, watch_id).build
    report = report_on(build, connection.model.rules_of(build))
    steps = procedure(Situation(report, bench_log.donors_in(connection, watch_id)))
    return Walk(steps, begins_ms, name)


def _keep(connection: Connection, watch_id: int, walk: Walk) -> None:
    bench_log.add_entries(connection, watch_id, walk.entries)


def _write(connection: Connection, watch_id: int, walk: Walk) -> None:
    """What the log did to a finished watch, as taps would have written it into its sheet.

    Of watches that are half built nothing is written that their next tap does not write as well.
    """
    stored = watches.watch(connection, watch_id)
    run = Run(walk.steps, bench_log.entries_of(connection, watch_id), walk.at_ms)
    found = written(stored.build, run, walk.entries, stamp)
    if found.build != stored.build:
        with dated(connection, stamp(walk.at_ms)):
            words = f"bench: {'; '.join(found.words)}"[:200]
            watches.save(connection, watch_id, stored.version, found.build, words, stored)


def stamp(at_ms: int) -> str:
    """A moment, milliseconds since 1970, as sheets write it."""
    return time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime(at_ms / 1000))


def _until(walk: Walk, last: str, skipped: Mapping[str, str] | None = None) -> None:
    """Every step before the last one named."""
    for step in _before(walk.steps, last):
        walk.do(step, (skipped or {}).get(step.id, ""))


def _before(steps: Procedure, last: str) -> Iterator[WatchStep]:
    for step in steps.steps:
        if step.id == last:
            return
        yield step


MISHAP_AT = "check_minute"


def _finish(connection: Connection, watch_id: int, begins_ms: int) -> None:
    """All of it, with a minute hand pressed too deep, lifted, and pressed again."""
    walk = _walk(connection, watch_id, begins_ms, "tide")
    _until(walk, MISHAP_AT)
    walk.add(MISHAP_AT, "start")
    walk.at_ms += 2 * MINUTE_MS
    walk.add(MISHAP_AT, "height", 0.88)
    walk.add(MISHAP_AT, "no")
    kept, walk.entries = walk.entries, []
    bench_log.add_entries(connection, watch_id, kept)
    kind = MISHAP_BY_KEY["hand_too_deep"]
    way = kind.ways[0]
    entry = LogEntry("demo-tide-mishap", MISHAP_AT, "mishap", walk.at_ms, words=f"{kind.label}: {way.words}")
    day = later(time.strftime("%Y-%m-%d", time.gmtime()), -LAST_WINTER_DAYS)
    again = opens(walk.steps, way, MISHAP_AT)
    lesson = "The shim had slipped under the dial's edge: hold it, and look from the side halfway."
    mishaps.note(
        connection, watches.watch(connection, watch_id), NewMishap(kind, way, entry, again, lesson, day)
    )
    walk.name = "tide-again"
    walk.at_ms += 8 * MINUTE_MS
    begun = False
    for step in walk.steps.steps:
        begun = begun or step.id == "press_minute"
        if begun:
            walk.do(step)
    _keep(connection, watch_id, walk)
    _write(connection, watch_id, walk)
