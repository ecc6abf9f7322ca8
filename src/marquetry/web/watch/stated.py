"""What is said of a watch beside its sizes: what came assembled, what is not to be altered after all."""

from typing import Annotated

from fastapi import APIRouter, Form
from pydantic import Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.evidence.lapse import came_together
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.statements import ALTERATIONS, TOGETHER
from marquetry.core.values.errors import NotFoundError
from marquetry.store import watches
from marquetry.web.watch.forms import VersionForm
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")
FEWEST = 2
"""Fewer parts came with nothing."""


class TogetherForm(VersionForm):
    """Parts that came assembled, or the number of a group that did not."""

    came: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=30, default_factory=list)]
    forget: Annotated[str, Field(pattern=r"^\d{0,3}$")] = ""


class AlterationForm(VersionForm):
    """An alteration by its name in the sheet."""

    key: Annotated[str, Field(max_length=40)]


@router.post("/together", name="change_together")
def change_together(visit: Visiting, form: Annotated[TogetherForm, Form()]) -> Response:
    """Note that parts came assembled, or that they did not after all."""
    build = visit.stored.build
    groups = [list(group) for group in build.raw.get(TOGETHER) or []]
    came = [part.key for part in build.anatomy.parts if part.key in form.came and build.has(part.key)]
    if form.forget and int(form.forget) < len(groups):
        del groups[int(form.forget)]
        return _saved(visit, form.version, came_together(build, groups), "did not come assembled")
    if len(came) < FEWEST or came in groups:
        return _to_parts(visit)
    labels = ", ".join(visit.model.anatomy.part(key).label.lower() for key in came)
    after = came_together(build, [*groups, came])
    return _saved(visit, form.version, after, f"came assembled: {labels}")


@router.post("/alterations/dropped", name="drop_alteration")
def drop(visit: Visiting, form: Annotated[AlterationForm, Form()]) -> Response:
    """Do without an alteration that was planned; one that is done stays what it is."""
    build = visit.stored.build
    planned = next((one for one in build.alterations if one.id == form.key and one.done is None), None)
    if planned is None:
        raise NotFoundError(f"planned alteration “{form.key[:40]}”")
    kept = [one.as_dict() for one in build.alterations if one is not planned]
    return _saved(visit, form.version, build.with_statement(ALTERATIONS, kept), f"not done: {planned.title}")


def _saved(visit: Visit, version: int, build: Build, change: str) -> Response:
    watches.save(visit.connection, visit.stored.id, version, build, change[:200], visit.stored)
    return _to_parts(visit)


def _to_parts(visit: Visit) -> Response:
    address = visit.request.app.url_path_for("watch_parts", watch_id=str(visit.stored.id))
    return RedirectResponse(str(address), status_code=303)
