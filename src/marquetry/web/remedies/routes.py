"""Remedies of a watch: each with what it mends and spoils, to be looked at, taken, or kept as a variant."""

from functools import lru_cache, partial
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from marquetry.core.remedies.offers import offers
from marquetry.store.finder_parts import candidates
from marquetry.web.remedies.gaskets import pairs_for
from marquetry.web.remedies.view import first_row, remedy_row
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visiting

router = APIRouter(prefix="/watches/{watch_id}")
SHOWN = 10


@router.get("/remedies", name="remedies")
def show(visit: Visiting, more: Annotated[bool, Query()] = False, now: bool = False) -> Response:  # noqa: FBT001, FBT002  # an address's flags
    """The remedies; the page comes first and asks for them, since trying all of them takes a while."""
    if not (visit.fragments or now):
        context = {
            "watch": visit.stored,
            "ready": False,
            "query": "?more=true" if more else "",
            "way": visit.way("remedies"),
        }
        return render(visit.request, "remedies/templates/remedies.html", context)
    build = visit.stored.build
    rules = visit.rules(build)
    before = visit.report(build)
    found = offers(build, rules)
    shelf = lru_cache(partial(candidates, visit.connection, watch_id=visit.stored.id))
    shown = found.remedies if more else found.remedies[:SHOWN]
    context = {
        "watch": visit.stored,
        "ready": True,
        "way": visit.way("remedies"),
        "before": before,
        "rows": [remedy_row(visit, before, remedy, shelf) for remedy in shown],
        "errands": [remedy_row(visit, before, errand, shelf) for errand in found.errands],
        "hidden": len(found.remedies) - len(shown),
        "disagreements": [(visit.model.check(d.check), d) for d in found.disagreements],
        "pairs": pairs_for(visit, rules),
        "first": [first_row(before, find) for find in found.first],
    }
    return render(
        visit.request,
        "remedies/templates/_remedies.html" if visit.fragments else "remedies/templates/remedies.html",
        context,
    )
