"""Beginning a watch: from a family, another watch, what lies on the shelf, a pasted listing, or nothing."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from pydantic import BaseModel, Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.measuring.listing.read import LONGEST_LISTING
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import ready_family, usual_watch
from marquetry.core.sheet.part import unlinked
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.store import families, pasted, shelf, terms_of_trade, variants, watches
from marquetry.web.bench.beginning import (
    SHELF_KINDS,
    begin_page,
    note_tools,
    ticked_together,
    with_shelf_part,
)
from marquetry.web.kits.routes import to_reading
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.sent import number_in

router = APIRouter()
LONGEST_NAME = 80


class BeginForm(BaseModel):
    """What a watch is begun from: `start` is nothing, family:KEY, kept:N, watch:N, variant:W:N."""

    name: Annotated[str, Field(max_length=400)] = ""
    start: Annotated[str, Field(max_length=60)] = "nothing"
    listing: Annotated[str, Field(max_length=LONGEST_LISTING)] = ""
    case: Annotated[str, Field(pattern=r"^\d{0,12}$")] = ""
    movement: Annotated[str, Field(pattern=r"^\d{0,12}$")] = ""
    dial: Annotated[str, Field(pattern=r"^\d{0,12}$")] = ""
    came: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=30, default_factory=list)]
    """Parts that came assembled, by their slots."""
    tools: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=30, default_factory=list)]
    bench_tools: Annotated[
        list[Annotated[str, Field(max_length=40)]], Field(max_length=60, default_factory=list)
    ]
    asked_bench_tools: Literal["", "yes"] = ""
    asked_tools: Literal["", "yes"] = ""
    """Whether the form asked what the workshop measures with."""

    @property
    def parts(self) -> list[int]:
        """The parts picked from the shelf."""
        return [int(number) for number in (getattr(self, kind) for kind in SHELF_KINDS) if number]


def _base(connection: Connection, start: str) -> Build:
    """The watch that is begun from."""
    what, _, which = start.partition(":")
    anatomy = connection.model.anatomy
    if what == "family":
        return usual_watch(ready_family(which), anatomy)
    if what == "nothing":
        return Build.empty("New watch", anatomy)
    numbers = [number for told in which.split(":") if (number := number_in(told)) is not None]
    if what == "kept" and len(numbers) == 1:
        return families.family(connection, numbers[0]).build
    if what == "watch" and len(numbers) == 1:
        return unlinked(watches.watch(connection, numbers[0]).build)
    if what == "variant" and len(numbers) == 2:  # noqa: PLR2004  # its watch and its own
        return unlinked(variants.variant(connection, *numbers).build)
    raise NotFoundError(f"beginning “{start[:40]}”")


@router.get("/begin", name="begin")
def show(request: Request, connection: Connection, start: str = "") -> Response:
    """Everything a watch can be begun from, drawn."""
    return render(
        request,
        "bench/templates/begin.html",
        {"page": begin_page(connection, request.app.state.reports, start), "fault": "", "sheet_fault": ""},
    )


@router.post("/begin", name="begin_watch")
def begin(request: Request, connection: Connection, form: Annotated[BeginForm, Form()]) -> Response:
    """Put the watch on the bench; a text is read on its own page, each part seen before it is used."""
    try:
        build = _base(connection, form.start)
        for number in form.parts:
            build = with_shelf_part(build, shelf.part(connection, number))
        build = ticked_together(build, form.came)
        copied = f"{build.name}, copy"[:LONGEST_NAME] if form.start.startswith(("watch", "variant")) else ""
        watch_id = watches.add_watch(connection, build.renamed(form.name.strip() or copied or build.name))
    except MarquetryError as error:
        page = begin_page(connection, request.app.state.reports, form.start, form.name, form.listing)
        return render(
            request, "bench/templates/begin.html", {"page": page, "fault": str(error), "sheet_fault": ""}, 422
        )
    if form.asked_tools:
        note_tools(connection, form.tools)
        if form.asked_bench_tools:
            terms_of_trade.note_bench_tools(connection, form.bench_tools)
    if form.listing.strip():
        pasted.keep(connection, "watch", watch_id, form.listing)
        return to_reading(request, "watch", watch_id)
    there = "watch" if form.start == "nothing" else "next"
    address = request.app.url_path_for(there, watch_id=str(watch_id))
    return RedirectResponse(address, status_code=303)


@router.post("/watches/{watch_id}/family", name="keep_family")
def keep_family(
    request: Request, connection: Connection, watch_id: int, name: Annotated[str, Form(max_length=80)] = ""
) -> Response:
    """Keep the watch as a family that others begin from."""
    stored = watches.watch(connection, watch_id)
    number = families.keep(connection, stored.build, name.strip() or stored.build.name)
    address = request.app.url_path_for("begin")
    return RedirectResponse(f"{address}?start=kept:{number}#start", status_code=303)


@router.post("/families/{number}/removed", name="let_family_go")
def let_go(request: Request, connection: Connection, number: int) -> Response:
    """Offer a family no more."""
    families.let_go(connection, number)
    return RedirectResponse(str(request.app.url_path_for("begin")), status_code=303)
