"""What every check says of the slots to be filled: worst-case room for the candidates of one open slot.

Which slots a check hangs on is not declared anywhere: it is read off the trace of what the check asked, on a
watch with one part of each group in its slot. Within a group the same is known of every part, so that one
trace speaks for all of them; what was found beside parts that say the same is found once.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from marquetry.core.finder.candidates import Slot
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import Column, Judged, Slopes
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import SLACK
from marquetry.core.values.verdict import Verdict

NEVER = -np.inf
FREE = np.inf
UNKNOWN = -1.0
"""What is not known counts as this little room where it is accepted at all: after all that is known."""
MISSED, FURTHEST_MISS, NOT_KNOWN = -1000.0, -100.0, -900.0
"""Where misses are told: a clash counts as this and its miss, words that clash as the furthest, what is not
known and not accepted between them and what goes together."""
MOST_KEPT = 40_000
SAMPLE = 64
Places = Mapping[str, int]
"""Which candidate stands in each slot that is filled already."""
Groups = Mapping[str, int]
"""Which group each slot's candidate belongs to."""


@dataclass
class Constraints:
    """The rooms of one search, in mm; all that is found is kept as long as the search lasts."""

    build: Build
    rules: Rules
    slots: Mapping[str, Slot]
    unmeasured_ok: bool = False
    missing_ok: bool = False
    """Whether what does not go together is told by how much it misses, instead of being left out."""
    _builds: dict[tuple[int, ...], Build] = field(default_factory=dict)
    _probes: dict[tuple[str, tuple[int, ...]], Finding] = field(default_factory=dict)
    _speaking: dict[tuple[str, tuple[int, ...]], list[tuple[Check, frozenset[str]]]] = field(
        default_factory=dict
    )
    _slopes: dict[tuple[str, tuple[tuple[str, int], ...]], Slopes] = field(default_factory=dict)
    _said: dict[tuple[str, str, int], NDArray[np.float64]] = field(default_factory=dict)
    _rooms: dict[tuple[object, ...], Floats] = field(default_factory=dict)

    def room_for(self, kind: str, placed: Places) -> Floats:
        """Room for every candidate of an open slot beside what is placed, as far as it can be said yet."""
        slot = self.slots[kind]
        room = np.full(len(slot.candidates), FREE)
        beside = {other: int(self.slots[other].group_of[place]) for other, place in placed.items()}
        for number, group in enumerate(slot.groups):
            groups = {**beside, kind: number}
            least = np.full(len(group.members), FREE)
            for check, hangs_on in self._speak(kind, groups):
                least = np.minimum(least, self._beside(check, kind, {k: groups[k] for k in hangs_on}, placed))
            room[group.members] = least
        return room

    def _speak(self, kind: str, groups: Groups) -> list[tuple[Check, frozenset[str]]]:
        """The checks that hang on this slot and on others that are all filled, with the slots of each."""
        key = (kind, self._key(groups))
        if key not in self._speaking:
            found = ((check, self._hangs_on(check, groups)) for check in self.rules.model.checks)
            self._speaking[key] = [(c, on) for c, on in found if kind in on and on <= groups.keys()]
        return self._speaking[key]

    def _key(self, groups: Groups) -> tuple[int, ...]:
        return tuple(groups.get(kind, -1) for kind in self.slots)

    def representative(self, groups: Groups) -> Build:
        """The watch with one part of each group in its slot; slots not named hold one of their first."""
        key = tuple(max(number, 0) for number in self._key(groups))
        if key not in self._builds:
            chosen = (
                (slot, slot.groups[number]) for slot, number in zip(self.slots.values(), key, strict=True)
            )
            held = {slot.kind: slot.candidates[group.members[0]].part.read for slot, group in chosen}
            self._builds[key] = self.build.with_read(held)
        return self._builds[key]

    def _probe(self, check: Check, groups: Groups) -> Finding:
        key = (check.name, tuple(max(number, 0) for number in self._key(groups)))
        if key not in self._probes:
            self._probes[key] = check.find(self.representative(groups), self.rules)
        return self._probes[key]

    def _hangs_on(self, check: Check, groups: Groups) -> frozenset[str]:
        """The slots a check hangs on; none where it says nothing here, or waits for a fixed dimension."""
        probe = self._probe(check, groups)
        waits = any(path.partition(".")[0] not in self.slots for path in probe.missing)
        silent = probe.verdict is Verdict.SKIPPED and not check.skips_by_figures
        if waits or silent:
            return frozenset()
        return probe.uses.parts() & self.slots.keys()

    def _beside(self, check: Check, kind: str, groups: Groups, placed: Places) -> Floats:
        """Room that one check leaves each member of the open slot's group, beside what is placed."""
        others = sorted(groups.keys() - {kind})
        said = tuple(self._says(check, other, groups, placed[other]) for other in others)
        key = (check.name, kind, groups[kind], *((other, groups[other]) for other in others), said)
        if key not in self._rooms:
            if len(self._rooms) > MOST_KEPT:
                self._rooms.clear()
            self._rooms[key] = self._judge(check, kind, groups, placed)
        return self._rooms[key]

    def _says(self, check: Check, kind: str, groups: Groups, place: int) -> bytes:
        """All that a placed part says to this check, in figures; parts that say the same are one."""
        key = (check.name, kind, groups[kind])
        slot = self.slots[kind]
        if key not in self._said:
            group, uses = slot.groups[groups[kind]], self._probe(check, groups).uses
            read = [column for path, column in group.columns.items() if uses.hangs_on(path)]
            flat = [part for column in read for part in (column.values, column.tols)]
            self._said[key] = np.column_stack(flat) if flat else np.zeros((len(group.members), 0))
        told: bytes = self._said[key][slot.row_of[place]].tobytes()
        return told

    def _judge(self, check: Check, kind: str, groups: Groups, placed: Places) -> Floats:
        build, columns = self.representative(groups), self._columns(groups, placed)
        judged = check.over(build, self.rules, columns, self._flat(check, groups))
        judged = None if judged is None else judged.resting_on(self._probe(check, groups))
        size = len(self.slots[kind].groups[groups[kind]].members)
        return np.full(size, FREE) if judged is None else np.broadcast_to(self._room(check, judged), (size,))

    def _room(self, check: Check, judged: Judged) -> Floats:
        """Worst-case room; NEVER where the nominal value clashes or, unless accepted, is not known.

        What is a matter of looks is no reason to leave a part out before it is known.
        """
        missed = (
            MISSED + np.maximum(judged.nominal, FURTHEST_MISS) * check.weight if self.missing_ok else NEVER
        )
        room = np.where(judged.nominal >= -SLACK, judged.worst * check.weight, missed)
        room = np.where(np.isposinf(judged.nominal), FREE, room)
        accepted = UNKNOWN if self.unmeasured_ok else NOT_KNOWN if self.missing_ok else NEVER
        unknown = FREE if check.of_looks else accepted
        return np.where(np.isnan(judged.nominal), unknown, room)

    def _columns(self, groups: Groups, placed: Places) -> dict[str, Column]:
        """The dimensions of the open slot's group as columns, those of placed parts as one value each."""
        found: dict[str, Column] = {}
        for kind, number in groups.items():
            slot = self.slots[kind]
            group = slot.groups[number]
            row = (
                slice(None)
                if kind not in placed
                else slice(slot.row_of[placed[kind]], slot.row_of[placed[kind]] + 1)
            )
            found |= {path: Column(c.values[row], c.tols[row]) for path, c in group.columns.items()}
        return found

    def _flat(self, check: Check, groups: Groups) -> Slopes:
        """The check's slopes that are the same whichever of these groups' parts are put together."""
        key = (check.name, tuple(sorted(groups.items())))
        if key not in self._slopes:
            chance = np.random.default_rng(1)
            sample: dict[str, Column] = {}
            for kind, number in groups.items():
                group = self.slots[kind].groups[number]
                rows = chance.integers(len(group.members), size=SAMPLE)
                sample |= {path: Column(c.values[rows], c.tols[rows]) for path, c in group.columns.items()}
            self._slopes[key] = check.flat(self.representative(groups), self.rules, sample)
        return self._slopes[key]


def kinds_of(slots: Sequence[Slot]) -> dict[str, Slot]:
    """Slots by their kind."""
    return {slot.kind: slot for slot in slots}
