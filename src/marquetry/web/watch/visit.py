"""One request about one watch: the watch as stored, what is being tried on it, and how to answer.

In a trial every edit works as it does otherwise, but nothing is stored: what differs from the stored watch
travels in the address, so a trial can be shared, and the browser's own way back undoes a step.
"""

import json
from dataclasses import dataclass, replace
from typing import Annotated

from fastapi import Depends, Query, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.evidence.lapse import settled
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import House, Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import Edit, applied, read_edits
from marquetry.core.values.errors import SheetError
from marquetry.drawing.sheet import Display
from marquetry.store import watches
from marquetry.store.house import rule_values
from marquetry.store.watches import StoredWatch
from marquetry.web.site.deps import Connection, Fragments, Looking
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.rows import Rejected
from marquetry.web.watch.view import FitPage, changed_fragments, fit_page, slid_fragments, whole_page
from marquetry.web.watch.way import WayThrough, way_through

LONGEST_TRIAL = 12_000
SLIDING = "slide"
"""What the page's script asks for while a hand is on a slider."""


@dataclass(frozen=True, slots=True)
class Visit:
    """What every edit of a watch needs.

    `stored` is the watch on disk, `before` the same with the trial's edits applied; `trial` is None outside
    a trial. `fragments` where the page's own script asks.
    """

    request: Request
    connection: Connection
    stored: StoredWatch
    before: StoredWatch
    trial: tuple[Edit, ...] | None
    display: Display
    fragments: str
    house: House

    @property
    def model(self) -> Model:
        """The model by which the workshop's sheets are read and judged."""
        return self.connection.model

    def rules(self, build: Build) -> Rules:
        """The rules in force for a build of this workshop."""
        return self.model.rules_of(build, self.house)

    def report(self, build: Build, like: Build | None = None) -> Report:
        """The report on a build of this workshop; run once for all that ask within a moment."""
        reports: Reports = self.request.app.state.reports
        before = None if like is None else reports.on(like, self.rules(like))
        return reports.on(build, self.rules(build), before)

    def way(self, here: str) -> WayThrough:
        """The stages of this watch as it is stored, for a page of it."""
        return way_through(self.stored, self.report(self.stored.build), here)

    def page(self, watch: StoredWatch, rejected: Rejected | None = None, here: str = "watch") -> FitPage:
        """The page of the watch as given, in the trial's light if there is one."""
        stored = None if self.trial is None else self.stored.build
        opened, report = self.request.query_params.get("open", ""), self.report(watch.build)
        display = replace(self.display, brief=self.fragments == SLIDING)
        return fit_page(watch, report, display, rejected, stored, here=here, opened=opened)

    def saved(self, based_on: int, build: Build, change: str, opened: str = "") -> Response:
        """Save the build as the next version, or only try it, and answer with what that changed.

        The report comes first: what cannot be judged is refused before anything is written.
        """
        if build == self.before.build:
            return self.answer(self.before, opened)
        build = settled(self.before.build, build, self.model.dry_fit_by_key)
        self.report(build, like=self.before.build)
        if self.trial is not None:
            return self.answer(replace(self.before, build=build), opened)
        after = watches.save(self.connection, self.stored.id, based_on, build, change, self.stored)
        return self.answer(after, opened)

    def answer(self, after: StoredWatch, opened: str = "") -> Response:
        """What changed, for the page's own script; a fresh page, for a form that was sent without it.

        `opened` is the part that is shown unfolded there.
        """
        page = self.page(after)
        if self.fragments == SLIDING:
            return slid_fragments(self.request, self.report(self.before.build), page)
        if self.fragments:
            return changed_fragments(self.request, self.before.build, self.report(self.before.build), page)
        address = self.request.app.url_path_for("watch", watch_id=str(after.id))
        where = f"{page.query(open=opened)}#part-{opened}" if opened else page.here
        return RedirectResponse(f"{address}{where}", status_code=303)

    def refused(self, rejected: Rejected) -> Response:
        """The page as it was, with what was typed and the reason beside its field."""
        page = self.page(self.before, rejected)
        if self.fragments:
            return changed_fragments(self.request, self.before.build, page.report, page, rejected)
        return whole_page(self.request, page, 422)

    def of(self, watch: StoredWatch) -> "Visit":
        """The same visit to the watch as it is stored now."""
        return replace(self, stored=watch, before=watch, trial=None)

    def out_of_trial(self) -> "Visit":
        """The same visit with the trial's edits no longer a trial."""
        return replace(self, before=self.stored, trial=None)


async def _trial(
    text: Annotated[str | None, Query(alias="try", max_length=LONGEST_TRIAL)] = None,
) -> tuple[Edit, ...] | None:
    if text is None:
        return None
    try:
        return read_edits(json.loads(text))
    except (ValueError, RecursionError):
        raise SheetError("try", "a trial as the page writes it") from None


def _visit(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    request: Request,
    watch_id: int,
    connection: Connection,
    display: Looking,
    fragments: Fragments,
    trial: Annotated[tuple[Edit, ...] | None, Depends(_trial)],
) -> Visit:
    stored = watches.watch(connection, watch_id)
    before = replace(stored, build=applied(stored.build, trial)) if trial else stored
    return Visit(request, connection, stored, before, trial, display, fragments, rule_values(connection))


Visiting = Annotated[Visit, Depends(_visit)]
