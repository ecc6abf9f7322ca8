"""Will these two ever meet: every part of one kind against every part of another, in the rest of a watch.

A cell hangs on the checks that read both parts. Where the stem stands too high, the spacer it takes is put in
first, as far as one is accepted, and everything else is judged with it.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.evidence.lapse import replaced
from marquetry.core.finder.candidates import NOTHING, Alike, Slot
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import CODES, Column, Judged
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.remedies.idea import MADE_TOL
from marquetry.core.remedies.spacers import LAYER
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.limits import SLACK
from marquetry.core.values.verdict import Verdict

PAIRS: tuple[tuple[str, str], ...] = (
    ("movement", "case"), ("dial", "movement"), ("hands", "movement"), ("crystal", "case"),
)  # fmt: skip
STEM = "stem_height"
FIRST, NEXT = f"{SPACERS.key}.0", f"{SPACERS.key}.1"
SPACER = f"{FIRST}.thickness"
MOST_CELLS = 20_000
"""Cells judged at once: a hand stack has hundreds of chains in each."""
GRAVITY = np.array([verdict.gravity for verdict in CODES])
Codes = NDArray[np.int8]


@dataclass(frozen=True)
class PairTable:
    """`codes` index CODES, `spacers` are what each cell takes, `worst` is which of `checks` decides."""

    checks: tuple[str, ...]
    codes: Codes
    spacers: Floats
    worst: NDArray[np.int16]

    def verdict(self, row: int, column: int) -> Verdict:
        """The cell's verdict."""
        return CODES[self.codes[row, column]]


def pair_table(build: Build, rules: Rules, rows: Slot, columns: Slot, most_spacer: float = 0.0) -> PairTable:
    """Judge every pair; `build` is the watch whose other parts stay."""
    shape = (len(rows.candidates), len(columns.candidates))
    names = tuple(check.name for check in rules.model.checks)
    table = PairTable(
        names,
        np.full(shape, CODES.index(Verdict.UNMEASURED), dtype=np.int8),
        np.zeros(shape),
        np.full(shape, -1, dtype=np.int16),
    )
    before: Report | None = None
    for row_group, column_group in ((a, b) for a in rows.groups for b in columns.groups):
        for block in _blocks(row_group, column_group):
            pairs = _Pairs(build, rules, (rows, block), (columns, column_group), most_spacer, before)
            pairs.judge(table)
            before = pairs.probe
    return table


