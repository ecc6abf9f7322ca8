"""The measuring card of one dimension: how it is measured, and what readings or a worksheet make of it.

Everything typed stands in the address, so that a half-filled card can be left and opened again; the server
computes, the page shows.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.core.fit.rules import Rules
from marquetry.core.measuring.instrument import Instrument
from marquetry.core.measuring.repeated import Repeated, repeated
from marquetry.core.measuring.thread import ThreadMatch, thread_matches
from marquetry.core.measuring.worksheet import Computed, Worksheet
from marquetry.core.measuring.worksheets import worksheets_for
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.entry import parse_figure, parse_figures
from marquetry.core.values.errors import DimensionError
from marquetry.drawing.dimension_drawing import dimension_drawing
from marquetry.drawing.scene import Scene
from marquetry.store.house import OwnedInstrument
from marquetry.store.photos import Photo
from marquetry.store.readings import Owner, Reading
from marquetry.web.measuring.picture import MARKS, Picture, picture_of
from marquetry.web.site.sent import Sent, first


@dataclass(frozen=True, slots=True)
class Subject:
    """Whose dimension it is.

    `asked` is how the address names it, `path` how the owner's readings do, `below` the same below its part.
    """

    owner: Owner
    part: Part
    asked: str
    path: str
    below: str
    version: int
    action: str
    back: str
    owner_name: str
    suits: str = ""
    """What it goes by where it is only assumed."""

    @property
    def entry_path(self) -> str:
        """The path by which the part alone is read."""
        return f"{self.part.kind.prefix}.{self.below}"

    @property
    def quantity(self) -> Quantity | None:
        """The dimension's description; None for a thread, which is told in words."""
        last = self.part.kind.anatomy.entry_at(self.entry_path)[-1]
        return last if isinstance(last, Quantity) else None


@dataclass(frozen=True, slots=True)
class Direct:
    """Readings of the dimension itself, as typed, and what they say."""

    typed: tuple[str, ...] = ()
    found: Repeated | None = None
    error: str = ""

    @property
    def fields(self) -> list[tuple[int, str, bool]]:
        """Each reading's number, what was typed, and whether it lies far from the others."""
        odd = self.found.outliers if self.found else ()
        return [(number + 1, text, number in odd) for number, text in enumerate(self.typed)]

    @property
    def odd(self) -> list[int]:
        """The numbers of the readings that lie far from the others, counted from one."""
        return [number for number, _, is_odd in self.fields if is_odd]

    @property
    def next_number(self) -> int:
        """The number of the reading that comes next."""
        return len(self.typed) + 1


@dataclass(frozen=True, slots=True)
class Filled:
    """A worksheet as it is filled; `asked` holds key, label, how, what was typed and its mean's figure."""

    worksheet: Worksheet
    typed: Mapping[str, str]
    computed: Mapping[str, Computed] = field(default_factory=dict)
    error: str = ""

    @property
    def next_key(self) -> str:
        """The first reading that is not there yet; nothing where all are."""
        return next((asked.key for asked in self.worksheet.asks if not self.typed[asked.key]), "")

    @property
    def shares(self) -> dict[str, int]:
        """Each reading's share of the first result's doubt, in whole percent."""
        first = next(iter(self.computed.values()), None)
        return {} if first is None else {key: round(100 * share) for key, share in first.shares.items()}


@dataclass(frozen=True, slots=True)
class ThreadTable:
    """Which thread it may be."""

    typed: Mapping[str, str]
    found: tuple[ThreadMatch, ...] = ()
    error: str = ""


@dataclass(frozen=True, slots=True)
class CardPage:
    """All that the card shows."""

    subject: Subject
    label: str
    drawing: Scene | None
    known: Dimension | None
    instruments: list[OwnedInstrument]
    chosen: OwnedInstrument | None
    direct: Direct
    sheets: tuple[Filled, ...]
    open_sheet: str
    photos: list[Photo]
    picture: Picture | None
    thread: ThreadTable | None
    history: list[Reading]
    marks: tuple[str, ...] = MARKS

    @property
    def can_be_pictured(self) -> bool:
        """Whether a photograph can show the dimension, and there is one."""
        return is_place(self.subject) and bool(self.photos)


