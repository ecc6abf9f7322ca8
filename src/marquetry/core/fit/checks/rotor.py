"""Checks of a rotor of its own: on the movement's bearing, and inside the back's lip."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def rotor_on_bearing(r: Trace) -> Number | None:
    """Play of the rotor's bore on the movement's bearing, over the diameter, mm; None without a rotor."""
    if not r.has_rotor():
        return None
    return r["rotor.bore"] - r["movement.rotor_bearing_diameter"]


def rotor_in_back(r: Trace) -> Number | None:
    """Air between the rotor's rim and the back's lip, on one side, mm; None without a rotor."""
    if not r.has_rotor():
        return None
    return (r["case_back.lip_inner_diameter"] - r["rotor.diameter"]) / 2


CHECKS = (
    FormulaCheck(
        name="rotor_on_bearing",
        title="Rotor on its bearing",
        limits=Limits(0.0, 0.05),
        decimals=3,
        formula=rotor_on_bearing,
        span=Span("r", "rotor_bearing", "rotor_bore", beside="rotor_middle"),
        words=Words(
            means="Play of the rotor's bore on the movement's bearing, over the diameter.",
            below="The rotor does not go on; pressed on, it binds its bearing.",
            above="The rotor sits loose on its bearing: it wobbles, rubs and rattles.",
            helps=(
                "Too tight: open the bore with a fine broach, trying the bearing between.",
                "Too loose: a rotor made for this bearing; a rotor is never glued on.",
            ),
        ),
    ),
    FormulaCheck(
        name="rotor_in_back",
        title="Rotor inside the back",
        limits=Limits(0.15, None),
        formula=rotor_in_back,
        span=Span("r", "rotor_outer", "back_lip_inner", beside="rotor_middle"),
        words=Words(
            means="Air between the rotor's rim and the lip of the case back, on one side.",
            below="The rotor may strike the back's lip when the watch is knocked.",
            helps=("A rotor of less diameter.", "A case back with a wider lip."),
        ),
    ),
)
