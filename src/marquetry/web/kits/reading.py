"""A text as it is read with all that the builder decided: its parts, each with what of it would be used."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from marquetry.core.measuring.begun import is_measured
from marquetry.core.measuring.listing.answered import told_of_others, with_answers
from marquetry.core.measuring.listing.learnt import LearntLabel
from marquetry.core.measuring.listing.order_sums import beside_parts, is_offer, postage_of
from marquetry.core.measuring.listing.read import KitRead, read_kit, read_listing
from marquetry.core.measuring.listing.result import Listing
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.kind import Kind
from marquetry.core.trade.kit_share import KitLine, KitPrice, kit_prices
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money, parse_money
from marquetry.store.another_part import is_somebodys, name_in
from marquetry.store.pasted import Pasted

SAME, ANOTHER, BESIDE = "same", "another", "beside"
"""What a part is to the one that stands in its slot."""


@dataclass(frozen=True, slots=True)
class PartRead:
    """One part of the text, told by the number of its first line.

    `used` are the numbers of its proposals that are taken; `slot` is what it is to the part in its slot,
    empty where that is still to be answered; `in_slot` names that part.
    """

    first: int
    listing: Listing
    kind: Kind | None
    price: KitPrice
    used: frozenset[int]
    in_slot: str = ""
    slot: str = SAME
    taken: int | None = None
    of_others: Mapping[str, str] = field(default_factory=dict)
    """What it tells of another part and the builder agreed to note there, by path in the watch."""
    is_named: bool = False
    """Whether its name was typed: then it is called so, whatever it was called."""

    @property
    def is_open(self) -> bool:
        """Whether something is asked: a doubt, its kind, or what it is to the part in its slot."""
        doubted = bool(self.listing.asks) or any(one.sure == "ask" for one in self.listing.fields)
        return self.kind is None or doubted or not self.slot

    @property
    def can_be_taken(self) -> bool:
        """Whether it has a kind and, where its slot is filled, it is said which part it is."""
        return self.kind is not None and bool(self.slot)


@dataclass(frozen=True, slots=True)
class TextRead:
    """The whole text: its parts, and what of it no part took."""

    parts: tuple[PartRead, ...]
    kit: KitRead
    postage: Money | None
    home: str
    """The workshop's currency: a sum typed without one is in it, where the text has none either."""

    @property
    def currencies(self) -> tuple[str, ...]:
        """In which currencies prices are asked, the commonest first."""
        every = [part.price.price.currency for part in self.parts if part.price.price]
        return tuple(sorted(set(every), key=lambda one: (-every.count(one), one)))

    @property
    def is_open(self) -> bool:
        """Whether anything is still to be answered or taken."""
        return any(part.is_open or part.taken is None for part in self.parts)


def text_read(  # noqa: PLR0913, PLR0917  # what a text is read with
    pasted: Pasted,
    anatomy: Anatomy,
    build: Build | None,
    learnt: tuple[LearntLabel, ...],
    kind: str | None,
    home: str,
) -> TextRead:
    """Read the text anew with what was decided, beside what `build` knows; all of it as `kind`, if told."""
    decided = pasted.decided
    if kind is None:
        kit = read_kit(pasted.text, anatomy, decided.by_line, (*decided.taught, *learnt))
    else:
        kit = KitRead(read_listing(pasted.text, anatomy, kind))
    listings = [_as_decided(listing, pasted) for listing in kit.parts]
    others = [told_of_others(listing, _answers(listing, pasted)) for listing in kit.parts]
    prices = kit_prices(
        [KitLine(_money(one.price), one.quantity) for one in listings],
        _money(listings[0].kit_price),
        tuple(beside_parts(kit)),
        is_offer=is_offer(kit),
    )
    read_in = [price.price.currency for price in prices if price.price]
    usual = max(read_in, key=read_in.count, default=home)
    parts: list[PartRead] = []
    for listing, read, of_others in zip(listings, prices, others, strict=True):
        price = _typed(listing, read, pasted, usual)
        part = _part(listing, price, pasted, anatomy, build, parts)
        parts.append(replace(part, of_others=of_others))
    return TextRead(tuple(parts), kit, postage_of(kit), home)


def first_of(listing: Listing) -> int:
    """The number of the line that a part begins with: how decisions name it."""
    return listing.numbers[0] if listing.numbers else 0


def _typed(listing: Listing, read: KitPrice, pasted: Pasted, usual: str) -> KitPrice:
    """The price as typed, in the part's currency or the `usual` one if it has none; else as it was read."""
    typed = pasted.decided.prices.get(str(first_of(listing)))
    if typed is None:
        return read
    try:
        return KitPrice(parse_money("price", typed, read.price.currency if read.price else usual))
    except DimensionError:
        return read  # refused where it was typed; an archive may hold anything


def _answers(listing: Listing, pasted: Pasted) -> dict[str, str]:
    """What was answered about a part, by the path that was asked about."""
    keys = ((key.partition(":"), answer) for key, answer in pasted.decided.answers.items())
    return {path: answer for (head, _, path), answer in keys if head == str(first_of(listing))}


def _as_decided(listing: Listing, pasted: Pasted) -> Listing:
    name = pasted.decided.names.get(str(first_of(listing)), "").strip()
    answered = with_answers(listing, _answers(listing, pasted))
    return replace(answered, name=name) if name else answered


def _part(  # noqa: PLR0913, PLR0917  # what a part is read beside
    listing: Listing,
    price: KitPrice,
    pasted: Pasted,
    anatomy: Anatomy,
    build: Build | None,
    before: list[PartRead],
) -> PartRead:
    first, decided = first_of(listing), pasted.decided
    kind = anatomy.kind(listing.kind) if listing.kind else None
    used = frozenset(
        number
        for number, proposed in enumerate(listing.fields)
        if proposed.sure != "ask"
        and f"{first}:{proposed.path}" not in decided.left
        and not (kind and build and is_measured(build, f"{kind.prefix}.{proposed.path}"))
    )
    there = kind is not None and build is not None and not kind.is_many and is_somebodys(build, kind.key)
    in_slot = name_in(build, kind.key) if there and build is not None and kind is not None else ""
    taken = decided.taken.get(str(first))
    twice = any(other.kind == kind and other.slot != BESIDE for other in before) and kind is not None
    usual = BESIDE if twice and build is not None and not (kind and kind.is_many) else "" if in_slot else SAME
    chosen = decided.slots.get(str(first))
    # What was taken stands in the slot by now, or beside it: nothing is asked of it again.
    slot = (BESIDE if chosen == BESIDE else SAME) if taken is not None else chosen or usual
    is_named = bool(decided.names.get(str(first), "").strip())
    return PartRead(
        first=first, listing=listing, kind=kind, price=price, used=used, in_slot=in_slot, slot=slot,
        taken=taken, is_named=is_named,
    )  # fmt: skip


def _money(price: tuple[float, str] | None) -> Money | None:
    return None if price is None else Money.of(*price)
