"""The plate of a play: one drawing for each exercise, from where it stands."""

from collections.abc import Callable, Mapping
from typing import Any

from marquetry.core.rehearsal.play import Play
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH
from marquetry.drawing.rehearsal.cuts_shown import diagnose_shown, gasket_shown, section_shown, spacer_shown
from marquetry.drawing.rehearsal.hands_shown import hands_shown
from marquetry.drawing.rehearsal.plans_shown import feet_shown, measure_shown, midnight_shown, order_shown
from marquetry.drawing.rehearsal.shown import Motion, Shown
from marquetry.drawing.rehearsal.stem_shown import stem_shown
from marquetry.drawing.scene import Mark, Scene

DrawsPlay = Callable[[Any], tuple[tuple[Mark, ...], dict[str, Motion]]]
"""From where a play of its own exercise stands to the marks, and what moves."""
SHOWN_BY: Mapping[str, DrawsPlay] = {
    "section": section_shown,
    "measure": measure_shown,
    "order": order_shown,
    "feet": feet_shown,
    "spacer": spacer_shown,
    "midnight": midnight_shown,
    "hands": hands_shown,
    "gasket": gasket_shown,
    "stem": stem_shown,
    "diagnose": diagnose_shown,
}


def play_plate(play: Play) -> Shown:
    """Where the play stands now."""
    exercise = play.exercise
    marks, motions = SHOWN_BY[exercise.key](play.now)
    words = f"{exercise.title}: where it stands after {len(play.moves)} moves."
    return Shown(Scene(BENCH_WIDTH, BENCH_HEIGHT, exercise.title, words, marks), motions)
