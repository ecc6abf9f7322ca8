"""The slots of a watch as tiles: what is in each, and how many parts of the shelf could be."""

from dataclasses import dataclass

from marquetry.core.fit.model import Model
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import Part
from marquetry.web.finder.view import FinderLook, fillable

COMPLETED = ("dial", "hands", "crystal")
"""Slots that are mostly filled last: ticked at first where they are open."""


@dataclass(frozen=True, slots=True)
class SlotTile:
    """One slot: what is in it, and whether it is ticked."""

    kind: Kind
    part: Part | None
    name: str
    is_open: bool
    ticked: bool
    on_shelf: int

    @property
    def words(self) -> str:
        """What is in it."""
        return "open" if self.is_open else self.name


def slot_tiles(model: Model, build: Build, look: FinderLook, counts: dict[str, int]) -> list[SlotTile]:
    """Every slot that the Finder can fill; `counts` are the shelf's parts by kind."""
    tiles = []
    for kind in fillable(model.anatomy):
        is_open = not build.has(kind.key)
        part = None if is_open else Part.of(kind, build.at(kind.key))
        asked = kind.key in look.slots if look.slots else is_open and kind.key in COMPLETED
        name = str(build.at(f"{kind.key}.name") or "no name")
        tiles.append(SlotTile(kind, part, name, is_open, asked, counts.get(kind.key, 0)))
    return tiles
