"""Spares by rule, and how many of exactly one watch can still be made."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.values.errors import DimensionError

SPARES: Mapping[str, int] = {
    "hands": 20, "dial": 10, "stem": 50, "crystal_gasket": 20, "back_gasket": 20, "screws": 100,
}  # fmt: skip
"""Spares in per cent of the batch, by kind, as shipped; a workshop sets its own."""
MOST_PERCENT = 1000


def spares_of(percent: int, used: int) -> int:
    """Whole count of spares for so many used: the per cent rounded up, at least one where any is used.

    DimensionError for a per cent that is none.
    """
    if not 0 <= percent <= MOST_PERCENT:
        raise DimensionError("spares", percent, "%", f"0 to {MOST_PERCENT} %")
    return max(-(-used * percent // 100), 1) if used and percent else 0


@dataclass(frozen=True, slots=True)
class PartForSeries:
    """What is there of a part of which each watch takes so many; `more` can be bought, None: no end."""

    key: str
    name: str
    each: int
    there: int
    more: int | None

    @property
    def reaches(self) -> int | None:
        """For how many watches it reaches; None where there is no end of it."""
        return None if self.more is None else (self.there + self.more) // self.each


@dataclass(frozen=True, slots=True)
class SeriesReach:
    """How many can be made, which parts end it, and how many from the shelf alone; None: no end is known."""

    count: int | None
    ends: tuple[str, ...]
    from_shelf: int


def series_reach(parts: Sequence[PartForSeries]) -> SeriesReach:
    """How many of exactly this watch can be made from shelf and offers now, and which part ends it."""
    known = {part.name: reach for part in parts if (reach := part.reaches) is not None}
    count = min(known.values(), default=None)
    ends = tuple(name for name, reach in known.items() if reach == count)
    return SeriesReach(count, ends, min((part.there // part.each for part in parts), default=0))


def both_reach(first: Sequence[PartForSeries], second: Sequence[PartForSeries]) -> tuple[int, ...]:
    """How many of the second can be made beside 0, 1, 2 … of the first, where they share parts; ends at none.

    Parts are the same where their keys are; at most a hundred of the first are tried.
    """
    found = []
    shared_keys = {part.key: part for part in first}
    for made in range(101):
        alone = series_reach(first).count
        if alone is not None and made > alone:
            break
        left = []
        for part in second:
            used = shared_keys[part.key].each * made if part.key in shared_keys else 0
            from_shelf = min(used, part.there)
            more = None if part.more is None else part.more - (used - from_shelf)
            left.append(PartForSeries(part.key, part.name, part.each, part.there - from_shelf, more))
        reach = series_reach(left).count
        if reach is None:
            break
        found.append(reach)
    return tuple(found)
