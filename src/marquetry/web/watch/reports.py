"""The latest reports, kept for a moment: an edit needs the one before it, which was shown just now."""

import json
from collections import OrderedDict
from threading import Lock

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


class Reports:
    """Reports by all that they hang on: the sheet and the rules in force. Older ones are forgotten."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Report] = OrderedDict()
        self._thumbs: OrderedDict[int, tuple[Report, Markup]] = OrderedDict()
        self._faces: OrderedDict[int, tuple[Report, Markup]] = OrderedDict()
        self._guard = Lock()

    def thumb(self, build: Build, report: Report) -> Markup:
        """The section alone and small, drawn once for each report; its hatches come with the page."""
        known = self._thumbs.get(id(report))
        if known is None or known[0] is not report:
            scene = section_thumb(lay_out(build, report), build.name)
            known = (report, drawn(scene))
            self._thumbs[id(report)] = known
            while len(self._thumbs) > MOST_KEPT:
                self._thumbs.popitem(last=False)
        return known[1]

    def face(self, build: Build, report: Report) -> Markup:
        """The watch small from the front, drawn once for each report; its lights come with the page."""
        known = self._faces.get(id(report))
        if known is None or known[0] is not report:
            known = (report, drawn(small_face(seen_face(build, report)), SMALL))
            self._faces[id(report)] = known
            while len(self._faces) > MOST_KEPT:
                self._faces.popitem(last=False)
        return known[1]

    def on(self, build: Build, rules: Rules, like: Report | None = None) -> Report:
        """The report on a build, run once; SheetError where one of the rules cannot be read.

        `like` is the report on a build that differs in little: only what that little touches is run again.
        """
        key = f"{id(rules.model)} {json.dumps(rules.raw, sort_keys=True)} {build.text}"
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
