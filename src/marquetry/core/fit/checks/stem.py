"""Checks of the stem: its thread, what is to be cut off it, and the thread left after the cut."""

import re

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.checks.words import Said, WordsCheck, of_one_kind
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def stem_target(r: Trace) -> Number:
    """The length at which the crown just seats on its tube, mm."""
    return r["case.centre_to_tube_end"] + r["crown.seat_to_bottom"] - r["movement.centre_to_stem_tip"]


def stem_cut(r: Trace) -> Number:
    """What is to be cut off the stem, mm."""
    return r["stem.length"] - stem_target(r)


def stem_thread_left(r: Trace) -> Number:
    """Length of thread that is left after the cut, mm."""
    return r["stem.thread_length"] - stem_cut(r)


def same_thread(r: Trace) -> Said | None:
    """`stem_thread`: crown and stem have the same thread."""
    return of_one_kind(r, "thread", ("crown", "stem"), _thread_size)


THREAD_SIZE = re.compile(r"m?\s*(?P<mm>\d+(?:[.,]\d+)?)\s*(?:mm)?")


def _thread_size(written: str) -> float | str:
    """A thread's size in mm however it is written, “0.9”, “0.90 mm” or “M0.9”; other words as they stand."""
    words = written.casefold()
    found = THREAD_SIZE.fullmatch(words)
    return float(found["mm"].replace(",", ".")) if found else words


SCHOOLS = (
    "Builders differ: caliper the gap and cut once with a reserve; or creep up in shrinking steps. "
    "Cutting by eye is not advised. File or stone the burr each time, eyes protected."
)

LOCKING = (
    "Builders differ: threadlocker only after the last trial fit; or a soft cement that can be undone. "
    "The trial fit comes first in either case."
)

CHECKS = (
    WordsCheck(
        name="stem_thread",
        rate=0.04,
        title="Thread of crown and stem",
        limits=Limits(None, None),
        says=same_thread,
        words=Words(
            means="Crown and stem have the same thread.",
            below="The crown does not screw onto the stem; forced, it strips.",
            helps=(
                "A crown or a stem of the other's thread, or a stem extender with both.",
                LOCKING,
            ),
        ),
    ),
    FormulaCheck(
        name="stem_cut",
        title="To cut off the stem",
        limits=Limits(0.0, None),
        formula=stem_cut,
        told_as="cut",
        span=Span("r", "tube_end", "crown_bottom", beside="stem_axis"),
        words=Words(
            means="How much longer the stem is than it has to be for the crown to seat on its tube.",
            below="The stem is too short: the crown cannot seat, and nothing can be added to a stem.",
            helps=("A longer stem, or an extender.", SCHOOLS),
        ),
    ),
    FormulaCheck(
        name="stem_thread_left",
        title="Thread left after the cut",
        limits=Limits(1.20, None),
        formula=stem_thread_left,
        told_as="thread left",
        span=Span("r", "tube_end", "crown_bottom", beside="stem_lower"),
        words=Words(
            means="Length of thread that is left for the crown once the stem is cut.",
            below="Too little thread is left: the crown will not hold.",
            helps=("A stem with a longer thread.",),
        ),
    ),
)
