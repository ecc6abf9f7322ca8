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
    instead: str = ""
    """What does instead, where a workshop has no such tool."""


def _has(*kinds: str) -> Callable[[Build, Rules], bool]:
    return lambda build, _: any(build.has(kind) for kind in kinds)


def _school(key: str, choice: str) -> Callable[[Build, Rules], bool]:
    return lambda _, rules: rules.school(key) == choice


def _closes(*closings: str) -> Callable[[Build, Rules], bool]:
    """Whether the back is held so; nobody having said counts as the first."""
    return lambda build, _: (
        build.has("case_back") and (build.at("case_back.closing") or "screw-in") in closings
    )


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
    UsualSundry("hand_press", "tool", "Hand press", "presses hands level, one after the other", _has("hands"), instead="A flat pin of hard plastic, its end cut square, pressed by hand on a firm table; look from two sides."),
    UsualSundry("hand_lever", "tool", "Hand levers and foil", "take hands off without a mark on the dial", _has("hands"), instead="Two blunt levers of hard plastic, cut from a card, both at one height."),
    UsualSundry("stem_cutter", "tool", "Stem cutter", "cuts the stem; eyes protected", _has("stem"), instead="Strong side cutters, a hair outside the mark; the rest is filed."),
    UsualSundry("pin_vice", "tool", "Pin vice", "holds the stem while the crown is turned on", _has("stem"), instead="Pliers with their jaws taped, on the part of the stem that stays inside."),
    UsualSundry("crystal_press", "tool", "Crystal press", "presses the crystal in straight", _has("crystal"), instead="A bar clamp and two dies turned or printed to the crystal's edge and the case: square, and slowly."),
    UsualSundry("back_wrench", "tool", "Case-back wrench", "opens and closes a back that screws in", lambda b, r: _closes("screw-in")(b, r) or (b.has("case") and not b.has("case_back")) or _from_donor(b), instead="A watchmaker opens it for little; a ball of tape may turn one that is not tight."),
    UsualSundry("back_knife", "tool", "Case knife", "lifts a back that is pressed in", _closes("pressed"), instead="A blunt blade wrapped in tape, into the notch, twisted and never pushed."),
    UsualSundry("back_press", "tool", "Case-back press", "presses a back in straight", _closes("pressed"), instead="Both thumbs, opposite each other, over a cloth; never on the crystal."),
    UsualSundry("loupe", "tool", "Loupe", "shows dust and gaps before the watch is closed", _always, instead="A telephone's camera, close, at its largest."),
    UsualSundry("tray", "tool", "Sorting tray", "holds every part in its place", _always, instead="A white lid with a rim, one compartment for each part."),
    UsualSundry("dust_cover", "tool", "Dust cover", "covers what lies open", _always, instead="A drinking glass, upside down."),
    UsualSundry("blower", "tool", "Hand blower", "takes dust off without touching", _has("dial", "case"), instead="An ear syringe, new and dry."),
    UsualSundry("movement_rest", "tool", "Movement rest", "bears the movement under its edge and its centre", _has("movement"), instead="A ring of felt or cork that bears the movement at its edge, a stud of pegwood under its centre."),
    UsualSundry("screwdrivers", "tool", "Screwdrivers, 0.8 to 2.0", "foot, rotor and case screws, and a stem's setting screw", _has("movement"), instead="Nothing: a blade that does not fill its slot slips across the plate."),
    UsualSundry("tweezers", "tool", "Tweezers, brass", "lift small parts and are not magnetic", _always, instead="Pegwood with a crumb of putty at its tip."),
    UsualSundry("pegwood", "tool", "Sharpened wood stick", "pushes and wipes without a scratch", _has("stem", "movement"), instead="A cocktail stick, cut to a point."),
    UsualSundry("shims", "tool", "Press shims", "give each hand the height of the press plan", _has("hands"), instead="Card of known thickness, in layers; its thickness by the caliper."),
    UsualSundry("caliper", "tool", "Caliper", "reads the stem's gap and the hands' heights", _has("stem"), instead="The screen's own ruler is no caliper: a steel rule under the loupe reads a fifth of a millimetre."),
    UsualSundry("height_gauge", "tool", "Height gauge", "reads a blade's height over the dial", _has("hands"), instead="A picture from the side beside a shim, read at the step."),
    UsualSundry("demagnetiser", "tool", "Demagnetiser", "takes the magnetism out of movement, tools and caliper", _has("movement"), instead="A watchmaker does it in a minute; a compass beside the movement tells whether it needs it."),
    UsualSundry("eye_protection", "tool", "Eye protection", "for cutting stems and feet, pressing glass, springs", _always, instead="Nothing does instead."),
    UsualSundry("feet_cutter", "tool", "Side cutters for feet", "take a dial's feet off", _has("dial"), instead="A fine file alone, with patience."),
    UsualSundry("fine_file", "tool", "Fine file or stone", "takes stubs down and burrs off", _has("stem", "dial"), instead="Abrasive paper on glass."),
    UsualSundry("hand_drill", "tool", "Pin drill and bits", "drills holes for feet", _school("school_feet", "new_holes"), instead="No drill in a hand press: a pin vice with the bit in it."),
    UsualSundry("bar_tool", "tool", "Spring-bar tool", "fits straps, drives link pins", _has("strap"), instead="A fine screwdriver, its edge filed round; tape on the lugs."),
)  # fmt: skip
"""In the order in which they come to hand."""
SUNDRY_BY_KEY = {sundry.key: sundry for sundry in USUAL_SUNDRIES}


def sundries_for(build: Build, rules: Rules) -> Iterator[UsualSundry]:
    """What this watch asks for."""
    return (sundry for sundry in USUAL_SUNDRIES if sundry.asks(build, rules))
