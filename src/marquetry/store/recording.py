"""What an answer asked of the database while it was worked out: noted by the connection, declared by nobody.

SQLite tells its authorizer every table that a statement reads, views and subqueries included, when it is
prepared. Statements are prepared once and used again, so the authorizer is set anew before each question
that is recorded: that makes SQLite prepare it again (sqlite3_set_authorizer expires what was prepared).
"""

import marshal
import sqlite3
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from hashlib import blake2b
from typing import Any
from weakref import ref

Values = Mapping[str, Any] | Sequence[Any]
STATELESS = frozenset({"json_each"})
"""Tables that are functions: they hold nothing but what they are given."""
FICKLE = frozenset({
    "random", "randomblob", "changes", "total_changes", "last_insert_rowid", "current_timestamp",
    "current_date", "current_time",
})  # fmt: skip
"""Functions that do not answer alike twice."""
HARMLESS = frozenset({sqlite3.SQLITE_SELECT, sqlite3.SQLITE_RECURSIVE})
MOST_CURSORS = 256
"""Cursors that are remembered before those that are gone are forgotten."""
COUNTERS = "SELECT name, changes FROM table_change"


@dataclass(frozen=True, slots=True)
class Enquiry:
    """One question, the tables that it reads, and a digest of the rows that answered it.

    `repeatable` where asking again tells whether they still do: it only reads, tables that are counted, and
    asks no clock.
    """

    sql: str
    values: Values
    tables: frozenset[str]
    digest: bytes
    repeatable: bool

    @property
    def weight(self) -> int:
        """What it weighs in mind, bytes."""
        return 400 + len(self.sql) + 60 * len(self.values)


class NotingConnection(sqlite3.Connection):
    """A connection that can note what is asked of it, and tells how often each table was written to."""

    def __init__(self, *given: Any, **named: Any) -> None:  # noqa: ANN401  # whatever sqlite3.connect hands on
        super().__init__(*given, **named)
        self._recorders: list[list[Enquiry]] = []
        self._cursors: list[ref[sqlite3.Cursor]] = []
        self._changes: Mapping[str, int] = {}
        self._state: tuple[int, int] | None = None
        self._met: set[str] = set()
        self._steady = True

    def execute(self, sql: str, parameters: Any = (), /) -> sqlite3.Cursor:  # noqa: ANN401  # as sqlite3 has it
        """Run one statement; while an answer is worked out, note what it read."""
        if self._recorders:
            self._recorders[-1].append(self._asked(sql, parameters))
        cursor = super().execute(sql, parameters)
        if len(self._cursors) > MOST_CURSORS:
            self._cursors = [held for held in self._cursors if held() is not None]
        self._cursors.append(ref(cursor))
        return cursor

    def let_go(self) -> None:
        """Be as newly opened: what was left half read would hold the database at that moment for good."""
        for cursor in (found for held in self._cursors if (found := held()) is not None):
            cursor.close()
        self._cursors.clear()
        self._recorders.clear()
        if self.in_transaction:
            self.rollback()

    @contextmanager
    def recording(self) -> Iterator[list[Enquiry]]:
        """Note every question from here on; what one within another asks, the other asked as well."""
        mine: list[Enquiry] = []
        # A table that is a function is declared at its first use, which would look like a write.
        super().execute("SELECT 1 FROM json_each('[]')").fetchall()
        self._recorders.append(mine)
        try:
            yield mine
        finally:
            self._recorders.remove(mine)
            self.note(mine)

    def note(self, asked: Sequence[Enquiry]) -> None:
        """Questions that an answer rests on which was in mind: whoever is recording rests on them too."""
        if self._recorders:
            self._recorders[-1].extend(asked)

    def changes(self) -> Mapping[str, int]:
        """How often each table was written to, by its name; read anew only where anything was."""
        # `data_version` tells of others' commits, `total_changes` of this connection's own: 3 µs together.
        state = (int(super().execute("PRAGMA data_version").fetchone()[0]), self.total_changes)
        if state != self._state or self.in_transaction:
            self._changes, self._state = dict(super().execute(COUNTERS).fetchall()), state
        return self._changes

    def digest(self, sql: str, values: Values) -> bytes:
        """What tells the rows that answer a question now from others, by value and by kind of value."""
        # Not Python's hash: to it -1 and -2, or 1 and 1.0, are the same.
        rows = [tuple(row) for row in super().execute(sql, values)]
        return blake2b(marshal.dumps(rows, 2), digest_size=16).digest()

    def _asked(self, sql: str, values: Values) -> Enquiry:
        self._met, self._steady = set(), "'now'" not in sql
        self.set_authorizer(self._noted)
        try:
            digest = self.digest(sql, values)
        except sqlite3.DatabaseError:
            digest, self._steady = b"", False
        finally:
            self.set_authorizer(None)
        tables = frozenset(self._met - STATELESS)
        held = dict(values) if isinstance(values, Mapping) else tuple(values)
        repeatable = self._steady and tables <= self.changes().keys()
        return Enquiry(sql, held, tables, digest, repeatable)

    def _noted(self, action: int, first: str | None, second: str | None, *_: object) -> int:
        if action == sqlite3.SQLITE_READ:
            self._met.add(str(first))
        elif action == sqlite3.SQLITE_FUNCTION:
            self._steady &= str(second).lower() not in FICKLE
        elif action not in HARMLESS:
            # A write, a pragma, another file: it is done once, by whoever asked, and its answer is not kept.
            return sqlite3.SQLITE_DENY
        return sqlite3.SQLITE_OK
