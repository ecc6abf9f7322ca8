"""What is made for a watch: its parts with their versions, batches of blanks, trials of finishes."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.batch import Batch, FinishTrial
from marquetry.core.making.kinds import MADE
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.making.printer import PrinterFit, PrinterPair, printer_fit
from marquetry.core.making.sizes import UNTOLD
from marquetry.core.making.version import MadeVersion, tally_of
from marquetry.core.sheet.schema import Many
from marquetry.core.values.errors import DimensionError
from marquetry.drawing.made.printer_chart import printer_chart
from marquetry.drawing.made.view_marks import small_view
from marquetry.drawing.scene import Scene
from marquetry.store import batches, made
from marquetry.store.photos import Photo, photos_of
from marquetry.store.watches import StoredWatch
from marquetry.web.make.bodies import Bodies
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class MadeRow:
    """One part that is or could be made for the watch."""

    part: MadePart
    scene: Scene | None
    fault: str
    versions: tuple[MadeVersion, ...]

    @property
    def spoilt(self) -> int:
        """How many of its versions were spoilt."""
        return tally_of(self.versions).spoilt


@dataclass(frozen=True, slots=True)
class TrialView:
    """A trial with its pictures."""

    trial: FinishTrial
    pictures: tuple[Photo, ...]


@dataclass(frozen=True, slots=True)
class PrinterView:
    """A printer's error for one material and kind of size, with its chart."""

    printer: str
    material: str
    kind: str
    fit: PrinterFit
    chart: Scene


@dataclass(frozen=True, slots=True)
class MakeOverview:
    """All that the templates show."""

    watch: StoredWatch
    way: WayThrough
    rows: tuple[MadeRow, ...]
    others: tuple[MadeRow, ...]
    printers: tuple[PrinterView, ...]
    batches: tuple[Batch, ...]
    trials: tuple[TrialView, ...]
    fault: str = ""


def make_overview(visit: Visit, fault: str = "") -> MakeOverview:
    """Compute the page."""
    versions = made.versions_of(visit.connection, visit.stored.id)
    rows = tuple(_rows(visit, versions))
    trials = batches.trials_of(visit.connection, visit.stored.id)
    return MakeOverview(
        visit.stored,
        visit.way("make"),
        tuple(row for row in rows if row.part.is_there or row.versions),
        tuple(row for row in rows if not (row.part.is_there or row.versions)),
        tuple(printers(made.printer_pairs(visit.connection))),
        tuple(batches.batches_of(visit.connection, visit.stored.id)),
        tuple(TrialView(trial, tuple(photos_of(visit.connection, "trial", trial.id))) for trial in trials),
        fault,
    )


def _rows(visit: Visit, versions: list[MadeVersion]) -> Iterator[MadeRow]:
    build = visit.stored.build
    rules = visit.rules(build)
    for kind in MADE:
        described = build.anatomy.part(kind.part)
        # Of a list the next one can be begun as well.
        count = min(build.count(kind.part) + 1, described.most) if isinstance(described, Many) else 1
        for number in range(count):
            part = made_part(f"{kind.key}:{number}" if kind.is_many else kind.key, build, rules)
            if not part.has_its_needs:
                continue
            scene, fault = _drawn(visit, part)
            yield MadeRow(part, scene, fault, tuple(v for v in versions if v.part == part.name))


def _drawn(visit: Visit, part: MadePart) -> tuple[Scene | None, str]:
    bodies: Bodies = visit.request.app.state.bodies
    try:
        drawn = part if part.is_there else made_part(part.name, part.begun(), part.rules)
        return small_view(bodies.of(drawn).drawing), ""
    except DimensionError as error:
        return None, _lacking(visit, error) if part.is_there else ""


def _lacking(visit: Visit, error: DimensionError) -> str:
    """Why a part cannot be drawn: the size that is not known by its name, anything else as it was told."""
    anatomy = visit.model.anatomy
    if error.value == UNTOLD and anatomy.is_quantity(error.field):
        return f"{anatomy.label_of(error.field)}: not known yet. Open it, and take what the watch proposes."
    return str(error)


def printers(pairs: list[PrinterPair]) -> Iterator[PrinterView]:
    """Each printer, material and kind of size of which there is a pair, with its fit."""
    for printer, material, kind in dict.fromkeys((p.printer, p.material, p.kind) for p in pairs):
        try:
            fit = printer_fit(pairs, printer, material, kind)
        except DimensionError:
            continue
        words = f"{printer or 'a printer'}, {material or 'a material'}, {kind}"
        yield PrinterView(printer, material, kind, fit, printer_chart(fit, words))
