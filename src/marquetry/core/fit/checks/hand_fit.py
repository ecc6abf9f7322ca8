"""Checks of each hand by itself: its grip on the post, its reach inside the opening."""

from functools import partial

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.dial import bore_clearance
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import opening
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def hand_grip(r: Trace, hand: str) -> Number:
    """How much thicker the post is than the hand's bore, mm."""
    bore = r[f"hands.{hand}.bore"]
    return r[f"movement.posts.{hand}.diameter"] - bore


def hand_reach(r: Trace, hand: str) -> Number:
    """Room between a hand's tip and the opening's edge, the dial pushed to one side of its bore, mm."""
    return opening(r) / 2 - bore_clearance(r) / 2 - r[f"hands.{hand}.length"]


def hand_track(r: Trace, hand: str) -> Number:
    """How far a hand's tip ends short of the minute track's outer end, mm."""
    length = r[f"hands.{hand}.length"]
    return r["dial.track_radius"] - length


TRACK_WORDS = Words(
    means="How far the hand's tip ends short of the outer end of the minute track: a matter of looks.",
    below="The hand reaches past the track.",
    above="The hand stops well short of the track, and the time is harder to read.",
    helps=("A longer or a shorter hand.", "A dial whose track ends elsewhere."),
)
GRIP_WORDS = Words(
    means="How much thicker the post is than the hand's bore: what holds the hand by friction.",
    below="The hand will slip: it turns on its post or falls off at a knock.",
    above="The hand will not go on without force that bends the post or splits the pipe.",
    helps=(
        "Loose: close the pipe a little in a collet; a hand fitted several times no longer grips.",
        "Tight: open the bore with a fine broach, a hair at a time, trying the post between.",
    ),
)
REACH_WORDS = Words(
    means="Room between the hand's tip and the edge of the opening, the dial pushed to one side.",
    below="The tip may touch the chapter ring once a turn and stop the watch.",
    helps=("A shorter hand, or the tip shortened and dressed, eyes protected.", "A wider chapter ring."),
)

CHECKS = (
    *(
        FormulaCheck(
            name=f"hand_grip.{hand}",
            # The hour hand's bore is the widest and differs most from maker to maker.
            rate=0.04 if hand == "hour" else 0.02,
            title=f"Grip, {HAND_LABELS[hand]} hand",
            limits=Limits(0.005, 0.040),
            rule="hand_grip",
            decimals=3,
            formula=partial(hand_grip, hand=hand),
            span=Span("r", f"bore.{hand}", f"post.{hand}", beside=f"post_grip.{hand}"),
            words=GRIP_WORDS,
        )
        for hand in HANDS
    ),
    *(
        FormulaCheck(
            name=f"hand_reach.{hand}",
            title=f"Reach, {HAND_LABELS[hand]} hand",
            limits=Limits(0.15, None),
            rule="hand_reach",
            formula=partial(hand_reach, hand=hand),
            span=Span("r", f"tip.{hand}", "opening", beside=f"post_top.{hand}"),
            words=REACH_WORDS,
        )
        for hand in ("minute", "seconds")
    ),
    *(
        FormulaCheck(
            name=f"hand_track.{hand}",
            may_be_vouched=False,
            title=f"Track, {HAND_LABELS[hand]} hand",
            limits=Limits(-0.30, 1.20),
            rule="hand_track",
            formula=partial(hand_track, hand=hand),
            plan="track",
            of_looks=True,
            words=TRACK_WORDS,
        )
        for hand in ("minute", "seconds")
    ),
)
