"""A listing read: its parts, each with its kind, its fields, its looks, its price, and what was not read."""

import re
from collections.abc import Iterator
from itertools import accumulate

from marquetry.core.measuring.listing.calibres import calibres_of, suits_of
from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.fields import fields_of
from marquetry.core.measuring.listing.hands import HandLines, as_posts
from marquetry.core.measuring.listing.kinds import heading_kind, kind_named, split
from marquetry.core.measuring.listing.labels import BY_KIND
from marquetry.core.measuring.listing.line import ListingLine, Segment, lines_of
from marquetry.core.measuring.listing.looks import functions_of, looks_of, water_at, windows_of
from marquetry.core.measuring.listing.notes import figures_noted, noted_at, notes_of
from marquetry.core.measuring.listing.price import price_of, prices_at
from marquetry.core.measuring.listing.result import Doubted, Listing, Proposed, Sure
from marquetry.core.measuring.listing.stacked import in_rows
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.second_thought import second_thoughts

LONGEST_LISTING = 20_000
"""Letters of a text that is read; a seller's page has two or three thousand."""
LONGEST_NAME = 100
SAME_MM = 0.01
MOST_HEARD = 3_000
VOTING = (*BY_KIND, "hands")


def read_listing(text: str, anatomy: Anatomy, kind: str | None = None) -> list[Listing]:
    """What each part of the text tells. `kind` is what the builder says it is.

    NotFoundError where no such kind is described. Nothing is taken: these are proposals.
    """
    if kind is not None:
        anatomy.kind(kind)
    lines = in_rows(lines_of(text[:LONGEST_LISTING]))
    if not lines:
        return [Listing(kind, "said" if kind else None)]
    if kind is not None:
        return [_read(lines, anatomy, kind, "said")]
    found = [_read_part(part, anatomy, headed) for headed, part in split(lines)]
    told = [part for part in found if part.kind and (part.fields or part.kind_sure == "said")]
    parts = told if len(found) > 1 and told else found
    return _without_empty_title(_without_total(parts) if len(parts) > 1 else parts)


def _without_total(parts: list[Listing]) -> list[Listing]:
    """What a kit costs in all, said at its end, is not what its last part costs."""
    for part in parts:
        part.price = price_of(lines_of(part.text), of_kit=True)
    return parts


def _without_empty_title(parts: list[Listing]) -> list[Listing]:
    """A kit's own title is no part."""
    return parts[1:] if len(parts) > 1 and not parts[0].fields else parts


def _read_part(lines: list[ListingLine], anatomy: Anatomy, headed: str | None) -> Listing:
    if headed:
        return _read(lines, anatomy, headed, "said")
    named = kind_named(lines[0]) or next((k for line in lines[1:] if (k := heading_kind(line))), None)
    if named and anatomy.has_kind(named):
        return _read(lines, anatomy, named, "said")
    return _voted(lines, anatomy)


def _voted(lines: list[ListingLine], anatomy: Anatomy) -> Listing:
    """Of a text whose title names no kind, the kind that most of its labels speak of."""
    kinds = [kind for kind in VOTING if anatomy.has_kind(kind)]
    heard = _first_letters(lines)
    mentioned = [kind for line in lines if (kind := kind_named(line))]

    def votes(kind: str) -> tuple[int, int, int]:
        kept = _settled(_told(heard, anatomy, kind))
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
        _name(lines),
        unread=[line.text for line in lines if line.has_figure],
        price=price_of(lines),
    )


def _first_letters(lines: list[ListingLine]) -> list[ListingLine]:
    """The lines that tell what a part is: each kind is tried on them, and no part is told in more."""
    lengths = accumulate(len(line.plain) for line in lines)
    return [line for line, so_far in zip(lines, lengths, strict=True) if so_far <= MOST_HEARD] or lines[:1]


