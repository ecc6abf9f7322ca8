"""House rules: every limit with its meaning and a drawing, three ready sets, the instruments."""

from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from markupsafe import Markup
from pydantic import ValidationError
from starlette.responses import RedirectResponse, Response

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.model import Model
from marquetry.core.fit.rule_sets import RULE_SETS
from marquetry.core.measuring.instrument import WAYS
from marquetry.core.sheet.build import Json
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError
from marquetry.core.values.figures import band, entered, figure
from marquetry.drawing.gap_detail import gap_detail
from marquetry.drawing.svg import to_svg
from marquetry.store import house
from marquetry.store.house import HouseRule
from marquetry.web.site.deps import Connection, SentForm
from marquetry.web.site.pages import render
from marquetry.web.watch.forms import InstrumentForm, RuleForm

router = APIRouter()


def _defaults(model: Model) -> dict[str, Json]:
    """Every rule the page knows, as the model has it."""
    plain: dict[str, Json] = {rule.key: rule.default for rule in model.rule_list}
    return plain | {key: [check.limits.low, check.limits.high] for key, check in model.limit_keys.items()}


@dataclass(frozen=True, slots=True)
class RuleRow:
    """One rule as the page shows it; `fields` are the texts of its one or two inputs."""

    key: str
    title: str
    means: str
    unit: str
    drawing: Markup
    default: str
    fields: tuple[tuple[str, str], ...]
    origin: str


def _limit_row(model: Model, check: Check, set_here: dict[str, HouseRule], drawn: bool) -> RuleRow:  # noqa: FBT001  # only the first brings hatches
    key = check.key
    own = set_here.get(key)
    low, high = own.value if own else (check.limits.low, check.limits.high)
    scene = gap_detail(model, check.name)
    return RuleRow(
        key,
        check.title.partition(",")[0] if check.key != check.name else check.title,
        check.words.means,
        check.unit,
        Markup(to_svg(scene, defs=drawn)) if scene else Markup(),  # noqa: S704  # escaped by svg.py
        band(check.limits, check.decimals, check.unit),
        (("low", "" if low is None else entered(low)), ("high", "" if high is None else entered(high))),
        f"{own.origin}, {own.set_at[:10]}" if own else "fit model",
    )


def _families(model: Model, set_here: dict[str, HouseRule]) -> list[tuple[str, list[RuleRow]]]:
    seen: set[str] = set()
    families = []
    for name, checks in model.families:
        rows = []
        for check in checks:
            key = check.key
            bounded = check.limits.low is not None or check.limits.high is not None
            if bounded and key not in seen:
                rows.append(_limit_row(model, check, set_here, drawn=not seen))
                seen.add(key)
        families.append((name, rows))
    return families


def _plain_rows(model: Model, set_here: dict[str, HouseRule]) -> list[RuleRow]:
    rows = []
    for rule in model.rule_list:
        own = set_here.get(rule.key)
        value = own.value if own else rule.default
        origin = f"{own.origin}, {own.set_at[:10]}" if own else "fit model"
        title = rule.key.replace("_", " ").capitalize()
        told = figure(rule.default, 2, rule.unit)
        rows.append(
            RuleRow(
                rule.key, title, rule.meaning, rule.unit, Markup(), told, (("low", entered(value)),), origin
            )
        )
    return rows


def _page(request: Request, connection: Connection, errors: dict[str, str] | None = None) -> Response:
    set_here = house.house_rules(connection)
    model = connection.model
    rules = model.rules({}, house.rule_values(connection))
    context = {
        "families": _families(model, set_here),
        "plain": _plain_rows(model, set_here),
        "sets": list(RULE_SETS),
        "instruments": house.instruments(connection),
        "ways": WAYS,
        "errors": errors or {},
        "changed": len(set_here.keys() - model.schools.keys()),
        "schools": [(school, rules.school(school.key)) for school in model.school_list],
    }
    return render(request, "house/templates/house.html", context, 422 if errors else 200)


def _back(request: Request, anchor: str) -> Response:
    return RedirectResponse(f"{request.app.url_path_for('house')}#{anchor}", status_code=303)


@router.get("/rules", name="house")
def show(request: Request, connection: Connection) -> Response:
    """The page of house rules."""
    return _page(request, connection)


@router.post("/rules", name="set_rule")
def set_rule(request: Request, connection: Connection, form: Annotated[RuleForm, Form()]) -> Response:
    """Set one rule; empty fields, or the default's own value, put it back to the default."""
    defaults = _defaults(connection.model)
    if form.key not in defaults:
        raise NotFoundError(f"rule “{form.key}”")
    try:
        value = form.read(connection.model)
        connection.model.rules({form.key: value} if value is not None else {}).check(form.key)
    except (DimensionError, SheetError) as error:
        return _page(request, connection, {form.key: str(error)})
    house.set_rule(connection, form.key, None if value == defaults[form.key] else value, "own")
    return _back(request, f"rule-{form.key}")


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
    return _back(request, "schools")


@router.post("/rules/sets", name="take_set")
def take_set(request: Request, connection: Connection, name: Annotated[str, Form()]) -> Response:
    """Take one of the ready sets in place of every rule."""
    if name not in RULE_SETS:
        raise NotFoundError(f"set of rules “{name[:40]}”")
    chosen: dict[str, Json] = dict(RULE_SETS[name])
    house.take_set(connection, name, chosen)
    return _back(request, "sets")


@router.post("/instruments", name="add_instrument")
def add_instrument(request: Request, connection: Connection, sent: SentForm) -> Response:
    """Note an instrument the workshop has."""
    fields = {key: values if key == "ways" else values[0] for key, values in sent.items() if values}
    try:
        house.add_instrument(connection, InstrumentForm.model_validate(fields).read())
    except ValidationError as error:
        told = "; ".join(f"{e['loc'][0] if e['loc'] else ''}: {e['msg']}" for e in error.errors())
        return _page(request, connection, {"instrument": told})
    except DimensionError as error:
        return _page(request, connection, {"instrument": str(error)})
    return _back(request, "instruments")


@router.post("/instruments/{number}/checked", name="note_checked")
def note_checked(
    request: Request, connection: Connection, number: int, day: Annotated[date | Literal[""], Form()] = ""
) -> Response:
    """Note the day an instrument was checked against a gauge block; no day takes the note away."""
    house.note_checked(connection, number, day.isoformat() if day else None)
    return _back(request, "instruments")


@router.post("/instruments/{number}/removed", name="remove_instrument")
def remove_instrument(request: Request, connection: Connection, number: int) -> Response:
    """Forget an instrument."""
    house.remove_instrument(connection, number)
    return _back(request, "instruments")
