"""Checks of the dial in its case: how it lies in the bore, and what of its edge is covered."""

from marquetry.core.checks.check import Check, Span, Words
from marquetry.core.finding import Limits
from marquetry.core.levels import opening
from marquetry.core.number import Number
from marquetry.core.readings import Readings


def bore_clearance(r: Readings) -> Number:
    """Difference of the diameters of the dial bore and of the dial."""
    return r["case.dial_bore"] - r["dial.diameter"]


def dial_cover(r: Readings) -> Number:
    """How far the opening's edge covers the dial's, with the dial pushed to one side of its bore."""
    return (r["dial.diameter"] - opening(r)) / 2 - bore_clearance(r) / 2


CHECKS = (
    Check(
        name="dial_bore_clearance",
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
    Check(
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
)
