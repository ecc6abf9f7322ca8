"""The check of a press support: the movement's rotor in its relief while the crystal is pressed."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import rotor_proud
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number

SUPPORT = "press_support"


def support_rotor(r: Trace) -> Number:
    """Air between the rotor and the floor of the support's relief, the case lying on its seat, mm."""
    return r[f"{SUPPORT}.relief_depth"] - rotor_proud(r)


CHECKS = (
    FormulaCheck(
        name="support_rotor",
        title="Rotor in press support",
        limits=Limits(0.20, None),
        formula=support_rotor,
        span=Span("z", "support_relief", "rotor_top", beside="rotor_rim"),
        words=Words(
            means="Air under the rotor while the case, back off, lies on the support to be pressed.",
            below="The press would bear on the rotor, and through it on the movement.",
            helps=("A deeper relief.", "Press the crystal before the movement is in.", "Rotor off first."),
        ),
    ),
)
