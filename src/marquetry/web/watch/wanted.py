"""What is wanted of a watch as a whole, and what is assumed of the rest of a part."""

from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.target import WISHES, Wish
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.families import filled_up, nearest
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, NotFoundError
from marquetry.store import watches
from marquetry.store.families import usual_watches
from marquetry.web.site.deps import SentForm
from marquetry.web.site.pages import render
from marquetry.web.site.sent import Sent, first, whole
from marquetry.web.watch.forms import PathEdit
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")
FUNCTIONS = "functions"


def _read(wish: Wish, typed: str) -> float | None:
    """The number typed; DimensionError where it is none, or beyond reason."""
    if not typed:
        return None
    value = parse_figure(wish.label, typed.removesuffix(wish.unit), "mm")
    if not 0 < value <= wish.most:
        raise DimensionError(
            wish.label, f"{value:g}", wish.unit, f"more than 0, at most {wish.most:g} {wish.unit}"
        )
    return value


def _wanted(build: Build, sent: Sent) -> dict[str, Json]:
    """The target with what the form says; what it does not speak of stays."""
    target: dict[str, Json] = dict(build.raw.get("target") or {})
    for wish in WISHES:
        target.pop(wish.key, None)
        value = _read(wish, first(sent, wish.key))
        if value is not None:
            target[wish.key] = value
    names = [name.strip() for name in first(sent, FUNCTIONS).split(",") if name.strip()]
    target.pop(FUNCTIONS, None)
    return {**target, FUNCTIONS: names} if names else target


@router.post("/target", name="change_target")
def change_target(visit: Visiting, sent: SentForm) -> Response:
    """Change what is wanted; what is refused comes back as it was typed."""
    try:
        build = visit.stored.build.with_target(_wanted(visit.stored.build, sent))
    except DimensionError as error:
        page = visit.page(visit.before, here="watch_parts")
        context = {"page": page, "typed": sent, "target_fault": str(error)}
        return render(visit.request, "watch/templates/parts.html", context, 422)
    return _saved(visit, whole(sent, "version"), build, "what is wanted of it")


@router.post("/assumed", name="assume_rest")
def assume_rest(visit: Visiting, edit: Annotated[PathEdit, Form()]) -> Response:
    """Take what is not known of a part from the nearest family, by assumption only."""
    key = edit.path.partition(".")[0]
    build, label = visit.stored.build, visit.model.anatomy.part(key).label
    usual = nearest(build, usual_watches(visit.connection), key)
    if usual is None or not build.has(key):
        raise NotFoundError(f"family with a {label.lower()}, or a {label.lower()} in this watch")
    words = f"assumed as in {usual.name}: {label}"
    return _saved(visit, edit.version, filled_up(build, usual, key), words)


def _saved(visit: Visit, version: int, build: Build, change: str) -> Response:
    if build != visit.stored.build:
        visit.report(build, like=visit.stored.build)
        watches.save(visit.connection, visit.stored.id, version, build, change, visit.stored)
    address = visit.request.app.url_path_for("watch_parts", watch_id=str(visit.stored.id))
    return RedirectResponse(str(address), status_code=303)
