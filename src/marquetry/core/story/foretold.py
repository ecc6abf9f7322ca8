"""What the report said before a build, beside what the bench found: gaps by number, yes or no by chance.

The report is the one of the moment at which the build was begun, with what was known then. Of a step that was
answered more than once the first answer counts: after that it was mended.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.pressed import pressed
from marquetry.core.bench.run import Run
from marquetry.core.bench.stem import TAKING_OFF
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.fit.report import Report
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError
from marquetry.core.values.verdict import Verdict

UNSAID: tuple[Verdict, ...] = (Verdict.SKIPPED, Verdict.ASSUMED, Verdict.UNMEASURED)
STEM, HANDS_GAP = "stem_cut", "hand_stack"


@dataclass(frozen=True, slots=True)
class Foretold:
    """One thing that the report foretold and the bench found, of the watch and step named.

    `chance` that it holds, 0 to 1, and whether it `held`; or a gap in mm, `value` within `low` to `high`, and
    what was `found`. What was not told, or not looked at, is None.
    """

    watch_id: int
    watch: str
    check: str
    step: str
    chance: float | None = None
    held: bool | None = None
    value: float | None = None
    low: float | None = None
    high: float | None = None
    found: float | None = None

    @property
    def off(self) -> float | None:
        """Found less foretold, mm; None where either is not known."""
        return None if self.found is None or self.value is None else self.found - self.value

    @property
    def is_within(self) -> bool | None:
        """Whether what was found lay within the worst case."""
        if self.found is None or self.low is None or self.high is None:
            return None
        return self.low <= self.found <= self.high


def foretold_of(watch_id: int, before: Report, run: Run) -> list[Foretold]:
    """Everything that the report of before the build foretold and that the bench answered."""
    return [*_answers(watch_id, before, run), *_gaps(watch_id, before, run)]


def _answers(watch_id: int, before: Report, run: Run) -> Iterator[Foretold]:
    first = _first_answers(run)
    told: dict[str, list[tuple[str, bool]]] = {}
    for step in run.procedure.steps:
        for check in step.step.tells if step.id in first else ():
            told.setdefault(check, []).append((step.id, first[step.id]))
    for check, answers in told.items():
        finding = before.findings.get(check)
        chance = None if finding is None or finding.verdict in UNSAID else finding.chance
        if chance is not None:
            # Steps that answer for one check are one answer: all of them have to hold.
            at = next((name for name, held in answers if not held), answers[-1][0])
            held = all(held for _, held in answers)
            yield Foretold(watch_id, before.build.name, check, at, chance, held)


def _first_answers(run: Run) -> Mapping[str, bool]:
    """By step whether it held when it was first answered: a mishap there is a no."""
    found: dict[str, bool] = {}
    for entry in run.standing:
        if entry.what in {"yes", "done"}:
            found.setdefault(entry.step, True)
        elif entry.what in {"no", "mishap"}:
            found.setdefault(entry.step, False)
    return found


def _gaps(watch_id: int, before: Report, run: Run) -> Iterator[Foretold]:
    stem, came_off = before.findings.get(STEM), _came_off(run.standing)
    if stem is not None and came_off is not None:
        yield Foretold(
            watch_id, before.build.name, STEM, "measure_gap", value=stem.value, low=stem.low, high=stem.high,
            found=came_off,
        )  # fmt: skip
    plan, situation = press_plan(before.findings[HANDS_GAP]), run.procedure.situation
    heights = run.heights
    if plan is not None and heights and len(heights) == len(situation.hands):
        planned = _spare(before, before.build, plan.heights)
        found = _spare(before, situation.build, heights)
        yield Foretold(watch_id, before.build.name, HANDS_GAP, "hands_round", value=planned, found=found)


def _came_off(entries: list[LogEntry]) -> float | None:
    """What had to come off the stem, mm: the mean of the gaps read before the first cut."""
    gaps: list[float] = []
    for entry in entries:
        if entry.what in TAKING_OFF or (entry.what == "mishap" and gaps):
            break
        if entry.what == "gap" and entry.value is not None:
            gaps.append(entry.value)
    return sum(gaps) / len(gaps) if gaps else None


def _spare(before: Report, build: Build, heights: Mapping[str, float]) -> float | None:
    """The least air that hands at these heights have over what is wanted, mm."""
    try:
        gaps = pressed(build, before.rules, heights).gaps
    except MarquetryError:
        return None
    return gaps[0].spare if gaps else None
