"""How a watch looks: its page, its looks edited, parts of the shelf tried on, the face as a file."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import change_of_entry
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import pieces, pieces_in_watch, shelf, variants, watches
from marquetry.store.watches import StoredWatch
from marquetry.web.face.look import FaceLook
from marquetry.web.face.view import dressed, face_page, face_scene, lit_face
from marquetry.web.site.pages import render
from marquetry.web.watch.downloads import svg_file
from marquetry.web.watch.forms import EntryEdit, NamedEdit, PathEdit, VersionForm
from marquetry.web.watch.rows import Rejected
from marquetry.web.watch.trial import trial_address
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/face")
FaceLooking = Annotated[FaceLook, Query()]


def _answer(visit: Visit, look: FaceLook, rejected: Rejected | None = None) -> Response:
    """The page, or for its own script what of it may have changed."""
    template = "_face_changed" if visit.fragments else "face"
    status = 422 if rejected and not visit.fragments else 200
    page = face_page(visit, look, rejected)
    return render(visit.request, f"face/templates/{template}.html", {"page": page}, status)


def _saved(visit: Visit, look: FaceLook, version: int, build: Build, change: str) -> Response:
    if build == visit.stored.build:
        return _after(visit, look, visit.stored)
    visit.report(build, like=visit.stored.build)
    return _after(
        visit, look, watches.save(visit.connection, visit.stored.id, version, build, change, visit.stored)
    )


def _after(visit: Visit, look: FaceLook, watch: StoredWatch) -> Response:
    if visit.fragments:
        return _answer(visit.of(watch), look)
    address = visit.request.app.url_path_for("face", watch_id=str(watch.id))
    return RedirectResponse(f"{address}{look.address()}", status_code=303)


@router.get("", name="face")
def show(visit: Visiting, look: FaceLooking) -> Response:
    """The watch as it looks, by day, by night or on the wrist."""
    return _answer(visit, look)


@router.get(".svg", name="face_svg")
def as_file(visit: Visiting, look: FaceLooking) -> Response:
    """The drawing that the page shows, as a file of its own."""
    build = dressed(visit, look)
    report = visit.report(build, like=visit.stored.build)
    scene = face_scene(build, lit_face(visit, build, report), report, look)
    return svg_file(scene, build.name, f"face-{look.show}")


@router.post("/entries", name="change_look")
def change_look(visit: Visiting, look: FaceLooking, edit: Annotated[EntryEdit, Form()]) -> Response:
    """Change one look; what is refused comes back beside its field, as it was typed."""
    try:
        build = edit.applied_to(visit.stored.build)
    except (DimensionError, SheetError) as error:
        typed = (edit.value, edit.tol, edit.source.value)
        return _answer(visit, look, Rejected(edit.path, edit.place, *typed, str(error)))
    return _saved(visit, look, edit.version, build, change_of_entry(visit.stored.build, build, edit.path))


@router.post("/things", name="add_look")
def add_look(visit: Visiting, look: FaceLooking, edit: Annotated[PathEdit, Form()]) -> Response:
    """Add a set of markers, a line of print, a hand with looks of its own."""
    words = f"added: {visit.model.anatomy.label_of(edit.path.removesuffix('.-'))}"
    return _saved(visit, look, edit.version, edit.added_to(visit.stored.build), words)


@router.post("/things/removed", name="remove_look")
def remove_look(visit: Visiting, look: FaceLooking, edit: Annotated[PathEdit, Form()]) -> Response:
    """Take a set of markers, a line of print, a hand's own looks away."""
    words = f"removed: {visit.model.anatomy.label_of(edit.path)}"
    return _saved(visit, look, edit.version, edit.taken_from(visit.stored.build), words)


@router.post("/undo", name="face_undo")
def undo(visit: Visiting, look: FaceLooking, edit: Annotated[VersionForm, Form()]) -> Response:
    """Bring back the sheet from before the last change."""
    return _after(visit, look, watches.undo(visit.connection, visit.stored.id, edit.version))


@router.post("/redo", name="face_redo")
def redo(visit: Visiting, look: FaceLooking, edit: Annotated[VersionForm, Form()]) -> Response:
    """Bring back what the last undo took away."""
    return _after(visit, look, watches.redo(visit.connection, visit.stored.id, edit.version))


@router.get("/section", name="face_to_section")
def to_section(visit: Visiting, look: FaceLooking) -> Response:
    """The watch as it is dressed, tried in section: what fits, and what does not."""
    return RedirectResponse(trial_address(visit, dressed(visit, look)), status_code=303)


@router.post("/worn", name="keep_worn")
def keep_worn(visit: Visiting, look: FaceLooking, edit: Annotated[VersionForm, Form()]) -> Response:
    """Put what is tried on into the watch: a free piece where there is one, else as a plan."""
    build, names = visit.stored.build, []
    for kind, number in look.worn.items():
        stored = shelf.part(visit.connection, number)
        if stored.part.kind.key == kind:
            free = pieces.free_piece(visit.connection, number, visit.stored.id)
            build = pieces_in_watch.filled(build, free) if free else pieces_in_watch.planned(build, stored)
            names.append(stored.part.name)
    plain = look.model_copy(update={"wear": ""})
    return _saved(visit, plain, edit.version, build, f"from the shelf: {', '.join(names)}"[:200])


@router.post("/variants", name="worn_variant")
def worn_variant(visit: Visiting, look: FaceLooking, edit: Annotated[NamedEdit, Form()]) -> Response:
    """Keep what is tried on beside the watch, to be compared with it."""
    name = edit.name.strip() or "Variant"
    variants.add_variant(visit.connection, visit.stored.id, name, dressed(visit, look))
    address = visit.request.app.url_path_for("compare", watch_id=str(visit.stored.id))
    return RedirectResponse(address, status_code=303)
