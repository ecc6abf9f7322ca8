"""The whole section of a build: bodies, axes, and where each check's gap is seen."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from itertools import chain

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.fit.figures import FigureTold
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.levels import dial_top
from marquetry.core.fit.report import Report
from marquetry.core.section import case_bodies, holder_bodies, inner_bodies
from marquetry.core.section.body import Body, Drawn, Point, ring
from marquetry.core.section.stations import R_STATIONS, Z_STATIONS
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.schema import Group
from marquetry.core.values.verdict import Verdict

PAINTED = (
    holder_bodies.holder,
    inner_bodies.movement,
    holder_bodies.tabs,
    case_bodies.case_middle,
    case_bodies.case_back,
    case_bodies.bezel,
    case_bodies.crystal,
    inner_bodies.chapter_ring,
    inner_bodies.spacers,
    inner_bodies.adapter,
    inner_bodies.dial,
    case_bodies.crown,
    case_bodies.stem,
)
"""Builders in the order of painting: what lies in front, or must not be covered, comes later; hands last."""


@dataclass(frozen=True, slots=True)
class Gap:
    """Where one finding is seen: a short distance along z or r, from `start` to `end`."""

    check: Check
    finding: Finding
    axis: str
    start: Point
    end: Point


@dataclass(frozen=True, slots=True)
class AxisLine:
    """A centre line: of the stem or of the tube, at height z, between two radii."""

    name: str
    z: float
    from_r: float
    to_r: float


@dataclass(frozen=True, slots=True)
class Section:
    """A laid-out section; `heights` are the hands' undersides in z, mm; `label_of` names a path in words.

    `overall` is how high the whole watch is, where it has case, crystal and back.
    """

    bodies: tuple[Body, ...]
    axes: tuple[AxisLine, ...]
    gaps: tuple[Gap, ...]
    heights: dict[str, float]
    label_of: Callable[[str], str]
    overall: FigureTold | None = None

    @property
    def assumed(self) -> tuple[str, ...]:
        """Every dimension, in words, that was drawn at a usual place because it is not known."""
        return tuple(dict.fromkeys(chain.from_iterable(body.assumed_labels for body in self.bodies)))


def lay_out(build: Build, report: Report) -> Section:
    """Lay a build out in section, whatever is missing; nothing here decides whether it fits."""
    plausible = Drawn(build, report.rules)
    heights = blade_heights(plausible, report)
    bodies = bodies_of(plausible, heights)
    return Section(
        bodies,
        tuple(_axes(plausible)),
        tuple(_gaps(plausible, report)),
        heights,
        build.anatomy.label_of,
        report.figures.get("watch_height"),
    )


def blade_heights(plausible: Drawn, report: Report) -> dict[str, float]:
    """Underside of every blade in z, mm: as the press plan has it, else in the middle of its grip."""
    return _planned(plausible, report) or inner_bodies.hand_heights(plausible)


def _planned(plausible: Drawn, report: Report) -> dict[str, float]:
    """The hands' undersides in z, mm, as the report's press plan has them; nothing where it has none."""
    finding = report.findings.get("hand_stack")
    plan = press_plan(finding) if finding else None
    face = float(dial_top(plausible))
    return {hand: height + face for hand, height in plan.heights.items()} if plan else {}


def bodies_of(plausible: Drawn, heights: Mapping[str, float]) -> tuple[Body, ...]:
    """Every cut body, the hands with their undersides at the given heights."""
    plausible.missing.clear()
    bodies = chain.from_iterable(builder(plausible) for builder in PAINTED)
    return (*bodies, *_plain_rings(plausible), *inner_bodies.hands(plausible, heights))


def _plain_rings(p: Drawn) -> Iterator[Body]:
    """Parts whose description says how they are drawn."""
    for part in p.build.anatomy.parts:
        if isinstance(part, Group) and part.drawn is not None and p.has(part.key):
            shape, key = part.drawn, part.key
            low = float(Z_STATIONS[shape.lies_on](p))
            inner, outer = (float(p[f"{key}.{edge}"]) / 2 for edge in (shape.inner, shape.outer))
            high = low + float(p[f"{key}.{shape.thickness}"])
            yield p.body(key, shape.material, *ring(inner, outer, low, high))


def _axes(p: Drawn) -> Iterator[AxisLine]:
    end = float(p["case.centre_to_tube_end"])
    if p.has("case"):
        inside = float(p["case.movement_bore"]) / 2
        yield AxisLine("tube", float(Z_STATIONS["tube_axis"](p)), inside - 2.0, end + 3.2)
    if p.has("movement"):
        tip = float(p["movement.centre_to_stem_tip"])
        yield AxisLine("stem", float(Z_STATIONS["stem_axis"](p)), tip - 1.0, end + 2.2)


def _gaps(p: Drawn, report: Report) -> Iterator[Gap]:
    for name, finding in report.findings.items():
        check = report.rules.model.check(name)
        span = check.span
        if span is None or finding.verdict is Verdict.SKIPPED:
            continue
        along, across = (Z_STATIONS, R_STATIONS) if span.axis == "z" else (R_STATIONS, Z_STATIONS)
        low, high = float(along[span.start](p)), float(along[span.end](p))
        beside = float(across[span.beside](p))
        points = [(beside, low), (beside, high)] if span.axis == "z" else [(low, beside), (high, beside)]
        yield Gap(check, finding, span.axis, points[0], points[1])
