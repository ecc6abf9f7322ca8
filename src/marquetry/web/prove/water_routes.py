"""A dry test: looked at while its lines come in, kept when it is done; and the wet one after it."""

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import Response

from marquetry.core.proving.pressure import HoldVerdict
from marquetry.core.proving.record import ProofVerdict
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.formats.pressure_csv import MOST_BYTES, hold_document
from marquetry.store.database import transaction
from marquetry.web.prove.forms import ItemName, SaidVerdict, ShortSaid
from marquetry.web.prove.pages import page_of
from marquetry.web.prove.readiness import kept, record
from marquetry.web.prove.routes import add, shown, to_proof
from marquetry.web.prove.water_view import WaterPage, held_of
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visiting

router = APIRouter(prefix="/watches/{watch_id}/prove")
SentSeries = Annotated[str, Form(max_length=MOST_BYTES)]
KEPT_AS: dict[HoldVerdict, ProofVerdict] = {"tight": "passed", "leak": "failed"}


@router.post("/dry/look", name="look_at_dry")
def look(visit: Visiting, series: SentSeries = "") -> Response:
    """The curve and the verdict so far; nothing is kept."""
    fault, held = "", None
    try:
        held = held_of(series.encode())
    except SheetError as error:
        fault = str(error)
    context = {"held": held, "fault": fault}
    return render(visit.request, "prove/templates/_held.html", context, 422 if fault else 200)


@router.post("/dry/keep", name="keep_dry")
def keep(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    visit: Visiting,
    file: UploadFile | None = None,
    series: SentSeries = "",
    means: ShortSaid = "",
    by: Annotated[str, Form(max_length=80)] = "",
    words: ShortSaid = "",
) -> Response:
    """Keep a test with its series; a series with rubbish keeps nothing."""
    chosen = file is not None and bool(file.filename)
    raw = file.file.read(MOST_BYTES + 1) if file is not None and chosen else series.encode()
    try:
        held = held_of(raw)
    except SheetError as error:
        return shown(visit, "dry", f"{error} Nothing was kept.", 422)
    verdict = KEPT_AS.get(held.found.verdict, "unsure")
    result = hold_document(held.found)
    text = raw.decode("utf-8-sig")
    made = record("dry", "case", verdict, words=words, means=means.strip(), by=by.strip(), result=result)
    kept(visit, made, series=text)
    return to_proof(visit, "dry")


@router.post("/wet", name="prove_wet")
def wet(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    visit: Visiting,
    bar: Annotated[str, Form(max_length=20)],
    verdict: SaidVerdict,
    item: ItemName = "",
    photo: UploadFile | None = None,
    words: ShortSaid = "",
) -> Response:
    """A wet test as a record with a picture: never before a dry one that passed."""
    page = page_of(visit, "dry")
    if not isinstance(page, WaterPage) or not page.may_be_wet:
        return shown(visit, "dry", "The dry test first: water in a case that leaks ruins the movement.", 422)
    try:
        held = parse_figure("Pressure", bar, "bar")
        with transaction(visit.connection):
            content = photo.file.read() if photo is not None and photo.filename else b""
            number = add(visit, content, words or "wet test") if content else None
            kept(
                visit, record("wet", item or "case", verdict, words=words, result={"bar": held}, photo=number)
            )
    except MarquetryError as error:
        return shown(visit, "dry", f"{error} Nothing was kept.", 422)
    return to_proof(visit, "dry")
