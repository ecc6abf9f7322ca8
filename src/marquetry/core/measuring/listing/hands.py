"""A hand set's listing: lengths and bores, told hand by hand or three in a row."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.lengths import ANY_ROW, Length, Lengths, lengths_in
from marquetry.core.measuring.listing.line import ListingLine, Segment
from marquetry.core.measuring.listing.posts import in_hundredths
from marquetry.core.measuring.listing.result import Proposed, Sure
from marquetry.core.measuring.listing.traps import is_trap

HANDS = (
    ("h24", r"\b24 ?h(?:ou)?rs?(?: hands?)?\b|\b24 ?h(?: hands?)?\b|\bgmt(?: hands?)?\b|\bfourth hand\b|\b24 ?h zeiger\b|\b24 stunden ?zeiger\b|\baiguille 24 ?h\b"),
    ("hour", r"\bhours?(?: hands?)?\b|\bstunden?(?:zeiger)?\b|\b(?:aiguille des )?heures?\b|\bhh\b|(?<![/\w])h\b(?=\s*[:=]?\s*\d+[.,]\d)"),
    ("minute", r"\bmin(?:ute)?s?(?: hands?)?\b|\bminuten?(?:zeiger)?\b|\b(?:aiguille des )?minutes?\b|\bmh\b|(?<![/\w])m\b(?=\s*[:=]?\s*\d+[.,]\d)"),
    ("seconds", r"\bsec(?:ond)?s?(?: hands?)?\b|\bsekunden?(?:zeiger)?\b|\b(?:aiguille des )?secondes?\b|\btrotteuse\b|\bsweep\b|\bsh\b|(?<![/\w])s\b(?=\s*[:=]?\s*\d+[.,]\d)"),
)  # fmt: skip
QUANTITIES = (
    ("bore", r"\b(?:hole|bore|fit|tube|pipe|mounting|hub)s?(?: (?:sizes?|diameters?|[ø⌀]))?\b|\bfitting\b|\bloch(?:gros+e|durchmesser)?\b|\blocher\b|\bbohrung(?:en)?\b|\btrous?\b|\bcanons?\b|\balesages?\b|\bpercages?\b|\blochung(?:en)?\b"),
    ("length", r"\blengths?\b|\blong\b|\blange[n]?\b|\blang\b|\blongueurs?\b"),
)  # fmt: skip
OTHER = r"\bwidths?\b|\bthick(?:ness)?\b|\bweight\b|\bdials?\b|\bcases?\b|\bmovements?\b|\bbreite\b|\blargeur\b|\btail\b|\bheight\b"
ORDER = ("hour", "minute", "seconds", "h24")
LONGEST_BORE_MM, SHORTEST_MM = 2.6, 3.0
WORDS = tuple(
    (what, key, re.compile(pattern))
    for what, table in (("hand", HANDS), ("quantity", QUANTITIES), ("other", (("", OTHER),)))
    for key, pattern in table
)


@dataclass(frozen=True, slots=True)
class HandWord:
    """A word that names a hand or a quantity, where it stands."""

    what: str
    key: str
    start: int
    end: int


@dataclass(slots=True)
class HandLines:
    """The lines of a hand set, read in their order: a line that names a hand alone speaks of the next ones."""

    hand: str = ""
    quantity: str = ""
    columns: tuple[str, ...] = ()
    """The quantities that a table's head names, in their order."""

    def fields_of(self, line: ListingLine, number: int) -> Iterator[Proposed]:
        """Every bore and length that the line tells."""
        words = _words_of(line.plain)
        figures = [
            f for f in lengths_in(_without_names(line.plain, words), rows=ANY_ROW, strokes=_hands_named(words) != 1)
            if not (f.is_thousands or is_trap(line.plain, f.start, f.end, has_unit=f.has_unit))
        ]  # fmt: skip
        if not figures:
            self._carry(line, words)
            return
        if self.columns and (in_columns := self._in_columns(line, number, figures, words)):
            yield from in_columns
            return
        for figure in figures:
            if len(figure.values) >= len(ORDER) - 1 or (
                figure.slashed and not _nearest(words, "other", line, figure)
            ):
                yield from _in_a_row(line, number, figure, words)
            elif len(figure.values) > 1:
                yield from self._length_and_bore(line, number, figure, words)
            else:
                yield from self._one(line, number, figure, words, figures)

    def _carry(self, line: ListingLine, words: list[HandWord]) -> None:
        hands = [word for word in words if word.what == "hand"]
        short = len(line.plain.split()) <= 6  # noqa: PLR2004  # a heading, not a sentence
        self.hand = hands[0].key if len(hands) == 1 and short else ""
        quantities = [word for word in words if word.what == "quantity"]
        self.quantity = quantities[0].key if quantities and short else ""
        headed = tuple(word.key for word in words if word.what in {"quantity", "other"})
        self.columns = headed if len(quantities) > 1 else self.columns if not headed else ()

    def _in_columns(
        self, line: ListingLine, number: int, figures: list[Lengths], words: list[HandWord]
    ) -> list[Proposed]:
        """A table's row: one hand, and a figure to each column."""
        hands = [word for word in words if word.what == "hand"]
        told = [(length, figure) for figure in figures for length in figure.values]
        if len(hands) != 1 or len(told) != len(self.columns) or len(words) > 1:
            return []
        return [
            _proposed((line, number), f"{hands[0].key}.{key}", length, (figure, hands), "said")
            for key, (length, figure) in zip(self.columns, told, strict=True)
            if key
        ]

    def _length_and_bore(
        self, line: ListingLine, number: int, figure: Lengths, words: list[HandWord]
    ) -> Iterator[Proposed]:
        """One hand's two sizes with a times sign; which is which, their size says."""
        hand = _nearest(words, "hand", line, figure)
        hand_key = hand.key if hand else self.hand
        keys = [_by_size(length, has_unit=True) for length in figure.values]
        if hand_key and sorted(keys) == ["bore", "length"]:
            near = [hand] if hand else []
            for key, length in zip(keys, figure.values, strict=True):
                yield _proposed((line, number), f"{hand_key}.{key}", length, (figure, near), "likely")

    def _one(
        self, line: ListingLine, number: int, figure: Lengths, words: list[HandWord], figures: list[Lengths]
    ) -> Iterator[Proposed]:
        hand = _nearest(words, "hand", line, figure)
        quantity = _nearest(words, "quantity", line, figure)
        if quantity and _is_of_another(quantity, figure, figures):
            quantity = None
        other = _nearest(words, "other", line, figure)
        if other and not quantity and not _stands_nearer(other, figure, figures):
            return
        hand_key = hand.key if hand else self.hand
        length = figure.values[0]
        key = quantity.key if quantity else self.quantity
        if key == "bore" and not (figure.has_unit or length.digits):
            return  # a movement's number, as in “fits Tern 28”
        sure: Sure = "said" if key else "likely"
        shared = hand is not None and figures[-1].has_unit and _is_beside(line, hand, figure)
        key = key or _by_size(length, has_unit=figure.has_unit or shared)
        if hand_key and key:
            near = [word for word in (hand, quantity) if word is not None]
            yield _proposed((line, number), f"{hand_key}.{key}", length, (figure, near), sure)


