"""Checks of the movement holder: what it is clamped by, and how it sits on movement, case and back."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import back_lip, holder_rim
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def holder_clamp(r: Trace) -> Number:
    """How far the back's lip presses into the holder, mm; negative, a gap opens under the chapter ring."""
    return back_lip(r) - holder_rim(r)


def holder_in_case(r: Trace) -> Number:
    """Play of the holder in the case, over the diameter, mm."""
    return r["case.movement_bore"] - r["holder.outer_diameter"]


def holder_on_movement(r: Trace) -> Number:
    """Play of the movement in the holder, over the diameter, mm."""
    return r["holder.inner_diameter"] - r["movement.diameter"]


def holder_in_back(r: Trace) -> Number:
    """Play of the holder's rim inside the back's lip, over the diameter, mm."""
    return r["case_back.lip_inner_diameter"] - r["holder.rim_outer_diameter"]


CHECKS = (
    FormulaCheck(
        name="holder_clamp",
        rate=0.08,
        title="Back on the holder",
        limits=Limits(0.0, 0.25),
        formula=holder_clamp,
        span=Span("z", "holder_rim", "back_lip", beside="holder_rim_edge"),
        words=Words(
            means="How far the closed back presses the holder, and with it movement and dial, upwards.",
            below="A gap opens: movement and dial hang loose under the chapter ring and rattle.",
            above="The back presses too hard: it will not close, or bends the holder and pinches the dial.",
            helps=(
                "Loose: a thicker holder rim, a spacer, or a holder with lugs that crush against the back.",
                "Too hard: a thinner rim; file a printed one on a flat stone, dust kept out of the case.",
            ),
        ),
    ),
    FormulaCheck(
        name="holder_in_case",
        rate=0.02,
        title="Holder in the case",
        limits=Limits(0.02, 0.30),
        formula=holder_in_case,
        span=Span("r", "holder_outer", "movement_bore", beside="holder_upper"),
        words=Words(
            means="Play of the holder in the bore of the case, over the diameter.",
            below="The holder will not drop into the case.",
            above="The holder can slide sideways: the hands stand off centre, the stem runs crooked.",
            helps=("A holder of another outer diameter; a printed one takes one print to correct.",),
        ),
    ),
    FormulaCheck(
        name="holder_on_movement",
        rate=0.02,
        title="Movement in its holder",
        limits=Limits(0.0, 0.20),
        formula=holder_on_movement,
        span=Span("r", "movement_edge", "holder_inner", beside="holder_lower"),
        words=Words(
            means="Play of the movement in its holder, over the diameter.",
            below="The movement will not enter the holder.",
            above="The movement can shift or turn in its holder when the crown is worked.",
            helps=("A holder of another inner diameter, or with a tab that keeps it from turning.",),
        ),
    ),
    FormulaCheck(
        name="holder_in_back",
        title="Holder rim in the back",
        limits=Limits(0.20, None),
        formula=holder_in_back,
        span=Span("r", "holder_rim_outer", "back_lip_inner", beside="back_plane"),
        words=Words(
            means="Play of the holder's rim inside the back's lip, over the diameter.",
            below="The back catches on the holder as it is screwed down.",
            helps=("A holder with a narrower rim.",),
        ),
    ),
)
