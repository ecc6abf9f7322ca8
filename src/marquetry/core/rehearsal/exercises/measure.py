"""What to measure next: three readings, each against the best that could have been asked."""

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.measure_next import Proposal, measure_next
from marquetry.core.fit.report import Report, report_on
from marquetry.core.measuring.instrument import USUAL_INSTRUMENTS
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove
from marquetry.core.rehearsal.twin import Twin, draws, true_build, with_believed, with_figures, with_usual
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

READINGS = 3
ENOUGH = 80.0
"""Per cent of what the best questions would have settled."""
ASSUMED_TOL, ASSUMED_OFF = 0.15, 0.12
ROUGH = (
    "case.seat_to_tube", "case.seat_to_back_plane", "case_back.inner_recess", "case_back.lip_recess",
    "movement.face_to_stem", "movement.face_to_back", "holder.face_to_rim", "case.crystal_bore",
    "case.movement_bore", "crystal.edge_thickness", "case.lug_width", "case.back_groove_depth", "strap.width",
)  # fmt: skip
"""What of the watch of the set may be known by assumption alone."""
MADE_ROUGH = 8
A_HUNDREDTH = 0.01
LIKELY, OTHERS = 3, 4
"""Of those to choose from: how many are among the best, and how many are not."""


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureAt(At):
    """`build` is what is known now, `worth` of each reading beside the best at its time."""

    build: Build = field(repr=False)
    report: Report = field(repr=False)
    worths: tuple[tuple[float, float], ...] = ()
    read: tuple[str, ...] = ()
    choices: tuple[str, ...] = ()
    proposals: tuple[Proposal, ...] = ()

    @property
    def doubtful(self) -> int:
        """How many findings are tight or wait for a figure."""
        return _in_doubt(self.report)


