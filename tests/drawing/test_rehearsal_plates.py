"""Plates of rehearsal: on their paper whatever was done, and what moves under a hand ends where it is let go."""

import math
import random

import pytest

from marquetry.core.rehearsal.exercise import Aimed, PlayMove
from marquetry.core.rehearsal.exercises import EXERCISES, exercise
from marquetry.core.rehearsal.pieces import piece
from marquetry.core.rehearsal.play import Play, played
from marquetry.core.values.limits import Limits
from marquetry.drawing.bench.paper import BENCH_WIDTH, TYPE
from marquetry.drawing.rehearsal.aim_ruler import EDGE, RULER_WIDTH, aim_ruler
from marquetry.drawing.rehearsal.chest import Drawerful, chest_scene
from marquetry.drawing.rehearsal.plate import SHOWN_BY, play_plate
from marquetry.drawing.scene import Box, Cluster, Label, Line, Scene
from marquetry.drawing.svg import to_svg
from tests.drawing.test_bench_places import BLEED, extent
from tests.rehearsal.test_play import begun, some_move
from tests.strategies import ANATOMY, MODEL


@pytest.mark.parametrize("key", [one.key for one in EXERCISES])
def test_every_state_of_any_play_is_drawn_on_its_paper(key: str) -> None:
    assert set(SHOWN_BY) == {one.key for one in EXERCISES}
    for seed in range(4):
        draw, play = random.Random(seed), begun(exercise(key), seed)
        for _ in range(10):
            shown = play_plate(play)
            assert to_svg(shown.scene).startswith("<svg")
            marks = list(shown.scene.walk())
            moved = {
                name for m in marks if isinstance(m, Cluster) for name in m.data.get("moves", "").split()
            }
            holds = {offer.what for offer in play.offers if offer.kind == "hold"}
            assert holds <= set(shown.motions) or play.now.done
            assert holds - {"back"} <= moved or play.now.done
            for mark in marks:
                points = extent(mark)
                assert all(math.isfinite(x) and math.isfinite(y) for x, y in points)
                assert all(-BLEED <= x <= BENCH_WIDTH + BLEED for x, _ in points), mark
                if isinstance(mark, Label):
                    assert mark.size >= TYPE
            if play.now.done:
                break
            play = play.after(some_move(draw.choice(play.offers), draw))


def lowest(play: Play, what: str) -> float:
    """The lowest corner of what moves, mm on the paper."""
    found = [
        m for m in play_plate(play).scene.walk() if isinstance(m, Cluster) and what in m.data.get("moves", "")
    ]
    lines = [line for line in found[0].children if isinstance(line, Line)]
    return min(y for line in lines for _, y in line.points)


@pytest.mark.parametrize(("key", "what", "before"), [
    ("hands", "press", [PlayMove("shim", 0.65)]),
    ("gasket", "press", [PlayMove("lay"), PlayMove("level")]),
])  # fmt: skip
def test_what_goes_along_under_the_press_ends_where_the_next_plate_shows_it(
    key: str, what: str, before: list[PlayMove]
) -> None:
    play = begun(exercise(key), 4).replayed(before)
    motion, track = play_plate(play).motions[what], play.track(what)
    for ms in (600, 1600):
        after = play.after(PlayMove(what, float(ms)))
        gone = (track[ms // 40] - track[0]) * motion.up
        assert lowest(after, what) == pytest.approx(lowest(play, what) + gone, abs=0.02)
    assert track[60] != track[0]


def test_the_nippers_begin_short_of_the_mark_and_come_to_it() -> None:
    play = begun(exercise("stem"), 4).after(PlayMove("mark", 6.0))
    shown = play_plate(play)
    marks = list(shown.scene.walk())
    mark = next(m for m in marks if isinstance(m, Line) and m.classes == "strike")
    jaws = next(m for m in marks if isinstance(m, Cluster) and m.data.get("moves") == "cut")
    tip = next(m.points[0][0] for m in jaws.children if isinstance(m, Line))
    way = (6.0 - play.track("cut")[0]) * shown.motions["cut"].right
    assert tip + way == pytest.approx(mark.points[0][0], abs=0.02)


def test_letters_of_a_section_lie_apart_and_are_those_that_may_be_marked() -> None:
    play = Play.begin(exercise("section"), piece("three-hands", ANATOMY), MODEL.rules({}), 2)
    letters = [m for m in play_plate(play).scene.walk() if isinstance(m, Label) and len(m.text) == 1]
    options = next(offer for offer in play.offers if offer.what == "mark").options
    assert {label.text for label in letters} == {option.label[0] for option in options}
    for one in letters:
        for other in letters:
            assert one is other or math.dist(one.at, other.at) > 8.0
    sure = played(play, play.exercise.sure)
    assert sure.outcome
    assert sure.outcome.reached


def tablets(scene: Scene) -> dict[str, float]:
    return {
        mark.children[1].text: mark.children[0].at[1]
        for mark in scene.walk()
        if isinstance(mark, Cluster)
        and mark.link
        and isinstance(mark.children[0], Box)
        and isinstance(mark.children[1], Label)
    }


def test_a_tablet_lies_in_its_drawer_and_a_full_drawer_is_a_higher_one() -> None:
    lie = [
        Drawerful(one.key, one.title, place % 6 - 1, is_due=False, failed_last=False)
        for place, one in enumerate(EXERCISES)
    ]
    heights = tablets(chest_scene(lie))
    by_drawer = sorted(lie, key=lambda one: one.drawer)
    found = [heights[one.title] for one in by_drawer]
    assert found == sorted(found, reverse=True), "the first drawer at the top"
    all_in_one = [Drawerful(one.key, one.title, 0, is_due=True, failed_last=False) for one in EXERCISES]
    full = chest_scene(all_in_one)
    assert len(tablets(full)) == len(EXERCISES)
    assert full.height > chest_scene(lie[:1]).height
    boxes = [mark for mark in full.walk() if isinstance(mark, Box) and mark.classes.startswith("tablet")]
    assert all(box.at[0] + box.width <= full.width for box in boxes)


@pytest.mark.parametrize(("value", "low", "high", "inside"), [
    (0.0, -1.0, 1.0, True), (2.0, -1.0, 1.0, False), (5.0, 4.0, None, True), (3.0, 4.0, None, False),
    (0.0, None, 0.0, True), (7.0, None, 2.0, False), (2.0, 2.0, 2.0, True),
])  # fmt: skip
def test_a_result_stands_inside_its_band_where_it_reached_it(
    value: float, low: float | None, high: float | None, *, inside: bool
) -> None:
    one = Aimed("x", value, Limits(low, high))
    assert one.is_reached is inside
    marks = list(aim_ruler(one).walk())
    band = next(m for m in marks if isinstance(m, Box))
    at = next(m for m in marks if isinstance(m, Line) and m.classes == "ruler-value").points[0][0]
    assert EDGE - 1e-9 <= at <= RULER_WIDTH - EDGE + 1e-9
    assert (band.at[0] - 1e-9 <= at <= band.at[0] + band.width + 1e-9) is inside
