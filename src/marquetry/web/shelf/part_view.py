"""A part of the shelf on its page: drawing, dimensions, looks, terms, pieces, photographs."""

from dataclasses import dataclass, replace

from marquetry.core.face.face import seen_part
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.sheet.part import PART_LINK, Part
from marquetry.drawing.dimension_drawing import dimension_drawing
from marquetry.drawing.scene import Scene
from marquetry.store import fates, photos, pieces, shelf, watches
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.lessons import Lesson, lessons_about, shown_lessons
from marquetry.store.photos import Photo
from marquetry.store.pieces import CONDITIONS, MANY_FITTINGS, Move, Piece, State
from marquetry.store.shelf import StoredPart
from marquetry.store.suppliers import KnownOffer, Supplier, offers_of, suppliers
from marquetry.web.face.rows import looks_of
from marquetry.web.watch.rows import PartView, Rejected, Row, look_rows, part_view
from marquetry.web.watch.worth_rows import view_with_worth, worth_told

OFF_BENCH = "a watch off the bench"


@dataclass(frozen=True, slots=True)
class PieceView:
    """A piece with its history and where it is, in words."""

    piece: Piece
    history: list[Move]
    where: str
    is_hand: bool
    tired: bool
    """A hand fitted so often that it may no longer grip."""

    @property
    def ways(self) -> tuple[tuple[State, str], ...]:
        """What can become of it now, with the words for it."""
        leaves: tuple[tuple[State, str], ...] = (
            ("scrapped", "Scrap"), ("returned", "Return to seller"), ("sold", "Sold"),
        )  # fmt: skip
        return leaves if self.piece.state == "shelf" else (("shelf", "Back onto the shelf"),)


@dataclass(frozen=True, slots=True)
class PartPage:
    """All that the page shows."""

    stored: StoredPart
    at: str
    at_label: str
    drawing: Scene | None
    view: PartView
    looks: tuple[Row, ...]
    seen: PartView | None
    """How it is seen from the front, to be chosen; None for a kind that is not seen."""
    pieces: tuple[PieceView, ...]
    photos: list[Photo]
    watches: list[tuple[int, str]]
    suppliers: list[str]
    sellers: list[Supplier]
    offers: list[KnownOffer]
    errors: dict[str, str]
    lessons: list[Lesson]
    conditions: tuple[str, ...] = CONDITIONS
    palette: tuple[str, ...] = tuple(PALETTE)


def part_page(
    connection: Connection,
    stored: StoredPart,
    at: str = "",
    rejected: Rejected | None = None,
    errors: dict[str, str] | None = None,
) -> PartPage:
    """Compute the page; `at` is the dimension that the drawing shows."""
    on_bench = [(watch.id, watch.build.name) for watch in fates.watches_at_work(connection)]
    names = {watch.id: watch.build.name for watch in watches.all_watches(connection)}
    path, build = _shown_path(stored.part, at), stored.part.build
    return PartPage(
        stored,
        path,
        connection.model.anatomy.quantity_at(f"{stored.part.kind.prefix}.{path}").label if path else "",
        draw(stored.part, path, connection.model.rules()),
        _worth_beside(connection, stored, _view(stored.part, rejected)),
        look_rows(stored.part, rejected),
        looks_of(
            build,
            stored.part.kind,
            seen_part(build, connection.model.rules()).dress,
            stored.part.kind.prefix,
            rejected,
        ),
        tuple(piece_view(connection, piece, names) for piece in pieces.pieces_of_part(connection, stored.id)),
        photos.photos_of(connection, "part", stored.id),
        on_bench,
        shelf.suppliers(connection),
        suppliers(connection),
        offers_of(connection, stored.id),
        errors or {},
        lessons_about(shown_lessons(connection), stored.part.kind.key, stored.id),
    )


def _worth_beside(connection: Connection, stored: StoredPart, view: PartView) -> PartView:
    """The part's rows with what its seller's figures are worth beside the listed ones."""
    if stored.part.kind.is_many:
        return view
    worth, in_force = worth_told(connection, connection.model.rules(None, rule_values(connection)))
    owner = stored.part.kind.slot
    linked = stored.part.build.with_entry(owner, {**stored.part.document, PART_LINK: stored.id})
    return view_with_worth(view, linked, worth, in_force=in_force)


def draw(part: Part, path: str, rules: Rules) -> Scene | None:
    """The part with one dimension on it."""
    return dimension_drawing(part, path, rules) if path else None


def piece_view(connection: Connection, piece: Piece, on_bench: dict[int, str]) -> PieceView:
    """A piece with what became of it."""
    return PieceView(
        piece,
        pieces.moves(connection, piece.id),
        _where(piece, on_bench),
        piece.kind == "hands",
        piece.fittings >= MANY_FITTINGS,
    )


def _where(piece: Piece, on_bench: dict[int, str]) -> str:
    if piece.watch_id is not None:
        return f"in {on_bench.get(piece.watch_id, OFF_BENCH)}"
    if piece.state != "shelf":
        return piece.state
    return f"on the shelf: {piece.stock.place}" if piece.stock.place else "on the shelf"


def _shown_path(part: Part, at: str) -> str:
    """The dimension asked for, else the first that is known, else the first there is."""
    prefix = f"{part.kind.prefix}."
    asked = at.removeprefix(prefix)
    known = [path for path, _ in part.kind.quantities()]
    if asked in known or asked in part.dimensions:
        return asked
    measured = [path for path in known if path in part.dimensions]
    return next(iter([*measured, *known]), "")


def _view(part: Part, rejected: Rejected | None) -> PartView:
    """The part's rows; of a list, those of its one thing. A part cannot be taken out of itself."""
    shown = part_view(part.build, part.kind.described, rejected)
    if part.kind.is_many:
        shown = shown.inner[0]
    return replace(shown, removable=False)
