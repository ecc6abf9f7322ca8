"""Hands at a time where two of them meet: a small dial to set the watch by."""

from collections.abc import Iterator

from marquetry.core.proving.meeting import TURNS_AN_HOUR, HandsMeeting
from marquetry.core.sheet.described.words import HANDS
from marquetry.drawing.proving.turned import on_ring
from marquetry.drawing.scene import Dot, Line, Mark, Scene

SIDE = 34.0
DIAL = 15.0
LENGTHS = {"h24": 8.0, "hour": 8.5, "minute": 12.5, "seconds": 13.5}
WIDTHS = {"h24": "thin", "hour": "broad", "minute": "middling", "seconds": "fine"}


def hands_meet(meeting: HandsMeeting, hands: tuple[str, ...]) -> Scene:
    """The dial at that time; the two hands that meet are dark, and where they meet is ringed."""
    return Scene(SIDE, SIDE, meeting.clock, meeting.words, tuple(_marks(meeting, hands)))


def _marks(meeting: HandsMeeting, hands: tuple[str, ...]) -> Iterator[Mark]:
    centre = (SIDE / 2, SIDE / 2)
    yield Dot(centre, DIAL, "meet-dial")
    for hour in range(12):
        long = 2.2 if hour % 3 == 0 else 1.2
        yield Line(
            (on_ring(centre, DIAL, hour * 30.0), on_ring(centre, DIAL - long, hour * 30.0)), "edge-line"
        )
    pair = {meeting.lower, meeting.upper}
    for hand in (hand for hand in HANDS if hand in hands):
        turn = meeting.seconds / 3600.0 * TURNS_AN_HOUR[hand] % 1.0 * 360.0
        look = "meet-hand" if hand in pair else "meet-other"
        yield Line(
            (on_ring(centre, -2.0, turn), on_ring(centre, LENGTHS[hand], turn)), f"{look} meet-{WIDTHS[hand]}"
        )
    reach = min(LENGTHS[hand] for hand in pair)
    yield Dot(on_ring(centre, reach, meeting.angle), 1.8, "meet-place")
