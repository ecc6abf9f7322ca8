"""What to measure next: which dimension, with which instrument, would turn most doubt into certainty.

For each candidate the instrument's uncertainty is put in place of what is known, and the findings that hang
on it are computed again. A missing dimension counts before with its whole plausible range, after at its
usual place with the instrument's uncertainty. Ranked by findings that leave tight or unmeasured, then by
the expected risk that goes: the chance that acting on a verdict would be wrong, summed over findings.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.finding import Finding, narrowed
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import Trace
from marquetry.core.measuring.instrument import Instrument, best_for
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.verdict import NOT_TOLD, Verdict

DOUBTFUL = {Verdict.TIGHT, *NOT_TOLD}
LEAST_GAIN = 1e-4


@dataclass(frozen=True, slots=True)
class Proposal:
    """One measurement worth taking.

    `settles` tells the findings that would leave tight or unmeasured, with their verdicts before and after;
    `helps` names those that wait for it among others. `risk_before` and `risk_after` are summed over the
    findings that hang on the dimension; `before` is None where it is not known.
    """

    path: str
    instrument: Instrument
    before: Dimension | None
    after: Dimension
    settles: tuple[tuple[str, Verdict, Verdict], ...]
    helps: tuple[str, ...]
    risk_before: float
    risk_after: float


def measure_next(build: Build, report: Report, instruments: tuple[Instrument, ...]) -> list[Proposal]:
    """Proposals, the most telling first; nothing where no finding is in doubt."""
    hanging: dict[str, list[Finding]] = {}
    for finding in report.findings.values():
        if finding.verdict in DOUBTFUL:
            for path in finding.uses.dimensions():
                hanging.setdefault(path, []).append(finding)
    made = (_proposal(build, report, path, findings, instruments) for path, findings in hanging.items())
    worth = [p for p in made if p and (p.settles or p.helps or p.risk_before - p.risk_after > LEAST_GAIN)]
    model = report.rules.model

    def rank(proposal: Proposal) -> tuple[int, int, float, str]:
        """What settles most comes first; a matter of looks settles nothing that goes together."""
        settled = sum(not model.check(name).of_looks for name, _, _ in proposal.settles)
        gain = proposal.risk_after - proposal.risk_before
        return -settled, -len(proposal.helps), gain, proposal.path

    return sorted(worth, key=rank)


def _proposal(
    build: Build, report: Report, path: str, findings: Iterable[Finding], instruments: tuple[Instrument, ...]
) -> Proposal | None:
    quantity = build.anatomy.quantity_at(path)
    instrument, before = best_for(quantity, instruments), build.dimensions.get(path)
    if instrument is None:
        return None
    tolerance = instrument.tolerance_in(quantity.unit)
    if before is not None and before.tol <= tolerance:
        return None
    value = before.value if before else Plausible(build, report.rules)[path]
    after = Dimension(float(value), tolerance, Source.MEASURED)
    was, will = _before_and_after(build, report, (path, quantity, before, after), findings)
    settles = tuple(
        (f.check, f.verdict, will[f.check].verdict) for f in findings if will[f.check].verdict not in DOUBTFUL
    )
    settled = {name for name, _, _ in settles}
    # Where several dimensions are missing, one of them alone settles nothing yet but is needed all the same.
    helps = tuple(f.check for f in findings if path in f.missing and f.check not in settled)
    return Proposal(path, instrument, before, after, settles, helps, _risk(was), _risk(will))


What = tuple[str, Quantity, Dimension | None, Dimension]
"""A dimension's path and description, what is known of it and what would be."""


def _before_and_after(
    build: Build, report: Report, what: What, findings: Iterable[Finding]
) -> tuple[dict[str, Finding], dict[str, Finding]]:
    """The findings as they are, an unknown dimension anywhere in its range, and as they would be."""
    path, quantity, before, after = what
    rules = report.rules
    asked = {finding.check: finding for finding in findings}
    checks = [rules.model.check(name) for name in asked]
    if before is not None:
        return asked, {
            check.name: narrowed(asked[check.name], path, before, after)
            if isinstance(check, FormulaCheck)
            else check.found(Trace(build, rules, {path: after}))
            for check in checks
        }
    guess = build.with_entry(path, dimension_as_json(_range_of(quantity)))
    told = build.with_entry(path, dimension_as_json(after))
    was = {check.name: check.find(guess, rules) for check in checks}
    return was, {check.name: check.find(told, rules) for check in checks}


def _range_of(quantity: Quantity) -> Dimension:
    low, high = quantity.plausible
    return Dimension(max((low + high) / 2, 1e-6), (high - low) / 2, Source.ASSUMED)


def _risk(findings: Mapping[str, Finding]) -> float:
    """Chance that the verdict misleads, summed: at most a half for each, a half for what is not known."""
    return sum(
        0.5 if f.verdict in NOT_TOLD else min(f.chance, 1 - f.chance) if f.chance is not None else 0.0
        for f in findings.values()
    )
