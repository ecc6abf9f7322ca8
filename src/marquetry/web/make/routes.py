"""A made part's page and every edit of it; nothing is stored while it is only tried."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.making.version import with_scatter
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import change_of_entry
from marquetry.core.values.dimension import Source
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import made, watches
from marquetry.web.make.bodies import Bodies
from marquetry.web.make.forms import FeatureForm, SizeForm
from marquetry.web.make.mesh_bytes import positions
from marquetry.web.make.view import made_page, made_query, usual_maker
from marquetry.web.site.pages import render
from marquetry.web.watch.forms import EntryEdit, PathEdit, VersionForm
from marquetry.web.watch.rows import Rejected
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/make/part/{name}")


def part_of(visit: Visit, name: str) -> MadePart:
    """The part of that name in the watch as it is looked at."""
    build = visit.before.build
    return made_part(name, build, visit.rules(build))


def answer(
    visit: Visit,
    part: MadePart,
    rejected: Rejected | None = None,
    version_fault: str = "",
    was: Build | None = None,
) -> Response:
    """The page, or for its own script what of it may have changed."""
    template = "_made_changed" if visit.fragments else "made"
    refused = (rejected or version_fault) and not visit.fragments
    page = made_page(visit, part, rejected, version_fault=version_fault, was=was)
    context = {"page": page}
    return render(visit.request, f"make/templates/{template}.html", context, 422 if refused else 200)


def kept(visit: Visit, version: int, build: Build, change: str) -> Visit:
    """The visit after an edit: saved as the next version of the watch, or only tried."""
    if build == visit.before.build:
        return visit
    visit.report(build, like=visit.before.build)
    if visit.trial is not None:
        return replace(visit, before=replace(visit.before, build=build))
    return visit.of(watches.save(visit.connection, visit.stored.id, version, build, change, visit.stored))


def as_planned(edit: EntryEdit, build: Build, path: str) -> EntryEdit:
    """A size typed beside a part that is made here is planned, until a print of it is measured.

    A source that was chosen at the field otherwise stays: who measured the part that lies there may say so.
    """
    old = build.dimensions.get(edit.path)
    chosen = Source.PLANNED if old is None else old.source
    is_own = edit.path.startswith(f"{path}.") and edit.source is chosen
    return edit.model_copy(update={"source": Source.PLANNED}) if is_own else edit


def as_printed(visit: Visit, name: str, build: Build) -> Build:
    """The watch as it was edited, what is newly planned with the scatter of the printer that makes it."""
    part = made_part(name, build, visit.rules(build))
    pairs = made.printer_pairs(visit.connection)
    return with_scatter(visit.before.build, part, pairs, usual_maker(visit, part))


def after(visit: Visit, name: str, was: Build | None = None) -> Response:
    """What an edit changed, for the page's own script; a fresh page, for a form sent without it."""
    if visit.fragments:
        return answer(visit, part_of(visit, name), was=was)
    return RedirectResponse(part_address(visit, name, made_query(visit, visit.before.build)), status_code=303)


def part_address(visit: Visit, name: str, query: str = "") -> str:
    """Where a part of the watch is made."""
    address = visit.request.app.url_path_for("made", watch_id=str(visit.stored.id), name=name)
    return f"{address}{'' if query == '?' else query}"


@router.get("", name="made")
def show(visit: Visiting, name: str) -> Response:
    """The part; one that the watch has not is begun at the sizes it proposes, and nothing is stored."""
    part = part_of(visit, name)
    bodies: Bodies = visit.request.app.state.bodies
    bodies.warm()
    if part.is_there:
        return answer(visit, part)
    build = as_printed(visit, name, part.begun())
    begun = replace(visit, before=replace(visit.before, build=build), trial=visit.trial or ())
    return RedirectResponse(part_address(visit, name, made_query(begun, begun.before.build)), status_code=303)


@router.get("/mesh", name="made_mesh")
def mesh(visit: Visiting, name: str) -> Response:
    """Corners of every triangle for the turning preview: 32-bit numbers, three a corner, mm."""
    bodies: Bodies = visit.request.app.state.bodies
    found = bodies.of(part_of(visit, name)).mesh
    if found is None:
        raise SheetError("part", "a part that is a solid", "a sheet")
    return Response(positions(found), media_type="application/octet-stream")


