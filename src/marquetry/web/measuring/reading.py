"""A listing being read, as the page shows it: the seller's text with its marks, the proposals beside it."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise

from marquetry.core.measuring.listing.read import read_listing
from marquetry.core.measuring.listing.result import Listing, Proposed
from marquetry.core.measuring.listing.taken import WORDS, PartTaken, take
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.kind import Kind
from marquetry.core.values.dimension import Source
from marquetry.core.values.figures import figure
from marquetry.store.another_part import is_somebodys, name_in
from marquetry.web.site.sent import number_in


@dataclass(frozen=True, slots=True)
class ProposedRow:
    """One proposal: what its tick sends, what it is, what it was read as, and what stands there now."""

    sends: str
    number: int
    label: str
    told: str
    sure: str
    now: str
    asks: str = ""
    stays: bool = False
    """Whether what stands there was measured: a seller's word replaces it only where it is ticked."""


@dataclass(frozen=True, slots=True)
class Marked:
    """Some letters of the seller's text; `numbers` are the proposals that were read from them."""

    words: str
    numbers: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class ReadPart:
    """One part of the listing: its kind, its text with marks, its proposals and all other words."""

    listing: Listing
    kind: Kind | None
    lines: tuple[tuple[Marked, ...], ...]
    rows: tuple[ProposedRow, ...]
    words: str
    words_sends: str
    number: int = 0
    in_slot: str = ""
    """What stands in the slot already and is known; empty where that is nobody's."""


def read_parts(
    text: str, anatomy: Anatomy, build: Build | None, kind: str | None = None
) -> tuple[ReadPart, ...]:
    """What each part of the text tells, beside what `build` knows of it."""
    found = read_listing(text, anatomy, kind)
    return tuple(_read(number, listing, anatomy, build) for number, listing in enumerate(found))


def _read(number: int, listing: Listing, anatomy: Anatomy, build: Build | None) -> ReadPart:
    kind = anatomy.kind(listing.kind) if listing.kind else None
    rows = (
        tuple(_row(f"{number}:{n}", n, p, listing, kind, build) for n, p in enumerate(listing.fields))
        if kind
        else ()
    )
    there = kind is not None and build is not None and not kind.is_many and is_somebodys(build, kind.key)
    in_slot = name_in(build, kind.key) if there and kind is not None and build is not None else ""
    return ReadPart(
        listing, kind, _marked(listing), rows, _words(listing, kind), f"{number}:{WORDS}", number, in_slot
    )


def _row(  # noqa: PLR0913, PLR0917  # a row has no fewer sources
    sends: str, number: int, proposed: Proposed, listing: Listing, kind: Kind, build: Build | None
) -> ProposedRow:
    path = f"{kind.prefix}.{proposed.path}"
    label = kind.anatomy.label_of(path).partition(", ")[2] or proposed.path
    told = proposed.shown
    if proposed.tol is not None:
        told += f" ±{figure(proposed.tol)}"
    known = build.dimensions.get(path) if build is not None else None
    now = f"{figure(known.value)} {known.source.value}" if known else ""
    asks = next((slip.words for slip in listing.asks if slip.path == proposed.path), "")
    stays = known is not None and known.source in {Source.MEASURED, Source.EXACT}
    return ProposedRow(sends, number + 1, label[0].upper() + label[1:], told, proposed.sure, now, asks, stays)


def _words(listing: Listing, kind: Kind | None) -> str:
    labels = {look.key: look.label for look in kind.looks} if kind else {}
    told = [f"{labels.get(key, key)}: {words}" for key, words in listing.looks.items()]
    for what, names in (("does", listing.functions), ("windows", listing.windows)):
        told += [f"{what}: {', '.join(names)}"] if names else []
    return "; ".join(filter(None, [listing.name, *told]))


def _marked(listing: Listing) -> tuple[tuple[Marked, ...], ...]:
    """The text line by line, cut where a proposal begins or ends."""
    marked = []
    for number, line in enumerate(listing.text.split("\n")):
        spans = [(p.start, p.end, n + 1) for n, p in enumerate(listing.fields) if p.line == number]
        cuts = sorted({0, len(line), *(place for start, end, _ in spans for place in (start, end))})
        pieces = [
            Marked(line[start:end], tuple(n for a, b, n in spans if a <= start and end <= b))
            for start, end in pairwise(cuts)
        ]
        marked.append(tuple(pieces))
    return tuple(marked)


def chosen_of(
    parts: tuple[ReadPart, ...], sent: list[str], *, everything: bool
) -> Mapping[int, frozenset[str]]:
    """What is taken of each part: the proposals ticked, or all that is sure and was not measured."""
    if everything:
        return {
            number: frozenset(
                [str(row.number - 1) for row in part.rows if row.sure != "ask" and not row.stays]
                + ([WORDS] if part.words else [])
            )
            for number, part in enumerate(parts)
        }
    chosen: dict[int, set[str]] = {}
    for value in sent:
        told, _, what = value.partition(":")
        number = number_in(told)
        if number is not None and number < len(parts):
            chosen.setdefault(number, set()).add(what)
    return {number: frozenset(what) for number, what in chosen.items()}


def taken_into(part: ReadPart, document: dict[str, Json], chosen: frozenset[str]) -> PartTaken | None:
    """The part with what was chosen; None where nothing was, or its kind is not told."""
    if part.kind is None or not chosen:
        return None
    return take(document, part.listing, chosen, part.kind)
