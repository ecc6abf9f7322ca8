"""Readings from the wrist over days: each a mark with its doubt, and the line whose slope is the rate."""

from collections.abc import Iterator

from marquetry.core.proving.wrist import DAY_S, WristStretch
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.turned import round_step
from marquetry.drawing.scene import Dot, Label, Line, Mark, Scene

WIDTH, HEIGHT = 170.0, 74.0
LEFT, RIGHT, FOOT, TOP = 22.0, 164.0, 12.0, 68.0
WORDS = 4.1
OFFSETS = (1.0, 2.0, 5.0, 10.0, 20.0, 60.0, 120.0, 600.0, 3600.0, 43_200.0)
DAYS = (0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 100.0)


def offset_days(stretch: WristStretch) -> Scene:
    """One stretch between settings."""
    days = [(entry.at - stretch.entries[0].at) / DAY_S for entry in stretch.entries]
    span = max(days[-1], 0.5)
    doubts = [2.0 * entry.u for entry in stretch.entries]
    # The line has to have room too: drawn through one wild reading it ends beyond all of them.
    line = (
        () if stretch.rate is None else tuple(stretch.start + stretch.rate * day for day in (0.0, days[-1]))
    )
    low = min(0.0, *line, *(offset - doubt for offset, doubt in zip(stretch.offsets, doubts, strict=True)))
    high = max(0.0, *line, *(offset + doubt for offset, doubt in zip(stretch.offsets, doubts, strict=True)))
    room = max(high - low, 2.0)
    low, room = low - 0.1 * room, 1.2 * room

    def x(day: float) -> float:
        return LEFT + day / span * (RIGHT - LEFT)

    def y(offset: float) -> float:
        return FOOT + (offset - low) / room * (TOP - FOOT)

    marks = [*_frame(span, low, room), Line(((LEFT, y(0.0)), (RIGHT, y(0.0))), "ring-true")]
    if line:
        ends = tuple((x(day), y(offset)) for day, offset in zip((0.0, days[-1]), line, strict=True))
        marks.append(Line(ends, "chamber-line"))
    for day, offset, entry in zip(days, stretch.offsets, stretch.entries, strict=True):
        marks.append(
            Line(((x(day), y(offset - 2 * entry.u)), (x(day), y(offset + 2 * entry.u))), "edge-line heavy")
        )
        marks.append(Dot((x(day), y(offset)), 1.0, "beat-even" if entry.how == "worn" else "beat-odd"))
    words = f"{len(days)} readings over {figure(stretch.hours, 0, 'h')}."
    return Scene(WIDTH, HEIGHT, "Offset over days", words, tuple(marks))


def _frame(span: float, low: float, room: float) -> Iterator[Mark]:
    yield Line(((LEFT, TOP), (LEFT, FOOT), (RIGHT, FOOT)), "edge-line")
    step = round_step(span, DAYS)
    for number in range(int(span // step) + 1):
        at = LEFT + number * step / span * (RIGHT - LEFT)
        yield Label(
            (at, FOOT - 6.0), figure(number * step, 0 if step >= 1 else 2), "figure quiet", WORDS, "middle"
        )
    yield Label((RIGHT, FOOT - 10.6), "days", "quiet", WORDS, "end")
    tick = round_step(room, OFFSETS)
    for number in range(-int(-low // tick), int((low + room) // tick) + 1):
        at = FOOT + (number * tick - low) / room * (TOP - FOOT)
        yield Label(
            (LEFT - 2.0, at - 1.2), figure(number * tick, 0, signed=True), "figure quiet", WORDS, "end"
        )
    yield Label((LEFT - 2.0, TOP + 1.6), "s fast", "quiet", WORDS, "end")
