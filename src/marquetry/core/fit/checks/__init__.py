"""All checks, in the order in which a builder reads them: from the dial outwards."""

from marquetry.core.fit.checks import (
    bezel,
    calendar,
    crystal,
    dial,
    feet,
    gaskets,
    hand_fit,
    hands,
    holder,
    movement,
    ring,
    rotor,
    stem,
    strap,
    support,
    tabs,
    windows,
    wishes,
)
from marquetry.core.fit.checks.check import Check

FAMILIES: tuple[tuple[str, tuple[Check, ...]], ...] = (
    ("Dial", (*dial.CHECKS, *ring.CHECKS)),
    ("Cut-outs", windows.CHECKS),
    ("Feet", feet.CHECKS),
    ("Calendar", calendar.CHECKS),
    ("Movement", (*movement.CHECKS, *rotor.CHECKS)),
    ("Holder", (*holder.CHECKS, *tabs.CHECKS)),
    ("Hands", (*hands.CHECKS, *hand_fit.CHECKS)),
    ("Stem", stem.CHECKS),
    ("Crystal", crystal.CHECKS),
    ("Seals", gaskets.CHECKS),
    ("Bezel", bezel.CHECKS),
    ("Strap", strap.CHECKS),
    ("Press support", support.CHECKS),
    ("Wishes", wishes.CHECKS),
)
