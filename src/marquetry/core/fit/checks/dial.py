"""Checks of the dial in its case: how it lies in the bore, and what of its edge is covered."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import opening
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def bore_clearance(r: Trace) -> Number:
    """Difference of the diameters of the dial bore and of the dial, mm."""
    return r["case.dial_bore"] - r["dial.diameter"]


def dial_cover(r: Trace) -> Number:
    """How far the opening's edge covers the dial's, with the dial pushed to one side of its bore, mm."""
    return (r["dial.diameter"] - opening(r)) / 2 - bore_clearance(r) / 2


def outermost_post(r: Trace) -> str:
    """The post that passes the dial: the 24-hour hand's where the movement has one, else the hour hand's."""
    return "h24" if r.has("movement.posts.h24") else "hour"


def centre_hole_clearance(r: Trace) -> Number:
    """Difference of the diameters of the dial's centre hole and of the outermost post, mm."""
    return r["dial.centre_hole"] - r[f"movement.posts.{outermost_post(r)}.diameter"]


CHECKS = (
    FormulaCheck(
        name="dial_bore_clearance",
        rate=0.02,
        title="Dial in its bore",
        limits=Limits(0.02, 0.40),
        formula=bore_clearance,
        span=Span("r", "dial_edge", "dial_bore", beside="dial_middle"),
        words=Words(
            means="Play of the dial in the bore it lies in: bore diameter less dial diameter.",
            below="The dial will not drop into its bore, or jams and bends when pushed.",
            above="The dial can slide sideways: windows and tracks look off centre, feet carry the load.",
            helps=(
                "Too small: dress the dial's edge evenly, or a dial of less diameter.",
                "Too large: a centring ring round the dial, or a dial of more diameter.",
            ),
        ),
    ),
    FormulaCheck(
        name="dial_cover",
        title="Dial edge covered",
        limits=Limits(0.15, None),
        formula=dial_cover,
        span=Span("r", "opening", "dial_edge", beside="seat"),
        words=Words(
            means="How far ring or ledge overlaps the dial's edge, the dial pushed to one side.",
            below="A crescent of the bore may show beside the dial, and the dial has little to bear on.",
            helps=("A chapter ring with a smaller inner diameter.", "A dial of more diameter."),
        ),
    ),
    FormulaCheck(
        name="dial_centre_hole",
        title="Post through the dial",
        limits=Limits(0.20, None),
        formula=centre_hole_clearance,
        span=Span("r", "outer_post", "centre_hole", beside="dial_middle"),
        words=Words(
            means="Play of the outermost post in the dial's centre hole, over the diameter.",
            below="The hand's pipe or the wheel may rub in the dial's hole and take the power away.",
            helps=(
                "Open the hole with a round broach, dial face protected, burr taken off.",
                "A dial made for this movement's posts.",
            ),
        ),
    ),
)
