"""Straight: how far hands, dial and index stand turned, read in a photograph with lines drawn over it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.proving.angle import QUARTERS, PictureAngle, picture_angle, squared_up
from marquetry.core.proving.record import ProofVerdict, newest
from marquetry.core.proving.told import proof_told
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import band, figure
from marquetry.core.values.limits import Limits
from marquetry.store.photos import Photo
from marquetry.web.measuring.picture import clicked
from marquetry.web.prove.view import ProvePage
from marquetry.web.site.sent import Sent, first, number_in
from marquetry.web.watch.visit import Visit

POINTS = {"centre": "Centre of the hands", "marker": "Marker at twelve", "tip": "Tip of what is measured"}
"""What is clicked, in this order."""
BY_HANDS = frozenset({"hour", "minute", "h24"})
TIPS = {
    "dial": "Mark at six of the dial; the marker is then the middle between the upper lugs",
    "index": "Index of the bezel",
}


@dataclass(frozen=True, slots=True)
class Picked:
    """What was clicked in a picture: points by name as typed, and the angle that they make."""

    photo: Photo
    item: str
    typed: Mapping[str, str]
    spots: Sequence[tuple[str, float, float]]
    angle: PictureAngle | None
    fault: str = ""

    @property
    def lines(self) -> list[tuple[float, float, float, float]]:
        """Lines from the centre to marker and tip, in the picture's pixels."""
        at = {name: (x, y) for name, x, y in self.spots}
        return [(*at["centre"], *at[end]) for end in ("marker", "tip") if {"centre", end} <= at.keys()]

    @property
    def places(self) -> list[tuple[float, float]]:
        """Where the points lie, in pixels."""
        return [(x, y) for _, x, y in self.spots]

    @property
    def wanted(self) -> str:
        """The point to be clicked next."""
        return next((name for name in POINTS if not self.typed[name]), "tip")

    @property
    def dot(self) -> int:
        """Radius of a clicked point, in pixels of the photograph."""
        return max(self.photo.width // 130, 2)


@dataclass(frozen=True)
class StraightPage:
    """The page of angles."""

    page: ProvePage
    picked: Picked | None
    template: str = "angle"

    @property
    def points(self) -> Mapping[str, str]:
        """What is clicked."""
        return POINTS

    @property
    def quarters(self) -> Sequence[str]:
        """The marks by which a picture is squared up."""
        return QUARTERS

    @cached_property
    def rows(self) -> list[tuple[str, str, str, str]]:
        """Each thing that is to stand straight: its key, its name, its limit, what was found."""
        ready = self.page.ready
        found = newest(ready.counting(ready.test("angle")), "angle")
        return [
            (
                item.key,
                item.label,
                band(limits_of(self.page, item.key), 2, "°"),
                proof_told(found[item.key]) if item.key in found else "",
            )
            for item in self.page.state.items
        ]

    @property
    def pictures(self) -> list[Photo]:
        """The pictures there are, the newest first."""
        shown = {row.proof.photo for row in self.page.history}
        photos = [
            photo for photo in self.page.photos.values() if photo.caption == "angle" or photo.id in shown
        ]
        return sorted(photos, key=lambda photo: -photo.id)[:8]

    @property
    def tip(self) -> str:
        """What the tip is of the thing that is measured."""
        return TIPS.get(self.picked.item, POINTS["tip"]) if self.picked else ""

    @property
    def found(self) -> str:
        """The angle in words."""
        angle = self.picked.angle if self.picked else None
        return "" if angle is None else figure(angle.degrees, 2, "°", signed=True)

    @property
    def doubt(self) -> str:
        """Twice its doubt."""
        angle = self.picked.angle if self.picked else None
        return "" if angle is None else figure(2.0 * angle.u, 2, "°")

    @property
    def verdict(self) -> ProofVerdict:
        """Whether it holds, with its doubt."""
        if self.picked is None or self.picked.angle is None:
            return ""
        return verdict_of(limits_of(self.page, self.picked.item), self.picked.angle)


def limits_of(page: ProvePage, item: str) -> Limits:
    """The rule for a thing: hands, or dial and index."""
    return page.ready.situation.rules.band("hand_angle" if item in BY_HANDS else "index_angle")


def verdict_of(limits: Limits, angle: PictureAngle) -> ProofVerdict:
    """Passed or failed where the doubt leaves no other answer, unsure where it does."""
    low, high = angle.degrees - 2.0 * angle.u, angle.degrees + 2.0 * angle.u
    if limits.admit(low) and limits.admit(high):
        return "passed"
    return "unsure" if limits.admit(angle.degrees) or limits.admit(low) or limits.admit(high) else "failed"


def picked_of(photo: Photo, item: str, sent: Sent) -> Picked:
    """Read the clicked points; what cannot be read is told beside them."""
    names = [*POINTS, *(f"q{quarter}" for quarter in QUARTERS)]
    typed = {name: first(sent, name)[:60] for name in names}
    spots: list[tuple[str, float, float]] = []
    try:
        spots = [(name, *clicked(name, text)) for name, text in typed.items() if text]
        return Picked(photo, item, typed, spots, _angle(item, {name: (x, y) for name, x, y in spots}))
    except DimensionError as error:
        return Picked(photo, item, typed, spots, None, str(error))


def _angle(item: str, at: Mapping[str, tuple[float, float]]) -> PictureAngle | None:
    if not set(POINTS) <= at.keys():
        return None
    centre, marker, tip = (at[name] for name in POINTS)
    corners = [at[name] for name in (f"q{quarter}" for quarter in QUARTERS) if name in at]
    if corners:
        centre, marker, tip = squared_up(corners, (centre, marker, tip))
    found = picture_angle(centre, marker, tip)
    if item != "dial":
        return found
    # A dial's mark at six points away from the lugs at twelve.
    return PictureAngle(found.degrees - 180.0 if found.degrees > 0 else found.degrees + 180.0, found.u)


def straight_page(page: ProvePage, visit: Visit) -> StraightPage:
    """The page, with the picture that the address names."""
    query = visit.request.query_params
    number = number_in(query.get("picture", ""))
    photo = page.photos.get(number or 0)
    items = [item.key for item in page.state.items]
    item = query.get("item", "")
    item = item if item in items else next(iter(items))
    sent = {key: query.getlist(key) for key in query}
    return StraightPage(page, picked_of(photo, item, sent) if photo else None)
