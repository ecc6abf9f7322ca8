"""Another part is another part: what stood in the slot goes onto the shelf whole, and nothing of it stays."""

from dataclasses import replace

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import LINKS, PIECE_LINK, Part
from marquetry.core.trade.terms import Terms
from marquetry.store import pieces, shelf
from marquetry.store.database import Connection
from marquetry.store.pieces import Stock

FAULTY = "faulty"


def is_somebodys(build: Build, slot: str) -> bool:
    """Whether anything is known of the part in the slot: a family's part is nobody's."""
    held = build.at(slot)
    if not isinstance(held, dict):
        return False
    sized = any(found.source.is_known for found in build.known_of(slot).values())
    return sized or bool(held.get("name")) or any(held.get(link) is not None for link in LINKS)


def name_in(build: Build, slot: str) -> str:
    """What the part in the slot is called; its kind where it has no name, and nothing where there is none."""
    held = build.at(slot)
    if not isinstance(held, dict):
        return ""
    name = held.get("name")
    return name if isinstance(name, str) and name else build.anatomy.kind(slot.partition(".")[0]).label


def put_old_away(connection: Connection, build: Build, slot: str, fault: str = "") -> None:
    """Put what stands in the slot on the shelf as a piece, faulty where it is said why.

    A piece of the shelf goes back by itself once the sheet no longer names it. Of what was described on the
    spot only what is known is kept: nobody ever said the rest.
    """
    held = build.at(slot)
    if not isinstance(held, dict) or not is_somebodys(build, slot):
        return
    number = held.get(PIECE_LINK)
    if not isinstance(number, int):
        if held.get(LINKS[0]) is not None:
            return  # a plan by the catalogue: there is no piece to put anywhere
        part = Part.of(build.anatomy.kind(slot.partition(".")[0]), _known_of(build, slot, held))
        part_id = shelf.add_part(connection, part, Terms())
        number = pieces.add_piece(connection, part_id, Stock())
    if fault:
        stock = replace(pieces.piece(connection, number).stock, condition=FAULTY, fault=fault)
        pieces.change_stock(connection, number, stock)


def _known_of(build: Build, slot: str, held: dict[str, Json]) -> dict[str, Json]:
    """The part's document without what is only assumed of it."""
    made = build
    for path, found in build.known_of(slot).items():
        # A foot keeps its place in the list: only whole parts lose what nobody said.
        if not found.source.is_known and not any(step.isdecimal() for step in path.split(".")):
            made = made.without(path)
    for path in build.assumed_words:
        if path.startswith(f"{slot}.") and made.at(path) is not None:
            made = made.without(path)
    kept = made.at(slot)
    document = dict(kept) if isinstance(kept, dict) else dict(held)
    document.setdefault("name", build.anatomy.kind(slot).label)
    return document
