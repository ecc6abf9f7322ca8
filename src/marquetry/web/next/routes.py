"""Next: what to try, to measure or to look at, recomputed after each; and what was tried beside a finding."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query
from pydantic import Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.statements import TRIED
from marquetry.core.values.entry import parse_figures
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.store import house, watches
from marquetry.store.database import transaction
from marquetry.web.measuring.saving import save_card, watch_subject
from marquetry.web.next.view import NextPage, next_page
from marquetry.web.site.addresses import addresses
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.forms import BackForm, EntryEdit, Path, VersionForm
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")
StepKey = Annotated[str, Field(max_length=80, pattern=r"^[a-z0-9_.]*$")]
Skips = Annotated[str, Field(max_length=2000, pattern=r"^[a-z0-9_.,]*$")]


class TriedForm(BackForm):
    """What a dry fit showed: it fits, it does not (and which checks failed), or forget that it was tried."""

    key: StepKey
    fits: Literal["yes", "no", "forget"]
    misses: Annotated[list[StepKey], Field(max_length=40, default_factory=list)]
    note: Annotated[str, Field(max_length=200)] = ""
    skip: Skips = ""


class NextAnswer(VersionForm):
    """What was read or chosen."""

    path: Path
    value: Annotated[str, Field(max_length=200)] = ""
    skip: Skips = ""


def _page(visit: Visit, skip: str, asked: str = "", fault: str = "", typed: str = "") -> NextPage:
    tools = tuple(owned.instrument for owned in house.instruments(visit.connection))
    report = visit.report(visit.stored.build)
    left_out = [key for key in skip.split(",") if key]
    return next_page(visit.stored, visit.way("next"), report, tools, left_out, asked, fault, typed)


def _shown(visit: Visit, page: NextPage, status: int = 200) -> Response:
    return render(visit.request, "next/templates/next.html", {"page": page, "way": page.way}, status)


def _to_next(visit: Visit, skip: str) -> Response:
    address = addresses(visit.request.app)("next", watch_id=str(visit.stored.id))
    return RedirectResponse(f"{address}?skip={skip}" if skip else str(address), status_code=303)


@router.get("/next", name="next")
def show(
    visit: Visiting, skip: Annotated[Skips, Query()] = "", do: Annotated[StepKey, Query()] = ""
) -> Response:
    """The one thing that takes most doubt away a minute, and all that comes after it."""
    return _shown(visit, _page(visit, skip, do))


@router.get("/measure", name="measure")
def measure(visit: Visiting) -> Response:
    """Where the list of readings was: what to measure is one of the things to do next."""
    return _to_next(visit, "")


@router.post("/tried", name="tried")
def tried(visit: Visiting, form: Annotated[TriedForm, Form()]) -> Response:
    """Keep what a dry fit showed; it settles its checks whatever the figures say."""
    build = with_tried(visit, form)
    dry_fit = visit.model.dry_fit_by_key[form.key]
    words = {"yes": "it fits", "no": "it does not fit", "forget": "taken back"}[form.fits]
    if form.back:
        if build != visit.stored.build:
            watches.save(
                visit.connection, visit.stored.id, form.version, build, f"tried: {dry_fit.title}: {words}"
            )
        return _to_next(visit, form.skip)
    return visit.saved(form.version, build, f"tried: {dry_fit.title}: {words}")


def with_tried(visit: Visit, form: TriedForm) -> Build:
    """The watch with what the form says of its dry fit. NotFoundError for one that nobody knows."""
    dry_fit = visit.model.dry_fit_by_key.get(form.key)
    if dry_fit is None:
        raise NotFoundError(f"dry fit “{form.key[:40]}”")
    before = visit.before.build
    seen: dict[str, Json] = dict(before.raw.get(TRIED) or {})
    seen.pop(form.key, None)
    if form.fits != "forget":
        misses = [name for name in form.misses if name in dry_fit.settles] if form.fits == "no" else []
        seen[form.key] = {
            "fits": form.fits == "yes",
            **({"misses": misses} if misses else {}),
            "on": today(),
            **({"note": form.note.strip()} if form.note.strip() else {}),
        }
    return before.with_statement(TRIED, seen)


@router.post("/next/read", name="read_next")
def read(visit: Visiting, form: Annotated[NextAnswer, Form()]) -> Response:
    """Save what was read, as a measuring card would, and go on to what is next then."""
    try:
        values = _readings(visit, form)
        subject = watch_subject(addresses(visit.request.app), visit.connection, visit.stored.id, form.path)
        sent = {
            "version": [str(form.version)],
            "path": [form.path],
            "reading": [f"{value:g}" for value in values],
        }
        with transaction(visit.connection):
            save_card(visit.connection, subject, visit.stored.id, sent)
    except (DimensionError, SheetError) as error:
        return _shown(visit, _page(visit, form.skip, form.path, str(error), form.value), 422)
    return _to_next(visit, form.skip)


def _readings(visit: Visit, form: NextAnswer) -> list[float]:
    unit = visit.model.anatomy.quantity_at(form.path).unit
    values = parse_figures("reading", form.value, unit)
    if not values:
        raise DimensionError("reading", "nothing", "", f"a number in {unit}, such as 2.62")
    return values


@router.post("/next/word", name="word_next")
def word(visit: Visiting, form: Annotated[NextAnswer, Form()]) -> Response:
    """Save the word that was chosen, said from now on and no longer assumed."""
    edit = EntryEdit(version=form.version, path=form.path, value=form.value)
    change = f"looked: {visit.model.anatomy.label_of(form.path)}, {form.value.strip()}"
    if not form.value.strip():
        return _shown(
            visit, _page(visit, form.skip, form.path, "Choose a word, or leave it out for now."), 422
        )
    try:
        build = edit.applied_to(visit.stored.build)
        if build != visit.stored.build:
            watches.save(visit.connection, visit.stored.id, form.version, build, change)
    except (DimensionError, SheetError) as error:
        return _shown(visit, _page(visit, form.skip, form.path, str(error), form.value), 422)
    return _to_next(visit, form.skip)
