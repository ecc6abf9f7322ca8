"""A simulated pressure chamber with a gauge on the crystal; the case in it is sound, or leaks somewhere.

It speaks as a chamber with a serial line does: a line a reading, three numbers with commas between.
"""

import random
import time
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from marquetry.core.proving.pressure import PressureReading
from marquetry.core.values.errors import DimensionError

ChamberCase = Literal["sound", "crown", "back", "crystal"]
LOSSES: dict[ChamberCase, float] = {"sound": 0.001, "crown": 0.18, "back": 0.07, "crystal": 0.45}
"""The share of its give that a case loses a minute: a crystal without its gasket loses most."""
GIVE_UM_A_BAR = 12.8
RAMP_S = 8.0
EVERY_S = 0.7
NOISE_BAR, NOISE_UM = 0.002, 0.12
LOWEST_BAR, HIGHEST_BAR = 0.5, 25.0
LONGEST_S = 600.0


@dataclass(frozen=True, slots=True)
class Chamber:
    """A test of a `case` at `bar`, held for `hold_s`; the same `seed` gives the same readings."""

    case: ChamberCase = "sound"
    bar: float = 3.0
    hold_s: float = 90.0
    seed: int | None = None

    def __post_init__(self) -> None:
        if not LOWEST_BAR <= self.bar <= HIGHEST_BAR:
            raise DimensionError("pressure", f"{self.bar:g}", "bar", f"{LOWEST_BAR:g} to {HIGHEST_BAR:g} bar")
        if not 1.0 <= self.hold_s <= LONGEST_S:
            raise DimensionError("hold", f"{self.hold_s:g}", "s", f"1 to {LONGEST_S:g} s")

    def readings(self) -> Iterator[PressureReading]:
        """What the gauge reads, in order: pressure put on, held, let off."""
        chance = random.Random(self.seed)  # noqa: S311  # noise, no secret
        steps = int((RAMP_S + self.hold_s + 4.0) / EVERY_S) + 1
        for step in range(steps):
            at = step * EVERY_S
            pressure = self._pressure(at)
            held = max(0.0, at - RAMP_S)
            give = GIVE_UM_A_BAR * pressure * max(0.0, 1.0 - LOSSES[self.case] * held / 60.0)
            yield PressureReading(
                round(at, 3),
                round(max(0.0, pressure + chance.gauss(0.0, NOISE_BAR)), 3),
                round(give + chance.gauss(0.0, NOISE_UM), 3),
            )

    def lines(self, faster: float = 1.0) -> Iterator[str]:
        """What it sends, each line at its time, or so many times as fast."""
        before = 0.0
        for reading in self.readings():
            time.sleep((reading.time - before) / faster)
            before = reading.time
            yield line_of(reading)

    def _pressure(self, at: float) -> float:
        over = at - RAMP_S - self.hold_s
        return self.bar * max(0.0, min(1.0, at / RAMP_S, 1.0 - over / 3.0))


def line_of(reading: PressureReading) -> str:
    """What the chamber sends for a reading."""
    return f"{reading.time:g},{reading.pressure:g},{reading.deflection:g}\n"
