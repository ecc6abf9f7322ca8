"""The page Next: the one thing that takes most doubt away, drawn, and what comes after it."""

from collections.abc import Iterable
from dataclasses import dataclass

from marquetry.core.evidence.dry_fit import DryFit
from marquetry.core.evidence.follow import suits_told
from marquetry.core.fit.model import Model
from marquetry.core.fit.next_step import NextStep, next_steps, possible_steps
from marquetry.core.fit.report import Report
from marquetry.core.measuring.instrument import Instrument
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import part_at
from marquetry.core.sheet.schema import Choice, Entry, Flag, Names
from marquetry.core.values.figures import figure
from marquetry.drawing.dimension_drawing import dimension_drawing
from marquetry.drawing.plate import plate
from marquetry.drawing.scene import Scene
from marquetry.drawing.sheet import Display
from marquetry.store.watches import StoredWatch
from marquetry.web.watch.view import open_words
from marquetry.web.watch.way import WayThrough, counted

MOST_SHOWN = 9
FULL = 1.0
"""The doubt at which the bar is full: about what a watch begun from texts alone has."""


@dataclass(frozen=True, slots=True)
class NextRow:
    """One thing worth doing, in words; `options` are what a word may be, `checks` what a dry fit settles."""

    step: NextStep
    title: str
    how: str
    settles: tuple[str, ...]
    unit: str = ""
    options: tuple[tuple[str, str], ...] = ()
    checks: tuple[tuple[str, str], ...] = ()
    stands: str = ""
    """What a size is taken for as long as nobody read it."""
    by_worksheet: bool = False
    """Whether it is computed from other readings, on the measuring card."""

    @property
    def doubt_taken(self) -> float:
        """The doubt it takes away, 0 and up."""
        return self.step.gain


@dataclass(frozen=True, slots=True)
class NextPage:
    """All that the page shows; `here` is None where nothing more is worth it."""

    watch: StoredWatch
    way: WayThrough
    report: Report
    here: NextRow | None
    drawing: Scene | None
    after: tuple[NextRow, ...]
    more: int
    skipped: tuple[str, ...]
    has_instruments: bool
    minutes: float
    fault: str = ""
    typed: str = ""

    @property
    def doubt(self) -> float:
        """The watch's doubt as it stands."""
        return self.report.standing.doubt

    @property
    def doubt_wanted(self) -> float:
        """The doubt at which nothing more is worth it."""
        return self.report.rules.number("doubt_left")

    @property
    def bar(self) -> tuple[float, float]:
        """How far the doubt's bar is filled, and where it may stop, both in percent."""
        return min(self.doubt / FULL, 1.0) * 100, min(self.doubt_wanted / FULL, 1.0) * 100

    @property
    def open(self) -> tuple[tuple[str, int], ...]:
        """How many checks are open, and of how many something vouches for the parts."""
        return open_words(self.report)

    @property
    def known(self) -> dict[str, int]:
        """How many sizes were measured, told, planned, or are only assumed."""
        return counted(self.watch.build.dimensions)

    @property
    def clashes(self) -> list[str]:
        """Titles of what is known to clash."""
        model = self.report.rules.model
        return [model.title(f.check) for f in self.report.ranked() if f.verdict.value == "clash"]

    @property
    def skip_query(self) -> str:
        """What the address carries so that what was left out stays left out."""
        return ",".join(self.skipped)


def next_page(  # noqa: PLR0913, PLR0917  # one argument a thing the page is made of
    watch: StoredWatch,
    way: WayThrough,
    report: Report,
    instruments: tuple[Instrument, ...],
    skipped: Iterable[str] = (),
    asked: str = "",
    fault: str = "",
    typed: str = "",
) -> NextPage:
    """The page for a watch; `asked` is the key or path that the builder chose to do first."""
    left_out = tuple(dict.fromkeys(skipped))
    steps = [step for step in next_steps(report, instruments) if step.key not in left_out]
    # What a builder asks for by name is shown though it is hardly worth it.
    named = (step for step in possible_steps(report, instruments) if step.key == asked) if asked else iter(())
    here = next(named, steps[0] if steps else None)
    after = [step for step in steps if here is None or step.key != here.key]
    model = report.rules.model
    return NextPage(
        watch,
        way,
        report,
        None if here is None else step_row(watch.build, model, here),
        None if here is None else _drawing(report, here),
        tuple(step_row(watch.build, model, step) for step in after[:MOST_SHOWN]),
        max(len(after) - MOST_SHOWN, 0),
        left_out,
        bool(instruments),
        sum(step.minutes for step in steps),
        fault,
        typed,
    )


def step_row(build: Build, model: Model, step: NextStep) -> NextRow:
    """A step in a builder's words."""
    settles = tuple(map(model.title, step.settles))
    if step.kind == "trial":
        dry_fit: DryFit = model.dry_fit_by_key[step.key]
        checks = tuple((name, model.title(name)) for name in dry_fit.settles if name in step.settles)
        return NextRow(step, dry_fit.title, dry_fit.how, settles, checks=checks)
    label = model.anatomy.label_of(step.key)
    if step.kind == "word":
        options = _options(model.anatomy.entry_at(step.key)[-1])
        return NextRow(
            step, f"Look: {label}", "Choose what the part is, as you see it.", settles, options=options
        )
    quantity = model.anatomy.quantity_at(step.key)
    return NextRow(
        step,
        f"Measure: {label}",
        quantity.hint,
        settles,
        unit=quantity.unit,
        stands=_stands(build, step.key, quantity.unit),
        by_worksheet=quantity.way == "worksheet",
    )


def _stands(build: Build, path: str, unit: str) -> str:
    found = build.dimensions.get(path)
    if found is None:
        return ""
    so_far = f"{found.source.value} {figure(found.value, 2, unit)} ±{figure(found.tol, 2, unit)}"
    return f"So far {so_far}. {suits_told(build, path)}".strip()


def _options(entry: Entry) -> tuple[tuple[str, str], ...]:
    if isinstance(entry, Flag):
        return (("yes", "yes"), ("no", "no"))
    if isinstance(entry, Choice | Names):
        return tuple((word, word.replace("_", " ")) for word in entry.options)
    return ()


def _drawing(report: Report, step: NextStep) -> Scene:
    """The dimension where it is measured, or the watch with the gap that a dry fit shows."""
    if step.kind == "reading":
        part, below = part_at(report.build, step.key)
        return dimension_drawing(part, below, report.rules)
    drawn = (name for name in step.settles if report.rules.model.check(name).span is not None)
    chosen = next(drawn, step.settles[0] if step.settles else "")
    return plate(report.build, report, Display(chosen=chosen))
