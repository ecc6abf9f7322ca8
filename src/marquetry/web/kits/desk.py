"""One text on its desk: whose it is, how it reads there, and what taking it does."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fastapi import Request

from marquetry.core.evidence.dry_fit import DryFit
from marquetry.core.evidence.lapse import settled
from marquetry.core.fit.report import Report
from marquetry.core.measuring.listing.kit import JOIN, LEAVE
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import usual_watch
from marquetry.core.sheet.ready_families import USUAL_FAMILY
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money
from marquetry.store import house, kits, pasted, sellers_words, shelf, supply_orders, terms_of_trade, watches
from marquetry.store.database import Connection
from marquetry.store.kits import Sale
from marquetry.store.pasted import Decided, Pasted, PastedFor
from marquetry.store.suppliers import suppliers
from marquetry.store.watches import StoredWatch
from marquetry.web.kits import taking
from marquetry.web.kits.form import KitForm
from marquetry.web.kits.reading import BESIDE, TextRead, text_read
from marquetry.web.kits.view import KitPage, Sides, lines_of_text, sides_of, tiles_of
from marquetry.web.order.forms import decimal_of
from marquetry.web.site.addresses import addresses
from marquetry.web.site.today import today
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.way import WayThrough, way_through

NUMBERED = {"watch": "watch_id", "part": "part_id"}
"""How each owner's number is called in its addresses."""


@dataclass(frozen=True, slots=True)
class Desk:
    """A text with its owner; `kind` where all of it is one part."""

    request: Request
    connection: Connection
    owner: PastedFor
    number: int
    pasted: Pasted
    kind: str | None
    name: str
    version: int
    watch: StoredWatch | None
    build: Build | None

    @property
    def text(self) -> TextRead:
        """The text as it reads with what is decided now."""
        learnt = sellers_words.words_of(self.connection, self.pasted.decided.seller)
        home, anatomy = terms_of_trade.trade_terms(self.connection).home, self.connection.model.anatomy
        return text_read(self.pasted, anatomy, self.build, learnt, self.kind, home)

    def allowed(self, decided: Decided) -> Decided:
        """What was decided, without what no part is called."""
        known = {kind.key for kind in self.connection.model.anatomy.kinds} | {JOIN, LEAVE}
        lines = {
            number: says for number, says in decided.lines.items() if says in known and number.isdecimal()
        }
        return replace(decided, lines=lines)

    def page(self, back: str, action: str, errors: tuple[str, ...]) -> KitPage:
        """The page of the text; without one, the field to paste it into."""
        decided, way = self.pasted.decided, self._way()
        page = KitPage(
            owner=self.owner, name=self.name, back=back, action=action, version=self.version,
            text=self.pasted.text, way=way, errors=errors, seller=decided.seller,
        )  # fmt: skip
        if not self.pasted.text:
            return page
        text = self.text
        tiles = tiles_of(text, self.build)
        rates = terms_of_trade.rates(self.connection)
        return replace(
            page,
            tiles=tiles,
            lines=lines_of_text(self.pasted.text, text, tiles),
            sides=self._sides(text),
            kinds=tuple((kind.key, kind.label) for kind in self.connection.model.anatomy.kinds),
            sellers=tuple(one.terms.name for one in suppliers(self.connection)),
            rates_asked=tuple(one for one in text.currencies if not rates.knows(one, today())),
            home=rates.home,
            whole=Money.of(*whole) if (whole := text.kit.parts[0].kit_price) else None,
            postage=text.postage,
        )

    def _way(self) -> WayThrough | None:
        if self.watch is None:
            return None
        return way_through(self.watch, self._report(self.watch.build), "watch_listing")

    def _report(self, build: Build) -> Report:
        reports: Reports = self.request.app.state.reports
        return reports.on(build, self.connection.model.rules_of(build, house.rule_values(self.connection)))

    def _sides(self, text: TextRead) -> Sides | None:
        if self.owner == "part":
            return None
        if self.watch is None:
            # Parts for no watch yet: what they would make, the rest as usual ones are.
            usual = usual_watch(USUAL_FAMILY, self.connection.model.anatomy)
            made = settled(None, taking.filled(self.connection, usual, text.parts).build, self._dry_fits)
            return sides_of(None, self._report(made), made)
        after = taking.filled(self.connection, self.watch.build, text.parts).build
        after = settled(self.watch.build, after, self._dry_fits)
        return sides_of(self._report(self.watch.build), self._report(after), after)

    @property
    def _dry_fits(self) -> Mapping[str, DryFit]:
        return self.connection.model.dry_fit_by_key

    def set_rates(self, typed: Mapping[str, str]) -> None:
        """Keep the rates that were typed, from today on. DimensionError for one that is none."""
        asked = {currency: words for currency, words in typed.items() if words}
        wanted = self.text.currencies
        for currency, words in asked.items():
            if currency not in wanted:
                raise DimensionError(
                    "rate", currency, "", f"a currency of this text: {', '.join(wanted) or 'none'}"
                )
            terms_of_trade.set_rate(
                self.connection, currency, today(), decimal_of("rate", words, 10**9) or None
            )
        if asked:
            supply_orders.reprice_all(self.connection)

    def take(self, form: KitForm) -> "Desk":
        """Use all that is sure, inside a transaction; the desk with what was taken."""
        text, decided = self.text, self.pasted.decided
        sale = Sale(decided.seller, today(), decided.sender, text.postage, decided.taught)
        if text.currencies:
            kits.remember_seller(self.connection, sale, text.currencies[0])
        if self.watch is not None:
            into = taking.IntoWatch(self.connection, self.watch, sale, form.fault)
            numbers = into.save(form.version, text.parts)
        elif self.owner == "part":
            taking.into_part(self.connection, self.number, form.version, text.parts[0], sale)
            numbers = {str(text.parts[0].first): self.number}
        else:
            numbers = taking.onto_shelf(self.connection, text.parts, sale)
        taken = {**decided.taken, **numbers}
        beside = {str(part.first): BESIDE for part in text.parts if part.slot == BESIDE}
        decided = replace(decided, taken=taken, slots={**decided.slots, **beside})
        made = desk_of(self.request, self.connection, self.owner, self.number, self.kind or "")
        return replace(made, pasted=replace(self.pasted, decided=decided))

    def where_to(self, request: Request) -> str:
        """Where one goes once everything of the text is used."""
        to = addresses(request.app)
        if self.owner == "watch":
            return str(to("next", watch_id=str(self.number)))
        if self.owner == "part":
            return str(to("part", part_id=str(self.number)))
        taken = list(self.pasted.decided.taken.values())
        return str(to("part", part_id=str(taken[0])) if len(taken) == 1 else to("shelf"))


def desk_of(request: Request, connection: Connection, owner: PastedFor, number: int, kind: str = "") -> Desk:
    """The desk of an owner's text; NotFoundError where there is no such owner."""
    found = pasted.pasted_for(connection, owner, number)
    kinds = {known.key for known in connection.model.anatomy.kinds}
    named = kind if kind in kinds else None
    desk = Desk(request, connection, owner, number, found, named, "The shelf", 0, None, None)
    if owner == "watch":
        watch = watches.watch(connection, number)
        return replace(desk, name=watch.build.name, version=watch.version, watch=watch, build=watch.build)
    if owner == "part":
        part = shelf.part(connection, number)
        return replace(
            desk, kind=part.part.kind.key, name=part.part.name, version=part.version, build=part.part.build
        )
    return desk
