"""Where each size of a press support comes from: the case that stands on it, and what its rotor needs."""

from marquetry.core.fit.checks.support import is_spigot
from marquetry.core.fit.levels import rotor_proud
from marquetry.core.making.proposals import Neighbours, SizeRow
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.made import RECESS, SPIGOT
from marquetry.core.values.number import nominal


def _relief(p: Neighbours) -> float:
    """Wider than what turns above it, and within what it is turned into: seat or spigot."""
    inside = p["rotor.diameter"] if p.has("rotor") else p["case_back.lip_inner_diameter"]
    around = f"{SUPPORT_PART}.spigot_diameter" if is_spigot(p) else f"{SUPPORT_PART}.seat_diameter"
    web = SPIGOT_WEB if is_spigot(p) else SEAT_WEB
    return min(float(inside) + 1.0, float(p[around]) - 2 * web)


def _relief_depth(p: Neighbours) -> float:
    return max(float(nominal(rotor_proud(p))) + 0.5, 0.5)


SUPPORT_PART = "press_support"
SEAT_WEB, SPIGOT_WEB = 0.8, 1.0
"""What is left of a seat's floor, and of a spigot's wall, round the relief, mm."""
PROUD_NEEDS = ("movement.face_to_back", "case.seat_to_back_plane")
RELIEF = (
    SizeRow(
        f"{SUPPORT_PART}.relief_diameter", _relief, "rotor or lip and 1.0, the wall round it left standing"
    ),
    SizeRow(
        f"{SUPPORT_PART}.relief_depth",
        _relief_depth,
        "what the rotor stands beyond the back plane and 0.5",
        PROUD_NEEDS,
    ),
)
RECESS_SUPPORT = (
    SizeRow(f"{SUPPORT_PART}.form", lambda _: RECESS, "the case stands in it"),
    SizeRow(
        f"{SUPPORT_PART}.seat_diameter",
        lambda p: p["case.underside_diameter"] + 0.20,
        "the Ø of the case's underside and 0.20",
        ("case.underside_diameter",),
    ),
    SizeRow(f"{SUPPORT_PART}.shoulder", lambda _: 2.0, "holds the case's edge"),
    SizeRow(f"{SUPPORT_PART}.wall", lambda _: 3.0, "stiff under the press"),
    *RELIEF,
    SizeRow(f"{SUPPORT_PART}.floor", lambda p: _relief_depth(p) + 6.0, "six under the relief"),
)
SPIGOT_SUPPORT = (
    SizeRow(f"{SUPPORT_PART}.form", lambda _: SPIGOT, "it enters the back opening"),
    SizeRow(
        f"{SUPPORT_PART}.spigot_diameter",
        lambda p: p["case.back_opening_diameter"] - 0.15,
        "the opening of the back, less 0.15",
        ("case.back_opening_diameter",),
    ),
    SizeRow(f"{SUPPORT_PART}.spigot_height", lambda _: 1.5, "centres the case, clear of its inside"),
    SizeRow(
        f"{SUPPORT_PART}.rim_diameter",
        lambda p: p["case.underside_diameter"],
        "the Ø of the case's underside",
        ("case.underside_diameter",),
    ),
    *RELIEF,
    SizeRow(f"{SUPPORT_PART}.floor", lambda p: max(8.0, _relief_depth(p) + 6.0), "stiff under the press"),
)


def support_rows(build: Build) -> tuple[SizeRow, ...]:
    """A press support of the form that the sheet says; without a word a recess."""
    return SPIGOT_SUPPORT if build.at(f"{SUPPORT_PART}.form") == SPIGOT else RECESS_SUPPORT


THREAD = (SizeRow("press_support.thread", lambda _: "M6 × 1", "what many presses have: look at yours"),)
