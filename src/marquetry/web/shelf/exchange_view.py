"""What goes out and in as files, shown before it goes: the shelf's first rows, the workshop's contents."""

from dataclasses import dataclass
from itertools import islice

from marquetry.formats import shelf_csv
from marquetry.formats.shelf_csv import Heading
from marquetry.store import archive, imports
from marquetry.store.database import Connection
from marquetry.store.imports import Import, PlannedRow

SHOWN_ROWS, SHOWN_COLUMNS, SHOWN_FILES = 12, 7, 5
CONTENTS = (
    ("watch", "watches"), ("revision", "versions of them"), ("part", "parts"), ("piece", "pieces"),
    ("donor", "donors"), ("reading", "readings"), ("photo", "photographs"), ("instrument", "instruments"),
    ("house_rule", "rules of the house"),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ExchangePage:
    """All that the page shows."""

    head: list[str]
    rows: list[list[str]]
    parts: int
    contents: list[tuple[int, str]]
    files: list[Import]
    columns: list[Heading]
    empty: bool
    most_parts_bytes: int = shelf_csv.MOST_BYTES
    most_workshop_bytes: int = archive.MOST_BYTES

    @property
    def rest(self) -> int:
        """Rows of the file beyond those that are shown."""
        return max(self.parts - len(self.rows), 0)


@dataclass(frozen=True, slots=True)
class ImportPage:
    """One page of the rows of a file that waits to be taken, all of them or those of one fate."""

    found: Import
    rows: list[PlannedRow]
    fate: str
    number: int

    @property
    def pages(self) -> int:
        """Pages there are."""
        return self.found.pages(self.fate)

    @property
    def before(self) -> int:
        """The page before this one; 0 on the first."""
        return self.number - 1

    @property
    def after(self) -> int:
        """The page after this one; 0 on the last."""
        return self.number + 1 if self.number < self.pages else 0


def exchange_page(connection: Connection) -> ExchangePage:
    """The page as it is now."""
    first = list(islice(imports.shelf_rows(connection), SHOWN_ROWS))
    columns = shelf_csv.headings(connection.model.anatomy)
    filled = [column.name for column in columns if any(row.get(column.name) for row in first)]
    head = filled[:SHOWN_COLUMNS]
    counts = archive.counts(connection)
    return ExchangePage(
        head,
        [[row.get(name, "") for name in head] for row in first],
        counts["part"],
        [(counts[table], words) for table, words in CONTENTS],
        imports.recent(connection, SHOWN_FILES),
        columns,
        archive.is_empty(connection),
    )
