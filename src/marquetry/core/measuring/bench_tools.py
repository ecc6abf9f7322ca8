"""What the usual instruments of a bench can do at best, by the names they are asked for by.

Half widths (k = 2) in mm and minutes a reading, as practised builders get them from parts this small: what a
maker prints on the box is never reached on a part of half a millimetre.
"""

from dataclasses import dataclass

from marquetry.core.measuring.instrument import Instrument, best_for
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.errors import SheetError

QUICK, SLOW = 1.0, 2.0
QUICK_WAYS = frozenset({"inside", "outside", "thickness"})


@dataclass(frozen=True, slots=True)
class WithinReach:
    """A quantity within reach: with which instrument, its half width in the quantity's unit, minutes."""

    instrument: str
    tol: float
    minutes: float


BENCH_TOOLS: tuple[Instrument, ...] = (
    Instrument("caliper", 0.01, 0.02, ("inside", "outside", "thickness")),
    Instrument("micrometer", 0.001, 0.01, ("thickness", "outside")),
    Instrument("depth rod", 0.01, 0.03, ("depth", "worksheet")),
    Instrument("pin gauges", 0.01, 0.01, ("pins",)),
    Instrument("loupe", 0.05, 0.05, ("plan", "angle")),
    Instrument("picture", 0.01, 0.06, ("plan", "angle")),
)
"""A caliper's own rod is left out of `caliper`: its foot is too wide to stand on a ledge inside a case."""
PICTURE_MINUTES = 3.0


def bench_tools(names: str) -> tuple[Instrument, ...]:
    """The instruments of a list such as `caliper,depth rod`. SheetError names one that is not known."""
    by_name = {tool.name: tool for tool in BENCH_TOOLS}
    asked = [" ".join(name.replace("_", " ").split()).lower() for name in names.split(",") if name.strip()]
    for name in asked:
        if name not in by_name:
            raise SheetError("--with", "any of " + ", ".join(by_name), name[:40])
    return tuple(by_name[name] for name in asked)


def within_reach(quantity: Quantity, instruments: tuple[Instrument, ...]) -> WithinReach | None:
    """How the quantity is best read with these instruments; None where none reaches it."""
    tool = best_for(quantity, instruments)
    if tool is None:
        return None
    quick = quantity.way in QUICK_WAYS
    minutes = PICTURE_MINUTES if tool.name == "picture" else QUICK if quick else SLOW
    return WithinReach(tool.name, round(tool.tolerance_in(quantity.unit), 4), minutes)
