"""The life of a watch in strips of veneer: a column for each day with anything in it, a tone for each trade.

Days without anything are left out, told as a gap; so a year's work stands in one picture, and each column
leads to its day in the log.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.story.moment import TRADE_LABELS, TRADES, Trade
from marquetry.core.values.day import days_between
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

WIDTH, HEIGHT = 250.0, 37.0
LEFT, RIGHT, BASE, TOP = 2.0, 248.0, 7.2, 35.5
WIDEST, GAP = 30.0, 1.1
WORDS = 3.9
LETTER = 2.15
"""A figure's width, mm."""
LONG_GAP_DAYS = 21
MOST_COLUMNS = 64


@dataclass(frozen=True, slots=True)
class StripDay:
    """One day, or a stretch of days: how many moments of each trade, and where its column leads."""

    day: str
    counts: Mapping[Trade, int]
    link: str

    @property
    def total(self) -> int:
        """How many moments it had."""
        return sum(self.counts.values())


def gathered(days: Sequence[StripDay]) -> list[StripDay]:
    """So few columns that each can be seen and pointed at: neighbours are laid together, oldest first."""
    each = -(-len(days) // MOST_COLUMNS)
    found = []
    for at in range(0, len(days), max(each, 1)):
        run = days[at : at + each]
        counts = {trade: sum(day.counts.get(trade, 0) for day in run) for trade in TRADES}
        found.append(StripDay(run[0].day, {t: n for t, n in counts.items() if n}, run[0].link))
    return found


def day_strips(days: Sequence[StripDay], name: str) -> Scene:
    """The columns from the first day to the last, oldest left; as high as the most busy day is busy."""
    columns = gathered(days)
    if not columns:
        return Scene(WIDTH, HEIGHT, f"{name}: nothing happened yet", "", ())
    pitch = min((RIGHT - LEFT) / len(columns), WIDEST)
    most = max(column.total for column in columns)
    marks: list[Mark] = [Line(((LEFT, BASE), (LEFT + pitch * len(columns), BASE)), "frame")]
    named = LEFT
    before = ""
    for place, column in enumerate(columns):
        x = LEFT + place * pitch
        marks.append(_column(column, x, pitch - GAP, most))
        if before and days_between(before, column.day) > LONG_GAP_DAYS:
            marks.append(Line(((x - GAP / 2, BASE - 1.5), (x - GAP / 2, TOP)), "strip-gap"))
        if x >= named and x + len(column.day) * LETTER <= WIDTH:
            marks.append(Label((x, BASE - 5.4), column.day, "figure quiet", WORDS))
            named = x + len(column.day) * LETTER + 4.0
        before = column.day
    words = f"From {columns[0].day} to {columns[-1].day}, {sum(c.total for c in columns)} moments."
    return Scene(WIDTH, HEIGHT, f"{name}: its days", words, tuple(marks))


def _column(column: StripDay, x: float, width: float, most: int) -> Cluster:
    """Trades from the bottom up, as high as the root of their number: a quiet day is seen as well."""
    high = (TOP - BASE) * (column.total / most) ** 0.5
    y, children = BASE, []
    for trade in TRADES:
        count = column.counts.get(trade, 0)
        if count:
            part = high * count / column.total
            children.append(Box((x, y), width, part, f"strip-box strip-{trade}"))
            y += part
    told = ", ".join(f"{count} {TRADE_LABELS[trade].lower()}" for trade, count in column.counts.items())
    return Cluster(tuple(children), "strip-day", link=column.link, label=f"{column.day}: {told}")
