"""Batches of blanks on the Make page: pieces begun, taken through stages, told good, test or spoilt."""

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import Response

from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import blanks, photos
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.make.forms import BatchForm, BlankCountForm, BlanksToldForm
from marquetry.web.make.workshop import back, shown
from marquetry.web.watch.visit import Visiting

router = APIRouter(prefix="/watches/{watch_id}/make/batches")


@router.post("", name="add_batch")
def add_batch(visit: Visiting, edit: Annotated[BatchForm, Form()]) -> Response:
    """Begin a batch of blanks, samples or attempts, with as many as were bought."""
    name = edit.name.strip() or "Blanks"
    number = blanks.add_batch(visit.connection, visit.stored.id, name, edit.wanted)
    if edit.read_bought():
        blanks.add_blanks(visit.connection, visit.stored.id, number, edit.read_bought())
    return back(visit, f"batch-{number}")


@router.post("/{number}/blanks", name="add_blanks")
def add_blanks(visit: Visiting, number: int, edit: Annotated[BlankCountForm, Form()]) -> Response:
    """So many blanks more, numbered on."""
    try:
        blanks.add_blanks(visit.connection, visit.stored.id, number, edit.count)
    except DimensionError as error:
        return shown(visit, str(error))
    return back(visit, f"batch-{number}")


@router.post("/{number}/told", name="tell_blanks")
def tell_blanks(visit: Visiting, number: int, edit: Annotated[BlanksToldForm, Form()]) -> Response:
    """Note of the chosen blanks a stage, what became of them, or that they never were."""
    watch = visit.stored.id
    try:
        chosen = edit.chosen()
        cost = edit.read_cost(trade_terms(visit.connection).home)
        if edit.what == "stage":
            blanks.through(visit.connection, watch, number, chosen, edit.named_stage(), cost)
        elif edit.what == "gone":
            blanks.remove_blanks(visit.connection, watch, number, chosen)
        else:
            told = (edit.stage.strip(), edit.why.strip())
            blanks.become(visit.connection, watch, number, chosen.items(), edit.what, *told)
    except (DimensionError, SheetError) as error:
        return shown(visit, str(error))
    return back(visit, f"batch-{number}")


@router.post("/{number}/stages/{stage}/removed", name="take_back_stage")
def take_back(visit: Visiting, number: int, stage: int) -> Response:
    """Take a stage of a blank back."""
    blanks.take_back_stage(visit.connection, visit.stored.id, number, stage)
    return back(visit, f"batch-{number}")


@router.post("/{number}/blanks/{blank}/piece", name="blank_as_piece")
def as_piece(visit: Visiting, number: int, blank: int) -> Response:
    """Lay a blank on the shelf as a piece of its own."""
    blanks.as_piece(visit.connection, visit.stored.id, number, blank, visit.stored.build)
    return back(visit, f"batch-{number}")


@router.post("/{number}/blanks/{blank}/photos", name="add_blank_photo")
def add_photo(
    visit: Visiting,
    number: int,
    blank: int,
    photo: UploadFile,
    caption: Annotated[str, Form(max_length=200)] = "",
) -> Response:
    """Keep a picture of a blank."""
    owner = blanks.blank_of(visit.connection, visit.stored.id, number, blank).id
    content = photo.file.read(photos.MOST_BYTES + 1)
    database = visit.request.app.state.database
    try:
        photos.add_photo(visit.connection, database, "blank", owner, content, caption.strip())
    except (SheetError, DimensionError) as error:
        return shown(visit, str(error))
    return back(visit, f"batch-{number}")


@router.post("/{number}/blanks/{blank}/photos/{picture}/removed", name="remove_blank_photo")
def remove_photo(visit: Visiting, number: int, blank: int, picture: int) -> Response:
    """Forget a picture of a blank."""
    owner = blanks.blank_of(visit.connection, visit.stored.id, number, blank).id
    photos.remove_photo(visit.connection, visit.request.app.state.database, "blank", owner, picture)
    return back(visit, f"batch-{number}")


@router.post("/{number}/removed", name="remove_batch")
def remove_batch(visit: Visiting, number: int) -> Response:
    """Forget a batch without blanks."""
    blanks.remove_batch(visit.connection, visit.stored.id, number)
    return back(visit, "batches")
