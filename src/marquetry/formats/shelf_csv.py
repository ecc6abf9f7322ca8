"""The shelf as CSV: one row a part, a column for everything a part can be described by.

The columns follow the description of the parts; `headings()` documents them. Dimensions are written as
`28.50±0.02 measured`. It cannot carry photographs, pieces' histories, readings, or keys of other programs.
"""

import csv
import io
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import IO

from marquetry.core.sheet.anatomy import Anatomy, is_number
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.schema import Entry, Group, Look, Many, PlainSize, Quantity
from marquetry.core.values.errors import SheetError

MOST_BYTES = 30_000_000
MOST_ROWS = 50_000
MOST_COLUMNS = 1000
LONGEST_CELL = 4000
FORMULA_MARKS = ("=", "+", "-", "@", "\t", "\r")
"""A spreadsheet runs a cell that begins so; such words carry an apostrophe in front."""

HEAD = ("kind", "name")
TAIL = ("supplier", "price", "order_link", "notes", "owned")
TOLD = {
    "kind": "the kind of part: {kinds}",
    "name": "what it is called; with the kind it says which part a row is about",
    "supplier": "who sells it",
    "price": "a sum and its currency, 12.50 EUR",
    "order_link": "where to order it, as text",
    "notes": "anything else",
    "owned": "number of pieces to put on the shelf with a new part; known parts keep theirs",
}


@dataclass(frozen=True, slots=True)
class Heading:
    """A column: its name, what it holds, and the kinds it is for (all, where none is named)."""

    name: str
    holds: str
    kinds: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class FileRow:
    """One row of a file: its line, its cells by column, and why it cannot be read, if so."""

    number: int
    cells: Mapping[str, str]
    fault: str = ""


@lru_cache(maxsize=4)
def entries_by_kind(anatomy: Anatomy) -> Mapping[str, Mapping[str, Entry]]:
    """For each kind every path that may be a column, lists spelled out as far as a sheet may hold them."""
    return {kind.key: dict(_entries(kind)) for kind in anatomy.kinds}


def _entries(kind: Kind) -> Iterator[tuple[str, Entry]]:
    yield from _below((*kind.looks, *kind.entries, *((kind.face,) if kind.face else ())), "")


def _below(entries: tuple[Entry | Look, ...], above: str) -> Iterator[tuple[str, Entry]]:
    for entry in entries:
        if isinstance(entry, Group):
            yield from _below(entry.entries, f"{above}{entry.key}.")
        elif isinstance(entry, Many):
            for index in range(entry.most):
                yield from _below(entry.entries, f"{above}{entry.key}.{index}.")
        elif above + entry.key != "name":
            yield above + entry.key, entry


@lru_cache(maxsize=4)
def column_names(anatomy: Anatomy) -> frozenset[str]:
    """Every column a file may have."""
    described = {path for entries in entries_by_kind(anatomy).values() for path in entries}
    return frozenset({*HEAD, *TAIL, *described})


def headings(anatomy: Anatomy) -> list[Heading]:
    """Every column with what it holds, numbered lists told once with `N`."""
    found: dict[str, tuple[str, list[str]]] = {}
    for kind in anatomy.kinds:
        for path, entry in entries_by_kind(anatomy)[kind.key].items():
            steps = path.split(".")
            if any(is_number(step) and step != "0" for step in steps):
                continue
            name = ".".join("N" if is_number(step) else step for step in steps)
            holds = _holds(entry)
            found.setdefault(name, (holds, []))[1].append(kind.key)
    kinds = ", ".join(kind.key for kind in anatomy.kinds)
    middle = [Heading(name, holds, tuple(kinds)) for name, (holds, kinds) in found.items()]
    return [
        *(Heading(name, TOLD[name].format(kinds=kinds)) for name in HEAD),
        *middle,
        *(Heading(name, TOLD[name]) for name in TAIL),
    ]


