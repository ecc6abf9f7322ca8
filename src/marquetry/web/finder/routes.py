"""The Finder: complete a watch, what can stand in, which two ever meet, what a part must measure."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import RedirectResponse, Response, StreamingResponse

from marquetry.core.finder.candidates import Slot
from marquetry.core.finder.pairs import PairTable, pair_table
from marquetry.core.finder.search import Search
from marquetry.core.finder.shopping import shopping_card
from marquetry.core.fit.model import Model
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.values.verdict import Verdict
from marquetry.formats.pairs_csv import pairs_csv
from marquetry.store import briefs, watches
from marquetry.store.house import rule_values
from marquetry.store.shelf_search import kind_counts
from marquetry.web.finder.finds import MOST_FOUND, Find, Relaxed
from marquetry.web.finder.slots import slot_tiles
from marquetry.web.finder.view import (
    LONGEST_WISHES,
    PAIR_KEYS,
    SPACERS,
    FinderLook,
    PairLook,
    fillable,
    found_row,
    miss_row,
    pair_slots,
    relaxations,
    shelf_slots,
)
from marquetry.web.site.deps import Connection, wants_fragments
from marquetry.web.site.jobs import Jobs
from marquetry.web.site.pages import render
from marquetry.web.watch.reports import Reports
from marquetry.web.watch.visit import Visit, Visiting
from marquetry.web.watch.way import way_through

router = APIRouter()
watch_router = APIRouter(prefix="/watches/{watch_id}")
SHOWN_PAIRS = 24


def _pair_labels(anatomy: Anatomy) -> list[tuple[str, list[str]]]:
    return [(key, [anatomy.kind(kind).label for kind in key.split("-")]) for key in PAIR_KEYS]


@watch_router.get("/finder", name="finder")
def show(visit: Visiting, look: Annotated[FinderLook, Query()]) -> Response:
    """The form: which slots are open, what is accepted, and the looks that the brief agreed on."""
    model = visit.model
    if "wishes" not in visit.request.query_params:
        wished = briefs.brief_of(visit.connection, visit.stored.id).looks_wished
        look = look.model_copy(update={"wishes": wished[:LONGEST_WISHES]})
    context = {
        "watch": visit.stored,
        "way": visit.way("finder"),
        "look": look,
        "slots": slot_tiles(model, visit.stored.build, look, kind_counts(visit.connection)),
        "spacers": SPACERS,
        "pairs": [(key, [model.anatomy.kind(kind) for kind in key.split("-")]) for key in PAIR_KEYS],
    }
    return render(visit.request, "finder/templates/finder.html", context)


@watch_router.post("/finder", name="start_find")
def start(visit: Visiting, look: Annotated[FinderLook, Form()]) -> Response:
    """Begin a search; what it finds appears on its own page while it goes on."""
    if not look.kinds(visit.model.anatomy):
        address = visit.request.app.url_path_for("finder", watch_id=str(visit.stored.id))
        return RedirectResponse(f"{address}{look.query()}", status_code=303)
    slots, shelf = shelf_slots(visit.connection, visit.stored, look)
    rules = visit.rules(visit.stored.build)
    search = Search(visit.stored.build, rules, slots, look.unmeasured)
    finds: Jobs[Find] = visit.request.app.state.finds
    otherwise = tuple(_relaxed(visit, words, wider) for words, wider in relaxations(look))
    number = finds.start(Find(visit.stored.id, search, shelf, look.query(), otherwise))
    return RedirectResponse(visit.request.app.url_path_for("find", number=str(number)), status_code=303)


def _relaxed(visit: Visit, words: str, look: FinderLook) -> Relaxed:
    slots, _ = shelf_slots(visit.connection, visit.stored, look)
    build = visit.stored.build
    return Relaxed(words, look.query(), Search(build, visit.rules(build), slots, look.unmeasured))


@router.get("/finds/{number}", name="find")
def find(request: Request, connection: Connection, number: int) -> Response:
    """What a search found so far."""
    finds: Jobs[Find] = request.app.state.finds
    found = finds.job(number)
    stored = watches.watch(connection, found.watch_id)
    rules = connection.model.rules_of(stored.build, rule_values(connection))
    reports: Reports = request.app.state.reports
    report = reports.on(stored.build, rules)
    before = {name: finding.verdict for name, finding in report.findings.items()}
    # Asked first: a search that ends meanwhile is told as ended only with all that it found.
    finished = found.finished
    rows = [found_row(found, filling, stored.build, before) for filling in found.ranked()]
    context = {
        "find": found,
        "number": number,
        "watch": stored,
        "way": way_through(stored, report, "finder"),
        "rows": rows,
        "finished": finished,
        "misses": [miss_row(found, missed, stored.build) for missed in found.misses],
        "most": MOST_FOUND,
        "come": MOST_FOUND if finished else len(rows),
    }
    fragments = wants_fragments(request)
    return render(
        request, "finder/templates/_find.html" if fragments else "finder/templates/find.html", context
    )


@router.post("/finds/{number}/stopped", name="stop_find")
def stop(request: Request, number: int) -> Response:
    """Stop a search; what it found stays."""
    finds: Jobs[Find] = request.app.state.finds
    finds.job(number).stop()
    return RedirectResponse(request.app.url_path_for("find", number=str(number)), status_code=303)


@dataclass(frozen=True, slots=True)
class PairCell:
    """One cell of the matrix: which parts, the verdict, the check that decides, the spacer it takes."""

    verdict: Verdict
    by: str
    spacer: float
    hidden: bool


def _cell(model: Model, table: PairTable, look: PairLook, row: int, column: int) -> PairCell:
    verdict, worst = table.verdict(row, column), table.worst[row, column]
    by = model.title(table.checks[worst]) if worst >= 0 else "nothing to compare"
    hidden = bool(look.only) and verdict.value != look.only
    return PairCell(verdict, by, float(table.spacers[row, column]), hidden)


def _window(slot: Slot, first: int) -> Slot:
    """The part of the matrix's side that is shown: no more is judged."""
    return Slot(slot.kind, slot.candidates[first - 1 : first - 1 + SHOWN_PAIRS], slot.worth)


