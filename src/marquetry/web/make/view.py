"""A made part's page: fields with where each size comes from, drawing, preview, what the fit says."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.fit.sentence import in_short
from marquetry.core.making.body import MadeBody
from marquetry.core.making.both_sides import COMPARED, SpacerSide, both_sides
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart
from marquetry.core.making.support import HeatFit, heat_fit, in_the_way
from marquetry.core.making.version import Compensation, PrintedBy, Tally, compensated, tally_of
from marquetry.core.making.way_on import WayStep, way_on
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.made.made_plate import made_plate
from marquetry.drawing.made.way_steps import way_scene
from marquetry.drawing.scene import Scene
from marquetry.drawing.section_thumb import section_thumb
from marquetry.store import made
from marquetry.store.watches import StoredWatch
from marquetry.web.make.bodies import Bodies
from marquetry.web.make.fields import (
    FeatureSwitch,
    MadeTab,
    as_rejected,
    editing_made,
    own_fields,
    part_link,
    recesses_of,
    switches_of,
    tabs_of,
)
from marquetry.web.make.version_view import VersionView, version_views
from marquetry.web.watch.editing import Editing
from marquetry.web.watch.rows import PartView, Rejected
from marquetry.web.watch.trial import trial_query
from marquetry.web.watch.view import turned_verdicts
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough

PRINTED = "printed"
"""The usual material of what comes out of a printer."""


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
    sides: tuple[tuple[SpacerSide, Scene], ...]
    """Both ways of a spacer, each with the watch in section."""
    heat: HeatFit | None
    by: PrintedBy
    sizes: tuple[Compensation, ...]
    versions: tuple[VersionView, ...]
    is_trial: bool
    version_fault: str = ""

    @property
    def in_the_way(self) -> str:
        """What stands where a spigot goes in, in words; nothing where it may."""
        found = in_the_way(self.part.sizes) if self.part.kind.key == "press-support" else ()
        return ", ".join(self.part.build.anatomy.kind(part).label.lower() for part in found)

    @property
    def tally(self) -> Tally:
        """What all versions took together."""
        return tally_of(view.made for view in self.versions)

    @property
    def is_corrected(self) -> bool:
        """Whether anything is known of the printer's error for this part."""
        return any(size.fit for size in self.sizes)

    @property
    def compared(self) -> tuple[tuple[Check, tuple[Finding, ...]], ...]:
        """What both sides of a spacer are compared by, those that judge something."""
        model = self.report.rules.model
        rows = [
            (model.check(name), tuple(side.report.findings[name] for side, _ in self.sides))
            for name in COMPARED
        ]
        return tuple(row for row in rows if any(f.verdict is not Verdict.SKIPPED for f in row[1]))


def made_query(visit: Visit, build: Build) -> str:
    """The address's query: what is tried, nothing where nothing is."""
    return "?" if visit.trial is None else trial_query(visit, build)


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
        rejected = as_rejected(part, fault)
    by = usual_maker(visit, part)
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
        tabs=tuple(tabs_of(part)),
        view=own_fields(part, rejected),
        recesses=recesses_of(part, rejected),
        switches=tuple(switches_of(part)),
        editing=editing_made(visit, part, query),
        query=query,
        mesh=_mesh_link(visit, part, query) if body and body.mesh else "",
        scene=None if body is None else _plate(part, body),
        fault=fault,
        notes=_notes(part, body, by.setting),
        findings=tuple(_findings(part, report)),
        turned=turned_verdicts(visit.report(was), report),
        report=report,
        steps=tuple(_way_steps(part)),
        sides=tuple(_sides(part, report)) if part.kind.is_many and body else (),
        heat=_heat(part),
        by=by,
        sizes=sizes,
        versions=tuple(version_views(visit, part)),
        is_trial=visit.trial is not None,
        version_fault=version_fault,
    )


def usual_maker(visit: Visit, part: MadePart) -> PrintedBy:
    """Who makes such a part unless told otherwise: what comes out of a printer, the last one used."""
    is_printed = part.kind.material == PRINTED
    return made.last_printed(visit.connection) if is_printed else PrintedBy("", part.kind.material)


def _plate(part: MadePart, body: MadeBody) -> Scene:
    return made_plate(body.drawing, part.measures(), _material(part), part.label)


def _mesh_link(visit: Visit, part: MadePart, query: str) -> str:
    """Where the preview's triangles are; the version in it tells the preview that they are others now."""
    mark = "" if query == "?" else "&"
    return f"{part_link(visit, 'made_mesh', part)}{query}{mark}v={visit.stored.version}"


def _sides(part: MadePart, report: Report) -> Iterator[tuple[SpacerSide, Scene]]:
    for side in both_sides(report, part.path):
        yield side, section_thumb(lay_out(side.build, side.report), side.label)


def _body(visit: Visit, part: MadePart) -> tuple[MadeBody | None, DimensionError | None]:
    bodies: Bodies = visit.request.app.state.bodies
    try:
        return bodies.of(part), None
    except DimensionError as error:
        return None, error


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
    warm, cool = (part.rules.number(key) for key in ("warm_by", "cool_by"))
    glass = part.build.at("crystal.material") or "sapphire"
    try:
        return heat_fit(bore.value, "steel 316", words.get(str(glass), str(glass)), warm, cool)
    except KeyError:
        return None
