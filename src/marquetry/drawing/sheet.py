"""How a section lies on the paper: which part of the watch is shown, at what scale, how much stretched."""

from dataclasses import dataclass
from typing import Literal

from marquetry.core.section.body import Point
from marquetry.core.section.lay_out import Section
from marquetry.drawing.clip import clip
from marquetry.drawing.scene import Paper

View = Literal["half", "whole", "hands", "front", "back"]
VIEWS: tuple[View, ...] = ("half", "whole", "hands", "front", "back")
MEASURED = "measured"
"""What an address says for the front as it is measured."""
STRETCHES = (1.0, 1.5, 2.0, 3.0)

USUAL_TIME = "10:09:36"
"""At which no hand of a usual watch hides the date or another hand."""

WIDTH, HEIGHT = 320.0, 144.0
NOTE_WIDTH, NOTE_HEIGHT, MARGIN = 68.0, 16.0, 5.0
FOOT = 8.0
HANDS_REACH = 4.4


@dataclass(frozen=True, slots=True)
class Display:
    """What the reader chose to see.

    `stretch` multiplies heights, `time` is what the hands of the front show, `true_size` draws one
    millimetre as one, `chosen` names the check whose note is marked, and `link` is the address
    to which `check=<name>` is added for each note; without it the notes are no links. `brief` leaves
    out what is hidden until it is pointed at: nobody points while a hand is on a slider. `measured` shows the
    front as it is measured, tones and dashes, instead of as it looks.
    """

    view: View = "half"
    stretch: float = 1.5
    chosen: str = ""
    link: str = ""
    time: str = USUAL_TIME
    true_size: bool = False
    brief: bool = False
    measured: bool = False


@dataclass(frozen=True, slots=True)
class Window:
    """The part of the watch a view shows, in watch millimetres."""

    left: float
    right: float
    low: float
    high: float

    def shows(self, point: Point) -> bool:
        """Whether the point lies in the window."""
        return self.left <= point[0] <= self.right and self.low <= point[1] <= self.high

    def clip(self, outline: tuple[Point, ...]) -> tuple[Point, ...]:
        """What of the outline the window shows."""
        return clip(outline, (self.left, self.low), (self.right, self.high))


@dataclass(frozen=True, slots=True)
class Sheet:
    """How watch millimetres come to lie on the paper: scale, stretch of heights, and where (0, 0) is."""

    scale: float
    stretch: float
    origin: Paper

    def at(self, point: Point, side: int = 1) -> Paper:
        """The point on paper; `side` −1 mirrors it to the left of the axis."""
        r, z = point
        return self.origin[0] + side * r * self.scale, self.origin[1] + z * self.scale * self.stretch

    def between(self, start: Point, end: Point) -> Paper:
        """The middle of two points, on paper."""
        (a, b), (c, d) = self.at(start), self.at(end)
        return (a + c) / 2, (b + d) / 2


def window_of(section: Section, view: View) -> Window:
    """What the view shows of this section."""
    points = [point for body in section.bodies for point in body.outline]
    right = max((r for r, _ in points), default=20.0) + 0.6
    low = min((z for _, z in points), default=-6.0) - 0.4
    high = max((z for _, z in points), default=5.0) + 0.4
    if view == "hands":
        tops = [z for body in section.bodies if body.part == "crystal" for _, z in body.outline]
        faces = [z for body in section.bodies if body.part in {"movement", "dial"} for _, z in body.outline]
        floor = max((z for z in faces if z < max(faces) - 1e-6), default=-0.5)
        return Window(-HANDS_REACH, HANDS_REACH, floor - 0.5, min(tops, default=2.5) + 1.0)
    return Window(-right if view == "whole" else -1.2, right, low, high)


def sheet_for(window: Window, display: Display) -> Sheet:
    """The largest scale at which the window fits between the margins, or true size."""
    stretch = 1.0 if display.true_size else display.stretch
    wide, high = WIDTH - 2 * (NOTE_WIDTH + 2 * MARGIN), HEIGHT - FOOT - 2 * MARGIN
    across, up = window.right - window.left, (window.high - window.low) * stretch
    scale = 1.0 if display.true_size else min(wide / across, high / up)
    left = (WIDTH - across * scale) / 2
    bottom = FOOT + MARGIN + (high - up * scale) / 2
    return Sheet(scale, stretch, (left - window.left * scale, bottom - window.low * scale * stretch))
