"""What is left of a watch put away, the watch itself sent out or taken apart, and back for service."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.core.fit.report import Report
from marquetry.core.making.kinds import MADE
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import PIECE_LINK, parts_of
from marquetry.core.story.fates import (
    OUTCOME_LABELS,
    OUTCOMES,
    SERVICE_LABELS,
    WHERE_WORDS,
    ServiceVisit,
    WatchFate,
    Whereabouts,
    fate_told,
    last_of,
    of_number,
    service_visits,
    whereabouts,
)
from marquetry.core.values.money import Money
from marquetry.store import bookings, fates, leftovers, quotes
from marquetry.store.leftovers import PUT_WORDS
from marquetry.store.pieces import Piece
from marquetry.store.watches import StoredWatch
from marquetry.web.prove.readiness import readiness_of
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough

MADE_HERE = frozenset(kind.part for kind in MADE) - {"dial"}
"""What is made here comes into the books by its material and hours."""


@dataclass(frozen=True, slots=True)
class NumberOut:
    """One number of the series: whose it is to be, where it is, what happened to it, its last step."""

    number: int
    promised: str
    where: Whereabouts
    steps: tuple[WatchFate, ...]
    last: WatchFate | None

    @property
    def words(self) -> str:
        """Where it is."""
        return WHERE_WORDS[self.where]

    @property
    def told(self) -> list[str]:
        """What happened to it, in words."""
        return [f"{step.day}: {fate_told(step)}" for step in self.steps]


@dataclass(frozen=True)
class AwayPage:
    """All that the page shows."""

    watch: StoredWatch
    way: WayThrough
    left: tuple[Piece, ...]
    gone: tuple[Piece, ...]
    numbers: tuple[NumberOut, ...]
    visits: tuple[ServiceVisit, ...]
    cost: Money
    unbooked: tuple[str, ...]
    """What is in it and in no sum: pieces without a price, and parts that are no pieces of the shelf."""
    open_proofs: tuple[str, ...]
    is_ready: bool
    today: str
    report: Report
    faults: Mapping[str, str] = field(default_factory=lambda: dict.fromkeys(("put", "fate"), ""))

    @property
    def outcomes(self) -> list[tuple[str, str]]:
        """What may become of a watch."""
        return [(key, OUTCOME_LABELS[key]) for key in OUTCOMES]

    @property
    def service(self) -> Mapping[str, str]:
        """The steps of a service."""
        return {str(key): words for key, words in SERVICE_LABELS.items()}

    @property
    def wheres(self) -> Mapping[str, str]:
        """Where a piece that is left over may go."""
        return {str(key): words for key, words in PUT_WORDS.items()}

    @property
    def buttons(self) -> Mapping[str, str]:
        """The same on a button."""
        return {"shelf": "To the shelf", "donor": "To its donor", "client": "Goes with it", "scrap": "Scrap"}

    @property
    def worth(self) -> list[Money]:
        """What is left over cost, by currency."""
        sums: dict[str, int] = {}
        for piece in self.left:
            if piece.stock.paid:
                sums[piece.stock.paid.currency] = (
                    sums.get(piece.stock.paid.currency, 0) + piece.stock.paid.minor
                )
        return [Money(minor, currency) for currency, minor in sums.items()]


def _no_pieces(build: Build) -> list[str]:
    """Names of the parts that are bought and yet no piece of the shelf: the books cannot know them."""
    return [
        str(document["name"])
        for slot, _, document in parts_of(build)
        if document.get("name")
        and not isinstance(document.get(PIECE_LINK), int)
        and slot.partition(".")[0] not in MADE_HERE
    ]


def away_page(visit: Visit, faults: Mapping[str, str] | None = None) -> AwayPage:
    """Compute the page."""
    connection, watch = visit.connection, visit.stored
    steps = fates.fates_of(connection, watch.id)
    series = quotes.series_of(connection, watch.id)
    promised = {given.number: given.buyer for given in series.given}
    numbers = tuple(
        NumberOut(
            number, promised.get(number, ""), whereabouts(steps, number), tuple(of_number(steps, number)),
            last_of(steps, number),
        )
        for number in range(1, max(series.count, 1) + 1)
    )  # fmt: skip
    ready, ledger = readiness_of(visit), bookings.ledger_of(connection, watch.id, today())
    return AwayPage(
        watch,
        visit.way("story"),
        tuple(leftovers.leftovers_of(connection, watch.id)),
        tuple(leftovers.went_with(connection, watch.id)),
        numbers,
        tuple(service_visits(steps)),
        ledger.total,
        tuple(dict.fromkeys((*ledger.unpriced, *_no_pieces(watch.build)))),
        tuple(state.test.label for state in ready.states if state.state != "passed"),
        ready.is_ready,
        today(),
        visit.report(watch.build),
        {**dict.fromkeys(("put", "fate"), ""), **(faults or {})},
    )
