"""What the measuring round shows: the step at hand with its drawing, and at the end what turned."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from itertools import groupby
from operator import itemgetter

from marquetry.core.fit.measuring_round import round_of_part, round_of_watch
from marquetry.core.fit.report import Report
from marquetry.core.measuring.instrument import Instrument
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.verdict import Verdict
from marquetry.store import donors, house, pieces, rounds, shelf, watches
from marquetry.store.database import Connection
from marquetry.store.rounds import RoundOf, RoundStep, StoredRound
from marquetry.store.watches import StoredWatch
from marquetry.web.measuring.saving import card_of, part_subject, watch_subject
from marquetry.web.measuring.view import CardPage, Subject
from marquetry.web.site.addresses import Address
from marquetry.web.site.sent import Sent, first, number_in
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.way import WayThrough, way_through

MOST_PARTS = 200
"""Parts of one drawer that a round goes through; the rest waits for the next."""
MOST_TOLD = 60
"""Steps that are told before a round begins."""
Turned = tuple[str, Verdict, Verdict]
TakenUp = tuple[str, tuple[tuple[str, tuple[str, ...]], ...]]
"""A part by name, with each instrument and what it measures, in the order of the round."""


@dataclass(frozen=True, slots=True)
class Site:
    """What a page of the site asks of it: addresses, and reports that were run lately."""

    address: Address
    reports: Reports


@dataclass(frozen=True, slots=True)
class RoundPage:
    """All that the page shows. `card` is the step at hand; None before the beginning and at the end.

    `taken_up` tells what a round will go through, before it begins.
    """

    what: RoundOf
    which: str
    name: str
    back: str
    round: StoredRound | None
    plan: tuple[RoundStep, ...]
    parts: int
    at: int | None
    card: CardPage | None
    step: RoundStep | None
    each: int
    turned: tuple[Turned, ...]
    taken_up: tuple[TakenUp, ...] = ()
    error: str = ""
    typed: str = ""
    reach: bool = True
    way: WayThrough | None = None

    @property
    def marks(self) -> list[str]:
        """For each step whether it is done, skipped, at hand, or still to come."""
        gone = self.round
        return [
            "here" if number == self.at else "done" if gone and number in gone.done
            else "skipped" if gone and number in gone.skipped else "to-come"
            for number in range(len(self.plan))
        ]  # fmt: skip

    @property
    def each_may_be(self) -> tuple[str, ...]:
        """How many readings of each dimension may be asked for."""
        return EACH

    @property
    def number(self) -> int:
        """The step at hand, counted from one."""
        return (self.at or 0) + 1

    @property
    def before(self) -> int | None:
        """The step before the one at hand."""
        return self.at - 1 if self.at else None

    @property
    def taken(self) -> tuple[float, ...]:
        """Readings of the step at hand."""
        return self.round.taken if self.round else ()

    @property
    def shows_sheet(self) -> bool:
        """Whether the worksheet stands open: nothing reaches the dimension, or the builder cannot."""
        card = self.card
        quantity = card.subject.quantity if card else None
        return bool(card and card.sheets) and (
            not self.reach or (quantity is not None and quantity.way == "worksheet")
        )


def instruments_of(connection: Connection) -> tuple[Instrument, ...]:
    """What the workshop measures with."""
    return tuple(owned.instrument for owned in house.instruments(connection))


def _watch(site: Site, connection: Connection, which: str) -> tuple[StoredWatch, Report]:
    """The watch of a round, with its report as it is now."""
    stored = watches.watch(connection, _number(which, "watch"))
    rules = connection.model.rules_of(stored.build, house.rule_values(connection))
    return stored, site.reports.on(stored.build, rules)


def planned(site: Site, connection: Connection, what: RoundOf, which: str) -> list[RoundStep]:
    """Every step of a round that would begin now."""
    tools = instruments_of(connection)
    if what == "watch":
        stored, report = _watch(site, connection, which)
        found = round_of_watch(stored.build, report, tools)
        return [RoundStep("watch", stored.id, one.path, one.instrument, one.why) for one in found]
    return [
        RoundStep(
            "part", stored.id, one.path.removeprefix(f"{stored.part.kind.prefix}."), one.instrument, one.why
        )
        for stored in _parts(connection, what, which)
        for one in round_of_part(stored.part.build, str(stored.id), stored.part.kind.prefix, tools)
    ]


def _parts(connection: Connection, what: RoundOf, which: str) -> Iterable[shelf.StoredPart]:
    if what == "donor":
        number = _number(which, "donor")
        donors.donor(connection, number)
        numbers = dict.fromkeys(piece.part_id for piece in pieces.pieces_of_donor(connection, number))
        return [shelf.part(connection, part) for part in numbers]
    kind = connection.model.anatomy.kind(which)
    return shelf.parts_of_kind(connection, kind.key, MOST_PARTS)


def verdicts_now(site: Site, connection: Connection, what: RoundOf, which: str) -> dict[str, str]:
    """The verdicts with which a watch's round begins; a drawer has none."""
    if what != "watch":
        return {}
    _, report = _watch(site, connection, which)
    return {name: finding.verdict.value for name, finding in report.findings.items()}


