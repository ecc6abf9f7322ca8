"""The findings on a build as a table of plain text, for a terminal."""

from collections.abc import Iterator

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report
from marquetry.core.fit.sentence import details, sentence
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import band, chance, figure
from marquetry.core.values.verdict import Verdict


def table_of(build: Build, report: Report) -> str:
    """One line a finding, the gravest first; those that were skipped are counted."""
    standing = report.standing
    head = f"{build.name}: {standing.verdict}"
    if standing.lacks:
        head += f"; not there yet: {', '.join(standing.lacks)}"
    lines = [f"{head} (doubt {figure(standing.doubt)})", *_lines(report)]
    skipped = report.count(Verdict.SKIPPED)
    if skipped:
        lines.append(f"  {skipped} skipped: a part they are about is not in the watch.")
    return "\n".join(lines)


def _lines(report: Report) -> Iterator[str]:
    for finding in report.ranked():
        check = report.rules.model.check(finding.check)
        yield f"  {finding.verdict.value:<11}{check.title:<27}{_figures(report.rules.model, finding)}"


def _figures(model: Model, finding: Finding) -> str:
    check, label_of = model.check(finding.check), model.anatomy.label_of
    if finding.by == "tried":
        return sentence(model, finding)
    if finding.missing:
        return "measure " + ", ".join(label_of(path) for path in finding.missing)
    if finding.value is None or finding.low is None or finding.high is None:
        return " ".join(details(finding)) or sentence(model, finding)
    worst = f"({figure(finding.low, check.decimals)} … {figure(finding.high, check.decimals)})"
    text = f"{figure(finding.value, check.decimals, check.unit):>9} {worst:<18}"
    text += f" wanted {band(finding.limits, check.decimals, check.unit)}"
    if finding.verdict is not Verdict.CLEAR and finding.chance is not None:
        text += f"; chance {chance(finding.chance)}"
    if finding.by is not None:
        text += f"; by {finding.by}"
    if finding.verdict is not Verdict.CLEAR and finding.contributions:
        text += f"; driven by {label_of(finding.contributions[0].path)}"
    return text
