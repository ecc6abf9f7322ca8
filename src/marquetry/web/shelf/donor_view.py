"""A donor on the page: drawn with what was taken, and what became of each of its pieces."""

from dataclasses import dataclass

from marquetry.core.values.money import Money
from marquetry.drawing.donor_drawing import donor_drawing
from marquetry.drawing.scene import Scene
from marquetry.store import pieces
from marquetry.store.database import Connection
from marquetry.store.donors import Donor, balance_of, tray_of, weights_of
from marquetry.store.pieces import Piece
from marquetry.web.shelf.part_view import PieceView, piece_view


@dataclass(frozen=True, slots=True)
class DonorView:
    """A donor with its drawing and its pieces."""

    donor: Donor
    drawing: Scene
    pieces: tuple[PieceView, ...]
    weights: dict[int, int]
    balance: Money | None
    brought: tuple[Money, ...]

    @property
    def tally(self) -> list[tuple[int, str]]:
        """How many of its pieces lie free, are kept, are in watches and have left; none is not told."""
        fates = [fate_of(view.piece) for view in self.pieces]
        return [(fates.count(fate), fate) for fate in FATES if fate in fates]

    def where(self, view: PieceView) -> str:
        """Where one of its pieces is, the donor's own tray told shortly."""
        in_tray = fate_of(view.piece) in {FREE, KEPT} and view.piece.stock.place == tray_of(self.donor.name)
        return "in its tray" if in_tray else view.where

    @property
    def is_left(self) -> bool:
        """Whether anything still lies free."""
        return any(fate_of(view.piece) == FREE for view in self.pieces)


FATES = FREE, KEPT, BUILT_IN, GONE = "free", "kept for a build", "in watches", "gone"


def fate_of(piece: Piece) -> str:
    """What became of a piece, as one of FATES."""
    if piece.watch_id is not None:
        return BUILT_IN
    if piece.state != "shelf":
        return GONE
    return FREE if piece.stock.kept_for is None else KEPT


def donor_view(connection: Connection, donor: Donor, on_bench: dict[int, str]) -> DonorView:
    """The donor as it is now."""
    held = pieces.pieces_of_donor(connection, donor.id)
    here = {piece.kind for piece in held if fate_of(piece) in {FREE, KEPT}}
    taken = {piece.kind for piece in held} - here
    return DonorView(
        donor,
        donor_drawing(donor.build, connection.model.rules(), taken),
        tuple(piece_view(connection, piece, on_bench) for piece in held),
        weights_of(connection, donor.id),
        *balance_of(connection, donor.id),
    )
