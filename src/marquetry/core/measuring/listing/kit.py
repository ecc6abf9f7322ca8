"""Where one part of a seller's text ends and the next begins, and which lines are of no part at all.

Sellers write orders, invoices and letters, not data sheets. A part begins where a line heads with a kind's word, as
listing.md says it; what a builder decides on the page (join, split, another kind, leave out) goes before all of it.
"""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace

from marquetry.core.measuring.listing.aside import is_aside, is_part_of_the_whole, whole_at
from marquetry.core.measuring.listing.kinds import TOOL, Head, head_of, heading_kind
from marquetry.core.measuring.listing.line import ListingLine
from marquetry.core.measuring.listing.places import crown_places
from marquetry.core.measuring.listing.price import asked_of, prices_in

MARKS = re.compile(
    r"^\W*(?:(?:item|pos(?:ition|\.)?|part|teil|no\.?|nr\.?|artikel|article|line)\s*\d{1,3}\s*[:.)-]?\s*|(?P<listed>\d{1,2})(?:[.)]|\s-)\s+|#\d{1,3}\s+)?"
    r"(?:qty\.?:?\s*)?(?:(?P<count>\d{1,3})\s*(?:x\b|×|pcs?\b\.?|pieces?\b|stk\b\.?|stuck\b|st\b\.|pces?\b|off\b)\s*(?:of\s|de\s)?"
    r"|(?P<bare>[1-9]|1\d|20)\s+(?=[a-z])(?!(?:mm|cm|in|inch|m|bar|atm|jewels?|h|hours?|days?|weeks?|months?|years?|clicks?|notches|tone|hands?|parts?|way|o.?clock|windows?|uhr|feet|positions)\b))?\W*"
)
"""What may stand before a line's head: a number, a count."""
COUNT_BEFORE = re.compile(
    r"^\W*(?:(?:[a-z ]{2,30}:\s*)|\[[^\]]{0,20}\]\s*)?(?P<count>\d{1,3})\s*(?:x\b|×)\s*(?=[a-z])"
)
GOES_ON = re.compile(r"\s*(?:[:|\t,.(–=]|-(?![a-z])|\s-|\d|[ø⌀]|$)")
FIGURE = re.compile(r"\d\s*(?:mm|cm|in\b|\"|″)|\d\s*[x×/]\s*\d|\d[.,]\d")
VERB = re.compile(r"\s*(?:is|are|has|have|takes|fits|comes|was|were|can|ist|sind|hat|passt|est|sont|a)\b")
NOT_OF = frozenset({"case", "movement"})
"""Parts whose own lists name other parts' quantities: a case's crystal size, a movement's dial diameter."""
JOIN, LEAVE = "+", "-"
"""What a builder says of a line instead of a kind: it goes on with the part before; from here on it is no part."""


@dataclass(slots=True)
class PartText:
    """The lines that tell of one part; `kind` is None where nothing names it, `is_said` where a builder told it."""

    kind: str | None
    lines: list[ListingLine] = field(default_factory=list)
    is_said: bool = False


@dataclass(slots=True)
class Kit:
    """A text in pieces. `left`: lines of no part, such as tools; `aside`: of the order itself, such as postage."""

    pieces: list[PartText] = field(default_factory=list)
    left: list[ListingLine] = field(default_factory=list)
    aside: list[ListingLine] = field(default_factory=list)


@dataclass(slots=True)
class _Splitting:
    """The text as far as it was gone through: the piece being read, and whether its price was read already."""

    kit: Kit = field(default_factory=Kit)
    before: list[ListingLine] = field(default_factory=list)
    """Lines before the first head: a title, or a part that nothing names."""
    piece: PartText | None = None
    has_price: bool = False
    ended: bool = False
    """Whether a tool, or a builder's word, ended the last part: what follows is nobody's until the next head."""

    def begin(self, kind: str | None, line: ListingLine, *, is_said: bool = False) -> None:
        self.piece = PartText(kind, [line], is_said)
        self.kit.pieces.append(self.piece)
        self.ended, self.has_price = False, bool(asked_of(line, of_kit=True))

    def leave(self, line: ListingLine) -> None:
        self.kit.left.append(line)
        self.piece, self.ended = None, True

    def go_on(self, line: ListingLine) -> None:
        if self.ended:
            self.kit.left.append(line)
        elif self.piece is None:
            self.before.append(line)
        else:
            self.piece.lines.append(line)
            self.has_price = self.has_price or bool(asked_of(line, of_kit=True))


