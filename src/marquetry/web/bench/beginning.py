"""What a watch can be begun from, as the page shows it."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.evidence.lapse import came_together
from marquetry.core.fit.report import Report
from marquetry.core.measuring.instrument import USUAL_INSTRUMENTS
from marquetry.core.measuring.listing.read import LONGEST_LISTING
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import filled_up, usual_watch
from marquetry.core.sheet.ready_families import READY, USUAL_FAMILY
from marquetry.core.trade.sundries import UsualSundry
from marquetry.formats import build_sheet
from marquetry.store import families, house, terms_of_trade, variants, watches
from marquetry.store.database import Connection, transaction
from marquetry.store.finder_parts import candidates
from marquetry.store.pieces_in_watch import planned
from marquetry.store.shelf import StoredPart
from marquetry.store.terms_of_trade import Sundry
from marquetry.web.watch.reports import Reports

CASE_PARTS = (
    "case", "case_back", "crystal", "crystal_gasket", "chapter_ring", "bezel", "bezel_insert", "crown",
    "crown_gasket", "back_gasket",
)  # fmt: skip
"""A case with all that is pressed, screwed or glued to it."""
MAY_COME = (*CASE_PARTS, "stem", "strap", "spring_bars", "holder", "dial", "hands", "movement")
"""What arrives assembled: mostly a case."""
WHOLE_CASE = "whole_case"
"""What is ticked for all of a case at once."""
SHELF_KINDS = ("case", "movement", "dial")
"""What a builder begins with, when parts lie on the shelf already."""
MOST_PICKED = 300
NO_WATCH = 0
"""No watch has this number: a piece that is kept for one is not offered."""


@dataclass(frozen=True, slots=True)
class Start:
    """One thing to begin from: its value in the form, its name, what is said of it, and how it looks."""

    value: str
    name: str
    words: str
    build: Build
    report: Report
    family: int | None = None
    """The number of a family that can be let go."""


@dataclass(frozen=True, slots=True)
class BeginPage:
    """All that the page shows."""

    families: tuple[Start, ...]
    watches: tuple[Start, ...]
    picks: tuple[tuple[str, str, tuple[tuple[str, str], ...]], ...]
    """Kind, label and choices of each part that may be picked from the shelf."""
    start: str
    came: tuple[tuple[str, str], ...]
    """Slot and label of each part that may have come assembled."""
    tools: tuple[tuple[str, bool], ...]
    """Usual instruments, and whether the workshop has each."""
    bench_tools: list[tuple[Sundry, UsualSundry]]
    name: str = ""
    listing: str = ""
    most_bytes: int = build_sheet.MOST_BYTES
    longest_listing: int = LONGEST_LISTING


def begin_page(
    connection: Connection, reports: Reports, start: str = "", name: str = "", listing: str = ""
) -> BeginPage:
    """Families first, then the watches there are, then what lies on the shelf."""
    begun = _Begun(connection, reports)
    shown = (*begun.ready(), *begun.kept())
    copies = tuple(begun.copies())
    known = {one.value for one in (*shown, *copies)} | {"nothing"}
    chosen = start if start in known else f"family:{USUAL_FAMILY.key}"
    kind = connection.model.anatomy.kind
    owned = {owned.instrument.name for owned in house.instruments(connection)}
    return BeginPage(
        shown,
        copies,
        tuple(_picks(connection)),
        chosen,
        (
            (WHOLE_CASE, "The whole case, with all from crystal to back"),
            *((key, kind(key).label) for key in MAY_COME),
        ),
        tuple((tool.name, tool.name in owned) for tool in USUAL_INSTRUMENTS),
        terms_of_trade.usual_tools(connection),
        name,
        listing,
    )


@dataclass(frozen=True, slots=True)
class _Begun:
    """Each thing to begin from with its report."""

    connection: Connection
    reports: Reports

    def _start(self, value: str, name: str, words: str, build: Build, family: int | None = None) -> Start:
        rules = self.connection.model.rules_of(build)
        return Start(value, name, words, build, self.reports.on(build, rules), family)

    def ready(self) -> Iterator[Start]:
        for family in READY:
            build = usual_watch(family, self.connection.model.anatomy)
            yield self._start(f"family:{family.key}", family.name, family.words, build)

    def kept(self) -> Iterator[Start]:
        for family in families.families(self.connection):
            words = "Kept by this workshop."
            yield self._start(f"kept:{family.id}", family.name, words, family.build, family.id)

    def copies(self) -> Iterator[Start]:
        for stored in watches.all_watches(self.connection):
            yield self._start(f"watch:{stored.id}", stored.build.name, "A copy.", stored.build)
            for variant in variants.variants_of(self.connection, stored.id):
                words = f"Variant of {stored.build.name}."
                yield self._start(f"variant:{stored.id}:{variant.id}", variant.name, words, variant.build)


def _picks(connection: Connection) -> Iterator[tuple[str, str, tuple[tuple[str, str], ...]]]:
    for key in SHELF_KINDS:
        found = candidates(connection, key, NO_WATCH)[:MOST_PICKED]
        choices = tuple((str(one.number), one.part.name) for one in found)
        yield key, connection.model.anatomy.kind(key).label, choices


def with_shelf_part(build: Build, stored: StoredPart) -> Build:
    """The watch with a part of the shelf in it; what that part does not know stays assumed, as it was."""
    return filled_up(planned(build, stored), build, stored.part.kind.key)


def ticked_together(build: Build, slots: list[str]) -> Build:
    """The watch with those of these parts that it has noted as come assembled."""
    meant = {*slots, *(CASE_PARTS if WHOLE_CASE in slots else ())}
    there = [slot for slot in MAY_COME if slot in meant and build.has(slot)]
    return came_together(build, [there]) if len(there) > 1 else build


def note_tools(connection: Connection, chosen: list[str]) -> None:
    """Keep which of the usual instruments the workshop has; instruments of its own stay as they are."""
    owned = {owned.instrument.name: owned.id for owned in house.instruments(connection)}
    with transaction(connection):
        for tool in USUAL_INSTRUMENTS:
            if tool.name in chosen and tool.name not in owned:
                house.add_instrument(connection, tool)
            elif tool.name not in chosen and tool.name in owned:
                house.remove_instrument(connection, owned[tool.name])
