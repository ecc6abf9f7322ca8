"""The stem's ledger: what is still to come off, with its doubt, and what to do next.

Follows “The stem's ledger” of bench-work.md. Readings are combined by their weights, which for normal errors
is the best estimate there is (least squares of two independent readings); cuts and files add their spread. A
reading that contradicts all before it is held until another one agrees with either: a mistyped figure that
was believed at once has cost stems.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import NormalDist
from typing import Literal

from marquetry.core.fit.checks.stem import stem_cut, stem_target
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace, aside
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, nominal

StemWhat = Literal["gap", "length", "cut", "file"]
Advice = Literal["measure", "short", "seat", "file", "cut"]
StemSchool = Literal["once", "creep", "eye"]
TAKING_OFF: tuple[StemWhat, ...] = ("cut", "file")

USUAL_U = {"gap": 0.03, "length": 0.02, "cut": 0.05, "file": 0.02}
"""Standard uncertainty in mm where none is given: of a reading, or of what came off."""
BY_EYE_U = 0.30
KNOWN_ENOUGH = 0.15
"""Standard uncertainty in mm above which nothing is cut before it is measured again."""
CONFLICT = 4.0
"""So many combined standard uncertainties apart, two readings are not of the same stem."""
PITCH = 0.225
"""Usual pitch of a crown's thread, mm: what one turn short of home adds to the gap."""
TURNS_DOUBT = 0.25
"""Standard uncertainty of counted turns, in turns: nobody counts quarters."""
MOST_TURNS, LONGEST_PITCH = 40.0, 2.0
MARK_STEP = 0.05
LEAST_CUT = 0.10
COVERAGE = 2.0
CREEPING = ((2.0, 1.00), (1.0, 0.50))
"""Above so much remaining, creep takes at most so much off, mm; below, half of what remains."""


@dataclass(frozen=True, slots=True)
class StemEvent:
    """What was read, cut or filed; `value` and its standard uncertainty `u` in mm.

    `turns_short`: of a gap, by how many turns the crown stood short of home, `pitch` its thread's, mm a turn.
    """

    what: StemWhat
    value: float
    u: float | None = None
    turns_short: float = 0.0
    pitch: float = PITCH

    def __post_init__(self) -> None:
        if not abs(self.value) <= FURTHEST_MM:
            raise DimensionError("value", self.value, "mm", f"at most {FURTHEST_MM:g} mm")
        if self.what != "gap" and self.value < 0:
            raise DimensionError("value", self.value, "mm", "0 or more")
        if self.u is not None and not 0 <= self.u <= FURTHEST_MM:
            raise DimensionError("u", self.u, "mm", "0 or more")
        if not 0 <= self.turns_short <= MOST_TURNS:
            raise DimensionError("turns_short", self.turns_short, "turns", f"from 0 to {MOST_TURNS:g} turns")
        if self.turns_short and self.what != "gap":
            raise DimensionError("turns_short", self.turns_short, "turns", "told of a gap only")
        if not 0 < self.pitch <= LONGEST_PITCH:
            raise DimensionError("pitch", self.pitch, "mm", f"over 0 and at most {LONGEST_PITCH:g} mm")


FURTHEST_MM = 200.0


@dataclass(frozen=True, slots=True)
class Remaining:
    """How much must still come off before the crown seats, mm, with its standard uncertainty."""

    r: float
    u: float


@dataclass(frozen=True, slots=True)
class StemTerms:
    """How the workshop cuts: its school, what may be left, the chance it takes, where the file begins, mm."""

    school: StemSchool
    window: Limits
    risk: float
    file_below: float

    @classmethod
    def of(cls, rules: Rules, school: StemSchool | None = None) -> "StemTerms":
        """The terms in force. SheetError where the risk is no chance between 0 and 1."""
        risk = rules.number("stem_risk")
        if not 0 < risk < 1:
            raise SheetError("rules.stem_risk", "a chance between 0 and 1", f"{risk:g}")
        chosen = school or rules.school("school_stem")
        return cls(chosen, rules.band("stem_window"), risk, rules.number("stem_file_below"))  # type: ignore[arg-type]  # the school's own choices

    @property
    def cut_u(self) -> float:
        """Spread of a cut in this school, mm."""
        return BY_EYE_U if self.school == "eye" else USUAL_U["cut"]

    def spread(self, what: StemWhat) -> float:
        """Standard uncertainty of a reading, or of what comes off, where none is given, mm."""
        return self.cut_u if what == "cut" else USUAL_U[what]


@dataclass(frozen=True, slots=True)
class StemLedger:
    """Where the stem stands after every event, and what to do next; lengths in mm.

    `rows` are the remaining length after each event, None while nothing is known; `amount` is what to cut or
    file, 0 beside other advice; `conflicts` tell which readings disagreed with what was known, `held` is
    such a reading that no later one has settled yet, carried through cuts and files.
    """

    start: Remaining | None
    rows: tuple[Remaining | None, ...]
    conflicts: tuple[bool, ...]
    held: Remaining | None
    off: float
    thread_left: float | None
    advice: Advice
    amount: float
    chance_short: float

    @property
    def now(self) -> Remaining | None:
        """What remains now."""
        return self.rows[-1] if self.rows else self.start

    @property
    def conflict(self) -> bool:
        """Whether any reading was off."""
        return any(self.conflicts)


