"""The page of Build: where the watch stands, how long it takes, what must be at hand, what is missing."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import groupby

from marquetry.core.bench.clock import Ahead, ahead
from marquetry.core.bench.mishap_kinds import minutes_booked
from marquetry.core.bench.run import SETTLED, Run, Stand
from marquetry.core.bench.step import GROUP_LABELS
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK
from marquetry.core.trade.sundries import SUNDRY_BY_KEY
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.bench.progress import progress_scene
from marquetry.drawing.scene import Scene
from marquetry.store import bench_log, bookings, terms_of_trade
from marquetry.store.watches import StoredWatch
from marquetry.web.build.bench_run import run_of
from marquetry.web.build.screen import STATE_WORDS, why_not_yet
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class AtHand:
    """A tool or a consumable that the build wants: what does instead, whether it was ticked off."""

    key: str
    name: str
    reason: str
    instead: str
    """What does instead, where the workshop said that it has none; told in black: nothing went wrong."""
    ready: bool


@dataclass(frozen=True, slots=True)
class StepRow:
    """A step in the list: where it stands, why it does not go on, minutes it took."""

    stand: Stand
    state: str
    why: str
    minutes: int


@dataclass(frozen=True)
class BuildPage:
    """What the page of Build shows."""

    watch: StoredWatch
    way: WayThrough
    run: Run
    ahead: Ahead
    at_hand: dict[str, list[AtHand]]
    clashes: tuple[str, ...]
    unmeasured: int
    lacking: tuple[str, ...]
    settings: dict[str, bool]
    unbooked: int

    @property
    def is_begun(self) -> bool:
        """Whether anything was done yet."""
        return self.run.began_ms is not None

    @property
    def here(self) -> str:
        """The step at hand."""
        return self.run.here

    @cached_property
    def groups(self) -> list[tuple[str, list[StepRow]]]:
        """The steps by group, as they come."""
        rows = (self._row(stand) for stand in self.run.stands.values())
        return [
            (GROUP_LABELS[group], list(found))
            for group, found in groupby(rows, key=lambda row: row.stand.step.group)
        ]

    def _row(self, stand: Stand) -> StepRow:
        seconds = self.run.seconds.get(stand.step.id, 0.0)
        return StepRow(stand, STATE_WORDS[stand.state], self._why(stand), round(seconds / 60))

    def _why(self, stand: Stand) -> str:
        """Beside a row: that it waits stands there already; on what, its screen tells."""
        if stand.state == "skipped":
            return stand.words
        if stand.again:
            return f"Open again: {stand.again}."
        return why_not_yet(self.run, stand) if stand.timer or stand.state == "failed" else ""

    @property
    def progress(self) -> Scene:
        """All steps as inlaid lozenges, the one at hand raised."""
        return progress_scene(self.run, self.here)

    @property
    def hours(self) -> str:
        """How long is left at the bench, in hours and minutes."""
        return clock_words(self.ahead.minutes)

    @property
    def setting(self) -> str:
        """How long things set beside that."""
        return clock_words(self.ahead.setting)

    @property
    def to_book(self) -> str:
        """The time that may be booked, in hours and minutes."""
        return clock_words(self.unbooked)

    @property
    def spent(self) -> str:
        """How long it took so far."""
        return clock_words(sum(self.run.seconds.values()) / 60)


def clock_words(minutes: float) -> str:
    """`3 h 20 min`, `45 min`: rounded to five minutes over an hour."""
    whole = round(minutes)
    if whole < 60:  # noqa: PLR2004  # an hour
        return f"{whole} min"
    hours, rest = divmod(5 * round(whole / 5), 60)
    return f"{hours} h {rest:02d} min" if rest else f"{hours} h"


def build_page(visit: Visit) -> BuildPage:
    """The page of one watch."""
    run, connection = run_of(visit), visit.connection
    report = run.procedure.situation.report
    left = [
        (s.step.id, s.step.step.minutes, s.step.curing_minutes)
        for s in run.stands.values()
        if s.state not in SETTLED
    ]
    clashes = tuple(
        report.rules.model.title(name) for name, f in report.findings.items() if f.verdict is Verdict.CLASH
    )
    return BuildPage(
        visit.stored,
        visit.way("build"),
        run,
        ahead(left, bench_log.own_minutes(connection, visit.stored.id)),
        {
            "Tools": list(_at_hand(visit, run, run.procedure.tools)),
            "Consumables": list(_at_hand(visit, run, run.procedure.consumables)),
        },
        clashes,
        len(report.open_names),
        tuple(_lacking(visit)),
        bench_log.settings(connection),
        unbooked_minutes(visit, run),
    )


BY_THE_CLOCK = "bench: by the clock"
"""What hours of the bench's clock are booked as."""


def unbooked_minutes(visit: Visit, run: Run) -> int:
    """Whole minutes that the clock counted and nobody booked yet, by the clock or with a mishap."""
    counted = int(sum(run.seconds.values()) / 60)
    by_clock = bookings.minutes_booked(visit.connection, visit.stored.id, BY_THE_CLOCK)
    return max(counted - by_clock - minutes_booked(run.standing), 0)


def _at_hand(visit: Visit, run: Run, keys: tuple[str, ...]) -> Iterator[AtHand]:
    counted = {
        one.key: one for one in terms_of_trade.sundries(visit.connection) if one.key and one.is_counted
    }
    for key in keys:
        usual, known = SUNDRY_BY_KEY[key], counted.get(key)
        gone = known is not None and not known.held
        instead = (usual.instead or "none counted") if gone else ""
        yield AtHand(key, usual.name, usual.reason, instead, key in run.ready)


def _lacking(visit: Visit) -> Iterator[str]:
    """Parts of the watch that are planned from the catalogue, and not here yet."""
    for key, part in visit.stored.build.parts.items():
        if isinstance(part, dict) and part.get(PART_LINK) and not part.get(PIECE_LINK):
            yield str(part.get("name") or key)
