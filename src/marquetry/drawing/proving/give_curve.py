"""A dry test: the case's give and the chamber's pressure over time, with the hold and the line that decides."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from marquetry.core.proving.pressure import SETTLE_S, Hold, PressureReading, held_readings, settled_readings
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.turned import round_step
from marquetry.drawing.scene import Box, Dot, Label, Line, Mark, Scene

WIDTH, HEIGHT = 210.0, 96.0
LEFT, RIGHT, FOOT, TOP = 22.0, 192.0, 14.0, 88.0
WORDS = 4.0
TIMES = (5.0, 10.0, 20.0, 30.0, 60.0, 120.0, 300.0)
GIVES = (2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0)
BARS = (0.5, 1.0, 2.0, 5.0, 10.0, 20.0)
MOST_DOTS = 260


def give_curve(readings: Sequence[PressureReading], found: Hold | None) -> Scene:
    """The readings so far, and the verdict on them where there is one."""
    ordered = sorted(readings, key=lambda reading: reading.time)
    span = max((ordered[-1].time if ordered else 0.0), 30.0)
    most = max((reading.deflection for reading in ordered), default=1.0)
    bar = max((reading.pressure for reading in ordered), default=1.0)
    give_top, bar_top = max(most, 1.0) * 1.08, max(bar, 0.1) * 1.3

    def across(time: float) -> float:
        return LEFT + max(0.0, time) / span * (RIGHT - LEFT)

    def up(share: float) -> float:
        return FOOT + max(0.0, min(share, 1.0)) * (TOP - FOOT)

    marks: list[Mark] = []
    if ordered and found is not None:
        held = held_readings(ordered)
        start, stop = across(held[0].time), across(held[-1].time)
        settled = min(across(held[0].time + SETTLE_S), stop)
        marks += [Box((start, FOOT), settled - start, TOP - FOOT, "hold-settling"),
                  Box((settled, FOOT), stop - settled, TOP - FOOT, "hold-area")]  # fmt: skip
    marks += _frame(span, give_top, bar_top)
    marks += (
        [Line(tuple((across(r.time), up(r.pressure / bar_top)) for r in ordered), "chamber-bar")]
        if len(ordered) > 1
        else []
    )
    stride = max(1, len(ordered) // MOST_DOTS)
    marks += [
        Dot((across(r.time), up(r.deflection / give_top)), 0.55, "chamber-give") for r in ordered[::stride]
    ]
    if ordered and found is not None and found.loss is not None and found.deflection is not None:
        rest = settled_readings(held_readings(ordered))
        slope = -found.loss * found.deflection / 60.0
        # A line of least squares goes through the middle of what it was laid through.
        middle = (
            sum(each.time for each in rest) / len(rest),
            sum(each.deflection for each in rest) / len(rest),
        )
        ends = tuple(
            (across(time), up((middle[1] + slope * (time - middle[0])) / give_top))
            for time in (rest[0].time, rest[-1].time)
        )
        marks.append(Line(ends, "chamber-line"))
    words = f"Verdict: {found.verdict}." if found else "Nothing is held yet."
    return Scene(WIDTH, HEIGHT, "Give of the case over time", words, tuple(marks))


def _frame(span: float, give_top: float, bar_top: float) -> Iterator[Mark]:
    yield Line(((LEFT, TOP), (LEFT, FOOT), (RIGHT, FOOT), (RIGHT, TOP)), "edge-line")
    step = round_step(span / 1.7, TIMES)
    for number in range(int(span // step) + 1):
        at = LEFT + number * step / span * (RIGHT - LEFT)
        yield Line(((at, FOOT), (at, FOOT - 1.6)), "edge-line")
        yield Label((at, FOOT - 6.2), figure(number * step, 0), "figure quiet", WORDS, "middle")
    yield Label((RIGHT, FOOT - 11.6), "seconds", "quiet", WORDS, "end")
    for steps, top, side, unit, anchor in (
        (GIVES, give_top, LEFT - 2.0, "µm give", "end"), (BARS, bar_top, RIGHT + 2.0, "bar", "start"),
    ):  # fmt: skip
        step = round_step(top, steps)
        heights = [number * step for number in range(int(top // step) + 1)]
        for _, value in pairwise([0.0, *heights[1:]]):
            at = FOOT + value / top * (TOP - FOOT)
            decimals = 1 if step < 1.0 else 0
            yield Label((side, at - 1.2), figure(value, decimals), "figure quiet", WORDS, anchor)  # type: ignore[arg-type]  # one of the three
        yield Label((side, TOP + 2.2), unit, "quiet", WORDS, anchor)  # type: ignore[arg-type]  # as above
