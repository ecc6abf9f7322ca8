"""Orders on their way as lanes of veneer over the days, up to their arrival and the risk behind it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.values.day import days_between, later
from marquetry.drawing.scene import Box, Label, Line, Mark, Scene

WIDTH, LANE, TOP, FOOT = 236.0, 11.0, 9.0, 9.0
LEFT, RIGHT = 52.0, 230.0
WORDS = 3.5
"""Height of the type, mm: over twelve pixels where the drawing is 850 wide."""
TONES = ("brass", "print", "spacer", "glass", "rotor", "movement", "steel", "insert")
LEAST_SPAN = 10
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


@dataclass(frozen=True, slots=True)
class Lane:
    """One order: when it was or is ordered, when it arrives, at worst, and its sum in words."""

    name: str
    begun: str
    arrives: str
    at_worst: str
    told: str
    is_late: bool = False
    is_coming: bool = False
    """On its way already, so that today's line may cross it: its words stand behind it."""


def lanes(orders: Sequence[Lane], today: str, deadlines: Sequence[tuple[str, str]]) -> Scene:
    """The orders over the days; `deadlines` are days with what is wanted by then."""
    ends = [today, *(lane.at_worst for lane in orders), *(day for day, _ in deadlines)]
    first = min([today, *(lane.begun for lane in orders)])
    span = max(days_between(first, max(ends)), LEAST_SPAN) * 1.04
    height = TOP + FOOT + LANE * len(orders)

    def x(day: str) -> float:
        return LEFT + days_between(first, day) / span * (RIGHT - LEFT)

    marks: list[Mark] = list(_days(first, span, height))
    for place, lane in enumerate(orders):
        marks += _lane(lane, TONES[place % len(TONES)], height - TOP - LANE * (place + 1), x)
    marks.append(Line(((x(today), FOOT - 2.0), (x(today), height - 5.0)), "lane-today"))
    marks.append(Label((x(today), height - 3.6), "today", "quiet halo", WORDS, "middle"))
    marks += _deadlines(deadlines, x, height)
    words = "; ".join(f"{lane.name} arrives {lane.arrives}" for lane in orders)
    return Scene(WIDTH, height, "Orders on their way", words or "Nothing is on its way.", tuple(marks))


def _lane(lane: Lane, tone: str, y: float, x: "object") -> Iterator[Mark]:
    if not callable(x):
        return
    left, right, worst = x(lane.begun), x(lane.arrives), x(lane.at_worst)
    yield Label((LEFT - 3.0, y + 4.2), lane.name[:24], "part-name", WORDS, "end")
    if worst > right:
        yield Box((right, y + 1.6), worst - right, LANE - 3.2, "lane-risk")
    yield Box((left, y + 1.6), max(right - left, 0.8), LANE - 3.2, f"body tone-{tone}")
    yield Line(((right, y + 0.6), (right, y + LANE - 0.6)), "lane-late" if lane.is_late else "lane-end")
    inside = right - left > len(lane.told) * 2.2 and not lane.is_coming
    at, anchor = (right - 1.5, "end") if inside else (max(right, worst) + 1.5, "start")
    if at > RIGHT - len(lane.told) * 2.0 and not inside:
        at, anchor = left - 1.5, "end"
    yield Label((at, y + 4.2), lane.told, "figure halo", WORDS, anchor)  # type: ignore[arg-type]  # one of the three


def _days(first: str, span: float, height: float) -> Iterator[Mark]:
    step = next(step for step in (1, 2, 7, 14, 28, 56, 112, 4000) if span / step <= 11)  # noqa: PLR2004  # as many as stand apart
    for number in range(int(span // step) + 1):
        day = later(first, number * step)
        at = LEFT + number * step / span * (RIGHT - LEFT)
        yield Line(((at, FOOT), (at, height - TOP)), "lane-day")
        yield Label((at, 2.6), f"{int(day[8:])} {MONTHS[int(day[5:7]) - 1]}", "figure quiet", WORDS, "middle")


def _deadlines(deadlines: Sequence[tuple[str, str]], x: "object", height: float) -> Iterator[Mark]:
    if not callable(x):
        return
    for day, words in deadlines:
        at = x(day)
        yield Line(((at, FOOT - 2.0), (at, height - 5.0)), "plan-wish")
        yield Label(
            (min(at, RIGHT - 2.0), height - 3.6),
            words[:32],
            "halo",
            WORDS,
            "end" if at > LEFT + 60 else "start",
        )
