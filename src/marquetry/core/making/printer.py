"""What a printer really makes: measured = a + b·nominal, and what to ask it for so that what is wanted comes.

Least squares on three pairs or more whose nominals differ by over a millimetre, else the mean difference.
The doubt of one more print is the standard deviation of a prediction (Draper and Smith, Applied Regression
Analysis, 3rd ed., section 3.1), divided by b because it is the nominal that is asked for.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from marquetry.core.making.measures import MEASURE_KINDS
from marquetry.core.values.errors import DimensionError, NotFoundError

FEWEST, APART = 3, 1.0
"""Pairs and distance of their nominals, mm, from which a line is drawn."""
ALONE = 2
"""Pairs from which a scatter can be told."""


@dataclass(frozen=True, slots=True)
class PrinterPair:
    """What was asked for and what came, mm, by printer, material and kind of size."""

    printer: str
    material: str
    kind: str
    nominal: float
    measured: float


@dataclass(frozen=True, slots=True)
class PrinterFit:
    """measured = a + b·nominal, mm; `s` the scatter about it, mm, None where one pair tells none."""

    a: float
    b: float
    n: int
    s: float | None
    mean: float
    spread: float
    """Σ (nominal − mean)² of the pairs, mm²; 0 where only an offset was fitted."""
    pairs: tuple[PrinterPair, ...] = ()

    def nominal_for(self, wanted: float) -> float:
        """What to ask for so that the wanted size comes out, mm."""
        return (wanted - self.a) / self.b

    def knows(self, nominal: float) -> bool:
        """Whether a size, mm, lies no further beyond what was printed than that lies apart.

        A line through diameters of 28 and 29 mm tells nothing of a tab of 2.6.
        """
        printed = [pair.nominal for pair in self.pairs]
        apart = max(printed) - min(printed)
        return min(printed) - apart - APART <= nominal <= max(printed) + apart + APART

    def doubt_at(self, nominal: float) -> float | None:
        """Standard uncertainty of one print asked for at that size, mm; None where no scatter is known."""
        if self.s is None:
            return None
        away = (nominal - self.mean) ** 2 / self.spread if self.spread else 0.0
        return self.s * math.sqrt(1.0 + 1.0 / self.n + away) / self.b


def printer_fit(pairs: Iterable[PrinterPair], printer: str, material: str, kind: str) -> PrinterFit:
    """Fit the pairs of that printer, material and kind; NotFoundError where there is none.

    DimensionError where the line falls: no size could be asked for.
    """
    if kind not in MEASURE_KINDS:
        raise DimensionError("kind", kind[:20], "", f"one of {', '.join(MEASURE_KINDS)}")
    found = [p for p in pairs if (p.printer, p.material, p.kind) == (printer, material, kind)]
    if not found:
        raise NotFoundError(f"pair of printer “{printer[:40]}”, material “{material[:40]}”, kind {kind}")
    nominals = [p.nominal for p in found]
    if len(found) >= FEWEST and max(nominals) - min(nominals) > APART:
        return _line(found)
    return _offset(found)


def _line(pairs: Sequence[PrinterPair]) -> PrinterFit:
    n = len(pairs)
    mean = math.fsum(p.nominal for p in pairs) / n
    height = math.fsum(p.measured for p in pairs) / n
    spread = math.fsum((p.nominal - mean) ** 2 for p in pairs)
    b = math.fsum((p.nominal - mean) * (p.measured - height) for p in pairs) / spread
    a = height - b * mean
    if b <= 0:
        raise DimensionError("measured", f"{b:g}", "mm a mm", "sizes that grow with what was asked for")
    squares = math.fsum((p.measured - a - b * p.nominal) ** 2 for p in pairs)
    return PrinterFit(a, b, n, math.sqrt(squares / (n - 2)), mean, spread, tuple(pairs))


def _offset(pairs: Sequence[PrinterPair]) -> PrinterFit:
    n = len(pairs)
    off = [p.measured - p.nominal for p in pairs]
    a = math.fsum(off) / n
    s = math.sqrt(math.fsum((d - a) ** 2 for d in off) / (n - 1)) if n >= ALONE else None
    mean = math.fsum(p.nominal for p in pairs) / n
    return PrinterFit(a, 1.0, n, s, mean, 0.0, tuple(pairs))
