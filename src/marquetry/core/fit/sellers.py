"""What the workshop's sellers' figures are worth: the tolerance that a listed figure of theirs deserves.

Where the workshop goes by it (school `school_listed`), a listed dimension of a part whose seller is known is
read with that tolerance by every check; the sheet keeps what the seller claimed.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK, Part
from marquetry.core.sheet.schema import Nature
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import NotFoundError

WorthKind = Literal["diameter", "thickness", "height", "length", "place", "angle"]
WORTH_LABELS: dict[WorthKind, str] = {
    "diameter": "Diameters",
    "thickness": "Thicknesses",
    "height": "Heights and depths",
    "length": "Lengths and widths",
    "place": "Places",
    "angle": "Angles",
}
KIND_OF_NATURE: dict[Nature, WorthKind] = {
    "diameter": "diameter", "thickness": "thickness", "height": "height", "depth": "height",
    "length": "length", "width": "length", "radius": "place", "angle": "angle",
}  # fmt: skip
"""What is listed in one way and missed in one way is judged together."""
SCHOOL_LISTED, CLAIMED, LEARNED = "school_listed", "claimed", "learned"


@dataclass(frozen=True, slots=True)
class DeservedTolerance:
    """The tolerance that figures of one kind from one seller deserve, mm or degrees, from so many pairs."""

    supplier: str
    tolerance: float
    pairs: int


@dataclass(frozen=True, slots=True)
class SellersWorth:
    """Tolerances by seller and kind of dimension, and who sells which part and piece of the shelf."""

    deserved: Mapping[tuple[str, WorthKind], DeservedTolerance] = field(default_factory=dict)
    of_part: Mapping[int, str] = field(default_factory=dict)
    of_piece: Mapping[int, str] = field(default_factory=dict)

    def __hash__(self) -> int:
        # What a report hangs on has to be a key; of thousands of parts a count is enough to tell most apart.
        return hash((len(self.deserved), len(self.of_part), len(self.of_piece)))

    def at(self, build: Build, path: str) -> DeservedTolerance | None:
        """What the figure at a path deserves; None where its seller is not known, or nothing of him is."""
        seller = self.seller(build, path)
        if not seller:
            return None
        try:
            nature = build.anatomy.quantity_at(path).nature
        except NotFoundError:
            return None
        return self._deserved(seller, nature)

    def _deserved(self, seller: str, nature: Nature) -> DeservedTolerance | None:
        return self.deserved.get((seller, KIND_OF_NATURE[nature]))

    def seller(self, build: Build, path: str) -> str:
        """Who sold the part that the path is of; empty where that is not known."""
        words = path.split(".")
        held = build.at(".".join(words[:2])) if words[1:] and words[1].isdigit() else build.at(words[0])
        if not isinstance(held, dict):
            return ""
        piece, part = held.get(PIECE_LINK), held.get(PART_LINK)
        of_piece = self.of_piece.get(piece, "") if isinstance(piece, int) else ""
        return of_piece or (self.of_part.get(part, "") if isinstance(part, int) else "")

    def believed(self, build: Build, path: str, dimension: Dimension | None) -> Dimension | None:
        """The dimension with the tolerance that it deserves, where it is listed and its seller is known."""
        if dimension is None or dimension.source is not Source.LISTED:
            return dimension
        return _with(self.at(build, path), dimension)

    def of_part_believed(self, number: int, part: Part, path: str, dimension: Dimension) -> Dimension:
        """The same of a part of the catalogue by its number, its path below the part."""
        seller = self.of_part.get(number, "")
        if not seller or dimension.source is not Source.LISTED:
            return dimension
        nature = part.build.anatomy.quantity_at(f"{part.kind.prefix}.{path}").nature
        return _with(self._deserved(seller, nature), dimension)


def _with(deserved: DeservedTolerance | None, listed: Dimension) -> Dimension:
    return listed if deserved is None else Dimension(listed.value, deserved.tolerance, Source.LISTED)
