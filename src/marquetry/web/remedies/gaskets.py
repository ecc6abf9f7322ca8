"""Which gasket: every pair of crystal and gasket for this bore, what it has to measure, what was tried."""

from collections.abc import Iterator
from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from marquetry.core.finder.shopping import Wanted, shopping_card
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.squeeze_pairs import (
    BORE,
    CHECK,
    DIAMETER,
    WALL,
    GasketWanted,
    Pairs,
    Size,
    gasket_wanted,
    squeeze_pairs,
    wall_of,
)
from marquetry.core.making.batch import FinishTrial
from marquetry.core.sheet.part import Part
from marquetry.drawing.gap_detail import gap_detail
from marquetry.drawing.scene import Scene
from marquetry.store.shelf_search import ShelfQuery, Slip, search
from marquetry.store.trials import trials_of
from marquetry.store.watches import StoredWatch
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting
from marquetry.web.watch.way import WayThrough

router = APIRouter(prefix="/watches/{watch_id}")


@dataclass(frozen=True, slots=True)
class GasketPage:
    """All that the template shows; `lacking` are the sizes that have to be read first, in words."""

    watch: StoredWatch
    way: WayThrough
    finding: Finding
    scene: Scene | None
    pairs: Pairs | None
    wanted: GasketWanted | None
    lines: tuple[Wanted, ...]
    held: tuple[tuple[int, Part, float | None], ...]
    """Gaskets of the shelf: number, part, wall in mm where it follows from what is known of it."""
    trials: tuple[FinishTrial, ...]
    lacking: tuple[str, ...]


def pairs_for(visit: Visit, rules: Rules) -> Pairs | None:
    """The chart of crystals and gaskets for this bore, with what lies on the shelf."""
    diameters = [
        Size(known.value, slip.stored.part.name)
        for slip in _held(visit, "crystal")
        if (known := slip.stored.part.dimensions.get("diameter"))
    ]
    walls = [Size(wall, part.name) for _, part, wall in _gaskets(visit) if wall is not None]
    return squeeze_pairs(visit.stored.build, rules, diameters, walls)


def _held(visit: Visit, kind: str) -> tuple[Slip, ...]:
    return search(visit.connection, ShelfQuery(chosen={"kind": kind}, stock="owned")).slips


def _gaskets(visit: Visit) -> Iterator[tuple[int, Part, float | None]]:
    for slip in _held(visit, "crystal_gasket"):
        yield slip.stored.id, slip.stored.part, wall_of(slip.stored.part)


@router.get("/gaskets", name="gaskets")
def show(visit: Visiting) -> Response:
    """The page: chart, card and trials for the crystal of this watch."""
    build = visit.stored.build
    rules = visit.rules(build)
    report = visit.report(build)
    kind = visit.model.anatomy.kind("crystal_gasket")
    known = build.dimensions
    lacking = [path for path in (BORE, DIAMETER) if path not in known or not known[path].source.is_known]
    page = GasketPage(
        watch=visit.stored,
        way=visit.way("remedies"),
        finding=report.findings[CHECK],
        scene=gap_detail(visit.model, CHECK),
        pairs=pairs_for(visit, rules),
        wanted=gasket_wanted(build, rules),
        lines=tuple(line for line in shopping_card(build, rules, kind) if line.path == WALL),
        held=tuple(_gaskets(visit)),
        trials=tuple(t for t in trials_of(visit.connection, visit.stored.id) if t.kind == "gasket"),
        lacking=tuple(map(build.anatomy.label_of, lacking)),
    )
    return render(visit.request, "remedies/templates/gaskets.html", {"page": page, "watch": visit.stored})
