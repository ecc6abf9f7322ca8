"""What a remedy has to buy: which parts with which sizes or words, and whether a part that is known would do."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.remedies.altering import ALTERS
from marquetry.core.remedies.idea import Idea
from marquetry.core.sheet.difference import Edit, difference
from marquetry.core.sheet.part import Part

NEAR = 0.02
"""A part this near to the wanted size does as well, in mm or degrees: about what a caliper tells apart."""
ANOTHER = "other_"
"""How the kinds of remedies begin that put another part in the place of one that is there."""


@dataclass(frozen=True, slots=True)
class Bought:
    """Another part for a slot: what of it has to be otherwise than of the one that is there."""

    slot: str
    wanted: tuple[Edit, ...]

    def is_met_by(self, part: Part) -> bool:
        """Whether the part is known to be what is wanted; what is only assumed of it does not count."""
        return all(_is_met(part, path.partition(".")[2], wanted) for path, wanted in self.wanted)


def bought(idea: Idea) -> Iterator[Bought]:
    """The parts that an idea buys, its first steps' first; nothing for what is done to a part or made here."""
    if idea.first is not None:
        yield from bought(idea.first)
    kind = idea.kind.rpartition("+")[2]
    if idea.before is None or not kind.startswith(ANOTHER) or kind in ALTERS:
        return
    by_slot: dict[str, list[Edit]] = {}
    for path, wanted in difference(idea.before, idea.build):
        by_slot.setdefault(path.partition(".")[0], []).append((path, wanted))
    yield from (Bought(slot, tuple(edits)) for slot, edits in by_slot.items())


def _is_met(part: Part, below: str, wanted: object) -> bool:
    if isinstance(wanted, Mapping) and "value" in wanted:
        has = part.dimensions.get(below)
        return has is not None and has.source.is_known and abs(has.value - float(wanted["value"])) <= NEAR
    path = f"{part.kind.prefix}.{below}"
    return part.build.at(path) == wanted and path not in part.build.assumed_words
