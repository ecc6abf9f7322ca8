"""Checks of calendar and functions: does the window show the disc, does every promise have its works."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.checks.words import Issues, Said, WordsCheck, by_gravity
from marquetry.core.fit.cutouts import (
    CALENDAR,
    date_window_angle,
    date_window_radius,
    has_date_window,
    windows_shown,
)
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.figures import figure, in_words
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, nominal


def wrapped(angle: Number, turn: float = 360.0) -> Number:
    """The angle brought to within half a turn of 0, °."""
    return angle - turn * np.floor((nominal(angle) + turn / 2) / turn)


def has_date_place(r: Trace) -> bool:
    """Whether dial and movement both have their date place."""
    return all([r.wants("dial", "movement"), has_date_window(r), r.known("movement.date_angle")])


NUMERALS = 31
PITCH = 360.0 / NUMERALS
"""From one numeral of a calendar's disc to the next, °."""


def off_its_place(r: Trace) -> Number:
    """How far the date's own numeral stands clockwise of the window, as the movement lies in this case, °."""
    return wrapped(r["movement.date_angle"] + r["case.crown_angle"] - date_window_angle(r))


def numerals_off(angle: Number) -> Number:
    """The numeral that stands nearest to the window, counted from the date's own; halves go to the even."""
    return np.round(nominal(angle) / PITCH)


def date_angle(r: Trace) -> Number | None:
    """How far the numeral stands clockwise of the window, as the movement lies in this case, °.

    Of a disc of its own, which is printed for where it is seen, the nearest numeral.
    """
    if not has_date_place(r):
        return None
    angle = off_its_place(r)
    return angle - PITCH * numerals_off(angle) if r.has("calendar_disc") else angle


@dataclass(frozen=True, slots=True)
class NearestNumeral:
    """The numeral nearest to the window: how many from the date's own, and what it misses by, °."""

    numerals_off: int
    misses_by: float
    has_disc: bool

    def as_dict(self) -> Mapping[str, object]:
        """As JSON carries it: how far off its place the date is shown by a disc that is made for it."""
        return {"numerals_off": self.numerals_off} if self.has_disc else {}

    def told(self) -> tuple[str, ...]:
        """Which one it is; nothing where it is the date's own."""
        if not self.numerals_off:
            return ()
        count = abs(self.numerals_off)
        plural, way = "" if count == 1 else "s", "on" if self.numerals_off > 0 else "back"
        which = f"{in_words(count)} numeral{plural} {way}"
        if self.has_disc:
            return (f"The date is shown {which}: the disc has to be printed for that.",)
        off, lean = figure(abs(self.misses_by), 1, "°"), figure(count * PITCH, 0, "°")
        nearest = f"Nearest to the window: {which}, {off} off, leaning {lean}."
        return (f"{nearest} A disc printed for this crown place shows it.",)


def nearest_numeral(r: Trace) -> NearestNumeral:
    """What stands in the window, or beside it."""
    angle = off_its_place(r)
    off = int(nominal(numerals_off(angle)))
    return NearestNumeral(off, float(nominal(angle)) - PITCH * off, r.has("calendar_disc"))


def date_radius(r: Trace) -> Number | None:
    """How much further out the disc's numeral stands than the window, mm."""
    if not has_date_place(r):
        return None
    return r["movement.date_radius"] - date_window_radius(r)


def disc_upright(r: Trace) -> Number | None:
    """How far clockwise the disc's numerals stand turned in the window of this case, °."""
    if not windows_shown(r):
        return None
    return wrapped(r["calendar_disc.crown_angle"] - r["case.crown_angle"])


