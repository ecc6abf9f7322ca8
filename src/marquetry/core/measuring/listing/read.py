"""A listing read: its parts, each with its kind, its fields, its looks, its price, and what was not read."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import accumulate

from marquetry.core.measuring.listing.kinds import head_of
from marquetry.core.measuring.listing.kit import Kit, PartText, count_of, split
from marquetry.core.measuring.listing.learnt import LearntLabel, heads_learnt
from marquetry.core.measuring.listing.line import ListingLine, lines_of
from marquetry.core.measuring.listing.naming import name_of
from marquetry.core.measuring.listing.part_reader import PartReader
from marquetry.core.measuring.listing.price import kit_price_of, price_of
from marquetry.core.measuring.listing.result import Listing
from marquetry.core.measuring.listing.stacked import in_rows
from marquetry.core.measuring.listing.table import in_columns
from marquetry.core.sheet.anatomy import Anatomy

LONGEST_LISTING = 20_000
"""Letters of a text that is read; a seller's page has two or three thousand."""
MOST_HEARD = 3_000
VOTING = ("case", "dial", "movement", "crystal", "bezel_insert", "back_gasket", "crown_gasket", "crystal_gasket", "strap", "spring_bars", "crown", "stem", "hands")  # fmt: skip


@dataclass(frozen=True, slots=True)
class KitRead:
    """All that a text tells: its parts, and by their number the lines of which no part took anything."""

    parts: list[Listing]
    left: tuple[tuple[int, str], ...] = ()
    """Lines of no part that hold a figure or a part's word: what they are, only the builder can say."""
    aside: tuple[tuple[int, str], ...] = ()
    """Lines of the order itself: postage, tax, sums."""


def read_listing(text: str, anatomy: Anatomy, kind: str | None = None) -> list[Listing]:
    """What each part of the text tells. `kind` is what the builder says it is, all of it.

    NotFoundError where no such kind is described. Nothing is taken: these are proposals.
    """
    if kind is not None:
        anatomy.kind(kind)
        lines = in_rows(lines_of(text[:LONGEST_LISTING]))
        return [PartReader(anatomy).read(lines, kind, "said")] if lines else [Listing(kind, "said")]
    return read_kit(text, anatomy).parts


def read_kit(
    text: str,
    anatomy: Anatomy,
    decided: Mapping[int, str] | None = None,
    learnt: tuple[LearntLabel, ...] = (),
) -> KitRead:
    """What each part of the text tells, and which lines no part took.

    `decided` is what the builder says of lines, by number; `learnt` what the seller's own words mean.
    """
    lines = in_columns(in_rows(lines_of(text[:LONGEST_LISTING])))
    if not lines:
        return KitRead([Listing(None, None)])
    by = PartReader(anatomy, learnt)
    kit = split(lines, {**heads_learnt(lines, learnt), **(decided or {})})
    of_kit = len(kit.pieces) > 1 or bool(kit.left)
    read = [(piece, _read_piece(piece, by)) for piece in kit.pieces]
    told = [(piece, part) for piece, part in read if _is_told(piece, part)]
    kept = told if len(read) > 1 and told else read
    for piece, part in kept:
        part.quantity = count_of(piece)
        part.price = price_of(piece.lines, count=part.quantity, of_kit=of_kit)
        part.numbers = [line.number for line in piece.lines]
    parts = [part for _, part in kept] or [
        Listing(None, None, unread=[line.text for line in kit.left if line.has_figure])
    ]
    _price_the_whole(parts, lines, of_kit=of_kit)
    _hand_over_what_is_left(parts, kit)
    left = [*kit.left, *(line for piece, part in read if part not in parts for line in piece.lines)]
    return KitRead(parts, *(tuple((line.number, line.text) for line in some) for some in (left, kit.aside)))


def _is_told(piece: PartText, part: Listing) -> bool:
    """Whether the lines are those of a part: its kind is named, or they tell something of it."""
    return piece.is_said or (part.kind is not None and (bool(part.fields) or part.kind_sure == "said"))


def _price_the_whole(parts: list[Listing], lines: list[ListingLine], *, of_kit: bool) -> None:
    """The sum of the order stands at its first part; of a part alone it is the price, where no other is told."""
    if of_kit:
        parts[0].kit_price = kit_price_of(lines)
    elif parts[0].price is None:
        parts[0].price = kit_price_of(lines)


def _hand_over_what_is_left(parts: list[Listing], kit: Kit) -> None:
    """What tools and the order's own lines tell stands in `unread` of the part before them."""
    for line in kit.left:
        before = [part for part in parts if part.numbers and part.numbers[0] < line.number]
        if line.has_figure:
            (before or parts)[-1 if before else 0].unread.append(line.text)


def _read_piece(piece: PartText, by: PartReader) -> Listing:
    if piece.kind and by.anatomy.has_kind(piece.kind):
        return by.read(piece.lines, piece.kind, "said")
    named = next((kind for line in piece.lines[:1] if (kind := _named_in(line))), None)
    if named and by.anatomy.has_kind(named):
        return by.read(piece.lines, named, "said")
    return _voted(piece.lines, by)


def _named_in(line: ListingLine) -> str | None:
    """The kind that a line names beside a quantity of it, as in “Case diameter 40 mm”."""
    head = head_of(line.plain)
    if head is not None:
        return head.kind
    return "movement" if CALIBRE.search(line.plain) else None


CALIBRE = re.compile(r"^\W*(?:calib(?:re|er)s?|kaliber)\b")


def _voted(lines: list[ListingLine], by: PartReader) -> Listing:
    """Of a text whose title names no kind, the kind that most of its labels speak of."""
    kinds = [kind for kind in VOTING if by.anatomy.has_kind(kind)]
    heard = _first_letters(lines)
    mentioned = [head.kind for line in lines if (head := head_of(line.plain))]

    def votes(kind: str) -> tuple[int, int, int]:
        kept = by.told(heard, kind)
        said = len({f.path for f in kept if f.sure == "said"})
        first = -mentioned.index(kind) if kind in mentioned else -len(lines)
        return said, -len(by.asks(kept, kind)), first

    # Fields alone decide: looks, notes and what was not read are asked of the kind that is chosen.
    counted = {kind: votes(kind) for kind in kinds}
    best = max(kinds, key=lambda kind: counted[kind])
    if counted[best][0] > 0:
        return by.read(lines, best, "likely")
    if mentioned and by.anatomy.has_kind(mentioned[0]):
        return by.read(lines, mentioned[0], "likely")
    return Listing(
        None,
        None,
        name_of(lines, "part"),
        unread=[line.text for line in lines if line.has_figure],
        price=price_of(lines),
        text="\n".join(line.text for line in lines),
    )


def _first_letters(lines: list[ListingLine]) -> list[ListingLine]:
    """The lines that tell what a part is: each kind is tried on them, and no part is told in more."""
    lengths = accumulate(len(line.plain) for line in lines)
    return [line for line, so_far in zip(lines, lengths, strict=True) if so_far <= MOST_HEARD] or lines[:1]
