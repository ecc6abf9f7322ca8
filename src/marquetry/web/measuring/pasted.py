"""Pasting a seller's text: for a watch, for a part of the shelf, or for parts that are not on it yet."""

from dataclasses import dataclass
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from pydantic import BaseModel, Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.evidence.lapse import replaced
from marquetry.core.measuring.listing.read import LONGEST_LISTING
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import filled_up, nearest
from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.money import Money
from marquetry.store import another_part, house, pasted, shelf, watches
from marquetry.store.database import transaction
from marquetry.store.families import usual_watches
from marquetry.store.pasted import ON_THE_SHELF, PastedFor
from marquetry.web.measuring.reading import ReadPart, chosen_of, read_parts, taken_into
from marquetry.web.site.addresses import addresses
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.way import WayThrough, way_through

router = APIRouter()
PastedText = Annotated[str, Form(max_length=LONGEST_LISTING)]
NUMBERED = {"watch": "watch_id", "part": "part_id"}
"""How each owner's number is called in its addresses."""


class TakeForm(BaseModel):
    """What is taken of the text: ticks, or everything that need not be asked about."""

    version: Annotated[int, Field(ge=0)] = 0
    kind: Annotated[str, Field(max_length=40)] = ""
    take: Annotated[list[Annotated[str, Field(max_length=20)]], Field(max_length=200)] = []
    all: Literal["", "yes"] = ""
    another: Annotated[list[Annotated[str, Field(max_length=8)]], Field(max_length=60, default_factory=list)]
    """Numbers of the texts' parts that are another part than the one in the slot."""
    fault: Annotated[str, Field(max_length=200)] = ""
    """Why the part that goes is faulty, where it is."""


@dataclass(frozen=True, slots=True)
class PastePage:
    """All that the page shows; without a text there is only the field to paste one into."""

    name: str
    back: str
    action: str
    version: int
    text: str
    parts: tuple[ReadPart, ...]
    kind: str
    kinds: tuple[tuple[str, str], ...]
    for_shelf: bool
    way: WayThrough | None = None
    longest: int = LONGEST_LISTING

    @property
    def any_filled(self) -> bool:
        """Whether any of the parts read has one in its slot already."""
        return any(part.in_slot for part in self.parts)

    @property
    def count(self) -> int:
        """How many proposals there are."""
        return sum(len(part.rows) for part in self.parts)


def to_reading(request: Request, owner: PastedFor, number: int) -> Response:
    """Go where a text that is kept for this owner is read."""
    return RedirectResponse(_address(request, f"{owner}_listing", owner, number), status_code=303)


def _address(request: Request, route: str, owner: PastedFor, number: int) -> str:
    named = {NUMBERED[owner]: str(number)} if owner in NUMBERED else {}
    return str(addresses(request.app)(route, **named))


def _page(
    request: Request, connection: Connection, owner: PastedFor, number: int, kind: str = ""
) -> PastePage:
    text = pasted.text_of(connection, owner, number)
    kinds = connection.model.anatomy.kinds
    named = kind if any(kind == known.key for known in kinds) else ""
    build, version, name, way = None, 0, "The shelf", None
    if owner == "watch":
        stored = watches.watch(connection, number)
        build, version, name = stored.build, stored.version, stored.build.name
        reports: Reports = request.app.state.reports
        rules = connection.model.rules_of(build, house.rule_values(connection))
        way = way_through(stored, reports.on(build, rules), "watch_listing")
    elif owner == "part":
        part = shelf.part(connection, number)
        build, version, name, named = part.part.build, part.version, part.part.name, part.part.kind.key
    return PastePage(
        name,
        _address(request, owner, owner, number),
        _address(request, f"{owner}_listing", owner, number),
        version,
        text,
        read_parts(text, connection.model.anatomy, build, named or None) if text else (),
        named,
        tuple((known.key, known.label) for known in kinds) if owner != "part" else (),
        owner == "shelf",
        way,
    )


def _show(request: Request, connection: Connection, owner: PastedFor, number: int, kind: str) -> Response:
    page = _page(request, connection, owner, number, kind)
    return render(request, "measuring/templates/listing.html", {"page": page, "way": page.way})


def _kept(request: Request, connection: Connection, owner: PastedFor, number: int, text: str) -> Response:
    """Keep a text and read it, or put one away."""
    _page(request, connection, owner, number)  # NotFoundError where there is no such owner
    if text.strip():
        pasted.keep(connection, owner, number, text)
    else:
        pasted.put_away(connection, owner, number)
    return to_reading(request, owner, number)


@router.get("/watches/{watch_id}/listing", name="watch_listing")
def watch_listing(request: Request, connection: Connection, watch_id: int, kind: str = "") -> Response:
    """A text for parts of a watch."""
    return _show(request, connection, "watch", watch_id, kind)


@router.get("/parts/{part_id}/listing", name="part_listing")
def part_listing(request: Request, connection: Connection, part_id: int) -> Response:
    """A text for a part of the shelf."""
    return _show(request, connection, "part", part_id, "")


@router.get("/shelf/listing", name="shelf_listing")
def shelf_listing(request: Request, connection: Connection, kind: str = "") -> Response:
    """A text for parts that are not on the shelf yet."""
    return _show(request, connection, "shelf", ON_THE_SHELF, kind)


