"""A part as the cells of a CSV row, and back: an empty cell leaves what is known, a lone `-` clears it."""

import copy
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.sheet.anatomy import Anatomy, is_number
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.schema import Count, Entry, Flag, Names, PlainSize, Quantity
from marquetry.core.trade.terms import Terms
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.entry import parse_entry, parse_figure
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.core.values.money import parse_money
from marquetry.formats.shelf_csv import FORMULA_MARKS, TAIL, entries_by_kind, in_order

CLEAR = "-"
MOST_OWNED = 999
LONGEST = {"name": 120, "supplier": 80, "order_link": 400}
YES_NO = {True: "yes", False: "no"}


@dataclass(frozen=True, slots=True)
class Read:
    """What a row comes to: the part as it would be, its terms, and pieces to put on the shelf."""

    part: Part
    terms: Terms
    owned: int


def cells_of(part: Part, terms: Terms, owned: int) -> dict[str, str]:
    """A part as cells; empty ones are left out."""
    found = {"kind": part.kind.key, "name": words_cell(part.name)}
    for path, entry in entries_by_kind(part.kind.anatomy)[part.kind.key].items():
        cell = _cell(entry, part, path)
        if cell:
            found[path] = cell
    found["supplier"] = words_cell(terms.supplier)
    found["price"] = str(terms.price).replace("\u00a0", " ") if terms.price else ""
    found["order_link"], found["notes"] = words_cell(terms.order_link), words_cell(terms.notes)
    found["owned"] = str(owned) if owned else ""
    return {name: cell for name, cell in found.items() if cell}


def _cell(entry: Entry, part: Part, path: str) -> str:  # noqa: PLR0911  # one return a kind of entry
    if isinstance(entry, Quantity):
        known = part.dimensions.get(path)
        return "" if known is None else dimension_cell(known)
    held = part.build.at(f"{part.kind.prefix}.{path}")
    if held is None or held == "":
        return ""
    match entry:
        case Names():
            return words_cell(", ".join(held))
        case Flag():
            return YES_NO[bool(held)]
        case Count():
            return f"{held:g}"
        case PlainSize():
            return _exact(held)
        case _:
            return words_cell(str(held))


def dimension_cell(dimension: Dimension) -> str:
    """`28.50±0.02 measured`, with as many decimals as it takes to be read back exactly."""
    return f"{_exact(dimension.value)}±{_exact(dimension.tol)} {dimension.source.value}"


def _exact(value: float) -> str:
    text = f"{value:.2f}"
    return text if float(text) == value else f"{value:.12f}".rstrip("0")


def words_cell(words: str) -> str:
    """Words that no spreadsheet takes for a formula."""
    return f"'{words}" if words.startswith((*FORMULA_MARKS, "'")) else words


def words_of(name: str, cell: str) -> str:
    """The words in a cell; SheetError for one that a spreadsheet would run."""
    if cell.startswith("'"):
        return cell[1:]
    if cell.startswith(FORMULA_MARKS):
        raise SheetError(name, "words; put an apostrophe ' in front if they begin so", f"“{cell[:40]}”")
    return cell


def read_row(anatomy: Anatomy, cells: Mapping[str, str], known: tuple[Part, Terms] | None) -> Read:
    """The part a row comes to, on top of what is known of it. MarquetryError tells why it cannot be read."""
    kind = kind_of(anatomy, cells)
    name = words_of("name", cells["name"])
    if len(name) > LONGEST["name"]:
        raise SheetError("name", f"at most {LONGEST['name']} letters")
    document = copy.deepcopy(known[0].document) if known else {"name": name}
    described = entries_by_kind(anatomy)[kind.key]
    for column in sorted(cells.keys() - {"kind", "name", *TAIL}, key=in_order):
        cell = cells[column]
        if column not in described:
            raise SheetError(
                column, f"an empty cell: a {kind.label.lower()} has no such entry", f"“{cell[:40]}”"
            )
        _put(document, column, None if cell == CLEAR else _value(column, described[column], cell))
    terms = _terms(cells, known[1] if known else Terms())
    return Read(Part.of(kind, document), terms, _owned(cells))


