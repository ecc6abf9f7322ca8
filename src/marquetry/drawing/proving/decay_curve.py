"""Light that fades: brightness over the reference by minutes since light, both in decades."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.proving.lume_decay import COMPARED_MIN, LumeDecay, LumeReading
from marquetry.core.values.figures import figure
from marquetry.drawing.scene import Dot, Label, Line, Mark, Scene

WIDTH, HEIGHT = 170.0, 92.0
LEFT, RIGHT, FOOT, TOP = 20.0, 148.0, 14.0, 86.0
WORDS = 4.1
LOOKS = {"dial": "fade-dial", "hands": "fade-hands", "insert": "fade-insert"}


@dataclass(frozen=True, slots=True)
class DecayPaper:
    """Where minutes and brightness lie on the paper, both by their logarithms: from `first` to `last` decades."""

    first: float
    last: float
    low: float
    high: float

    def x(self, minutes: float) -> float:
        """Across."""
        return LEFT + (math.log10(minutes) - self.first) / (self.last - self.first) * (RIGHT - LEFT)

    def y(self, light: float) -> float:
        """Up."""
        return FOOT + (math.log10(light) - self.low) / (self.high - self.low) * (TOP - FOOT)


def decay_curve(readings: Mapping[str, Sequence[LumeReading]], decays: Mapping[str, LumeDecay]) -> Scene:
    """Readings and the law through them, by what glows."""
    every = [reading for found in readings.values() for reading in found]
    times = [*COMPARED_MIN, *(reading.minutes for reading in every)]
    ends = (min(times), max(times))
    lights = [reading.brightness for reading in every]
    lights += [decay.brightness(minutes) for decay in decays.values() for minutes in ends]
    low, high = math.log10(min(lights)), math.log10(max(lights))
    paper = DecayPaper(math.log10(ends[0]), math.log10(ends[1]), low - 0.1, max(high, low + 0.5) + 0.1)
    marks = (*_decades(paper), *_found(paper, readings), *_laws(paper, decays, ends))
    return Scene(WIDTH, HEIGHT, "Brightness after light", "Each falls by a power of time.", marks)


def _decades(paper: DecayPaper) -> Iterator[Mark]:
    yield Line(((LEFT, TOP), (LEFT, FOOT), (RIGHT, FOOT)), "edge-line")
    for minutes in COMPARED_MIN:
        at = paper.x(minutes)
        yield Line(((at, FOOT), (at, TOP)), "ring-step")
        yield Label((at, FOOT - 6.0), figure(minutes, 0, "min"), "figure quiet", WORDS, "middle")


def _found(paper: DecayPaper, readings: Mapping[str, Sequence[LumeReading]]) -> Iterator[Mark]:
    for key, found in readings.items():
        yield from (Dot((paper.x(each.minutes), paper.y(each.brightness)), 1.1, LOOKS[key]) for each in found)


def _laws(paper: DecayPaper, decays: Mapping[str, LumeDecay], ends: tuple[float, float]) -> Iterator[Mark]:
    lowest = 0.0
    for key, decay in sorted(decays.items(), key=lambda pair: pair[1].brightness(ends[1])):
        points = tuple((paper.x(end), paper.y(decay.brightness(end))) for end in ends)
        yield Line(points, f"{LOOKS[key]} fade-line")
        lowest = max(points[1][1] - 1.2, lowest + WORDS * 1.15)
        yield Label((RIGHT + 2.0, lowest), key, "part-name", WORDS)