def card_page(  # noqa: PLR0913, PLR0917  # each is read from another place
    subject: Subject,
    sent: Sent,
    instruments: list[OwnedInstrument],
    photos: list[Photo],
    history: list[Reading],
    rules: Rules,
) -> CardPage:
    """Compute the card from what was typed."""
    chosen = chosen_instrument(subject, sent, instruments)
    quantity = subject.quantity
    tool = chosen.instrument if chosen else None
    sheets = worksheets_for(subject.entry_path) if quantity else ()
    return CardPage(
        subject,
        subject.part.kind.anatomy.label_of(subject.entry_path),
        dimension_drawing(subject.part, subject.below, rules) if quantity else None,
        subject.part.dimensions.get(subject.below),
        instruments,
        chosen,
        direct_of(quantity, sent, tool) if quantity else Direct(),
        tuple(fill(sheet, sent, tool) for sheet in sheets),
        first(sent, "sheet") or _unfolded(quantity, sheets),
        photos,
        picture_of(sent, photos) if is_place(subject) else None,
        None if quantity else thread_of(sent, tool),
        history,
    )


def _unfolded(quantity: Quantity | None, sheets: tuple[Worksheet, ...]) -> str:
    """The worksheet that is the only way to the dimension: it stands open at once."""
    return sheets[0].key if quantity is not None and quantity.way == "worksheet" and sheets else ""


def is_place(subject: Subject) -> bool:
    """Whether the dimension is one of a place about the centre, which a picture can show."""
    quantity = subject.quantity
    return quantity is not None and quantity.is_place and "." in subject.below


def chosen_instrument(
    subject: Subject, sent: Sent, instruments: list[OwnedInstrument]
) -> OwnedInstrument | None:
    """The instrument named, else the finest that reaches the dimension, else the first."""
    named = first(sent, "instrument")
    by_name = next((owned for owned in instruments if str(owned.id) == named), None)
    way = subject.quantity.way if subject.quantity else "outside"
    able = (owned for owned in instruments if way in owned.instrument.ways)
    return by_name or next(able, next(iter(instruments), None))


def direct_of(quantity: Quantity, sent: Sent, tool: Instrument | None) -> Direct:
    """Mean, spread and doubt of the readings typed."""
    typed = tuple(text.strip() for text in [*sent.get("reading", ()), *sent.get("next", ())] if text.strip())
    if not typed or tool is None:
        return Direct(typed)
    try:
        values = [value for text in typed for value in parse_figures("reading", text, quantity.unit)]
        for value in values:
            quantity.refuse_impossible("reading", value)
        return Direct(typed, repeated(values, tool, quantity.unit))
    except DimensionError as error:
        return Direct(typed, error=str(error))


def fill(sheet: Worksheet, sent: Sent, tool: Instrument | None) -> Filled:
    """A worksheet with what was typed into it; computed once every reading is there."""
    if first(sent, "sheet") != sheet.key:
        return Filled(sheet, {asked.key: "" for asked in sheet.asks})
    typed = {asked.key: first(sent, f"in-{asked.key}") for asked in sheet.asks}
    if tool is None or not all(typed.values()):
        return Filled(sheet, typed)
    try:
        readings = {
            asked.key: repeated(parse_figures(asked.label, typed[asked.key], asked.unit), tool, asked.unit)
            for asked in sheet.asks
        }
        dimensions = {key: found.dimension() for key, found in readings.items()}
        return Filled(sheet, typed, sheet.compute(dimensions))
    except DimensionError as error:
        return Filled(sheet, typed, error=str(error))


def thread_of(sent: Sent, tool: Instrument | None) -> ThreadTable:
    """Threads that match the outside diameter and the length over some pitches."""
    typed = {key: first(sent, key) for key in ("outside", "over", "pitches")}
    if tool is None or not all(typed.values()):
        return ThreadTable(typed)
    try:
        outside, over = (
            Dimension.of(parse_figure(key, typed[key], "mm"), tool.uncertainty) for key in ("outside", "over")
        )
        return ThreadTable(typed, thread_matches(outside, over, _pitches(typed["pitches"]))[:6])
    except DimensionError as error:
        return ThreadTable(typed, error=str(error))


def _pitches(text: str) -> int:
    number = parse_figure("pitches", text, "mm")
    if number < 1 or number != int(number):
        raise DimensionError("pitches", text, "", "a whole number of pitches")
    return int(number)
