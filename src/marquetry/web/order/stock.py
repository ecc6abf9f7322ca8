"""Drawers counted against the books, labels with codes, what lies unused and what it is worth."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import Response

from marquetry.core.values.day import days_between
from marquetry.core.values.money import Money
from marquetry.store import stock_takings
from marquetry.store.pieces import Piece
from marquetry.store.stock_takings import Lying
from marquetry.web.order.routes import back
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.thumbs import drawn_code
from marquetry.web.site.today import today

router = APIRouter()
LONG_UNUSED = 180
"""Days after which a piece that never moved is told as lying unused."""
MOST_LABELS = 400


@dataclass(frozen=True, slots=True)
class StockLabel:
    """A label: what it says, and the code of its page."""

    name: str
    told: str
    code: str


@dataclass(frozen=True, slots=True)
class StockPage:
    """All that the page of the stock shows."""

    places: list[Lying]
    unused: tuple[tuple[Piece, int], ...]
    worth: tuple[Money, ...]


def stock_page(places: list[Lying], day: str) -> StockPage:
    """Places with what lies in them, and pieces that have not moved for long, the longest first."""
    idle = [(piece, days_between(moved, day)) for held in places for piece, moved in held.pieces if moved]
    unused = sorted((one for one in idle if one[1] >= LONG_UNUSED), key=lambda one: -one[1])
    every = Lying("", tuple(one for held in places for one in held.pieces))
    return StockPage(places, tuple(unused), every.worth())


@router.get("/stock", name="stock")
def show(request: Request, connection: Connection) -> Response:
    """Every drawer and tin with what lies in it and what it is worth."""
    page = stock_page(stock_takings.lying(connection), today())
    return render(request, "order/templates/stock.html", {"page": page})


@router.post("/stock/takings", name="begin_taking")
def begin(request: Request, connection: Connection, place: Annotated[str, Form(max_length=80)]) -> Response:
    """Begin to count a place, or go on with it."""
    return back(request, "taking", number=stock_takings.begin_taking(connection, place, today()))


@router.get("/stock/takings/{number}", name="taking")
def show_taking(request: Request, connection: Connection, number: int) -> Response:
    """What the books say lies there, to be ticked off."""
    count = stock_takings.taking(connection, number)
    held = next((one for one in stock_takings.lying(connection) if one.place == count.place), None)
    pieces = [piece for piece, _ in held.pieces] if held else []
    unseen = sum(piece.id not in count.found | count.gone for piece in pieces)
    context = {"count": count, "pieces": pieces, "unseen": unseen}
    return render(request, "order/templates/taking.html", context)


@router.post("/stock/takings/{number}/pieces/{piece}", name="count_piece")
def count(
    request: Request,
    connection: Connection,
    number: int,
    piece: int,
    found: Annotated[str, Form(max_length=3)] = "",
) -> Response:
    """Note that a piece is there, or not; nothing takes the note back."""
    stock_takings.count_piece(connection, number, piece, found={"yes": True, "no": False}.get(found))
    return back(request, "taking", f"#piece-{piece}", number=number)


@router.post("/stock/takings/{number}/done", name="finish_taking")
def finish(request: Request, connection: Connection, number: int) -> Response:
    """End the count: what was not found leaves the books."""
    stock_takings.finish_taking(connection, number)
    return back(request, "stock")


@router.get("/stock/labels", name="labels")
def labels(request: Request, connection: Connection, place: Annotated[list[str], Query()] = []) -> Response:  # noqa: B006  # FastAPI's own
    """Labels for a drawer and each part in it, with the code of the page; to be printed and cut."""
    every = stock_takings.lying(connection)
    held = [one for one in every if not place or one.place in place]
    found: list[StockLabel] = []
    for one in held:
        parts = {piece.part_id: piece for piece, _ in one.pieces}
        for number, piece in list(parts.items())[: MOST_LABELS - len(found)]:
            address = str(request.url_for("part", part_id=str(number)))
            count = sum(other.part_id == number for other, _ in one.pieces)
            told = f"{one.place or 'no place'} · {count} {'piece' if count == 1 else 'pieces'}"
            found.append(StockLabel(piece.name, told, connection.kept.pure(drawn_code, address, piece.name)))
    places = [one.place for one in every]
    return render(
        request, "order/templates/labels.html", {"labels": found, "places": places, "chosen": place}
    )
