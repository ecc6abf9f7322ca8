"""Checks of a press support: how the case sits on it, and the rotor's air while the crystal is pressed."""

from marquetry.core.fit.checks.by_case import CaseCheck
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.finding import Finding, judge
from marquetry.core.fit.levels import rotor_proud
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.made import SPIGOT
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, nominal

SUPPORT = "press_support"
UNDERSIDE, BACK_OPENING = "case.underside_diameter", "case.back_opening_diameter"
BESIDE = 0.40
"""By how much, over the diameter, a relief has to be wider than the rotor before the rotor enters it, mm."""
INSIDE = 1.20
"""How much smaller than its movement a rotor usually is, over the diameter, mm."""


def is_spigot(r: Trace) -> bool:
    """Whether the support enters the back opening; without a word the case stands in a recess."""
    return r.word(f"{SUPPORT}.form") == SPIGOT


def support_seat(r: Trace) -> Number | None:
    """Play of the case's underside in the support's seat, over the diameter, mm; None of a spigot."""
    if not r.wants(SUPPORT, "case") or is_spigot(r):
        return None
    return r[f"{SUPPORT}.seat_diameter"] - r[UNDERSIDE]


def support_spigot(r: Trace) -> Number | None:
    """Play of the spigot in the back opening, over the diameter, mm; None of a recess."""
    if not r.wants(SUPPORT, "case") or not is_spigot(r):
        return None
    return r[BACK_OPENING] - r[f"{SUPPORT}.spigot_diameter"]


def rotor_diameter(r: Trace) -> Number:
    """Ø of what turns at the back, mm: the rotor's own, else what rotors on such a movement usually have."""
    return r["rotor.diameter"] if r.has("rotor") else r["movement.diameter"] - INSIDE


def judge_rotor(check: str, r: Trace, limits: Limits) -> Finding | None:
    """`support_rotor`: the relief counts only where the rotor enters it; else it stands on the shoulder.

    A depth alone was what this once asked: it was clear over a rotor wider than its relief.
    """
    if not r.wants(SUPPORT, "case", "movement", "dial"):
        return None
    with r.choosing():
        enters = nominal(r[f"{SUPPORT}.relief_diameter"]) - nominal(rotor_diameter(r)) >= BESIDE - SLACK
    if enters or r.missing:
        under = r[f"{SUPPORT}.relief_depth"]
    else:
        under = -r[f"{SUPPORT}.spigot_height"] if is_spigot(r) else 0.0
    room = under - rotor_proud(r)
    return None if r.missing or r.absent else judge(check, room, limits, r)


CHECKS = (
    FormulaCheck(
        name="support_seat",
        title="Case in its support",
        limits=Limits(0.05, 0.60),
        formula=support_seat,
        span=Span("r", "underside", "support_seat", beside="support_shoulder"),
        words=Words(
            means="Play of the case's underside in the support's seat, over the diameter.",
            below="The case does not go down into the seat: the press would bear on its edge.",
            above="The case can slide in its seat and stand out of line under the press.",
            helps=("A seat turned to the Ø of the case's underside and 0.20.",),
        ),
    ),
    FormulaCheck(
        name="support_spigot",
        title="Spigot in back opening",
        limits=Limits(0.05, 0.50),
        formula=support_spigot,
        span=Span("r", "spigot_edge", "back_opening", beside="back_plane"),
        words=Words(
            means="Play of the support's spigot in the opening of the case back, over the diameter.",
            below="The spigot does not enter, or marks the thread of the back.",
            above="The case can slide on the spigot and stand out of line under the press.",
            helps=("A spigot turned to the opening's Ø less 0.15.",),
        ),
    ),
    CaseCheck(
        name="support_rotor",
        title="Rotor in press support",
        limits=Limits(0.20, None),
        judges=judge_rotor,
        span=Span("z", "support_relief", "rotor_top", beside="rotor_rim"),
        words=Words(
            means="Air under the rotor while the case, back off, lies on the support to be pressed.",
            below="The press would bear on the rotor, and through it on the movement.",
            helps=(
                "A relief 0.40 wider than the rotor, and deeper.",
                "Press the crystal before the movement is in.",
                "Rotor off first.",
            ),
        ),
    ),
)