def kind_of(anatomy: Anatomy, cells: Mapping[str, str]) -> Kind:
    """The kind a row is about; SheetError where it names none, or no part."""
    key = cells.get("kind", "")
    if not anatomy.has_kind(key):
        raise SheetError("kind", "a kind of part, such as dial", f"“{cells.get('kind', '')[:40]}”")
    if not cells.get("name"):
        raise SheetError("name", "what the part is called", "nothing")
    return anatomy.kind(key)


def _put(document: dict[str, Json], column: str, value: Json) -> None:
    """Write a value into the part's document at the column's path; None takes away what stands there."""
    node: Json = document
    *way, last = column.split(".")
    for step, after in zip(way, column.split(".")[1:], strict=True):
        if isinstance(node, list):
            if int(step) > len(node):
                raise SheetError(column, "things numbered from 0 without gaps")
            if int(step) == len(node):
                node.append({})
            node = node[int(step)]
        else:
            node = node.setdefault(step, [] if is_number(after) else {})
    if value is None:
        node.pop(last, None)
    else:
        node[last] = value


def _value(column: str, entry: Entry, cell: str) -> Json:
    match entry:
        case Quantity():
            return dimension_as_json(_dimension(column, entry, cell))
        case PlainSize():
            return parse_figure(column, cell, "mm")
        case Names():
            return [word.strip() for word in words_of(column, cell).split(",") if word.strip()]
        case Flag():
            if cell.lower() not in {"yes", "no"}:
                raise SheetError(column, "yes or no", f"“{cell[:40]}”")
            return cell.lower() == "yes"
        case Count():
            if not (cell.isdecimal() and len(cell) < 5):  # noqa: PLR2004  # the sheet refuses what is too much
                raise SheetError(column, "a whole number", f"“{cell[:40]}”")
            return int(cell)
        case _:
            return words_of(column, cell)


def _dimension(column: str, quantity: Quantity, cell: str) -> Dimension:
    """`28.50±0.02 measured`; without a source it is listed."""
    figures, _, last = cell.rpartition(" ")
    if last in {source.value for source in Source}:
        return _read_dimension(column, figures, quantity, Source(last))
    return _read_dimension(column, cell, quantity, Source.LISTED)


def _read_dimension(column: str, text: str, quantity: Quantity, source: Source) -> Dimension:
    try:
        value, tol = parse_entry(column, text, quantity.unit)
        quantity.refuse_impossible(column, value)
        return Dimension.of(value, tol, source, quantity.unit)
    except MarquetryError as error:
        raise SheetError(column, f"a dimension such as 28.50±0.02 measured ({error})") from None


def _terms(cells: Mapping[str, str], before: Terms) -> Terms:
    def words(name: str, old: str) -> str:
        cell = cells.get(name)
        found = old if cell is None else "" if cell == CLEAR else words_of(name, cell)
        if len(found) > LONGEST.get(name, 4000):
            raise SheetError(name, f"at most {LONGEST[name]} letters")
        return found

    price = cells.get("price")
    paid = before.price if price is None else None if price == CLEAR else parse_money("price", price, "EUR")
    return Terms(
        words("notes", before.notes),
        words("supplier", before.supplier),
        paid,
        words("order_link", before.order_link),
    )


def _owned(cells: Mapping[str, str]) -> int:
    cell = cells.get("owned", "0")
    if not cell.isdecimal() or len(cell) > 4 or int(cell) > MOST_OWNED:  # noqa: PLR2004  # before int() sees it
        raise SheetError("owned", f"a whole number up to {MOST_OWNED}", f"“{cell[:40]}”")
    return int(cell)
