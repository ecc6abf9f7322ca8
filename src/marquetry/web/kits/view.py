"""The page of a text: the seller's words with their marks, the parts as tiles, the watch before and after."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from marquetry.core.fit.report import Report
from marquetry.core.measuring.listing.answered import MEANT, NEITHER
from marquetry.core.measuring.listing.kit import JOIN, LEAVE
from marquetry.core.measuring.listing.read import LONGEST_LISTING
from marquetry.core.measuring.listing.result import Proposed
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from marquetry.core.values.figures import figure
from marquetry.core.values.money import Money
from marquetry.store.kits import NOT_TOLD
from marquetry.web.kits.reading import ANOTHER, BESIDE, SAME, PartRead, TextRead
from marquetry.web.kits.taking import part_taken
from marquetry.web.watch.way import WayThrough, counted_words

SLOT_WORDS = (
    (SAME, "the same part, told more about"),
    (ANOTHER, "another part: the old one goes to the shelf"),
    (BESIDE, "one beside it"),
)
CLAIM_MM = 0.5
"""A claimed height that differs more from the computed one is told."""


@dataclass(frozen=True, slots=True)
class ValueRow:
    """A value of a part: its place in the part, what it is, and whether it is used."""

    path: str
    label: str
    shown: str
    now: str
    is_used: bool


@dataclass(frozen=True, slots=True)
class Doubt:
    """A question beside its words, with what can be answered."""

    line: int
    words: str
    choices: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class Tile:
    """A part as its tile shows it; `number` is told beside its lines."""

    number: int
    read: PartRead
    part: Part | None
    rows: tuple[ValueRow, ...]
    doubts: tuple[Doubt, ...]
    unread: tuple[tuple[int, str], ...]
    means: tuple[tuple[str, str], ...]
    words: str

    @property
    def shown_paths(self) -> str:
        """The values that have a tick, for the form."""
        return " ".join(row.path for row in self.rows)


@dataclass(frozen=True, slots=True)
class Marked:
    """Some letters of the seller's text, and whether a value was read from them."""

    words: str
    is_read: bool = False


