"""Suppliers and what is reckoned with: their terms, offers, rates of exchange, pay of an hour, sundries."""

from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from marquetry.core.trade.sundries import SundryKind
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.store import shelf, supply_orders, terms_of_trade
from marquetry.store import suppliers as sellers
from marquetry.store.database import Connection as Opened
from marquetry.store.database import transaction
from marquetry.store.suppliers import number_in
from marquetry.web.order.forms import OfferForm, SupplierForm, currency_of, decimal_of, minor_of, refuse_home
from marquetry.web.order.routes import back
from marquetry.web.order.supplier_view import trade_page
from marquetry.web.site.deps import Connection, SentForm
from marquetry.web.site.pages import render
from marquetry.web.site.sent import first, whole_number
from marquetry.web.site.today import today

router = APIRouter()


def _page(
    request: Request, connection: Opened, errors: dict[str, str] | None = None, status: int = 200
) -> Response:
    page = trade_page(connection, today(), errors)
    return render(request, "order/templates/suppliers.html", {"page": page}, status)


@router.get("/suppliers", name="suppliers")
def show(request: Request, connection: Connection) -> Response:
    """Every supplier, the rates, and what the workshop reckons with."""
    return _page(request, connection)


@router.post("/suppliers", name="add_supplier")
def add(request: Request, connection: Connection, form: Annotated[SupplierForm, Form()]) -> Response:
    """Note a supplier."""
    try:
        number = sellers.add_supplier(connection, form.read(), form.notes.strip())
    except MarquetryError as error:
        return _page(request, connection, {"new": str(error)}, 422)
    return back(request, "suppliers", f"#supplier-{number}")


@router.post("/suppliers/{number}", name="change_supplier")
def change(
    request: Request, connection: Connection, number: int, form: Annotated[SupplierForm, Form()]
) -> Response:
    """Note how a supplier sells now."""
    try:
        terms = form.read()
        sellers.change_supplier(connection, number, form.version, terms, form.notes.strip())
    except DimensionError as error:
        return _page(request, connection, {f"supplier-{number}": str(error)}, 422)
    return back(request, "suppliers", f"#supplier-{number}")


@router.post("/offers/{key}", name="add_offer")
def add_offer(
    request: Request, connection: Connection, key: str, form: Annotated[OfferForm, Form()]
) -> Response:
    """Remember what a supplier asks for a part or a sundry; former prices stay."""
    part, sundry = number_in(key, "part"), number_in(key, "sundry")
    try:
        if part is not None:
            shelf.part(connection, part)
        else:
            terms_of_trade.sundry(connection, sundry or 0)
        seller = sellers.supplier(connection, form.supplier)
        offer = form.read(seller.terms.name, seller.terms.currency, key)
        seen = parse_day("seen", form.seen) if form.seen.strip() else today()
        sellers.add_offer(connection, seller.id, key, offer, seen)
    except DimensionError as error:
        return _page(request, connection, {"offer": f"{error} Nothing was changed."}, 422)
    if part is not None:
        return back(request, "part", "#offers", part_id=part)
    return back(request, "suppliers", "#sundries")


@router.post("/offers/{number}/ended", name="end_offer")
def end_offer(request: Request, connection: Connection, number: int) -> Response:
    """Note that something is offered no more; what it cost stays remembered."""
    sellers.end_offer(connection, number, today())
    return back(request, "suppliers", "#offers")


@router.post("/rates", name="set_rate")
def set_rate(
    request: Request,
    connection: Connection,
    currency: Annotated[str, Form(max_length=3)],
    rate: Annotated[str, Form(max_length=20)] = "",
    day: Annotated[str, Form(max_length=10)] = "",
) -> Response:
    """Note a rate from a day on; an empty one takes that day's back. What pieces cost follows."""
    try:
        code, since = currency_of(currency), parse_day("day", day) if day.strip() else today()
        found = decimal_of("rate", rate, 10**9)
        refuse_home(code, terms_of_trade.trade_terms(connection).home)
        with transaction(connection):
            terms_of_trade.set_rate(connection, code, since, found or None)
            supply_orders.reprice_all(connection)
    except DimensionError as error:
        return _page(request, connection, {"rate": str(error)}, 422)
    return back(request, "suppliers", "#rates")


@router.post("/trade", name="set_terms")
def set_terms(request: Request, connection: Connection, sent: SentForm) -> Response:
    """Set home currency, pay of an hour by kind, spares in per cent, days for the bench, the maker's name."""
    try:
        home = currency_of(first(sent, "home"))
        hours = {
            kind: minor_of(f"pay: {kind}", first(sent, f"pay-{kind}"), home) or 0
            for kind in terms_of_trade.HOUR_KINDS
            if first(sent, f"pay-{kind}").strip()
        }
        spares = {
            key.removeprefix("spare-"): int(decimal_of(key, first(sent, key), 1000))
            for key in sent
            if key.startswith("spare-")
        }
        days = int(decimal_of("days", first(sent, "bench_days"), 365))
        told = {
            "home": home,
            "hours": hours,
            "spares": spares,
            "bench_days": days,
            "maker": first(sent, "maker")[:80],
        }
        with transaction(connection):
            terms_of_trade.set_terms(connection, told)
            supply_orders.reprice_all(connection)
    except DimensionError as error:
        return _page(request, connection, {"terms": str(error)}, 422)
    return back(request, "suppliers", "#terms")


@router.post("/sundries", name="add_sundry")
def add_sundry(
    request: Request,
    connection: Connection,
    kind: Annotated[SundryKind, Form()],
    name: Annotated[str, Form(min_length=1, max_length=120)],
) -> Response:
    """Note a consumable, a tool or a material."""
    terms_of_trade.add_sundry(connection, kind, name.strip())
    return back(request, "suppliers", "#sundries")


@router.post("/sundries/counted", name="count_sundries")
def count_sundries(request: Request, connection: Connection, sent: SentForm) -> Response:
    """Note how many of each sundry are there, how many are wanted there, and where they lie."""
    with transaction(connection):
        for one in terms_of_trade.sundries(connection):
            if f"held-{one.id}" in sent:
                held, least = (_count(first(sent, f"{what}-{one.id}")) for what in ("held", "least"))
                version = whole_number(first(sent, f"version-{one.id}"))
                place = first(sent, f"place-{one.id}")[:80]
                if (held, least, place) != (one.held, one.least, one.place):
                    terms_of_trade.change_sundry(connection, one.id, version, held, least, place)
    return back(request, "suppliers", "#sundries")


def _count(text: str) -> int:
    return min(whole_number(text or "0"), 1_000_000)
