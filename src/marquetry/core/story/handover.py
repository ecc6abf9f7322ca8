"""What goes with a watch into its wearer's hand: how to set it without harm, its limits, care, what was promised.

Each line is described once, with when it applies; nothing is promised that was not tested.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from marquetry.core.bench.situation import Situation
from marquetry.core.brief.wish import Brief
from marquetry.core.face.dress import Dress
from marquetry.core.proving.ready import Readiness
from marquetry.core.proving.record import newest, result_number
from marquetry.core.proving.water_claim import WaterClaim
from marquetry.core.values.day import months_later

EARLIEST_MIN, LATEST_MIN = -180.0, 180.0
"""The calendar is taken to be in gear from nine in the evening to three, minutes from midnight."""
MARGIN_MIN = 60.0
"""Gears meet before the disc is seen to move: so much earlier, and so much later, than was seen."""
DAY_MIN = 24 * 60
PROMISED = (
    "functions", "depth", "colours", "finishes", "lume", "straps", "case_finish", "height", "span", "other",
)  # fmt: skip
"""Wishes that are promises once they are agreed; for whom, and for how much, is nobody else's business."""


@dataclass(frozen=True)
class HandedOver:
    """All that the sheet is made of; `tested_on` is the day of the test, `retest_months` the house's rule."""

    situation: Situation
    ready: Readiness
    brief: Brief
    claim: WaterClaim | None
    tested_on: str
    retest_months: int


def forbidden_minutes(ready: Readiness) -> tuple[float, float]:
    """From when to when the calendar is in gear, in minutes from midnight: as usual, or wider where seen so."""
    record = (
        newest(ready.counting(ready.test("date")), "date").get("jump") if "date" in ready.by_key else None
    )
    if record is None:
        return EARLIEST_MIN, LATEST_MIN
    jump, began = result_number(record, "jump_min") or 0.0, result_number(record, "began_min")
    first = min(EARLIEST_MIN, (jump if began is None else began) - MARGIN_MIN)
    return first, max(LATEST_MIN, jump + MARGIN_MIN)


def clock(minutes: float) -> str:
    """A time of the day as `21:00`, from minutes from midnight."""
    whole = round(minutes) % DAY_MIN
    return f"{whole // 60:02}:{whole % 60:02}"


def _can(function: str) -> Callable[[HandedOver], bool]:
    """Whether the movement is said to have the function: what a family brought is no promise."""
    return lambda one: _is_said(one) and function in one.situation.names("movement.functions")


def _is_said(one: HandedOver) -> bool:
    return one.situation.build.is_said("movement.functions")


def _always(one: HandedOver) -> bool:
    del one
    return True


def _calendar(one: HandedOver) -> str:
    kept = " and ".join(one.situation.calendar)
    first, last = forbidden_minutes(one.ready)
    return (
        f"Never set the {kept} by the crown between {clock(first)} and {clock(last)}: its wheels are in gear then, and "
        "break. Turn the hands past six first."
    )


def _water(one: HandedOver) -> str:
    if one.claim is None:
        return "Nothing was tested for water: keep it dry."
    again = months_later(one.tested_on, one.retest_months)
    return f"{one.claim.words(one.tested_on)} Have it tested again by {again}, and whenever it was opened."


SheetLine = tuple[str | Callable[[HandedOver], str], Callable[[HandedOver], bool]]
SETTING: Sequence[SheetLine] = (
    ("Stopped: twenty slow turns of the crown, pressed in. Then wear it: the rotor winds it on.", lambda one: one.situation.has_rotor and _can("hand_winding")(one)),
    ("Stopped: swing it gently for half a minute, then wear it: the rotor winds it on.", lambda one: one.situation.has_rotor and _is_said(one) and not _can("hand_winding")(one)),
    ("Wind it by its crown, pressed in, until it stops by itself: every day, at about the same hour.", lambda one: one.situation.drive == "hand-wound"),
    ("Stopped, or its seconds step by fours: the battery is empty. Have it changed, and the case tested again.", lambda one: one.situation.drive == "battery"),
    ("Seen from the crown's end: a crown with a thread unscrews anticlockwise; press it in while you screw it home, clockwise.", lambda one: one.situation.has("crown")),
    ("Clockwise, pressed in, it winds; anticlockwise it turns free.", lambda one: one.situation.has("crown") and one.situation.drive != "battery"),
    ("Set the time with the crown drawn out to its last place, always forwards, and press it home.", _always),
    ("The seconds stop while the crown is out: press it in on a time signal.", _can("hacking")),
    (_calendar, lambda one: _is_said(one) and bool(one.situation.calendar)),
    ("The 24-hour hand is set by the crown's first place; set it before the time.", _can("h24")),
    ("The bezel turns; its index says when something began. It is no safety device under water.", lambda one: one.situation.has("bezel")),
)  # fmt: skip
LIMITS: Sequence[SheetLine] = (
    (_water, _always),
    ("Crown home, screwed down where it has a thread, before water; never drawn under it.", _always),
    ("No hot bath, steam or sauna: heat ages gaskets, and steam goes where water does not.", lambda one: one.claim is not None),
    ("A magnet (a clasp, a loudspeaker, a tablet's cover) makes it gain or lose: any watchmaker takes that out in a minute.", _always),
    ("Take it off for hammering, drills and rackets.", _always),
)  # fmt: skip
CARE: Sequence[SheetLine] = (
    ("A soft brush and lukewarm water, where it was tested; a dry cloth where it was not. No solvent, no ultrasound bath.", _always),
    ("Leather does not like water; let it dry lying flat.", lambda one: "leather" in str(one.situation.word("strap.material") or "leather")),
    ("Lume needs light: a minute under a lamp, or a day in daylight, for the night.", lambda one: bool(Dress(one.situation.build).glowing())),
    ("Spring bars are looked at with every change of the strap: bent or worn ones are replaced, not straightened.", _always),
    ("Oiled anew about every five years, or when it loses more than it used to.", _always),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class SheetChapter:
    """A chapter of the sheet: its heading and its lines."""

    title: str
    lines: tuple[str, ...]


def _said(lines: Sequence[SheetLine], one: HandedOver) -> tuple[str, ...]:
    return tuple(words if isinstance(words, str) else words(one) for words, applies in lines if applies(one))


def chapters(one: HandedOver) -> list[SheetChapter]:
    """How to set it, what it bears, how to keep it."""
    return [
        SheetChapter("Setting it", _said(SETTING, one)),
        SheetChapter("Its limits", _said(LIMITS, one)),
        SheetChapter("Keeping it", _said(CARE, one)),
    ]


def promises(brief: Brief) -> list[tuple[str, str]]:
    """What was agreed, as it is in force: label and words."""
    return [
        (wish.topic.label, wish.topic.told(wish.in_force))
        for wish in brief.wishes
        if wish.topic.key in PROMISED and wish.in_force
    ]
