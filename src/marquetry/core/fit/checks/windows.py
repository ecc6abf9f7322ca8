"""Checks of what is cut into a dial: clear of feet, ledge, post and disc; and of its minute track."""

from collections.abc import Callable, Iterator

from marquetry.core.fit.checks.by_case import CaseCheck, JudgedCase
from marquetry.core.fit.checks.check import Words
from marquetry.core.fit.checks.dial import bore_clearance
from marquetry.core.fit.checks.feet import FEET, feet_of
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.cutouts import cutouts, distance, furthest, nearest
from marquetry.core.fit.finding import Finding, judge_least
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, least

DISC = "movement.h24_disc"


def seen_through(r: Trace) -> Number:
    """The narrowest Ø through which the dial is seen, mm: ledge, ring, and spacers on the dial's side."""
    ring = [r["chapter_ring.inner_diameter"]] if r.has("chapter_ring") else []
    sides = {f"{SPACERS.key}.{number}": number for number in range(r.count(SPACERS.key))}
    spacers = [r[f"{path}.inner_diameter"] for path in sides if r.word(f"{path}.side") == "dial"]
    return least([r["case.opening_diameter"], *ring, *spacers])


def seen_radius(r: Trace) -> Number:
    """How far from the axis a dial is seen that lies quite to one side of its bore, mm."""
    return seen_through(r) / 2 - bore_clearance(r) / 2


def track_seen(r: Trace) -> Number:
    """How much of the opening is left outside the minute track, the dial pushed to one side, mm."""
    return seen_radius(r) - r["dial.track_radius"]


def _clear_of_feet(r: Trace) -> Iterator[Number]:
    feet = [f"{FEET}.{number}" for number in feet_of(r)]
    for path in cutouts(r):
        for foot in feet:
            yield distance(r, path, r[f"{foot}.radius"], r[f"{foot}.angle"]) - r[f"{foot}.diameter"] / 2


def _seen(r: Trace) -> Iterator[Number]:
    for path in cutouts(r):
        yield seen_radius(r) - furthest(r, path)


def _clear_of_hole(r: Trace) -> Iterator[Number]:
    for path in cutouts(r):
        yield nearest(r, path) - r["dial.centre_hole"] / 2


def _over_disc(r: Trace) -> Iterator[Number]:
    for path in cutouts(r, "h24"):
        yield nearest(r, path) - r[f"{DISC}.inner_radius"]
        yield r[f"{DISC}.outer_radius"] - furthest(r, path)


def _least_of(rooms: Callable[[Trace], Iterator[Number]]) -> JudgedCase:
    """The judgement by the least of the rooms, mm; about nothing where nothing is cut."""

    def judged(check: str, r: Trace, limits: Limits) -> Finding | None:
        if not r.wants("dial"):
            return None
        found = list(rooms(r))
        return None if not found or r.missing or r.absent else judge_least(check, found, limits, r)

    return judged


CHECKS = (
    CaseCheck(
        name="window_feet",
        title="Cut-outs clear of feet",
        limits=Limits(0.30, None),
        judges=_least_of(_clear_of_feet),
        plan="windows",
        words=Words(
            means="From the edge of what is cut into the dial to the nearest foot.",
            below="The cut goes through what a foot stands on: the foot breaks off, or stands in the window.",
            helps=(
                "A cut-out further from the foot.",
                "The foot off, and the dial held by pads or a carrier.",
            ),
        ),
    ),
    CaseCheck(
        name="window_seen",
        title="Cut-outs seen whole",
        limits=Limits(0.10, None),
        judges=_least_of(_seen),
        plan="windows",
        words=Words(
            means="From what is cut furthest out to the edge of ring or ledge, the dial pushed to one side.",
            below="Ring, ledge or spacer covers a part of the window.",
            helps=("A cut-out nearer the centre.", "A ring or a spacer with a wider opening."),
        ),
    ),
    CaseCheck(
        name="window_centre",
        title="Cut-outs clear of centre",
        limits=Limits(0.30, None),
        judges=_least_of(_clear_of_hole),
        plan="windows",
        words=Words(
            means="What is left of the dial between its centre hole and what is cut nearest to it.",
            below="The web between hole and window breaks when the dial is cut or pressed.",
            helps=("A cut-out further from the centre.",),
        ),
    ),
    CaseCheck(
        name="window_h24",
        title="Disc fills its window",
        limits=Limits(0.05, None),
        judges=_least_of(_over_disc),
        plan="windows",
        words=Words(
            means="How far the 24-hour disc reaches beyond its window, inwards and outwards.",
            below="The disc's edge shows in the window.",
            helps=("A window narrower at that edge.",),
        ),
    ),
    FormulaCheck(
        name="track_seen",
        title="Minute track seen",
        limits=Limits(0.0, None),
        formula=track_seen,
        plan="track",
        of_looks=True,
        words=Words(
            means="What is left between the minute track's outer end and the edge of ring or ledge.",
            below="Ring, ledge or spacer covers the outer end of the minute track.",
            helps=("A ring with a wider opening.", "A dial whose track ends nearer the centre."),
        ),
    ),
)
