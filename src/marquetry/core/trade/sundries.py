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


USUAL_SUNDRIES: tuple[UsualSundry, ...] = (
    UsualSundry("gasket_grease", "consumable", "Gasket grease", "greases gaskets and the crown's seal before they are closed in", _has("back_gasket", "crystal_gasket", "crown")),
    UsualSundry("threadlocker", "consumable", "Threadlocker, low strength", "holds the crown on its stem after the last trial fit", _has("stem")),
    UsualSundry("finger_cots", "consumable", "Finger cots", "keep skin off dial, hands and crystal", _has("dial", "hands", "crystal")),
    UsualSundry("cleaning_putty", "consumable", "Cleaning putty", "takes dust off dial and crystal before casing", _has("dial", "crystal")),
    UsualSundry("adhesive_pads", "consumable", "Adhesive pads", "hold a dial without feet", _school("school_feet", "pads")),
    UsualSundry("insert_adhesive", "consumable", "Insert adhesive", "holds the bezel's insert", _has("bezel_insert")),
    UsualSundry("abrasive_paper", "consumable", "Abrasive paper, fine", "takes the burr off a cut stem", _has("stem")),
    UsualSundry("print_material", "material", "Print material, spool", "what is made here is printed from it", _has("holder", "dial_adapter", "press_support")),
    UsualSundry("hand_press", "tool", "Hand press", "presses hands level, one after the other", _has("hands")),
    UsualSundry("hand_lever", "tool", "Hand levers and foil", "take hands off without a mark on the dial", _has("hands")),
    UsualSundry("stem_cutter", "tool", "Stem cutter", "cuts the stem; eyes protected", _has("stem")),
    UsualSundry("pin_vice", "tool", "Pin vice", "holds the stem while the crown is turned on", _has("stem")),
    UsualSundry("crystal_press", "tool", "Crystal press", "presses the crystal in straight", _has("crystal")),
    UsualSundry("back_wrench", "tool", "Case-back wrench", "closes the back to its torque", _has("case_back")),
    UsualSundry("loupe", "tool", "Loupe", "shows dust and gaps before the watch is closed", _has("movement")),
)  # fmt: skip
"""In the order in which they come to hand."""


def sundries_for(build: Build, rules: Rules) -> Iterator[UsualSundry]:
    """What this watch asks for."""
    return (sundry for sundry in USUAL_SUNDRIES if sundry.asks(build, rules))
