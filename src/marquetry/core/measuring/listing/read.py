"""A listing read: its parts, each with its kind, its fields, its looks, its price, and what was not read."""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from itertools import accumulate

from marquetry.core.measuring.listing.calibres import calibres_of, models_at, suits_of
from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.fields import fields_of
from marquetry.core.measuring.listing.hands import HandLines, as_posts
from marquetry.core.measuring.listing.kinds import head_of, heading_kind
from marquetry.core.measuring.listing.kit import MARKS, Kit, PartText, count_of, counts_at, split
from marquetry.core.measuring.listing.line import ListingLine, Segment, lines_of
from marquetry.core.measuring.listing.looks import functions_of, looks_of, windows_of
from marquetry.core.measuring.listing.naming import name_of
from marquetry.core.measuring.listing.notes import figures_noted, noted_at, notes_of
from marquetry.core.measuring.listing.places import date_places
from marquetry.core.measuring.listing.price import kit_price_of, price_of, prices_at
from marquetry.core.measuring.listing.result import Doubted, Listing, Proposed, Sure
from marquetry.core.measuring.listing.seals import SECTION, ring_fields, with_section
from marquetry.core.measuring.listing.stacked import in_rows
from marquetry.core.measuring.listing.table import in_columns
from marquetry.core.measuring.listing.worded import (
    adhesive_of,
    drive_of,
    has_no_seconds,
    insert_fields,
    post_fields,
    taper_fields,
    water_at,
    worded_fields,
)
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.second_thought import second_thoughts

LONGEST_LISTING = 20_000
"""Letters of a text that is read; a seller's page has two or three thousand."""
SAME_MM = 0.01
MOST_HEARD = 3_000
VOTING = ("case", "dial", "movement", "crystal", "bezel_insert", "back_gasket", "crown_gasket", "crystal_gasket", "strap", "spring_bars", "crown", "stem", "hands")  # fmt: skip


@dataclass(frozen=True, slots=True)
class KitRead:
    """All that a text tells: its parts, and by their number the lines of which no part took anything."""

    parts: list[Listing]
    left: list[tuple[int, str]] = field(default_factory=list)
    """Lines of no part that hold a figure or a part's word: what they are, only the builder can say."""
    aside: list[tuple[int, str]] = field(default_factory=list)
    """Lines of the order itself: postage, tax, sums."""


def read_listing(text: str, anatomy: Anatomy, kind: str | None = None) -> list[Listing]:
    """What each part of the text tells. `kind` is what the builder says it is, all of it.

    NotFoundError where no such kind is described. Nothing is taken: these are proposals.
    """
    if kind is not None:
        anatomy.kind(kind)
        lines = in_rows(lines_of(text[:LONGEST_LISTING]))
        return [_read(lines, anatomy, kind, "said")] if lines else [Listing(kind, "said")]
    return read_kit(text, anatomy).parts


def read_kit(text: str, anatomy: Anatomy, decided: Mapping[int, str] | None = None) -> KitRead:
    """What each part of the text tells, and which lines no part took; `decided` is what the builder says of lines."""
    lines = in_columns(in_rows(lines_of(text[:LONGEST_LISTING])))
    if not lines:
        return KitRead([Listing(None, None)])
    kit = split(lines, decided)
    of_kit = len(kit.pieces) > 1 or bool(kit.left)
    read = [(piece, _read_piece(piece, anatomy)) for piece in kit.pieces]
    told = [
        (piece, part)
        for piece, part in read
        if piece.is_said or (part.kind and (part.fields or part.kind_sure == "said"))
    ]
    kept = told if len(read) > 1 and told else read
    for piece, part in kept:
        part.quantity = count_of(piece)
        part.price = price_of(piece.lines, count=part.quantity, of_kit=of_kit)
        part.numbers = [line.number for line in piece.lines]
    parts = [part for _, part in kept]
    if not parts:
        parts = [Listing(None, None, unread=[line.text for line in kit.left if line.has_figure])]
    elif of_kit:
        parts[0].kit_price = kit_price_of(lines)
    elif parts[0].price is None:
        parts[0].price = kit_price_of(lines)
    _hand_over_what_is_left(parts, kit)
    left = [*kit.left, *(line for piece, part in read if part not in parts for line in piece.lines)]
    return KitRead(
        parts, [(line.number, line.text) for line in left], [(line.number, line.text) for line in kit.aside]
    )