def _is_of_another(quantity: HandWord, figure: Lengths, figures: list[Lengths]) -> bool:
    """Whether a quantity is told of a figure that stands nearer, and this one's size speaks against it."""
    other_size = {"bore": "length", "length": "bore"}.get(quantity.key)
    return (
        _stands_nearer(quantity, figure, figures) and _by_size(figure.values[0], has_unit=True) == other_size
    )


def _is_beside(line: ListingLine, hand: HandWord, figure: Lengths) -> bool:
    """Whether the figure stands right behind the hand's name, as in “hour 8, minute 12 mm” with one unit for all."""
    return re.fullmatch(r"[\s:=]*", line.plain[hand.end : figure.start]) is not None


def _stands_nearer(word: HandWord, figure: Lengths, figures: list[Lengths]) -> bool:
    """Whether another figure stands between the word and the figure."""
    first, last = min(figure.end, word.end), max(figure.start, word.start)
    return any(first <= other.start < last for other in figures if other is not figure)


def _hands_named(words: list[HandWord]) -> int:
    return sum(word.what == "hand" for word in words)


def _words_of(plain: str) -> list[HandWord]:
    found = [
        HandWord(what, key, match.start(), match.end())
        for what, key, pattern in WORDS
        for match in pattern.finditer(plain)
        if what != "hand" or not is_denied(plain, match.start())
    ]
    found.sort(key=lambda word: (word.start, -(word.end - word.start)))
    kept: list[HandWord] = []
    for word in found:
        if not kept or word.start >= kept[-1].end:
            kept.append(word)
    return kept


