"""Complete a watch: the best ways to fill its open slots, exact and in order.

Best first over partial fillings. Each has a key no completion of it can beat: the least room so far, or that
any open slot can still keep; then parts to buy; then cost. The first complete filling that comes up, checked
by the whole report, is therefore the best there is, the next the second best, and so on: order is proved by
the search, not sorted into it afterwards.
"""

import heapq
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from itertools import count

import numpy as np

from marquetry.core.evidence.lapse import replaced
from marquetry.core.finder.candidates import NOTHING, Candidate, Slot, off_pads
from marquetry.core.finder.constraints import (
    FREE,
    FURTHEST_MISS,
    MISSED,
    NEVER,
    NOT_KNOWN,
    UNKNOWN,
    Constraints,
    kinds_of,
)
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.sentence import miss
from marquetry.core.fit.stack import Floats
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.entries import Json
from marquetry.core.values.verdict import NOT_TOLD, Verdict

Key = tuple[float, int, int, int]
"""Room left in the worst case (negated), cost in hundredths, parts to buy, wishes missed; less is better."""
DECIMALS = 2
"""Room is told apart by the hundredth: less is not read on any instrument of the bench."""
NOISE = 1e-8
"""More than a derivative over columns may be off: a key must never promise too little."""


Sums = tuple[int, int, int]
"""What adds up over the slots: cost in hundredths, parts to buy, wishes missed."""
NONE: Sums = (0, 0, 0)


@dataclass(frozen=True)
class Filling:
    """A complete watch: the parts chosen, and its report."""

    chosen: Mapping[str, Candidate]
    build: Build
    report: Report
    room: float
    sums: Sums
    tightest: Finding | None
    """The finding with the least room, of those that the chosen parts can change."""

    @property
    def key(self) -> Key:
        """By which fillings are ranked."""
        return (-self.room, *self.sums)

    @property
    def chance(self) -> float:
        """Chance of the least likely finding: no better than that is the whole."""
        told = [f.chance for f in self.report.findings.values() if f.chance is not None]
        return min(told, default=1.0)


@dataclass(order=True)
class _Entry:
    key: Key
    depth: int
    tie: int
    node: "_Node | Filling" = field(compare=False)


@dataclass
class _Node:
    """A partial filling; `siblings` are the places in its slot that come after it, best first."""

    placed: dict[str, int]
    room: float
    refined: bool = False
    siblings: "tuple[_Siblings, int] | None" = None


@dataclass
class _Siblings:
    parent: _Node
    kind: str
    order: np.ndarray[tuple[int], np.dtype[np.int64]]
    rooms: Floats
    rest: Sums


