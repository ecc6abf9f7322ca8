"""Parts as rows of fields, straight from their description in `core/sheet/parts.py`."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.evidence.follow import suits_told
from marquetry.core.face.dress import colour_of
from marquetry.core.making.parts import made_name
from marquetry.core.measuring.listing.taken import text_kept, words_behind
from marquetry.core.sheet.anatomy import is_number
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import PART_LINK, Part
from marquetry.core.sheet.schema import (
    Choice,
    Count,
    Flag,
    Group,
    Many,
    Names,
    PlainSize,
    Quantity,
    Text,
    Tint,
)
from marquetry.core.sheet.second_thought import second_thoughts
from marquetry.core.values.dimension import Dimension, Unit
from marquetry.core.values.figures import MINUS, entered, figure
from marquetry.web.watch.way import counted_words


@dataclass(frozen=True, slots=True)
class Rejected:
    """An entry that was refused, to be shown again with the reason beside it."""

    path: str
    place: str
    value: str
    tol: str
    source: str
    reason: str


@dataclass(frozen=True, slots=True)
class Row:
    """One entry with its fields; `place` tells apart the same entry shown twice on a page."""

    path: str
    place: str
    label: str
    kind: str
    value: str = ""
    tol: str = ""
    spread: str = ""
    """Half width that counts where none is written."""
    source: str = "measured"
    unit: str = ""
    hint: str = ""
    options: tuple[str, ...] = ()
    share: float | None = None
    missing: bool = False
    remark: str = ""
    error: str = ""
    slide: tuple[float, float, float] | None = None
    """Least, most and step of the slider that a trial shows; None otherwise."""
    slid: str = ""
    """Where the slider stands: at the value in force, whatever was typed."""
    unset: str = "unknown"
    """What an empty look is drawn as, and why."""
    tint_chip: str = ""
    """The colour that a tint is drawn in, as #rrggbb."""
    offers: tuple[tuple[str, str], ...] = ()
    """What an unusual value may have been meant to be: the question, and what would be typed."""

    @property
    def id(self) -> str:
        """The row's name in the page."""
        return f"{self.place}-{self.path.replace('.', '-')}"

    @property
    def has_card(self) -> bool:
        """Whether a measuring card tells how to come by it."""
        return self.kind == "quantity" or self.path.endswith(".thread")

    @property
    def share_percent(self) -> int:
        """The share of the doubt in whole percent."""
        return round(100 * (self.share or 0.0))

    @property
    def slide_at(self) -> str:
        """The value as a slider takes it, with a plain minus sign."""
        return self.slid.replace(MINUS, "-")


@dataclass(frozen=True, slots=True)
class PartView:
    """A part, or a thing within one: its rows, what is inside it, and what could be added."""

    path: str
    label: str
    name: str
    rows: tuple[Row, ...]
    inner: tuple["PartView", ...]
    addable: tuple[tuple[str, str], ...]
    removable: bool
    part_id: int | None = None
    """Which part of the shelf this is, where it came from there."""
    listing: str = ""
    """The seller's text that the part keeps."""
    seen: bool = False
    """Whether it is a part that is seen from the front, and has looks to be chosen."""

    @property
    def kind(self) -> str:
        """The kind of part that this is, or that it is in."""
        return self.path.partition(".")[0]

    @property
    def made_name(self) -> str:
        """The name by which it is made here, nothing where it is bought."""
        return made_name(self.path)

    @property
    def fillable(self) -> bool:
        """Whether it is a part of its own, which the shelf may hold."""
        _, _, rest = self.path.partition(".")
        return not rest or is_number(rest)


