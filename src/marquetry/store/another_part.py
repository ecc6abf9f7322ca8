"""Another part is another part: what stood in the slot goes onto the shelf whole, and nothing of it stays."""

from dataclasses import replace

from marquetry.core.evidence.lapse import replaced
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.families import as_family, nearest, word_paths
from marquetry.core.sheet.part import LINKS, PART_LINK, PIECE_LINK, Part
from marquetry.core.sheet.statements import ASSUMED_WORDS
from marquetry.core.trade.terms import Terms
from marquetry.store import pieces, shelf, watches
from marquetry.store.database import Connection
from marquetry.store.families import usual_watches
from marquetry.store.pieces import Stock
from marquetry.store.watches import StoredWatch

FAULTY = "faulty"


def is_somebodys(build: Build, slot: str) -> bool:
    """Whether anything is known of the part in the slot: a family's part is nobody's."""
    held = build.at(slot)
    if not isinstance(held, dict):
        return False
    sized = any(found.source.is_known for found in build.sizes_of(slot).values())
    return sized or bool(held.get("name")) or any(held.get(link) is not None for link in LINKS)


def name_in(build: Build, slot: str) -> str:
    """What the part in the slot is called; its kind where it has no name, and nothing where there is none."""
    held = build.at(slot)
    if not isinstance(held, dict):
        return ""
    name = held.get("name")
    return name if isinstance(name, str) and name else build.anatomy.kind(slot.partition(".")[0]).label


def put_old_away(
    connection: Connection, stored: StoredWatch, based_on: int, slot: str, fault: str = ""
) -> tuple[StoredWatch, int]:
    """Make what stands in the slot a piece of the shelf, faulty where it is said why.

    The watch as it is then, and the version that the part's successor is saved upon.

    It lies on the shelf once the sheet names it no longer. What was described on the spot becomes a piece by
    a version of its own, so that an undo brings that piece back and leaves no second one on the shelf. Only
    what is known of it is kept: nobody ever said the rest. StaleVersionError where `based_on` is not newest.
    """
    held = stored.build.at(slot)
    if not isinstance(held, dict) or not is_somebodys(stored.build, slot):
        return stored, based_on
    number = held.get(PIECE_LINK)
    if not isinstance(number, int):
        if held.get(PART_LINK) is not None:
            return stored, based_on  # a plan by the catalogue: there is no piece to put anywhere
        stored, number = _as_piece(connection, stored, based_on, slot)
        based_on = stored.version
    if fault:
        stock = replace(pieces.piece(connection, number).stock, condition=FAULTY, fault=fault)
        pieces.change_stock(connection, number, stock)
    return stored, based_on


def _as_piece(
    connection: Connection, stored: StoredWatch, based_on: int, slot: str
) -> tuple[StoredWatch, int]:
    held = stored.build.at(slot)
    part = Part.of(stored.build.anatomy.kind(slot), _known_of(stored.build, slot, held))
    part_id = shelf.add_part(connection, part, Terms())
    number = pieces.add_piece(connection, part_id, Stock())
    build = stored.build.with_entry(slot, {**held, PART_LINK: part_id, PIECE_LINK: number})
    change = f"{name_in(build, slot)}: a piece of the shelf from now on"
    return watches.save(connection, stored.id, based_on, build, change), number


def blank(connection: Connection, build: Build, slot: str) -> Build:
    """The build with a part in the slot of which nothing is known: as usual ones are, by assumption only."""
    usual = nearest(build, usual_watches(connection), slot)
    if usual is None:
        return build.without(slot)
    made = build.with_entry(slot, as_family(usual).at(slot))
    made = replaced(made, [slot], connection.model.dry_fit_by_key)
    words = [path for path in word_paths(made) if path.startswith(f"{slot}.")]
    return made.with_statement(ASSUMED_WORDS, [*made.assumed_words, *words])


def _known_of(build: Build, slot: str, held: dict[str, Json]) -> dict[str, Json]:
    """The part's document without what is only assumed of it."""
    made = build
    for path, found in build.sizes_of(slot).items():
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
