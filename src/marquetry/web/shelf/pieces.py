"""Owned pieces: where they lie, what became of them, and donors taken apart."""

from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import parse_money
from marquetry.store import bookings, pieces, shelf, watches
from marquetry.store.pieces import State, Stock
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.shelf.forms import StockForm
from marquetry.web.shelf.part_view import part_page
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.sent import whole_number
from marquetry.web.site.today import today

router = APIRouter()


def _read(connection: Connection, form: StockForm) -> Stock:
    """The form as a stock record; NotFoundError where it is to be kept for a watch that is not there."""
    stock = form.read(trade_terms(connection).home)
    if stock.kept_for is not None:
        watches.watch(connection, stock.kept_for)
    return stock


def _back(request: Request, connection: Connection, number: int) -> Response:
    """To the piece on its part's page, or to the page the form stood on."""
    part_id = pieces.piece(connection, number).part_id
    address = request.app.url_path_for("part", part_id=str(part_id))
    return RedirectResponse(f"{address}#piece-{number}", status_code=303)


def _refused(request: Request, connection: Connection, part_id: int, words: str) -> Response:
    page = part_page(connection, shelf.part(connection, part_id), errors={"piece": words})
    return render(request, "shelf/templates/part.html", {"page": page}, 422)


@router.post("/parts/{part_id}/pieces", name="add_piece")
def add_piece(
    request: Request, connection: Connection, part_id: int, form: Annotated[StockForm, Form()]
) -> Response:
    """Put one more piece of a part on the shelf."""
    shelf.part(connection, part_id)
    try:
        stock = _read(connection, form)
    except DimensionError as error:
        return _refused(request, connection, part_id, str(error))
    return _back(request, connection, pieces.add_piece(connection, part_id, stock))


@router.post("/pieces/{number}", name="change_stock")
def change_stock(
    request: Request, connection: Connection, number: int, form: Annotated[StockForm, Form()]
) -> Response:
    """Note where the piece lies and how it is."""
    try:
        pieces.change_stock(connection, number, _read(connection, form), form.version)
    except DimensionError as error:
        return _refused(request, connection, pieces.piece(connection, number).part_id, str(error))
    return _back(request, connection, number)


@router.post("/pieces/{number}/state", name="change_state")
def change_state(  # noqa: PLR0913, PLR0917  # one argument a field
    request: Request,
    connection: Connection,
    number: int,
    state: Annotated[State, Form()],
    why: Annotated[str, Form(max_length=200)] = "",
    version: Annotated[int | None, Form(ge=1)] = None,
    brought: Annotated[str, Form(max_length=20)] = "",
    booked: Annotated[str, Form(max_length=12)] = "",
) -> Response:
    """Scrap, return or sell the piece, or put it back; what was spoilt for a watch is booked on it."""
    if state == "sold":
        try:
            money = parse_money("sold for", brought, trade_terms(connection).home)
        except DimensionError as error:
            return _refused(request, connection, pieces.piece(connection, number).part_id, str(error))
        pieces.sell(connection, number, money, why.strip(), version)
    elif state == "scrapped" and booked:
        watch = watches.watch(connection, whole_number(booked))
        bookings.book_spoilt(connection, watch.id, number, why.strip(), today(), version)
    else:
        pieces.change_state(connection, number, state, why.strip(), version)
    return _back(request, connection, number)


@router.post("/pieces/{number}/fitted", name="count_fitting")
def count_fitting(request: Request, connection: Connection, number: int) -> Response:
    """Note that a hand was fitted once more."""
    pieces.count_fitting(connection, number)
    return _back(request, connection, number)