def row_for(  # noqa: PLR0913  # each has its default
    build: Build,
    path: str,
    place: str,
    *,
    label: str = "",
    share: float | None = None,
    stored: Build | None = None,
) -> Row:
    """The row of one dimension; with a slider around its stored value where it is only tried."""
    quantity, dimension = build.anatomy.quantity_at(path), build.dimensions.get(path)
    words = label or build.anatomy.label_of(path)
    if dimension is None:
        return Row(
            path, place, words, "quantity", unit=quantity.unit, hint=quantity.hint, share=share, missing=True
        )
    return Row(
        path,
        place,
        words,
        "quantity",
        value=entered(dimension.value),
        tol=entered(dimension.tol) if _has_tol(build, path) else "",
        spread=entered(dimension.tol),
        source=dimension.source.value,
        unit=quantity.unit,
        hint=quantity.hint,
        share=share,
        remark=_remark(quantity, dimension) or _read_from(build, path) or suits_told(build, path),
        offers=tuple((t.asks, entered(t.value)) for t in second_thoughts(quantity, dimension.value)),
        slide=_slide(quantity, stored, path, dimension),
        slid=entered(dimension.value),
    )


def _has_tol(build: Build, path: str) -> bool:
    """Whether a tolerance is written; what is assumed without one spreads as such parts do."""
    held = build.at(path)
    return not isinstance(held, dict) or held.get("tol") is not None


SLIDE: dict[Unit, tuple[float, float]] = {"mm": (1.0, 0.01), "°": (10.0, 0.1)}
"""How far a slider goes either way, and its step."""


def _slide(
    quantity: Quantity, stored: Build | None, path: str, dimension: Dimension
) -> tuple[float, float, float] | None:
    if stored is None:
        return None
    middle = stored.dimensions.get(path, dimension).value
    reach, step = SLIDE[quantity.unit]
    least = middle - reach if quantity.floor == "signed" else max(middle - reach, step)
    return round(min(least, dimension.value), 4), round(max(middle + reach, dimension.value), 4), step


def _remark(quantity: Quantity, dimension: Dimension) -> str:
    if quantity.is_plausible(dimension.value):
        return ""
    low, high = quantity.plausible
    return f"Saved, but unusual: mostly {figure(low)} to {figure(high)} {quantity.unit}."


def _read_from(build: Build, path: str) -> str:
    """The seller's words that the value was read from."""
    words = words_behind(build, path)
    return f"Read from “{words}”." if words else ""


def with_rejected(row: Row, rejected: Rejected | None) -> Row:
    """The row as it was typed, with the reason it was refused, where it is the refused one."""
    if rejected is None or (rejected.path, rejected.place) != (row.path, row.place):
        return row
    typed = replace(row, value=rejected.value, tol=rejected.tol, source=rejected.source)
    return replace(typed, remark="", offers=(), error=rejected.reason)


@dataclass(frozen=True, slots=True)
class Fold:
    """A part folded up: what it is and what its sizes rest on. `view` where it is open."""

    key: str
    label: str
    name: str
    known: str
    view: PartView | None = None
    missing: int = 0
    part: Part | None = None
    """The part itself, where the page draws it."""


def folds(build: Build, opened: str, rejected: Rejected | None = None) -> list[Fold]:
    """Every part that is in the build, all folded but the one that is opened or was refused."""
    at = rejected.path.partition(".")[0] if rejected and rejected.place == "ledger" else opened
    return [
        fold(build, part, rejected, opened=part.key == at)
        for part in build.anatomy.parts
        if build.has(part.key)
    ]


def fold(build: Build, part: Group | Many, rejected: Rejected | None = None, *, opened: bool = True) -> Fold:
    """One part of the build, folded or with everything in it."""
    name = build.at(f"{part.key}.name")
    known = counted_words(build.sizes_of(part.key)) or "nothing known"
    view = part_view(build, part, rejected) if opened else None
    return Fold(part.key, part.label, name if isinstance(name, str) else "", known, view)


def absent_parts(build: Build) -> list[tuple[str, str, str]]:
    """Key, slot and label of every part that could be added."""
    kinds = build.anatomy.kinds
    return [(k.key, k.slot, k.described.label) for k in kinds if not build.has(k.key)]


def part_view(build: Build, part: Group | Many, rejected: Rejected | None = None) -> PartView:
    """One part of the build with everything in it."""
    if isinstance(part, Many):
        return PartView(part.key, part.label, "", (), tuple(_items(build, part, part.key, rejected)),
                        ((f"{part.key}.-", part.singular),), removable=False)  # fmt: skip
    return _group_view(build, part, part.key, rejected, removable=True)


