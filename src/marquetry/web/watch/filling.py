"""Parts of the shelf put into a watch, or tried in it."""

from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.store import another_part, pieces, pieces_in_watch, shelf
from marquetry.store.database import transaction
from marquetry.web.watch.trial import trial_address
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")


def _with_part(visit: Visit, part_id: int, piece_id: int | None) -> Build:
    """The watch with the part in its slot: the piece named, else one that is free, else as a plan."""
    chosen = (
        pieces.piece(visit.connection, piece_id)
        if piece_id
        else pieces.free_piece(visit.connection, part_id, visit.stored.id)
    )
    if chosen is not None:
        return pieces_in_watch.filled(visit.before.build, chosen)
    return pieces_in_watch.planned(visit.before.build, shelf.part(visit.connection, part_id))


@router.post("/filled", name="fill")
def fill(
    visit: Visiting,
    version: Annotated[int, Form(ge=1)],
    part: Annotated[int, Form()],
    piece: Annotated[int | None, Form()] = None,
) -> Response:
    """Put a part of the shelf into its slot; what was there goes back onto the shelf."""
    stored = shelf.part(visit.connection, part)
    build, slot = _with_part(visit, part, piece), stored.part.kind.key
    old = another_part.name_in(visit.before.build, slot)
    change = f"{old} → {stored.part.name}, from the shelf" if old else f"from the shelf: {stored.part.name}"
    with transaction(visit.connection):
        if visit.trial is None and build != visit.stored.build and not stored.part.kind.is_many:
            now, version = another_part.put_old_away(visit.connection, visit.stored, version, slot)
            visit = visit.of(now)
        return visit.saved(version, build, change)


@router.get("/with", name="try_part")
def try_part(visit: Visiting, part: int, piece: int | None = None) -> Response:
    """A trial of the watch with the part in it."""
    return RedirectResponse(trial_address(visit, _with_part(visit, part, piece)), status_code=303)
