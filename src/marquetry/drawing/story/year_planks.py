"""The workshop over the years: each watch a plank from the day it was begun to the day it left the bench."""

from collections.abc import Iterator, Mapping, Sequence

from marquetry.core.story.fates import WHERE_WORDS, Whereabouts
from marquetry.core.story.years import WatchYears
from marquetry.core.values.day import days_between, later
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

WIDTH = 250.0
LEFT, RIGHT = 4.0, 246.0
ROW, FOOT, HEAD = 8.2, 9.0, 5.0
THICK = 5.4
SIZE = 3.9
LETTER = 2.0
LEAST = 2.2
TONES: dict[Whereabouts, str] = {
    "bench": "void", "sold": "brass", "given": "print", "kept": "dial", "apart": "spacer", "service": "glass",
}  # fmt: skip


def year_planks(watches: Sequence[WatchYears], today: str, links: Mapping[int, str]) -> Scene:
    """The planks from the first day to today, in as few rows as have room for the names."""
    if not watches:
        return Scene(WIDTH, 30.0, "No watch yet", "", ())
    first = min(watch.began for watch in watches)
    days = max(days_between(first, today), 1)
    rows = _rows(watches, first, days, today)
    height = FOOT + HEAD + ROW * (max(rows.values()) + 1)
    marks: list[Mark] = [*_years(first, today, days, height)]
    for watch in watches:
        y = height - HEAD - ROW * (rows[watch.watch_id] + 1)
        marks.append(_plank(watch, (first, today, days), y, links.get(watch.watch_id, "")))
    told = "; ".join(f"{watch.name}, {WHERE_WORDS[watch.where]}" for watch in watches)
    return Scene(WIDTH, height, "Watches over the years", told, tuple(marks))


def _x(day: str, first: str, days: int) -> float:
    return LEFT + days_between(first, day) / days * (RIGHT - LEFT)


def _span(watch: WatchYears, first: str, days: int, today: str) -> tuple[float, float]:
    left = _x(watch.began, first, days)
    return left, max(_x(watch.ended or today, first, days), left + LEAST)


def _rows(watches: Sequence[WatchYears], first: str, days: int, today: str) -> dict[int, int]:
    """The row of each watch: the first that is free from its plank's beginning to its name's end."""
    ends: list[float] = []
    found: dict[int, int] = {}
    for watch in watches:
        left, right = _span(watch, first, days, today)
        wanted, end = _words(watch, left, right)
        row = next((n for n, taken in enumerate(ends) if taken <= min(left, wanted)), len(ends))
        ends[row : row + 1] = [max(right, end) + 3.0]
        found[watch.watch_id] = row
    return found


def _words(watch: WatchYears, left: float, right: float) -> tuple[float, float]:
    """Where the name stands, from and to: right of its plank, or left of it at the paper's end."""
    long = len(watch.name) * LETTER
    if right + 1.5 + long <= RIGHT + 3.0:
        return right + 1.5, right + 1.5 + long
    return left - 1.5 - long, right


def _years(first: str, today: str, days: int, height: float) -> Iterator[Mark]:
    for year in range(int(first[:4]), int(today[:4]) + 1):
        day = max(f"{year}-01-01", first)
        x = _x(day, first, days)
        yield Line(((x, FOOT - 2.0), (x, height - 1.0)), "year-line")
        if days_between(day, min(f"{year}-12-31", later(today, 0))) / days * (RIGHT - LEFT) > 5 * LETTER:
            yield Label((x + 1.0, 2.4), str(year), "figure quiet", SIZE)


def _plank(watch: WatchYears, when: tuple[str, str, int], y: float, link: str) -> Cluster:
    first, today, days = when
    left, right = _span(watch, first, days, today)
    at, _ = _words(watch, left, right)
    tone = TONES[watch.where]
    looks = "lane-risk" if tone == "void" else f"body body-{tone} tone-{tone}"
    return Cluster(
        (
            Box((left, y), right - left, THICK, looks),
            Label((at, y + 1.3), watch.name, "halo", SIZE),
        ),
        "year-plank",
        link=link,
        label=f"{watch.name}: {watch.began} to {watch.ended or 'today'}, {WHERE_WORDS[watch.where]}",
    )
