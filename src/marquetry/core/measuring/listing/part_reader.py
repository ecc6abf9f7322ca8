"""The lines of one part read: fields, looks and words, each with where it stands, and what was not read."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.measuring.listing.calibres import calibres_of, models_at, suits_of
from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.fields import fields_of
from marquetry.core.measuring.listing.hands import HandLines
from marquetry.core.measuring.listing.kinds import heading_kind
from marquetry.core.measuring.listing.kit import MARKS, counts_at
from marquetry.core.measuring.listing.learnt import LearntLabel, fields_learnt
from marquetry.core.measuring.listing.line import ListingLine, Segment
from marquetry.core.measuring.listing.looks import functions_of, looks_of, windows_of
from marquetry.core.measuring.listing.naming import name_of
from marquetry.core.measuring.listing.notes import figures_noted, noted_at, notes_of
from marquetry.core.measuring.listing.places import date_places
from marquetry.core.measuring.listing.posts import as_posts
from marquetry.core.measuring.listing.price import price_of, prices_at
from marquetry.core.measuring.listing.result import Doubted, Listing, Proposed, Sure
from marquetry.core.measuring.listing.seals import SECTION, ring_fields, with_section
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

SAME_MM = 0.01


def _text_of(lines: list[ListingLine]) -> str:
    return "\n".join(line.text for line in lines)


@dataclass(frozen=True, slots=True)
class PartReader:
    """Reads the lines of one part. `learnt`: what the seller's own words mean."""

    anatomy: Anatomy
    learnt: tuple[LearntLabel, ...] = ()

    def read(self, lines: list[ListingLine], kind: str, sure: Sure) -> Listing:
        """What the lines tell of a part of that kind; NotFoundError where no such kind is described."""
        return _read(lines, self, kind, sure)

    def told(self, lines: list[ListingLine], kind: str) -> list[Proposed]:
        """The fields alone, each once: what kinds are weighed by."""
        return _settled(_told(lines, self, kind)[0])

    def asks(self, kept: list[Proposed], kind: str) -> list[Doubted]:
        """What is to be asked of the fields: values that such parts do not have."""
        prefix = self.anatomy.kind(kind).prefix
        return [slip for proposed in kept for slip in _slips(proposed, self.anatomy, prefix)]


def _read(lines: list[ListingLine], by: PartReader, kind: str, sure: Sure) -> Listing:
    by.anatomy.kind(kind)
    fields, heights = _told(lines, by, kind)
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
    listing.notes = notes_of(lines) + figures_noted(list(map(_words_alone, lines)), kind) + heights
    listing.unread = [
        words for number, line in enumerate(lines) for words in _unread(line, number, fields, listing)
    ]
    slips = by.asks(listing.fields, kind)
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


def _told(lines: list[ListingLine], by: PartReader, kind: str) -> tuple[list[Proposed], list[str]]:
    """Every field that the lines tell of a part of that kind, some of them more than once; heights to be noted."""
    described = by.anatomy.kind(kind)
    hands = HandLines()
    fields: list[Proposed] = []
    heights: list[str] = []
    titles = {0, 1} if heading_kind(lines[0]) else {0}
    for number, line in enumerate(map(_without_prices, lines)):
        learnt = list(fields_learnt(line, number, kind, by.learnt))
        if kind == "hands":
            found = list(hands.fields_of(line, number))
        else:
            found = list(fields_of(line, number, described, is_title=number in titles))
            found = [*_of_kind(line, number, kind, found, heights), *worded_fields(line, number, kind)]
        fields += [*learnt, *_not_within(found, learnt)]
    fields = with_section(fields, kind) if kind in SECTION else fields
    known = (
        f
        for f in fields
        if f.is_plain or f.unit == "" or by.anatomy.is_quantity(f"{described.prefix}.{f.path}")
    )
    return list(known), heights


def _without_prices(line: ListingLine) -> ListingLine:
    """The line with its prices blanked: a figure beside another (“date at 3 24,90 €”) is read for what it is."""
    plain = line.plain
    for start, end in prices_at(plain):
        plain = plain[:start] + "\0" * (end - start) + plain[end:]
    return replace(line, plain=plain)


def _words_alone(line: ListingLine) -> ListingLine:
    """The line as it is noted: what is asked for the part is no note of its size."""
    text = line.text
    for start, end in prices_at(line.plain):
        text = text[:start] + " " * (end - start) + text[end:]
    return replace(line, text=text.rstrip(" -–—,"))


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
    return [*own, *_not_within(found, own)]


def _not_within(found: list[Proposed], own: list[Proposed]) -> list[Proposed]:
    """Those that were read from other words than these."""
    taken = [(proposed.start, proposed.end) for proposed in own]
    return [f for f in found if not any(f.start < end and start < f.end for start, end in taken)]


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
    left = [
        line.words(*gap).strip(" ,;:/x×-–—") for segment in line.segments() for gap in _gaps(segment, made)
    ]
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
    return words in listing.name or all(
        figure in re.split(r"[\s,]+", listing.name) for figure in re.findall(r"[\w.]*\d[\w.]*", words)
    )


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
