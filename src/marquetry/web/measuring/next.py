"""What to measure next on one watch, with the instruments the workshop has."""

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from marquetry.core.fit.measure_next import Proposal, measure_next
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict
from marquetry.store import house
from marquetry.web.site.pages import render
from marquetry.web.watch.rows import Row, row_for
from marquetry.web.watch.visit import Visiting

router = APIRouter(prefix="/watches/{watch_id}")
SHOWN = 12


@dataclass(frozen=True, slots=True)
class ProposalRow:
    """One proposal with the field to enter what was measured."""

    proposal: Proposal
    row: Row
    unit: str
    settles: tuple[tuple[str, Verdict, Verdict], ...]
    helps: str
    risk: str


def _row(visit: Visiting, proposal: Proposal) -> ProposalRow:
    unit = visit.model.anatomy.quantity_at(proposal.path).unit
    risk = f"{figure(100 * proposal.risk_before, 2)} → {figure(100 * proposal.risk_after, 2, '%')}"
    return ProposalRow(
        proposal,
        row_for(visit.before.build, proposal.path, "ledger"),
        unit,
        tuple((visit.model.title(name), old, new) for name, old, new in proposal.settles),
        _titles(visit, proposal.helps),
        risk,
    )


def _titles(visit: Visiting, checks: tuple[str, ...]) -> str:
    return "; ".join(visit.model.title(name) for name in checks)


@router.get("/measure", name="measure")
def show(visit: Visiting) -> Response:
    """The ranked list, each with before and after."""
    build = visit.before.build
    report = visit.report(build)
    owned = tuple(o.instrument for o in house.instruments(visit.connection))
    proposals = measure_next(build, report, owned)
    context = {
        "watch": visit.before,
        "way": visit.way("measure"),
        "rows": [_row(visit, proposal) for proposal in proposals[:SHOWN]],
        "more": max(len(proposals) - SHOWN, 0),
        "doubts": report.count(Verdict.TIGHT) + report.count(Verdict.UNMEASURED),
        "has_instruments": bool(owned),
        "told": bool(report.ranked()),
    }
    return render(visit.request, "measuring/templates/measure.html", context)
