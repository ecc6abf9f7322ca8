"""One request about one watch: the watch as it is stored, what the reader looks at, and how to answer."""

import sqlite3
from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.build import Build
from marquetry.drawing.sheet import Display
from marquetry.store import watches
from marquetry.store.house import rule_values
from marquetry.store.watches import StoredWatch
from marquetry.web.deps import Connection, Fragments, Looking
from marquetry.web.fit_page import House, changed_fragments, fit_page, whole_page
from marquetry.web.rows import Rejected


@dataclass(frozen=True, slots=True)
class Visit:
    """What every edit of a watch needs; `fragments` where the page's own script asks."""

    request: Request
    connection: sqlite3.Connection
    before: StoredWatch
    display: Display
    fragments: bool
    house: House

    def saved(self, based_on: int, build: Build, change: str) -> Response:
        """Save the build as the next version and answer with what that changed."""
        if build == self.before.build:
            return self.answer(self.before)
        return self.answer(watches.save(self.connection, self.before.id, based_on, build, change))

    def answer(self, after: StoredWatch) -> Response:
        """What changed, for the page's own script; a fresh page, for a form that was sent without it."""
        page = fit_page(after, self.house, self.display)
        if self.fragments:
            return changed_fragments(self.request, self.before.build, page)
        address = self.request.app.url_path_for("watch", watch_id=str(after.id))
        return RedirectResponse(f"{address}{page.query()}", status_code=303)

    def refused(self, rejected: Rejected) -> Response:
        """The page as it was, with what was typed and the reason beside its field."""
        page = fit_page(self.before, self.house, self.display, rejected)
        if self.fragments:
            return changed_fragments(self.request, self.before.build, page)
        return whole_page(self.request, page, 422)


def _visit(
    request: Request, watch_id: int, connection: Connection, display: Looking, fragments: Fragments
) -> Visit:
    stored, house = watches.watch(connection, watch_id), rule_values(connection)
    return Visit(request, connection, stored, display, fragments, house)


Visiting = Annotated[Visit, Depends(_visit)]