@router.post("/entries", name="made_entry")
def change_entry(visit: Visiting, name: str, edit: Annotated[EntryEdit, Form()]) -> Response:
    """Change one field; what is refused comes back beside it, as it was typed."""
    try:
        part = part_of(visit, name)
        typed = as_planned(edit, visit.before.build, part.path).applied_to(visit.before.build)
        # Another form of the part has other sizes: they are proposed as those of a part that is begun.
        typed = replace(part, build=typed).begun() if edit.path == f"{part.path}.form" else typed
        build = as_printed(visit, name, typed)
    except (DimensionError, SheetError) as error:
        told = (edit.value, edit.tol, edit.source.value)
        return answer(visit, part_of(visit, name), Rejected(edit.path, edit.place, *told, str(error)))
    change = change_of_entry(visit.before.build, build, edit.path)
    return after(kept(visit, edit.version, build, change), name, visit.before.build)


@router.post("/things", name="made_thing")
def add_thing(visit: Visiting, name: str, edit: Annotated[PathEdit, Form()]) -> Response:
    """Add a thing to one of the part's lists."""
    words = f"added: {visit.model.anatomy.label_of(edit.path.removesuffix('.-'))}"
    return after(
        kept(visit, edit.version, edit.added_to(visit.before.build), words), name, visit.before.build
    )


@router.post("/things/removed", name="made_thing_removed")
def remove_thing(visit: Visiting, name: str, edit: Annotated[PathEdit, Form()]) -> Response:
    """Take a tab, a cut-out, a foot away."""
    words = f"removed: {visit.model.anatomy.label_of(edit.path)}"
    return after(
        kept(visit, edit.version, edit.taken_from(visit.before.build), words), name, visit.before.build
    )


@router.post("/features", name="made_feature")
def switch_feature(visit: Visiting, name: str, edit: Annotated[FeatureForm, Form()]) -> Response:
    """Switch a feature on, at the sizes the watch proposes, or off."""
    part = part_of(visit, name)
    switched = part.with_feature(edit.key) if edit.on else part.without_feature(edit.key)
    build = as_printed(visit, name, switched)
    words = f"{part.label}: {'with' if edit.on else 'without'} {part.feature(edit.key).label.lower()}"
    return after(kept(visit, edit.version, build, words), name, visit.before.build)


@router.post("/sizes", name="made_size")
def take_sizes(visit: Visiting, name: str, edit: Annotated[SizeForm, Form()]) -> Response:
    """Take a size as the watch proposes it, or all of them."""
    part = part_of(visit, name)
    build = as_printed(visit, name, part.proposed(edit.path))
    change = f"{part.label}: sizes as the watch proposes"
    return after(kept(visit, edit.version, build, change), name, visit.before.build)


@router.post("/kept", name="keep_made")
def keep(visit: Visiting, name: str, edit: Annotated[VersionForm, Form()]) -> Response:
    """Make what was tried the watch, and stay with the part."""
    label = part_of(visit, name).label.lower()
    saved = kept(visit.out_of_trial(), edit.version, visit.before.build, f"made here: {label}")
    return RedirectResponse(part_address(saved, name), status_code=303)


@router.post("/undo", name="made_undo")
def undo(visit: Visiting, name: str, edit: Annotated[VersionForm, Form()]) -> Response:
    """Bring back the sheet from before the last change."""
    return _brought_back(visit, name, watches.undo(visit.connection, visit.stored.id, edit.version))


@router.post("/redo", name="made_redo")
def redo(visit: Visiting, name: str, edit: Annotated[VersionForm, Form()]) -> Response:
    """Bring back what the last undo took away."""
    return _brought_back(visit, name, watches.redo(visit.connection, visit.stored.id, edit.version))


def _brought_back(visit: Visit, name: str, stored: watches.StoredWatch) -> Response:
    """After an undo that took the part itself away there is nothing to show but what can be made."""
    now = visit.of(stored)
    if part_of(now, name).is_there:
        return after(now, name)
    address = visit.request.app.url_path_for("make", watch_id=str(stored.id))
    return RedirectResponse(address, status_code=303)
