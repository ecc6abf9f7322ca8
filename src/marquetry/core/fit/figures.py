"""Figures that no limit judges and every builder asks for: how high, how many links, how long a stem.

Each is described once, on the same reading as the checks, and told beside the findings.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from marquetry.core.evidence.seat import stack
from marquetry.core.fit.checks.stem import stem_target
from marquetry.core.fit.checks.strap import OVERHANG
from marquetry.core.fit.finding import judge, tidy
from marquetry.core.fit.levels import dial_to_crystal, watch_height
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number

if TYPE_CHECKING:  # a model holds the figures and stands above them
    from marquetry.core.fit.model import Model

LINKS_OUT = "links_to_take_out"
FOR_THE_CLASP_MM = 8.0
"""What a bracelet is worn wider than the wrist is round."""


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure, left out without the parts it is `about`, or where its formula gives None.

    `whole` ones are told as a whole number, rounded down; `unit` is empty for a count.
    """

    key: str
    label: str
    about: tuple[str, ...]
    formula: Callable[[Trace], Number | None]
    unit: str = "mm"
    whole: bool = False


@dataclass(frozen=True, slots=True)
class FigureTold:
    """A figure of one watch, in its own unit: value and worst case, or the dimensions it waits for."""

    figure: Figure
    value: float | None = None
    low: float | None = None
    high: float | None = None
    missing: tuple[str, ...] = ()

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        told = {"value": self.value, "low": self.low, "high": self.high}
        return {**{key: tidy(value) for key, value in told.items()}, "missing": list(self.missing)}


def links_wanted(r: Trace) -> Number | None:
    """How many links the bracelet wants on this wrist, a plain ratio of lengths."""
    wrist, links = r.target("wrist_circumference_mm"), r.whole("strap.links")
    if not wrist or links is None:
        return None
    reach = 2 * (r[OVERHANG] if r.known(OVERHANG) else 0.0)
    around = wrist + FOR_THE_CLASP_MM - r["case.lug_to_lug"] - reach - r["strap.clasp_length"]
    return around / r["strap.link_length"]


def links_to_take_out(r: Trace) -> Number | None:
    """How many links are to come out, a plain ratio of lengths, not rounded."""
    wanted, links = links_wanted(r), r.whole("strap.links")
    return None if wanted is None or links is None else links - wanted


FIGURES = (
    Figure("watch_height", "Height over all", ("case", "crystal", "case_back"), watch_height),
    Figure("bracelet_links", "Links wanted", ("strap", "case"), links_wanted, unit=""),
    Figure(LINKS_OUT, "Links to take out", ("strap", "case"), links_to_take_out, unit="", whole=True),
    Figure("stem_target", "Stem's length", ("case", "crown", "movement"), stem_target),
    Figure("stack", "Seat to movement", ("dial",), stack),
    Figure("dial_to_crystal", "Dial to crystal", ("case", "crystal"), dial_to_crystal),
)


def figures_of(model: "Model", build: Build, rules: Rules) -> dict[str, FigureTold]:
    """Every figure that is about something in this watch, by its key."""
    return {told.figure.key: told for told in _told(model, build, rules)}


def _told(model: "Model", build: Build, rules: Rules) -> Iterator[FigureTold]:
    for figure in model.figures:
        trace = Trace(build, rules)
        if not all(build.has(part) for part in figure.about):
            continue
        number = figure.formula(trace)
        if trace.absent or (number is None and not trace.missing):
            continue
        if number is None or trace.missing:
            yield FigureTold(figure, missing=tuple(trace.missing))
            continue
        found = judge(figure.key, number, Limits(None, None), trace)
        value = found.value
        if figure.whole and value is not None:
            value = float(math.floor(value + SLACK))
        yield FigureTold(figure, value, found.low, found.high)
