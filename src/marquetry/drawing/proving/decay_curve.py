"""Light that fades: brightness over the reference by minutes since light, both in decades."""

import math
from collections.abc import Mapping, Sequence

from marquetry.core.proving.lume_decay import COMPARED_MIN, LumeDecay, LumeReading
from marquetry.core.values.figures import figure
from marquetry.drawing.scene import Dot, Label, Line, Mark, Scene

WIDTH, HEIGHT = 170.0, 92.0
LEFT, RIGHT, FOOT, TOP = 20.0, 148.0, 14.0, 86.0
WORDS = 3.6
LOOKS = {"dial": "fade-dial", "hands": "fade-hands", "insert": "fade-insert"}


def decay_curve(readings: Mapping[str, Sequence[LumeReading]], decays: Mapping[str, LumeDecay]) -> Scene:
    """Readings and the law through them, by what glows."""
    every = [reading for found in readings.values() for reading in found]
    times = [*COMPARED_MIN, *(reading.minutes for reading in every)]
    lights = [reading.brightness for reading in every] + [
        decay.brightness(minutes) for decay in decays.values() for minutes in COMPARED_MIN
    ]
    first, last = math.log10(min(times)), math.log10(max(times))
    low, high = math.log10(min(lights, default=0.1)), math.log10(max(lights, default=1.0))
    high = max(high, low + 0.5)

    def x(minutes: float) -> float:
        return LEFT + (math.log10(minutes) - first) / (last - first) * (RIGHT - LEFT)

    def y(light: float) -> float:
        return FOOT + (math.log10(light) - low + 0.05) / (high - low + 0.1) * (TOP - FOOT)

    marks: list[Mark] = [Line(((LEFT, TOP), (LEFT, FOOT), (RIGHT, FOOT)), "edge-line")]
    for minutes in COMPARED_MIN:
        marks += [Line(((x(minutes), FOOT), (x(minutes), TOP)), "ring-step"),
                  Label((x(minutes), FOOT - 6.0), figure(minutes, 0, "min"), "figure quiet", WORDS, "middle")]  # fmt: skip
    for key, found in readings.items():
        marks += [Dot((x(each.minutes), y(each.brightness)), 1.1, LOOKS[key]) for each in found]
    for key, decay in decays.items():
        ends = (min(times), max(times))
        marks.append(
            Line(tuple((x(end), y(decay.brightness(end))) for end in ends), f"{LOOKS[key]} fade-line")
        )
        marks.append(Label((RIGHT + 2.0, y(decay.brightness(ends[1])) - 1.2), key, "part-name", WORDS))
    return Scene(WIDTH, HEIGHT, "Brightness after light", "Each falls by a power of time.", tuple(marks))
