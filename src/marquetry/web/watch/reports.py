"""The latest reports, kept for a moment: an edit needs the one before it, which was shown just now."""

import json
from collections import OrderedDict
from threading import Lock

from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build

MOST_KEPT = 24


class Reports:
    """Reports by all that they hang on: the sheet and the rules in force. Older ones are forgotten."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Report] = OrderedDict()
        self._guard = Lock()

    def on(self, build: Build, rules: Rules) -> Report:
        """The report on a build, run once; SheetError where one of the rules cannot be read."""
        key = f"{id(rules.model)} {json.dumps([build.raw, rules.raw], sort_keys=True)}"
        with self._guard:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        report = report_on(build, rules)
        with self._guard:
            self._held[key] = report
            while len(self._held) > MOST_KEPT:
                self._held.popitem(last=False)
        return report