def _hand_over_what_is_left(parts: list[Listing], kit: Kit) -> None:
    """What tools and the order's own lines tell stands in `unread` of the part before them."""
    for line in kit.left:
        before = [part for part in parts if part.numbers and part.numbers[0] < line.number]
        if line.has_figure:
            (before or parts)[-1 if before else 0].unread.append(line.text)


def _read_piece(piece: PartText, anatomy: Anatomy) -> Listing:
    if piece.kind and anatomy.has_kind(piece.kind):
        return _read(piece.lines, anatomy, piece.kind, "said")
    named = next((kind for line in piece.lines[:1] if (kind := _named_in(line))), None)
    if named and anatomy.has_kind(named):
        return _read(piece.lines, anatomy, named, "said")
    return _voted(piece.lines, anatomy)


def _named_in(line: ListingLine) -> str | None:
    """The kind that a line names beside a quantity of it, as in “Case diameter 40 mm”."""
    head = head_of(line.plain)
    if head is not None:
        return head.kind
    return "movement" if CALIBRE.search(line.plain) else None


CALIBRE = re.compile(r"^\W*(?:calib(?:re|er)s?|kaliber)\b")


def _voted(lines: list[ListingLine], anatomy: Anatomy) -> Listing:
    """Of a text whose title names no kind, the kind that most of its labels speak of."""
    kinds = [kind for kind in VOTING if anatomy.has_kind(kind)]
    heard = _first_letters(lines)
    mentioned = [head.kind for line in lines if (head := head_of(line.plain))]

    def votes(kind: str) -> tuple[int, int, int]:
        kept = _settled(_told(heard, anatomy, kind)[0])
        said = len({f.path for f in kept if f.sure == "said"})
        first = -mentioned.index(kind) if kind in mentioned else -len(lines)
        return said, -len(_asks(kept, anatomy, anatomy.kind(kind).prefix)), first

    # Fields alone decide: looks, notes and what was not read are asked of the kind that is chosen.
    counted = {kind: votes(kind) for kind in kinds}
    best = max(kinds, key=lambda kind: counted[kind])
    if counted[best][0] > 0:
        return _read(lines, anatomy, best, "likely")
    if mentioned and anatomy.has_kind(mentioned[0]):
        return _read(lines, anatomy, mentioned[0], "likely")
    return Listing(
        None,
        None,
        name_of(lines, "part"),
        unread=[line.text for line in lines if line.has_figure],
        price=price_of(lines),
        text=_text_of(lines),
    )


def _first_letters(lines: list[ListingLine]) -> list[ListingLine]:
    """The lines that tell what a part is: each kind is tried on them, and no part is told in more."""
    lengths = accumulate(len(line.plain) for line in lines)
    return [line for line, so_far in zip(lines, lengths, strict=True) if so_far <= MOST_HEARD] or lines[:1]


def _text_of(lines: list[ListingLine]) -> str:
    return "\n".join(line.text for line in lines)


def _read(lines: list[ListingLine], anatomy: Anatomy, kind: str, sure: Sure) -> Listing:
    described = anatomy.kind(kind)
    fields, heights = _told(lines, anatomy, kind)
    kept = _settled(fields)
    kept = as_posts(kept) if kind == "hands" else kept
    listing = Listing(kind, sure, name_of(lines, kind), kept, looks_of(lines, kind), text=_text_of(lines))
    listing.price = price_of(lines)
    listing.windows = windows_of(lines) if kind == "dial" else []
    if kind == "movement":
        _of_a_movement(listing, lines)
    else:
        listing.suits = suits_of(lines)
    if kind == "hands" and has_no_seconds(lines):
        _without_seconds(listing)
    if kind == "bezel_insert":
        listing.adhesive = adhesive_of(lines)
    listing.notes = notes_of(lines) + figures_noted(lines, kind) + heights
    listing.unread = [
        words for number, line in enumerate(lines) for words in _unread(line, number, fields, listing)
    ]
    slips = _asks(listing.fields, anatomy, described.prefix)
    doubted = {slip.path for slip in slips}
    listing.fields = [
        _asked(proposed) if proposed.path in doubted else proposed for proposed in listing.fields
    ]
    listing.asks += slips
    return listing


