"""The card of a watch as its page shows it, and the sheet that is handed over with it."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.core.face.face import seen_face
from marquetry.core.proving.water_claim import WaterClaim, water_claim
from marquetry.core.story.card import ROW_LABELS, CardRow, CardWatch, card_rows, card_text
from marquetry.core.story.fates import fates_standing
from marquetry.core.story.handover import HandedOver, SheetChapter, chapters, promises
from marquetry.drawing.scene import Scene
from marquetry.drawing.story.spec_card import CardWords, spec_card
from marquetry.store import briefs, cards, fates, leftovers, quotes, terms_of_trade
from marquetry.store.cards import CardSaid
from marquetry.store.pieces import Piece
from marquetry.store.quotes import Series
from marquetry.store.terms_of_trade import TradeTerms
from marquetry.store.watches import StoredWatch
from marquetry.web.prove.readiness import readiness_of
from marquetry.web.prove.view import day_of
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True)
class SpecCardPage:
    """All that the card's page shows; `number` is which of the series it is made for."""

    watch: StoredWatch
    way: WayThrough
    said: CardSaid
    rows: tuple[CardRow, ...]
    scene: Scene
    text: str
    number: int
    series: Series
    terms: TradeTerms
    faults: Mapping[str, str] = field(default_factory=dict)

    @property
    def labels(self) -> Mapping[str, str]:
        """Every row that a card may have, by its key."""
        return ROW_LABELS

    @property
    def numbers(self) -> range:
        """The numbers of the series."""
        return range(1, self.series.count + 1)


def day_only(claim: WaterClaim | None) -> str:
    """The day of a test; empty without one."""
    return day_of(claim.at_ms)[:10] if claim else ""


def card_watch(visit: Visit, said: CardSaid, number: int) -> CardWatch:
    """All that a card is made of."""
    ready = readiness_of(visit)
    claim = water_claim(ready)
    count = max(quotes.series_of(visit.connection, visit.stored.id).count, 1)
    beside = [piece.name for piece in leftovers.went_with(visit.connection, visit.stored.id)]
    day = said.day or _ended(visit, number)
    return CardWatch(ready.situation, ready, claim, day_only(claim), min(number, count), count, day, beside)


def _ended(visit: Visit, number: int) -> str:
    """The day on which it left the bench; empty while it is on it."""
    steps = fates_standing(fates.fates_of(visit.connection, visit.stored.id))
    return next((fate.day for fate in steps if fate.number == number and fate.what != "back"), "")


def card_page(visit: Visit, number: int = 1, faults: Mapping[str, str] | None = None) -> SpecCardPage:
    """Compute the page."""
    said = cards.card_of(visit.connection, visit.stored.id)
    terms = terms_of_trade.trade_terms(visit.connection)
    series = quotes.series_of(visit.connection, visit.stored.id)
    number = min(max(number, 1), max(series.count, 1))
    rows = card_rows(card_watch(visit, said, number), said.left_out)
    name, maker = visit.stored.build.name, said.maker or terms.maker
    report = visit.report(visit.stored.build)
    scene = spec_card(seen_face(visit.stored.build, report), CardWords(name, said.line, maker), rows)
    text = card_text(name, said.line, maker, rows)
    return SpecCardPage(
        visit.stored, visit.way("story"), said, tuple(rows), scene, text, number, series, terms,
        {**dict.fromkeys(("day", "words"), ""), **(faults or {})},
    )  # fmt: skip


@dataclass(frozen=True)
class HandOverPage:
    """All that the sheet shows: chapters, what is in the watch, what was promised, what goes with it."""

    watch: StoredWatch
    way: WayThrough
    said: CardSaid
    terms: TradeTerms
    maker: str
    number: int
    series: Series
    chapters: tuple[SheetChapter, ...]
    rows: tuple[CardRow, ...]
    parts: tuple[tuple[str, str], ...]
    promised: tuple[tuple[str, str], ...]
    included: str
    beside: tuple[Piece, ...]
    is_ready: bool
    face: Scene


def hand_over_page(visit: Visit, number: int = 1) -> HandOverPage:
    """Compute the sheet."""
    connection, watch = visit.connection, visit.stored
    page, ready = card_page(visit, number), readiness_of(visit)
    claim, brief = water_claim(ready), briefs.brief_of(connection, watch.id)
    months = round(visit.rules(watch.build).number("retest_months"))
    one = HandedOver(ready.situation, ready, brief, claim, day_only(claim), months)
    told = [quote for quote in quotes.quotes_of(connection, watch.id) if not quote.is_withdrawn]
    build = watch.build
    names = [
        (part.label, build.at(f"{part.key}.name")) for part in build.anatomy.parts if build.has(part.key)
    ]
    return HandOverPage(
        watch,
        page.way,
        page.said,
        page.terms,
        page.said.maker or page.terms.maker,
        page.number,
        page.series,
        tuple(chapters(one)),
        page.rows,
        tuple((label, str(name)) for label, name in names if name),
        tuple(promises(brief)),
        str(told[0].told.get("included") or "") if told else "",
        tuple(leftovers.went_with(connection, watch.id)),
        ready.is_ready,
        page.scene,
    )
