"""Entries taken into the log: each dated, signed, held against what its step waits for; known ones once."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from marquetry.core.bench.doubtful import doubted
from marquetry.core.bench.log import (
    ANSWERS,
    LONGEST_KEY,
    MEASURED_WHATS,
    UNSURE,
    BenchWhat,
    LogEntry,
    last_undoable,
    standing,
)
from marquetry.core.bench.mishap import UNSURE_WORDS
from marquetry.core.bench.run import Run
from marquetry.core.bench.stem import StemEvent, StemTerms
from marquetry.core.bench.steps import STEPS
from marquetry.core.bench.written import written
from marquetry.core.sheet.entries import Json
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.store import bench_log, mishaps, watches
from marquetry.store.database import transaction
from marquetry.web.build.bench_run import run_of, stamp
from marquetry.web.build.forms import LONGEST_AGO_MS, MADE_HERE, SentEntries, SentEntry
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit

LONGEST_CHANGE = 200
KNOWN_STEPS = {step.id for step in STEPS}
OF_CURING = "-sets"
"""Ends the key of the timer that an answer begins."""
OF_ANSWER = "-answer"
"""Ends the key of the answer that a mishap's way back gives."""
FOLLOWS = (OF_CURING, OF_ANSWER)
FURTHEST_HEIGHT = 10.0
"""A hand that is told to stand higher over its dial was typed into another field, mm."""


@dataclass(frozen=True, slots=True)
class Taking:
    """What became of entries: the run with those that were kept, and why others were not, by key."""

    run: Run
    kept: tuple[LogEntry, ...]
    refused: dict[str, str]
    asked: dict[str, str]
    """What is asked of a figure before it is kept, by key: among the refused too."""

    @property
    def is_measured(self) -> bool:
        """Whether a figure changed: drawings and ledgers follow it."""
        return any(entry.what in {*MEASURED_WHATS, "undo", "mishap"} for entry in self.kept)


def take(visit: Visit, sent: SentEntries) -> Taking:
    """Keep what can be kept. One that is refused changes nothing and stops none of the others."""
    run = run_of(visit)
    known = {entry.key for entry in run.entries}
    kept: list[LogEntry] = []
    refused: dict[str, str] = {}
    asked: dict[str, str] = {}
    with transaction(visit.connection):
        for raw in sent.entries:
            key = str(raw.get("key", ""))[:LONGEST_KEY]
            if key in known:
                continue
            new, why, question = _judged(run, raw, sent.device)
            if why or question:
                refused[key] = why or question
                asked |= {key: question} if question else {}
                continue
            if run.is_settled_already(new[0]):
                continue
            run = replace(run, entries=(*run.entries, *new))
            kept += new
            known.add(key)
        bench_log.add_entries(visit.connection, visit.stored.id, kept)
        undone = [entry.undoes for entry in kept if entry.what == "undo"]
        for key in undone:
            mishaps.undo_of(visit.connection, visit.stored.id, run.entries, key, today())
        if undone:
            # A part that is back in the watch makes steps count again that its absence had opened.
            visit = visit.of(watches.watch(visit.connection, visit.stored.id))
            run = run_of(visit)
        is_written = write_sheet(visit, run, kept)
    if is_written:
        run = run_of(visit.of(watches.watch(visit.connection, visit.stored.id)))
    return Taking(run, tuple(kept), refused, asked)


def _judged(run: Run, raw: dict[str, Any], device: str) -> tuple[list[LogEntry], str, str]:
    """What is kept of an entry; else why it cannot be, or what is asked before it is."""
    try:
        entry = SentEntry.model_validate(raw)
        new = list(_entries(run, entry, device))
    except ValidationError as error:
        return [], f"This entry cannot be read: {error.errors()[0]['msg']}.", ""
    except MarquetryError as error:
        return [], str(error), ""
    if not new:
        return [], "There is nothing to take back.", ""
    why = "" if run.is_settled_already(new[0]) else run.refusal(new[0])
    return new, why, "" if entry.sure else _doubted(run, new[0])


