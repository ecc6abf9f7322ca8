"""The latest reports, kept for a moment: an edit needs the one before it, which was shown just now."""

import json
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import TypeAlias

from markupsafe import Markup

from marquetry.core.face.face import seen_face
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.drawing.face.face_scene import small_face
from marquetry.drawing.section_thumb import section_thumb
from marquetry.drawing.svg import SMALL
from marquetry.web.site.drawn import drawn

MOST_KEPT = 160
Drawings: TypeAlias = OrderedDict[int, tuple[Report, Markup]]


class Reports:
    """Reports by all that they hang on: the sheet and the rules in force. Older ones are forgotten."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Report] = OrderedDict()
        self._thumbs: Drawings = OrderedDict()
        self._faces: Drawings = OrderedDict()
        self._guard = Lock()

    def thumb(self, build: Build, report: Report) -> Markup:
        """The section alone and small, drawn once for each report; its hatches come with the page."""
        return _once(self._thumbs, report, lambda: drawn(section_thumb(lay_out(build, report), build.name)))

    def face(self, build: Build, report: Report) -> Markup:
        """The watch small from the front, drawn once for each report; its lights come with the page."""
        return _once(self._faces, report, lambda: drawn(small_face(seen_face(build, report)), SMALL))

    def on(self, build: Build, rules: Rules, like: Report | None = None) -> Report:
        """The report on a build, run once; SheetError where one of the rules cannot be read.

        `like` is the report on a build that differs in little: only what that little touches is run again.
        """
        key = f"{id(rules.model)} {json.dumps(rules.raw, sort_keys=True)} {rules.stamp} {build.text}"
        with self._guard:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        report = report_on(build, rules, like)
        with self._guard:
            self._held[key] = report
            while len(self._held) > MOST_KEPT:
                self._held.popitem(last=False)
        return report


def _once(kept: Drawings, report: Report, draw: Callable[[], Markup]) -> Markup:
    """The drawing kept for this very report, drawn now where there is none; the oldest are forgotten."""
    known = kept.get(id(report))
    if known is None or known[0] is not report:
        known = kept[id(report)] = (report, draw())
        while len(kept) > MOST_KEPT:
            kept.popitem(last=False)
    return known[1]
