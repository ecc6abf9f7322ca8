"""The log of the bench: what was tapped, read and taken off, in order; nothing in it is ever changed.

What state a step is in follows from it (`run`). An entry is taken back by one that undoes it.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal, get_args

from marquetry.core.sheet.entries import Json

BenchWhat = Literal[
    "start", "pause", "done", "yes", "no", "skip", "open", "gap", "length", "cut", "file", "height", "timer",
    "quiet", "mishap", "note", "photo", "ready", "undo",
]  # fmt: skip
BENCH_WHATS: tuple[BenchWhat, ...] = get_args(BenchWhat)
ANSWERS: tuple[BenchWhat, ...] = ("done", "yes", "no", "skip")
MEASURED_WHATS: tuple[BenchWhat, ...] = ("gap", "length", "cut", "file", "height")
LONGEST_WORDS = 400
LONGEST_KEY = 64


@dataclass(frozen=True, slots=True)
class LogEntry:
    """One entry. `key` is made where it was tapped, so that sending it twice writes it once.

    `at_ms` is when it happened, milliseconds since 1970; `value` and `u` are mm, of a timer minutes. `sign`
    is the step's as it was then; `undoes` is the key of an entry that this one takes back.
    """

    key: str
    step: str
    what: BenchWhat
    at_ms: int
    value: float | None = None
    u: float | None = None
    words: str = ""
    sign: str = ""
    detail: Mapping[str, Json] = field(default_factory=dict)
    undoes: str = ""
    device: str = ""
    id: int = 0


def standing(entries: Iterable[LogEntry]) -> list[LogEntry]:
    """The entries that were not taken back, by the time they happened."""
    every = sorted(entries, key=lambda entry: (entry.at_ms, entry.id))
    undone = {entry.undoes for entry in every if entry.what == "undo"}
    return [entry for entry in every if entry.what != "undo" and entry.key not in undone]


UNSURE = "unsure"
"""Under which key a skip tells that its question was passed with a doubt."""


def is_unsure(entry: LogEntry) -> bool:
    """Whether an answer says “not sure, go on”."""
    return entry.what == "skip" and entry.detail.get(UNSURE) is True


def done_steps(entries: Iterable[LogEntry]) -> frozenset[str]:
    """Steps that were done here and not taken back: what they did to a part still stands in the list."""
    return frozenset(entry.step for entry in standing(entries) if entry.what == "done")


UNDOABLE = frozenset(BENCH_WHATS) - {"start", "pause", "undo", "quiet"}


def last_undoable(entries: Sequence[LogEntry], by_ms: int) -> LogEntry | None:
    """The newest entry up to a moment that can be taken back; None where there is none.

    An undo that waited for the line takes back what was the last then, not what another screen did since.
    """
    found = (entry for entry in reversed(standing(entries)) if entry.what in UNDOABLE)
    return next((entry for entry in found if entry.at_ms <= by_ms), None)
