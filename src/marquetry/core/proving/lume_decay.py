"""How lume really glows on: brightness from a series of photographs, and the power of time it falls by."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.values.errors import DimensionError

COMPARED_MIN = (1.0, 10.0, 60.0)
"""Minutes after light at which dial, hands and insert are laid beside each other."""
TOGETHER = 2.0
"""One twice as bright as the other is seen at a glance; up to there they go together."""
LONGEST_MIN = 1440.0
DARKEST = 1e-4
FEWEST = 2
KNEE = 0.04045


@dataclass(frozen=True, slots=True)
class LumeReading:
    """After `minutes` a patch was `brightness` times its reference patch, in linear light."""

    minutes: float
    brightness: float


@dataclass(frozen=True, slots=True)
class LumeDecay:
    """I = `first`·t^(−`exponent`), t in minutes; `u` of the exponent, k = 1, None from two readings."""

    first: float
    exponent: float
    u: float | None

    def brightness(self, minutes: float) -> float:
        """Ratio to the reference's brightness so many minutes after light."""
        return self.first * float(minutes**-self.exponent)

    @property
    def half_min(self) -> float | None:
        """Minutes after which the first minute's brightness is halved; None where it does not fall."""
        return 2.0 ** (1.0 / self.exponent) if self.exponent > 0.1 else None  # noqa: PLR2004  # 2^10 min is a night


def linear(level: float) -> float:
    """Linear light, a share of white, of a level of sRGB from 0 to 255 (IEC 61966-2-1)."""
    share = level / 255.0
    return share / 12.92 if share <= KNEE else float(((share + 0.055) / 1.055) ** 2.4)


def lume_reading(minutes: float, patch: float, reference: float) -> LumeReading:
    """A reading from the linear light of a patch and of the reference. DimensionError where there is none."""
    if not 0.0 < minutes <= LONGEST_MIN:
        raise DimensionError(
            "minutes since light", f"{minutes:g}", "min", f"more than 0, at most {LONGEST_MIN:g} min"
        )
    if reference < DARKEST:
        raise DimensionError("reference", "black", "", "a patch that is lit alike in every picture")
    if patch < DARKEST:
        raise DimensionError(
            "patch", "black", "", "a patch that still glows; expose longer, all pictures alike"
        )
    return LumeReading(minutes, patch / reference)


def lume_decay(readings: Sequence[LumeReading]) -> LumeDecay | None:
    """The law through the readings, by least squares of logarithms; None with fewer than two moments."""
    x = [math.log(reading.minutes) for reading in readings]
    y = [math.log(reading.brightness) for reading in readings]
    if len(set(x)) < FEWEST:
        return None
    middle, level = sum(x) / len(x), sum(y) / len(y)
    wide = sum((xi - middle) ** 2 for xi in x)
    slope = sum((xi - middle) * (yi - level) for xi, yi in zip(x, y, strict=True)) / wide
    off = sum((yi - level - slope * (xi - middle)) ** 2 for xi, yi in zip(x, y, strict=True))
    u = math.sqrt(off / (len(x) - 2) / wide) if len(x) > FEWEST else None
    return LumeDecay(math.exp(level - slope * middle), -slope, u)


def together(decays: Mapping[str, LumeDecay]) -> list[tuple[float, float, bool]]:
    """By minutes compared: the ratio of the brightest to the dimmest, and whether that passes."""
    found = []
    for minutes in COMPARED_MIN:
        bright = [decay.brightness(minutes) for decay in decays.values()]
        ratio = max(bright) / min(bright)
        found.append((minutes, ratio, ratio <= TOGETHER))
    return found