def _judged(visit: Visit, look: PairLook, rows: Slot, columns: Slot) -> PairTable:
    """The window's table, judged once as long as watch, rules and the parts in it stay as they are."""
    build = visit.stored.build
    return visit.connection.kept.pure(pair_table, build, visit.rules(build), rows, columns, look.spacer)


@watch_router.get("/pairs", name="pairs")
def pairs(visit: Visiting, look: Annotated[PairLook, Query()]) -> Response:
    """A window of the matrix of two kinds, with the rest of this watch around them."""
    whole = pair_slots(visit.connection, visit.stored.id, look)
    rows, columns = _window(whole[0], look.row), _window(whole[1], look.column)
    table = _judged(visit, look, rows, columns)
    names = [candidate.part.name for candidate in columns.candidates]
    cells = [
        [(name, _cell(visit.model, table, look, row, column)) for column, name in enumerate(names)]
        for row in range(len(rows.candidates))
    ]
    context = {
        "watch": visit.stored,
        "way": visit.way("finder"),
        "look": look,
        "kinds": [visit.model.anatomy.kind(kind) for kind in look.kinds.split("-")],
        "pairs": _pair_labels(visit.model.anatomy),
        "spacers": SPACERS,
        "rows": list(zip([c.part.name for c in rows.candidates], cells, strict=True)),
        "columns": names,
        "size": [len(slot.candidates) for slot in whole],
        "ways": look.beside([len(slot.candidates) for slot in whole], SHOWN_PAIRS),
    }
    return render(visit.request, "finder/templates/pairs.html", context)


@watch_router.get("/pairs.csv", name="pairs_csv")
def pairs_as_csv(visit: Visiting, look: Annotated[PairLook, Query()]) -> Response:
    """The whole matrix, a line a pair."""
    slots = pair_slots(visit.connection, visit.stored.id, look)
    lines = pairs_csv(visit.stored.build, visit.rules(visit.stored.build), slots, look.spacer)
    headers = {"Content-Disposition": f'attachment; filename="{look.kinds}.csv"'}
    return StreamingResponse(lines, media_type="text/csv; charset=utf-8", headers=headers)


@watch_router.get("/card-for/{kind}", name="shopping")
def shopping(visit: Visiting, kind: str) -> Response:
    """What a part of this kind must measure for this watch: a card to take along."""
    described = visit.model.anatomy.kind(kind)
    build = visit.stored.build
    lines = shopping_card(build, visit.rules(build), described)
    told = [(line, [visit.model.title(name) for name in line.by]) for line in lines]
    context = {
        "watch": visit.stored,
        "way": visit.way("finder"),
        "kind": described,
        "lines": told,
        "kinds": fillable(visit.model.anatomy),
    }
    return render(visit.request, "finder/templates/shopping.html", context)
