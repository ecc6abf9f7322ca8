"""One part of the shelf: dimensions and looks edited like those of a watch, its terms, its photographs."""

from typing import Annotated

from fastapi import APIRouter, Form, Request, UploadFile
from starlette.responses import FileResponse, RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import filled_up, nearest
from marquetry.core.sheet.part import Part
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.store import photos, shelf
from marquetry.store.families import usual_watches
from marquetry.store.shelf import StoredPart
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.shelf.forms import TermsForm
from marquetry.web.shelf.part_view import PartPage, part_page
from marquetry.web.site.deps import Connection, Fragments, wants_fragments
from marquetry.web.site.pages import render
from marquetry.web.watch.forms import EntryEdit, PathEdit, VersionForm
from marquetry.web.watch.rows import Rejected

router = APIRouter()
MOST_READ = photos.MOST_BYTES + 1


def _answer(request: Request, page: PartPage, template: str = "_part_changed", status: int = 200) -> Response:
    """What changed, for the page's own script; else the page."""
    if wants_fragments(request):
        return render(request, f"shelf/templates/{template}.html", {"page": page})
    return render(request, "shelf/templates/part.html", {"page": page}, status)


def _to(request: Request, part_id: int, anchor: str = "") -> Response:
    address = request.app.url_path_for("part", part_id=str(part_id))
    return RedirectResponse(f"{address}{anchor}", status_code=303)


@router.get("/parts/{part_id}", name="part")
def show(
    request: Request, connection: Connection, part_id: int, fragments: Fragments, at: str = ""
) -> Response:
    """The part; for the page's own script, the drawing of another dimension."""
    page = part_page(connection, shelf.part(connection, part_id), at)
    return _answer(request, page, "_part_drawing" if fragments else "")


def _saved(
    request: Request, connection: Connection, before: StoredPart, edit: VersionForm, build: Build
) -> Response:
    part = Part.of(before.part.kind, build.at(before.part.kind.prefix) or {})
    after = before
    if part.document != before.part.document:
        after = shelf.change_part(connection, before.id, edit.version, part, before.terms)
    if not wants_fragments(request):
        return _to(request, before.id)
    path = edit.path if isinstance(edit, EntryEdit) else ""
    return _answer(request, part_page(connection, after, path.removeprefix(f"{part.kind.prefix}.")))


def _own(stored: StoredPart, path: str) -> None:
    """Raise NotFoundError where the path leads out of the part."""
    if not path.startswith(f"{stored.part.kind.prefix}."):
        raise NotFoundError(f"entry {path!r} in this part")


@router.post("/parts/{part_id}/entries", name="change_part_entry")
def change_entry(
    request: Request, connection: Connection, part_id: int, edit: Annotated[EntryEdit, Form()]
) -> Response:
    """Change one entry; what is refused comes back beside its field, as it was typed."""
    stored = shelf.part(connection, part_id)
    _own(stored, edit.path)
    try:
        build = edit.applied_to(stored.part.build)
    except (DimensionError, SheetError) as error:
        rejected = Rejected(edit.path, edit.place, edit.value, edit.tol, edit.source.value, str(error))
        return _answer(request, part_page(connection, stored, "", rejected), status=422)
    return _saved(request, connection, stored, edit, build)


@router.post("/parts/{part_id}/things", name="add_to_part")
def add_thing(
    request: Request, connection: Connection, part_id: int, edit: Annotated[PathEdit, Form()]
) -> Response:
    """Add a foot, a hand, a window: whatever the path names."""
    stored = shelf.part(connection, part_id)
    _own(stored, edit.path)
    return _saved(request, connection, stored, edit, edit.added_to(stored.part.build))


@router.post("/parts/{part_id}/things/removed", name="remove_from_part")
def remove_thing(
    request: Request, connection: Connection, part_id: int, edit: Annotated[PathEdit, Form()]
) -> Response:
    """Take a foot, a hand, a window away."""
    stored = shelf.part(connection, part_id)
    _own(stored, edit.path)
    return _saved(request, connection, stored, edit, edit.taken_from(stored.part.build))


@router.post("/parts/{part_id}/assumed", name="assume_part")
def assume_rest(
    request: Request, connection: Connection, part_id: int, edit: Annotated[PathEdit, Form()]
) -> Response:
    """Take what is not known of the part from the nearest family, by assumption only."""
    stored = shelf.part(connection, part_id)
    build, key = stored.part.build, stored.part.kind.key
    usual = nearest(build, usual_watches(connection), key)
    return _saved(request, connection, stored, edit, filled_up(build, usual, key) if usual else build)


@router.post("/parts/{part_id}/terms", name="change_terms")
def change_terms(
    request: Request, connection: Connection, part_id: int, form: Annotated[TermsForm, Form()]
) -> Response:
    """Note price, supplier, order link and notes."""
    stored = shelf.part(connection, part_id)
    try:
        terms = form.read(trade_terms(connection).home)
    except DimensionError as error:
        return _answer(request, part_page(connection, stored, errors={"price": str(error)}), status=422)
    shelf.change_part(connection, part_id, form.version, stored.part, terms)
    return _to(request, part_id, "#terms")


@router.post("/parts/{part_id}/undone", name="undo_part")
def undo(
    request: Request, connection: Connection, part_id: int, edit: Annotated[VersionForm, Form()]
) -> Response:
    """Bring the part back as it was before its last edit."""
    after = shelf.undo_part(connection, part_id, edit.version)
    if not wants_fragments(request):
        return _to(request, part_id)
    return _answer(request, part_page(connection, after))


@router.post("/parts/{part_id}/removed", name="remove_part_from_shelf")
def remove(request: Request, connection: Connection, part_id: int) -> Response:
    """Take the part off the shelf; it can be put back."""
    shelf.remove_part(connection, part_id)
    return RedirectResponse(f"{request.app.url_path_for('shelf')}?removed={part_id}", status_code=303)


@router.post("/parts/{part_id}/restored", name="restore_part")
def restore(request: Request, connection: Connection, part_id: int) -> Response:
    """Put a removed part back."""
    return _to(request, shelf.restore_part(connection, part_id).id)


@router.post("/parts/{part_id}/photos", name="add_photo")
def add_photo(
    request: Request,
    connection: Connection,
    part_id: int,
    photo: UploadFile,
    caption: Annotated[str, Form(max_length=200)] = "",
) -> Response:
    """Keep a photograph of the part; what is no picture is refused and changes nothing."""
    stored = shelf.part(connection, part_id)
    try:
        content = photo.file.read(MOST_READ)
        photos.add_photo(connection, request.app.state.database, "part", part_id, content, caption.strip())
    except SheetError as error:
        page = part_page(connection, stored, errors={"photo": f"{error} Nothing was changed."})
        return _answer(request, page, status=422)
    return _to(request, part_id, "#photos")


@router.post("/parts/{part_id}/photos/{number}/removed", name="remove_photo")
def remove_photo(request: Request, connection: Connection, part_id: int, number: int) -> Response:
    """Forget a photograph."""
    photos.remove_photo(connection, request.app.state.database, "part", part_id, number)
    return _to(request, part_id, "#photos")


@router.get("/photos/{number}.jpg", name="photo")
def picture(request: Request, connection: Connection, number: int) -> Response:
    """A photograph's pixels."""
    file = photos.file_of(request.app.state.database, photos.photo(connection, number).digest)
    if not file.exists():
        raise NotFoundError(f"file of photograph {number} any more")
    return FileResponse(file, media_type="image/jpeg")
