"""What is lacking and the plan for it, taken as orders; every order with what becomes of it."""

from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.store import supply_orders, supply_steps, watches
from marquetry.store.database import Connection as Opened
from marquetry.store.sent_forms import once
from marquetry.store.supply_steps import Arrival
from marquetry.web.order.forms import ArriveForm, BillForm, StepForm, minor_of
from marquetry.web.order.order_view import supply_page
from marquetry.web.order.plans import Plans
from marquetry.web.order.taking import take_orders
from marquetry.web.order.view import order_page
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.sent import SentKey
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visiting

router = APIRouter()
watch_router = APIRouter(prefix="/watches/{watch_id}")


def back(request: Request, name: str, where: str = "", **path: object) -> Response:
    """To a page of the order room after something was changed."""
    address = request.app.url_path_for(name, **{key: str(value) for key, value in path.items()})
    return RedirectResponse(f"{address}{where}", status_code=303)


@router.get("/orders", name="orders")
def show_all(request: Request, connection: Connection, every: bool = False) -> Response:  # noqa: FBT001, FBT002  # a word of the address
    """What all watches lack, the plan for it, and the orders; `every` one where that is asked."""
    plans: Plans = request.app.state.plans
    page = order_page(connection, plans, today(), every=every)
    return render(request, "order/templates/orders.html", {"page": page})


@watch_router.get("/order", name="order")
def show(visit: Visiting, every: bool = False) -> Response:  # noqa: FBT001, FBT002  # as above
    """The same for one watch."""
    plans: Plans = visit.request.app.state.plans
    page = order_page(visit.connection, plans, today(), visit.stored, visit.way("order"), every=every)
    return render(visit.request, "order/templates/orders.html", {"page": page})


@router.post("/orders", name="take_orders")
def take(
    request: Request,
    connection: Connection,
    mark: Annotated[str, Form(max_length=40)],
    watch: Annotated[int | None, Form()] = None,
    sent: SentKey = "",
) -> Response:
    """Take the plan as orders; one that is another by now changes nothing."""
    plans: Plans = request.app.state.plans
    chosen = None if watch is None else watches.watch(connection, watch)
    page = order_page(connection, plans, today(), chosen)
    with once(connection, sent, watch, mark) as is_first:
        if is_first:
            take_orders(connection, page.told, mark, page.needed, page.today)
    return (
        back(request, "orders", "#orders")
        if watch is None
        else back(request, "order", "#orders", watch_id=watch)
    )


def _page(
    request: Request, connection: Opened, number: int, told: tuple[str, str] = ("", ""), status: int = 200
) -> Response:
    page = supply_page(connection, number, today(), told)
    return render(request, "order/templates/supply_order.html", {"page": page}, status)


@router.get("/orders/{number}", name="supply_order")
def show_order(request: Request, connection: Connection, number: int) -> Response:
    """One order: its lines, what each piece really costs, and what became of it."""
    return _page(request, connection, number)


@router.post("/orders/{number}/bill", name="change_bill")
def change_bill(
    request: Request, connection: Connection, number: int, form: Annotated[BillForm, Form()]
) -> Response:
    """Note what the order is billed; what its pieces cost follows."""
    try:
        bill, due = form.read(supply_orders.order(connection, number))
        supply_orders.change_bill(connection, number, form.version, bill, due, form.notes.strip())
    except DimensionError as error:
        return _page(request, connection, number, ("bill", str(error)), 422)
    return back(request, "supply_order", number=number)


@router.post("/orders/{number}/steps", name="order_step")
def take_step(
    request: Request, connection: Connection, number: int, form: Annotated[StepForm, Form()]
) -> Response:
    """Note that it was sent, called off, or what became of some pieces."""
    try:
        currency = supply_orders.order(connection, number).bill.currency
        minor = minor_of("refunded", form.amount, currency) or 0
        with once(connection, form.sent, number, form) as is_first:
            if is_first:
                supply_steps.take_step(
                    connection, number, form.what, today(), form.line, form.pieces, minor,
                    form.words.strip(), form.version,
                )  # fmt: skip
    except MarquetryError as error:
        return _page(request, connection, number, (f"line-{form.line}", str(error)), 422)
    return back(request, "supply_order", number=number)


@router.post("/orders/{number}/lines/{line}/arrived", name="arrive")
def arrive(
    request: Request, connection: Connection, number: int, line: int, form: Annotated[ArriveForm, Form()]
) -> Response:
    """Pieces are here: looked over, they go to their place and are kept for their watch."""
    words = form.words.strip() or ("" if form.right else "not looked over yet")
    try:
        look = Arrival(form.pieces, form.faulty, form.place.strip(), words)
        with once(connection, form.sent, number, form) as is_first:
            if is_first:
                supply_steps.arrive(connection, number, line, look, today(), form.version)
    except MarquetryError as error:
        return _page(request, connection, number, (f"line-{line}", str(error)), 422)
    return back(request, "supply_order", number=number)


@router.post("/orders/{number}/steps/{step}/undone", name="undo_order_step")
def undo_step(request: Request, connection: Connection, number: int, step: int) -> Response:
    """Take a step back, by one that undoes it."""
    try:
        supply_steps.undo_step(connection, number, step, today())
    except MarquetryError as error:
        return _page(request, connection, number, ("steps", str(error)), 422)
    return back(request, "supply_order", number=number)
