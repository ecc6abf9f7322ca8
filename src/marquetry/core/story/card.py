"""A watch on one card: what it is, each figure measured where it was, and said how it is known.

Every row is described once, with what makes it of the watch; the card's picture, page, paper and plain text
all read these rows. What is only assumed is left out: a card promises.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.bench.situation import Situation
from marquetry.core.face.dress import Dress
from marquetry.core.fit.levels import watch_height
from marquetry.core.fit.trace import Trace
from marquetry.core.proving.asked import round_of
from marquetry.core.proving.ready import Readiness
from marquetry.core.proving.water_claim import WaterClaim
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import told_function
from marquetry.core.values.dimension import Source
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

CardSource = Literal["measured", "computed", "listed", "tested", "told"]
SOURCE_WORDS: dict[CardSource, str] = {
    "measured": "measured",
    "computed": "from what was measured",
    "listed": "as listed by its seller",
    "tested": "tested",
    "told": "",
}


@dataclass(frozen=True, slots=True)
class CardRow:
    """One row: what it is called, what it says, and how that is known."""

    key: str
    label: str
    value: str
    source: CardSource = "told"


@dataclass(frozen=True)
class CardWatch:
    """All that a card is made of: the watch with its report and proofs, what the workshop says of it.

    `day` and `tested_on` are days as they are told; `number` is that of a series of `count`.
    """

    situation: Situation
    ready: Readiness
    claim: WaterClaim | None
    tested_on: str
    number: int
    count: int
    day: str
    beside: Sequence[str] = ()

    @property
    def build(self) -> Build:
        """The watch."""
        return self.situation.build


RowSaid = tuple[str, CardSource] | None


def _known(build: Build, paths: Iterable[str]) -> CardSource | None:
    """How a figure is known that these dimensions make: by the weakest of them; None where one is a guess."""
    every = list(paths)
    sources = {build.dimensions[path].source for path in every if path in build.dimensions}
    if not sources or Source.ASSUMED in sources:
        return None
    if Source.LISTED in sources:
        return "listed"
    return "measured" if len(every) == 1 else "computed"


def _length(path: str, sign: str = "", decimals: int = 1) -> Callable[[CardWatch], RowSaid]:
    def said(card: CardWatch) -> RowSaid:
        dimension, source = card.build.dimensions.get(path), _known(card.build, [path])
        if dimension is None or source is None:
            return None
        return f"{sign}{figure(dimension.value, decimals, 'mm')}", source

    return said


def _height(card: CardWatch) -> RowSaid:
    trace = Trace(card.build, card.situation.rules)
    number = watch_height(trace) if card.situation.has("case", "crystal", "case_back") else None
    source = _known(card.build, trace.uses.dimensions())
    if number is None or trace.missing or trace.absent or source is None:
        return None
    return figure(float(nominal(number)), 1, "mm"), source


def _word(path: str) -> Callable[[CardWatch], RowSaid]:
    def said(card: CardWatch) -> RowSaid:
        word = _said_word(card, path)
        return (word, "told") if word else None

    return said


def _said_word(card: CardWatch, path: str) -> str:
    """The word at the path where somebody said it: what a family brought is nothing to hand out."""
    return card.situation.word(path) if card.build.is_said(path) else ""


def _functions(card: CardWatch) -> RowSaid:
    names = card.situation.names("movement.functions") if card.build.is_said("movement.functions") else ()
    return (", ".join(map(told_function, names)), "told") if names else None


def _crystal(card: CardWatch) -> RowSaid:
    material = _said_word(card, "crystal.material")
    if not material:
        return None
    dome = card.build.dimensions.get("crystal.inner_dome")
    is_told = dome is not None and dome.source.is_known
    shape = "" if dome is None or not is_told else ", domed" if dome.value > 0 else ", flat inside"
    coating = Dress(card.build).word("crystal", "coating", "none")
    coat = "" if coating == "none" else f", {coating} coating"
    return f"{material}{shape}{coat}", "told"


def _lume(card: CardWatch) -> RowSaid:
    glows: dict[str, list[str]] = {}
    for short, lume in Dress(card.build).glowing().items():
        glows.setdefault(lume.glow, []).append(short)
    told = [f"{glow}-glowing on {' and '.join(parts)}" for glow, parts in glows.items()]
    return ("; ".join(told), "told") if told else None


def _strap(card: CardWatch) -> RowSaid:
    name = card.situation.word("strap.name")
    beside = ", ".join(card.beside)
    said = f"{name}; beside it {beside}" if name and beside else name or beside
    return (said, "told") if said else None


def _water(card: CardWatch) -> RowSaid:
    if card.claim is None:
        return None
    deep = figure(card.claim.metres, 0, "m")
    return f"dry at {figure(card.claim.bar, 1, 'bar')} (as {deep}), {card.tested_on}", "tested"


def _rate(card: CardWatch) -> RowSaid:
    found = round_of(card.ready)
    if found is None:
        return None
    mean = figure(found.mean, 1, "s/d", signed=True)
    return f"{mean}, spread {figure(found.spread, 1, 's/d')}", "measured"


def _number(card: CardWatch) -> RowSaid:
    return (f"{card.number} of {card.count}", "told") if card.count > 1 else None


def _day(card: CardWatch) -> RowSaid:
    return (card.day, "told") if card.day else None


ROWS: Sequence[tuple[str, str, Callable[[CardWatch], RowSaid]]] = (
    ("diameter", "Across", _length("case.diameter", "Ø ")),
    ("height", "Height", _height),
    ("span", "Lug to lug", _length("case.lug_to_lug")),
    ("lugs", "Lug width", _length("case.lug_width")),
    ("movement", "Movement", _word("movement.name")),
    ("functions", "Functions", _functions),
    ("crystal", "Crystal", _crystal),
    ("lume", "Lume", _lume),
    ("strap", "Strap", _strap),
    ("water", "Water", _water),
    ("rate", "Rate", _rate),
    ("number", "Number", _number),
    ("day", "Finished", _day),
)
"""Every row of a card, in the order in which a reader wants it."""
ROW_LABELS: Mapping[str, str] = {key: label for key, label, _ in ROWS}


def card_rows(card: CardWatch, left_out: Iterable[str] = ()) -> list[CardRow]:
    """The rows that have something to say, without those that are left out."""
    hidden = set(left_out)
    found = []
    for key, label, of in ROWS:
        said = of(card) if key not in hidden else None
        if said is not None:
            found.append(CardRow(key, label, *said))
    return found


def card_text(name: str, line: str, maker: str, rows: Iterable[CardRow]) -> str:
    """The card as plain text, to be pasted into an offer: a row a line, how it is known behind it."""
    lines = [name, *([line] if line else []), ""]
    for row in rows:
        known = SOURCE_WORDS[row.source]
        tail = f" ({known})" if known and row.source != "tested" else ""
        lines.append(f"{row.label}: {'tested ' if row.source == 'tested' else ''}{row.value}{tail}")
    if maker:
        lines += ["", maker]
    return "\n".join(lines).replace("\u00a0", " ") + "\n"
