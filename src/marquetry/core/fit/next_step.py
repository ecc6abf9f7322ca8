"""What to do next: which dry fit, reading or word takes most doubt away a minute, and what it settles.

Every finding has a doubt; their sum is the watch's. A dry fit takes away the doubt of all that it settles. A
size or word that nobody knows takes its share: where a check waits for three, one of them is worth a third,
since only together they settle it. What is known but tight is worth what a finer reading would take away.
A clash by a seller's figure goes before all else, for the remedies wait for it.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.finding import Finding, narrowed
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import Trace
from marquetry.core.measuring.bench_tools import WithinReach, within_reach
from marquetry.core.measuring.instrument import Instrument
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.verdict import NOT_TOLD

StepKind = Literal["trial", "reading", "word"]
LEAST_GAIN = 1e-6
LEAST_SHARE = 0.04
"""What takes less than this of the watch's doubt away is not worth getting up for."""
MOST_SIZES = 8
Reach = Callable[[str], WithinReach | None]
WORD_MINUTES = 1.0
"""Choosing a word takes a look at the part, and no instrument; a look takes as long as a reading."""


@dataclass(frozen=True, slots=True)
class NextStep:
    """One thing worth doing.

    `key` is a dry fit's key, or the path of a size or word. `tol` in the size's unit, `minutes` of work,
    `doubt` the watch's expected doubt afterwards, 0 and up. `settles` names the checks that it decides, alone
    or with others; `first` whether a seller's figure that says clash hangs on it.
    """

    kind: StepKind
    key: str
    minutes: float
    gain: float
    doubt: float
    settles: tuple[str, ...]
    instrument: str = ""
    tol: float | None = None
    first: bool = False

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        return {
            "kind": self.kind,
            "key" if self.kind == "trial" else "path": self.key,
            "with": self.instrument or None,
            "tol": self.tol,
            "minutes": self.minutes,
            "doubt": round(self.doubt, 6),
            "settles": list(self.settles),
        }


@dataclass(slots=True)
class _Worth:
    """What one reading or word would take away so far, and from which checks."""

    gain: float = 0.0
    settles: list[str] = field(default_factory=list)
    first: bool = False

    def add(self, check: str, gain: float, *, first: bool) -> None:
        self.gain += gain
        self.settles.append(check)
        self.first = self.first or first


def next_steps(report: Report, instruments: tuple[Instrument, ...]) -> list[NextStep]:
    """Everything worth doing, the best first; nothing once the doubt is as small as the rules want."""
    total = report.standing.doubt
    if total <= report.rules.number("doubt_left"):
        return []
    steps = possible_steps(report, instruments)
    return [step for step in steps if step.gain > LEAST_SHARE * total or step.first]


def possible_steps(report: Report, instruments: tuple[Instrument, ...]) -> list[NextStep]:
    """Everything that would take any doubt away, the best first, however little it is worth."""
    total = report.standing.doubt
    doubtful = [finding for finding in report.findings.values() if finding.doubt > LEAST_GAIN]
    steps = [*_dry_fits(report, doubtful, total), *_readings(report, doubtful, instruments, total)]
    return sorted(
        (step for step in steps if step.gain > LEAST_GAIN),
        key=lambda step: (not step.first, -step.gain / step.minutes, step.minutes, step.kind, step.key),
    )


def _dry_fits(report: Report, doubtful: Sequence[Finding], total: float) -> Iterator[NextStep]:
    by_check = {finding.check: finding for finding in doubtful}
    for dry_fit in report.rules.model.dry_fits:
        if dry_fit.key in report.build.tried:
            continue  # what was tried once shows the same again
        found = [by_check[name] for name in dry_fit.settles if name in by_check]
        gain = sum(finding.doubt for finding in found)
        if found:
            yield NextStep(
                "trial",
                dry_fit.key,
                dry_fit.minutes,
                gain,
                max(total - gain, 0.0),
                tuple(finding.check for finding in found),
                first=any(finding.by == "listed" for finding in found),
            )


