"""Donor watches: taken apart in the records, their pieces kept for builds or put away."""

from typing import Annotated

from fastapi import APIRouter, Form, Request, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import unlinked
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.core.values.money import parse_money
from marquetry.formats import build_sheet
from marquetry.store import donors, fates
from marquetry.store.donors import Donor
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.shelf.donor_view import donor_view
from marquetry.web.site.deps import Connection, SentForm
from marquetry.web.site.pages import render
from marquetry.web.site.sent import whole_number

router = APIRouter()
LONGEST_NAME = 80
USUAL_KINDS = ("case", "case_back", "crystal", "dial", "hands", "movement", "crown", "stem")
"""What a watch that is taken apart mostly had."""


def _on_bench(connection: Connection) -> list[tuple[int, str]]:
    """The watches that a piece may be kept for."""
    return [(watch.id, watch.build.name) for watch in fates.watches_at_work(connection)]


def _page(request: Request, connection: Connection, told: dict[str, str], status: int = 200) -> Response:
    held = donors.donors_or_faults(connection)
    on_bench = _on_bench(connection)
    context = {
        "donors": [donor_view(connection, d, dict(on_bench)) for d in held if isinstance(d, Donor)],
        "faults": [found for found in held if not isinstance(found, Donor)],
        "kinds": [kind for kind in connection.model.anatomy.kinds if not kind.is_many],
        "usual": USUAL_KINDS,
        "told": {"error": "", "name": "", "paid": "", "notes": "", **told},
    }
    return render(request, "shelf/templates/donors.html", context, status)


@router.get("/donors", name="donors")
def show(request: Request, connection: Connection) -> Response:
    """Every donor with what became of its pieces."""
    return _page(request, connection, {})


@router.post("/donors", name="take_apart")
def take_apart(  # noqa: PLR0913, PLR0917  # one argument a field
    request: Request,
    connection: Connection,
    name: Annotated[str, Form()] = "",
    paid: Annotated[str, Form(max_length=40)] = "",
    notes: Annotated[str, Form(max_length=2000)] = "",
    kinds: Annotated[list[str] | None, Form()] = None,
    sheet: UploadFile | None = None,
) -> Response:
    """Take a watch apart: every part it had becomes a piece on the shelf, or nothing happens."""
    try:
        build = _donor_build(connection.model.anatomy, name.strip(), kinds or [], sheet)
        number = donors.take_apart(
            connection, build, parse_money("paid", paid, trade_terms(connection).home), notes.strip()
        )
    except (SheetError, DimensionError) as error:
        typed = {"name": name[:LONGEST_NAME], "paid": paid, "notes": notes}
        return _page(request, connection, {"error": f"{error} Nothing was changed.", **typed}, 422)
    return RedirectResponse(request.app.url_path_for("donor", number=str(number)), status_code=303)


def _donor_build(anatomy: Anatomy, name: str, kinds: list[str], sheet: UploadFile | None) -> Build:
    """The donor from its build sheet, or a watch with the parts that were ticked."""
    if sheet is not None and sheet.filename:
        build = unlinked(build_sheet.loads(sheet.file.read(build_sheet.MOST_BYTES + 1), anatomy))
        return build.renamed(name) if name else build
    if not name or len(name) > LONGEST_NAME:
        raise SheetError("name", f"the donor's name, at most {LONGEST_NAME} letters")
    build = Build.empty(name, anatomy)
    for kind in anatomy.kinds:
        if kind.key in kinds:
            build = build.with_entry(kind.key, {"name": f"{name} {kind.label.lower()}"[:120]})
    if not build.parts:
        raise SheetError("parts", "at least one part ticked, or a build sheet")
    return build


@router.get("/donors/{number}", name="donor")
def one(request: Request, connection: Connection, number: int) -> Response:
    """A donor's pieces, each with the build it is kept for."""
    on_bench = _on_bench(connection)
    context = {
        "page": donor_view(connection, donors.donor(connection, number), dict(on_bench)),
        "watches": on_bench,
    }
    return render(request, "shelf/templates/donor.html", context)


@router.post("/donors/{number}/kept", name="keep_for")
def keep_for(request: Request, connection: Connection, number: int, sent: SentForm) -> Response:
    """Note for every piece at once which build it is kept for."""
    wanted = {
        key.removeprefix("piece-"): values[0] for key, values in sent.items() if key.startswith("piece-")
    }
    on_bench = {str(watch.id): watch.id for watch in fates.watches_at_work(connection)}
    if any(value and value not in on_bench for value in wanted.values()):
        raise NotFoundError("watch on the bench to keep a piece for")
    donors.keep_for(connection, number, {key: on_bench.get(value) for key, value in wanted.items()})
    return RedirectResponse(request.app.url_path_for("donor", number=str(number)), status_code=303)


@router.post("/donors/{number}/weights", name="share_donor")
def share(request: Request, connection: Connection, number: int, sent: SentForm) -> Response:
    """Share what the donor cost over its pieces by weights; none given, by what the catalogue asks."""
    given = {
        key.removeprefix("weight-"): values[0].strip()
        for key, values in sent.items()
        if key.startswith("weight-")
    }
    weights = {whole_number(key): whole_number(text or "0") for key, text in given.items()}
    donors.share_out(connection, number, weights if any(weights.values()) else None)
    return RedirectResponse(request.app.url_path_for("donor", number=str(number)), status_code=303)


@router.post("/donors/{number}/put-away", name="put_away")
def put_away(
    request: Request, connection: Connection, number: int, place: Annotated[str, Form(max_length=80)] = ""
) -> Response:
    """Lay what is left from the donor's tray onto the shelf."""
    donors.put_away(connection, number, place.strip())
    return RedirectResponse(request.app.url_path_for("donor", number=str(number)), status_code=303)


@router.post("/donors/{number}/forgotten", name="forget_donor")
def forget(request: Request, connection: Connection, number: int) -> Response:
    """Take away the record of a donor that cannot be read; its pieces stay on the shelf."""
    donors.forget(connection, number)
    return RedirectResponse(request.app.url_path_for("donors"), status_code=303)
