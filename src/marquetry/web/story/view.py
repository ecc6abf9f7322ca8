"""The log of a watch as its page shows it: days with their moments, the picture over them, filters."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from functools import lru_cache
from urllib.parse import urlencode

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.story.moment import TRADE_LABELS, Moment, Trade, counted, of_trades
from marquetry.drawing.scene import Scene
from marquetry.drawing.story.day_strips import StripDay, day_strips
from marquetry.store.photos import photos_of
from marquetry.store.story_log import matching, story_of
from marquetry.store.watches import StoredWatch
from marquetry.web.site.addresses import Address, addresses
from marquetry.web.story.places import place_link
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough

SHOWN = 120
NOTE_FIELDS = ("words", "kind", "about", "at")
NOTE_FAULTS = ("words", "about", "at", "photograph")
LONGEST_SOUGHT = 80


class LogLook(BaseModel):
    """What of the log is looked at: trades, words sought, from which moment on; `all` for paper.

    `back` is a note that was taken back just now.
    """

    model_config = ConfigDict(extra="ignore")
    trades: list[str] = Field(default=[], max_length=20)
    words: str = Field(default="", max_length=LONGEST_SOUGHT)
    after: int = Field(default=0, ge=0, le=1_000_000)
    all: bool = False
    back: int = Field(default=0, ge=0)

    def asking(self, after: int | None) -> str:
        """The query of the same log from a place on; of all of it, for paper, without one."""
        start = ("all", "1") if after is None else ("after", str(after))
        sought = [("words", self.words)] if self.words else []
        return urlencode([start, *sought, *(("trades", trade) for trade in self.trades)])


@dataclass(frozen=True, slots=True)
class MomentRow:
    """A moment as a line: its time of day, where it leads, the number of its picture."""

    moment: Moment
    clock: str
    link: str
    photo: int | None


@dataclass(frozen=True, slots=True)
class LogDay:
    """One day of the log."""

    day: str
    rows: tuple[MomentRow, ...]


@dataclass(frozen=True)
class LogPage:
    """All that the page of the log shows."""

    watch: StoredWatch
    way: WayThrough
    look: LogLook
    days: tuple[LogDay, ...]
    counts: Mapping[Trade, int]
    total: int
    found: int
    picture: Scene
    faults: Mapping[str, str] = field(default_factory=lambda: dict.fromkeys(NOTE_FAULTS, ""))
    typed: Mapping[str, str] = field(default_factory=lambda: dict.fromkeys(NOTE_FIELDS, ""))

    @property
    def labels(self) -> Mapping[Trade, str]:
        """Trades in words."""
        return TRADE_LABELS

    @property
    def parts(self) -> Sequence[tuple[str, str]]:
        """Parts that a note may be about, by key and name."""
        build = self.watch.build
        return [(part.key, part.label) for part in build.anatomy.parts if build.has(part.key)]

    @property
    def older(self) -> int | None:
        """Where the next page begins; None at the end."""
        shown = self.look.after + SHOWN
        return shown if not self.look.all and shown < self.found else None

    @property
    def newer(self) -> int | None:
        """Where the page before begins; None at the beginning."""
        return max(self.look.after - SHOWN, 0) if self.look.after and not self.look.all else None


def local(at_ms: int) -> datetime:
    """A moment on this machine's clock."""
    return datetime.fromtimestamp(at_ms / 1000.0, UTC).astimezone()


QUARTER_MS = 900_000
"""Every zone's midnight lies on a quarter of an hour: of all moments in one the day is the same."""


@lru_cache(maxsize=16_384)
def _day(quarter: int, *, clock: bool) -> str:
    at = local(quarter * QUARTER_MS) if clock else datetime.fromtimestamp(quarter * QUARTER_MS / 1000.0, UTC)
    return at.strftime("%Y-%m-%d")


def day_of_moment(moment: Moment) -> str:
    """Its day: by this machine's clock, or as it was noted where only the day is known."""
    return _day(moment.at_ms // QUARTER_MS, clock=moment.clock)


def log_page(
    visit: Visit,
    look: LogLook,
    faults: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> LogPage:
    """Compute the page."""
    address = addresses(visit.request.app)
    every = story_of(visit.connection, visit.stored.id)
    found = of_trades(matching(every, look.words), look.trades)
    shown = found if look.all else found[look.after : look.after + SHOWN]
    pictures = {
        photo.digest: photo.id
        for owner in ("watch", "bench", "proof")
        for photo in photos_of(visit.connection, owner, visit.stored.id)
    }
    return LogPage(
        visit.stored,
        visit.way("story"),
        look,
        _days(shown, address, visit.stored.id, pictures),
        counted(every),
        len(every),
        len(found),
        day_strips(
            _strips(found, str(address("story", watch_id=str(visit.stored.id))), look),
            visit.stored.build.name,
        ),
        {**dict.fromkeys(NOTE_FAULTS, ""), **(faults or {})},
        {**dict.fromkeys(NOTE_FIELDS, ""), **(typed or {})},
    )


def _days(
    moments: Sequence[Moment], address: Address, watch: int, pictures: Mapping[str, int]
) -> tuple[LogDay, ...]:
    by_day: dict[str, list[MomentRow]] = {}
    for moment in moments:
        clock = local(moment.at_ms).strftime("%H:%M") if moment.clock else ""
        link = place_link(address, watch, moment.place)
        row = MomentRow(moment, clock, link, pictures.get(moment.photo))
        by_day.setdefault(day_of_moment(moment), []).append(row)
    return tuple(LogDay(day, tuple(rows)) for day, rows in by_day.items())


def _strips(moments: Sequence[Moment], log: str, look: LogLook) -> list[StripDay]:
    """The days of all moments that were found, the oldest first, each with the page of the log it is on."""
    days: defaultdict[str, Counter[Trade]] = defaultdict(Counter)
    first: dict[str, int] = {}
    for place, moment in enumerate(moments):
        day = day_of_moment(moment)
        days[day][moment.trade] += 1
        first.setdefault(day, place)
    return [
        StripDay(day, counts, f"{log}?{look.asking(first[day] // SHOWN * SHOWN)}#day-{day}")
        for day, counts in reversed(days.items())
    ]