@dataclass(frozen=True, slots=True)
class TextLine:
    """A line of the text: whose it is (0 for no part's), whether that begins there, what is asked of it."""

    number: int
    pieces: tuple[Marked, ...]
    part: int = 0
    is_first: bool = False
    is_left: bool = False
    doubts: tuple[Doubt, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether the line says nothing and only parts two paragraphs."""
        return not any(piece.words.strip() for piece in self.pieces)


@dataclass(frozen=True, slots=True)
class Sides:
    """The watch as it is, where there is one, and as it would be, with how much is known of each."""

    before: Report | None
    after: Report
    told: tuple[str, str]
    claim: str = ""


@dataclass(frozen=True, slots=True)
class KitPage:
    """All that the page shows; without a text there is only the field to paste one into."""

    owner: str
    name: str
    back: str
    action: str
    version: int
    text: str
    tiles: tuple[Tile, ...] = ()
    lines: tuple[TextLine, ...] = ()
    sides: Sides | None = None
    kinds: tuple[tuple[str, str], ...] = ()
    seller: str = ""
    sellers: tuple[str, ...] = ()
    rates_asked: tuple[str, ...] = ()
    home: str = ""
    whole: Money | None = None
    postage: Money | None = None
    way: WayThrough | None = None
    errors: tuple[str, ...] = ()
    longest: int = LONGEST_LISTING
    not_told: str = NOT_TOLD
    slot_words: tuple[tuple[str, str], ...] = SLOT_WORDS
    join: str = JOIN
    leave: str = LEAVE

    @property
    def open_count(self) -> int:
        """How many questions are still open."""
        return sum(len(tile.doubts) + (not tile.read.slot) + (tile.read.kind is None) for tile in self.tiles)

    @property
    def is_filled(self) -> bool:
        """Whether a part goes out of its slot for another."""
        return any(tile.read.slot == ANOTHER for tile in self.tiles)


def tiles_of(text: TextRead, build: Build | None) -> tuple[Tile, ...]:
    """A tile for each part of the text."""
    return tuple(_tile(number, part, build) for number, part in enumerate(text.parts, 1))


def _tile(number: int, read: PartRead, build: Build | None) -> Tile:
    taken = part_taken(read, {"name": read.listing.name})
    part = Part.of(read.kind, taken.document) if taken and read.kind else None
    rows = tuple(
        _row(read, place, p, build) for place, p in enumerate(read.listing.fields) if p.sure != "ask"
    )
    means = tuple((path, quantity.label) for path, quantity in read.kind.quantities()) if read.kind else ()
    return Tile(
        number=number, read=read, part=part, rows=rows, doubts=tuple(_doubts(read)),
        unread=tuple(enumerate(read.listing.unread)), means=means, words=_words(read),
    )  # fmt: skip


def _row(read: PartRead, place: int, proposed: Proposed, build: Build | None) -> ValueRow:
    label = _label(read, proposed.path)
    shown = proposed.shown + (f" ±{figure(proposed.tol)}" if proposed.tol is not None else "")
    now = ""
    if build is not None and read.kind is not None:
        known = build.dimensions.get(f"{read.kind.prefix}.{proposed.path}")
        now = f"{figure(known.value)} {known.source.value}" if known and known.source.is_known else ""
    return ValueRow(proposed.path, label, shown, now, place in read.used)


def _label(read: PartRead, path: str) -> str:
    if read.kind is None:
        return path
    label = read.kind.anatomy.label_of(f"{read.kind.prefix}.{path}").partition(", ")[2] or path
    return label[0].upper() + label[1:]


def _doubts(read: PartRead) -> Iterator[Doubt]:
    """Every open question of the part: of two values which, of a slip what was meant."""
    by_path: dict[str, list[tuple[int, Proposed]]] = {}
    for number, proposed in enumerate(read.listing.fields):
        if proposed.sure == "ask":
            by_path.setdefault(proposed.path, []).append((number, proposed))
    for path, asked in by_path.items():
        slip = next((slip for slip in read.listing.asks if slip.path == path), None)
        key, label = f"{read.first}:{path}", _label(read, path)
        choices = [(f"{key}:{number}", proposed.shown) for number, proposed in asked]
        if slip is not None and isinstance(slip.meant, float) and len(asked) == 1:
            choices.insert(0, (f"{key}:{MEANT}", figure(slip.meant, 2, asked[0][1].unit)))
        question = f"{label}: {slip.words}" if slip else f"{label}: two are told, which is it?"
        choices.append((f"{key}:{NEITHER}", "use none"))
        yield Doubt(_line_number(read, asked[0][1].line), question, tuple(choices))
    for slip in read.listing.asks:
        if slip.path not in by_path:
            key, other = f"{read.first}:{slip.path}", slip.path.partition(".")[0].replace("_", " ")
            both = ((f"{key}:{MEANT}", f"note it at the {other}"), (f"{key}:{NEITHER}", "leave it"))
            yield Doubt(read.first, f"“{slip.words}” is of the {other}:", both)


def _line_number(read: PartRead, line: int) -> int:
    return read.listing.numbers[line] if 0 <= line < len(read.listing.numbers) else read.first


def _words(read: PartRead) -> str:
    listing = read.listing
    told = [*listing.looks.values(), listing.drive, *(f"does {name}" for name in listing.functions)]
    told += [f"shows the {name}" for name in listing.windows] + [f"no {name}" for name in listing.without]
    told += [f"sold for {', '.join(listing.suits)}"] if listing.suits else []
    told += [f"calibre {', '.join(listing.calibres)}"] if listing.calibres else []
    return "; ".join([*filter(None, told), *listing.notes])


def lines_of_text(text: str, read: TextRead, tiles: tuple[Tile, ...]) -> tuple[TextLine, ...]:
    """The seller's text line by line, each with whose it is, the words that were read, and what is asked."""
    owner = {number: tile for tile in tiles for number in tile.read.listing.numbers}
    left = {number for number, _ in read.kit.left}
    doubts = [doubt for tile in tiles for doubt in tile.doubts]
    return tuple(
        TextLine(
            number=number,
            pieces=_pieces(line, number, owner.get(number)),
            part=owner[number].number if number in owner else 0,
            is_first=number in owner and owner[number].read.first == number,
            is_left=number in left,
            doubts=tuple(doubt for doubt in doubts if doubt.line == number),
        )
        for number, line in enumerate(text.splitlines())
    )


def _pieces(line: str, number: int, tile: Tile | None) -> tuple[Marked, ...]:
    """The line cut where words that were read begin or end; a very long one was read in pieces."""
    if tile is None:
        return (Marked(line),)
    listing = tile.read.listing
    read, spans, since = listing.text.split("\n"), list[tuple[int, int]](), 0
    for place, owned in enumerate(listing.numbers):
        if owned == number and place < len(read):
            offset = max(line.find(read[place], since), 0)
            since = offset + len(read[place])
            spans += [(p.start + offset, p.end + offset) for p in listing.fields if p.line == place]
    cuts = sorted({0, len(line), *(min(cut, len(line)) for span in spans for cut in span)})
    return tuple(
        Marked(line[start:end], any(first <= start and end <= last for first, last in spans))
        for start, end in pairwise(cuts)
    )


def sides_of(before: Report | None, after: Report, build: Build) -> Sides:
    """The watch before and after, how much is known of each, and a claimed height that the parts belie."""
    told = tuple("" if report is None else _how_known(report) for report in (before, after))
    return Sides(before, after, (told[0], told[1]), _claim(after, build))


def _how_known(report: Report) -> str:
    return f"{counted_words(report.build.dimensions)}; uncertainty {report.standing.doubt:.2f}"


def _claim(after: Report, build: Build) -> str:
    claimed = build.at("case.claimed_height")
    found = after.figures.get("watch_height")
    if not isinstance(claimed, int | float) or found is None or found.value is None:
        return ""
    gap = found.value - float(claimed)
    if abs(gap) <= CLAIM_MM:
        return ""
    computed = f"{figure(found.value)} mm computed from the parts as they are known"
    return f"Height: {figure(claimed)} mm claimed, {computed}."
