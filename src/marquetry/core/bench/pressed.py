"""Hands as pressed: the heights found on the bench, every gap that follows, and what to do.

Follows “Hands as pressed” of bench-work.md. The bounds are those of the hand stack itself (`checks.hands`),
put to the heights that were read instead of to the best ones; nothing of their formulas stands here.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.fit.checks.hands import STACKED, gaps_at, levels_of
from marquetry.core.fit.levels import dial_top
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Bound
from marquetry.core.fit.trace import Trace, aside
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK
from marquetry.core.values.number import nominal
from marquetry.core.values.verdict import Verdict

FURTHEST_HEIGHT = 20.0
"""Millimetres over the dial: far beyond any hand."""


@dataclass(frozen=True, slots=True)
class PressedGap:
    """One gap, mm: `spare` is what it has over what is wanted; engagement limits have no `gap`."""

    between: str
    spare: float
    gap: float | None = None

    @property
    def words(self) -> str:
        """The same as a builder says it."""
        told = " ".join(HAND_LABELS.get(word, word) for word in self.between.split())
        return f"{told[:1].upper()}{told[1:]}"

    @property
    def verdict(self) -> Verdict:
        """Clash where the two touch or the post does not hold, tight where less air is left than wanted."""
        if self.spare >= -SLACK:
            return Verdict.CLEAR
        touching = self.gap is None or self.gap < -SLACK
        return Verdict.CLASH if touching else Verdict.TIGHT


@dataclass(frozen=True, slots=True)
class Pressed:
    """Every gap of the hands that are on, the least spare first; `heights` in mm over the dial's face."""

    heights: Mapping[str, float]
    gaps: tuple[PressedGap, ...]

    @property
    def verdict(self) -> Verdict:
        """The gravest of all."""
        return max((gap.verdict for gap in self.gaps), key=lambda v: v.gravity, default=Verdict.CLEAR)

    def about(self, hand: str) -> tuple[PressedGap, ...]:
        """The gaps that this hand has a part in."""
        return tuple(gap for gap in self.gaps if hand in gap.between.split())


def pressed(build: Build, rules: Rules, heights: Mapping[str, float]) -> Pressed:
    """The gaps that follow from the heights of blades' undersides over the dial's top, mm, by hand.

    Hands not named are not on yet. SheetError where the sheet lacks a hand, a part or a dimension that a
    gap hangs on; DimensionError for a height that cannot be one.
    """
    for hand, height in heights.items():
        if hand not in HANDS or not build.has(f"hands.{hand}"):
            raise SheetError(f"hands.{hand[:20]}", "a hand of this watch")
        if not abs(height) <= FURTHEST_HEIGHT:
            raise DimensionError(hand, height, "mm", f"a height of at most {FURTHEST_HEIGHT:g} mm")
    for part in STACKED:
        if not build.has(part):
            raise SheetError(part, "a part that the hands' gaps hang on")
    trace = aside(build, rules)
    on = [hand for hand in HANDS if hand in heights]
    gaps = sorted(_gaps(trace, on, heights), key=lambda gap: gap.spare)
    if trace.missing:
        raise SheetError(next(iter(trace.missing)), "a dimension that the hands' gaps hang on")
    return Pressed({hand: heights[hand] for hand in on}, tuple(gaps))


def _gaps(trace: Trace, on: list[str], heights: Mapping[str, float]) -> Iterator[PressedGap]:
    face = float(nominal(dial_top(trace)))
    for found in gaps_at(levels_of(trace, on), face, heights):
        yield _gap(found.bound, found.spare, found.under)


BETWEEN = {
    "post_shoulder": "{hand} above shoulder",
    "post_top": "{hand} above closed bore",
    "post_engagement": "{hand} below last grip",
    "dial": "{hand} over dial",
    "feature": "{hand} over feature {number}",
    "blade": "{hand} over {under}",
    "pipe": "{hand} pipe over {under}",
    "crystal_tip": "crystal over {hand} tip",
    "crystal_centre": "crystal over {hand} centre",
}


def _gap(bound: Bound, spare: float, under: str | None) -> PressedGap:
    hand, _, what = bound.name.partition(".")
    named, number = (what, "") if what in BETWEEN else what.rsplit("_", 1)
    words = BETWEEN[named].format(hand=hand, under=under, number=number)
    return PressedGap(words, spare, spare + float(nominal(bound.air)) if bound.wanted else None)


LIFT = "Lift it and press again, higher or lower; its grip is worn once more."
WAYS_OUT: Mapping[Verdict, tuple[str, ...]] = {
    Verdict.CLEAR: ("Leave it: every gap has the air that is wanted.",),
    Verdict.TIGHT: (
        "Leave it, where two turns by hand touch nothing: less air than wanted is not yet touching.",
        LIFT,
    ),
    Verdict.CLASH: (
        LIFT,
        "File the pipe's lower end where its hand cannot go deeper, off the watch, dust wiped away.",
        "Another hand: a longer pipe to stand higher, a thinner blade to leave more room.",
    ),
}


def ways_out(found: Pressed) -> tuple[str, ...]:
    """What to do, the usual first, with the gap that asks for it named."""
    if found.verdict is Verdict.CLEAR or not found.gaps:
        return WAYS_OUT[Verdict.CLEAR]
    worst = found.gaps[0]
    short = figure(-worst.spare, 2, "mm")
    return (f"{worst.words}: {short} too little.", *WAYS_OUT[found.verdict])