def _blocks(rows: Alike, columns: Alike) -> Iterator[Alike]:
    """The rows' group in pieces small enough to be judged at once."""
    size = max(1, MOST_CELLS // max(len(columns.members), 1))
    for start in range(0, len(rows.members), size):
        piece = slice(start, start + size)
        held = {path: Column(c.values[piece], c.tols[piece]) for path, c in rows.columns.items()}
        yield Alike(rows.slot, rows.members[piece], rows.document, held)


class _Pairs:
    """The pairs of two groups: everything but the figures is the same throughout.

    `probe` is the report on the first pair, which tells what each check reads; of the groups `before` it
    only what differs is run again.
    """

    def __init__(  # noqa: PLR0913, PLR0917  # a watch, its rules, two groups, and what goes with them
        self,
        build: Build,
        rules: Rules,
        rows: tuple[Slot, Alike],
        columns: tuple[Slot, Alike],
        most_spacer: float,
        before: Report | None,
    ) -> None:
        self._rules, self._most = rules, most_spacer
        (self._row_slot, self._rows), (self._column_slot, self._columns) = rows, columns
        self._kinds = {self._row_slot.kind, self._column_slot.kind}
        spacers = [{"side": "dial", "thickness": _exact(NOTHING)}, *(build.at(SPACERS.key) or [])]
        held = {self._row_slot.kind: self._rows.document, self._column_slot.kind: self._columns.document}
        beside = replaced(build, self._kinds, rules.model.dry_fit_by_key)
        self._build = beside.with_parts({**held, SPACERS.key: spacers})
        self.probe = report_on(self._build, rules, before)
        self._shape = (len(self._rows.members), len(self._columns.members))
        self._moved: dict[str, Column] = {
            path.replace(FIRST, NEXT): group.column(path, axis, 2)
            for axis, group in enumerate((self._rows, self._columns))
            for path in group.columns
        }

    def judge(self, table: PairTable) -> None:
        """Write the verdicts of all cells into the table; a graver check takes a cell over."""
        place = np.ix_(self._rows.members, self._columns.members)
        spacers = self._spacers()
        table.spacers[place] = spacers
        self._moved[SPACER] = Column(np.maximum(spacers, NOTHING), np.where(spacers > 0, MADE_TOL, 0.0))
        codes = np.full(self._shape, -1, dtype=np.int8)
        worst = np.full(self._shape, -1, dtype=np.int16)
        checks = self._rules.model.checks
        dear = [number for number, check in enumerate(checks) if check.one_length]
        for number, check in enumerate(checks):
            if number not in dear and self._reads_both(check):
                found = check.over(self._build, self._rules, self._moved)
                if found is not None:
                    told = self._codes(check, found)
                    self._take_over(codes, worst, np.broadcast_to(told, self._shape), number)
        for number in dear:
            self._cell_by_cell(codes, worst, number)
        table.codes[place] = np.where(codes < 0, CODES.index(Verdict.UNMEASURED), codes)
        table.worst[place] = worst

    @staticmethod
    def _take_over(codes: Codes, worst: NDArray[np.int16], found: Codes, number: int) -> None:
        """Where the check is graver than what was found before, it decides the cell."""
        graver = np.where(codes < 0, -1, GRAVITY[codes]) < GRAVITY[found]
        np.copyto(codes, found, where=graver)
        worst[graver] = number

    def _codes(self, check: Check, found: Judged) -> Codes:
        """Verdicts of one check's cells; what cannot be told stands as it does for the first pair."""
        probe = self.probe.findings[check.name]
        unknown = probe.verdict if probe.verdict in {Verdict.ASSUMED, Verdict.UNMEASURED} else Verdict.ASSUMED
        return found.resting_on(probe).verdict_codes(unknown if probe.is_open else Verdict.UNMEASURED)

    def _reads_both(self, check: Check) -> bool:
        """Whether the check asks about both parts, and waits for no dimension of another."""
        probe = self.probe.findings[check.name]
        waits = any(path.partition(".")[0] not in self._kinds for path in probe.missing)
        return self._kinds <= probe.uses.parts() and not waits and probe.verdict is not Verdict.SKIPPED

    def _spacers(self) -> Floats:
        """What is missing at the stem, in steps that can be made; none where more than accepted."""
        stem = self._rules.model.check(STEM)
        found = stem.over(self._build, self._rules, self._moved) if self._reads_both(stem) else None
        if not self._most or found is None or found.values is None:
            return np.zeros(self._shape)
        wanted = np.round(np.broadcast_to(found.values, self._shape) / LAYER) * LAYER
        high = self._rules.limits(stem.key, stem.limits).high or 0.0
        needed = found.values > high - (found.nominal - found.worst)
        return np.where(needed & (wanted > 0) & (wanted <= self._most + SLACK), wanted, 0.0)

    def _cell_by_cell(self, codes: Codes, worst: NDArray[np.int16], number: int) -> None:
        """A check that costs the most, only where no other has the cell clash already."""
        check = self._rules.model.checks[number]
        rows, columns = np.nonzero(codes != CODES.index(Verdict.CLASH))
        if not rows.size or not self._reads_both(check):
            return
        for start in range(0, rows.size, MOST_CELLS):
            cells = (rows[start : start + MOST_CELLS], columns[start : start + MOST_CELLS])
            found = check.over(self._build, self._rules, self._at(cells))
            if found is not None:
                before, by = codes[cells], worst[cells]
                self._take_over(before, by, self._codes(check, found), number)
                codes[cells], worst[cells] = before, by

    def _at(self, cells: tuple[NDArray[np.int64], NDArray[np.int64]]) -> dict[str, Column]:
        """Every column at these cells only."""
        return {
            path: Column(
                *(np.broadcast_to(part, self._shape)[cells] for part in (column.values, column.tols))
            )
            for path, column in self._moved.items()
        }


def _exact(value: float) -> Mapping[str, object]:
    return dimension_as_json(Dimension(value, 0.0, Source.EXACT))
