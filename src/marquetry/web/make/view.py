"""A made part's page: fields with where each size comes from, drawing, preview, what the fit says."""

import json
from collections.abc import Iterator
from dataclasses import dataclass, replace
from urllib.parse import urlencode

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.checks.tabs import RECESSES
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.fit.sentence import in_short
from marquetry.core.making.body import MadeBody
from marquetry.core.making.both_sides import COMPARED, SpacerSide, both_sides
from marquetry.core.making.features import MadeFeature
from marquetry.core.making.kinds import MADE
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.making.support import HeatFit, heat_fit
from marquetry.core.making.version import Compensation, MadeVersion, PrintedBy, compensated
from marquetry.core.making.way_on import WayStep, way_on
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import difference
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.core.values.figures import entered
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.made.made_plate import made_plate
from marquetry.drawing.made.way_steps import way_scene
from marquetry.drawing.scene import Scene
from marquetry.formats.made_files import endings_of
from marquetry.store import made
from marquetry.store.photos import Photo, photos_of
from marquetry.store.watches import StoredWatch
from marquetry.web.make.bodies import Bodies
from marquetry.web.watch.editing import Editing
from marquetry.web.watch.rows import PartView, Rejected, Row, part_view
from marquetry.web.watch.view import turned_verdicts
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough

PRINTED = "printed"
"""The usual material of what comes out of a printer."""
WARM, COOL = 60.0, 40.0
"""The workshop's two temperatures, kelvin from the room's: what a plate warms and an icebox cools by."""


@dataclass(frozen=True, slots=True)
class MadeTab:
    """Another part of the watch that is made here, and whether this is it."""

    name: str
    label: str
    query: str
    is_here: bool
    is_there: bool


@dataclass(frozen=True, slots=True)
class FeatureSwitch:
    """A feature, on or off."""

    feature: MadeFeature
    is_on: bool
    can_add: bool


@dataclass(frozen=True, slots=True)
class VersionView:
    """A version with its files, its pictures, and what of it was measured against what was asked."""

    made: MadeVersion
    sizes: tuple[tuple[str, str, float, float, float | None], ...]
    """Path, label, wanted, asked, measured, mm."""
    files: tuple[tuple[str, str], ...]
    pictures: tuple[Photo, ...]
    is_in_watch: bool


@dataclass(frozen=True)
class MadePage:
    """All that the templates show of one part."""

    watch: StoredWatch
    way: WayThrough
    part: MadePart
    tabs: tuple[MadeTab, ...]
    view: PartView | None
    recesses: PartView | None
    """The movement's recesses, where the tabs go: described on the holder's page as well."""
    switches: tuple[FeatureSwitch, ...]
    editing: Editing
    query: str
    mesh: str
    scene: Scene | None
    fault: DimensionError | None
    notes: tuple[str, ...]
    findings: tuple[tuple[Check, Finding, str], ...]
    turned: list[tuple[str, Verdict, Verdict]]
    report: Report
    steps: tuple[tuple[WayStep, Scene], ...]
    sides: tuple[SpacerSide, ...]
    heat: HeatFit | None
    by: PrintedBy
    sizes: tuple[Compensation, ...]
    versions: tuple[VersionView, ...]
    is_trial: bool
    version_fault: str = ""

    @property
    def is_corrected(self) -> bool:
        """Whether anything is known of the printer's error for this part."""
        return any(size.fit for size in self.sizes)

    @property
    def compared(self) -> tuple[tuple[Check, tuple[Finding, ...]], ...]:
        """What both sides of a spacer are compared by, those that judge something."""
        model = self.report.rules.model
        rows = [
            (model.check(name), tuple(side.report.findings[name] for side in self.sides)) for name in COMPARED
        ]
        return tuple(row for row in rows if any(f.verdict is not Verdict.SKIPPED for f in row[1]))


def made_query(visit: Visit, build: Build) -> str:
    """The address's query: what is tried, nothing where nothing is."""
    if visit.trial is None:
        return "?"
    edits = difference(visit.stored.build, build)
    return f"?{urlencode({'try': json.dumps(edits, separators=(',', ':'), ensure_ascii=False)})}"