def _of_a_movement(listing: Listing, lines: list[ListingLine]) -> None:
    listing.functions = functions_of(lines)
    listing.calibres = calibres_of(lines)
    listing.drive = drive_of(lines)
    if has_no_seconds(lines):
        _without_seconds(listing)
    for line in lines:
        if thread := STEM_THREAD.search(line.plain):
            listing.asks.append(
                Doubted("stem.thread", line.words(*thread.span()), thread["thread"].replace(",", "."))
            )


STEM_THREAD = re.compile(
    r"\b(?:stem (?:thread|tap)|thread(?: of (?:the )?stem)?|(?:wellen)?gewinde|filetage(?: de (?:la )?tige)?|tap)\s*[:=]?\s*(?:m\s?)?(?P<thread>\d[.,]\d{1,2})"
)


def _without_seconds(listing: Listing) -> None:
    """A part that is said to have no seconds: neither hand, nor post, nor function."""
    listing.without = ["seconds"]
    listing.functions = [name for name in listing.functions if name != "seconds"]
    listing.fields = [f for f in listing.fields if not f.path.startswith(("seconds.", "posts.seconds."))]


def _told(lines: list[ListingLine], anatomy: Anatomy, kind: str) -> tuple[list[Proposed], list[str]]:
    """Every field that the lines tell of a part of that kind, some of them more than once; heights to be noted."""
    described = anatomy.kind(kind)
    hands = HandLines()
    fields: list[Proposed] = []
    heights: list[str] = []
    titles = {0, 1} if heading_kind(lines[0]) else {0}
    for number, line in enumerate(map(_without_prices, lines)):
        if kind == "hands":
            fields += hands.fields_of(line, number)
            continue
        found = list(fields_of(line, number, described, is_title=number in titles))
        fields += [*_of_kind(line, number, kind, found, heights), *worded_fields(line, number, kind)]
    fields = with_section(fields, kind) if kind in SECTION else fields
    known = (
        f for f in fields if f.is_plain or f.unit == "" or anatomy.is_quantity(f"{described.prefix}.{f.path}")
    )
    return list(known), heights


def _without_prices(line: ListingLine) -> ListingLine:
    """The line with its prices blanked: a figure beside another (“date at 3 24,90 €”) is read for what it is."""
    plain = line.plain
    for start, end in prices_at(plain):
        plain = plain[:start] + "\0" * (end - start) + plain[end:]
    return replace(line, plain=plain)


def _of_kind(
    line: ListingLine, number: int, kind: str, found: list[Proposed], heights: list[str]
) -> list[Proposed]:
    """The fields of a line with those that such parts have a way of their own to tell, which go first."""
    own: list[Proposed] = []
    if kind in SECTION:
        own, noted = ring_fields(line, number, kind)
        heights += noted
    elif kind == "movement":
        own = list(post_fields(line, number))
    elif kind == "bezel":
        own = list(insert_fields(line, number))
    elif kind == "strap":
        own = list(taper_fields(line, number))
    elif kind == "crystal":
        return [*found, *_flatness(line, number)]
    taken = [(proposed.start, proposed.end) for proposed in own]
    return [*own, *(f for f in found if not any(f.start < end and start < f.end for start, end in taken))]


def _asks(kept: list[Proposed], anatomy: Anatomy, prefix: str) -> list[Doubted]:
    return [slip for proposed in kept for slip in _slips(proposed, anatomy, prefix)]


BELOW = re.compile(r" (?:inside|underneath|below|underside|bottom|on the inside|innen|a l.interieur)\b")


def _flatness(line: ListingLine, number: int) -> list[Proposed]:
    """A flat crystal's underside does not rise."""
    for match in re.finditer(r"\bflat\b|\bplan(?:glas)?\b|\bflach\b|\bplate?\b(?= )", line.plain):
        below = BELOW.match(line.plain, match.end()) or re.search(r"\binnen $", line.plain[: match.start()])
        if not is_denied(line.plain, match.start()) and (below or "dome" not in line.plain):
            words = line.words(match.start(), match.end())
            return [
                Proposed("inner_dome", 0.0, None, "mm", words, "said", number, match.start(), match.end())
            ]
    return []


