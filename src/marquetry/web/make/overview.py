"""What is made for a watch: its parts with their versions, batches of blanks, trials of finishes."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.making.batch import STAGES, Batch, FinishTrial
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
from marquetry.store import blanks, made, trials
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
class BlankSeen:
    """What hangs on one blank: its pictures, and the trials that were done on it."""

    pictures: tuple[Photo, ...]
    trials: tuple[FinishTrial, ...]


@dataclass(frozen=True, slots=True)
class BatchView:
    """A batch, and what hangs on its blanks by their numbers in the workshop."""

    batch: Batch
    seen: Mapping[int, BlankSeen]


@dataclass(frozen=True, slots=True)
class TrialView:
    """A trial with its pictures."""

    trial: FinishTrial
    pictures: tuple[Photo, ...]
    on: str
    """What it was done on, in words."""


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
    batches: tuple[BatchView, ...]
    trials: tuple[TrialView, ...]
    blanks: tuple[tuple[int, str], ...]
    """Every blank of the watch, by its number in the workshop and in words."""
    fault: str = ""
    stages: tuple[str, ...] = STAGES
    """What the usual stages of a blank are called."""


def make_overview(visit: Visit, fault: str = "") -> MakeOverview:
    """Compute the page."""
    versions = made.versions_of(visit.connection, visit.stored.id)
    rows = tuple(_rows(visit, versions))
    tried = trials.trials_of(visit.connection, visit.stored.id)
    batches = blanks.batches_of(visit.connection, visit.stored.id)
    named = {blank.id: f"blank {blank.number} of {batch.name}" for batch in batches for blank in batch.blanks}
    return MakeOverview(
        visit.stored,
        visit.way("make"),
        tuple(row for row in rows if row.part.is_there or row.versions),
        tuple(row for row in rows if not (row.part.is_there or row.versions)),
        tuple(printers(made.printer_pairs(visit.connection))),
        tuple(BatchView(batch, dict(_seen(visit, batch, tried))) for batch in batches),
        tuple(
            TrialView(
                trial,
                tuple(photos_of(visit.connection, "trial", trial.id)),
                named.get(trial.blank_id or 0, trial.blank),
            )
            for trial in tried
        ),
        tuple(named.items()),
        fault,
    )


def _seen(visit: Visit, batch: Batch, tried: list[FinishTrial]) -> Iterator[tuple[int, BlankSeen]]:
    for blank in batch.blanks:
        pictures = tuple(photos_of(visit.connection, "blank", blank.id))
        yield blank.id, BlankSeen(pictures, tuple(trial for trial in tried if trial.blank_id == blank.id))


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