def made_page(
    visit: Visit,
    part: MadePart,
    rejected: Rejected | None = None,
    *,
    version_fault: str = "",
    was: Build | None = None,
) -> MadePage:
    """Compute the page; what cannot be made is told beside the field that causes it.

    `was` is the watch before the edit that this page answers; a trial is compared with the stored watch.
    """
    build = part.build
    was = visit.stored.build if was is None or visit.trial is not None else was
    report = visit.report(build, like=visit.stored.build)
    body, fault = _body(visit, part)
    if fault is not None and rejected is None:
        rejected = _as_rejected(part, fault)
    printed = part.kind.material == PRINTED
    by = made.last_printed(visit.connection) if printed else PrintedBy("", part.kind.material)
    sizes = (
        ()
        if body is None or body.mesh is None
        else compensated(part, made.printer_pairs(visit.connection), by)
    )
    query = made_query(visit, build)
    return MadePage(
        watch=visit.stored,
        way=visit.way("make"),
        part=part,
        tabs=tuple(_tabs(part, query)),
        view=_fields(part, rejected),
        recesses=_recesses(part, rejected),
        switches=tuple(_switches(part)),
        editing=_editing(visit, part, query),
        query=query,
        mesh=f"{_address(visit, 'made_mesh', part)}{query}" if body and body.mesh else "",
        scene=None if body is None else _plate(part, body),
        fault=fault,
        notes=_notes(part, body, by.setting),
        findings=tuple(_findings(part, report)),
        turned=turned_verdicts(visit.report(was), report),
        report=report,
        steps=tuple(_way_steps(part)),
        sides=both_sides(build, part.rules, part.path) if _is_spacer(part) and body else (),
        heat=_heat(part),
        by=by,
        sizes=sizes,
        versions=tuple(_versions(visit, part)),
        is_trial=visit.trial is not None,
        version_fault=version_fault,
    )


def _plate(part: MadePart, body: MadeBody) -> Scene:
    return made_plate(body.drawing, part.measures(), _material(part), part.label)


def _is_spacer(part: MadePart) -> bool:
    return part.kind.is_many


def _body(visit: Visit, part: MadePart) -> tuple[MadeBody | None, DimensionError | None]:
    bodies: Bodies = visit.request.app.state.bodies
    try:
        return bodies.of(part), None
    except DimensionError as error:
        return None, error


def _as_rejected(part: MadePart, fault: DimensionError) -> Rejected | None:
    """The fault beside its field, as it stands there; None where the field is not one of the part's."""
    dimension = part.build.dimensions.get(fault.field)
    if not fault.field.startswith(f"{part.path}."):
        return None
    if dimension is None:
        return Rejected(fault.field, "ledger", "", "", "assumed", str(fault))
    shown = (entered(dimension.value), entered(dimension.tol), dimension.source.value)
    return Rejected(fault.field, "ledger", *shown, str(fault))


def _fields(part: MadePart, rejected: Rejected | None) -> PartView | None:
    """The part's own fields; of a list only the one thing that is made."""
    if not part.is_there or part.kind.solid is None:
        return None
    view = part_view(part.build, part.build.anatomy.part(part.kind.part), rejected)
    if part.kind.is_many:
        view = view.inner[int(part.path.rpartition(".")[2])]
    off = {f"{part.path}.{e}" for f in part.kind.features if not part.has(f) for e in f.entries}
    rows = tuple(row for row in view.rows if row.path not in off)
    inner = tuple(inside for inside in view.inner if inside.path not in off)
    addable = tuple(thing for thing in view.addable if thing[0].removesuffix(".-") not in off)
    shown = replace(view, rows=rows, inner=inner, addable=addable, removable=False)
    return _with_origins(shown, part)


def _recesses(part: MadePart, rejected: Rejected | None) -> PartView | None:
    if part.kind.key != "holder" or not part.build.has("movement"):
        return None
    movement = part_view(part.build, part.build.anatomy.part("movement"), rejected)
    inner = tuple(inside for inside in movement.inner if inside.path.startswith(RECESSES))
    return PartView(
        "movement", "The movement's recesses", "", (), inner, ((f"{RECESSES}.-", "recess"),), removable=False
    )


