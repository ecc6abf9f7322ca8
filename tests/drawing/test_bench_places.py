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
from marquetry.drawing.scene import Box, Dot, Label, Line, Mark, Scene
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


def angle_of(plan_mark: Line, centre: tuple[float, float]) -> float:
    """Degrees clockwise from above of the middle of a mark, seen from a centre."""
    x, y = (sum(point[axis] for point in plan_mark.points) / len(plan_mark.points) for axis in (0, 1))
    return math.degrees(math.atan2(x - centre[0], y - centre[1])) % 360


def scene_of(step: str, run: Run) -> Scene:
    return place_scene(run.procedure.by_id[step], run)


def classed(scene: Scene, word: str) -> list[Line]:
    return [mark for mark in scene.walk() if isinstance(mark, Line) and word in mark.classes.split()]


def test_what_is_pointed_at_is_where_the_watch_has_it() -> None:
    run = Run(steps_of(skerry_light()), [], 0)
    p = Plausible(skerry_light(), MODEL.rules_of(skerry_light()))
    window = classed(scene_of("calendar_works", run), "window-edge")[0]
    at = (p["movement.date_angle"] + p["case.crown_angle"]) % 360
    assert angle_of(window, (BENCH_WIDTH / 2, BENCH_HEIGHT / 2 + TYPE / 2)) == pytest.approx(at)
    assert "read this gap" in labels_of("measure_gap", run)
    assert not any(label.startswith("cut here") for label in labels_of("measure_gap", run))
    for step, words in POINTED.items():
        assert any(label.startswith(words) for label in labels_of(step, run)), step
        marks = [mark.classes for mark in scene_of(step, run).walk() if isinstance(mark, Line)]
        assert "point-head" in marks, step


POINTED = {
    "washer_seated": "washer or wheel", "crystal_side": "this face inside", "press_crystal": "die",
    "crown_seal": "seal, cord 0.50", "lock_thread": "one drop", "wipe_excess": "wipe here",
    "seat_crown": "no gap", "turn_to_tube": "look in here",
}  # fmt: skip


def test_the_numeral_stands_in_its_window_as_the_figures_put_it() -> None:
    """Moved outwards by 0.3 mm and on by 2 degrees, it is drawn so: by one scale both ways."""

    def numeral(**entries: float) -> tuple[float, float]:
        marks = scene_of(
            "date_in_window", Run(steps_of(with_entries(skerry_light(), **entries)), [], 0)
        ).walk()
        return next(mark.at for mark in marks if isinstance(mark, Label) and mark.classes == "window-numeral")

    middle = numeral(movement__date_radius=10.35)
    out, aside = (
        numeral(movement__date_radius=10.65),
        numeral(movement__date_radius=10.35, movement__date_angle=2),
    )
    scale = (out[0] - middle[0]) / 0.3
    assert scale > 20
    assert out[1] == pytest.approx(middle[1])
    assert aside[0] == pytest.approx(middle[0])
    assert (middle[1] - aside[1]) / scale == pytest.approx(10.35 * math.radians(2))


def test_the_crown_does_in_each_place_what_the_movement_can() -> None:
    def rows(*functions: str) -> list[str]:
        build = with_entries(skerry_light(), movement__functions=list(functions))
        return labels_of("crown_works", Run(steps_of(build), [], 0))

    assert {"winds; home, no gap", "date", "sets the hands; seconds stop"} <= set(
        rows("hours", "minutes", "seconds", "date", "hacking", "hand_winding")
    )
    plain = rows("hours", "minutes")
    assert {"home, no gap", "sets the hands"} <= set(plain)
    assert not any(label.endswith("drawn once") for label in plain)


def test_a_stem_beside_its_tube_is_drawn_beside_it() -> None:
    """Half a millimetre over the tube's middle, by the drawing's own scale."""
    build = skerry_light()
    build = build.with_entry("case.seat_to_tube", build.dimensions["case.seat_to_tube"].value + 0.5)
    run = Run(steps_of(build), [], 0)
    height = run.procedure.situation.report.findings["stem_height"].value
    boxes = [mark for mark in scene_of("trial_stem", run).walk() if isinstance(mark, Box)]
    tube, stem = (next(box for box in boxes if word in box.classes) for word in ("body-steel", "body-brass"))
    scale = tube.height / build.dimensions["case.tube_outer_diameter"].value
    raised = (stem.at[1] + stem.height / 2 - tube.at[1] - tube.height / 2) / scale
    assert height is not None
    assert raised == pytest.approx(height)
    assert f"by the figures: {height:.2f}\u00a0mm off its middle, towards the dial" in labels_of(
        "trial_stem", run
    )
    assert "by the figures: in the tube's middle" in labels_of(
        "trial_stem", Run(steps_of(skerry_light()), [], 0)
    )


@pytest.mark.parametrize("angle", [90.0, 114.0, 0.0])
def test_each_hanging_watch_has_twelve_where_its_crown_puts_it(angle: float) -> None:
    run = Run(steps_of(with_entries(skerry_light(), case__crown_angle=angle)), [], 0)
    scene = scene_of("rate_positions", run)
    dials = [
        mark.centre for mark in scene.walk() if isinstance(mark, Dot) and mark.classes == "body body-face"
    ]
    turned = [angle_of(mark, centre) for mark, centre in zip(classed(scene, "twelve"), dials, strict=True)]
    assert turned == pytest.approx([(crown - angle) % 360 for crown in (0, 90, 180, 270)])
    assert [label[:1] for label in labels_of("rate_positions", run)] == list("123456")
