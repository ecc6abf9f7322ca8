"""The steps of one watch in the workshop's order, each with what it waits for in this watch.

The order is a topological one in which the ready step of the first group comes next, and within a group the
first in the table; the school ranks the groups. So no school can break an `after` or a gate.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from zlib import crc32

from marquetry.core.bench.situation import Situation, alteration_step
from marquetry.core.bench.step import GROUPS, BenchGroup, BenchStep, StepIds, told
from marquetry.core.bench.steps import STEPS
from marquetry.core.bench.steps.altering import with_alterations
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK
from marquetry.core.sheet.statements import Alteration

EDITION = "2"
"""Of the steps' words. Ways are compared within one edition only: words that the program itself changed would
open every step that was done by the old ones."""


@dataclass(frozen=True, slots=True)
class WatchStep:
    """A step as it stands in one watch. `after` must be done, `gates` passed: steps of the list.

    `shim_mm` is the height of the press plan, not rounded; `donor` where its part comes out of one.
    `curing` is what sets once it is done, and for how many minutes; `held_by` whose curing it waits for.
    """

    step: BenchStep
    title: str
    how: str
    question: str
    caution: str
    after: tuple[str, ...]
    gates: tuple[str, ...]
    parts: tuple[str, ...]
    tools: tuple[str, ...]
    consumables: tuple[str, ...]
    figure: tuple[str, str] | None
    shim_mm: float | None
    donor: str
    curing: tuple[str, int] | None
    held_by: tuple[str, ...]
    alteration: Alteration | None
    """What it does to a bought part, where the sheet plans that."""
    sign: str
    """What tells whether it is still the step that was done: of its parts, and of the way it is done."""

    @property
    def id(self) -> str:
        """Its name in commands, addresses and the log."""
        return self.step.id

    @property
    def group(self) -> BenchGroup:
        """The group it belongs to."""
        return self.step.group

    @property
    def waits(self) -> tuple[str, ...]:
        """All that it waits for: what must have been done, and what must have been passed."""
        return (*self.after, *self.gates)

    @property
    def is_gate(self) -> bool:
        """Whether it is a question that others wait for."""
        return bool(self.question)

    @property
    def curing_minutes(self) -> int:
        """For how many minutes something sets once it is done; 0 for nothing."""
        return self.curing[1] if self.curing else 0


@dataclass(frozen=True)
class Procedure:
    """Every step of one watch, in order."""

    situation: Situation
    steps: tuple[WatchStep, ...]

    @cached_property
    def by_id(self) -> Mapping[str, WatchStep]:
        """Every step by its name."""
        return {step.id: step for step in self.steps}

    def depending_on(self, step_id: str) -> tuple[str, ...]:
        """Steps that come after this one and depend on it, through others too, in order."""
        touched = {step_id}
        for step in self.steps:
            if touched.intersection(step.waits):
                touched.add(step.id)
        return tuple(step.id for step in self.steps if step.id in touched and step.id != step_id)

    @property
    def tools(self) -> tuple[str, ...]:
        """Keys of every tool, in the order in which they come to hand."""
        return tuple(dict.fromkeys(key for step in self.steps for key in step.tools))

    @property
    def consumables(self) -> tuple[str, ...]:
        """Keys of every consumable, likewise."""
        return tuple(dict.fromkeys(key for step in self.steps for key in step.consumables))


def procedure(situation: Situation, table: Sequence[BenchStep] = STEPS) -> Procedure:
    """The steps of this watch, in order."""
    standing = [step for step in with_alterations(tuple(table), situation) if step.stands(situation)]
    ids = {step.id for step in standing}
    held = _held_by(standing, situation)
    waits = {step.id: (_of(step.after, situation, ids), _of(step.gates, situation, ids)) for step in standing}
    return Procedure(
        situation,
        tuple(
            _told(step, situation, *waits[step.id], held.get(step.id, ()))
            for step in ordered(standing, waits, situation)
        ),
    )


def _of(named: StepIds, situation: Situation, ids: set[str]) -> tuple[str, ...]:
    """Those of the named steps that stand in this watch."""
    found = named if isinstance(named, tuple) else named(situation)
    return tuple(step for step in found if step in ids)


Waits = Mapping[str, tuple[tuple[str, ...], tuple[str, ...]]]


def ordered(standing: Sequence[BenchStep], waits: Waits, situation: Situation) -> list[BenchStep]:
    """Each step after what it waits for, the first group first. ValueError where steps wait in a circle."""
    rank = {group: place for place, group in enumerate(group_order(situation))}
    waiting = sorted(standing, key=lambda step: rank[step.group])  # stable: ties keep the table's order
    done: set[str] = set()
    order: list[BenchStep] = []
    while waiting:
        ready = next(
            (step for step in waiting if done.issuperset((*waits[step.id][0], *waits[step.id][1]))), None
        )
        if ready is None:
            raise ValueError(f"steps wait in a circle: {', '.join(step.id for step in waiting)}")
        waiting.remove(ready)
        done.add(ready.id)
        order.append(ready)
    return order


def group_order(situation: Situation) -> tuple[BenchGroup, ...]:
    """The groups as the workshop ranks them."""
    if situation.school("school_order") == "movement_first":
        return GROUPS
    rest = [group for group in GROUPS if group not in {"prepare", "case"}]
    return ("prepare", "case", *rest)


def _held_by(standing: Sequence[BenchStep], situation: Situation) -> dict[str, tuple[str, ...]]:
    held: dict[str, tuple[str, ...]] = {}
    for step in standing:
        if step.curing and step.curing.minutes(situation):
            for other in step.curing.holds:
                held[other] = (*held.get(other, ()), step.id)
    return held


def _told(
    step: BenchStep, s: Situation, after: tuple[str, ...], gates: tuple[str, ...], held_by: tuple[str, ...]
) -> WatchStep:
    curing = step.curing
    minutes = curing.minutes(s) if curing else 0
    parts = tuple(dict.fromkeys(path.partition(".")[0] for path in (*step.parts, *step.shows) if s.has(path)))
    return WatchStep(
        step=step,
        title=told(step.title, s),
        how=told(step.how, s),
        question=told(step.question, s),
        caution=told(step.caution, s),
        after=after,
        gates=gates,
        parts=parts,
        tools=step.tools if isinstance(step.tools, tuple) else step.tools(s),
        consumables=step.consumables if isinstance(step.consumables, tuple) else step.consumables(s),
        figure=step.figure(s),
        shim_mm=s.shims.get(step.hand) if step.id.startswith("press_") else None,
        donor=next((s.from_donors[part] for part in parts if part in s.from_donors), ""),
        curing=(told(curing.what, s), minutes) if curing and minutes else None,
        held_by=held_by,
        alteration=next((one for one in s.alterations if alteration_step(one) == step.id), None),
        sign=_sign(s, parts, told(step.title, s), told(step.how, s), told(step.caution, s)),
    )


def _sign(s: Situation, parts: tuple[str, ...], *way: str) -> str:
    """Which parts it is about, by name and piece, and the way it is done; figures that move do not count."""
    about = repr([_known_as(s.build.at(part)) for part in parts])
    return f"{crc32(about.encode()):08x}.{crc32(repr(way).encode()):08x}.{EDITION}"


def _known_as(part: Json) -> object:
    if isinstance(part, list):
        return [_known_as(one) for one in part]
    return [part.get(key) for key in ("name", PART_LINK, PIECE_LINK)] if isinstance(part, dict) else part
