"""What a watch still lacks: its empty and only planned slots, spares by rule, and things of the bench."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK, parts_of
from marquetry.core.trade.series import spares_of

ESSENTIAL = (
    "case", "case_back", "crystal", "crystal_gasket", "back_gasket", "dial", "hands", "movement", "stem",
    "crown", "strap",
)  # fmt: skip
"""What every watch has: an empty one of these slots is a need, another's emptiness is a choice."""
LackWhat = Literal["part", "sundry", "unknown"]


@dataclass(frozen=True, slots=True)
class Lack:
    """So many of something that is wanted.

    `key` names it: `part:12`, `sundry:3`; an unknown part by its kind. `why` is told beside it; `slot` is
    where it goes, `is_spare` where it goes nowhere yet.
    """

    what: LackWhat
    key: str
    name: str
    pieces: int
    why: str
    slot: str = ""
    is_spare: bool = False


def lacks_of(build: Build, count: int, spares: Mapping[str, int], names: Mapping[int, str]) -> Iterator[Lack]:
    """What the parts of so many watches like this one ask for, beside the pieces that are in it.

    `spares` in per cent by kind; `names` of the catalogue's parts by number. A part that is described in the
    watch alone is unknown to every supplier: it has to go into the catalogue first.
    """
    anatomy = build.anatomy
    for kind in (anatomy.kind(key) for key in ESSENTIAL if anatomy.has_kind(key)):
        if not build.has(kind.key):
            yield Lack("unknown", f"kind:{kind.key}", kind.label, count, "nothing chosen yet", kind.key)
    for slot, kind, document in parts_of(build):
        number, piece = document.get(PART_LINK), document.get(PIECE_LINK)
        wanted = count - (1 if isinstance(piece, int) else 0)
        if isinstance(number, int) and number in names:
            key, name = f"part:{number}", names[number]
            if wanted:
                yield Lack(
                    "part", key, name, wanted, "planned for it" if wanted == count else "for the others", slot
                )
            more = spares_of(spares.get(kind.key, 0), count)
            if more:
                yield Lack(
                    "part", key, name, more, f"spare, {spares[kind.key]} % of {count}", slot, is_spare=True
                )
        elif not isinstance(piece, int):
            label = str(document.get("name") or kind.label)
            yield Lack("unknown", f"slot:{slot}", label, count, "described here, not in the catalogue", slot)
