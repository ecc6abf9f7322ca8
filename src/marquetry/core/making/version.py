"""A version of a made part: what it was asked to be, by which printer, what it measured and became."""

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

from marquetry.core.making.batch import sums_of
from marquetry.core.making.every_size import every_size
from marquetry.core.making.measures import MEASURE_KINDS, Measure
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart
from marquetry.core.making.printer import PrinterFit, PrinterPair, printer_fit
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import USUAL_TOLERANCE, Dimension, Source, Unit
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.core.values.money import Money

VersionState = Literal["asked", "good", "spoilt"]
EXPANDED = 2.0
"""Times the standard uncertainty of one print: what nineteen of twenty prints keep to (GUM, 6.2)."""
STEP = 0.01
"""Sizes are asked for in hundredths, mm: finer no printer follows."""


@dataclass(frozen=True, slots=True)
class AskedSize:
    """What was asked for at one field: how the printer errs there, and the nominal, mm or °."""

    kind: str
    nominal: float

    @property
    def unit(self) -> Unit:
        """In what it is told: ° or mm."""
        return "°" if self.kind == "angle" else "mm"


@dataclass(frozen=True, slots=True)
class PrintedBy:
    """Printer, material and setting of a version; other ways of making are told in the same words."""

    printer: str = ""
    material: str = ""
    setting: PrintSetting = field(default_factory=PrintSetting)


@dataclass(frozen=True, slots=True)
class MadeVersion:
    """One version as it is on disk. `revision` is the watch's version that it was made from."""

    id: int
    watch_id: int
    part: str
    number: int
    revision: int
    asked: Mapping[str, AskedSize]
    by: PrintedBy
    state: VersionState
    notes: str
    minutes: int | None
    cost: Money | None
    piece_id: int | None
    version: int
    at: str
    measured: Mapping[str, Dimension] = field(default_factory=dict)

    @property
    def name(self) -> str:
        """What it is called beside its part's name."""
        return f"v{self.number}"

    def pairs(self) -> Iterator[PrinterPair]:
        """What it was asked to be and what it measured, mm: what the printer's error is told from."""
        for path, dimension in self.measured.items():
            asked = self.asked.get(path)
            if asked is not None and asked.kind in MEASURE_KINDS:
                yield PrinterPair(
                    self.by.printer, self.by.material, asked.kind, asked.nominal, dimension.value
                )

    def as_asked(self, build: Build) -> Build:
        """The watch with the part as it was asked for, compensation and all: what its files are made from."""
        for path, asked in self.asked.items():
            dimension = build.dimensions.get(path)
            if dimension is not None and dimension.value != asked.nominal:
                told = Dimension(asked.nominal, dimension.tol, dimension.source)
                build = build.with_entry(path, dimension_as_json(told))
        return build

    def as_measured(self, build: Build) -> Build:
        """The watch with what this version measured in place of what was wanted."""
        for path, dimension in self.measured.items():
            if build.at(path) is not None:
                build = build.with_entry(path, dimension_as_json(dimension))
        return build


@dataclass(frozen=True, slots=True)
class Tally:
    """What the versions of a part took together: how many, how many spoilt, minutes, money by currency."""

    made: int
    spoilt: int
    minutes: int
    costs: tuple[Money, ...]


def tally_of(versions: Iterable[MadeVersion]) -> Tally:
    """Count them; what nobody noted counts nothing."""
    every = tuple(versions)
    return Tally(
        len(every),
        sum(version.state == "spoilt" for version in every),
        sum(version.minutes or 0 for version in every),
        sums_of(version.cost for version in every),
    )


@dataclass(frozen=True, slots=True)
class Compensation:
    """What to ask for at one field so that the wanted size comes out: both in mm, with one print's doubt."""

    measure: Measure
    wanted: float
    nominal: float
    doubt: float | None
    fit: PrinterFit | None

    @property
    def differs(self) -> bool:
        """Whether it is asked for otherwise than it is wanted."""
        return abs(self.nominal - self.wanted) >= STEP / 2


def compensated(part: MadePart, pairs: Iterable[PrinterPair], by: PrintedBy) -> tuple[Compensation, ...]:
    """Each size that is a field, with what to ask the printer for; as wanted where nothing is known."""
    known = tuple(pairs)
    return tuple(_one(measure, known, by) for measure in every_size(part))


def _one(measure: Measure, pairs: tuple[PrinterPair, ...], by: PrintedBy) -> Compensation:
    try:
        fit = printer_fit(pairs, by.printer, by.material, measure.kind)
    except MarquetryError:
        return Compensation(measure, measure.value, measure.value, None, None)
    nominal = round(round(fit.nominal_for(measure.value) / STEP) * STEP, 6)
    return Compensation(measure, measure.value, nominal, fit.doubt_at(nominal), fit)


def with_scatter(before: Build, part: MadePart, pairs: Iterable[PrinterPair], by: PrintedBy) -> Build:
    """The part's watch with what its printer is known to scatter as the tolerance of what is newly planned.

    A tolerance that somebody typed stays, and so does what was planned `before` at the same size.
    """
    known, build = tuple(pairs), part.build
    try:
        sizes = tuple(every_size(part)) if part.is_there and known else ()
    except DimensionError:  # not all of it is known yet: what cannot be drawn is printed by nobody
        return build
    for measure in sizes:
        planned = build.dimensions[measure.path]
        old = before.dimensions.get(measure.path)
        usual = USUAL_TOLERANCE[measure.unit][Source.PLANNED]
        is_new = old is None or old.value != planned.value
        if planned.source is Source.PLANNED and planned.tol == usual and is_new:
            across = max((each.value for each in sizes if each.kind == "outer"), default=0.0)
            doubt = _doubt(measure, known, by, across)
            if doubt is not None:
                tol = max(round(EXPANDED * doubt, 2), STEP)
                told = Dimension(planned.value, tol, Source.PLANNED)
                build = build.with_entry(measure.path, dimension_as_json(told))
    return build


def _doubt(measure: Measure, known: tuple[PrinterPair, ...], by: PrintedBy, across: float) -> float | None:
    """Standard uncertainty of one print of the size, mm or °; None where the printer's scatter is not known.

    No angle and no place is ever asked for corrected. The edge that shows them scatters as the outside does;
    an angle by as much, seen from the axis, on the part's own Ø `across`, mm.
    """
    if measure.kind not in {"angle", "place"}:
        found = _one(measure, known, by)
        return found.doubt if found.fit is not None and found.fit.knows(found.nominal) else None
    edge = _one(Measure("", "", "outer", across), known, by).doubt if across else None
    return edge if edge is None or measure.kind == "place" else math.degrees(2 * edge / across)


def asked_of(sizes: Iterable[Compensation], *, corrected: bool) -> dict[str, AskedSize]:
    """What a new version is asked to be, mm: corrected for the printer, or as it is wanted."""
    return {
        size.measure.path: AskedSize(size.measure.kind, size.nominal if corrected else size.wanted)
        for size in sizes
    }
