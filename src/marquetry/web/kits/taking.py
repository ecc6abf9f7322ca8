"""What is taken of a text: into a watch's slots, into a part of the shelf, or onto it; all or nothing."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from marquetry.core.evidence.lapse import replaced
from marquetry.core.measuring.listing.taken import WORDS, PartTaken, take
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.families import filled_up, nearest
from marquetry.core.sheet.part import PART_LINK, Part
from marquetry.store import another_part, kits, shelf, watches
from marquetry.store.database import Connection
from marquetry.store.families import usual_watches
from marquetry.store.kits import Sale
from marquetry.store.watches import StoredWatch
from marquetry.web.kits.reading import ANOTHER, BESIDE, PartRead


@dataclass(slots=True)
class WatchFilled:
    """A watch with what was taken, as far as it is: how many values, and old → new by slot."""

    build: Build
    count: int = 0
    told: dict[str, str] = field(default_factory=dict)

    @property
    def change(self) -> str:
        """What its log says."""
        values = f"from a listing: {self.count} value{'' if self.count == 1 else 's'}"
        return "; ".join([*self.told.values(), values])[:200]


def part_taken(part: PartRead, document: dict[str, Json]) -> PartTaken | None:
    """The part with all that is used of its text; None where its kind is not told."""
    if part.kind is None:
        return None
    chosen = frozenset(str(number) for number in part.used) | {WORDS}
    named = {**document, "name": part.listing.name} if part.is_named else document
    return take(named, part.listing, chosen, part.kind)


def filled(connection: Connection, build: Build, parts: Iterable[PartRead]) -> WatchFilled:
    """The watch with every part that can be taken; a part beside another changes nothing of it."""
    made = WatchFilled(build)
    for part in parts:
        if part.can_be_taken and part.slot != BESIDE:
            _fill(connection, made, part)
    return made


def _fill(connection: Connection, made: WatchFilled, part: PartRead) -> None:
    assert part.kind is not None  # noqa: S101  # can_be_taken says so
    key, build = part.kind.key, made.build
    is_other = part.slot == ANOTHER and another_part.is_somebodys(build, key)
    held = build.at(key) if not (part.kind.is_many or is_other) else None
    taken = part_taken(part, dict(held or {}))
    if taken is None:
        return
    old = another_part.name_in(build, key)
    changed = build.with_entry(part.kind.slot, taken.document)
    for path in taken.said:
        changed = changed.said(f"{key}.{path}")
    if is_other:
        changed = replaced(changed, [key], connection.model.dry_fit_by_key)
        usual = nearest(build, usual_watches(connection), key)
        changed = filled_up(changed, usual, key) if usual is not None else changed
        made.told[key] = f"{old} → {another_part.name_in(changed, key)}"
    for path, words in part.of_others.items():
        if changed.has(path.partition(".")[0]):
            changed = changed.with_entry(path, words).said(path)
    made.build, made.count = changed, made.count + taken.count


@dataclass(frozen=True, slots=True)
class IntoWatch:
    """Takes parts into a watch; `fault` is why a part that goes is faulty, where it is."""

    connection: Connection
    stored: StoredWatch
    sale: Sale
    fault: str = ""

    def save(self, based_on: int, parts: Iterable[PartRead]) -> dict[str, int]:
        """Save the watch with every part that can be taken, inside a transaction.

        The numbers in the catalogue, by the first line of each part. StaleVersionError where `based_on` is
        not the newest version.
        """
        chosen = [part for part in parts if part.can_be_taken]
        found = ((part, self._catalogued(part)) for part in chosen)
        numbers = {str(part.first): number for part, number in found if number is not None}
        made = filled(self.connection, self.stored.build, chosen)
        build, stored = _linked(made.build, chosen, numbers), self.stored
        for slot in made.told:
            stored, based_on = another_part.put_old_away(self.connection, stored, based_on, slot, self.fault)
        if build != stored.build:
            watches.save(self.connection, stored.id, based_on, build, made.change)
        for part in chosen:
            if part.slot == BESIDE and str(part.first) in numbers:
                kits.keep_beside(self.connection, stored.id, numbers[str(part.first)])
        return numbers

    def _catalogued(self, part: PartRead) -> int | None:
        """The part's number in the catalogue: the one that its slot names already, else a new one."""
        assert part.kind is not None  # noqa: S101  # can_be_taken says so
        price = part.price.price
        if part.taken is not None:
            _told_more(self.connection, part.taken, part, self.sale)
            return part.taken
        held = self.stored.build.at(part.kind.key) if not part.kind.is_many else None
        is_ours = part.slot not in {ANOTHER, BESIDE}
        linked = held.get(PART_LINK) if isinstance(held, dict) and is_ours else None
        if isinstance(linked, int):
            if price is not None:
                kits.offer_of(self.connection, linked, price, self.sale)
            return linked
        taken = part_taken(part, {"name": part.listing.name or part.kind.label})
        if taken is None:
            return None
        return kits.catalogued(self.connection, Part.of(part.kind, taken.document), price, self.sale)


def _told_more(connection: Connection, number: int, part: PartRead, sale: Sale) -> None:
    """Let the catalogue know what was answered of a part since it was taken, and another price."""
    if part.price.price is not None:
        kits.offer_of(connection, number, part.price.price, sale)
    stored = shelf.part(connection, number)
    taken = part_taken(part, dict(stored.part.document))
    if taken is not None and taken.document != stored.part.document:
        shelf.write_part(connection, number, Part.of(stored.part.kind, taken.document), stored.terms)


def _linked(build: Build, parts: Iterable[PartRead], numbers: dict[str, int]) -> Build:
    """The watch with each slot saying which part of the catalogue it is; one that is linked stays so."""
    for part in parts:
        number = numbers.get(str(part.first))
        if number is None or part.kind is None or part.slot == BESIDE or part.kind.is_many:
            continue
        held = build.at(part.kind.key)
        if isinstance(held, dict) and held.get(PART_LINK) is None:
            build = build.with_entry(part.kind.key, {**held, PART_LINK: number})
    return build


def into_part(connection: Connection, number: int, based_on: int, part: PartRead, sale: Sale) -> None:
    """Save a part of the shelf with what is used of its text, its price as an offer, inside a transaction."""
    stored = shelf.part(connection, number)
    taken = part_taken(part, dict(stored.part.document))
    if taken is None:
        return
    price = part.price.price
    terms = replace(stored.terms, price=price) if price and stored.terms.price is None else stored.terms
    shelf.change_part(connection, number, based_on, Part.of(stored.part.kind, taken.document), terms)
    if price is not None:
        kits.offer_of(connection, number, price, sale)


def onto_shelf(connection: Connection, parts: Iterable[PartRead], sale: Sale) -> dict[str, int]:
    """Put every part that can be taken into the catalogue with its offer, inside a transaction."""
    numbers: dict[str, int] = {}
    for part in parts:
        if part.kind is None:
            continue
        if part.taken is not None:
            _told_more(connection, part.taken, part, sale)
            continue
        taken = part_taken(part, {"name": part.listing.name or part.kind.label})
        if taken is not None:
            made = Part.of(part.kind, taken.document)
            numbers[str(part.first)] = kits.catalogued(connection, made, part.price.price, sale)
    return numbers
