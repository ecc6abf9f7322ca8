"""Every size that a made part has: what its drawing names, and what slot, tabs, lugs, windows and ring add.

A version was once measured in the drawing's diameters and heights only: a window cut too wide could not be
told, and was made too wide again. What no fit needs may stay open.
"""

from collections.abc import Iterator, Mapping

from marquetry.core.making.measures import Measure, SizeKind
from marquetry.core.making.parts import MadePart
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.schema import Quantity

KINDS: Mapping[str, SizeKind] = {
    "outside": "outer",
    "inside": "inner",
    "depth": "height",
    "thickness": "height",
    "angle": "angle",
    "plan": "place",
}
"""How a size is measured tells how a printer errs in it; angles and places it holds far better than edges."""
DRAWN = ("marks",)
"""What is drawn on a part and not cut."""
FROM_OTHERS = ("grip_play", "peg_play")
"""Sizes that nobody can put a caliper to: they lie between the part and its neighbour."""


def every_size(part: MadePart) -> Iterator[Measure]:
    """Each size of the part that is a field, once: mm, and ° where its kind is `angle`."""
    named = {measure.path: measure for measure in part.measures() if measure.path}
    yield from named.values()
    for path, dimension in part.build.dimensions.items():
        if path in named or not _is_own(part, path):
            continue
        kind = size_kind(part.build.anatomy.quantity_at(path))
        yield Measure(size_label(part.build.anatomy, path), path, kind, dimension.value)


def size_label(anatomy: Anatomy, path: str) -> str:
    """A size as its part's own page calls it: `Tab 1, width`; two tabs have each their own."""
    label = anatomy.label_of(path).partition(", ")[2]
    return label[:1].upper() + label[1:]


def size_kind(quantity: Quantity) -> SizeKind:
    """How a printer or a cutter errs in such a size."""
    return KINDS.get(quantity.how.key, "outer")


def _is_own(part: MadePart, path: str) -> bool:
    """Whether the size is one that the part is made to: one of its rows, or of a feature that is on."""
    head, _, below = path.partition(f"{part.path}.")
    if head or not below or below.rpartition(".")[2] in FROM_OTHERS:
        return False
    entry = below.partition(".")[0]
    features = {key for feature in part.kind.features for key in feature.entries} - set(DRAWN)
    rows = {row.path for row in part.kind.rows(part.build, part.path)}
    return path in rows or entry in features