def subject_of(address: Address, connection: Connection, step: RoundStep) -> Subject:
    """The dimension of a step. NotFoundError where its part is no longer there."""
    if step.owner == "watch":
        return watch_subject(address, connection, step.number, step.path)
    prefix = shelf.part(connection, step.number).part.kind.prefix
    return part_subject(address, connection, step.number, f"{prefix}.{step.path}")


def round_page(
    site: Site, connection: Connection, of: tuple[RoundOf, str], sent: Sent, error: str = ""
) -> RoundPage:
    """The page of a round; a step whose part is gone counts as skipped."""
    what, which = of
    name, back, way = _head(site, connection, what, which)
    found = rounds.stored_round(connection, what, which)
    plan = tuple(planned(site, connection, what, which)) if found is None else found.plan
    at, card = None, None
    while found is not None and (at := _at(found, sent)) is not None:
        try:
            card = _card(site.address, connection, of, found.plan[at], sent)
            break
        except NotFoundError:
            found, sent = replace(found, skipped=found.skipped | {at}), {}
    return RoundPage(
        what, which, name, back, found, plan, sum(1 for _ in groupby(plan, key=_part)), at, card,
        plan[at] if at is not None else None,
        each_of(sent),
        tuple(_turned(site, connection, found)) if found is not None and at is None else (),
        tuple(_taken_up(connection, plan[:MOST_TOLD])) if found is None else (),
        error, first(sent, "value"), first(sent, "reach") != "no", way,
    )  # fmt: skip


def _part(step: RoundStep) -> tuple[int, str]:
    """The part that is taken up for a step: one of the shelf, or a watch's."""
    return step.number, step.path.partition(".")[0] if step.owner == "watch" else ""


def _taken_up(connection: Connection, plan: tuple[RoundStep, ...]) -> Iterable[TakenUp]:
    """The steps by part and instrument, as they follow each other."""
    of_watch = bool(plan) and plan[0].owner == "watch"  # all steps of a round are, or none
    watch = watches.watch(connection, plan[0].number).build if of_watch else None
    told = [(*_part_and_place(connection, step, watch), step.tool) for step in plan]
    for part, steps in groupby(told, key=itemgetter(0)):
        tools = groupby(steps, key=itemgetter(2))
        yield part, tuple((tool, tuple(place for _, place, _ in group)) for tool, group in tools)


def _part_and_place(connection: Connection, step: RoundStep, watch: Build | None) -> tuple[str, str]:
    """What a step's part is called, of the shelf or in this watch, and its dimension without that name."""
    anatomy = connection.model.anatomy
    if watch is not None:
        path = step.path
        name = watch.at(f"{path.partition('.')[0]}.name")
    else:
        part = shelf.part(connection, step.number).part
        name, path = part.name, f"{part.kind.prefix}.{step.path}"
    label, _, place = anatomy.label_of(path).partition(", ")
    return (name if isinstance(name, str) and name else label), place or label


def each_of(sent: Sent) -> int:
    """How many readings each dimension is to have, a plain count."""
    told = first(sent, "each")
    return int(told) if told in EACH else 1


EACH = ("1", "2", "3", "5")
"""How many readings of each dimension may be asked for; a kept round is not bothered with it."""


def _at(found: StoredRound, sent: Sent) -> int | None:
    asked = number_in(first(sent, "at"))
    return asked if asked is not None and asked < len(found.plan) else found.at


def _card(
    address: Address, connection: Connection, of: tuple[RoundOf, str], step: RoundStep, sent: Sent
) -> CardPage:
    """The card of a step, its forms leading back to the round."""
    subject = subject_of(address, connection, step)
    here = str(address("round", what=of[0], which=of[1]))
    number = step.number
    page = card_of(
        connection, subject, subject.owner, number, {k: v for k, v in sent.items() if k != "value"}
    )
    return replace(page, subject=replace(page.subject, action=here))


def _head(
    site: Site, connection: Connection, what: RoundOf, which: str
) -> tuple[str, str, WayThrough | None]:
    """Name, address to go back to, and the way through a watch."""
    address = site.address
    if what == "watch":
        stored, report = _watch(site, connection, which)
        way = way_through(stored, report, "next")
        return stored.build.name, str(address("watch", watch_id=which)), way
    if what == "donor":
        donor = donors.donor(connection, _number(which, "donor"))
        return donor.name, str(address("donor", number=which)), None
    kind = connection.model.anatomy.kind(which)
    return f"{kind.label}, the drawer", f"{address('shelf')}?kind={kind.key}", None


def _turned(site: Site, connection: Connection, found: StoredRound) -> Iterable[Turned]:
    """What turned in the report since the round began."""
    if found.what != "watch":
        return
    _, report = _watch(site, connection, found.which)
    for name, finding in report.findings.items():
        before = found.verdicts.get(name)
        if before is not None and before != finding.verdict.value:
            yield report.rules.model.title(name), Verdict(before), finding.verdict


def _number(text: str, what: str) -> int:
    number = number_in(text)
    if number is None:
        raise NotFoundError(f"{what} {text[:20]!r}")
    return number
