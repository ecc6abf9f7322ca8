"""The workshop over the years, as its page shows it: planks, faces, hours and money."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.fit.report import Report
from marquetry.core.story.fates import WHERE_WORDS
from marquetry.core.story.times import GroupPace, group_paces
from marquetry.core.story.years import WatchYears, YearSum, in_years, median_days
from marquetry.core.trade.ledger import EntryKind
from marquetry.core.values.money import Money
from marquetry.drawing.scene import Scene
from marquetry.drawing.story.year_planks import year_planks
from marquetry.drawing.trade.money_inlay import Strip, money_inlay
from marquetry.store import terms_of_trade, watches
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.workshop_years import by_kind, ledgers, workshop_years
from marquetry.web.site.addresses import Address
from marquetry.web.site.today import today
from marquetry.web.story.learnt import build_records
from marquetry.web.watch.reports import Reports

MOST_FACES = 16
NARROW = 132.0
"""Width of a plank that stands in a column, mm."""


@dataclass(frozen=True)
class YearsPage:
    """The workshop over the years."""

    picture: Scene
    watches: Sequence[WatchYears]
    years: Sequence[YearSum]
    usual_days: float | None
    time_picture: Scene
    money_picture: Scene
    home: str
    faces: Mapping[int, Report]

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.home)

    @property
    def where(self) -> Mapping[str, str]:
        """Where a watch is, in words."""
        return {str(key): words for key, words in WHERE_WORDS.items()}


def years_page(connection: Connection, reports: Reports, address: Address) -> YearsPage:
    """Compute the page."""
    day = today()
    books = ledgers(connection, day)
    every = workshop_years(connection, books)
    links = {watch.watch_id: str(address("story", watch_id=str(watch.watch_id))) for watch in every}
    home = terms_of_trade.trade_terms(connection).home
    takes = [record.takes for record in build_records(connection, rule_values(connection))]
    kinds = [
        Strip(kind, label, minor, str(Money(minor, home))) for kind, label, minor in _large(by_kind(books))
    ]
    return YearsPage(
        year_planks(every, day, links),
        every,
        in_years(every),
        median_days(every),
        _time_inlay(group_paces(takes)),
        money_inlay(kinds, width=NARROW),
        home,
        _faces(connection, reports, every),
    )


def _faces(connection: Connection, reports: Reports, listed: Sequence[WatchYears]) -> dict[int, Report]:
    """What the newest of those that left the bench look like, by number: each is drawn once and kept."""
    gone = sorted((w for w in listed if w.ended), key=lambda w: w.ended or "", reverse=True)[:MOST_FACES]
    house = rule_values(connection)
    readable = watches.watches_of(connection, [watch.watch_id for watch in gone])
    return {
        stored.id: reports.on(stored.build, connection.model.rules_of(stored.build, house))
        for stored in readable
    }


SMALL_SHARE = 0.03


def _large(sums: Sequence[tuple[EntryKind, str, int]]) -> list[tuple[EntryKind, str, int]]:
    """What is too small to be named on the plank is laid together with what is other anyway."""
    total = sum(minor for _, _, minor in sums)
    large = [one for one in sums if one[2] >= SMALL_SHARE * total and one[0] != "other"]
    rest = total - sum(minor for _, _, minor in large)
    return [*large, ("other", "All else", rest)] if rest else large


TIME_TONES = {
    "prepare": "other", "movement": "hours", "dial": "consumable", "hands": "piece", "case": "material",
    "casing": "made", "stem": "spoilt", "close": "loss", "outside": "other", "prove": "material",
}  # fmt: skip
"""The veneers of the money's plank, lent to groups of steps."""


def _time_inlay(groups: Sequence[GroupPace]) -> Scene:
    strips = [Strip(TIME_TONES[g.group], g.label, round(g.taken), f"{g.taken / 60:.1f} h") for g in groups]
    scene = money_inlay(strips, width=NARROW)
    told = "; ".join(f"{strip.words} {strip.told}" for strip in strips)
    return Scene(scene.width, scene.height, "Where the time at the bench went", told, scene.marks)
