"""The bench's plates: one for every step of every watch, on its paper; to scale where a figure is told."""

import math

import pytest

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.bench.stem import StemOf, StemTerms, stem_ledger
from marquetry.core.fit.plausible import Plausible
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, TYPE
from marquetry.drawing.bench.place import place_scene
from marquetry.drawing.bench.progress import progress_scene
from marquetry.drawing.bench.stem_plate import stem_places
from marquetry.drawing.scene import Box, Dot, Label, Line, Mark
from marquetry.drawing.svg import to_svg
from tests.bench.test_procedure import skerry_light, steps_of, with_entries
from tests.strategies import CASES, MODEL, case_build, report_on

BLEED = 12.0
"""What a circle or a dashed crown may reach beyond the paper's edge, mm: it is cut there."""


def extent(mark: Mark) -> list[tuple[float, float]]:
    if isinstance(mark, Line):
        return list(mark.points)
    if isinstance(mark, Dot):
        (x, y), r = mark.centre, mark.radius
        return [(x - r, y - r), (x + r, y + r)]
    if isinstance(mark, Box):
        return [mark.at, (mark.at[0] + mark.width, mark.at[1] + mark.height)]
    return []


@pytest.mark.parametrize("number", range(1, len(CASES) + 1))
def test_every_step_of_every_worked_watch_is_drawn_on_its_paper(number: int) -> None:
    run = Run(procedure(Situation(report_on(case_build(number)))), [], 0)
    for step in run.procedure.steps:
        scene = place_scene(step, run)
        assert to_svg(scene).startswith("<svg"), step.id
        points = [point for mark in scene.walk() for point in extent(mark)]
        assert len(points) >= 8, step.id
        assert all(math.isfinite(x) and math.isfinite(y) for x, y in points), step.id
        assert all(-BLEED <= x <= BENCH_WIDTH + BLEED for x, _ in points), step.id
        assert all(-BLEED <= y <= BENCH_HEIGHT + BLEED for _, y in points), step.id
        labels = [mark for mark in scene.walk() if isinstance(mark, Label)]
        assert all(label.size >= TYPE for label in labels), step.id
        assert all(0 <= label.at[1] <= BENCH_HEIGHT - label.size / 2 for label in labels), step.id


def labels_of(step: str, run: Run) -> list[str]:
    return [
        mark.text for mark in place_scene(run.procedure.by_id[step], run).walk() if isinstance(mark, Label)
    ]


def test_a_plate_says_what_the_step_says() -> None:
    run = Run(steps_of(skerry_light()), [LogEntry("height-1", "check_hour", "height", 1, 0.71)], 10)
    run = Run(run.procedure, [*run.entries, LogEntry("done-1", "press_hour", "done", 0)], 10)
    shim = run.procedure.by_id["press_hour"].shim_mm
    assert shim is not None
    assert f"shim {shim:.2f}" in labels_of("press_hour", run)
    turned = Run(steps_of(with_entries(skerry_light(), case__crown_angle=120)), [], 0)
    assert {"1 off", "2 off"} <= set(labels_of("remove_feet", turned))
    screw = Run(steps_of(with_entries(skerry_light(), movement__stem_release="screw")), [], 0)
    assert "screw: back ½ turn, then ¼ by ¼" in labels_of("stem_out", screw)
    assert any(label.startswith("cut here: 7.85 from the end") for label in labels_of("cut_stem", run))


def test_the_stem_is_as_long_as_the_ledger_says() -> None:
    build = skerry_light()
    rules = MODEL.rules_of(build)
    of = StemOf.sheet(build, rules)
    p = Plausible(build, rules)
    ledger = stem_ledger([], StemTerms.of(rules), of)
    at = stem_places(p, of, ledger)
    assert at.end == pytest.approx(p["movement.centre_to_stem_tip"] + p["stem.length"])
    assert at.end - at.target == pytest.approx(ledger.now.r if ledger.now else math.nan)
    assert (at.full, at.thread) == (at.end, p["stem.thread_length"])


def test_the_band_has_a_lozenge_a_step_and_one_of_them_raised() -> None:
    run = Run(steps_of(skerry_light()), [LogEntry("done-1", "lay_out_parts", "done", 0)], 10)
    marks = [mark for mark in progress_scene(run, run.here).walk() if isinstance(mark, Line) and mark.closed]
    assert len(marks) == len(run.stands)
    assert [mark.classes for mark in marks[:2]] == ["step-done", "step-open step-here"]
