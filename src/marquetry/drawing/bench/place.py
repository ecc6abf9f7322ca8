"""The place where a step happens, drawn from the watch itself: one plate a step, each with few marks."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial

from marquetry.core.bench.procedure import WatchStep
from marquetry.core.bench.run import Run
from marquetry.core.bench.step import BenchPlace
from marquetry.core.fit.plausible import Plausible
from marquetry.core.section.lay_out import lay_out
from marquetry.drawing.bench.calendar_plate import calendar_marks, window_marks
from marquetry.drawing.bench.crown_plate import crown_marks
from marquetry.drawing.bench.crown_positions import position_marks
from marquetry.drawing.bench.cut import cut_marks
from marquetry.drawing.bench.dial_back import back_marks, drilled_marks, pad_marks
from marquetry.drawing.bench.dial_plate import dial_alone
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH
from marquetry.drawing.bench.pressing import post_marks, pressing_marks
from marquetry.drawing.bench.release import release_marks
from marquetry.drawing.bench.six_positions import six_position_marks
from marquetry.drawing.bench.stem_plate import stem_marks
from marquetry.drawing.bench.top import front_marks, insert_marks
from marquetry.drawing.scene import Mark, Scene

Draws = Callable[[WatchStep, Run], Iterator[Mark]]


def place_scene(step: WatchStep, run: Run) -> Scene:
    """The step's plate; what is not measured stands where it usually is, dashed."""
    words = f"Where “{step.title}” happens, drawn from this watch."
    return Scene(BENCH_WIDTH, BENCH_HEIGHT, step.title, words, tuple(DRAWS[step.step.place](step, run)))


def _plausible(run: Run) -> Plausible:
    situation = run.procedure.situation
    return Plausible(situation.build, situation.rules)


def _cut(step: WatchStep, run: Run) -> Iterator[Mark]:
    report = run.procedure.situation.report
    return cut_marks(lay_out(report.build, report), step.parts, step.step.points)


def _pressed(step: WatchStep, run: Run) -> Iterator[Mark]:
    report = run.procedure.situation.report
    section = lay_out(report.build, report)
    if step.step.points:
        return post_marks(section, step.step.points)
    return pressing_marks(section, step.step.hand, run.heights)


def _back(step: WatchStep, run: Run, marks: Callable[..., Iterator[Mark]] = back_marks) -> Iterator[Mark]:
    del step
    return marks(_plausible(run), run.procedure.situation)


def _release(step: WatchStep, run: Run) -> Iterator[Mark]:
    del step
    return release_marks(_plausible(run), run.procedure.situation.word("movement.stem_release"))


def _stem(step: WatchStep, run: Run) -> Iterator[Mark]:
    s = run.procedure.situation
    height = s.report.findings["stem_height"].value
    return stem_marks(_plausible(run), s.stem, run.ledger, step.step.points, height)


def _top(step: WatchStep, run: Run, marks: Callable[..., Iterator[Mark]] = front_marks) -> Iterator[Mark]:
    return marks(_plausible(run), step.parts)


DRAWS: Mapping[BenchPlace, Draws] = {
    "section": _cut,
    "back": _back,
    "pads": partial(_back, marks=pad_marks),
    "drill": partial(_back, marks=drilled_marks),
    "release": _release,
    "hands": _pressed,
    "stem": _stem,
    "insert": partial(_top, marks=insert_marks),
    "front": _top,
    "dial": lambda step, run: dial_alone(_plausible(run), step.step.points),
    "calendar": lambda step, run: calendar_marks(_plausible(run), run.procedure.situation, step.step.points),
    "window": lambda _, run: window_marks(_plausible(run), run.procedure.situation),
    "crown": lambda step, run: crown_marks(_plausible(run), step.step.points),
    "positions": lambda _, run: position_marks(_plausible(run), run.procedure.situation),
    "turns": lambda _, run: six_position_marks(_plausible(run)),
}
"""How each kind of place is drawn."""
