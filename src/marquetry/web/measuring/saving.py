"""What a measuring card is about, and saving what it comes to: for its own page and for the round."""

from collections.abc import Sequence

from marquetry.core.evidence.follow import suits_told
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.part import PART_LINK, Part, part_at
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.errors import SheetError
from marquetry.store import house, photos, readings, shelf, watches
from marquetry.store.database import Connection, transaction
from marquetry.store.readings import Owner
from marquetry.web.measuring.view import CardPage, Subject, card_page
from marquetry.web.site.addresses import Address
from marquetry.web.site.sent import Sent, first, whole, whole_number

Taken = dict[str, Dimension]
"""What a card comes to: dimensions by their path below the part."""


def watch_subject(address: Address, connection: Connection, watch_id: int, path: str) -> Subject:
    """A dimension of a watch. NotFoundError where the watch has no such part."""
    stored = watches.watch(connection, watch_id)
    part, below = part_at(stored.build, path)
    action = str(address("watch_card", watch_id=str(watch_id)))
    back = str(address("watch", watch_id=str(watch_id)))
    suits = suits_told(stored.build, path)
    return Subject("watch", part, path, path, below, stored.version, action, back, stored.build.name, suits)


def part_subject(address: Address, connection: Connection, part_id: int, path: str) -> Subject:
    """A dimension of a part of the shelf."""
    stored = shelf.part(connection, part_id)
    _, below = part_at(stored.part.build, path)
    action = str(address("part_card", part_id=str(part_id)))
    back = str(address("part", part_id=str(part_id)))
    return Subject("part", stored.part, path, below, below, stored.version, action, back, stored.part.name)


def card_of(connection: Connection, subject: Subject, owner: Owner, owner_id: int, sent: Sent) -> CardPage:
    """The card as it is filled."""
    pictured = photos.photos_of(connection, owner, owner_id)
    linked = subject.part.document.get(PART_LINK)
    if owner == "watch" and isinstance(linked, int):
        pictured += photos.photos_of(connection, "part", linked)
    history = readings.readings_of(connection, owner, owner_id, subject.path)
    return card_page(
        subject, sent, house.instruments(connection), pictured, history, connection.model.rules()
    )


def _taken(
    connection: Connection, page: CardPage, owner: Owner, owner_id: int, sent: Sent
) -> tuple[Taken, str, Sequence[float]]:
    """What is to be saved: dimensions, the instrument's name, the single readings."""
    subject, tool = page.subject, page.chosen.instrument.name if page.chosen else ""
    if number := first(sent, "former"):
        former = readings.reading_of(connection, owner, owner_id, subject.path, whole_number(number))
        return {subject.below: former.dimension}, former.instrument, former.taken
    if page.direct.found is not None:
        return {subject.below: page.direct.found.dimension()}, tool, page.direct.found.readings
    place = subject.below.rpartition(".")[0]
    if page.picture is not None and page.picture.place is not None:
        radius, angle = page.picture.place
        return {f"{place}.radius": radius, f"{place}.angle": angle}, "photograph with a scale", ()
    for filled in page.sheets:
        if filled.computed:
            found = {_named(key, place): c.dimension for key, c in filled.computed.items()}
            return found, f"{tool}; worksheet: {filled.worksheet.title}", ()
    raise SheetError("readings", "readings that come to a value", "none yet")


def _named(result: str, place: str) -> str:
    """A worksheet's result below its part, the thing of a list being the one that the card is of."""
    return f"{place}.{result.rpartition('.')[2]}" if "*" in result else result


def _with(build: Build, prefix: str, taken: Taken) -> Build:
    for below, dimension in taken.items():
        rounded = Dimension(round(dimension.value, 4), round(dimension.tol, 4), dimension.source)
        build = build.with_entry(f"{prefix}.{below}", dimension_as_json(rounded))
    return build


def save_card(connection: Connection, subject: Subject, number: int, sent: Sent) -> Taken:
    """Save what a card comes to, with readings and instrument, in one step. SheetError for nothing."""
    page = card_of(connection, subject, subject.owner, number, sent)
    taken, tool, single = _taken(connection, page, subject.owner, number, sent)
    prefix = subject.path.removesuffix(subject.below)
    with transaction(connection):
        _save(connection, page, number, whole(sent, "version"), taken)
        for below in taken:
            readings.tell_how(connection, subject.owner, number, f"{prefix}{below}", (tool, single))
    return taken


def _save(connection: Connection, page: CardPage, number: int, based_on: int, taken: Taken) -> None:
    subject = page.subject
    if subject.owner == "watch":
        build = watches.watch(connection, number).build
        after = _with(build, subject.path.removesuffix(f".{subject.below}"), taken)
        watches.save(connection, number, based_on, after, f"measured: {page.label}")
        return
    stored = shelf.part(connection, number)
    after = _with(stored.part.build, stored.part.kind.prefix, taken)
    part = Part.of(stored.part.kind, after.at(stored.part.kind.prefix))
    shelf.change_part(connection, number, based_on, part, stored.terms)
