"""The page on which a hand's height is read in a photograph taken from the side."""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.measuring.side_picture import height_in_picture
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import entered
from marquetry.store.photos import Photo
from marquetry.web.measuring.picture import clicked
from marquetry.web.site.sent import Sent, first

POINTS = {
    "known1": "Lower end of the known length",
    "known2": "Its upper end",
    "floor1": "The dial, left of the hand",
    "floor2": "The dial, right of the hand",
    "blade": "The blade's underside",
}
"""What is clicked, in this order."""


@dataclass(frozen=True, slots=True)
class SideView:
    """A photograph of a step with the points clicked so far, and the height that they make."""

    photo: Photo
    step: str
    hand: str
    known_mm: str
    typed: Mapping[str, str]
    spots: tuple[tuple[str, float, float], ...] = ()
    height: Dimension | None = None
    fault: str = ""

    @property
    def points(self) -> list[tuple[str, str]]:
        """Each point's name and what it is."""
        return list(POINTS.items())

    @property
    def wanted(self) -> str:
        """The point to be clicked next."""
        return next((name for name in POINTS if not self.typed[name]), "blade")

    @property
    def dot(self) -> int:
        """Radius of a clicked point, in pixels of the photograph."""
        return max(self.photo.width // 110, 2)

    @property
    def value(self) -> str:
        """The height as it is entered."""
        return entered(round(self.height.value, 2)) if self.height else ""


def side_view(photo: Photo, step: str, hand: str, usual_mm: str, sent: Sent) -> SideView:
    """What was clicked, and the height once all of it was; what cannot be is told."""
    typed = {name: first(sent, name) for name in POINTS}
    known = first(sent, "known") or usual_mm
    plain = SideView(photo, step, HAND_LABELS[hand], known, typed)
    try:
        at = {name: clicked(name, text) for name, text in typed.items() if text}
        spots = tuple((name, *place) for name, place in at.items())
        height = None
        if len(at) == len(POINTS):
            ends, floor = (at["known1"], at["known2"]), (at["floor1"], at["floor2"])
            height = height_in_picture(ends, parse_figure("known", known, "mm"), floor, at["blade"])
    except DimensionError as error:
        return SideView(photo, step, HAND_LABELS[hand], known, typed, fault=str(error))
    return SideView(photo, step, plain.hand, known, typed, spots, height)
