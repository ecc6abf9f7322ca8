"""Will these two ever meet: every part of one kind against every part of another, in the rest of a watch.

A cell hangs on the checks that read both parts. Where the stem stands too high, the spacer it takes is put in
first, as far as one is accepted, and everything else is judged with it.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.finder.candidates import NOTHING, Group, Slot
from marquetry.core.finder.constraints import BY_WORD, FEET, FEET_MEET
from marquetry.core.fit.checks import CHECK_BY_NAME, CHECKS
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import (
    CODES,
    Column,
    ColumnReadings,
    codes_of,
    hand_stack_worst,
    judge_columns,
)
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.remedies.idea import MADE_TOL
from marquetry.core.remedies.spacers import LAYER
from marquetry.core.sheet.build import Build, dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.limits import SLACK
from marquetry.core.values.verdict import Verdict

PAIRS: tuple[tuple[str, str], ...] = (
    ("movement", "case"), ("dial", "movement"), ("hands", "movement"), ("crystal", "case"),
)  # fmt: skip
STEM, HAND_STACK = CHECK_BY_NAME["stem_height"], CHECK_BY_NAME["hand_stack"]
SPACER = "spacers.0.thickness"
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
    names = tuple(check.name for check in CHECKS)
    table = PairTable(
        names,
        np.full(shape, CODES.index(Verdict.UNMEASURED), dtype=np.int8),
        np.zeros(shape),
        np.full(shape, -1, dtype=np.int16),
    )
    for row_group, column_group in ((a, b) for a in rows.groups for b in columns.groups):
        for block in _blocks(row_group, column_group):
            _Pairs(build, rules, (rows, block), (columns, column_group), most_spacer).judge(table)
    return table


def _blocks(rows: Group, columns: Group) -> Iterator[Group]:
    """The rows' group in pieces small enough to be judged at once."""
    size = max(1, MOST_CELLS // max(len(columns.members), 1))
    for start in range(0, len(rows.members), size):
        piece = slice(start, start + size)
        held = {path: Column(c.values[piece], c.tols[piece]) for path, c in rows.columns.items()}
        yield Group(rows.slot, rows.members[piece], rows.document, held)


class _Pairs:
    """The pairs of two groups: everything but the figures is the same throughout."""

    def __init__(
        self,
        build: Build,
        rules: Rules,
        rows: tuple[Slot, Group],
        columns: tuple[Slot, Group],
        most_spacer: float,
    ) -> None:
        self._rules, self._most = rules, most_spacer
        (self._row_slot, self._rows), (self._column_slot, self._columns) = rows, columns
        self._kinds = {self._row_slot.kind, self._column_slot.kind}
        spacers = [{"side": "dial", "thickness": _exact(NOTHING)}, *(build.at("spacers") or [])]
        held = {self._row_slot.kind: self._rows.document, self._column_slot.kind: self._columns.document}
        self._build = build.with_parts({**held, "spacers": spacers})
        self._shape = (len(self._rows.members), len(self._columns.members))
        self._moved: dict[str, Column] = {
            path.replace("spacers.0", "spacers.1"): group.column(path, axis, 2)
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
        for number, check in enumerate(CHECKS):
            found = None if check is HAND_STACK else self._codes(check)
            if found is not None:
                self._take_over(codes, worst, found, number)
        self._hands(codes, worst)
        table.codes[place] = np.where(codes < 0, CODES.index(Verdict.UNMEASURED), codes)
        table.worst[place] = worst

    @staticmethod
    def _take_over(codes: Codes, worst: NDArray[np.int16], found: Codes, number: int) -> None:
        """Where the check is graver than what was found before, it decides the cell."""
        graver = np.where(codes < 0, -1, GRAVITY[codes]) < GRAVITY[found]
        np.copyto(codes, found, where=graver)
        worst[graver] = number

    def _reads_both(self, check: Check) -> bool:
        readings = ColumnReadings(self._build, self._rules, {})
        if check.formula is None or check.formula(readings) is None or readings.absent:
            return False
        parts = {path.partition(".")[0] for path in readings.uses}
        waits = any(path.partition(".")[0] not in self._kinds for path in readings.missing)
        return self._kinds <= parts and not waits and FEET not in readings.uses

    def _spacers(self) -> Floats:
        """What is missing at the stem, in steps that can be made; none where more than accepted."""
        if not (self._most and self._reads_both(STEM)):
            return np.zeros(self._shape)
        found = judge_columns(STEM, self._build, self._rules, self._moved)
        if found is None:
            return np.zeros(self._shape)
        wanted = np.round(np.broadcast_to(found.values, self._shape) / LAYER) * LAYER
        needed = found.values > (found.limits.high or 0.0) - found.doubts
        return np.where(needed & (wanted > 0) & (wanted <= self._most + SLACK), wanted, 0.0)

    def _codes(self, check: Check) -> Codes | None:
        """The check's verdict for every cell; None where it does not hang on both parts."""
        if check.name in BY_WORD:
            return self._by_word(check)
        if check.name == "dial_feet":
            return self._feet(check)
        if not self._reads_both(check):
            return None
        found = judge_columns(check, self._build, self._rules, self._moved)
        return None if found is None else np.broadcast_to(found.verdict_codes(), self._shape)

    def _by_word(self, check: Check) -> Codes | None:
        if not self._kinds <= set(BY_WORD[check.name]):
            return None
        verdict = check.find(self._build, self._rules).verdict
        return None if verdict not in CODES else np.full(self._shape, CODES.index(verdict), dtype=np.int8)

    def _hands(self, codes: Codes, worst: NDArray[np.int16]) -> None:
        """The hand stack, which costs the most, only where no other check has the cell clash already."""
        parts = {path.partition(".")[0] for path in HAND_STACK.find(self._build, self._rules).uses}
        rows, columns = np.nonzero(codes != CODES.index(Verdict.CLASH))
        if not self._kinds <= parts or not rows.size:
            return
        for start in range(0, rows.size, MOST_CELLS):
            cells = (rows[start : start + MOST_CELLS], columns[start : start + MOST_CELLS])
            found = hand_stack_worst(self._build, self._rules, self._at(cells))
            if found is not None:
                judged = codes_of(*found)
                before, by = codes[cells], worst[cells]
                self._take_over(before, by, judged, CHECKS.index(HAND_STACK))
                codes[cells], worst[cells] = before, by

    def _at(self, cells: tuple[NDArray[np.int64], NDArray[np.int64]]) -> dict[str, Column]:
        """Every column at these cells only."""
        return {
            path: Column(
                *(np.broadcast_to(part, self._shape)[cells] for part in (column.values, column.tols))
            )
            for path, column in self._moved.items()
        }

    def _feet(self, check: Check) -> Codes | None:
        """Found once for each kind of feet over each kind of holes: parts of one family say the same."""
        if not self._kinds <= FEET_MEET.keys():
            return None
        (row_codes, rows), (column_codes, columns) = (
            _families(slot, group)
            for slot, group in ((self._row_slot, self._rows), (self._column_slot, self._columns))
        )
        families = np.array([[self._feet_code(check, row, column) for column in columns] for row in rows])
        return families[np.ix_(row_codes, column_codes)].astype(np.int8)

    def _feet_code(self, check: Check, row: int, column: int) -> int:
        held = {
            self._row_slot.kind: self._row_slot.candidates[self._rows.members[row]].part.document,
            self._column_slot.kind: self._column_slot.candidates[self._columns.members[column]].part.document,
        }
        verdict = check.find(self._build.with_parts(held), self._rules).verdict
        return CODES.index(verdict) if verdict in CODES else CODES.index(Verdict.CLEAR)


def _families(slot: Slot, group: Group) -> tuple[NDArray[np.int64], list[int]]:
    """For each member the number of its family, and one member's row for each: alike in feet or holes."""
    known: dict[str, int] = {}
    firsts: list[int] = []
    codes = np.zeros(len(group.members), dtype=np.int64)
    for row, member in enumerate(group.members):
        document = slot.candidates[member].part.document
        said = str([document.get(entry) for entry in FEET_MEET[slot.kind]])
        if said not in known:
            known[said] = len(firsts)
            firsts.append(row)
        codes[row] = known[said]
    return codes, firsts


def _exact(value: float) -> Mapping[str, object]:
    return dimension_as_json(Dimension(value, 0.0, Source.EXACT))
