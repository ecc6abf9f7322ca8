"""What every check says of the slots to be filled: worst-case room for one slot, for pairs, and for more.

Which slots a check hangs on is not declared anywhere: it is read off what its formula reads.
"""

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import combinations, product

import numpy as np
from numpy.typing import NDArray

from marquetry.core.finder.candidates import Slot
from marquetry.core.fit.checks import CHECK_BY_NAME, CHECKS
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import (
    Column,
    ColumnReadings,
    Judged,
    flat_slopes,
    hand_stack_worst,
    judge_columns,
)
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.remedies.offers import PER_CENT, room_of
from marquetry.core.sheet.build import FORMAT, Build
from marquetry.core.values.limits import SLACK
from marquetry.core.values.verdict import Verdict

NEVER = -np.inf
FREE = np.inf
UNKNOWN = -1.0
"""What is not known counts as this little room where it is accepted at all: after all that is known."""
FORMULAS = tuple(check for check in CHECKS if check.formula is not None)
FEET = "dial.feet"
Entries = dict[str, tuple[str, ...]]
FEET_MEET: Entries = {"dial": ("feet",), "movement": ("foot_holes",), "case": ("crown_angle",)}
FEET_PARTS: Entries = {**FEET_MEET, "movement": ("foot_holes", "foot_hole_depth")}
FEET_CHECKS: tuple[tuple[tuple[str, ...], Entries], ...] = (
    (("dial_feet",), FEET_MEET),
    (("foot_engagement", "foot_bottoming"), FEET_PARTS),
)
"""What the checks of feet hang on besides spacers: no column can say which foot meets which hole."""
BY_WORD = {"functions": ("dial", "movement", "hands"), "stem_thread": ("crown", "stem")}
"""Checks of words alone; a group's words are the same throughout."""
Places = Mapping[str, int]
"""Which candidate stands in each slot that is filled already."""


