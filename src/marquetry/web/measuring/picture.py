"""Points clicked on a photograph with a scale, and the place that they make."""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.measuring.picture_scale import PictureScale, fit, polar
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.entry import parse_figures
from marquetry.core.values.errors import DimensionError
from marquetry.store.photos import Photo
from marquetry.web.site.sent import Sent, first

MARKS = ("1", "2", "3", "4")


@dataclass(frozen=True, slots=True)
class Picture:
    """Points clicked on a photograph: pixel by name, and what they make."""

    photo: Photo
    typed: Mapping[str, str]
    from_back: bool
    scale: PictureScale | None = None
    place: tuple[Dimension, Dimension] | None = None
    error: str = ""
    points: tuple[tuple[str, float, float], ...] = ()

    @property
    def wanted(self) -> str:
        """The point to be clicked next: the first that is not there yet."""
        names = [*(f"p{mark}" for mark in MARKS), "centre", "place"]
        return next((name for name in names if not self.typed[name]), "place")

    @property
    def residuals(self) -> dict[str, float]:
        """Each mark's number and how far off the fit it is, in mm."""
        return {} if self.scale is None else dict(zip(MARKS, self.scale.residuals, strict=False))

    @property
    def spots(self) -> list[tuple[str, float, float, float]]:
        """What was clicked, in words: where it is, and where its words begin, in pixels."""
        beside = self.photo.width // 60
        return [
            (f"mark {name[1:]}" if name[1:] in MARKS else name, x, y, x + beside)
            for name, x, y in self.points
        ]

    @property
    def dot(self) -> int:
        """Radius of a clicked point, in pixels of the photograph."""
        return self.photo.width // 90

    @property
    def type_size(self) -> int:
        """Height of the words in the photograph, in its pixels."""
        return self.photo.width // 32


def picture_of(sent: Sent, photos: list[Photo]) -> Picture | None:
    """Marks, centre and place clicked on the chosen photograph."""
    number = first(sent, "photo")
    photo = next((photo for photo in photos if str(photo.id) == number), None)
    if photo is None:
        return None
    names = [f"p{mark}" for mark in MARKS] + [f"m{mark}" for mark in MARKS] + ["centre", "place"]
    typed = {name: first(sent, name) for name in names}
    from_back = first(sent, "back") == "yes"
    try:
        points = {name: clicked(name, text) for name, text in typed.items() if text}
    except DimensionError as error:
        return Picture(photo, typed, from_back, error=str(error))
    shown = tuple((name, *at) for name, at in points.items() if not name.startswith("m"))
    marks = [mark for mark in MARKS if f"p{mark}" in points and f"m{mark}" in points]
    try:
        scale = fit([points[f"p{m}"] for m in marks], [points[f"m{m}"] for m in marks]) if marks[2:] else None
        place = None
        if scale and "centre" in points and "place" in points:
            place = polar(scale, points["centre"], points["place"], from_back=from_back)
        return Picture(photo, typed, from_back, scale, place, points=shown)
    except DimensionError as error:
        return Picture(photo, typed, from_back, error=str(error), points=shown)


def clicked(name: str, text: str) -> tuple[float, float]:
    """Two numbers parted by a semicolon or a gap."""
    numbers = parse_figures(name, text, "mm")
    if len(numbers) != 2:  # noqa: PLR2004  # x and y
        raise DimensionError(name, f"“{text[:40]}”", "", "two numbers, x; y")
    return numbers[0], numbers[1]
