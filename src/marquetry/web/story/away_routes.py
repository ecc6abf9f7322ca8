"""Putting away what is left, sending the watch out, and service when it comes back."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form
from starlette.responses import Response

from marquetry.core.proving.ready import OpenedWhat
from marquetry.core.story.fates import LONGEST_FATE_WORDS, LONGEST_WHO, FateWhat, WatchFate
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.core.values.money import parse_money
from marquetry.store import fates, leftovers, terms_of_trade
from marquetry.store.database import transaction
from marquetry.store.leftovers import PutAway, PutWhere
from marquetry.web.prove.readiness import kept, record
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.story.away_view import away_page
from marquetry.web.story.routes import to_story
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/story")
FateWords = Annotated[str, Form(max_length=LONGEST_FATE_WORDS)]


@router.get("/away", name="away")
def show(visit: Visiting) -> Response:
    """What is left over, where the watch is, and its services."""
    return render(visit.request, "story/templates/away.html", {"page": away_page(visit)})


def _refused(visit: Visit, where: str, error: MarquetryError) -> Response:
    page = away_page(visit, {where: str(error)})
    return render(visit.request, "story/templates/away.html", {"page": page}, 422)


@router.post("/leftovers/{number}", name="put_leftover_away")
def put_away(
    visit: Visiting,
    number: int,
    where: Annotated[PutWhere, Form()],
    place: Annotated[str, Form(max_length=80)] = "",
    worth: Annotated[str, Form(max_length=40)] = "",
) -> Response:
    """A piece that is left over goes where it belongs."""
    try:
        usual = leftovers.currency_of(visit.connection, number)
        put = PutAway(where, place.strip(), parse_money("worth", worth, usual))
        leftovers.put_away(visit.connection, visit.stored, number, put, today())
    except MarquetryError as error:
        return _refused(visit, "put", error)
    return to_story(visit, "away", "#leftovers")


@router.post("/leftovers/{number}/back", name="take_leftover_back")
def take_piece_back(visit: Visiting, number: int) -> Response:
    """A piece that was handed over is here again."""
    leftovers.take_back_from_client(visit.connection, visit.stored.id, number)
    return to_story(visit, "away", "#leftovers")


@router.post("/fates", name="take_fate")
def take(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    visit: Visiting,
    what: Annotated[FateWhat, Form()],
    number: Annotated[int, Form(ge=1, le=1000)] = 1,
    who: Annotated[str, Form(max_length=LONGEST_WHO)] = "",
    words: FateWords = "",
    price: Annotated[str, Form(max_length=40)] = "",
    day: Annotated[str, Form(max_length=20)] = "",
    opened: Annotated[OpenedWhat | Literal[""], Form()] = "",
) -> Response:
    """The watch is sold, given, kept or taken apart; or it comes back, is looked over, mended, handed out."""
    try:
        if what in {"found", "changed"} and not words.strip():
            raise SheetError("words", "what was found or done, in a few words")
        home = terms_of_trade.trade_terms(visit.connection).home
        paid = parse_money("price", price, home) if what == "sold" else None
        fate = WatchFate(what, number, who.strip(), words.strip(), paid, parse_day("day", day or today()))
        with transaction(visit.connection):
            fates.take_fate(visit.connection, visit.stored, fate)
            if opened:
                kept(visit, record("opened", opened, words=words.strip()))
    except MarquetryError as error:
        return _refused(visit, "fate", error)
    return to_story(visit, "away")


@router.post("/fates/{number}/taken-back", name="take_fate_back")
def take_back(visit: Visiting, number: int) -> Response:
    """Take the newest step of that number of the series back."""
    fates.take_back(visit.connection, visit.stored.id, number, today())
    return to_story(visit, "away")