class MeasureNext(Exercise[MeasureAt]):
    """The question that settles most."""

    key = "measure"
    title = "What to measure next"
    task = f"Little is known well of this watch. You may read {READINGS} dimensions: choose those that settle most."
    aim = f"Your readings settle at least {ENOUGH:.0f} % of what the best ones would have."
    steps = ("lay_out_parts",)
    counts = (
        ("What hangs on it", "A depth that four findings share is worth four that stand alone."),
        ("What is close", "Where there is room to spare, a better figure changes nothing."),
        (
            "What is roughly known",
            "A figure that was measured already does not get better by measuring it again.",
        ),
    )
    checks = ()

    @property
    def mistakes(self) -> tuple[Mistake[MeasureAt], ...]:
        """Easy ones; again what is known."""
        return (
            Mistake("as_listed", "Takes them as they stand in the list", (0.70, 1.0), _as_listed),
            Mistake("again", "Measures again what is known best, to be sure of that", (0.90, 1.0), _again),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch with enough in doubt."""
        if len(measure_next(situation.build, situation.report, USUAL_INSTRUMENTS)) < READINGS:
            return f"Fewer than {READINGS} readings would settle anything on this watch: it is known well enough."
        return ""

    def prepared(self, twin: Twin, draw: random.Random) -> Twin:
        """Where all is known well, some of it known by assumption alone; what nobody knows has its true figure."""
        waiting = tuple(name for name, found in twin.report.findings.items() if found.missing)
        there = true_build(with_usual(twin.believed, twin.rules, waiting), draw).dimensions if waiting else {}
        unknown = {path: there[path].value for path in there if path not in twin.true.dimensions}
        twin = replace(twin, true=with_figures(twin.true, unknown)) if unknown else twin
        known = [path for path in ROUGH if path in twin.believed.dimensions]
        rough: list[str] = []
        while known and _in_doubt(twin.report) < READINGS:
            rough = draw.sample(known, min(max(MADE_ROUGH, len(rough) + 1), len(known)))
            twin = replace(twin, believed=with_believed(twin.believed, _roughly(twin, rough, draw)))
            known = [] if len(rough) == len(known) else known
        return twin

    def begin(self, twin: Twin) -> MeasureAt:
        """Nothing read."""
        return _asked(MeasureAt(twin=twin, build=twin.believed, report=twin.report))

    def offers(self, at: MeasureAt) -> tuple[MoveOffer, ...]:
        """Which to read."""
        label = at.build.anatomy.label_of
        options = tuple(Option(path, f"{label(path)}: {_known(at, path)}") for path in at.choices)
        return (MoveOffer("read", "Read", "r", "pick", options),)

    def after(self, at: MeasureAt, move: PlayMove, draw: random.Random) -> MeasureAt:
        """The best instrument for it reads it, with its noise."""
        path = move.word
        worth = {proposal.path: worth_of(proposal) for proposal in at.proposals}
        beside = (worth.get(path, 0.0), max(worth.values(), default=0.0))
        after = next((p.after for p in at.proposals if p.path == path), None) or at.build.dimensions[path]
        true = at.twin.true.dimensions[path].value
        read = Dimension(round(draw.gauss(true, after.standard_uncertainty), 2), after.tol, Source.MEASURED)
        build = with_believed(at.build, {path: read})
        report = report_on(build, at.twin.rules, at.report)
        settled = at.doubtful - _in_doubt(report)
        told = f"{at.build.anatomy.label_of(path)}: {_told(read)}. " + _settles(settled)
        done = len(at.read) + 1 == READINGS
        at = replace(
            at,
            build=build,
            report=report,
            worths=(*at.worths, beside),
            read=(*at.read, path),
            notes=(*at.notes, told),
        )
        if done:
            return replace(at, done=True)
        at = _asked(at)
        return replace(at, done=not at.choices)

    def figures(self, at: MeasureAt) -> tuple[Aimed, ...]:
        """The share of what the best would have settled."""
        return (Aimed("Of what the best questions settle", _share(at.worths), Limits(ENOUGH, None), "%", 0),)

    def praise(self, at: MeasureAt) -> str:
        """What is left in doubt."""
        left = "One finding is" if at.doubtful == 1 else f"{at.doubtful or 'No'} findings are"
        return f"{left} still in doubt; other questions would hardly have settled more."

    def blame(self, at: MeasureAt) -> str:
        """Which question was the poorest."""
        place = self.moment(at) - 1
        path = at.build.anatomy.label_of(at.read[place])
        return f"The {('first', 'second', 'third')[place]} reading settled least: {path}. Nothing close hangs on it."

    def moment(self, at: MeasureAt) -> int:
        """The poorest reading."""
        shares = [mine / best if best else 1.0 for mine, best in at.worths]
        return shares.index(min(shares)) + 1

    def sure(self, at: MeasureAt) -> PlayMove:
        """The one that settles most."""
        worth = {proposal.path: worth_of(proposal) for proposal in at.proposals}
        return PlayMove("read", word=max(at.choices, key=lambda path: worth.get(path, 0.0)))


def _in_doubt(report: Report) -> int:
    return report.count(Verdict.TIGHT) + report.count(Verdict.UNMEASURED)


def _roughly(twin: Twin, paths: Sequence[str], draw: random.Random) -> dict[str, Dimension]:
    """These dimensions as a seller rounds them, somewhere round what they truly are."""
    off = {path: draw.uniform(-ASSUMED_OFF, ASSUMED_OFF) for path in paths}
    true = twin.true.dimensions
    return {
        path: Dimension(round(true[path].value + off[path], 2), ASSUMED_TOL, Source.LISTED) for path in paths
    }


def worth_of(proposal: Proposal) -> float:
    """What a reading settles: a count of findings that leave doubt, half of those it helps, the risk that goes."""
    return len(proposal.settles) + len(proposal.helps) / 2 + proposal.risk_before - proposal.risk_after


def _share(worths: Sequence[tuple[float, float]]) -> float:
    best = sum(best for _, best in worths)
    return 100.0 * sum(mine for mine, _ in worths) / best if best else 100.0


def _asked(at: MeasureAt) -> MeasureAt:
    """With the proposals of now, and those to choose from: some of the best, some that settle little."""
    proposals = tuple(
        p for p in measure_next(at.build, at.report, USUAL_INSTRUMENTS) if p.path in at.twin.true.dimensions
    )
    draw = draws(at.twin.seed, f"choices/{len(at.read)}")
    best = sorted(proposals, key=lambda proposal: -worth_of(proposal))
    likely = [proposal.path for proposal in best[:LIKELY]]
    rest = [path for path in ROUGH if path in at.build.dimensions and path not in {*likely, *at.read}]
    choices = [*likely, *draw.sample(rest, min(OTHERS, len(rest)))] if likely else []
    return replace(at, proposals=proposals, choices=tuple(sorted(choices)))


def _known(at: MeasureAt, path: str) -> str:
    known = at.build.dimensions.get(path)
    return _told(known) if known else "not known"


def _told(known: Dimension) -> str:
    return f"{figure(known.value)} ±{figure(known.tol, 2 if known.tol >= A_HUNDREDTH else 3)}"


def _settles(count: int) -> str:
    return f"It settles {count}." if count > 0 else "It settles nothing by itself."


def _as_listed(at: MeasureAt) -> PlayMove:
    return PlayMove("read", word=at.choices[0])


def _again(at: MeasureAt) -> PlayMove:
    return PlayMove("read", word=min(at.choices, key=lambda path: _tol(at, path)))


def _tol(at: MeasureAt, path: str) -> float:
    known = at.build.dimensions.get(path)
    return known.tol if known else math.inf
