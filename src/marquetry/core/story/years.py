"""The workshop over the years: every watch from its beginning to its end, and what came of each year."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from marquetry.core.story.fates import Whereabouts
from marquetry.core.values.day import days_between


@dataclass(frozen=True, slots=True)
class WatchYears:
    """One watch: from which day to which, where it is now, hours and money in home's minor units.

    `ended` is the day on which it left the bench, None while it is on it. `quoted` is None where no price
    was told, `brought` where it brought none.
    """

    watch_id: int
    name: str
    began: str
    ended: str | None
    where: Whereabouts
    minutes: int = 0
    spent: int = 0
    quoted: int | None = None
    brought: int | None = None

    @property
    def days(self) -> int | None:
        """How many days it took; None while it is on the bench."""
        return None if self.ended is None else days_between(self.began, self.ended)

    @property
    def left(self) -> int | None:
        """What it brought more than it cost, hours of the workshop's own paid, in home's minor units."""
        return None if self.brought is None else self.brought - self.spent


@dataclass(frozen=True, slots=True)
class YearSum:
    """One year: watches that left the bench, minutes booked on them, minor units spent and brought."""

    year: str
    watches: tuple[WatchYears, ...]

    @property
    def minutes(self) -> int:
        """Minutes booked on those that left the bench in it."""
        return sum(watch.minutes for watch in self.watches)

    @property
    def hours(self) -> float:
        """The same in hours."""
        return self.minutes / 60

    @property
    def spent(self) -> int:
        """What they cost, in home's minor units."""
        return sum(watch.spent for watch in self.watches)

    @property
    def brought(self) -> int:
        """What they brought, in home's minor units."""
        return sum(watch.brought or 0 for watch in self.watches)


def in_years(watches: Iterable[WatchYears]) -> list[YearSum]:
    """Watches by the year in which they left the bench, the newest year first."""
    found: dict[str, list[WatchYears]] = {}
    for watch in watches:
        if watch.ended is not None:
            found.setdefault(watch.ended[:4], []).append(watch)
    return [YearSum(year, tuple(found[year])) for year in sorted(found, reverse=True)]


def median_days(watches: Sequence[WatchYears]) -> float | None:
    """The median count of days that a watch takes from its beginning to its end; None where none ended."""
    days = sorted(watch.days for watch in watches if watch.days is not None)
    if not days:
        return None
    middle = len(days) // 2
    return float(days[middle]) if len(days) % 2 else (days[middle - 1] + days[middle]) / 2
