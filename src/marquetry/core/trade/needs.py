"""What a watch still lacks: its empty and only planned slots, spares by rule, and things of the bench."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
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
    where it goes, `is_spare` where it goes nowhere yet. `is_told`: whether anybody said that it is wanting; a
    part that only the family assumes, and a tool that nobody counted or offers, may be there.
    """

    what: LackWhat
    key: str
    name: str
    pieces: int
    why: str
    slot: str = ""
    is_spare: bool = False
    is_told: bool = True


def lacks_of(
    build: Build,
    count: int,
    spares: Mapping[str, int],
    names: Mapping[int, str],
    beside: Sequence[int] = (),
) -> Iterator[Lack]:
    """What the parts of so many watches like this one ask for, beside the pieces that are in it.

    `spares` in per cent by kind; `names` of the catalogue's parts by number; `beside` those that each watch
    needs beside the part in its slot. A part that is described in the watch alone is unknown to every
    supplier: it has to go into the catalogue first. What came assembled with a part that is bought comes with
    that.
    """
    for one in beside:
        if one in names:
            yield Lack("part", f"part:{one}", names[one], count, "beside the one in it")
    brought = _brought(build)
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
        elif not isinstance(piece, int) and slot not in brought:
            label, told = str(document.get("name") or kind.label), _is_anybodys(build, slot, document)
            why = "described here, not in the catalogue" if told else "assumed: nobody chose one yet"
            yield Lack("unknown", f"slot:{slot}", label, count, why, slot, is_told=told)


def _brought(build: Build) -> frozenset[str]:
    """Slots of what comes assembled with a part that is in the catalogue or lies here."""
    return frozenset(
        slot
        for group in build.together
        if any(
            isinstance(build.at(f"{one}.{link}"), int) for one in group for link in (PART_LINK, PIECE_LINK)
        )
        for slot in group
    )


def _is_anybodys(build: Build, slot: str, document: Mapping[str, Json]) -> bool:
    """Whether anything is known of a part: one that a family brought is nobody's choice."""
    return bool(document.get("name")) or any(found.source.is_known for found in build.sizes_of(slot).values())
