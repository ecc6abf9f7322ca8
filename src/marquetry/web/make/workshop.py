"""What hangs on all parts of a watch: the stage's own page, trials, a description read back."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, Query, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.making.parts import made_part
from marquetry.core.making.words import order_lines
from marquetry.core.values.errors import DimensionError, MarquetryError, SheetError
from marquetry.drawing.made.made_plate import made_plate
from marquetry.formats import build_sheet
from marquetry.formats.made_part import read_made
from marquetry.store import photos, trials
from marquetry.web.make.bodies import Bodies
from marquetry.web.make.forms import TrialForm, TrialToldForm
from marquetry.web.make.overview import make_overview
from marquetry.web.make.routes import part_address, part_of
from marquetry.web.make.view import made_query
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/make")


def shown(visit: Visit, fault: str = "") -> Response:
    """The stage's page, with what could not be done."""
    context = {"page": make_overview(visit, fault)}
    return render(visit.request, "make/templates/make.html", context, 422 if fault else 200)


def back(visit: Visit, where: str) -> Response:
    """Back to that place of the stage's page."""
    address = visit.request.app.url_path_for("make", watch_id=str(visit.stored.id))
    return RedirectResponse(f"{address}#{where}", status_code=303)


@router.get("", name="make")
def show(visit: Visiting) -> Response:
    """Parts made for the watch, what could be made, the printers' errors, batches and trials."""
    return shown(visit)


@router.get("/part/{name}/words", name="made_words")
def words(
    visit: Visiting, name: str, count: Annotated[int, Query(ge=1, le=1000)] = 1, material: str = ""
) -> Response:
    """One page for a cutter or a turner, to be printed or pasted into a letter."""
    part = part_of(visit, name)
    bodies: Bodies = visit.request.app.state.bodies
    body = bodies.of(part)
    context = {
        "watch": visit.stored,
        "way": visit.way("make"),
        "part": part,
        "count": count,
        "material": material[:60] or part.kind.material,
        "lines": order_lines(part, count, material[:60]),
        "scene": made_plate(body.drawing, part.measures(), "print", part.label),
    }
    return render(visit.request, "make/templates/words.html", context)


@router.post("/read", name="read_made")
def read(visit: Visiting, file: UploadFile) -> Response:
    """Try a part from its description; nothing is stored until it is kept."""
    content = file.file.read(build_sheet.MOST_BYTES + 1)
    try:
        found = read_made(content, visit.rules(visit.stored.build))
        document = found.build.at(found.path)
        if document is None:
            raise SheetError("sheet", "a sheet with the part in it")
        made_part(found.name, visit.stored.build, found.rules)
        path = (
            found.path
            if visit.stored.build.has(found.path) or not found.kind.is_many
            else f"{found.kind.part}.-"
        )
        build = visit.stored.build.with_entry(path, document)
    except MarquetryError as error:
        return shown(visit, str(error))
    tried = replace(visit, before=replace(visit.stored, build=build), trial=())
    return RedirectResponse(part_address(tried, found.name, made_query(tried, build)), status_code=303)


@router.post("/trials/{number}/removed", name="remove_trial")
def remove_trial(visit: Visiting, number: int) -> Response:
    """Forget a trial without pictures."""
    trials.remove_trial(visit.connection, visit.stored.id, number)
    return back(visit, "trials")


@router.post("/trials", name="add_trial")
def add_trial(visit: Visiting, edit: Annotated[TrialForm, Form()]) -> Response:
    """Note a trial of paint, coat, print or lume."""
    trials.add_trial(visit.connection, visit.stored.id, edit.read())
    return back(visit, "trials")


@router.post("/trials/{number}/told", name="tell_trial")
def tell_trial(visit: Visiting, number: int, edit: Annotated[TrialToldForm, Form()]) -> Response:
    """Note what a trial did, and whether it was chosen."""
    found = trials.trial_of(visit.connection, visit.stored.id, number)
    told = replace(found, did=edit.did.strip(), is_chosen=edit.chosen, version=edit.version)
    trials.tell_trial(visit.connection, visit.stored.id, told)
    return back(visit, "trials")


@router.post("/trials/{number}/photos", name="add_trial_photo")
def add_photo(
    visit: Visiting, number: int, photo: UploadFile, caption: Annotated[str, Form(max_length=200)] = ""
) -> Response:
    """Keep a picture of a trial, by day or by night."""
    trial = trials.trial_of(visit.connection, visit.stored.id, number)
    content = photo.file.read(photos.MOST_BYTES + 1)
    database = visit.request.app.state.database
    try:
        photos.add_photo(visit.connection, database, "trial", trial.id, content, caption.strip())
    except (SheetError, DimensionError) as error:
        return shown(visit, str(error))
    return back(visit, "trials")


@router.post("/trials/{number}/photos/{picture}/removed", name="remove_trial_photo")
def remove_photo(visit: Visiting, number: int, picture: int) -> Response:
    """Forget a picture of a trial."""
    trial = trials.trial_of(visit.connection, visit.stored.id, number)
    photos.remove_photo(visit.connection, visit.request.app.state.database, "trial", trial.id, picture)
    return back(visit, "trials")
