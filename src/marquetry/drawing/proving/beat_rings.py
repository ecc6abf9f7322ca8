"""Every beat of a recording on growth rings: one turn is the recording, outwards is early, inwards late.

A watch that keeps time closes its rings; one that gains opens outwards, one that loses inwards. Even and odd beats
grow a ring each; how far they lie apart is the beat error. Inside, the swing of the balance as it is.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.proving.positions import PositionKey
from marquetry.core.proving.sound.timing import Traced
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.turned import arc, on_ring, round_step
from marquetry.drawing.scene import Dot, Label, Line, Mark, Paper, Scene

SIDE = 120.0
MIDDLE, REACH = 40.0, 14.0
"""Radius of the ring of a perfect watch, and how far beats may lie from it, mm on paper."""
GAP = 14.0
"""Degrees at the top that stay free, so that begin and end stand beside each other."""
SWING = 19.0
STEPS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)
SMALL_SIDE, SMALL_MIDDLE, SMALL_REACH = 26.0, 8.8, 3.4
POSE = 3.6


@dataclass(frozen=True, slots=True)
class RingPaper:
    """Where a ring is drawn: its middle, the radius of no deviation, mm of paper for a millisecond."""

    centre: Paper
    middle: float
    scale: float
    seconds: float

    def at(self, beat: Traced) -> Paper:
        """Where a beat lies."""
        turn = GAP / 2 + beat.time / self.seconds * (360.0 - GAP)
        return on_ring(self.centre, self.middle - beat.deviation * self.scale, turn)


def beat_rings(trace: Sequence[Traced], seconds: float, amplitude: float | None, words: str) -> Scene:
    """The rings of one recording; `words` say what they show."""
    step = round_step(2.0 * _most(trace), STEPS)
    paper = RingPaper((SIDE / 2, SIDE / 2), MIDDLE, REACH / max(2.0 * step, _most(trace)), seconds)
    marks = (*_scale(paper, step), *_rings(paper, trace, 0.75), *_swing(paper.centre, amplitude))
    return Scene(SIDE, SIDE, "Every beat's deviation", words, marks)


def small_rings(trace: Sequence[Traced], seconds: float, position: PositionKey, words: str) -> Scene:
    """The same small, around the watch as it lies or hangs in a position of the round."""
    paper = RingPaper(
        (SMALL_SIDE / 2, SMALL_SIDE / 2), SMALL_MIDDLE, SMALL_REACH / max(_most(trace), 0.5), seconds
    )
    circle = Dot(paper.centre, SMALL_MIDDLE, "ring-true meet-dial")
    marks = (circle, *_rings(paper, trace, 0.35), *_pose(paper.centre, position))
    return Scene(SMALL_SIDE, SMALL_SIDE, "", words, marks)


def _pose(centre: Paper, position: PositionKey) -> Iterator[Mark]:
    """The watch small: lying with its dial or its back to the eye, or hanging with its crown to one side."""
    lying = {"dial_up": "pose-dial", "dial_down": "pose-back"}
    yield Dot(centre, POSE, lying.get(position, "pose-edge"))
    turn = {"crown_up": 0.0, "crown_down": 180.0, "crown_left": 270.0}.get(position, 90.0)
    turn = 270.0 if position == "dial_down" else turn
    yield Line((on_ring(centre, POSE, turn), on_ring(centre, POSE + 1.5, turn)), "pose-crown")
    if position == "dial_up":
        yield from (
            Line((centre, on_ring(centre, long, at)), "pose-hand") for long, at in ((2.0, 305.0), (2.9, 60.0))
        )


def _most(trace: Sequence[Traced]) -> float:
    return max((abs(beat.deviation) for beat in trace), default=0.0) or STEPS[0]


def _scale(paper: RingPaper, step: float) -> Iterator[Mark]:
    for count in (-2, -1, 1, 2):
        radius = paper.middle + count * step * paper.scale
        yield Line(arc(paper.centre, radius, GAP / 2, 360.0 - GAP / 2), "ring-step")
    yield Line(arc(paper.centre, paper.middle, GAP / 2, 360.0 - GAP / 2), "ring-true")
    decimals = 1 if step < 1.0 else 0
    for count, word in ((2, "early"), (-2, "late")):
        at = paper.middle + count * step * paper.scale
        yield Label(
            (paper.centre[0], paper.centre[1] + at - 1.2),
            f"{figure(2 * step, decimals)} ms {word}",
            "quiet halo",
            4.7,
            "middle",
        )


def _rings(paper: RingPaper, trace: Sequence[Traced], size: float) -> Iterator[Mark]:
    for odd, classes in ((0, "beat-even"), (1, "beat-odd")):
        points = tuple(paper.at(beat) for beat in trace if beat.odd == odd)
        if len(points) > 1:
            yield Line(points, f"{classes} ring-grain")
        yield from (Dot(point, size, classes) for point in points)


def _swing(centre: Paper, amplitude: float | None) -> Iterator[Mark]:
    """The balance's swing to both sides of its rest, at the bottom."""
    if amplitude is None:
        return
    yield Line(arc(centre, SWING, 180.0 - amplitude / 2, 180.0 + amplitude / 2), "swing-arc")
    for side in (-1, 1):
        end = 180.0 + side * amplitude / 2
        yield Line((on_ring(centre, SWING - 1.6, end), on_ring(centre, SWING + 1.6, end)), "swing-arc")
    yield Dot(on_ring(centre, SWING, 180.0), 0.8, "turn-end")
