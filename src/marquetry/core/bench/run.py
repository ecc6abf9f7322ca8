"""Where a build stands: the state of every step, what it waits for, timers, time, the ledger, the heights.

An answer counts only while everything that its step waited for stands from before it. So a step that opens
again, by a mishap, by another part or because the list now has a step more, opens whatever came after and
depends on it, and nothing else; what was entered stays in the log.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from marquetry.core.bench.clock import BenchTimer, seconds_by_step, timers_of
from marquetry.core.bench.log import ANSWERS, LogEntry, is_unsure, standing
from marquetry.core.bench.procedure import Procedure, WatchStep
from marquetry.core.bench.stem import PITCH, TAKING_OFF, StemEvent, StemLedger, StemTerms, stem_ledger

StepState = Literal["waiting", "open", "done", "passed", "skipped", "failed", "unsure"]
SETTLED: tuple[StepState, ...] = ("done", "passed", "skipped", "unsure")
ANSWERED: dict[str, StepState] = {"done": "done", "yes": "passed", "skip": "skipped", "no": "failed"}
ANOTHER_PART = "another part is in the watch since"
ANOTHER_WAY = "the way it is done was changed since"
TAKEN_UP = "opened again"
NOT_DONE = "the sheet says that it is not done"
ASKED_AGAIN = "asked_again"
CLOSING = "close_back"
"""The step that closes a watch: what is proved counts from there."""


@dataclass(frozen=True, slots=True)
class Stand:
    """Where one step stands. `waits` names the steps it waits for, `timer` what still sets.

    `again` is why it opened again after it had been answered; `words` the reason it was skipped for.
    `counts`: whether others may build on it, which holds as well where only its way was changed.
    `answered`: it has an answer, which may no longer count; a step that was opened on purpose has none.
    """

    step: WatchStep
    state: StepState
    counts: bool
    waits: tuple[str, ...] = ()
    timer: BenchTimer | None = None
    again: str = ""
    words: str = ""
    at_ms: int = 0
    answered: bool = False
    asked_again: bool = False
    """A doubt that was confirmed when it was asked about once more."""

    @property
    def asks_again(self) -> tuple[str, ...]:
        """The doubts that it waits for to be asked about once more, beside the steps it always waits for."""
        return tuple(name for name in self.waits if name not in self.step.waits)


@dataclass(frozen=True)
class Run:
    """A build on the bench at one moment, `now_ms`."""

    procedure: Procedure
    entries: Sequence[LogEntry]
    now_ms: int

    @cached_property
    def standing(self) -> list[LogEntry]:
        """Entries that were not taken back, in order."""
        return standing(self.entries)

    @cached_property
    def timers(self) -> Mapping[str, BenchTimer]:
        """What sets, by the step that began it."""
        return timers_of(self.standing)

    @cached_property
    def stands(self) -> Mapping[str, Stand]:
        """Every step of the watch, in order."""
        found: dict[str, Stand] = {}
        answers, opened = self._answers
        for step in self.procedure.steps:
            stand = self._stand(step, answers.get(step.id), opened.get(step.id, ""), found)
            found[step.id] = self._asking_again(stand, found) if step.id == CLOSING else stand
        return found

    def _asking_again(self, stand: Stand, before: Mapping[str, Stand]) -> Stand:
        """The back waits for every doubt to be asked about once more: behind it nobody looks."""
        doubts = tuple(
            one.step.id for one in before.values() if one.state == "unsure" and not one.asked_again
        )
        if not doubts or stand.counts:
            return stand
        return replace(stand, state="waiting", waits=tuple(dict.fromkeys((*stand.waits, *doubts))))

    @property
    def doubts(self) -> tuple[Stand, ...]:
        """Questions that were passed without being sure, in order."""
        return tuple(stand for stand in self.stands.values() if stand.state == "unsure")

    @property
    def closed_ms(self) -> int | None:
        """When the back was closed last, milliseconds since 1970; None where no step tells or it is open."""
        stand = self.stands.get(CLOSING)
        return stand.at_ms if stand is not None and stand.counts else None

    @property
    def opened_ms(self) -> int | None:
        """When a watch that had been closed was opened again, milliseconds since 1970; None where it was not.

        Now, where no entry tells when: another part is in it since.
        """
        closed = [entry.at_ms for entry in self.standing if entry.step == CLOSING and entry.what in ANSWERS]
        if self.closed_ms is not None or not closed:
            return None
        opening = (entry.at_ms for entry in self.standing if entry.what in {"open", "mishap"})
        return max((at for at in opening if at >= closed[-1]), default=self.now_ms)

    @property
    def is_open(self) -> bool:
        """Whether the watch was begun here, and its back is not closed, or no more."""
        stand = self.stands.get(CLOSING)
        return self.began_ms is not None and stand is not None and not stand.counts

    @cached_property
    def _answers(self) -> tuple[dict[str, LogEntry], dict[str, str]]:
        """The answer in force by step, and why a step without one had been opened again."""
        answers: dict[str, LogEntry] = {}
        opened: dict[str, str] = {}
        for entry in self.standing:
            if entry.what in ANSWERS:
                answers[entry.step] = _after_doubt(answers.get(entry.step), entry)
                opened.pop(entry.step, None)
            elif entry.what == "open":
                _open(answers, opened, entry.step, entry.words or TAKEN_UP)
            elif entry.what == "mishap":
                for step in _named(entry.detail.get("opens")):
                    _open(answers, opened, step, entry.words)
        return answers, opened

    def _stand(
        self, step: WatchStep, answer: LogEntry | None, opened: str, before: Mapping[str, Stand]
    ) -> Stand:
        waits = tuple(dict.fromkeys(name for name in step.waits if not before[name].counts))
        timer = next((t for name in step.held_by if (t := self._setting(name))), None)
        if answer is None:
            state: StepState = "waiting" if waits or timer else "open"
            return Stand(step, state, counts=False, waits=waits, timer=timer, again=opened)
        again = self._again(step, answer, [before[name] for name in step.waits])
        if step.alteration and step.alteration.done is None and answer.what == "done":
            again = NOT_DONE
        if again and again != ANOTHER_WAY:
            state = "waiting" if waits or timer else "open"
            return Stand(step, state, counts=False, waits=waits, timer=timer, again=again, answered=True)
        settled: StepState = "unsure" if is_unsure(answer) else ANSWERED[answer.what]
        return Stand(
            step=step,
            state="open" if again else settled,
            counts=answer.what != "no",
            waits=waits,
            timer=timer,
            again=again,
            words=answer.words,
            at_ms=answer.at_ms,
            answered=True,
            asked_again=answer.detail.get(ASKED_AGAIN) is True,
        )

    def _setting(self, name: str) -> BenchTimer | None:
        timer = self.timers.get(name)
        return timer if timer and timer.holds(self.now_ms) else None

    def _again(self, step: WatchStep, answer: LogEntry, needed: list[Stand]) -> str:
        """Why an answer does not count any more; empty where it does."""
        about, way, edition = _parts(step.sign)
        was_about, was_way, was_edition = _parts(answer.sign)
        if answer.sign and was_about != about:
            return ANOTHER_PART
        for other in needed:
            if not other.counts or other.at_ms > answer.at_ms:
                return f"after “{other.step.title}”"
        return ANOTHER_WAY if was_edition == edition and was_way != way else ""

    @property
    def began_ms(self) -> int | None:
        """When the first step was begun; None before: ticking off what is at hand begins nothing."""
        begins = (entry.at_ms for entry in self.standing if entry.what not in {"ready", "note", "photo"})
        return next(begins, None)

    @property
    def here(self) -> str:
        """The step at hand: the first that is open, else the first that is not settled; empty at the end."""
        by = self.stands.values()
        first = next((stand for stand in by if stand.state in {"open", "failed"}), None)
        first = first or next((stand for stand in by if stand.state not in SETTLED), None)
        return first.step.id if first else ""

    @property
    def settled(self) -> int:
        """How many steps are done, passed or skipped."""
        return sum(stand.state in SETTLED for stand in self.stands.values())

    @property
    def again(self) -> tuple[Stand, ...]:
        """Steps that had been answered and are open again."""
        return tuple(stand for stand in self.stands.values() if stand.again and stand.state not in SETTLED)

    @property
    def may_stand(self) -> tuple[Stand, ...]:
        """Those of them that something else opened: a builder may say that they stand as they are."""
        return tuple(stand for stand in self.again if stand.answered)

    @cached_property
    def seconds(self) -> Mapping[str, float]:
        """Seconds spent on each step so far."""
        return seconds_by_step(self.standing, self.now_ms)

    @cached_property
    def stem_events(self) -> tuple[StemEvent, ...]:
        """What was read of the stem and taken off it."""
        return tuple(_stem_events(self.standing))

    @cached_property
    def ledger(self) -> StemLedger:
        """The stem's ledger, by the workshop's own terms."""
        situation = self.procedure.situation
        return stem_ledger(self.stem_events, StemTerms.of(situation.rules), situation.stem)

    @property
    def heights(self) -> dict[str, float]:
        """The last height that was read of each hand that is on, mm over the dial."""
        read = {
            entry.step.removeprefix("check_"): entry
            for entry in self.standing
            if entry.what == "height" and entry.value is not None
        }
        found: dict[str, float] = {}
        for hand in self.procedure.situation.hands:
            stand, entry = self.stands.get(f"press_{hand}"), read.get(hand)
            # A reading from before the hand was lifted and pressed again is one of another height.
            if stand and stand.counts and entry and entry.value is not None and entry.at_ms >= stand.at_ms:
                found[hand] = entry.value
        return found

    @property
    def ready(self) -> frozenset[str]:
        """Keys of tools and consumables that were ticked off as at hand."""
        ticked = {entry.words: entry.value for entry in self.standing if entry.what == "ready"}
        return frozenset(key for key, value in ticked.items() if value)

    def of(self, step_id: str) -> list[LogEntry]:
        """What stands in the log of one step."""
        return [entry for entry in self.standing if entry.step == step_id]

    def is_settled_already(self, entry: LogEntry) -> bool:
        """Whether an answer says what stands already: a second tap, or a second screen. It changes nothing.

        Kept, it would be newer than what was done after it, and open all of that again.
        """
        stand = self.stands.get(entry.step)
        if stand is None or entry.what not in {"done", "yes", "skip"}:
            return False
        # A doubt may come up late, and be answered again until it was asked about twice.
        if stand.state == "unsure":
            return is_unsure(entry) and stand.asked_again
        return stand.state in SETTLED and not is_unsure(entry)

    def refusal(self, entry: LogEntry) -> str:
        """Why an entry cannot be taken now; empty where it can. A skip needs its reason, a gate its gates."""
        stand = self.stands.get(entry.step)
        if stand is None or entry.what not in {"done", "yes", "skip"}:
            return ""
        if entry.what == "skip":
            return "" if entry.words.strip() else "Skipping needs a reason; it stays in the log."
        if entry.what == "done" and stand.step.is_gate:
            return "This step is a question: yes, no, or skipped with a reason."
        if stand.waits:
            titles = ", ".join(f"“{self.stands[name].step.title}”" for name in stand.waits)
            return f"“{stand.step.title}” waits for {titles}."
        if stand.timer:
            return f"“{stand.step.title}” waits until this has set: {stand.timer.words}."
        return ""


def _after_doubt(before: LogEntry | None, entry: LogEntry) -> LogEntry:
    """A doubt about an answer, or an answer to one, counts from the first: what was built upon it stays."""
    doubted = before is not None and (is_unsure(before) or is_unsure(entry))
    if before is None or not doubted or "no" in {before.what, entry.what}:
        return entry
    detail = {**entry.detail, ASKED_AGAIN: True} if is_unsure(entry) and is_unsure(before) else entry.detail
    return replace(entry, at_ms=before.at_ms, detail=detail)


def _parts(sign: str) -> tuple[str, str, str]:
    """What a step was about, the way it was done, and the edition of its words; older signs have none."""
    about, _, rest = sign.partition(".")
    way, _, edition = rest.partition(".")
    return about, way, edition


def _open(answers: dict[str, LogEntry], opened: dict[str, str], step: str, why: str) -> None:
    if answers.pop(step, None) is not None:
        opened[step] = why


def _named(found: object) -> list[str]:
    return [name for name in found if isinstance(name, str)] if isinstance(found, list) else []


def _stem_events(entries: Sequence[LogEntry]) -> Iterator[StemEvent]:
    """Since a stem was last begun anew: after a mishap with it another one is read from the start."""
    events: list[StemEvent] = []
    for entry in entries:
        if entry.what == "mishap" and entry.detail.get("new_stem") is True:
            events = []
        elif entry.value is not None and entry.what in {"gap", "length", *TAKING_OFF}:
            turns, pitch = (entry.detail.get(key) for key in ("turns_short", "pitch"))
            short = float(turns) if isinstance(turns, int | float) and entry.what == "gap" else 0.0
            own = float(pitch) if isinstance(pitch, int | float) and pitch > 0 else PITCH
            events.append(StemEvent(entry.what, entry.value, entry.u, turns_short=short, pitch=own))
    yield from events
