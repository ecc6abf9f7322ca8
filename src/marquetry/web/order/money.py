"""The money of a watch: books, quotes, its series; and the price of a drafting job."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from starlette.responses import Response

from marquetry.core.trade.quote import as_told
from marquetry.core.values.day import later
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.store import bookings, quotes, terms_of_trade
from marquetry.store.quotes import GivenNumber
from marquetry.store.sent_forms import once
from marquetry.web.order.forms import BookForm, DraftingLook, QuoteLook
from marquetry.web.order.money_view import finishing, money_page, quote_page, reckoned_quote, series_page
from marquetry.web.order.routes import back
from marquetry.web.site.pages import render
from marquetry.web.site.sent import SentKey
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")


def _money(visit: Visit, errors: dict[str, str] | None = None) -> Response:
    page = money_page(visit, today(), errors)
    return render(visit.request, "order/templates/money.html", {"page": page}, 422 if errors else 200)


@router.get("/money", name="money")
def show(visit: Visiting) -> Response:
    """Where the money of this watch went, what it still needs, against the budget."""
    return _money(visit)


@router.post("/money", name="book")
def book(visit: Visiting, form: Annotated[BookForm, Form()]) -> Response:
    """Book hours, or a sum for consumables, material or anything else."""
    terms = terms_of_trade.trade_terms(visit.connection)
    try:
        new = form.read(terms, today())
    except DimensionError as error:
        return _money(visit, {"book": str(error)})
    with once(visit.connection, form.sent, visit.stored.id, form) as is_first:
        if is_first:
            bookings.book(visit.connection, visit.stored.id, new)
    return back(visit.request, "money", "#books", watch_id=visit.stored.id)


@router.post("/money/{number}/reversed", name="reverse_booking")
def reverse(visit: Visiting, number: int) -> Response:
    """Take an entry back by one that reverses it."""
    bookings.reverse(visit.connection, visit.stored.id, number, today())
    return back(visit.request, "money", "#books", watch_id=visit.stored.id)


@router.post("/money/spoilt/{piece}", name="book_spoilt")
def book_spoilt(
    visit: Visiting, piece: int, why: Annotated[str, Form(max_length=200)] = "", sent: SentKey = ""
) -> Response:
    """Scrap a piece that was kept for this watch, and book what it cost on it."""
    try:
        with once(visit.connection, sent, piece, why) as is_first:
            if is_first:
                bookings.book_spoilt(visit.connection, visit.stored.id, piece, why.strip(), today())
    except MarquetryError as error:
        return _money(visit, {"spoilt": str(error)})
    return back(visit.request, "money", "#books", watch_id=visit.stored.id)


@router.get("/quote", name="quote")
def show_quote(visit: Visiting, look: Annotated[QuoteLook, Query()]) -> Response:
    """What to ask for it: reckoned as the address says."""
    page = quote_page(visit, look, today())
    return render(visit.request, "order/templates/quote.html", {"page": page}, 422 if page.error else 200)


@router.post("/quote", name="tell_quote")
def tell_quote(visit: Visiting, look: Annotated[QuoteLook, Form()]) -> Response:
    """Keep the quote as it is told: its reckoning, until when it holds, what is included."""
    terms = terms_of_trade.trade_terms(visit.connection)
    try:
        found = reckoned_quote(finishing(visit, today()), look.terms(terms.home), terms)
    except DimensionError as error:
        page = quote_page(visit, look, today(), str(error))
        return render(visit.request, "order/templates/quote.html", {"page": page}, 422)
    valid_until = later(today(), look.days)
    told = as_told(found, visit.stored.build.name, terms.maker, valid_until, look.included.strip())
    told["query"] = look.model_dump(exclude_defaults=True, exclude={"sent"})
    with once(visit.connection, look.sent, visit.stored.id, look) as is_first:
        if not is_first:
            return back(visit.request, "quote", "#told", watch_id=visit.stored.id)
        number = quotes.tell_quote(visit.connection, visit.stored.id, told, today())
    return back(visit.request, "told_quote", watch_id=visit.stored.id, number=number)


@router.get("/quotes/{number}", name="told_quote")
def told_quote(visit: Visiting, number: int, bill: Annotated[bool, Query()] = False) -> Response:  # noqa: FBT002  # a query's entry
    """A quote as it was told: one sheet to print, for the client; as a bill with what is left to pay."""
    context = {
        "watch": visit.stored,
        "way": visit.way("order"),
        "quote": quotes.quote_of(visit.connection, visit.stored.id, number),
        "today": today(),
        "bill": bill,
        "report": visit.report(visit.stored.build),
    }
    return render(visit.request, "order/templates/told_quote.html", context)


@router.post("/quotes/{number}/held", name="hold_quote")
def hold_quote(visit: Visiting, number: int, withdrawn: Annotated[bool, Form()] = False) -> Response:  # noqa: FBT002  # a form's field
    """Withdraw a quote, or hold it again."""
    quotes.withdraw(visit.connection, visit.stored.id, number, withdrawn=withdrawn)
    return back(visit.request, "quote", "#told", watch_id=visit.stored.id)


def _series(visit: Visit, errors: dict[str, str] | None = None) -> Response:
    page = series_page(visit, today(), errors)
    return render(visit.request, "order/templates/series.html", {"page": page}, 422 if errors else 200)


@router.get("/series", name="series")
def show_series(visit: Visiting) -> Response:
    """How many of this watch can still be made, which part ends it, and whose which number is."""
    return _series(visit)


@router.post("/series", name="set_series")
def set_series(
    visit: Visiting,
    count: Annotated[int, Form(ge=1, le=1000)],
    version: Annotated[int, Form(ge=0)] = 0,
) -> Response:
    """Say how many are built."""
    try:
        quotes.set_series(visit.connection, visit.stored.id, version, count)
    except MarquetryError as error:
        return _series(visit, {"count": str(error)})
    return back(visit.request, "series", watch_id=visit.stored.id)


@router.post("/series/numbers", name="give_number")
def give_number(
    visit: Visiting,
    number: Annotated[int, Form(ge=1, le=1000)],
    buyer: Annotated[str, Form(min_length=1, max_length=80)],
    words: Annotated[str, Form(max_length=200)] = "",
) -> Response:
    """Give a number of the series to a buyer."""
    try:
        given = GivenNumber(number, buyer.strip(), words.strip(), today())
        quotes.give_number(visit.connection, visit.stored.id, given)
    except MarquetryError as error:
        return _series(visit, {"number": str(error)})
    return back(visit.request, "series", watch_id=visit.stored.id)


@router.post("/series/numbers/{number}/taken-back", name="take_number_back")
def take_number_back(visit: Visiting, number: int) -> Response:
    """Take a number back from its buyer."""
    quotes.take_number_back(visit.connection, visit.stored.id, number)
    return back(visit.request, "series", watch_id=visit.stored.id)


@router.get("/drafting", name="drafting")
def drafting(visit: Visiting, look: Annotated[DraftingLook, Query()]) -> Response:
    """The price of drawing a part for somebody: a flat fee and the prints, as a sheet to print."""
    terms, error, total = terms_of_trade.trade_terms(visit.connection), "", None
    try:
        total = look.total(terms.home)
    except DimensionError as refused:
        error = str(refused)
    context = {
        "watch": visit.stored, "way": visit.way("order"), "look": look, "total": total, "refused": error,
        "terms": terms, "today": today(),
    }  # fmt: skip
    return render(visit.request, "order/templates/drafting.html", context, 422 if error else 200)