def _read(lines: list[ListingLine], anatomy: Anatomy, kind: str, sure: Sure) -> Listing:
    described = anatomy.kind(kind)
    fields = _told(lines, anatomy, kind)
    kept = _settled(fields)
    kept = as_posts(kept) if kind == "hands" else kept
    windows = windows_of(lines) if kind == "dial" else []
    functions = functions_of(lines) if kind == "movement" else []
    listing = Listing(
        kind, sure, _name(lines), kept, looks_of(lines, kind), functions, windows, price_of(lines),
        text="\n".join(line.text for line in lines),
    )  # fmt: skip
    if kind == "movement":
        listing.calibres = calibres_of(lines)
    else:
        listing.suits = suits_of(lines)
    listing.notes = notes_of(lines) + figures_noted(lines, kind)
    listing.unread = [
        words for number, line in enumerate(lines) for words in _unread(line, number, fields, listing)
    ]
    listing.asks = _asks(kept, anatomy, described.prefix)
    return listing


def _told(lines: list[ListingLine], anatomy: Anatomy, kind: str) -> list[Proposed]:
    """Every field that the lines tell of a part of that kind, some of them more than once."""
    described = anatomy.kind(kind)
    hands = HandLines()
    fields: list[Proposed] = []
    titles = {0, 1} if heading_kind(lines[0]) else {0}
    for number, line in enumerate(lines):
        if kind == "hands":
            fields += hands.fields_of(line, number)
        else:
            fields += fields_of(line, number, described, is_title=number in titles)
        fields += _flatness(line, number) if kind == "crystal" else []
    return [f for f in fields if anatomy.is_quantity(f"{described.prefix}.{f.path}") or f.unit == ""]


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
    for told in by_path.values():
        said = [proposed for proposed in told if proposed.sure == "said"]
        kept = _different(said or told[:1])
        settled += kept if len(kept) == 1 else [_asked(proposed) for proposed in kept]
    return sorted(settled, key=lambda proposed: (proposed.line, proposed.start))


def _asked(proposed: Proposed) -> Proposed:
    return Proposed(
        proposed.path, proposed.value, proposed.tol, proposed.unit, proposed.words, "ask", proposed.line,
        proposed.start, proposed.end, proposed.about,
    )  # fmt: skip


def _different(told: list[Proposed]) -> list[Proposed]:
    kept: list[Proposed] = []
    for proposed in told:
        if not any(_agree(proposed, before) for before in kept):
            kept.append(proposed)
    return kept


def _agree(one: Proposed, other: Proposed) -> bool:
    if isinstance(one.value, str) or isinstance(other.value, str):
        return one.value == other.value
    return abs(one.value - other.value) <= SAME_MM + 1e-9


def _unread(line: ListingLine, number: int, fields: list[Proposed], listing: Listing) -> list[str]:
    """What of a line holds a figure of which nothing was made: no field, price, note or water rating."""
    if heading_kind(line):
        return []
    made = [
        (f.start, f.end)
        for f in fields
        if f.line == number and any(f.path == k.path and _agree(f, k) for k in listing.fields)
    ]
    made += noted_at(line.plain) + prices_at(line.plain)
    made += water_at(line.plain) if "water_rating" in listing.looks else []
    if not made:
        return [line.text] if line.has_figure and line.text not in listing.notes else []
    left = [line.words(*gap).strip(" ,;:/x×-") for segment in line.segments() for gap in _gaps(segment, made)]
    return [words for words in left if _has_figure(words) and words not in listing.notes]


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
    if isinstance(proposed.value, str):
        return []
    quantity = anatomy.quantity_at(f"{prefix}.{proposed.path}")
    return [Doubted(proposed.path, t.asks, t.value) for t in second_thoughts(quantity, proposed.value)[:1]]


def _name(lines: list[ListingLine]) -> str:
    """The title without decoration: up to the first sign that parts what it is from what is said of it."""
    title = re.split(r"\s+[–—|•]\s+|\s{3,}|\t", lines[0].text)[0]
    return re.sub(r"^[^\w„«\"“(Ø]+|[^\w”“»\")]+$", "", title)[:LONGEST_NAME]