def split(lines: Iterable[ListingLine], decided: Mapping[int, str] | None = None) -> Kit:
    """The text in pieces, a piece a part.

    `decided` is what a builder says of lines, by their number: a kind that begins there, `JOIN`, or `LEAVE`.
    """
    state, told = _Splitting(), dict(decided or {})
    for line in _counted(lines):
        says = told.pop(line.number, None)
        if says == LEAVE:
            state.leave(line)
        elif says == JOIN:
            state.ended = state.ended and state.piece is None
            state.go_on(line)
        elif says is not None:
            state.begin(says, line, is_said=True)
        else:
            _read_on(state, line)
    _place_what_stood_before(state)
    return state.kit


COUNT_ALONE = re.compile(
    r"^\W*(?:(?:qty|quantity|menge|anzahl|quantite|qte)\.?\s*[:=]?\s*(?P<count>\d{1,3})|(?P<times>\d{1,3})\s*[x×])\s*(?:pcs|pieces|x)?\W*$"
)


def _counted(lines: Iterable[ListingLine]) -> Iterator[ListingLine]:
    """The lines, with a count that opens a paragraph on a line of its own beside the line that it counts."""
    count = None
    for line in lines:
        alone = COUNT_ALONE.match(line.plain) if line.opens else None
        if alone:
            count = int(alone["count"] or alone["times"])
            continue
        yield line if count is None else replace(line, opens=True, count=count)
        count = None


def _read_on(state: _Splitting, line: ListingLine) -> None:
    if line.is_heading_row or is_aside(line) or _is_whole(line):
        state.kit.aside.append(line)
        return
    if _is_crowns_place(line):
        _to_the_case(state, line)
        return
    head = head_of(line.plain)
    if head is not None and _begins(state, line, head):
        if head.kind == TOOL:
            state.leave(line)
        else:
            state.begin(head.kind, line)
        return
    state.go_on(line)


def _is_whole(line: ListingLine) -> bool:
    """Whether the line only sums up the order."""
    return bool(prices_in(line.plain)) and (whole_at(line) is not None or is_part_of_the_whole(line))


def _is_crowns_place(line: ListingLine) -> bool:
    """Whether the line tells where the crown stands and nothing else of a crown: that is the case's."""
    head = head_of(line.plain)
    if (
        head is None
        or head.kind != "crown"
        or prices_in(line.plain)
        or FIGURE.search(_without_places(line.plain))
    ):
        return False
    return bool(_places(line.plain))


def _places(plain: str) -> list[tuple[int, int]]:
    return [(place.start, place.end) for place in crown_places(plain)]


def _without_places(plain: str) -> str:
    for start, end in _places(plain):
        plain = plain[:start] + " " * (end - start) + plain[end:]
    return plain


def _to_the_case(state: _Splitting, line: ListingLine) -> None:
    cases = [piece for piece in state.kit.pieces if piece.kind == "case"]
    if cases and cases[-1] is not state.piece:
        cases[-1].lines.append(line)
    else:
        state.go_on(line)


def _begins(state: _Splitting, line: ListingLine, head: Head) -> bool:
    """Whether the line begins a part."""
    if heading_kind(line):
        return True
    piece = state.piece
    if line.is_row or _count_of(line):
        return not head.is_label or line.is_row
    is_same = piece is not None and piece.kind == head.kind
    if head.is_label and (is_same or (piece is not None and piece.kind in NOT_OF)):
        return False
    marks = MARKS.match(line.plain)
    at_start = marks is not None and marks.end() >= head.start
    if is_same and not state.has_price:
        return _names_another(line, head, at_start=at_start)
    priced = bool(asked_of(line, of_kit=True))
    return priced or (line.opens and not is_same) or (at_start and _goes_on(line, head))


