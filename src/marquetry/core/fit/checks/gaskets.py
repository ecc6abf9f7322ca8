"""Checks of the seals: back gasket in its groove, crown gasket on its tube."""

import math

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def back_gasket_squeeze(r: Trace) -> Number:
    """By how many percent of its cord the back presses the gasket flat."""
    cord = r["back_gasket.cord"]
    return 100 * (cord - r["case.back_groove_depth"]) / cord


def back_gasket_stretch(r: Trace) -> Number:
    """By how many percent the ring is stretched onto the groove's inner wall."""
    ring = r["back_gasket.inner_diameter"]
    return 100 * (r["case.back_groove_inner_diameter"] - ring) / ring


def back_gasket_fill(r: Trace) -> Number:
    """How many percent of the groove's section the cord fills."""
    groove = r["case.back_groove_depth"] * r["case.back_groove_width"]
    return 100 * (math.pi * r["back_gasket.cord"] ** 2 / 4) / groove


def crown_gasket_squeeze(r: Trace) -> Number:
    """By how many percent of its cord the crown's gasket is squeezed on the tube."""
    # A gasket of its own, where one lies in the crown, counts before the cord the crown is described with.
    own = r.has("crown_gasket") and r.known("crown_gasket.cord")
    cord = r["crown_gasket.cord"] if own else r["crown.gasket_cord"]
    return 100 * (cord - (r["crown.gasket_bore"] - r["case.tube_outer_diameter"]) / 2) / cord


TESTED = "A watch counts as water-resistant only for what was pressure-tested on suitable equipment."

CHECKS = (
    FormulaCheck(
        name="back_gasket_squeeze",
        rate=0.02,
        title="Back gasket, squeeze",
        limits=Limits(15, 30),
        unit="%",
        decimals=1,
        formula=back_gasket_squeeze,
        span=Span("z", "back_plane", "groove_top", beside="groove_middle"),
        words=Words(
            means="How much of its cord the closed back presses out of the back gasket.",
            below="The gasket is pressed too little to seal.",
            above="The gasket is crushed: it takes a set, extrudes, or keeps the back from closing.",
            helps=("A cord for this groove.", TESTED),
        ),
    ),
    FormulaCheck(
        name="back_gasket_stretch",
        title="Back gasket, stretch",
        limits=Limits(0, 5),
        unit="%",
        decimals=1,
        formula=back_gasket_stretch,
        told_as="stretch",
        span=Span("r", "ring_inner", "groove_inner", beside="groove_top"),
        words=Words(
            means="How much the ring is stretched onto the inner wall of its groove.",
            below="The ring is too wide: it wanders out of the groove while the back goes on.",
            above="The ring is stretched thin and will shrink out of its groove.",
            helps=("A ring of another inner diameter.", TESTED),
        ),
    ),
    FormulaCheck(
        name="back_gasket_fill",
        title="Back gasket, fill",
        limits=Limits(None, 85),
        unit="%",
        decimals=1,
        formula=back_gasket_fill,
        told_as="fill",
        span=Span("r", "groove_inner", "groove_outer", beside="groove_half"),
        words=Words(
            means="How much of the groove's section the cord fills; rubber gives way but does not shrink.",
            above="The groove is too full: the back does not close, or the gasket extrudes.",
            helps=("A thinner cord, if the squeeze allows it.", TESTED),
        ),
    ),
    FormulaCheck(
        name="crown_gasket_squeeze",
        rate=0.03,
        title="Crown gasket, squeeze",
        limits=Limits(10, 30),
        unit="%",
        decimals=1,
        formula=crown_gasket_squeeze,
        span=Span("z", "tube_outside", "crown_bore", beside="crown_skirt"),
        words=Words(
            means="How much of its cord the crown's gasket loses between crown and tube.",
            below="The crown's gasket runs loose on the tube and does not seal.",
            above="The crown is hard to turn and wears its gasket out.",
            helps=("A crown with another gasket, or a tube of another outside.", TESTED),
        ),
    ),
)
