"""Where the forms of a part go, on a watch's page or on the shelf: one set of rows serves both."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from starlette.applications import Starlette

from marquetry.store.shelf import StoredPart
from marquetry.web.site.addresses import addresses

if TYPE_CHECKING:  # the page renders with the templates that these functions are given to
    from marquetry.web.watch.view import FitPage


@dataclass(frozen=True, slots=True)
class Editing:
    """Addresses of a part's forms and the version they were made from; an empty one is not offered."""

    version: int
    entry: str
    add: str = ""
    remove: str = ""
    card: str = ""
    shelf: str = ""
    finder: str = ""
    assume: str = ""
    face: str = ""
    make: str = ""


def editing_watch(app: Starlette, page: "FitPage") -> Editing:
    """A watch's forms; in a trial they carry it along, and no measuring card is offered."""
    watch_id = str(page.watch.id)

    def to(name: str) -> str:
        return f"{addresses(app)(name, watch_id=watch_id)}{page.here}"

    card = "" if page.is_trial else str(addresses(app)("watch_card", watch_id=watch_id))
    shelf = "" if page.is_trial else f"{addresses(app)('shelf')}?for={watch_id}"
    finder = str(addresses(app)("finder", watch_id=watch_id))
    assume = "" if page.is_trial else str(addresses(app)("assume_rest", watch_id=watch_id))
    face = str(addresses(app)("face", watch_id=watch_id))
    make = str(addresses(app)("make", watch_id=watch_id))
    return Editing(
        page.watch.version,
        to("change_entry"),
        to("add_part"),
        to("remove_part"),
        card,
        shelf,
        finder,
        assume,
        face,
        make,
    )


def editing_part(app: Starlette, stored: StoredPart) -> Editing:
    """A shelf part's forms."""

    def to(name: str) -> str:
        return str(addresses(app)(name, part_id=str(stored.id)))

    return Editing(
        stored.version,
        to("change_part_entry"),
        to("add_to_part"),
        to("remove_from_part"),
        to("part_card"),
        assume=to("assume_part"),
    )
