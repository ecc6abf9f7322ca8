"""Checks of the movement holder: what it is clamped by, and how it sits on movement, case and back."""

from typing import Any

import numpy as np

from marquetry.core.evidence.seat import ADAPTER, drop, stack
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import back_lip, holder_rim
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, is_column, nominal, where_not

CASE_SCREWS = "case screws"
"""How a case may hold its movement: by screws whose heads press on its shoulder."""


def holder_clamp(r: Trace) -> Number:
    """How far the back's lip presses into the holder, mm; negative, a gap opens under the chapter ring."""
    return back_lip(r) - holder_rim(r)


def holder_in_case(r: Trace) -> Number:
    """Play of the holder in the case, over the diameter, mm."""
    return r["case.movement_bore"] - r["holder.outer_diameter"]


def has_skirt(r: Trace) -> Any:  # noqa: ANN401  # a yes or no, or a column of them
    """Whether a carrier's skirt stands round the movement, where the holder would lie; one answer a row."""
    height = f"{ADAPTER}.grip_height"
    return nominal(r[height]) > 0 if all([r.has(ADAPTER), r.known(height)]) else False


def holder_on_movement(r: Trace) -> Number | None:
    """Play of the movement in the holder, over the diameter, mm; None where a carrier's skirt is between."""
    skirt = has_skirt(r)
    if not is_column(skirt) and skirt:
        return None
    return where_not(skirt, r["holder.inner_diameter"] - r["movement.diameter"])


def adapter_holder(r: Trace) -> Number | None:
    """Air between a carrier's skirt and the holder round it, on one side, mm; None without a skirt."""
    if not r.wants(ADAPTER, "movement", "holder"):
        return None
    is_bare = np.logical_not(has_skirt(r))
    if not is_column(is_bare) and is_bare:
        return None
    skirt = r["movement.diameter"] / 2 + r[f"{ADAPTER}.grip_play"] + r[f"{ADAPTER}.grip_wall"]
    return where_not(is_bare, r["holder.inner_diameter"] / 2 - skirt)


def case_screws(r: Trace) -> Number | None:
    """From the case screws' face to the movement's shoulder, mm: negative, the heads press on it.

    None where the case is told to hold its movement otherwise.
    """
    if not r.wants("case", "dial", "movement") or r.word("case.holding") != CASE_SCREWS:
        return None
    return r["case.seat_to_screw_face"] - drop(r) - stack(r) - r["movement.clamp_face"]


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
        skips_by_figures=True,
        span=Span("r", "movement_edge", "holder_inner", beside="holder_lower"),
        words=Words(
            means="Play of the movement in its holder, over the diameter.",
            below="The movement will not enter the holder.",
            above="The movement can shift or turn in its holder when the crown is worked.",
            helps=("A holder of another inner diameter, or with a tab that keeps it from turning.",),
        ),
    ),
    FormulaCheck(
        name="adapter_holder",
        title="Carrier in the holder",
        limits=Limits(0.05, 0.25),
        formula=adapter_holder,
        skips_by_figures=True,
        span=Span("r", "skirt_outer", "holder_inner", beside="skirt_middle"),
        words=Words(
            means="Air between the skirt of the dial's carrier and the holder round it, on one side.",
            below="The skirt stands in the holder: the holder does not go down over it.",
            above="The movement, skirt and all, can shift in its holder when the crown is worked.",
            helps=("A carrier with a thinner wall, or with no skirt.", "A holder with a wider bore."),
        ),
    ),
    FormulaCheck(
        name="case_screws",
        title="Case screws hold",
        limits=Limits(-0.15, 0.0),
        formula=case_screws,
        span=Span("z", "clamp_face", "screw_face", beside="movement_edge"),
        words=Words(
            means="From the face the case screws are drawn down on to the movement's shoulder under them.",
            below="The screws press hard: they bend the movement's plate, or strip in the case.",
            above="A gap: the heads press on nothing, and the movement is loose in its case.",
            helps=(
                "A gap: a washer under each head, or a spacer behind the dial if stem and hands allow it.",
                "Too hard: heads dressed thinner, chips kept out, eyes protected.",
            ),
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