def _readings(
    report: Report, doubtful: Sequence[Finding], instruments: tuple[Instrument, ...], total: float
) -> Iterator[NextStep]:
    anatomy, reach = report.build.anatomy, dict[str, WithinReach | None]()
    worth: dict[str, _Worth] = {}

    def reachable(path: str) -> WithinReach | None:
        if path not in reach:
            reach[path] = within_reach(anatomy.quantity_at(path), instruments)
        return reach[path]

    for finding in doubtful:
        if finding.verdict in NOT_TOLD:
            wanted = unknown_of(report.build, finding)
            sizes = [path for path in wanted if anatomy.is_quantity(path)]
            if any(reachable(path) is None for path in sizes) or not all(map(_is_answerable, wanted)):
                continue  # one that nothing here reaches leaves the check open, whatever else is read
            gain = finding.doubt - _left_when_read(report, finding, sizes, reachable)
            for path in wanted:
                worth.setdefault(path, _Worth()).add(finding.check, gain / len(wanted), first=False)
            continue
        for path, gain in _sharper(report, finding, reachable):
            worth.setdefault(path, _Worth()).add(finding.check, gain, first=finding.by == "listed")
    for path, found in worth.items():
        yield _step_of(path, found, reach.get(path), total)


def _step_of(path: str, worth: _Worth, reach: WithinReach | None, total: float) -> NextStep:
    told = (worth.gain, max(total - worth.gain, 0.0), tuple(worth.settles))
    if reach is None:
        return NextStep("word", path, WORD_MINUTES, *told, first=worth.first)
    return NextStep(
        "reading", path, reach.minutes, *told, instrument=reach.instrument, tol=reach.tol, first=worth.first
    )


def unknown_of(build: Build, finding: Finding) -> list[str]:
    """Paths of the sizes and words that the finding reads and nobody knows."""
    sizes = finding.reads or finding.uses.dimensions()
    dimensions = build.dimensions
    assumed = [path for path in sizes if path in dimensions and not dimensions[path].source.is_known]
    words = [path for path in finding.uses.words() if path in build.assumed_words]
    return list(dict.fromkeys([*finding.missing, *assumed, *words]))


def _left_when_read(report: Report, finding: Finding, sizes: Sequence[str], reachable: Reach) -> float:
    """The doubt that is left of a finding once all these sizes are read where they are expected, 0 to 1.

    A grip of two hundredths read with an instrument that knows one is hardly better known than before: a dry
    fit tells more. Many sizes at once are left at 0: a share of so many is never the best.
    """
    if len(sizes) > MOST_SIZES or not sizes:
        return 0.0
    build, usual = report.build, Plausible(report.build, report.rules)
    moved = {
        path: Dimension(
            build.dimensions[path].value if path in build.dimensions else float(usual[path]),
            reach.tol,
            Source.MEASURED,
        )
        for path in sizes
        if (reach := reachable(path)) is not None
    }
    check = report.rules.model.check(finding.check)
    after = check.found(Trace(build, report.rules, moved))
    return 0.0 if after.verdict in NOT_TOLD else min(after.doubt, finding.doubt)


def _is_answerable(path: str) -> bool:
    """Whether one value answers it: a list of feet, or of holes, is no size to be read."""
    return path.rpartition(".")[2] not in {"feet", "foot_holes", "recesses", "side"}


def _sharper(report: Report, finding: Finding, reachable: Reach) -> Iterator[tuple[str, float]]:
    """What reading each size anew would take from a finding whose sizes are all known."""
    build = report.build
    reads = [path for path in finding.reads if path in build.dimensions]
    if finding.by == "listed":
        listed = [path for path in reads if build.dimensions[path].source is Source.LISTED]
        within = [path for path in listed if reachable(path) is not None]
        for path in within:
            yield path, finding.doubt / len(within)
        return
    check = report.rules.model.check(finding.check)
    if not isinstance(check, FormulaCheck):
        return
    for path in reads:
        found, before = reachable(path), build.dimensions[path]
        if found is None or before.tol <= found.tol:
            continue
        after = narrowed(finding, path, before, Dimension(before.value, found.tol, Source.MEASURED))
        yield path, finding.doubt - after.doubt