def _without_names(plain: str, words: list[HandWord]) -> str:
    """The line with the names of hands, which may hold a 24, blanked out."""
    for word in words:
        if word.what == "hand":
            plain = plain[: word.start] + "~" * (word.end - word.start) + plain[word.end :]
    return plain.replace("~", "_")


def _statements(line: ListingLine) -> list[Segment]:
    """The statements of the line; what stands in brackets is one of its own."""
    cuts = [place for place, letter in enumerate(line.plain) if letter == "("]
    found: list[Segment] = []
    for segment in line.segments():
        inside = [
            cut
            for cut in cuts
            if segment.start < cut < segment.end and line.plain[cut + 1 : cut + 2].isalpha()
        ]
        ends = [segment.start, *inside, segment.end]
        found += [Segment(start, end) for start, end in pairwise(ends)]
    return found


def _nearest(words: list[HandWord], what: str, line: ListingLine, figure: Lengths) -> HandWord | None:
    """The word of that sort the figure belongs to: in its own statement before it, then behind it, then before."""
    segment = next(s for s in _statements(line) if s.start <= figure.start < s.end)
    named = [word for word in words if word.what == what]
    bracketed = next((word for word in named if _is_bracketed(line.plain, figure, word)), None)
    if bracketed:
        return bracketed
    own = [word for word in named if segment.start <= word.start < segment.end]
    first_word = min((word.start for word in words if segment.start <= word.start < segment.end), default=-1)
    before = [word for word in own if word.end <= figure.start]
    behind = [word for word in own if word.start >= figure.end]
    if first_word > figure.start and behind:
        return behind[0]
    if before:
        return before[-1]
    if behind:
        return behind[0]
    earlier = [word for word in named if word.end <= segment.start]
    # A quantity told once at the head of a line holds for all that follows; so does a hand before its figures.
    return earlier[-1] if earlier and what != "other" else None


def _is_bracketed(plain: str, figure: Lengths, word: HandWord) -> bool:
    """Whether the word stands right behind the figure in brackets of its own, as in “12.5 mm (length)”."""
    opened = re.fullmatch(r"\s*\(\s*", plain[figure.end : max(figure.end, word.start)])
    return bool(opened and re.match(r"[a-z ]*\)", plain[word.end :]))


def _in_a_row(line: ListingLine, number: int, figure: Lengths, words: list[HandWord]) -> Iterator[Proposed]:
    quantity = _nearest(words, "quantity", line, figure)
    if quantity and any(quantity.end <= other.start < figure.start for other in lengths_in(line.plain)):
        quantity = None  # said of the figures between
    sure: Sure = "said" if quantity else "likely"
    key = quantity.key if quantity else _by_size(figure.values[0], has_unit=True)
    named = [w.key for w in words if w.what == "hand" and w.end <= figure.start]
    figure = in_hundredths(figure) if key == "length" or not key else figure
    key = "bore" if figure.values[0].unit == "mm/100" else key
    order = tuple(named) if len(named) == len(figure.values) else _usual_order(key, figure)
    near = [quantity] if quantity else []
    for hand, length in zip(order, figure.values, strict=False):
        if key:
            yield _proposed((line, number), f"{hand}.{key}", length, (figure, near), sure)


def _usual_order(key: str, figure: Lengths) -> tuple[str, ...]:
    """Hour, minute, seconds and then the fourth; bores that only fall go from the outermost post inwards."""
    sizes = [length.value for length in figure.values]
    falling = len(sizes) == len(ORDER) and sizes == sorted(sizes, reverse=True)
    return ("h24", *ORDER[:-1]) if key == "bore" and falling else ORDER


def _by_size(length: Length, *, has_unit: bool) -> str:
    """What a figure of a hand is by its size alone."""
    if length.value >= SHORTEST_MM and has_unit:
        return "length"
    return "bore" if length.value <= LONGEST_BORE_MM and length.digits else ""


def _proposed(
    at: tuple[ListingLine, int], path: str, length: Length, near: tuple[Lengths, list[HandWord]], sure: Sure
) -> Proposed:
    (line, number), (figure, words) = at, near
    start = min([figure.start, *(word.start for word in words)])
    end = max([figure.end, *(word.end for word in words)])
    told = line.words(start, end)
    return Proposed(path, length.value, length.tol, "mm", told, sure, number, start, end, length.about)
