"""House rules: every limit with its meaning and a drawing, three ready sets, schools, the instruments."""

from datetime import date
from typing import Annotated, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Form, Request
from pydantic import Field, ValidationError
from starlette.responses import RedirectResponse, Response

from marquetry.core.fit.rule_sets import RULE_SETS
from marquetry.core.measuring.instrument import WAYS
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.store import house, terms_of_trade
from marquetry.store.lessons import lessons_by_school, shown_lessons
from marquetry.store.sellers_words import forget, known_words
from marquetry.web.house.bench_under_rules import BenchUnderRules
from marquetry.web.house.forms import InstrumentForm, RuleForm
from marquetry.web.house.page import INSTRUMENTS, TOOLS, WORDS, HousePage, chapter_of, defaults, means_of
from marquetry.web.site.deps import Connection, SentForm, wants_fragments
from marquetry.web.site.pages import render

router = APIRouter()


def _page(
    request: Request, connection: Connection, family: str = "", errors: dict[str, str] | None = None
) -> Response:
    """The chapter; for the page's own script only what may have changed, refused or not."""
    page = HousePage(connection.model, BenchUnderRules(connection, request.app.state.reports), family)
    context = {
        "page": page,
        "sets": list(RULE_SETS),
        "instruments": house.instruments(connection),
        "ways": WAYS,
        "tools": terms_of_trade.usual_tools(connection),
        "errors": errors or {},
        "sellers_words": [
            (known, means_of(connection.model.anatomy, known.label)) for known in known_words(connection)
        ],
        "lessons": lessons_by_school(shown_lessons(connection)),
    }
    live = bool(wants_fragments(request))
    template = "_chapter.html" if live else "house.html"
    return render(request, f"house/templates/{template}", context, 422 if errors and not live else 200)


def _changed(request: Request, connection: Connection, key: str) -> Response:
    """The chapter of a rule that was saved: in its place for the script, else by its address."""
    family = chapter_of(connection.model, key)
    if wants_fragments(request):
        return _page(request, connection, family)
    address = request.app.url_path_for("house")
    return RedirectResponse(f"{address}?family={family}#rule-{key}", status_code=303)


def _back(request: Request, family: str) -> Response:
    return RedirectResponse(
        f"{request.app.url_path_for('house')}?{urlencode({'family': family})}", status_code=303
    )


@router.get("/rules", name="house")
def show(request: Request, connection: Connection, family: str = "") -> Response:
    """One chapter of the house rules."""
    return _page(request, connection, family)


@router.post("/rules", name="set_rule")
def set_rule(request: Request, connection: Connection, form: Annotated[RuleForm, Form()]) -> Response:
    """Set one rule; empty fields, or the default's own value, put it back to the default."""
    usual = defaults(connection.model)
    if form.key not in usual:
        raise NotFoundError(f"rule “{form.key}”")
    try:
        value = form.read(connection.model)
        connection.model.rules({form.key: value} if value is not None else {}).check(form.key)
    except (DimensionError, SheetError) as error:
        family = chapter_of(connection.model, form.key)
        return _page(request, connection, family, {form.key: str(error)})
    house.set_rule(connection, form.key, None if value == usual[form.key] else value, "own")
    return _changed(request, connection, form.key)


@router.post("/rules/schools", name="choose_school")
def choose_school(
    request: Request, connection: Connection, key: Annotated[str, Form()], choice: Annotated[str, Form()]
) -> Response:
    """Choose the workshop's way where builders disagree."""
    schools = connection.model.schools
    if key not in schools:
        raise NotFoundError(f"school “{key[:40]}”")
    connection.model.rules({key: choice}).check(key)
    first = schools[key].practices[0].key
    house.set_rule(connection, key, None if choice == first else choice, "own")
    return _changed(request, connection, key)


@router.post("/rules/sets", name="take_set")
def take_set(
    request: Request,
    connection: Connection,
    name: Annotated[str, Form()],
    family: Annotated[str, Form()] = "",
) -> Response:
    """Take one of the ready sets in place of every rule."""
    if name not in RULE_SETS:
        raise NotFoundError(f"set of rules “{name[:40]}”")
    chosen: dict[str, Json] = dict(RULE_SETS[name])
    house.take_set(connection, name, chosen)
    return _back(request, family)


@router.post("/instruments", name="add_instrument")
def add_instrument(request: Request, connection: Connection, sent: SentForm) -> Response:
    """Note an instrument the workshop has."""
    fields = {key: values if key == "ways" else values[0] for key, values in sent.items() if values}
    try:
        house.add_instrument(connection, InstrumentForm.model_validate(fields).read())
    except ValidationError as error:
        told = "; ".join(f"{e['loc'][0] if e['loc'] else ''}: {e['msg']}" for e in error.errors())
        return _page(request, connection, INSTRUMENTS, {"instrument": told})
    except DimensionError as error:
        return _page(request, connection, INSTRUMENTS, {"instrument": str(error)})
    return _back(request, INSTRUMENTS)


@router.post("/instruments/{number}/checked", name="note_checked")
def note_checked(
    request: Request, connection: Connection, number: int, day: Annotated[date | Literal[""], Form()] = ""
) -> Response:
    """Note the day an instrument was checked against a gauge block; no day takes the note away."""
    house.note_checked(connection, number, day.isoformat() if day else None)
    return _back(request, INSTRUMENTS)


@router.post("/rules/words/{number}/taken-back", name="forget_word")
def forget_word(request: Request, connection: Connection, number: int) -> Response:
    """Read a seller's word as the reader itself does again."""
    forget(connection, number)
    return _back(request, WORDS)


@router.post("/rules/tools", name="note_bench_tools")
def note_bench_tools(
    request: Request,
    connection: Connection,
    tools: Annotated[list[Annotated[str, Field(max_length=40)]] | None, Form()] = None,
) -> Response:
    """Say once which tools there are: steps tell what does instead of the others."""
    terms_of_trade.note_bench_tools(connection, tools or [])
    return _back(request, TOOLS)


@router.post("/instruments/{number}/removed", name="remove_instrument")
def remove_instrument(request: Request, connection: Connection, number: int) -> Response:
    """Forget an instrument."""
    house.remove_instrument(connection, number)
    return _back(request, INSTRUMENTS)