def function_issues(r: Trace) -> tuple[list[str], list[str]]:
    """What the dial or the hands promise and the movement has not; what it has and nothing shows."""
    functions, windows = r.names("movement.functions"), windows_shown(r)
    shown, pressed = r.has("dial"), r.has("hands")
    hands = [hand for hand in HANDS if r.has(f"hands.{hand}")]
    posts = [hand for hand in HANDS if r.has(f"movement.posts.{hand}")]
    broken = [f"{name}_missing" for name in CALENDAR if name in windows and name not in functions]
    unused = [f"{name}_unused" for name in CALENDAR if shown and name in functions and name not in windows]
    if pressed and r.has("movement.posts"):
        broken += [f"hand_without_post:{hand}" for hand in hands if hand not in posts]
        unused += [f"post_without_hand:{hand}" for hand in posts if hand not in hands]
    return broken, unused


ISSUES = {
    "date_missing": "The dial has a date window, the movement no date.",
    "day_missing": "The dial has a day window, the movement no day.",
    "date_unused": "The movement's date is not shown by the dial: a crown position that does nothing.",
    "day_unused": "The movement's day is not shown by the dial: a crown position that does nothing.",
    "hand_without_post": "There is a {} hand and no post for it.",
    "post_without_hand": "There is a {} post and no hand for it.",
}


def functions_said(r: Trace) -> Said | None:
    """`functions`: a clash for a promise without works, tight for works without a use."""
    if not r.wants("movement"):
        return None
    if not r.names("movement.functions"):
        r.lack("movement.functions")
        return None
    broken, unused = function_issues(r)
    issues = (*broken, *unused)
    parts = (issue.partition(":") for issue in issues)
    told = tuple(ISSUES[what].format(HAND_LABELS.get(hand, hand)) for what, _, hand in parts)
    return by_gravity(broken, unused), Issues(issues, told)


CALENDAR_SCHOOLS = (
    "A calendar that the dial does not show: leave it; strip the disc and its parts; or choose a movement "
    "without. Builders differ: stripping makes setting plain, leaving keeps the movement as it was made."
)

CHECKS = (
    FormulaCheck(
        name="date_angle",
        rate=0.04,
        title="Date, around",
        limits=Limits(-1.5, 1.5),
        unit="°",
        decimals=1,
        formula=date_angle,
        detail=nearest_numeral,
        plan="date",
        words=Words(
            means="How far the numeral stands clockwise of the window, the movement in this case.",
            below="The numeral is cut off at the window's edge; far off, nothing shows at all.",
            helps=(
                "A dial for this crown place, or a disc printed for it.",
                "A few degrees: turn the dial on adhesive pads instead of its feet.",
            ),
        ),
    ),
    FormulaCheck(
        name="date_radius",
        title="Date, outwards",
        limits=Limits(-0.25, 0.25),
        formula=date_radius,
        span=Span("r", "date_window", "date_numeral", beside="dial_top"),
        plan="date",
        words=Words(
            means="How much further from the centre the disc's numeral stands than the middle of the window.",
            below="The numeral shows at the inner edge of the window, or is cut off by it.",
            above="The numeral shows at the outer edge of the window, or is cut off by it.",
            helps=("A dial made for this family of movements.",),
        ),
    ),
    FormulaCheck(
        name="disc_upright",
        may_be_vouched=False,
        title="Disc upright",
        limits=Limits(-3, 3),
        unit="°",
        decimals=1,
        formula=disc_upright,
        plan="disc",
        of_looks=True,
        words=Words(
            means="How far the numerals stand turned in the window: a disc is printed for one crown place.",
            below="The numerals lean in the window.",
            helps=("A disc printed for this case's crown place.",),
        ),
    ),
    WordsCheck(
        name="functions",
        may_be_vouched=False,
        title="Promised and driven",
        limits=Limits(None, None),
        says=functions_said,
        words=Words(
            means="Every window and hand has its works, and every function of the movement is shown.",
            below="Something is promised that the movement cannot do, or driven that nothing shows.",
            helps=(
                CALENDAR_SCHOOLS,
                "A hand without a post: another hand set, or another movement.",
            ),
        ),
    ),
)
