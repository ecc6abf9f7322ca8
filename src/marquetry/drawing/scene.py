"""What a drawing is made of: frozen primitives on paper, in millimetres, y upwards.

A scene knows nothing of SVG; `svg.py` writes it. Looks are classes, which the style sheet gives meaning.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal, TypeAlias

Paper: TypeAlias = tuple[float, float]
"""A point on the paper: millimetres from the left and from the bottom edge."""


LabelEnd = Literal["start", "middle", "end"]
"""Which end of a label lies at its point."""


@dataclass(frozen=True, slots=True)
class Line:
    """A straight or broken line; `closed` makes it a face."""

    points: tuple[Paper, ...]
    classes: str
    closed: bool = False
    title: str = ""


@dataclass(frozen=True, slots=True)
class Dot:
    """A filled or open circle."""

    centre: Paper
    radius: float
    classes: str


@dataclass(frozen=True, slots=True)
class Label:
    """Words at a point; `size` is the height of the type in millimetres."""

    at: Paper
    text: str
    classes: str
    size: float = 2.8
    anchor: LabelEnd = "start"


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle by its lower left corner."""

    at: Paper
    width: float
    height: float
    classes: str


@dataclass(frozen=True, slots=True)
class Cluster:
    """Things that belong together; `link` makes the group a link, `data` are its data attributes."""

    children: tuple["Mark", ...]
    classes: str = ""
    data: Mapping[str, str] = field(default_factory=dict)
    link: str = ""
    label: str = ""


@dataclass(frozen=True, slots=True)
class Circle:
    """A circle as one outline of an inlay."""

    centre: Paper
    radius: float


InlayEdge: TypeAlias = tuple[Paper, ...] | Circle
"""An outline of an inlay: corners in their order, or a circle."""


@dataclass(frozen=True, slots=True)
class Inlay:
    """A face in a colour of its own, whatever the page's theme: `paint` is #rrggbb or one of the lights.

    Where outlines lie within each other, every second one is an opening. `line` is its edge's colour.
    """

    outlines: tuple[InlayEdge, ...]
    paint: str
    opacity: float = 1.0
    line: str = ""
    line_width: float = 0.0


@dataclass(frozen=True, slots=True)
class CutFace:
    """A face in a class's look: where outlines lie within each other, every second one is an opening."""

    outlines: tuple[tuple[Paper, ...], ...]
    classes: str


@dataclass(frozen=True, slots=True)
class DividedRing:
    """A ring cut into equal pieces: ticks of a scale, flutes, lobes of light on turned metal.

    Of each of `count` divisions the `share` (0 to 1) round its middle is painted, the first at `turn` degrees
    clockwise from twelve; `width` is how wide the ring is, half of it either side of `radius`.
    """

    centre: Paper
    radius: float
    width: float
    count: int
    share: float
    paint: str
    turn: float = 0.0
    opacity: float = 1.0
    is_round: bool = False


@dataclass(frozen=True, slots=True)
class Lettering:
    """Words printed on a part: their middle, height of capitals in mm, colour, type, turn in degrees."""

    at: Paper
    text: str
    size: float
    paint: str
    face: str
    turn: float = 0.0


Mark: TypeAlias = Line | Dot | Label | Box | Cluster | CutFace | Inlay | DividedRing | Lettering


@dataclass(frozen=True, slots=True)
class Scene:
    """A sheet of paper with marks on it; title and description are read out in place of the picture."""

    width: float
    height: float
    title: str
    description: str
    marks: tuple[Mark, ...]

    def walk(self) -> Iterator[Mark]:
        """Every mark, groups before what is in them."""
        yield from _walk(self.marks)


def _walk(marks: tuple[Mark, ...]) -> Iterator[Mark]:
    for mark in marks:
        yield mark
        if isinstance(mark, Cluster):
            yield from _walk(mark.children)