@dataclass
class Search:
    """One search. `looked_at` counts partial fillings; `stop` ends it after the one at hand."""

    build: Build
    rules: Rules
    slots: tuple[Slot, ...]
    unmeasured_ok: bool = False
    missing_ok: bool = False
    """Whether the nearest misses are looked for: fillings with clashes, the least miss first."""
    looked_at: int = 0
    stop: bool = False

    def __post_init__(self) -> None:
        self._slots = kinds_of(self.slots)
        if SPACERS.key in self._slots and self.build.has(SPACERS.key):
            self.build = self.build.without(SPACERS.key)
        # What was tried with the parts that stand there now says nothing of others.
        self.build = replaced(self.build, self._slots.keys(), self.rules.model.dry_fit_by_key)
        self._constraints = Constraints(
            self.build, self.rules, self._slots, self.unmeasured_ok, self.missing_ok
        )
        self._ties = count()
        self._heap: list[_Entry] = []
        self._found: dict[str, dict[frozenset[str], dict[PlacesChosen, Finding]]] = {}

    def best(self, effort: int | None = None) -> Iterator[Filling]:
        """Every filling without a clash, the best first; at most `effort` partial fillings are looked at."""
        if any(not slot.candidates for slot in self.slots):
            return
        self._push(_Node({}, FREE), NONE)
        while self._heap and not self.stop and (effort is None or self.looked_at < effort):
            entry = heapq.heappop(self._heap)
            self.looked_at += 1
            if isinstance(entry.node, Filling):
                yield entry.node
                continue
            self._next_sibling(entry.node)
            self._look_at(entry.node, entry.key)

    def _push(self, node: _Node, rest: Sums) -> None:
        """Put a node on the heap; `rest` are the least sums its open slots still add."""
        own = (self._slots[kind].sums(place) for kind, place in node.placed.items())
        key = (-round(node.room + NOISE, DECIMALS), *added(rest, *own))
        heapq.heappush(self._heap, _Entry(key, -len(node.placed), next(self._ties), node))

    def _next_sibling(self, node: _Node) -> None:
        if node.siblings is None:
            return
        group, index = node.siblings
        node.siblings = None
        self._push_sibling(group, index + 1)

    def _push_sibling(self, group: _Siblings, index: int) -> None:
        if index < len(group.order):
            place = int(group.order[index])
            placed = {**group.parent.placed, group.kind: place}
            child = _Node(placed, float(group.rooms[index]), siblings=(group, index))
            self._push(child, group.rest)

    def _look_at(self, node: _Node, key: Key) -> None:
        open_kinds = [kind for kind in self._slots if kind not in node.placed]
        if not open_kinds:
            self._complete(node)
            return
        rooms = {kind: self._constraints.room_for(kind, node.placed) for kind in open_kinds}
        best = min(float(room.max()) for room in rooms.values())
        if best == NEVER:
            return
        node.room = min(node.room, best)
        rest = self._rest(rooms)
        if not node.refined and -round(node.room + NOISE, DECIMALS) > key[0]:
            node.refined = True
            self._push(node, rest)
            return
        self._expand(node, rooms)

    def _rest(self, rooms: Mapping[str, Floats]) -> Sums:
        """The least that the open slots will still add."""
        return added(*(self._slots[kind].least_sums(room > NEVER) for kind, room in rooms.items()))

    def _expand(self, node: _Node, rooms: dict[str, Floats]) -> None:
        """Fill the slot with the fewest candidates that still fit, best candidates first."""
        kind = min(rooms, key=lambda name: int((rooms[name] > NEVER).sum()))
        slot, room = self._slots[kind], np.minimum(rooms.pop(kind), node.room)
        fitting = np.flatnonzero(room > NEVER)
        kept = np.round(room[fitting] + NOISE, DECIMALS)
        order = fitting[np.lexsort((slot.missed[fitting], slot.bought[fitting], slot.costs[fitting], -kept))]
        rest = self._rest(rooms) if rooms else NONE
        self._push_sibling(_Siblings(node, kind, order, room[order], rest), 0)

    def _complete(self, node: _Node) -> None:
        """Run the whole report on a complete filling; it comes back in its own, exact place."""
        chosen = {kind: self._slots[kind].candidates[place] for kind, place in node.placed.items()}
        build = filled(self.build, chosen)
        report = self._report(build, node.placed)
        found = [finding for finding in report.findings.values() if self.hangs_on_slots(finding)]
        refused = [finding for finding in found if self._refused(finding)]
        if refused and not self.missing_ok:
            return
        known = [f for f in found if f.low is not None and f.verdict not in NOT_TOLD]
        tightest = min(known, key=lambda finding: report.room(finding.check), default=None)
        room = round(report.room(tightest.check) if tightest else 0.0, DECIMALS)
        if any(f.verdict in NOT_TOLD and not self._of_looks(f) for f in found):
            room = min(room, UNKNOWN)
        room = min([room, *(round(self._missed(finding), DECIMALS) for finding in refused)])
        sums = added(*(self._slots[kind].sums(place) for kind, place in node.placed.items()))
        filling = Filling(chosen, build, report, room, sums, tightest)
        heapq.heappush(self._heap, _Entry(filling.key, -len(node.placed) - 1, next(self._ties), filling))

    def _refused(self, finding: Finding) -> bool:
        """Whether no watch with this finding was asked for; looks that are not known do no harm."""
        unknown = finding.verdict in NOT_TOLD and not self._of_looks(finding)
        return finding.verdict is Verdict.CLASH or (unknown and not self.unmeasured_ok)

    def _missed(self, finding: Finding) -> float:
        """What a refused finding counts for where misses are told, in mm: far below any room."""
        if finding.verdict in NOT_TOLD:
            return NOT_KNOWN
        missed = FURTHEST_MISS if finding.value is None else max(-miss(finding), FURTHEST_MISS)
        return MISSED + missed * self.rules.model.check(finding.check).weight

    def _of_looks(self, finding: Finding) -> bool:
        return self.rules.model.check(finding.check).of_looks

    def _report(self, build: Build, placed: Mapping[str, int]) -> Report:
        """The whole report; what a check found is taken again where all that it asked about is the same."""
        found = {check.name: self._finding(check, build, placed) for check in self.rules.model.checks}
        return Report(found, self.rules, build)

    def _finding(self, check: Check, build: Build, placed: Mapping[str, int]) -> Finding:
        known = self._found.setdefault(check.name, {})
        for slots, by_places in known.items():
            here = tuple(sorted((kind, placed[kind]) for kind in slots))
            if here in by_places:
                return by_places[here]
        finding = check.find(build, self.rules)
        slots = self._asked(finding)
        here = tuple(sorted((kind, placed[kind]) for kind in slots))
        known.setdefault(slots, {})[here] = finding
        return finding

    def _asked(self, finding: Finding) -> frozenset[str]:
        """The slots whose parts a check asked about; a dial on its pads brings a spacer along."""
        parts = finding.uses.parts()
        with_pads = parts | {"dial"} if SPACERS.key in parts else parts
        return frozenset(with_pads & self._slots.keys())

    def hangs_on_slots(self, finding: Finding) -> bool:
        """Whether the parts to be chosen can change the finding; nothing they are helps a fixed part."""
        waits = any(path.partition(".")[0] not in self._slots for path in finding.missing)
        return bool(self._asked(finding)) and not waits


PlacesChosen = tuple[tuple[str, int], ...]


def added(*sums: Sums) -> Sums:
    """Sums added up."""
    return (sum(s[0] for s in sums), sum(s[1] for s in sums), sum(s[2] for s in sums))


def filled(build: Build, chosen: Mapping[str, Candidate]) -> Build:
    """The watch with the chosen parts; a spacer of nothing is none."""
    one = {kind: candidate for kind, candidate in chosen.items() if not candidate.part.kind.is_many}
    built = build.with_read({kind: candidate.part.read for kind, candidate in one.items()})
    spacers: list[Json] = list(build.at(SPACERS.key) or [])
    if SPACERS.key in chosen:
        part = chosen[SPACERS.key].part
        spacers = [] if part.dimensions["thickness"].value <= NOTHING else [part.document]
    dial = chosen.get("dial")
    if dial is not None and dial.on_pads:
        bare, pad = off_pads(dial)
        built = built.with_parts({"dial": bare})
        spacers.append(pad)
    return (
        built
        if spacers == (build.at(SPACERS.key) or [])
        else built.with_parts({SPACERS.key: spacers or None})
    )
