"""The findings on a build as JSON, the same for the command line and for `/watches/…/findings.json`."""

from marquetry.core.build import Build
from marquetry.core.report import Report


def findings_of(build: Build, report: Report, file: str | None = None) -> dict[str, object]:
    """`{"file", "name", "findings": {check: finding}}`; `file` only where there was one."""
    head = {} if file is None else {"file": file}
    return {**head, "name": build.name, "findings": report.as_dict()}
