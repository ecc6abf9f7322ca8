"""The findings on a build as JSON, the same for the command line and for `/watches/…/findings.json`."""

from marquetry.core.fit.report import Report
from marquetry.core.sheet.build import Build


def findings_of(build: Build, report: Report, file: str | None = None) -> dict[str, object]:
    """`{"file", "name", "watch", "findings": {check: …}, "figures": {key: …}}`; `file` if there was one."""
    head = {} if file is None else {"file": file}
    return {
        **head,
        "name": build.name,
        "watch": report.standing.as_dict(),
        "findings": report.as_dict(),
        "figures": {key: told.as_dict() for key, told in report.figures.items()},
    }
