"""The stem's ledger: what is still to come off, with its doubt, and what to do next.

Follows “The stem's ledger” of bench-work.md. Readings are combined by their weights, which for normal errors
is the best estimate there is (least squares of two independent readings); cuts and files add their spread.
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
MARK_STEP = 0.05
LEAST_CUT = 0.10
COVERAGE = 2.0
CREEPING = ((2.0, 1.00), (1.0, 0.50))
"""Above so much remaining, creep takes at most so much off, mm; below, half of what remains."""


@dataclass(frozen=True, slots=True)
class StemEvent:
    """What was read, cut or filed; `value` and its standard uncertainty `u` in mm."""

    what: StemWhat
    value: float
    u: float | None = None

    def __post_init__(self) -> None:
        if not abs(self.value) <= FURTHEST_MM:
            raise DimensionError("value", self.value, "mm", f"at most {FURTHEST_MM:g} mm")
        if self.what != "gap" and self.value < 0:
            raise DimensionError("value", self.value, "mm", "0 or more")
        if self.u is not None and not 0 <= self.u <= FURTHEST_MM:
            raise DimensionError("u", self.u, "mm", "0 or more")


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
    file, 0 beside other advice; `conflict` tells that a reading disagreed with all before it.
    """

    start: Remaining | None
    rows: tuple[Remaining | None, ...]
    conflicts: tuple[bool, ...]
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
    rows = tuple(step for step, _ in steps)
    off = sum(event.value for event in events if event.what in TAKING_OFF)
    now = rows[-1] if rows else of.start
    advice, amount = advised(now, terms)
    chance = _chance_short(now, amount, terms) if now and advice == "cut" else 0.0
    left = None if of.thread is None else of.thread - off
    return StemLedger(of.start, rows, tuple(told for _, told in steps), off, left, advice, amount, chance)


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


def _followed(
    events: Sequence[StemEvent], terms: StemTerms, of: StemOf
) -> Iterator[tuple[Remaining | None, bool]]:
    now = of.start
    for place, event in enumerate(events):
        u = terms.spread(event.what) if event.u is None else event.u
        if event.what in TAKING_OFF:
            now = None if now is None else Remaining(now.r - event.value, math.hypot(now.u, u))
            yield now, False
            continue
        reading = Remaining(event.value, u)
        if event.what == "length":
            if of.target is None:
                raise SheetError(f"events[{place}]", "a sheet that tells the stem's target length")
            reading = Remaining(event.value - of.target.r, math.hypot(u, of.target.u))
        now, conflict = combined(now, reading)
        yield now, conflict


def combined(before: Remaining | None, reading: Remaining) -> tuple[Remaining, bool]:
    """What remains after a reading, mm, and whether it disagreed with all before: then it replaces that."""
    if before is None:
        return reading, False
    apart = abs(reading.r - before.r)
    if apart > CONFLICT * math.hypot(before.u, reading.u) + SLACK:
        return reading, True
    if reading.u == 0:
        return reading, False
    if before.u == 0:
        return before, False
    mine, its = 1 / before.u**2, 1 / reading.u**2
    return Remaining((before.r * mine + reading.r * its) / (mine + its), 1 / math.sqrt(mine + its)), False


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
