"""Time on the bench: what sets and when it rings, how long was spent on each step, how long is left."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.bench.log import ANSWERS, LogEntry

MINUTE_MS = 60_000
LONGEST_STRETCH_MS = 30 * MINUTE_MS
"""A stretch without a sign of life counts no longer: the tablet was laid aside, or the program stopped."""
LONGEST_TIMER_MINUTES = 7 * 24 * 60


@dataclass(frozen=True, slots=True)
class BenchTimer:
    """Something that sets, begun by a step: rings at `rings_ms`; `quiet` once it was heard or passed over."""

    step: str
    words: str
    begun_ms: int
    rings_ms: int
    quiet: bool = False

    def holds(self, now_ms: int) -> bool:
        """Whether steps that wait for it still have to."""
        return not self.quiet and now_ms < self.rings_ms


def timers_of(entries: Sequence[LogEntry]) -> dict[str, BenchTimer]:
    """The newest timer of each step, from entries in order: a `timer` begins it, a `quiet` ends it."""
    found: dict[str, BenchTimer] = {}
    for entry in entries:
        if entry.what == "timer" and entry.value:
            rings = entry.at_ms + round(entry.value * MINUTE_MS)
            found[entry.step] = BenchTimer(entry.step, entry.words, entry.at_ms, rings)
        elif entry.what == "quiet" and entry.step in found:
            timer = found[entry.step]
            found[entry.step] = BenchTimer(
                timer.step, timer.words, timer.begun_ms, timer.rings_ms, quiet=True
            )
        elif entry.what in {"open", "mishap"}:
            found.pop(entry.step, None)
    return found


def seconds_by_step(entries: Sequence[LogEntry], now_ms: int) -> dict[str, float]:
    """Seconds spent on each step: from its start until it was left or answered, at the same device."""
    spent: dict[str, float] = {}
    running: dict[str, LogEntry] = {}
    for entry in entries:
        if entry.what in {"start", "pause", *ANSWERS}:
            begun = running.pop(entry.device, None)
            if begun:
                _add(spent, begun, entry.at_ms)
        if entry.what == "start":
            running[entry.device] = entry
    for begun in running.values():
        _add(spent, begun, now_ms)
    return spent


def _add(spent: dict[str, float], begun: LogEntry, until_ms: int) -> None:
    stretch = min(max(until_ms - begun.at_ms, 0), LONGEST_STRETCH_MS)
    spent[begun.step] = spent.get(begun.step, 0.0) + stretch / 1000.0


@dataclass(frozen=True, slots=True)
class Ahead:
    """How long is left: minutes at the bench, minutes of setting that nothing else fills, own times used."""

    minutes: float
    setting: int
    steps: int
    own: int


def ahead(left: Sequence[tuple[str, int, int]], own: Mapping[str, float]) -> Ahead:
    """From steps that are left, with usual minutes and curing: by own times where there are any."""
    minutes = sum(own.get(step, float(usual)) for step, usual, _ in left)
    known = sum(step in own for step, _, _ in left)
    return Ahead(minutes, sum(curing for _, _, curing in left), len(left), known)
