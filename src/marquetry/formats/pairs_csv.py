"""A table of pairs as CSV: a line a pair, with verdict, the check that decides, the spacer it takes."""

import csv
import io
from collections.abc import Iterator

from marquetry.core.finder.candidates import Slot
from marquetry.core.finder.pairs import PairTable, pair_table
from marquetry.core.fit.model import Model
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.formats.shelf_row import words_cell

BLOCK = 40


def pairs_csv(build: Build, rules: Rules, slots: tuple[Slot, Slot], most_spacer: float) -> Iterator[str]:
    """The whole table piece by piece, rows first: a large one is judged while it goes out."""
    rows, columns = slots
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow([rows.kind, columns.kind, "verdict", "by", "spacer_mm"])
    for start in range(0, len(rows.candidates), BLOCK):
        block = Slot(rows.kind, rows.candidates[start : start + BLOCK], rows.worth)
        writer.writerows(
            _lines(rules.model, pair_table(build, rules, block, columns, most_spacer), block, columns)
        )
        yield text.getvalue()
        text.seek(0)
        text.truncate()
    yield text.getvalue()


def _lines(model: Model, table: PairTable, rows: Slot, columns: Slot) -> Iterator[list[str]]:
    for row, first in enumerate(rows.candidates):
        for column, second in enumerate(columns.candidates):
            worst = table.worst[row, column]
            by = model.title(table.checks[worst]) if worst >= 0 else ""
            spacer = table.spacers[row, column]
            names = (words_cell(first.part.name), words_cell(second.part.name))
            yield [*names, table.verdict(row, column).value, by, f"{spacer:.2f}" if spacer else ""]