def _holds(entry: Entry) -> str:
    match entry:
        case Quantity():
            return f"{entry.label}, {entry.unit}"
        case PlainSize():
            return f"{entry.label}, mm without a tolerance"
        case _:
            return entry.label


def write(rows: Iterable[Mapping[str, str]]) -> Iterator[str]:
    """The file piece by piece, with a mark of UTF-8 that spreadsheets need; only columns that are used."""
    held = list(rows)
    used = {name for row in held for name, cell in row.items() if cell}
    names = [*HEAD, *sorted(used - {*HEAD, *TAIL}, key=in_order), *TAIL]
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(names)
    for index, row in enumerate(held):
        writer.writerow([row.get(name, "") for name in names])
        if index % 200 == 0:
            yield ("\ufeff" if index == 0 else "") + buffer.getvalue()
            buffer.seek(0)
            buffer.truncate()
    yield buffer.getvalue() if held else "\ufeff" + buffer.getvalue()


def in_order(name: str) -> list[tuple[bool, int, str]]:
    """Sorts columns by name, numbered things by their number."""
    return [(not is_number(step), int(step) if is_number(step) else 0, step) for step in name.split(".")]


def read(file: IO[bytes], anatomy: Anatomy) -> Iterator[FileRow]:
    """Every row of a file, one at a time. SheetError where it is no such file as a whole."""
    text = io.TextIOWrapper(file, encoding=_encoding(file), newline="", errors="strict")
    try:
        yield from _lines(text, anatomy)
    except UnicodeDecodeError as error:
        raise SheetError(
            "the file", "text in UTF-8 (save it as “CSV UTF-8”)", f"byte {error.object[error.start]:#04x}"
        ) from None
    except csv.Error as error:
        raise SheetError("the file", "comma-separated values", str(error)) from None
    finally:
        text.detach()


def _lines(text: io.TextIOWrapper, anatomy: Anatomy) -> Iterator[FileRow]:
    first = text.readline(200_000)
    separator = max(",;\t", key=first.count)
    header = [name.strip() for name in next(csv.reader([first], delimiter=separator), [])]
    _refuse_header(header, anatomy)
    reader = csv.reader(text, delimiter=separator, strict=True)
    count = 0
    for cells in reader:
        if not any(cell.strip() for cell in cells):
            continue
        count += 1
        if count > MOST_ROWS:
            raise SheetError("the file", f"at most {MOST_ROWS} rows")
        yield _line(reader.line_num + 1, header, cells)


def _line(number: int, header: list[str], cells: list[str]) -> FileRow:
    if len(cells) != len(header):
        return FileRow(number, {}, f"{len(cells)} cells where the first line names {len(header)} columns")
    if any(len(cell) > LONGEST_CELL or "\0" in cell for cell in cells):
        return FileRow(number, {}, f"a cell of more than {LONGEST_CELL} letters, or one that is no text")
    found = {name: cell.strip() for name, cell in zip(header, cells, strict=True)}
    return FileRow(number, {name: cell for name, cell in found.items() if cell})


def _refuse_header(header: list[str], anatomy: Anatomy) -> None:
    if len(header) > MOST_COLUMNS:
        raise SheetError("the first line", f"at most {MOST_COLUMNS} columns", f"{len(header)}")
    missing = [name for name in HEAD if name not in header]
    if missing:
        raise SheetError("the first line", f"the columns {', '.join(HEAD)}", f"no {missing[0]}")
    seen: set[str] = set()
    for name in header:
        if name in seen:
            raise SheetError("the first line", "every column once", f"“{name[:40]}” twice")
        seen.add(name)
    unknown = [name for name in header if name not in column_names(anatomy)]
    if unknown:
        raise SheetError("the first line", "columns as they are documented", f"“{unknown[0][:40]}”")


def _encoding(file: IO[bytes]) -> str:
    start = file.read(4)
    file.seek(0)
    return "utf-16" if start[:2] in {b"\xff\xfe", b"\xfe\xff"} else "utf-8-sig"
