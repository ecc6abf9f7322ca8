"""A table of pairs as CSV: a line a pair, with verdict, the check that decides, the spacer it takes."""

import csv
import io

from marquetry.core.checks import CHECK_BY_NAME
from marquetry.core.finder.candidates import Slot
from marquetry.core.finder.pairs import PairTable
from marquetry.formats.shelf_row import words_cell


def pairs_csv(table: PairTable, rows: Slot, columns: Slot) -> str:
    """The whole table, rows first."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow([rows.kind, columns.kind, "verdict", "by", "spacer_mm"])
    for row, first in enumerate(rows.candidates):
        for column, second in enumerate(columns.candidates):
            worst = table.worst[row, column]
            by = CHECK_BY_NAME[table.checks[worst]].title if worst >= 0 else ""
            spacer = table.spacers[row, column]
            names = (words_cell(first.part.name), words_cell(second.part.name))
            writer.writerow([*names, table.verdict(row, column).value, by, f"{spacer:.2f}" if spacer else ""])
    return text.getvalue()
