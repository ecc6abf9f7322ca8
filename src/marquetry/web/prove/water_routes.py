"""A dry test: looked at while its lines come in, kept when it is done; and the wet one after it."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form, UploadFile
from pydantic import BaseModel, ConfigDict, Field
from starlette.responses import Response

from marquetry.core.proving.pressure import HoldVerdict
from marquetry.core.proving.pressure_words import METHODS, PLACES
from marquetry.core.proving.ready import ALONE
from marquetry.core.proving.record import ProofVerdict
from marquetry.core.sheet.entries import Json
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, MarquetryError, SheetError
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
PRESSING = ("dry chamber", "bubbles")
MOST_BAR, MOST_MINUTES = 200.0, 7 * 24 * 60.0
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


class TypedTest(BaseModel):
    """A test whose outcome is typed: what was done, for how long, whether it held, where it leaked."""

    model_config = ConfigDict(extra="ignore")

    held: Literal["yes", "no"]
    bar: Annotated[str, Field(max_length=20)] = ""
    minutes: Annotated[str, Field(max_length=20)] = ""
    method: Annotated[str, Field(max_length=40)]
    where: Annotated[str, Field(max_length=40)] = ""
    alone: Annotated[str, Field(max_length=5)] = ""
    means: Annotated[str, Field(max_length=100)] = ""
    by: Annotated[str, Field(max_length=80)] = ""
    words: Annotated[str, Field(max_length=200)] = ""

    def result(self) -> dict[str, Json]:
        """As a record keeps it. DimensionError or SheetError, naming the field."""
        if self.method not in METHODS:
            raise SheetError("method", " or ".join(METHODS))
        if self.where and self.where not in PLACES:
            raise SheetError("where", " or ".join(PLACES))
        presses = self.method in PRESSING
        bar = parse_figure("Pressure", self.bar, "bar") if presses or self.bar.strip() else 0.0
        if not (0 < bar <= MOST_BAR or (bar == 0 and not presses)):
            raise DimensionError("Pressure", bar, "bar", f"over 0 and at most {MOST_BAR:g} bar")
        minutes = parse_figure("Minutes", self.minutes, "min")
        if not 0 < minutes <= MOST_MINUTES:
            raise DimensionError("Minutes", minutes, "min", f"over 0 and at most {MOST_MINUTES:g} min")
        told: dict[str, Json] = {
            "verdict": "tight" if self.held == "yes" else "leak", "held_bar": bar, "hold_s": minutes * 60.0,
            "method": self.method, "typed": True,
        }  # fmt: skip
        return told | ({"where": self.where} if self.where and self.held == "no" else {})


@router.post("/dry/typed", name="type_dry")
def typed(visit: Visiting, form: Annotated[TypedTest, Form()]) -> Response:
    """Keep a test that a gauge or an eye read: of the watch, or of its case alone, which never lapses."""
    page, alone = page_of(visit, "dry"), bool(form.alone)
    wet_first = form.method == "bubbles" and not alone
    if wet_first and not (isinstance(page, WaterPage) and page.may_be_wet):
        return shown(visit, "dry", "The dry test first: water in a case that leaks ruins the movement.", 422)
    try:
        result = form.result()
    except MarquetryError as error:
        return shown(visit, "dry", f"{error} Nothing was kept.", 422)
    verdict: ProofVerdict = "passed" if form.held == "yes" else "failed"
    means = ", ".join(filter(None, (form.method, form.means.strip())))
    if wet_first:
        wet_result: dict[str, Json] = {**result, "bar": result["held_bar"]}
        kept(
            visit,
            record(
                "wet", "case", verdict, words=form.words, means=means, by=form.by.strip(), result=wet_result
            ),
        )
        return to_proof(visit, "dry")
    item = ALONE if alone else "case"
    made = record("dry", item, verdict, words=form.words, means=means, by=form.by.strip(), result=result)
    kept(visit, made)
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