@router.post("/watches/{watch_id}/listing", name="paste_for_watch")
def paste_for_watch(
    request: Request, connection: Connection, watch_id: int, text: PastedText = ""
) -> Response:
    """Read a text for a watch."""
    return _kept(request, connection, "watch", watch_id, text)


@router.post("/parts/{part_id}/listing", name="paste_for_part")
def paste_for_part(request: Request, connection: Connection, part_id: int, text: PastedText = "") -> Response:
    """Read a text for a part."""
    return _kept(request, connection, "part", part_id, text)


@router.post("/shelf/listing", name="paste_for_shelf")
def paste_for_shelf(request: Request, connection: Connection, text: PastedText = "") -> Response:
    """Read a text for new parts."""
    return _kept(request, connection, "shelf", ON_THE_SHELF, text)


@router.post("/watches/{watch_id}/listing/taken", name="take_into_watch")
def take_into_watch(
    request: Request, connection: Connection, watch_id: int, form: Annotated[TakeForm, Form()]
) -> Response:
    """Put what was chosen into the watch's parts, all of it or nothing."""
    page = _page(request, connection, "watch", watch_id, form.kind)
    stored = watches.watch(connection, watch_id)
    build, count, told = _filled(connection, stored.build, page.parts, form)
    with transaction(connection):
        if build != stored.build:
            version = form.version
            for slot in told:
                stored, version = another_part.put_old_away(
                    connection, stored, version, slot, form.fault.strip()
                )
            values = f"from a listing: {count} value{'' if count == 1 else 's'}"
            change = "; ".join([*told.values(), values])[:200]
            watches.save(connection, watch_id, version, build, change)
            pasted.put_away(connection, "watch", watch_id)
    return RedirectResponse(page.back, status_code=303)


def _filled(
    connection: Connection, build: Build, parts: tuple[ReadPart, ...], form: TakeForm
) -> tuple[Build, int, dict[str, str]]:
    """The watch with what was chosen; how many values that were; old → new by slot, for other parts."""
    count, told = 0, dict[str, str]()
    for number, chosen in chosen_of(parts, form.take, everything=bool(form.all)).items():
        part = parts[number]
        if part.kind is None:
            continue
        key = part.kind.key
        is_other = str(number) in form.another and another_part.is_somebodys(build, key)
        held = build.at(key) if not (part.kind.is_many or is_other) else None
        taken = taken_into(part, dict(held or {}), chosen)
        if taken is None:
            continue
        before, old = build, another_part.name_in(build, key)
        build = build.with_entry(part.kind.slot, taken.document)
        for path in taken.said:
            build = build.said(f"{key}.{path}")
        if is_other:
            build = replaced(build, [key], connection.model.dry_fit_by_key)
            usual = nearest(before, usual_watches(connection), key)
            build = filled_up(build, usual, key) if usual is not None else build
            told[key] = f"{old} → {another_part.name_in(build, key)}"
        count += taken.count
    return build, count, told


@router.post("/parts/{part_id}/listing/taken", name="take_into_part")
def take_into_part(
    request: Request, connection: Connection, part_id: int, form: Annotated[TakeForm, Form()]
) -> Response:
    """Put what was chosen into the part, and the price where it has none."""
    page = _page(request, connection, "part", part_id)
    stored = shelf.part(connection, part_id)
    for number, chosen in chosen_of(page.parts, form.take, everything=bool(form.all)).items():
        taken = taken_into(page.parts[number], stored.part.document, chosen)
        if taken is not None:
            terms = _with_price(stored.terms, page.parts[number])
            with transaction(connection):
                part = Part.of(stored.part.kind, taken.document)
                stored = shelf.change_part(connection, part_id, form.version, part, terms)
                pasted.put_away(connection, "part", part_id)
        break
    return RedirectResponse(page.back, status_code=303)


@router.post("/shelf/listing/taken", name="take_onto_shelf")
def take_onto_shelf(request: Request, connection: Connection, form: Annotated[TakeForm, Form()]) -> Response:
    """Put each part of which something was chosen on the shelf, all of them or none."""
    page = _page(request, connection, "shelf", ON_THE_SHELF, form.kind)
    made: list[int] = []
    with transaction(connection):
        for number, chosen in chosen_of(page.parts, form.take, everything=bool(form.all)).items():
            part = page.parts[number]
            taken = taken_into(part, {"name": part.listing.name or "From a listing"}, chosen)
            if taken is not None and part.kind is not None:
                made.append(
                    shelf.add_part(connection, Part.of(part.kind, taken.document), _with_price(Terms(), part))
                )
        if made:
            pasted.put_away(connection, "shelf", ON_THE_SHELF)
    back = _address(request, "part", "part", made[0]) if len(made) == 1 else page.back
    return RedirectResponse(back, status_code=303)


def _with_price(terms: Terms, part: ReadPart) -> Terms:
    """The terms with the seller's price, where none was noted."""
    price = part.listing.price
    if terms.price is not None or price is None:
        return terms
    return Terms(terms.notes, terms.supplier, Money.of(*price), terms.order_link)