def _doubted(run: Run, entry: LogEntry) -> str:
    """What is asked of a figure before it is kept."""
    if entry.what not in MEASURED_WHATS:
        return ""
    situation = run.procedure.situation
    return doubted(entry, run.ledger, StemTerms.of(situation.rules), situation.shims)


def write_sheet(visit: Visit, run: Run, kept: Sequence[LogEntry]) -> bool:
    """What these entries did to the watch, written into its sheet: so that fit and bench never disagree."""
    stored = watches.watch(visit.connection, visit.stored.id)
    found = written(stored.build, run, kept, stamp)
    if found.build == stored.build:
        return False
    words = f"bench: {'; '.join(found.words)}"[:LONGEST_CHANGE]
    watches.save(visit.connection, stored.id, stored.version, found.build, words, stored)
    return True


def _entries(run: Run, sent: SentEntry, device: str) -> Iterator[LogEntry]:
    """The entry as it is kept, and what follows from it: a timer, or its end."""
    if sent.what in MADE_HERE:
        raise DimensionError("what", sent.what, "", "an entry that a screen makes")
    known = {"", *KNOWN_STEPS, *run.procedure.by_id}
    if sent.what != "undo" and sent.step not in known:
        raise DimensionError("step", f"“{sent.step}”", "", "a step of the bench")
    at = run.now_ms - round(min(sent.ago, LONGEST_AGO_MS))
    if sent.what == "undo":
        yield from _undone(run.entries, sent, at, device)
        return
    step = run.procedure.by_id.get(sent.step)
    is_unsure = sent.what == UNSURE
    what: BenchWhat = "skip" if sent.what == "unsure" else sent.what
    entry = LogEntry(
        key=sent.key,
        step=sent.step,
        what=what,
        at_ms=at,
        value=_value(sent),
        words=sent.words.strip() or (UNSURE_WORDS if is_unsure else ""),
        sign=step.sign if step and what in ANSWERS else "",
        detail={UNSURE: True} if is_unsure else _short_of_home(sent),
        device=device,
    )
    yield entry
    if step and step.curing and sent.what in {"done", "yes"}:
        words, minutes = step.curing
        yield replace(entry, key=f"{sent.key}{OF_CURING}", what="timer", value=float(minutes), words=words)


def _short_of_home(sent: SentEntry) -> dict[str, Json]:
    """By how many turns a crown stood short of home, and its thread's pitch; empty where it was home."""
    if sent.what != "gap" or not sent.turns.strip():
        return {}
    told: dict[str, Json] = {"turns_short": parse_figure("turns", sent.turns, "turns")}
    if sent.pitch.strip():
        told["pitch"] = parse_figure("pitch", sent.pitch, "mm")
    StemEvent("gap", 0.0, **told)  # refuses turns and pitches that no crown has
    return told if told["turns_short"] else {}


def _undone(entries: Sequence[LogEntry], sent: SentEntry, at: int, device: str) -> Iterator[LogEntry]:
    last = last_undoable(entries, at)
    named = sent.undoes or (last.key if last else "")
    undone = next((named.removesuffix(end) for end in FOLLOWS if named.endswith(end)), named)
    keys = {entry.key for entry in standing(entries)}
    if undone not in keys:
        return
    yield LogEntry(sent.key, "", "undo", at, undoes=undone, device=device)
    # What followed from it goes with it: half an undo would leave an answer that nobody gave.
    for end in FOLLOWS:
        if f"{undone}{end}" in keys:
            yield LogEntry(f"{sent.key}{end}", "", "undo", at, undoes=f"{undone}{end}", device=device)


def _value(sent: SentEntry) -> float | None:
    """What was read, mm; a tick of the list at hand is 1 or 0. DimensionError where it is none."""
    if sent.what == "ready":
        return float(sent.value == "1")
    if sent.what not in MEASURED_WHATS:
        return None
    value = parse_figure(sent.what, sent.value, "mm")
    if sent.what == "height":
        if not -1 <= value <= FURTHEST_HEIGHT:
            raise DimensionError("height", value, "mm", f"a height from −1 to {FURTHEST_HEIGHT:g} mm")
        return value
    return StemEvent(sent.what, value).value  # type: ignore[arg-type]  # one of its four kinds
