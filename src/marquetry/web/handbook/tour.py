"""A first look at the demo workshop in ten stops, the last of which begins a watch of one's own.

Each stop is a page of the program itself with a line at its foot that says what to look at.
"""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection as Opened
from marquetry.store.watches import watch_names
from marquetry.web.site.deps import Connection

router = APIRouter()


@dataclass(frozen=True, slots=True)
class TourStop:
    """A page, of which watch, how it is asked for, and what is to be seen there."""

    page: str
    title: str
    words: str
    of: str = ""
    query: str = ""


STOPS = (
    TourStop(
        "bench",
        "Four watches, four difficulties",
        "Each line is a watch. The lozenges are its checks: filled ones clash, half-filled are "
        "tight, dotted ones wait for a measurement. The sentence says what the worst of them is "
        "about.",
    ),
    TourStop(
        "watch",
        "The drawing speaks",
        "Night Ferry in half-section, to scale. The stem stands 0.74 mm above the tube: the note "
        "says by how much, its worst case, and below, which dimension drives the doubt. Click any "
        "note, or step with j and k.",
        "Night Ferry",
        "check=stem_height&",
    ),
    TourStop(
        "remedies",
        "What mends it, tried first",
        "Every remedy was run through the whole report: what it mends and what it spoils stand side"
        " by side. A ring before the dial, or behind it: schools differ, and the reason stands "
        "beside the choice.",
        "Night Ferry",
        "now=true&",
    ),
    TourStop(
        "next",
        "What to do next",
        "Orchard is half unknown. Of all that could be tried or measured this takes most doubt away a "
        "minute, and says what it settles. Unknown is a state here, never zero.",
        "Orchard",
    ),
    TourStop(
        "shelf_listing",
        "What a seller writes",
        "A mail of eleven parts as it came, each a tile with the words it was read from underlined. The "
        "tweezers are no part, “pip at 12” is no price, and of the lug to lug two figures are told: that "
        "is asked beside its words. One button uses all that is sure, prices too.",
    ),
    TourStop(
        "face",
        "How it will look",
        "Skerry Light by day; 2 shows it in the dark, 3 on the wrist. Choose a part with ↓ and try "
        "the next of its drawer with →: the fit is told at once.",
        "Skerry Light",
    ),
    TourStop(
        "order",
        "The cheapest way to what is lacking",
        "What the watch lacks, less what lies in the drawers or is on its way; the cheapest set of "
        "orders for the rest, proved to the cent over packs, postage, duty and days.",
        "Night Ferry",
    ),
    TourStop(
        "build",
        "At the bench, without paper",
        "The steps of this very watch in the workshop's order, with gates, press plan and the "
        "stem's ledger. Go on opens one a screen, to be read at arm's length and tapped with one "
        "finger.",
        "Skerry Light",
    ),
    TourStop(
        "prove",
        "Proved, and who may know it",
        "Around the face what its parts ask to be proved: heard by a microphone, held in a chamber,"
        " looked at under the loupe. Opening the watch lapses what must be done again.",
        "Tide Table",
    ),
    TourStop(
        "begin",
        "Now one of your own",
        "Choose what it is nearest to, paste a seller's words if you have some, and Begin: it "
        "stands in section at once, dashed where it is assumed. H is the handbook's page for "
        "wherever you are; take a figure and type it in.",
    ),
)


@dataclass(frozen=True, slots=True)
class TouredAt:
    """A stop with its number, counted from one, and the number of the next; None at the last."""

    stop: TourStop
    number: int
    following: int | None
    count: int = len(STOPS)


def tour_stop(number: str) -> TouredAt | None:
    """The stop of that number; None for anything else."""
    if not (number.isascii() and number.isdecimal() and 1 <= int(number[:3]) <= len(STOPS)):
        return None
    place = int(number[:3])
    return TouredAt(STOPS[place - 1], place, place + 1 if place < len(STOPS) else None)


def is_toured(connection: Opened) -> bool:
    """Whether all the watches are there that the tour leads to."""
    return {stop.of for stop in STOPS if stop.of} <= {name for _, name in watch_names(connection)}


@router.get("/tour/{number}", name="tour")
def lead(request: Request, connection: Connection, number: int) -> Response:
    """On to a stop; NotFoundError in a workshop that is not the demo."""
    found = tour_stop(str(number))
    if found is None:
        raise NotFoundError(f"stop {number} of the tour; there are {len(STOPS)}")
    stop = found.stop
    named: dict[str, str] = {}
    if stop.of:
        number_of = {name: str(number) for number, name in watch_names(connection)}
        if stop.of not in number_of:
            raise NotFoundError(f"watch called {stop.of}: the tour leads through the demo, and")
        named["watch_id"] = number_of[stop.of]
    to = request.app.url_path_for(stop.page, **named)
    return RedirectResponse(f"{to}?{stop.query}tour={found.number}", status_code=303)
