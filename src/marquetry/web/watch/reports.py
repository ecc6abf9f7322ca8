"""Reports, worked out once: an edit needs the one before it, which was shown just now."""

from typing import cast

from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.store.statecache import StateCache


class Reports:
    """Reports by the sheet and the rules in force, as long as the program keeps them in mind."""

    def __init__(self, kept: StateCache) -> None:
        self._kept = kept

    def on(self, build: Build, rules: Rules, like: Report | None = None) -> Report:
        """The report on a build, run once; SheetError where one of the rules cannot be read.

        `like` is the report on a build that differs in little: only what that little touches is run again.
        """
        # Not `pure`: what it was worked out from a short way must not tell it from itself.
        key = self._kept.key(report_on, build, rules)
        report = self._kept.find(key)
        if report is None:
            report = report_on(build, rules, like)
            self._kept.keep(key, report)
        return cast("Report", report)
