"""Checks of the movement's height in the case: stem against tube, rotor against the back."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import back_inner, movement_back, stem_axis, tube_axis
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def stem_height(r: Trace) -> Number:
    """How far the tube's axis stands further back than the stem's: the thickness of a missing spacer, mm."""
    return stem_axis(r) - tube_axis(r)


def rotor_clearance(r: Trace) -> Number | None:
    """Air between the rotor and the inside of the case back, mm; None without a rotor."""
    return movement_back(r) - back_inner(r) if r.has_rotor() else None


def back_clearance(r: Trace) -> Number | None:
    """Air between a movement without a rotor and the inside of the case back, mm; None with one.

    A check of its own: nothing swings there, so half the air will do; but a movement that is too high keeps
    the back from closing whatever drives it.
    """
    return None if r.has_rotor() else movement_back(r) - back_inner(r)


CHECKS = (
    FormulaCheck(
        name="stem_height",
        rate=0.06,
        title="Stem against tube",
        limits=Limits(-0.10, 0.10),
        formula=stem_height,
        span=Span("z", "tube_axis", "stem_axis", beside="case_wall"),
        words=Words(
            means="How far the crown tube's axis stands further back than the stem's axis.",
            below="The stem runs below the tube: it bends, rubs and wears the winding parts, "
            "because everything above the movement is together too thick.",
            above="The stem runs above the tube, bends and rubs: a spacer of this thickness is missing.",
            helps=(
                "Too high: a spacer on the dial side; a fine ring shows, the hands keep their room.",
                "Or a spacer behind the dial: hidden, but the posts stand lower and the feet hold less.",
                "Too low: a thinner dial, a ring with less drop, a movement with its stem nearer the face.",
            ),
        ),
    ),
    FormulaCheck(
        name="rotor_clearance",
        rate=0.06,
        title="Rotor to case back",
        limits=Limits(0.20, None),
        formula=rotor_clearance,
        span=Span("z", "back_inner", "movement_back", beside="rotor_rim"),
        words=Words(
            means="Air between the movement's highest point at the back and the inside of the case back.",
            below="The rotor may touch the back: it scrapes, stops winding and sheds metal.",
            helps=("A deeper case back.", "A thinner spacer or dial, if the stem allows it."),
        ),
    ),
    FormulaCheck(
        name="back_clearance",
        rate=0.06,
        title="Movement to case back",
        limits=Limits(0.10, None),
        formula=back_clearance,
        span=Span("z", "back_inner", "movement_back", beside="rotor_rim"),
        words=Words(
            means="Air between a movement without a rotor and the inside of the case back.",
            below="The back presses on the movement: it does not close, or the train binds.",
            helps=("A deeper case back.", "A thinner spacer or dial, if the stem allows it."),
        ),
    ),
)
