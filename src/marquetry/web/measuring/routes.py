"""Measuring cards: of a watch's dimensions, and of a shelf part's."""

from urllib.parse import urlencode

from fastapi import APIRouter, Request
from starlette.datastructures import QueryParams
from starlette.responses import RedirectResponse, Response

from marquetry.store import house, watches
from marquetry.web.measuring.saving import card_of, part_subject, save_card, watch_subject
from marquetry.web.measuring.view import Subject
from marquetry.web.site.addresses import addresses
from marquetry.web.site.deps import Connection, SentForm, wants_fragments
from marquetry.web.site.pages import render
from marquetry.web.site.sent import Sent, first
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.way import WayThrough, way_through

router = APIRouter()


def _sent(values: QueryParams) -> Sent:
    return {key: values.getlist(key) for key in dict.fromkeys(values)}


@router.get("/watches/{watch_id}/card", name="watch_card")
def watch_card(request: Request, connection: Connection, watch_id: int, path: str) -> Response:
    """The card of a dimension of a watch."""
    subject = watch_subject(addresses(request.app), connection, watch_id, path)
    page = card_of(connection, subject, "watch", watch_id, _sent(request.query_params))
    return render(request, _template(request), {"page": page, "way": _way(request, connection, watch_id)})


def _way(request: Request, connection: Connection, watch_id: int) -> WayThrough:
    """The way through the watch whose dimension is measured."""
    stored = watches.watch(connection, watch_id)
    rules = connection.model.rules_of(stored.build, house.rule_values(connection))
    reports: Reports = request.app.state.reports
    return way_through(stored, reports.on(stored.build, rules), "next")


@router.get("/parts/{part_id}/card", name="part_card")
def part_card(request: Request, connection: Connection, part_id: int, path: str) -> Response:
    """The card of a dimension of a shelf part."""
    subject = part_subject(addresses(request.app), connection, part_id, path)
    page = card_of(connection, subject, "part", part_id, _sent(request.query_params))
    return render(request, _template(request), {"page": page, "way": None})


def _template(request: Request) -> str:
    return "measuring/templates/_card.html" if wants_fragments(request) else "measuring/templates/card.html"


@router.post("/watches/{watch_id}/card", name="save_watch_card")
def save_watch_card(request: Request, connection: Connection, watch_id: int, sent: SentForm) -> Response:
    """Save what the card of a watch's dimension comes to; the former value stays with the card."""
    subject = watch_subject(addresses(request.app), connection, watch_id, first(sent, "path"))
    return _saved(connection, subject, watch_id, sent)


@router.post("/parts/{part_id}/card", name="save_part_card")
def save_part_card(request: Request, connection: Connection, part_id: int, sent: SentForm) -> Response:
    """The same for a shelf part's dimension."""
    subject = part_subject(addresses(request.app), connection, part_id, first(sent, "path"))
    return _saved(connection, subject, part_id, sent)


def _saved(connection: Connection, subject: Subject, number: int, sent: Sent) -> Response:
    """Value, readings and instrument in one step; then the card again."""
    save_card(connection, subject, number, sent)
    return RedirectResponse(f"{subject.action}?{urlencode({'path': subject.asked})}", status_code=303)
