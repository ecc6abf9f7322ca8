"""One watch: its fit page, and every edit of it."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.change import change_of_entry
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.store import watches
from marquetry.store.watches import StoredWatch
from marquetry.web.site.pages import render
from marquetry.web.watch.forms import BackForm, EntryEdit, PathEdit, SpacerEdit
from marquetry.web.watch.rows import Rejected, fold
from marquetry.web.watch.view import changed_fragments, pictured, whole_page
from marquetry.web.watch.visit import Visit, Visiting
from marquetry.web.watch.worth_rows import fold_with_worth, worth_told

router = APIRouter(prefix="/watches/{watch_id}")


@router.get("", name="watch")
def show(visit: Visiting) -> Response:
    """The watch in section with its findings, or only what another choice of view changes."""
    page = visit.page(visit.before)
    if visit.fragments:
        return changed_fragments(visit.request, visit.before.build, page.report, page)
    return whole_page(visit.request, page)


@router.get("/parts", name="watch_parts")
def parts(visit: Visiting) -> Response:
    """Every part of the watch with what is known of it."""
    page = visit.page(visit.before, here="watch_parts")
    drawn = [pictured(visit.model, visit.before.build, page.report, fold) for fold in page.parts]
    context = {"page": replace(page, parts=drawn), "typed": {}, "target_fault": ""}
    return render(visit.request, "watch/templates/parts.html", context)


@router.get("/parts/{key}", name="part_fold")
def part_fold(visit: Visiting, key: str) -> Response:
    """One part with everything in it, for the page whose fold was opened."""
    build = visit.before.build
    if not build.has(visit.model.anatomy.part(key).key):
        raise NotFoundError(f"{visit.model.anatomy.part(key).label.lower()} in this watch")
    page = visit.page(visit.before)
    worth, in_force = worth_told(visit.connection, page.report.rules)
    folded = fold_with_worth(fold(build, visit.model.anatomy.part(key)), build, worth, in_force=in_force)
    context = {"page": page, "fold": folded, "opened": True}
    return render(visit.request, "watch/templates/_fold_alone.html", context)


@router.post("/entries", name="change_entry")
def change_entry(visit: Visiting, edit: Annotated[EntryEdit, Form()]) -> Response:
    """Change one entry of a part; what is refused comes back beside its field, as it was typed."""
    try:
        build = edit.applied_to(visit.before.build)
    except (DimensionError, SheetError) as error:
        typed = (edit.value, edit.tol, edit.source.value)
        return visit.refused(Rejected(edit.path, edit.place, *typed, str(error)))
    opened = edit.path.partition(".")[0] if edit.place == "ledger" else ""
    return visit.saved(edit.version, build, change_of_entry(visit.before.build, build, edit.path), opened)


@router.post("/spacers", name="add_spacer")
def add_spacer(visit: Visiting, edit: Annotated[SpacerEdit, Form()]) -> Response:
    """Put a spacer on one side of the dial."""
    try:
        build = edit.applied_to(visit.before.build)
    except (DimensionError, SheetError) as error:
        typed = (edit.value, edit.tol, edit.source.value)
        return visit.refused(Rejected(SPACERS.key, "tray", *typed, str(error)))
    return visit.saved(edit.version, build, f"spacer of {edit.value.strip()} on the {edit.side} side")


@router.post("/parts", name="add_part")
def add_part(visit: Visiting, edit: Annotated[PathEdit, Form()]) -> Response:
    """Add a part, a hand, a foot: whatever the path names, with nothing known of it yet."""
    words = f"added: {visit.model.anatomy.label_of(edit.path.removesuffix('.-'))}"
    return visit.saved(edit.version, edit.added_to(visit.before.build), words)


@router.post("/parts/removed", name="remove_part")
def remove_part(visit: Visiting, edit: Annotated[PathEdit, Form()]) -> Response:
    """Take a part, a hand, a spacer out of the watch; undo brings it back."""
    build = edit.taken_from(visit.before.build)
    return visit.saved(edit.version, build, f"removed: {visit.model.anatomy.label_of(edit.path)}")


@router.post("/undo", name="undo")
def undo(visit: Visiting, edit: Annotated[BackForm, Form()]) -> Response:
    """Bring back the sheet from before the last change."""
    return _led_back(visit, edit, watches.undo(visit.connection, visit.before.id, edit.version))


@router.post("/redo", name="redo")
def redo(visit: Visiting, edit: Annotated[BackForm, Form()]) -> Response:
    """Bring back what the last undo took away."""
    return _led_back(visit, edit, watches.redo(visit.connection, visit.before.id, edit.version))


def _led_back(visit: Visit, edit: BackForm, after: StoredWatch) -> Response:
    if not edit.back:
        return visit.answer(after)
    address = visit.request.app.url_path_for(edit.back, watch_id=str(after.id))
    return RedirectResponse(address, status_code=303)
