"""Checks of strap and wrist: between the lugs, and across the wrist."""

import math

from marquetry.core.fit.checks.check import Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number

WRIST_ASPECT = 1.35
"""Width over height of the ellipse that stands for a wrist."""


def strap_width(r: Trace) -> Number:
    """Room between lugs and strap, both sides together, mm."""
    return r["case.lug_width"] - r["strap.width"]


def wrist_width(circumference: float) -> float:
    """Width of the ellipse of that circumference, by Ramanujan's formula for the perimeter, mm."""
    h = ((WRIST_ASPECT - 1) / (WRIST_ASPECT + 1)) ** 2
    of_one = math.pi * (WRIST_ASPECT + 1) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))
    return 2 * WRIST_ASPECT * circumference / of_one


def wrist_span(r: Trace) -> Number | None:
    """How much of the wrist's width is left beside the lugs and rigid end links, mm."""
    circumference = r.target("wrist_circumference_mm")
    if not circumference or not r.wants("strap"):
        return None
    # A strap without end links is described without the dimension: it reaches nowhere past the lugs.
    overhang = r[OVERHANG] if r.known(OVERHANG) else 0.0
    return wrist_width(circumference) - r["case.lug_to_lug"] - 2 * overhang


OVERHANG = "strap.end_link_overhang"

CHECKS = (
    FormulaCheck(
        name="strap_width",
        title="Strap between the lugs",
        limits=Limits(0, 0.5),
        formula=strap_width,
        plan="strap",
        words=Words(
            means="Room between the lugs beside the strap.",
            below="The strap is pinched between the lugs and wears at its edges.",
            above="A gap shows beside the strap, and it can slide.",
            helps=("A strap of the lugs' width, or one trimmed to it.",),
        ),
    ),
    FormulaCheck(
        name="wrist_span",
        title="Across the wrist",
        limits=Limits(0, None),
        formula=wrist_span,
        plan="strap",
        words=Words(
            means="How much of the wrist's width is left beside lugs and rigid end links.",
            below="The lugs reach past the wrist: the watch will not lie down.",
            helps=("A case shorter from lug to lug; a strap instead of rigid end links.",),
        ),
    ),
)
