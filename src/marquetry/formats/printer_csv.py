"""What a printer was asked for and what it made, as CSV: printer, material, kind, nominal, measured."""

import csv
from io import StringIO

from marquetry.core.making.printer import PrinterPair
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, SheetError

COLUMNS = ("printer", "material", "kind", "nominal", "measured")
MOST_BYTES = 2_000_000
FURTHEST = 1000.0
"""No printer of watch parts makes what is as long as this, mm."""


def read_pairs(data: bytes) -> tuple[PrinterPair, ...]:
    """Every pair in the file; SheetError or DimensionError name line and column that cannot be read."""
    if len(data) > MOST_BYTES:
        raise SheetError("", f"pairs of at most {MOST_BYTES // 1_000_000} MB")
    try:
        rows = csv.DictReader(StringIO(data.decode("utf-8-sig"), newline=""), skipinitialspace=True)
        missing = [name for name in COLUMNS if name not in (rows.fieldnames or ())]
        if missing:
            raise SheetError("line 1", f"the columns {', '.join(COLUMNS)}", f"no {missing[0]}")
        return tuple(_pair(row, number) for number, row in enumerate(rows, 2))
    except (UnicodeDecodeError, csv.Error) as error:
        raise SheetError("", "a CSV file in UTF-8", str(error)[:60]) from None


def _pair(row: dict[str, str | None], line: int) -> PrinterPair:
    printer, material, kind = [(row[name] or "").strip() for name in COLUMNS[:3]]
    nominal, measured = (_size(f"line {line}, {name}", row[name] or "") for name in COLUMNS[3:])
    return PrinterPair(printer, material, kind, nominal, measured)


def _size(field: str, text: str) -> float:
    """A size as another program writes it, all its digits, or as a builder types it."""
    try:
        value = float(text.strip().replace(",", "."))
    except ValueError:
        value = parse_figure(field, text, "mm")
    if not 0 < value < FURTHEST:
        raise DimensionError(field, f"{value:g}", "mm", f"more than 0 mm and less than {FURTHEST:g}")
    return value


def pairs_text(pairs: tuple[PrinterPair, ...]) -> str:
    """The pairs as the file that `read_pairs` reads."""
    written = StringIO(newline="")
    writer = csv.writer(written)
    writer.writerow(COLUMNS)
    for pair in pairs:
        writer.writerow(
            [pair.printer, pair.material, pair.kind, f"{pair.nominal:.4f}", f"{pair.measured:.4f}"]
        )
    return written.getvalue()
