"""The bench: every watch with its worst verdict; new watches, and build sheets brought in."""

from dataclasses import dataclass, replace

from fastapi import APIRouter, Request, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import House
from marquetry.core.sheet.part import unlinked
from marquetry.core.story.fates import whereabouts
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.verdict import Verdict
from marquetry.formats import build_sheet
from marquetry.store import bench_log, fates, supply_orders, watches
from marquetry.store.house import rule_values
from marquetry.store.watches import StoredWatch
from marquetry.web.bench.beginning import begin_page
from marquetry.web.build.bench_run import built
from marquetry.web.handbook.tour import is_toured
from marquetry.web.order.plans import Plans
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.view import waits_for
from marquetry.web.watch.way import MARKS

router = APIRouter()
KNOWN_BY = ("case", "movement", "dial")


@dataclass(frozen=True, slots=True)
class BenchEntry:
    """One watch on the bench."""

    watch: StoredWatch
    report: Report
    waits_for: str
    marks: tuple[tuple[str, Verdict], ...]
    parts: list[str]
    """The names of what it is known by, those that it has."""
    built: str = ""
    """How far its build is; empty where nothing of it was begun."""

    @property
    def worst(self) -> Verdict:
        """The mark of the watch's own word: red for what is known to clash, never for what nobody knows."""
        return MARKS[self.report.standing.verdict]


def _entry(model: Model, reports: Reports, stored: StoredWatch, house: House) -> BenchEntry:
    report = reports.on(stored.build, model.rules_of(stored.build, house))
    marks = tuple((model.title(f.check), f.verdict) for f in report.ranked())
    names = [stored.build.at(f"{kind}.name") for kind in KNOWN_BY]
    return BenchEntry(stored, report, waits_for(report), marks, [str(name) for name in names if name])


@router.get("/", name="bench")
def show(request: Request, connection: Connection, removed: int | None = None) -> Response:
    """The watches on the bench; `removed` is one that was just taken off it and can be put back."""
    plans: Plans = request.app.state.plans
    plans.warm()
    return _page(request, connection, {"removed": removed})


def _page(
    request: Request, connection: Connection, context: dict[str, object], status: int = 200
) -> Response:
    house = rule_values(connection)
    gone = fates.done_with(connection)
    held = [found for found in watches.watches_or_faults(connection) if found.id not in gone]
    readable = [found for found in held if isinstance(found, StoredWatch)]
    entries = [_entry(connection.model, request.app.state.reports, watch, house) for watch in readable]
    begun = set(bench_log.watches_with_log(connection))
    entries = [
        replace(e, built=built(connection, e.watch.id, e.report)) if e.watch.id in begun else e
        for e in entries
    ]
    context["gone"] = len(gone)
    context["toured"] = is_toured(connection)
    context["large"] = _large(connection, readable)
    context["faults"] = [found for found in held if not isinstance(found, StoredWatch)]
    usual: dict[str, object] = {"removed": None, "sheet_fault": "", "fault": ""}
    out = {number: steps for number, steps in fates.all_fates(connection).items() if number not in gone}
    context["back"] = {number for number, steps in out.items() if whereabouts(steps) == "service"}
    context["late"] = [order for order in supply_orders.awaited_orders(connection) if order.is_late(today())]
    if not entries:
        usual["page"] = begin_page(connection, request.app.state.reports)
    return render(request, "bench/templates/bench.html", {**usual, "entries": entries, **context}, status)


MOST_LARGE = 12
"""Watches that stand on the bench with their pictures; on a fuller one, those that were touched last."""


def _large(connection: Connection, held: list[StoredWatch]) -> frozenset[int]:
    """Numbers of the watches that are drawn; the others are a line each."""
    if len(held) <= MOST_LARGE:
        return frozenset(watch.id for watch in held)
    touched = bench_log.last_touched(connection)
    ranked = sorted(held, key=lambda watch: max(watch.saved_at, touched.get(watch.id, "")), reverse=True)
    return frozenset(watch.id for watch in ranked[:MOST_LARGE])


@router.post("/sheets", name="bring_in")
def bring_in(request: Request, connection: Connection, sheet: UploadFile) -> Response:
    """Put the watch of a build sheet on the bench; one that cannot be read changes nothing."""
    try:
        build = unlinked(
            build_sheet.loads(sheet.file.read(build_sheet.MOST_BYTES + 1), connection.model.anatomy)
        )
        report_on(
            build, connection.model.rules_of(build)
        )  # a sheet's own rules are read here, so that a page never meets a faulty one
    except (SheetError, DimensionError) as error:
        return _refused(request, connection, {"sheet_fault": f"{error} Nothing was changed."})
    return _to_watch(request, watches.add_watch(connection, build))


def _refused(request: Request, connection: Connection, context: dict[str, object]) -> Response:
    """The page of all beginnings, with why a sheet was refused beside its field."""
    page = begin_page(connection, request.app.state.reports)
    return render(request, "bench/templates/begin.html", {"page": page, "fault": "", **context}, 422)


@router.post("/watches/{watch_id}/mended", name="mend_watch")
def mend_watch(request: Request, watch_id: int, connection: Connection) -> Response:
    """Bring back the newest version of a watch that can be read."""
    return _to_watch(request, watches.mend(connection, watch_id).id)


@router.get("/watches/{watch_id}/stored.json", name="raw_sheet")
def raw_sheet(watch_id: int, connection: Connection) -> Response:
    """A watch's sheet as it stands on disk, for mending it by hand."""
    headers = {"Content-Disposition": f'attachment; filename="watch-{watch_id}-as-stored.json"'}
    return Response(watches.raw_sheet(connection, watch_id), media_type="application/json", headers=headers)


@router.post("/watches/{watch_id}/removed", name="remove_watch")
def remove_watch(request: Request, watch_id: int, connection: Connection) -> Response:
    """Take a watch off the bench."""
    watches.remove(connection, watch_id)
    address = request.app.url_path_for("bench")
    return RedirectResponse(f"{address}?removed={watch_id}", status_code=303)


@router.post("/watches/{watch_id}/restored", name="restore_watch")
def restore_watch(request: Request, watch_id: int, connection: Connection) -> Response:
    """Put a watch back on the bench."""
    return _to_watch(request, watches.restore(connection, watch_id).id)


def _to_watch(request: Request, watch_id: int) -> Response:
    address = request.app.url_path_for("watch", watch_id=str(watch_id))
    return RedirectResponse(address, status_code=303)
