"""In the dark: patches of lume in a series of photographs, how fast they fade, whether they go together."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.proving.asked import lume_of
from marquetry.core.proving.lume_decay import LumeDecay, LumeReading, lume_decay, together
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.decay_curve import decay_curve
from marquetry.drawing.scene import Scene
from marquetry.store.photos import Photo
from marquetry.web.measuring.picture import clicked
from marquetry.web.prove.view import ProvePage
from marquetry.web.site.sent import Sent, first, number_in
from marquetry.web.watch.visit import Visit

REFERENCE = "reference"
PATCH_SHARE = 120
"""A patch's radius is this part of the picture's width."""


@dataclass(frozen=True, slots=True)
class Patched:
    """Patches clicked in a picture, as typed, and where they lie."""

    photo: Photo
    minutes: str
    typed: Mapping[str, str]
    spots: Mapping[str, tuple[float, float]]
    fault: str = ""

    @property
    def radius(self) -> int:
        """Radius of a patch in pixels."""
        return max(2, self.photo.width // PATCH_SHARE)

    @property
    def wanted(self) -> str:
        """The patch to be clicked next."""
        return next((name for name, text in self.typed.items() if not text), REFERENCE)

    @property
    def is_whole(self) -> bool:
        """Whether there is enough to be kept."""
        return REFERENCE in self.spots and len(self.spots) > 1 and not self.fault


@dataclass(frozen=True)
class LightPage:
    """The page of lume."""

    page: ProvePage
    patched: Patched | None
    template: str = "lume"

    @cached_property
    def readings(self) -> Mapping[str, Sequence[LumeReading]]:
        """What was read of each thing that glows."""
        return lume_of(self.page.ready)

    @cached_property
    def decays(self) -> Mapping[str, LumeDecay]:
        """The law of each that was read at two moments."""
        return {key: law for key, found in self.readings.items() if (law := lume_decay(found))}

    @property
    def scene(self) -> Scene | None:
        """The curves; None before the first reading."""
        return decay_curve(self.readings, self.decays) if self.readings else None

    @property
    def rows(self) -> list[tuple[str, str, str]]:
        """Each law in words: what glows, its exponent, after how long half of the first minute is left."""
        return [
            (key, f"t^−{figure(law.exponent, 2)}" + ("" if law.u is None else f" ± {figure(2 * law.u, 2)}"),
             "hardly fades" if law.half_min is None else figure(law.half_min, 1, "min"))
            for key, law in self.decays.items()
        ]  # fmt: skip

    @property
    def compared(self) -> list[tuple[str, str, bool]]:
        """After each time the brightest over the dimmest, and whether that passes."""
        if len(self.decays) < 2:  # noqa: PLR2004  # two to compare
            return []
        return [
            (figure(minutes, 0, "min"), f"{figure(ratio, 1)} ×", passes)
            for minutes, ratio, passes in together(self.decays)
        ]

    @property
    def names(self) -> Mapping[str, str]:
        """What is clicked: each thing that glows, and the reference."""
        return {**{item.key: item.label for item in self.page.state.items}, REFERENCE: "Reference patch"}

    @property
    def pictures(self) -> list[Photo]:
        """The pictures there are, the newest first."""
        return sorted((p for p in self.page.photos.values() if p.caption == "lume"), key=lambda p: -p.id)[:12]


def patched_of(photo: Photo, names: Sequence[str], sent: Sent) -> Patched:
    """Read the clicked patches; what cannot be read is told beside them."""
    typed = {name: first(sent, name)[:60] for name in names}
    minutes = first(sent, "minutes")[:20]
    try:
        return Patched(
            photo, minutes, typed, {name: clicked(name, text) for name, text in typed.items() if text}
        )
    except DimensionError as error:
        return Patched(photo, minutes, typed, {}, str(error))


def light_page(page: ProvePage, visit: Visit) -> LightPage:
    """The page, with the picture that the address names."""
    query = visit.request.query_params
    photo = page.photos.get(number_in(query.get("picture", "")) or 0)
    sent = {key: query.getlist(key) for key in query}
    names = [*(item.key for item in page.state.items), REFERENCE]
    return LightPage(page, patched_of(photo, names, sent) if photo else None)
