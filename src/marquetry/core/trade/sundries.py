"""What a watch needs at the bench besides its parts: consumables that are used up, tools that stay."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build

SundryKind = Literal["consumable", "tool", "material"]
SUNDRY_KINDS: tuple[SundryKind, ...] = ("consumable", "tool", "material")


@dataclass(frozen=True, slots=True)
class UsualSundry:
    """A thing of the bench: what it is for, and whether a watch under the workshop's rules asks for it."""

    key: str
    kind: SundryKind
    name: str
    reason: str
    asks: Callable[[Build, Rules], bool]


def _has(*kinds: str) -> Callable[[Build, Rules], bool]:
    return lambda build, _: any(build.has(kind) for kind in kinds)


def _school(key: str, choice: str) -> Callable[[Build, Rules], bool]:
    return lambda _, rules: rules.school(key) == choice


def _locks(choice: str) -> Callable[[Build, Rules], bool]:
    return lambda build, rules: build.has("stem") and rules.school("school_lock") == choice


def _always(_build: Build, _rules: Rules) -> bool:
    return True


def _from_donor(build: Build) -> bool:
    """Whether a part comes out of a donor, whose hands are levered off."""
    return any(isinstance(part, dict) and part.get("donor") for part in build.parts.values())


USUAL_SUNDRIES: tuple[UsualSundry, ...] = (
    UsualSundry("gasket_grease", "consumable", "Gasket grease", "greases gaskets, the crown's seal and the bezel's click", _has("back_gasket", "crystal_gasket", "crown", "bezel")),
    UsualSundry("threadlocker", "consumable", "Threadlocker, low strength", "holds the crown on its stem after the last trial fit", _locks("threadlocker")),
    UsualSundry("finger_cots", "consumable", "Finger cots", "keep skin off dial, hands and crystal", _school("school_hands_off", "cots")),
    UsualSundry("cleaning_putty", "consumable", "Cleaning putty", "takes dust off dial and crystal before casing", _has("dial", "crystal", "case")),
    UsualSundry("adhesive_pads", "consumable", "Adhesive pads", "hold a dial without feet", _school("school_feet", "pads")),
    UsualSundry("insert_adhesive", "consumable", "Insert adhesive", "holds the bezel's insert", _has("bezel_insert")),
    UsualSundry("abrasive_paper", "consumable", "Abrasive paper, fine", "takes the burr off a cut stem", _has("stem")),
    UsualSundry("gloves", "consumable", "Gloves, powder-free", "keep skin off dial, hands and crystal", _school("school_hands_off", "gloves")),
    UsualSundry("foil", "consumable", "Paper and foil slips", "lie between finger and part, and under levers", lambda b, r: _school("school_hands_off", "paper")(b, r) or _from_donor(b)),
    UsualSundry("soft_cement", "consumable", "Soft cement", "holds the crown on its stem and can be undone", _locks("soft_cement")),
    UsualSundry("adapter_glue", "consumable", "Adapter adhesive", "holds a dial on its carrier", _has("dial_adapter")),
    UsualSundry("abrasive_pad", "consumable", "Abrasive pad", "brushes the case along its lines", lambda build, _: build.at("case.refinish") is True),
    UsualSundry("print_material", "material", "Print material, spool", "what is made here is printed from it", _has("holder", "dial_adapter", "press_support")),
    UsualSundry("hand_press", "tool", "Hand press", "presses hands level, one after the other", _has("hands")),
    UsualSundry("hand_lever", "tool", "Hand levers and foil", "take hands off without a mark on the dial", _has("hands")),
    UsualSundry("stem_cutter", "tool", "Stem cutter", "cuts the stem; eyes protected", _has("stem")),
    UsualSundry("pin_vice", "tool", "Pin vice", "holds the stem while the crown is turned on", _has("stem")),
    UsualSundry("crystal_press", "tool", "Crystal press", "presses the crystal in straight", _has("crystal")),
    UsualSundry("back_wrench", "tool", "Case-back wrench", "closes the back to its torque", _has("case", "case_back")),
    UsualSundry("loupe", "tool", "Loupe", "shows dust and gaps before the watch is closed", _always),
    UsualSundry("tray", "tool", "Sorting tray", "holds every part in its place", _always),
    UsualSundry("dust_cover", "tool", "Dust cover", "covers what lies open", _always),
    UsualSundry("blower", "tool", "Hand blower", "takes dust off without touching", _has("dial", "case")),
    UsualSundry("movement_rest", "tool", "Movement rest", "bears the movement under its edge and its centre", _has("movement")),
    UsualSundry("screwdrivers", "tool", "Screwdrivers, 0.8 to 2.0", "foot, rotor and case screws, and a stem's setting screw", _has("movement")),
    UsualSundry("tweezers", "tool", "Tweezers, brass", "lift small parts and are not magnetic", _always),
    UsualSundry("pegwood", "tool", "Sharpened wood stick", "pushes and wipes without a scratch", _has("stem", "movement")),
    UsualSundry("shims", "tool", "Press shims", "give each hand the height of the press plan", _has("hands")),
    UsualSundry("caliper", "tool", "Caliper", "reads the stem's gap and the hands' heights", _has("stem")),
    UsualSundry("eye_protection", "tool", "Eye protection", "for cutting stems and feet, pressing glass, springs", _always),
    UsualSundry("feet_cutter", "tool", "Side cutters for feet", "take a dial's feet off", _has("dial")),
    UsualSundry("fine_file", "tool", "Fine file or stone", "takes stubs down and burrs off", _has("stem", "dial")),
    UsualSundry("hand_drill", "tool", "Pin drill and bits", "drills holes for feet", _school("school_feet", "new_holes")),
    UsualSundry("bar_tool", "tool", "Spring-bar tool", "fits straps, drives link pins", _has("strap")),
)  # fmt: skip
"""In the order in which they come to hand."""
SUNDRY_BY_KEY = {sundry.key: sundry for sundry in USUAL_SUNDRIES}


def sundries_for(build: Build, rules: Rules) -> Iterator[UsualSundry]:
    """What this watch asks for."""
    return (sundry for sundry in USUAL_SUNDRIES if sundry.asks(build, rules))