def _settled(fields: list[Proposed]) -> list[Proposed]:
    """One field once: said before likely; two that say otherwise are both asked about."""
    by_path: dict[str, list[Proposed]] = {}
    for proposed in fields:
        by_path.setdefault(proposed.path, []).append(proposed)
    settled: list[Proposed] = []
    for every in by_path.values():
        told = [proposed for proposed in every if proposed.in_mm] or every
        said = [proposed for proposed in told if proposed.sure == "said"]
        kept = _different(said or told[:1])
        settled += kept if len(kept) == 1 else [_asked(proposed) for proposed in kept]
    return sorted(settled, key=lambda proposed: (proposed.line, proposed.start))


def _asked(proposed: Proposed) -> Proposed:
    return replace(proposed, sure="ask")


def _different(told: list[Proposed]) -> list[Proposed]:
    kept: list[Proposed] = []
    for proposed in told:
        if not any(_agree(proposed, before) for before in kept):
            kept.append(proposed)
    return kept


def _agree(one: Proposed, other: Proposed) -> bool:
    if not (isinstance(one.value, float) and isinstance(other.value, float)):
        return one.value == other.value
    return abs(one.value - other.value) <= SAME_MM + 1e-9


def _unread(line: ListingLine, number: int, fields: list[Proposed], listing: Listing) -> list[str]:
    """What of a line holds a figure of which nothing was made: no field, price, note, count, name or water rating."""
    if heading_kind(line):
        return []
    made = [
        (f.start, f.end)
        for f in fields
        if f.line == number and any(_is_told_by(k, f) for k in listing.fields)
    ]
    made += (
        noted_at(line.plain)
        + prices_at(line.text.casefold() if line.is_row else line.plain)
        + models_at(line)
    )
    made += water_at(line.plain) if listing.kind == "case" else []
    made += (
        [(place.start, place.end) for place in date_places(line.plain)] if listing.kind == "movement" else []
    )
    made += counts_at(line.plain)
    made += [place.span() for place in BLANKED.finditer(line.plain)]
    marks = MARKS.match(line.plain)
    made += [(0, marks.end())] if marks and marks.end() else []
    left = [line.words(*gap).strip(" ,;:/x×-") for segment in line.segments() for gap in _gaps(segment, made)]
    return [
        w
        for w in left
        if _has_figure(w) and w not in listing.notes and not (number == 0 and _is_named(w, listing))
    ]


def _is_told_by(kept: Proposed, proposed: Proposed) -> bool:
    """Whether what was kept came from the proposal: from its words, though read as a post, or it says the same again."""
    here = (kept.line, kept.start) == (proposed.line, proposed.start)
    return kept.path == proposed.path and (here or _agree(kept, proposed))


BLANKED = re.compile(r"\0+")


def _is_named(words: str, listing: Listing) -> bool:
    """Whether the figures of the words are the name's, as in “Osier 38”."""
    return all(figure in re.split(r"[\s,]+", listing.name) for figure in re.findall(r"[\w.]*\d[\w.]*", words))


def _gaps(segment: Segment, made: list[tuple[int, int]]) -> Iterator[tuple[int, int]]:
    """What is left of a statement between the places of which something was made."""
    start = segment.start
    for first, last in sorted(made):
        if first < segment.end and start < last:
            yield start, max(start, first)
            start = last
    yield start, max(start, segment.end)


def _has_figure(words: str) -> bool:
    return any(letter.isdigit() for letter in words)


def _slips(proposed: Proposed, anatomy: Anatomy, prefix: str) -> list[Doubted]:
    if proposed.dimension is None or not isinstance(proposed.value, float):
        return []
    quantity = anatomy.quantity_at(f"{prefix}.{proposed.path}")
    return [Doubted(proposed.path, t.asks, t.value) for t in second_thoughts(quantity, proposed.value)[:1]]