@dataclass
class Constraints:
    """The tables for one search. `single[a]` has a row a candidate, `pair[a, b]` a row and a column."""

    build: Build
    rules: Rules
    slots: Mapping[str, Slot]
    unmeasured_ok: bool = False
    single: dict[str, Floats] = field(default_factory=dict)
    pair: dict[tuple[str, str], Floats] = field(default_factory=dict)
    _builds: dict[tuple[tuple[str, int], ...], Build] = field(default_factory=dict)
    _reads: dict[tuple[str, tuple[tuple[str, int], ...]], frozenset[str] | None] = field(default_factory=dict)
    _words: dict[tuple[str, tuple[tuple[str, int], ...]], float] = field(default_factory=dict)
    _feet_rooms: dict[tuple[tuple[str, ...], tuple[tuple[str, str], ...]], float] = field(
        default_factory=dict
    )
    _words_said: dict[tuple[str, int, tuple[str, ...]], str] = field(default_factory=dict)
    _slopes: dict[tuple[str, tuple[tuple[str, int], ...]], dict[str, float]] = field(default_factory=dict)
    _kept: dict[tuple[str, str, tuple[tuple[str, int], ...]], Floats] = field(default_factory=dict)

    def tabulate(self) -> None:
        """Work out the tables for single slots and for pairs."""
        for kind, slot in self.slots.items():
            self.single[kind] = self._table((kind,), (len(slot.candidates),))
        for first, second in combinations(self.slots, 2):
            sizes = tuple(len(self.slots[kind].candidates) for kind in (first, second))
            table = self._table((first, second), sizes)
            self.pair[first, second] = table
            self.pair[second, first] = table.T

    def _table(self, kinds: tuple[str, ...], sizes: tuple[int, ...]) -> Floats:
        """Least room over the checks that hang on exactly these slots."""
        table = np.full(sizes, FREE)
        for groups in product(*(range(len(self.slots[kind].groups)) for kind in kinds)):
            chosen = dict(zip(kinds, groups, strict=True))
            members = [self.slots[kind].groups[number].members for kind, number in chosen.items()]
            for check in FORMULAS:
                if self.reads(check, chosen) == frozenset(kinds):
                    _lower(table, members, self._judged(check, chosen, {}))
        return table

    def representative(self, groups: Mapping[str, int]) -> Build:
        """The watch with one part of each group in its slot; slots not named hold one of their first."""
        key = tuple((kind, groups.get(kind, 0)) for kind in self.slots)
        if key not in self._builds:
            held = {kind: _held(kind, self.slots[kind].groups[number].document) for kind, number in key}
            self._builds[key] = self.build.with_parts(held)
        return self._builds[key]

    def reads(self, check: Check, groups: Mapping[str, int]) -> frozenset[str] | None:
        """The slots a check hangs on; None where it says nothing here, or waits for a fixed dimension."""
        key = (check.name, tuple((kind, groups.get(kind, 0)) for kind in self.slots))
        if key not in self._reads:
            self._reads[key] = self._read(check, self.representative(groups))
        return self._reads[key]

    def _read(self, check: Check, build: Build) -> frozenset[str] | None:
        readings = ColumnReadings(build, self.rules, {})
        if check.formula is None or check.formula(readings) is None or readings.absent:
            return None
        parts = {path.partition(".")[0] for path in readings.uses}
        waits = any(path.partition(".")[0] not in self.slots for path in readings.missing)
        return None if waits or FEET in readings.uses else frozenset(parts & self.slots.keys())

    def _judged(self, check: Check, groups: Mapping[str, int], placed: Places) -> Floats:
        """Room for each candidate, along one axis a group; `placed` slots hold one candidate."""
        build = self.representative(groups)
        moved = self._moved(groups, placed)
        judged = judge_columns(check, build, self.rules, moved, self._flat(check, groups))
        shape = tuple(
            len(self.slots[kind].groups[groups[kind]].members) for kind in groups if kind not in placed
        )
        if judged is None:
            return np.full(shape, FREE)
        return np.broadcast_to(self._room(check, judged), shape)

    def _flat(self, check: Check, groups: Mapping[str, int]) -> dict[str, float]:
        """The check's slopes that are the same whichever of these groups' parts are put together."""
        key = (check.name, tuple(sorted(groups.items())))
        if key not in self._slopes:
            chance = np.random.default_rng(1)
            sample: dict[str, Column] = {}
            for kind, number in groups.items():
                group = self.slots[kind].groups[number]
                rows = chance.integers(len(group.members), size=SAMPLE)
                for path, column in group.columns.items():
                    sample[path] = Column(column.values[rows], column.tols[rows])
            self._slopes[key] = flat_slopes(check, self.representative(groups), self.rules, sample)
        return self._slopes[key]

    def _room(self, check: Check, judged: Judged) -> Floats:
        """Worst-case room; NEVER where the nominal value clashes or, unless accepted, is not known."""
        scale = PER_CENT if check.unit == "%" else 1.0
        middle = judged.nominal_margins
        room = np.where(middle >= -SLACK, middle * scale - judged.doubts * scale, NEVER)
        # Of a group the same is known throughout: where one value is not known, none is.
        if self.unmeasured_ok and np.isnan(judged.values.flat[0]):
            return np.full(room.shape, UNKNOWN)
        return room

    def _moved(self, groups: Mapping[str, int], placed: Places) -> dict[str, Column]:
        moved: dict[str, Column] = {}
        open_kinds = [kind for kind in groups if kind not in placed]
        for kind, number in groups.items():
            group = self.slots[kind].groups[number]
            for path, column in group.columns.items():
                if kind in placed:
                    row = self.slots[kind].row_of[placed[kind]]
                    moved[path] = Column(column.values[row : row + 1], column.tols[row : row + 1])
                else:
                    moved[path] = group.column(path, open_kinds.index(kind), len(open_kinds))
        return moved

    def room_for(self, kind: str, placed: Places) -> Floats:
        """Room for every candidate of an open slot beside what is placed, as far as it can be said yet."""
        room = self.single[kind].copy()
        for other, place in placed.items():
            np.minimum(room, self.pair[other, kind][place], out=room)
        for number, group in enumerate(self.slots[kind].groups):
            if np.all(room[group.members] == NEVER):
                continue
            least = np.minimum(room[group.members], self._together(kind, number, placed))
            room[group.members] = np.minimum(least, self._feet((kind, number), placed, least > NEVER))
        return room

    def _together(self, kind: str, number: int, placed: Places) -> Floats:
        """Least room over the checks on three slots and more, of which only this one is open."""
        groups = {other: int(self.slots[other].group_of[place]) for other, place in placed.items()}
        groups[kind] = number
        least = np.full(len(self.slots[kind].groups[number].members), FREE)
        for check in FORMULAS:
            hangs_on = self.reads(check, groups)
            if hangs_on is not None and kind in hangs_on and len(hangs_on) > 2 and hangs_on <= groups.keys():  # noqa: PLR2004  # pairs have a table
                least = np.minimum(least, self._remembered(check, kind, _only(groups, hangs_on), placed))
        if groups.keys() == self.slots.keys():
            least = np.minimum(least, self._hands(kind, groups, placed))
        bounded: Floats = np.minimum(least, self._by_word(kind, groups))
        return bounded

    def _by_word(self, kind: str, groups: dict[str, int]) -> float:
        """Room that the checks of words alone leave to these groups, so far as their parts are known."""
        least = FREE
        for name, parts in BY_WORD.items():
            wanted = set(parts) & self.slots.keys()
            if kind in wanted and wanted <= groups.keys():
                key = (name, tuple(sorted((k, groups[k]) for k in wanted)))
                if key not in self._words:
                    finding = CHECK_BY_NAME[name].find(self.representative(groups), self.rules)
                    self._words[key] = self._found_room(finding)
                least = min(least, self._words[key])
        return least

    def _feet(self, where: tuple[str, int], placed: Places, may_fit: NDArray[np.bool_]) -> Floats:
        """Room of the checks that go by which feet meet which holes, run on the parts that may still fit."""
        kind, number = where
        members = self.slots[kind].groups[number].members
        room = np.full(len(members), FREE)
        wanted = set(FEET_PARTS) & self.slots.keys()
        if kind in wanted and wanted <= {*placed, kind}:
            beside = _only(placed, wanted)
            for row in np.flatnonzero(may_fit):
                room[row] = self._feet_room({**beside, kind: int(members[row])})
        return room

    def _feet_room(self, places: Places) -> float:
        """Whether feet and holes meet at all goes first: it is the same for a whole family of parts."""
        least = FREE
        for checks, parts in FEET_CHECKS:
            key = (checks, tuple((kind, self._said(kind, place, parts)) for kind, place in places.items()))
            if key not in self._feet_rooms:
                build = self._feet_build(places)
                found = (CHECK_BY_NAME[name].find(build, self.rules) for name in checks)
                self._feet_rooms[key] = min(map(self._found_room, found))
            least = min(least, self._feet_rooms[key])
            if least == NEVER:
                break
        return least

    def _feet_build(self, places: Places) -> Build:
        """A watch of nothing but what the checks of feet read."""
        parts = {kind: self.build.at(kind) for kind in FEET_PARTS if self.build.has(kind)}
        parts |= {kind: self.slots[kind].candidates[place].part.document for kind, place in places.items()}
        bare = {
            kind: {key: held[key] for key in FEET_PARTS[kind] if key in held} for kind, held in parts.items()
        }
        spacers = {"spacers": self.build.at("spacers")} if self.build.has("spacers") else {}
        return Build({"format": FORMAT, "name": "feet", "parts": {**bare, **spacers}})

    def _said(self, kind: str, place: int, parts: Mapping[str, tuple[str, ...]]) -> str:
        """What a part says of these entries."""
        key = (kind, place, parts[kind])
        if key not in self._words_said:
            document = self.slots[kind].candidates[place].part.document
            self._words_said[key] = json.dumps([document.get(entry) for entry in parts[kind]], sort_keys=True)
        return self._words_said[key]

    def _found_room(self, finding: Finding) -> float:
        if finding.verdict is Verdict.UNMEASURED:
            waits = any(path.partition(".")[0] not in self.slots for path in finding.missing)
            return FREE if waits else UNKNOWN if self.unmeasured_ok else NEVER
        if finding.verdict is Verdict.CLASH:
            return NEVER
        return FREE if finding.low is None else room_of(finding)

    def _remembered(self, check: Check, kind: str, groups: dict[str, int], placed: Places) -> Floats:
        beside = tuple((other, placed[other]) for other in groups if other != kind)
        key = (check.name, f"{kind}/{groups[kind]}", beside)
        if key not in self._kept:
            if len(self._kept) > MOST_KEPT:
                self._kept.clear()
            self._kept[key] = self._judged(check, groups, _only(placed, groups.keys() - {kind}))
        return self._kept[key]

    def _hands(self, kind: str, groups: dict[str, int], placed: Places) -> Floats:
        """The hand stack's nominal room: an upper bound of its worst case."""
        size = len(self.slots[kind].groups[groups[kind]].members)
        build = self.representative(groups)
        if not all(build.has(part) for part in ("hands", "movement", "dial", "case", "crystal")):
            return np.full(size, FREE)
        found = hand_stack_worst(build, self.rules, self._moved(groups, placed))
        if found is None:
            return np.full(size, FREE)
        middle, worst = found
        room = np.where(middle < -SLACK, NEVER, worst)
        return np.broadcast_to(
            np.where(np.isnan(middle), UNKNOWN if self.unmeasured_ok else NEVER, room), (size,)
        )


MOST_KEPT = 20_000
SAMPLE = 64


def _lower(table: Floats, members: Sequence[NDArray[np.int64]], room: Floats) -> None:
    """Bring the members' cells down to the room; all of a table at once where that is all of it."""
    if room.shape == table.shape:
        np.minimum(table, room, out=table)
    else:
        place = np.ix_(*members)
        table[place] = np.minimum(table[place], room)


def _only(places: Mapping[str, int], kinds: Iterable[str]) -> dict[str, int]:
    wanted = set(kinds)
    return {kind: place for kind, place in places.items() if kind in wanted}


def _held(kind: str, document: object) -> object:
    """The document as its slot holds it: one spacer stands in a list."""
    return [document] if kind == "spacers" else document


def kinds_of(slots: Sequence[Slot]) -> dict[str, Slot]:
    """Slots by their kind."""
    return {slot.kind: slot for slot in slots}