def _group_view(
    build: Build, group: Group, path: str, rejected: Rejected | None, *, removable: bool
) -> PartView:
    rows: list[Row] = []
    inner: list[PartView] = []
    addable: list[tuple[str, str]] = []
    for entry in group.entries:
        below = f"{path}.{entry.key}"
        if isinstance(entry, Many):
            inner.extend(_items(build, entry, below, rejected))
            addable.append((f"{below}.-", entry.singular))
        elif not isinstance(entry, Group):
            rows.append(with_rejected(_row(build, entry, below), rejected))
        elif build.has(below) or not entry.optional:
            inner.append(_group_view(build, entry, below, rejected, removable=entry.optional))
        else:
            addable.append((below, entry.label.lower()))
    name = build.at(f"{path}.name")
    words = name if isinstance(name, str) else ""
    linked = build.at(f"{path}.{PART_LINK}")
    part_id = linked if isinstance(linked, int) else None
    kept = text_kept(build.at(path))
    return PartView(
        path,
        group.label,
        words,
        tuple(rows),
        tuple(inner),
        tuple(addable),
        removable,
        part_id,
        kept,
        group.face is not None,
    )


def _items(build: Build, many: Many, path: str, rejected: Rejected | None) -> Iterator[PartView]:
    for index in range(build.count(path)):
        item = Group(many.key, f"{many.singular.capitalize()} {index + 1}", many.entries)
        yield _group_view(build, item, f"{path}.{index}", rejected, removable=True)


def _row(  # noqa: PLR0911  # one return a kind of entry
    build: Build, entry: Quantity | Text | Choice | Names | Count | Flag | Tint | PlainSize, path: str
) -> Row:
    found = build.at(path)
    match entry:
        case Quantity():
            return row_for(build, path, "ledger", label=entry.label)
        case Choice():
            return Row(path, "ledger", entry.label, "choice", value=found or "", options=entry.options)
        case Names():
            words = ", ".join(found or [])
            return Row(path, "ledger", entry.label, "names", value=words, options=entry.options)
        case Flag():
            told = {True: "yes", False: "no"}.get(found, "")
            usual = {True: "usual: yes", False: "usual: no", None: ""}[entry.default]
            return Row(path, "ledger", entry.label, "choice", value=told, options=("yes", "no"), hint=usual)
        case Count():
            return Row(path, "ledger", entry.label, "count", value="" if found is None else f"{found:g}")
        case PlainSize():
            return Row(
                path, "ledger", entry.label, "size", value="" if found is None else entered(found), unit="mm"
            )
        case Tint():
            tint_chip = colour_of(found or "")
            remark = "" if tint_chip or not found else UNREAD_COLOUR
            return Row(
                path,
                "ledger",
                entry.label,
                "tint",
                value=found or "",
                unset="",
                tint_chip=tint_chip,
                remark=remark,
            )
        case Text():
            return Row(path, "ledger", entry.label, "text", value=found or "")


UNREAD_COLOUR = "Kept, but no colour is known by it: a name from the list, or #rrggbb."


def face_view(build: Build, kind: Kind, place: str, rejected: Rejected | None = None) -> PartView | None:
    """How the part at that place is seen from the front, one row a look; None for a kind that is not seen."""
    if kind.face is None:
        return None
    return _group_view(build, kind.face, f"{place}.{FACE}", rejected, removable=False)


def look_rows(part: Part, rejected: Rejected | None = None, place: str = "") -> tuple[Row, ...]:
    """How the part looks and what it is made of, one row a word; `place` is where it stands in a watch."""
    own = part.kind.prefix
    rows = (_row(part.build, look, f"{own}.{look.key}") for look in part.kind.looks)
    named = (replace(row, path=f"{place or own}{row.path.removeprefix(own)}") for row in rows)
    return tuple(with_rejected(row, rejected) for row in named)
