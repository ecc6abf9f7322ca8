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
    if not circumference:
        return None
    # No strap, or one without end links, reaches nowhere past the lugs.
    overhang = r[OVERHANG] if r.known(OVERHANG) else 0.0
    return wrist_width(circumference) - r["case.lug_to_lug"] - 2 * overhang


def bar_length(r: Trace) -> Number:
    """How much longer the free spring bar is than the room between the lugs, mm."""
    return r["spring_bars.length"] - r["case.lug_width"]


def bar_tip(r: Trace) -> Number:
    """Play of the bar's tip in the lug's hole, over the diameter, mm."""
    return r["case.lug_hole_diameter"] - r["spring_bars.tip_diameter"]


def strap_room(r: Trace) -> Number:
    """Air between the strap, wound round its bar, and the case's flank, mm."""
    return r["case.bar_to_case"] - r["strap.thickness"] / 2


OVERHANG = "strap.end_link_overhang"

CHECKS = (
    FormulaCheck(
        name="strap_width",
        rate=0.04,
        title="Strap between the lugs",
        limits=Limits(-0.20, 0.50),
        formula=strap_width,
        plan="strap",
        words=Words(
            means="Room between the lugs beside the strap; one that is sold as 20 goes between lugs of 20.",
            below="The strap is pinched between the lugs and wears at its edges.",
            above="A gap shows beside the strap, and it can slide.",
            helps=("A strap of the lugs' width, or one trimmed to it.",),
        ),
    ),
    FormulaCheck(
        name="wrist_span",
        may_be_vouched=False,
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
    FormulaCheck(
        name="bar_length",
        title="Bars between the lugs",
        limits=Limits(1.0, 3.0),
        formula=bar_length,
        plan="bars",
        words=Words(
            means="How much longer a free spring bar is than the room between the lugs: its spring.",
            below="The tips hardly reach into the lugs' holes: the watch can drop off the wrist.",
            above="The bar will not compress far enough to go between the lugs.",
            helps=("Bars for this lug width.", "A loose bar flies: eye protection when it is put in."),
        ),
    ),
    FormulaCheck(
        name="bar_tip",
        title="Bar tip in its hole",
        limits=Limits(0.05, 0.35),
        formula=bar_tip,
        plan="bars",
        words=Words(
            means="Play of a bar's tip in the hole of the lug, over the diameter.",
            below="The tip does not enter the hole.",
            above="The tip works in its hole and wears it out; the watch may drop.",
            helps=("Bars with another tip.", "A hole is drilled wider only in a lug that is thick enough."),
        ),
    ),
    FormulaCheck(
        name="strap_room",
        title="Strap beside the case",
        limits=Limits(0.10, None),
        formula=strap_room,
        plan="bars",
        words=Words(
            means="Air between the strap, which goes round its bar, and the flank of the case.",
            below="The strap jams against the case: it will not go in, or stands off stiffly.",
            helps=("A thinner strap, or one with curved ends.", "Curved spring bars stand further out."),
        ),
    ),
)
