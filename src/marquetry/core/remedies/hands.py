"""Hands that find no room: pipes, blades, dome, gasket, posts, each moved as little as clears them all."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.checks.hands import stack_over
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.remedies.idea import Effort, Idea, is_possible, with_value
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.figures import figure

STEP = 0.01
SPARE = 0.01
SHALLOWEST = 0.15
"""Less post than this inside a pipe and the hand tips when the crown is pulled."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """One row: dimensions moved together by up to `most`, upwards or (sign −1) downwards."""

    kind: str
    title: str
    paths: Callable[[Build], list[str]]
    sign: float
    most: float
    effort: Effort


def a_hand(words: str) -> str:
    """A hand with its article."""
    return f"An {words} hand" if words == "hour" else f"A {words} hand"


def _of_hands(key: str, part: str = "hands") -> Callable[[Build], list[str]]:
    return lambda build: [f"{part}.{hand}.{key}" for hand in HANDS if build.has(f"hands.{hand}")]


def _one(path: str) -> Callable[[Build], list[str]]:
    return lambda build: [path] if path in build.dimensions else []


STRETCHES: tuple[Stretch, ...] = (
    Stretch("longer_pipes", "Hands whose pipes are {change} longer", _of_hands("pipe"), 1, 0.6, 2),
    Stretch("shorter_pipes", "Hands whose pipes are {change} shorter", _of_hands("pipe"), -1, 0.3, 2),
    Stretch("thinner_hands", "Hands whose blades are {change} thinner at the boss", _of_hands("thickness"), -1, 0.12, 2),
    *(Stretch("longer_pipes", f"{a_hand(words)} with a pipe of {{value}}, not {{old}}", _one(f"hands.{hand}.pipe"), 1, 0.6, 2) for hand, words in HAND_LABELS.items()),
    *(Stretch("shorter_pipes", f"{a_hand(words)} with a pipe of {{value}}, not {{old}}", _one(f"hands.{hand}.pipe"), -1, 0.3, 2) for hand, words in HAND_LABELS.items()),
    Stretch("domed_crystal", "A crystal whose underside rises {value} at its centre, not {old}", _one("crystal.inner_dome"), 1, 2.5, 2),
    Stretch("higher_gasket", "A crystal gasket with a flange of {value}, not {old}", _one("crystal_gasket.flange"), 1, 0.8, 2),
    Stretch("other_ring", "A chapter ring whose underside stands {value} below the ledge, not {old}", _one("chapter_ring.drop"), 1, 1.0, 3),
    Stretch("other_movement", "A movement whose posts stand {change} taller", _of_hands("top", "movement.posts"), 1, 0.8, 4),
    Stretch("other_case", "A case whose crystal ledge stands {value} above the seat, not {old}", _one("case.seat_to_crystal"), 1, 1.5, 5),
)  # fmt: skip


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """The least of each stretch that clears the stack, or at least brings its nominal value in."""
    if check != "hand_stack":
        return
    finding = report.findings[check]
    if finding.value is None or finding.low is None:
        return
    doubt = finding.value - finding.low
    for stretch in STRETCHES:
        idea = _idea(stretch, build, report.rules, doubt)
        if idea is not None:
            yield idea
    yield from _pressed_less_deep(build, report.rules, doubt)


def _idea(stretch: Stretch, build: Build, rules: Rules, doubt: float) -> Idea | None:
    paths = stretch.paths(build)
    known = build.dimensions
    if not paths or any(path not in known for path in paths):
        return None
    changes: Floats = np.arange(1, round(stretch.most / STEP) + 1, dtype=np.float64) * STEP
    moved = {path: known[path].value + stretch.sign * changes for path in paths}
    run = _run(stack_over(build, rules, moved), changes, doubt)
    if run is None or not all(is_possible(build, p, known[p].value + stretch.sign * run[0]) for p in paths):
        return None
    made = build
    for path in paths:
        made = with_value(made, path, known[path].value + stretch.sign * run[0])
    old = known[paths[0]].value
    title = stretch.title.format(
        change=_range(*run),
        value=_range(*(old + stretch.sign * change for change in run)),
        old=figure(old, 2, "mm"),
    )
    return Idea(stretch.kind, title, made, stretch.effort)


def _run(margins: Floats | None, changes: Floats, doubt: float) -> tuple[float, float] | None:
    """The least change that clears the worst case, and how far on it stays clear: the range to shop by.

    Where none does, the change with the best nominal room, if there is any.
    """
    if margins is None:
        return None
    clear = margins >= doubt + SPARE
    if clear.any():
        first = int(np.argmax(clear))
        on = int(np.argmin(clear[first:])) or len(clear) - first
        return float(changes[first]), float(changes[first + on - 1])
    best = int(np.argmax(margins))
    return (float(changes[best]), float(changes[best])) if margins[best] >= SPARE else None


def _range(*ends: float) -> str:
    """One figure, or two with the smaller first."""
    low, high = sorted(ends)
    told = figure(high, 2, "mm")
    return told if high - low < STEP / 2 else f"{figure(low)} to {told}"


def _pressed_less_deep(build: Build, rules: Rules, doubt: float) -> Iterator[Idea]:
    """Pressing to other heights: a little less post in the pipes than the workshop usually asks for."""
    usual = rules.number("hand_engagement")
    for depth in np.arange(usual - STEP, SHALLOWEST - STEP / 2, -STEP):
        pressed = round(float(depth), 3)
        made = build.with_rules({**build.rules, "hand_engagement": pressed})
        margins = stack_over(made, rules.changed("hand_engagement", pressed), {})
        if margins is not None and float(margins.min()) >= doubt + SPARE:
            words = figure(float(depth), 2, "mm")
            title = f"Press with {words} of post in each pipe instead of {figure(usual, 2, 'mm')}"
            yield Idea(
                "press_heights", title, made, 1, caution="Check that no hand tips when the crown is pulled."
            )
            return
