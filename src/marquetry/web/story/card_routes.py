"""The card of a watch and the sheet that goes with it: as pages, PDF, PNG and plain text."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from starlette.responses import Response

from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import MarquetryError
from marquetry.drawing.pdf import pdf_bytes
from marquetry.drawing.raster import png_bytes
from marquetry.store import cards, terms_of_trade
from marquetry.store.cards import CardSaid
from marquetry.store.database import transaction
from marquetry.web.site.pages import render
from marquetry.web.story.card_view import card_page, hand_over_page
from marquetry.web.story.routes import to_story
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/story")
SeriesNumber = Annotated[int, Query(ge=1, le=1000)]
PER_MM = 8.0
"""Pixels a millimetre of the card as a picture: 200 an inch, and as wide as a screen."""


@router.get("/card", name="spec_card")
def show(visit: Visiting, number: SeriesNumber = 1) -> Response:
    """The card, and what the workshop says on it."""
    return render(visit.request, "story/templates/card.html", {"page": card_page(visit, number)})


@router.get("/card.pdf", name="spec_card_pdf")
def as_pdf(visit: Visiting, number: SeriesNumber = 1) -> Response:
    """The card on paper of its own size."""
    page = card_page(visit, number)
    content = pdf_bytes([page.scene], page.scene.title)
    return _file(visit, content, "application/pdf", "pdf", number)


@router.get("/card.png", name="spec_card_png")
def as_png(visit: Visiting, number: SeriesNumber = 1) -> Response:
    """The card as a picture."""
    content = png_bytes(card_page(visit, number).scene, PER_MM)
    return _file(visit, content, "image/png", "png", number)


@router.get("/card.txt", name="spec_card_text")
def as_text(visit: Visiting, number: SeriesNumber = 1) -> Response:
    """The card as plain text, to be pasted into an offer."""
    return _file(visit, card_page(visit, number).text.encode(), "text/plain; charset=utf-8", "txt", number)


def _file(visit: Visit, content: bytes, media: str, ending: str, number: int) -> Response:
    name = f"card-{visit.stored.id}-{number}.{ending}"
    headers = {"Content-Disposition": f'inline; filename="{name}"'}
    return Response(content, media_type=media, headers=headers)


@router.post("/card", name="say_on_card")
def say(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    visit: Visiting,
    version: Annotated[int, Form(ge=0)],
    maker: Annotated[str, Form(max_length=80)] = "",
    line: Annotated[str, Form(max_length=120)] = "",
    day: Annotated[str, Form(max_length=20)] = "",
    shown: Annotated[list[str] | None, Form(max_length=40)] = None,
    promised: Annotated[str | None, Form(max_length=1000)] = None,
    contact: Annotated[str | None, Form(max_length=200)] = None,
) -> Response:
    """Keep what the workshop says on the card, or on the sheet: each form sends its own fields."""
    before = cards.card_of(visit.connection, visit.stored.id)
    sheet = promised is not None
    try:
        kept = parse_day("day", day) if day.strip() else ""
        left_out = tuple(key for key in card_page(visit).labels if key not in (shown or ()))
        said = (
            CardSaid(
                before.maker, before.line, before.day, before.left_out, (promised or "").strip(), version
            )
            if sheet
            else CardSaid(maker.strip(), line.strip(), kept, left_out, before.promised, version)
        )
        with transaction(visit.connection):
            cards.say(visit.connection, visit.stored.id, said)
            if contact is not None:
                terms_of_trade.set_terms(visit.connection, {"contact": contact.strip()})
    except MarquetryError as error:
        faults = {str(getattr(error, "field", "words")): f"{error} Nothing was changed."}
        context = {"page": card_page(visit, faults=faults)}
        return render(visit.request, "story/templates/card.html", context, 422)
    return to_story(visit, "hand_over" if sheet else "spec_card")


@router.get("/sheet", name="hand_over")
def hand_over(visit: Visiting, number: SeriesNumber = 1) -> Response:
    """What goes with the watch into its wearer's hand, to be printed."""
    return render(visit.request, "story/templates/hand_over.html", {"page": hand_over_page(visit, number)})
