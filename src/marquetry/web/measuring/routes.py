"""Measuring cards: of a watch's dimensions, and of a shelf part's."""

from collections.abc import Sequence
from urllib.parse import urlencode

from fastapi import APIRouter, Request
from starlette.datastructures import QueryParams
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.part import PART_LINK, Part, part_at
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.errors import SheetError
from marquetry.store import house, photos, readings, shelf, watches
from marquetry.store.database import transaction
from marquetry.store.readings import Owner
from marquetry.web.measuring.sent import Sent, first
from marquetry.web.measuring.view import CardPage, Subject, card_page
from marquetry.web.site.deps import Connection, SentForm, wants_fragments
from marquetry.web.site.pages import render
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.way import WayThrough, way_through

router = APIRouter()
LONGEST_NUMBER = 12
Taken = dict[str, Dimension]
"""What a card comes to: dimensions by their path below the part."""


def _sent(values: QueryParams) -> Sent:
    return {key: values.getlist(key) for key in dict.fromkeys(values)}


def _watch_subject(request: Request, connection: Connection, watch_id: int, path: str) -> Subject:
    stored = watches.watch(connection, watch_id)
    part, below = part_at(stored.build, path)
    action = str(request.app.url_path_for("watch_card", watch_id=str(watch_id)))
    back = str(request.app.url_path_for("watch", watch_id=str(watch_id)))
    return Subject("watch", part, path, path, below, stored.version, action, back, stored.build.name)


def _part_subject(request: Request, connection: Connection, part_id: int, path: str) -> Subject:
    stored = shelf.part(connection, part_id)
    _, below = part_at(stored.part.build, path)
    action = str(request.app.url_path_for("part_card", part_id=str(part_id)))
    back = str(request.app.url_path_for("part", part_id=str(part_id)))
    return Subject("part", stored.part, path, below, below, stored.version, action, back, stored.part.name)


def _card(connection: Connection, subject: Subject, owner: Owner, owner_id: int, sent: Sent) -> CardPage:
    pictured = photos.photos_of(connection, owner, owner_id)
    linked = subject.part.document.get(PART_LINK)
    if owner == "watch" and isinstance(linked, int):
        pictured += photos.photos_of(connection, "part", linked)
    history = readings.readings_of(connection, owner, owner_id, subject.path)
    return card_page(
        subject, sent, house.instruments(connection), pictured, history, connection.model.rules()
    )


@router.get("/watches/{watch_id}/card", name="watch_card")
def watch_card(request: Request, connection: Connection, watch_id: int, path: str) -> Response:
    """The card of a dimension of a watch."""
    subject = _watch_subject(request, connection, watch_id, path)
    page = _card(connection, subject, "watch", watch_id, _sent(request.query_params))
    return render(request, _template(request), {"page": page, "way": _way(request, connection, watch_id)})


def _way(request: Request, connection: Connection, watch_id: int) -> WayThrough:
    """The way through the watch whose dimension is measured."""
    stored = watches.watch(connection, watch_id)
    rules = connection.model.rules_of(stored.build, house.rule_values(connection))
    reports: Reports = request.app.state.reports
    return way_through(stored, reports.on(stored.build, rules), "measure")


@router.get("/parts/{part_id}/card", name="part_card")
def part_card(request: Request, connection: Connection, part_id: int, path: str) -> Response:
    """The card of a dimension of a shelf part."""
    subject = _part_subject(request, connection, part_id, path)
    page = _card(connection, subject, "part", part_id, _sent(request.query_params))
    return render(request, _template(request), {"page": page, "way": None})


def _template(request: Request) -> str:
    return "measuring/templates/_card.html" if wants_fragments(request) else "measuring/templates/card.html"


def _taken(
    connection: Connection, page: CardPage, owner: Owner, owner_id: int, sent: Sent
) -> tuple[Taken, str, Sequence[float]]:
    """What is to be saved: dimensions, the instrument's name, the single readings."""
    subject, tool = page.subject, page.chosen.instrument.name if page.chosen else ""
    if number := first(sent, "former"):
        former = readings.reading_of(connection, owner, owner_id, subject.path, _whole(number))
        return {subject.below: former.dimension}, former.instrument, former.taken
    if page.direct.found is not None:
        return {subject.below: page.direct.found.dimension()}, tool, page.direct.found.readings
    place = subject.below.rpartition(".")[0]
    if page.picture is not None and page.picture.place is not None:
        radius, angle = page.picture.place
        return {f"{place}.radius": radius, f"{place}.angle": angle}, "photograph with a scale", ()
    for filled in page.sheets:
        if filled.computed:
            found = {_named(key, place): c.dimension for key, c in filled.computed.items()}
            return found, f"{tool}; worksheet: {filled.worksheet.title}", ()
    raise SheetError("readings", "readings that come to a value", "none yet")


def _named(result: str, place: str) -> str:
    """A worksheet's result below its part, the thing of a list being the one that the card is of."""
    return f"{place}.{result.rpartition('.')[2]}" if "*" in result else result


def _with(build: Build, prefix: str, taken: Taken) -> Build:
    for below, dimension in taken.items():
        rounded = Dimension(round(dimension.value, 4), round(dimension.tol, 4), dimension.source)
        build = build.with_entry(f"{prefix}.{below}", dimension_as_json(rounded))
    return build


def _whole(text: str) -> int:
    if not text.isdecimal() or len(text) > LONGEST_NUMBER:
        raise SheetError("the form", "a whole number", f"“{text[:40]}”")
    return int(text)


@router.post("/watches/{watch_id}/card", name="save_watch_card")
def save_watch_card(request: Request, connection: Connection, watch_id: int, sent: SentForm) -> Response:
    """Save what the card of a watch's dimension comes to; the former value stays with the card."""
    subject = _watch_subject(request, connection, watch_id, first(sent, "path"))
    return _saved(connection, subject, watch_id, sent)


@router.post("/parts/{part_id}/card", name="save_part_card")
def save_part_card(request: Request, connection: Connection, part_id: int, sent: SentForm) -> Response:
    """The same for a shelf part's dimension."""
    subject = _part_subject(request, connection, part_id, first(sent, "path"))
    return _saved(connection, subject, part_id, sent)


def _saved(connection: Connection, subject: Subject, number: int, sent: Sent) -> Response:
    """Value, readings and instrument in one step; then the card again."""
    page = _card(connection, subject, subject.owner, number, sent)
    taken, tool, single = _taken(connection, page, subject.owner, number, sent)
    prefix = subject.path.removesuffix(subject.below)
    with transaction(connection):
        _save(connection, page, number, _whole(first(sent, "version")), taken)
        for below in taken:
            readings.tell_how(connection, subject.owner, number, f"{prefix}{below}", (tool, single))
    return RedirectResponse(f"{subject.action}?{urlencode({'path': subject.asked})}", status_code=303)


def _save(connection: Connection, page: CardPage, number: int, based_on: int, taken: Taken) -> None:
    subject = page.subject
    if subject.owner == "watch":
        build = watches.watch(connection, number).build
        after = _with(build, subject.path.removesuffix(f".{subject.below}"), taken)
        watches.save(connection, number, based_on, after, f"measured: {page.label}")
        return
    stored = shelf.part(connection, number)
    after = _with(stored.part.build, stored.part.kind.prefix, taken)
    part = Part.of(stored.part.kind, after.at(stored.part.kind.prefix))
    shelf.change_part(connection, number, based_on, part, stored.terms)
