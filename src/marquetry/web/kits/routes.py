"""A seller's text on its page: pasted or from a file, decided about, taken, for watch, part or shelf."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, Request, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.measuring.listing.read import LONGEST_LISTING
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.seller_mail import MOST_BYTES, SellerText, text_of_file
from marquetry.store import pasted, sellers_words
from marquetry.store.database import transaction
from marquetry.store.pasted import ON_THE_SHELF, Decided, PastedFor
from marquetry.web.kits.desk import NUMBERED, Desk, desk_of
from marquetry.web.kits.form import TAKE, read_form
from marquetry.web.site.addresses import addresses
from marquetry.web.site.deps import Connection, SentForm
from marquetry.web.site.pages import render

router = APIRouter()
PastedText = Annotated[str, Form(max_length=LONGEST_LISTING)]


def to_reading(request: Request, owner: PastedFor, number: int) -> Response:
    """Go where a text that is kept for this owner is read."""
    return RedirectResponse(address_of(request, f"{owner}_listing", owner, number), status_code=303)


def address_of(request: Request, route: str, owner: PastedFor, number: int) -> str:
    """The address of a route of this owner."""
    named = {NUMBERED[owner]: str(number)} if owner in NUMBERED else {}
    return str(addresses(request.app)(route, **named))


def _show(request: Request, desk: Desk, errors: tuple[str, ...] = ()) -> Response:
    page = desk.page(
        address_of(request, desk.owner, desk.owner, desk.number),
        address_of(request, f"{desk.owner}_listing", desk.owner, desk.number),
        errors,
    )
    return render(
        request,
        "kits/templates/kit.html",
        {"page": page, "way": page.way, "most": MOST_BYTES},
        422 if errors else 200,
    )


def _kept(
    request: Request, connection: Connection, owner: PastedFor, number: int, told: SellerText
) -> Response:
    """Keep a text and read it, or put one away; its seller is known by the sender, where that is known."""
    desk_of(request, connection, owner, number)  # NotFoundError where there is no such owner
    if told.text.strip():
        seller = sellers_words.seller_of(connection, told.sender) if told.sender else ""
        decided = Decided(seller=seller, sender=told.sender)
        pasted.keep(connection, owner, number, told.text[:LONGEST_LISTING], decided)
    else:
        pasted.put_away(connection, owner, number)
    return to_reading(request, owner, number)


def _from_file(
    request: Request, connection: Connection, owner: PastedFor, number: int, file: UploadFile
) -> Response:
    desk = desk_of(request, connection, owner, number)
    try:
        told = text_of_file(file.filename or "", file.file.read(MOST_BYTES + 1))
    except MarquetryError as error:
        return _show(request, desk, (str(error),))
    return _kept(request, connection, owner, number, told)


def _decided(
    request: Request, connection: Connection, owner: PastedFor, number: int, sent: SentForm
) -> Response:
    """Keep what was decided; where all that is sure is to be used, use it."""
    desk = desk_of(request, connection, owner, number)
    if not desk.pasted.text:
        return to_reading(request, owner, number)
    try:
        form = read_form(sent, desk.pasted.decided, desk.text)
        desk = replace(desk, pasted=replace(desk.pasted, decided=desk.allowed(form.decided)))
        with transaction(connection):
            desk.set_rates(form.rates)
            if form.does == TAKE:
                desk = desk.take(form)
            pasted.keep(connection, owner, number, desk.pasted.text, desk.pasted.decided)
            done = form.does == TAKE and not desk.text.is_open
            if done:
                pasted.put_away(connection, owner, number)
    except MarquetryError as error:
        # Read anew: what was typed stands beside the watch as it is now.
        now = replace(desk_of(request, connection, owner, number), pasted=desk.pasted)
        return _show(request, now, (str(error),))
    if done:
        return RedirectResponse(desk.where_to(request), status_code=303)
    return to_reading(request, owner, number)


@router.get("/watches/{watch_id}/listing", name="watch_listing")
def watch_listing(request: Request, connection: Connection, watch_id: int, kind: str = "") -> Response:
    """A text for parts of a watch."""
    return _show(request, desk_of(request, connection, "watch", watch_id, kind))


@router.get("/parts/{part_id}/listing", name="part_listing")
def part_listing(request: Request, connection: Connection, part_id: int) -> Response:
    """A text for a part of the shelf."""
    return _show(request, desk_of(request, connection, "part", part_id))


@router.get("/shelf/listing", name="shelf_listing")
def shelf_listing(request: Request, connection: Connection, kind: str = "") -> Response:
    """A text for parts that are not on the shelf yet."""
    return _show(request, desk_of(request, connection, "shelf", ON_THE_SHELF, kind))


@router.post("/watches/{watch_id}/listing", name="paste_for_watch")
def paste_for_watch(
    request: Request, connection: Connection, watch_id: int, text: PastedText = ""
) -> Response:
    """Read a text for a watch."""
    return _kept(request, connection, "watch", watch_id, SellerText(text))


@router.post("/parts/{part_id}/listing", name="paste_for_part")
def paste_for_part(request: Request, connection: Connection, part_id: int, text: PastedText = "") -> Response:
    """Read a text for a part."""
    return _kept(request, connection, "part", part_id, SellerText(text))


@router.post("/shelf/listing", name="paste_for_shelf")
def paste_for_shelf(request: Request, connection: Connection, text: PastedText = "") -> Response:
    """Read a text for new parts."""
    return _kept(request, connection, "shelf", ON_THE_SHELF, SellerText(text))


@router.post("/watches/{watch_id}/listing/file", name="mail_for_watch")
def mail_for_watch(request: Request, connection: Connection, watch_id: int, file: UploadFile) -> Response:
    """Read a saved mail, page or text for a watch."""
    return _from_file(request, connection, "watch", watch_id, file)


@router.post("/parts/{part_id}/listing/file", name="mail_for_part")
def mail_for_part(request: Request, connection: Connection, part_id: int, file: UploadFile) -> Response:
    """Read a saved mail, page or text for a part."""
    return _from_file(request, connection, "part", part_id, file)


@router.post("/shelf/listing/file", name="mail_for_shelf")
def mail_for_shelf(request: Request, connection: Connection, file: UploadFile) -> Response:
    """Read a saved mail, page or text for new parts."""
    return _from_file(request, connection, "shelf", ON_THE_SHELF, file)


@router.post("/watches/{watch_id}/listing/taken", name="take_into_watch")
def take_into_watch(request: Request, connection: Connection, watch_id: int, sent: SentForm) -> Response:
    """Decide about a text for a watch; use all that is sure of it, or nothing."""
    return _decided(request, connection, "watch", watch_id, sent)


@router.post("/parts/{part_id}/listing/taken", name="take_into_part")
def take_into_part(request: Request, connection: Connection, part_id: int, sent: SentForm) -> Response:
    """The same for a part of the shelf."""
    return _decided(request, connection, "part", part_id, sent)


@router.post("/shelf/listing/taken", name="take_onto_shelf")
def take_onto_shelf(request: Request, connection: Connection, sent: SentForm) -> Response:
    """The same for parts that are not on the shelf yet."""
    return _decided(request, connection, "shelf", ON_THE_SHELF, sent)