def _with_origins(view: PartView, part: MadePart) -> PartView:
    """Each row with where the watch would take its size from, and the size to take where it is another."""
    found = part.proposals()

    def told(row: Row) -> Row:
        origin = found.get(row.path)
        if origin is None or row.error or not isinstance(origin.value, float):
            return row
        proposed = entered(round(origin.value, 2))
        offers = () if row.value == proposed else ((f"take {proposed}", proposed),)
        words = f"{row.remark} " if row.remark else ""
        return replace(row, remark=f"{words}{origin.because}", offers=(*row.offers, *offers))

    inner = tuple(_with_origins(inside, part) for inside in view.inner)
    return replace(view, rows=tuple(map(told, view.rows)), inner=inner)


def _switches(part: MadePart) -> Iterator[FeatureSwitch]:
    for feature in part.kind.features:
        on = part.has(feature)
        yield FeatureSwitch(feature, on, on and feature.key in {"tabs", "cutouts", "windows"})


def _tabs(part: MadePart, query: str) -> Iterator[MadeTab]:
    for kind in MADE:
        count = max(part.build.count(kind.part), 1) if kind.is_many else 1
        for number in range(count):
            name = f"{kind.key}:{number}" if kind.is_many else kind.key
            other = made_part(name, part.build, part.rules)
            if other.is_there or other.name == part.name:
                yield MadeTab(name, other.label, query, name == part.name, other.is_there)


def _address(visit: Visit, route: str, part: MadePart) -> str:
    return str(visit.request.app.url_path_for(route, watch_id=str(visit.stored.id), name=part.name))


def _editing(visit: Visit, part: MadePart, query: str) -> Editing:
    def to(route: str) -> str:
        return f"{_address(visit, route, part)}{query}"

    card = (
        ""
        if visit.trial is not None
        else str(visit.request.app.url_path_for("watch_card", watch_id=str(visit.stored.id)))
    )
    return Editing(visit.stored.version, to("made_entry"), to("made_thing"), to("made_thing_removed"), card)


def _material(part: MadePart) -> str:
    return {"brass": "brass", "aluminium": "steel"}.get(part.kind.material, "print")


def _notes(part: MadePart, body: MadeBody | None, setting: PrintSetting) -> tuple[str, ...]:
    if body is None:
        return ()
    return (*part.notes(setting), *body.drawing.told)


def _findings(part: MadePart, report: Report) -> Iterator[tuple[Check, Finding, str]]:
    """The checks that this part decides, the gravest first."""
    spoken = {finding.check: finding for finding in report.ranked()}
    for name in sorted(part.kind.checks, key=lambda key: list(spoken).index(key) if key in spoken else 99):
        if name in spoken:
            model = report.rules.model
            yield model.check(name), spoken[name], in_short(model, spoken[name])


def _way_steps(part: MadePart) -> Iterator[tuple[WayStep, Scene]]:
    if part.kind.key == "holder" and part.is_there:
        way = way_on(part.build, part.rules)
        for step in way.steps if way else ():
            yield step, way_scene(way, step)  # type: ignore[arg-type]  # there is a step only where there is a way


def _heat(part: MadePart) -> HeatFit | None:
    """What warming a steel case and cooling its crystal would give, where this is about pressing one in."""
    bore = part.build.dimensions.get("case.crystal_bore")
    if part.kind.key != "press-support" or bore is None:
        return None
    words = {"mineral": "mineral glass"}
    glass = part.build.at("crystal.material") or "sapphire"
    try:
        return heat_fit(bore.value, "steel 316", words.get(str(glass), str(glass)), WARM, COOL)
    except KeyError:
        return None


def _versions(visit: Visit, part: MadePart) -> Iterator[VersionView]:
    piece = visit.stored.build.at(f"{part.path}.shelf_piece")
    for version in made.versions_of(visit.connection, visit.stored.id, part.name):
        try:
            then = made_part(version.part, made.build_of(visit.connection, version), part.rules)
        except MarquetryError:
            then = part
        names = tuple((ending, ending.upper()) for ending in endings_of(then))
        yield VersionView(
            version,
            tuple(_sizes(version, then)),
            names,
            tuple(photos_of(visit.connection, "made", version.id)),
            piece is not None and piece == version.piece_id,
        )


def _sizes(version: MadeVersion, then: MadePart) -> Iterator[tuple[str, str, float, float, float | None]]:
    for path, asked in version.asked.items():
        wanted = then.build.dimensions.get(path)
        measured = version.measured.get(path)
        label = then.build.anatomy.quantity_at(path).label
        yield (
            path, label, asked.nominal if wanted is None else wanted.value, asked.nominal,
            None if measured is None else measured.value,
        )  # fmt: skip