def _names_another(line: ListingLine, head: Head, *, at_start: bool) -> bool:
    """Whether a line on the same kind, before any price, is of another piece: a list's next, or a new paragraph's label."""
    marks = MARKS.match(line.plain)
    if marks is not None and marks["listed"] and at_start:
        return True
    labelled = re.match(r"\s*(?:[:|\t]|-\s|\s-)\s*(?=\S)", line.plain[head.end :])
    return line.opens and at_start and not head.is_label and bool(labelled)


def _goes_on(line: ListingLine, head: Head) -> bool:
    """Whether behind its head a line goes on as one that begins a part: with a sign, a figure or a name."""
    rest = line.text[head.end :].lstrip()
    if GOES_ON.match(line.plain, head.end) or rest[:1].isupper() or rest[:1] in {"„", "“", "«", '"', "'"}:
        return True
    return FIGURE.search(line.plain, head.end) is not None and VERB.match(line.plain, head.end) is None


def _count_of(line: ListingLine) -> int | None:
    """The count that a line begins with."""
    marks = MARKS.match(line.plain)
    if marks is not None and (marks["count"] or marks["bare"]):
        return int(marks["count"] or marks["bare"])
    found = COUNT_BEFORE.match(line.plain)
    return int(found["count"]) if found else line.count


def _place_what_stood_before(state: _Splitting) -> None:
    """What stands before the first head: with one part it is that part's, with several a part of its own or a title."""
    kit, before = state.kit, state.before
    if not before:
        return
    if not kit.pieces:
        kit.pieces.append(PartText(None, before))
    elif len(kit.pieces) == 1 and not kit.pieces[0].is_said:
        kit.pieces[0].lines[:0] = before
    elif any(FIGURE.search(line.plain) for line in before):
        kit.pieces.insert(0, PartText(None, before))
    else:
        kit.aside[:0] = before


OF_LINE = re.compile(
    r"\bqty\.?\s*[:=]?\s*(?P<a>\d{1,3})\b|\bquantity\s*[:=]?\s*(?P<b>\d{1,3})\b|\b(?:menge|anzahl|quantite)\s*[:=]?\s*(?P<c>\d{1,3})\b"
    r"|(?<![\w.,/])(?P<d>\d{1,3})\s*(?:pcs?|pieces?|stk|stuck|pces?)\b|(?<![\d.,])(?<!\d )(?<!mm )(?<![a-z])[x×]\s?(?P<e>\d{1,3})\b(?!\s*(?:mm|[x×/]|[.,]?\d))|\((?P<f>\d{1,2})\s*[x×]\)"
)
OF_A_SET = re.compile(r"\b(?:set|pack|lot|satz|packung)s? (?:of|von|de)\b")
MOST_PIECES_OF_HANDS = 5


def count_of(piece: PartText) -> int:
    """How many pieces of the part are asked or sold at its price; 1 where that is not told.

    A hand set's “3 pcs” are the hands of one set, and a pack has one price.
    """
    first = piece.lines[0]
    counted = first.count or _count_of(first)
    if counted:
        return counted
    for line in piece.lines:
        if is_aside(line) or OF_A_SET.search(line.plain):
            continue
        for found in OF_LINE.finditer(line.plain):
            told = int(next(value for value in found.groups() if value))
            is_hands = piece.kind == "hands" and found["d"] and told <= MOST_PIECES_OF_HANDS
            if told and not is_hands:
                return told
    return 1


def counts_at(plain: str) -> list[tuple[int, int]]:
    """Where in the line counts of pieces stand."""
    return [found.span() for found in OF_LINE.finditer(plain)]