def stem_ledger(events: Sequence[StemEvent], terms: StemTerms, of: "StemOf | None" = None) -> StemLedger:
    """The ledger of one stem. SheetError, naming the event, for a length where no target can be computed."""
    of = of or StemOf()
    steps = list(_followed(events, terms, of))
    last = steps[-1] if steps else Known(of.start)
    off = sum(event.value for event in events if event.what in TAKING_OFF)
    advice, amount = advised(None if last.held else last.now, terms)
    return StemLedger(
        start=of.start,
        rows=tuple(step.now for step in steps),
        conflicts=tuple(step.was_off for step in steps),
        held=last.held,
        off=off,
        thread_left=None if of.thread is None else of.thread - off,
        advice=advice,
        amount=amount,
        chance_short=_chance_short(last.now, amount, terms) if last.now and advice == "cut" else 0.0,
    )


@dataclass(frozen=True, slots=True)
class StemOf:
    """What the sheet knows of the stem: what is to come off, its target length, its thread; mm."""

    start: Remaining | None = None
    target: Remaining | None = None
    thread: float | None = None
    length: float | None = None

    @classmethod
    def sheet(cls, build: Build, rules: Rules) -> "StemOf":
        """From a build; what cannot be computed is None. Doubts of the first order."""
        known = build.dimensions
        thread, length = (known.get(f"stem.{key}") for key in ("thread_length", "length"))
        return cls(
            _computed(stem_cut(trace := aside(build, rules)), trace),
            _computed(stem_target(trace := aside(build, rules)), trace),
            thread.value if thread else None,
            length.value if length else None,
        )


def _computed(number: Number, trace: Trace) -> Remaining | None:
    if trace.missing or trace.absent:
        return None
    return Remaining(float(nominal(number)), float(getattr(number, "std_dev", 0.0)))


@dataclass(frozen=True, slots=True)
class Known:
    """What is known after an event; `held` a reading that contradicts it, `was_off` whether this one did."""

    now: Remaining | None
    held: Remaining | None = None
    was_off: bool = False

    def shortened(self, by: float, u: float) -> "Known":
        """The same stem, `by` mm shorter give or take u: a held reading was one of this stem too."""
        return Known(_shorter(self.now, by, u), _shorter(self.held, by, u))

    def with_reading(self, read: Remaining) -> "Known":
        """What is known with one reading more: believed where it agrees with what was known, or one held.

        Two readings that agree with each other outweigh what was known before; one alone never does.
        """
        if self.now is None:
            return Known(read)
        if not _apart(self.now, read):
            return Known(combined(self.now, read))
        if self.held is not None and not _apart(self.held, read):
            return Known(combined(self.held, read), was_off=True)
        return Known(self.now, read, was_off=True)


def _shorter(known: Remaining | None, by: float, u: float) -> Remaining | None:
    return None if known is None else Remaining(known.r - by, math.hypot(known.u, u))


def _apart(known: Remaining, read: Remaining) -> bool:
    return abs(read.r - known.r) > CONFLICT * math.hypot(known.u, read.u) + SLACK


def _followed(events: Sequence[StemEvent], terms: StemTerms, of: StemOf) -> Iterator[Known]:
    known = Known(of.start)
    for place, event in enumerate(events):
        u = terms.spread(event.what) if event.u is None else event.u
        if event.what in TAKING_OFF:
            known = known.shortened(event.value, u)
        elif event.what == "length":
            if of.target is None:
                raise SheetError(f"events[{place}]", "a sheet that tells the stem's target length")
            known = known.with_reading(Remaining(event.value - of.target.r, math.hypot(u, of.target.u)))
        else:
            known = known.with_reading(_gap(event, u))
        yield known


def _gap(event: StemEvent, u: float) -> Remaining:
    """What a gap says remains: a crown short of home stands off by its turns, which nobody counts exactly."""
    if not event.turns_short:
        return Remaining(event.value, u)
    return Remaining(event.value - event.turns_short * event.pitch, math.hypot(u, TURNS_DOUBT * event.pitch))


def combined(before: Remaining, reading: Remaining) -> Remaining:
    """Two readings that agree, weighted by 1/u² (GUM, weighted mean), mm; one without doubt counts alone."""
    if reading.u == 0:
        return reading
    if before.u == 0:
        return before
    mine, its = 1 / before.u**2, 1 / reading.u**2
    return Remaining((before.r * mine + reading.r * its) / (mine + its), 1 / math.sqrt(mine + its))


def advised(now: Remaining | None, terms: StemTerms) -> tuple[Advice, float]:
    """What to do next and how much of it, mm: the first that holds."""
    if now is None or now.u > KNOWN_ENOUGH + SLACK:
        return "measure", 0.0
    if terms.window.shortfall(now.r) > SLACK:
        return "short", 0.0
    if terms.window.admit(now.r - COVERAGE * now.u) and terms.window.admit(now.r + COVERAGE * now.u):
        return "seat", 0.0
    if now.r <= terms.file_below + SLACK:
        return "file", max(now.r, 0.0)
    amount = _cut(now, terms)
    return ("cut", amount) if amount >= LEAST_CUT - SLACK else ("file", max(now.r, 0.0))


def _cut(now: Remaining, terms: StemTerms) -> float:
    """A cut that is too much only with the chance that the workshop takes, down to a step of the mark, mm."""
    z = NormalDist().inv_cdf(1 - terms.risk)
    amount = now.r - z * math.hypot(now.u, terms.cut_u)
    if terms.school == "creep":
        amount = min(amount, next((most for above, most in CREEPING if now.r > above + SLACK), now.r / 2))
    steps = math.floor(amount / MARK_STEP + SLACK)
    return round(steps * MARK_STEP, 10)


def _chance_short(now: Remaining, amount: float, terms: StemTerms) -> float:
    if terms.window.low is None:
        return 0.0
    s = math.hypot(now.u, terms.cut_u)
    short = terms.window.low - (now.r - amount)
    return NormalDist().cdf(short / s)
