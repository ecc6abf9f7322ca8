"""What work took against what it usually takes: by step, by group of steps, by watch."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from statistics import median

from marquetry.core.bench.run import Run
from marquetry.core.bench.step import GROUP_LABELS, GROUPS, BenchGroup


@dataclass(frozen=True, slots=True)
class StepTake:
    """A step of one build: its usual minutes and those that were spent on it."""

    step: str
    title: str
    group: BenchGroup
    usual: float
    taken: float


@dataclass(frozen=True, slots=True)
class StepPace:
    """A step over all builds, minutes: usual and the median taken, of so many builds."""

    step: str
    title: str
    group: BenchGroup
    usual: float
    taken: float
    count: int

    @property
    def over(self) -> float:
        """How many minutes more than usual; below nought where fewer."""
        return self.taken - self.usual


@dataclass(frozen=True, slots=True)
class GroupPace:
    """A group of steps over all builds: minutes that were usual and minutes taken, added."""

    group: BenchGroup
    label: str
    usual: float
    taken: float


def takes_of(run: Run) -> list[StepTake]:
    """Every step of a build that was settled and timed, minutes."""
    found = []
    for stand in run.stands.values():
        seconds = run.seconds.get(stand.step.id, 0.0)
        if stand.answered and seconds > 0:
            step = stand.step
            found.append(StepTake(step.id, step.title, step.group, step.step.minutes, seconds / 60.0))
    return found


def paces(builds: Iterable[Iterable[StepTake]]) -> list[StepPace]:
    """By step, those furthest over the usual first."""
    found: dict[str, list[StepTake]] = {}
    for takes in builds:
        for take in takes:
            found.setdefault(take.step, []).append(take)
    steps = [
        StepPace(
            first.step,
            first.title,
            first.group,
            first.usual,
            median(take.taken for take in takes),
            len(takes),
        )
        for takes in found.values()
        for first in takes[:1]
    ]
    return sorted(steps, key=lambda step: -step.over)


def group_paces(builds: Iterable[Iterable[StepTake]]) -> list[GroupPace]:
    """By group of steps, in the bench's order; groups that nothing was timed of are left out."""
    usual: dict[BenchGroup, float] = dict.fromkeys(GROUPS, 0.0)
    taken: dict[BenchGroup, float] = dict.fromkeys(GROUPS, 0.0)
    for takes in builds:
        for take in takes:
            usual[take.group] += take.usual
            taken[take.group] += take.taken
    return [GroupPace(g, GROUP_LABELS[g], usual[g], taken[g]) for g in GROUPS if taken[g] > 0]


@dataclass(frozen=True, slots=True)
class MishapCost:
    """What one kind of mishap cost over the years: how often, minutes, minor units of home's currency."""

    kind: str
    label: str
    count: int
    minutes: int
    minor: int


def mishap_costs(noted: Iterable[tuple[str, int, int]], labels: Mapping[str, str]) -> list[MishapCost]:
    """By kind, the dearest first, from (kind, minutes, minor units) of each that was noted."""
    found: dict[str, list[tuple[int, int]]] = {}
    for kind, minutes, minor in noted:
        found.setdefault(kind, []).append((minutes, minor))
    costs = [
        MishapCost(kind, labels.get(kind, kind), len(each), sum(m for m, _ in each), sum(c for _, c in each))
        for kind, each in found.items()
    ]
    return sorted(costs, key=lambda cost: (-cost.minor, -cost.minutes, cost.kind))
