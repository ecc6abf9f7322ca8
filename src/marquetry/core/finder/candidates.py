"""Parts that may fill a slot, as columns: in groups of which the same is known."""

import json
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from marquetry.core.fit.columns import Column
from marquetry.core.fit.sellers import SellersWorth
from marquetry.core.fit.stack import Floats
from marquetry.core.remedies.feet import PAD
from marquetry.core.remedies.idea import MADE_TOL
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.sheet.families import LISTING
from marquetry.core.sheet.part import LINKS, Part
from marquetry.core.values.dimension import Dimension, Source

NO_PRICE = 10**9
"""A part without a price, or priced in another currency, counts after all that can be compared."""


@dataclass(frozen=True)
class Candidate:
    """One part for a slot.

    `owned`: nothing is to be paid; `price` in hundredths, None where not known. `missed` wishes it does not
    meet. `on_pads`: a dial whose feet are taken off, its thickness told with the pads under it.
    """

    number: int
    part: Part
    owned: bool = False
    price: int | None = None
    missed: int = 0
    on_pads: bool = False

    @property
    def cost(self) -> int:
        """What has to be paid, in hundredths."""
        return 0 if self.owned else NO_PRICE if self.price is None else self.price

    @cached_property
    def structure(self) -> str:
        """All that formulas may branch on: which dimensions are known, words, how many things in lists."""
        looks = {look.key for look in self.part.kind.looks}
        plain = {k: v for k, v in self.part.document.items() if k not in {"name", LISTING, *looks, *LINKS}}
        return json.dumps(_shape(plain), sort_keys=True)


def _shape(node: Json) -> Json:
    if isinstance(node, dict):
        # Whether a size is only assumed decides what may be said of it, whatever it measures.
        if "value" in node:
            return "~" if node.get("source") == Source.ASSUMED else "#"
        return {key: _shape(value) for key, value in node.items()}
    return [_shape(item) for item in node] if isinstance(node, list) else node


@dataclass(frozen=True)
class Alike:
    """Candidates that a formula cannot tell apart but by their figures; `members` are their places."""

    slot: str
    members: np.ndarray[tuple[int], np.dtype[np.int64]]
    document: Json
    columns: dict[str, Column]

    def column(self, path: str, axis: int, dims: int) -> Column:
        """The dimension's column along one of several axes."""
        shape = [1] * dims
        shape[axis] = len(self.members)
        found = self.columns[path]
        return Column(found.values.reshape(shape), found.tols.reshape(shape))


@dataclass(frozen=True)
class Slot:
    """A slot to be filled with one of its candidates."""

    kind: str
    candidates: tuple[Candidate, ...]
    worth: SellersWorth | None = None
    groups: tuple[Alike, ...] = field(init=False)
    costs: Floats = field(init=False)
    bought: Floats = field(init=False)
    missed: Floats = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "groups", tuple(_groups(self.kind, self.candidates, self.worth)))
        object.__setattr__(self, "costs", np.array([c.cost for c in self.candidates], dtype=np.float64))
        object.__setattr__(self, "bought", np.array([not c.owned for c in self.candidates], dtype=np.float64))
        object.__setattr__(self, "missed", np.array([c.missed for c in self.candidates], dtype=np.float64))

    def sums(self, place: int) -> tuple[int, int, int]:
        """Cost, whether it is to be bought, and wishes missed, of one candidate."""
        candidate = self.candidates[place]
        return candidate.cost, int(not candidate.owned), candidate.missed

    def least_sums(self, fitting: NDArray[np.bool_]) -> tuple[int, int, int]:
        """The least of each over the candidates that still fit."""
        return (
            int(self.costs[fitting].min()), int(self.bought[fitting].min()), int(self.missed[fitting].min()),
        )  # fmt: skip

    @cached_property
    def group_of(self) -> np.ndarray[tuple[int], np.dtype[np.int64]]:
        """For each candidate the number of its group."""
        found = np.zeros(len(self.candidates), dtype=np.int64)
        for number, group in enumerate(self.groups):
            found[group.members] = number
        return found

    @cached_property
    def row_of(self) -> np.ndarray[tuple[int], np.dtype[np.int64]]:
        """For each candidate its row in its group's columns."""
        found = np.zeros(len(self.candidates), dtype=np.int64)
        for group in self.groups:
            found[group.members] = np.arange(len(group.members))
        return found


def _groups(kind: str, candidates: Sequence[Candidate], worth: SellersWorth | None) -> list[Alike]:
    by_structure: dict[str, list[int]] = {}
    for place, candidate in enumerate(candidates):
        by_structure.setdefault(candidate.structure, []).append(place)
    return [_group(kind, candidates, members, worth) for members in by_structure.values()]


def _group(
    kind: str, candidates: Sequence[Candidate], members: list[int], worth: SellersWorth | None
) -> Alike:
    first = candidates[members[0]].part
    columns = {}
    for path in first.dimensions:
        known = [_believed(candidates[member], path, worth) for member in members]
        columns[f"{first.kind.prefix}.{path}"] = Column(
            np.array([dimension.value for dimension in known]),
            np.array([dimension.tol for dimension in known]),
        )
    return Alike(kind, np.array(members, dtype=np.int64), first.document, columns)


def _believed(candidate: Candidate, path: str, worth: SellersWorth | None) -> Dimension:
    """A candidate's dimension as the report would take it once it is in the watch."""
    known = candidate.part.dimensions[path]
    return worth.of_part_believed(candidate.number, candidate.part, path, known) if worth else known


def without_feet(candidate: Candidate) -> Candidate | None:
    """The same dial with its feet off, on adhesive pads; None for one that has no feet or no thickness."""
    document, thickness = candidate.part.document, candidate.part.dimensions.get("thickness")
    if not document.get("feet") or thickness is None:
        return None
    padded = Dimension(thickness.value + PAD, thickness.tol + MADE_TOL, thickness.source)
    part = Part.of(candidate.part.kind, {**document, "feet": [], "thickness": dimension_as_json(padded)})
    return replace(candidate, part=part, on_pads=True)


def off_pads(candidate: Candidate) -> tuple[Json, Json]:
    """The dial on pads as the sheet has it: as thick as it is, the pads a spacer behind it."""
    known = candidate.part.dimensions["thickness"]
    bare = Dimension(round(known.value - PAD, 6), round(known.tol - MADE_TOL, 6), known.source)
    pad = dimension_as_json(Dimension(PAD, MADE_TOL, Source.PLANNED))
    document = {**candidate.part.document, "thickness": dimension_as_json(bare)}
    return document, {"side": "movement", "thickness": pad}


NOTHING = 1e-9
"""The thickness that stands for no spacer: no part may have none at all."""


def spacer_candidates(anatomy: Anatomy, most: float, step: float = 0.02) -> tuple[Candidate, ...]:
    """No spacer, and each that can be made for the dial side up to `most` mm in steps; those are bought."""
    kind = anatomy.kind(SPACERS.key)
    sizes = [round(k * step, 4) for k in range(round(most / step) + 1)]
    made = []
    for size in sizes:
        thickness = dimension_as_json(Dimension(size or NOTHING, 0.02 if size else 0.0, Source.PLANNED))
        part = Part.of(kind, {"side": "dial", "thickness": thickness, "name": f"spacer {size:.2f}"})
        made.append(Candidate(-round(size * 1000), part, owned=size == 0.0, price=0))
    return tuple(made)
