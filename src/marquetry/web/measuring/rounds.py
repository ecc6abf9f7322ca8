"""The measuring round: one dimension after another, by keyboard or the caliper's button alone."""

from dataclasses import replace
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.entry import parse_figures
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import rounds
from marquetry.store.database import transaction
from marquetry.store.rounds import RoundOf, StoredRound
from marquetry.web.measuring.round_view import Site, each_of, planned, round_page, subject_of, verdicts_now
from marquetry.web.measuring.saving import save_card
from marquetry.web.site.addresses import addresses
from marquetry.web.site.deps import Connection, SentForm
from marquetry.web.site.pages import render
from marquetry.web.site.sent import Sent, first, whole

router = APIRouter(prefix="/round/{what}/{which}")
SKIP, NOT_REACHED = "-", "?"
"""What is typed instead of a figure: leave it out, or open the worksheet."""
MOST_READINGS = 12


def _site(request: Request) -> Site:
    return Site(addresses(request.app), request.app.state.reports)


def _to(request: Request, what: RoundOf, which: str, **asked: object) -> Response:
    address = addresses(request.app)("round", what=what, which=which)
    query = urlencode({key: value for key, value in asked.items() if value})
    return RedirectResponse(f"{address}?{query}" if query else str(address), status_code=303)


@router.get("", name="round")
def show(request: Request, connection: Connection, what: RoundOf, which: str) -> Response:
    """The step at hand, what is to be measured before it begins, or what turned at its end."""
    sent = {key: request.query_params.getlist(key) for key in request.query_params}
    page = round_page(_site(request), connection, (what, which), sent)
    return render(request, "measuring/templates/round.html", {"page": page, "way": page.way})


@router.post("", name="begin_round")
def begin(request: Request, connection: Connection, what: RoundOf, which: str) -> Response:
    """Plan the round anew and take up its first step."""
    site = _site(request)
    plan = planned(site, connection, what, which)
    if plan:
        rounds.begin(connection, what, which, plan, verdicts_now(site, connection, what, which))
    return _to(request, what, which)


def _round(connection: Connection, what: RoundOf, which: str) -> StoredRound:
    found = rounds.stored_round(connection, what, which)
    if found is None:
        raise SheetError("the round", "one that was begun", "none")
    return found


@router.post("/taken", name="take_reading")
def take(request: Request, connection: Connection, what: RoundOf, which: str, sent: SentForm) -> Response:
    """Save what was read, or keep one of several readings; then the next."""
    found, number = _round(connection, what, which), whole(sent, "step")
    typed, each = first(sent, "value"), first(sent, "each")
    if typed == SKIP:
        return skip(request, connection, what, which, number, each)
    if typed == NOT_REACHED:
        return _to(request, what, which, at=str(number), reach="no", each=each)
    if not 0 <= number < len(found.plan):
        return _to(request, what, which)
    try:
        after = _taken(request, connection, found, number, sent)
    except (DimensionError, SheetError) as error:
        told = {**sent, "at": [str(number)]}
        page = round_page(_site(request), connection, (what, which), told, str(error))
        return render(request, "measuring/templates/round.html", {"page": page, "way": page.way}, 422)
    return _to(request, what, which, at=str(number) if after.taken else "", each=each)


def _taken(
    request: Request, connection: Connection, found: StoredRound, number: int, sent: Sent
) -> StoredRound:
    """The round after the reading, kept in one step with the value it came to."""
    subject = subject_of(addresses(request.app), connection, found.plan[number])
    quantity = subject.quantity
    readings = list(found.taken)
    if quantity is not None and not first(sent, "sheet"):
        read = parse_figures("reading", first(sent, "value"), quantity.unit)
        for value in read:
            quantity.refuse_impossible("reading", value)
        readings = [*readings, *read][-MOST_READINGS:]
        if not readings:
            raise DimensionError("reading", "nothing", "", f"a number in {quantity.unit}, such as 2.62")
        if len(readings) < each_of(sent):
            after = replace(found, taken=tuple(readings))
            rounds.note(connection, after)
            return after
    filled = {**sent, "version": [str(subject.version)], "reading": [f"{value:g}" for value in readings]}
    after = replace(found, done=found.done | {number}, skipped=found.skipped - {number}, taken=())
    with transaction(connection):
        save_card(connection, subject, found.plan[number].number, filled)
        rounds.note(connection, after)
    return after


@router.post("/skipped", name="skip_step")
def skip(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    request: Request,
    connection: Connection,
    what: RoundOf,
    which: str,
    step: Annotated[int, Form()],
    each: Annotated[str, Form(max_length=2)] = "",
) -> Response:
    """Leave one out; it can be taken up at the end."""
    found = _round(connection, what, which)
    if 0 <= step < len(found.plan):
        rounds.note(connection, replace(found, skipped=found.skipped | {step}, taken=()))
    return _to(request, what, which, each=each)


@router.post("/again", name="take_up_skipped")
def again(request: Request, connection: Connection, what: RoundOf, which: str) -> Response:
    """Take up what was left out."""
    rounds.note(connection, replace(_round(connection, what, which), skipped=frozenset(), taken=()))
    return _to(request, what, which)


@router.post("/ended", name="end_round")
def end(request: Request, connection: Connection, what: RoundOf, which: str) -> Response:
    """Put the round away; what was measured stays."""
    page = round_page(_site(request), connection, (what, which), {})
    rounds.end(connection, what, which)
    return RedirectResponse(page.back, status_code=303)
