"""Practice as a chest: each exercise a tablet in the drawer it lies in, those that are due pulled out."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.rehearsal.practice import DRAWER_DAYS
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

CHEST_WIDTH, EDGE = 250.0, 5.0
TYPE, LEFT = 5.0, 40.0
TABLET_HIGH, GAP, LETTER = 11.0, 2.6, 2.62
"""Height of a tablet, air between two, width of a letter on it; mm on paper."""
PULLED, AIR = 2.4, 2.8
"""How far a tablet that is due is pulled out, and the air over and under a line of them, mm."""


@dataclass(frozen=True, slots=True)
class Drawerful:
    """An exercise in its drawer, −1 for the board on which what was never played lies."""

    key: str
    title: str
    drawer: int
    is_due: bool
    failed_last: bool


def chest_scene(tablets: Sequence[Drawerful]) -> Scene:
    """The board on top, the first drawer under it, the last at the foot; a full drawer is a higher one."""
    rows = [
        _lines([one for one in tablets if one.drawer == drawer]) for drawer in range(-1, len(DRAWER_DAYS))
    ]
    highs = [max(len(lines), 1) * (TABLET_HIGH + AIR) + AIR for lines in rows]
    height = 2 * EDGE + sum(highs)
    marks: list[Mark] = []
    top = height - EDGE
    for place, (lines, high) in enumerate(zip(rows, highs, strict=True)):
        marks += _row(place - 1, top - high, high, lines)
        top -= high
    told = ", ".join(f"{one.title}: {_where(one)}" for one in tablets)
    return Scene(CHEST_WIDTH, height, "Practice", told, tuple(marks))


def _wide(one: Drawerful) -> float:
    return len(one.title) * LETTER + 6.0


def _lines(tablets: Sequence[Drawerful]) -> list[list[Drawerful]]:
    """As many side by side as there is room for, then the next line."""
    lines: list[list[Drawerful]] = []
    room = 0.0
    for one in tablets:
        if not lines or _wide(one) > room:
            lines.append([])
            room = CHEST_WIDTH - LEFT - EDGE - 2.0
        lines[-1].append(one)
        room -= _wide(one) + GAP
    return lines


def _where(one: Drawerful) -> str:
    if one.drawer < 0:
        return "never played"
    return f"drawer {one.drawer + 1}{', due' if one.is_due else ''}"


def _row(drawer: int, y: float, high: float, lines: Sequence[Sequence[Drawerful]]) -> Iterator[Mark]:
    middle = y + high / 2 - TYPE * 0.36
    if drawer < 0:
        yield Line(((EDGE, y + 0.8), (CHEST_WIDTH - EDGE, y + 0.8)), "edge-line heavy")
        yield Label((EDGE, middle), "not played", "quiet", TYPE)
    else:
        yield Box((EDGE, y), CHEST_WIDTH - 2 * EDGE, high - 1.2, "drawer-front")
        yield Box((EDGE + 1.1, y + 1.1), CHEST_WIDTH - 2 * EDGE - 2.2, high - 3.4, "edge-line")
        yield Label((EDGE + 4.0, middle), f"{DRAWER_DAYS[drawer]} days", "quiet", TYPE)
    for number, line in enumerate(lines):
        yield from _tablets(y + high - (number + 1) * (TABLET_HIGH + AIR), line)


def _tablets(y: float, tablets: Sequence[Drawerful]) -> Iterator[Mark]:
    x = LEFT
    for one in tablets:
        classes = (
            "tablet" + (" tablet-due" if one.is_due else "") + (" tablet-missed" if one.failed_last else "")
        )
        low = y - (PULLED if one.is_due else 0.0)
        box = Box((x, low), _wide(one), TABLET_HIGH, classes)
        label = Label((x + _wide(one) / 2, low + 3.7), one.title, "tablet-title", TYPE, "middle")
        yield Cluster(
            (box, label), "tablet-of", link=f"#exercise-{one.key}", label=f"{one.title}: {_where(one)}"
        )
        x += _wide(one) + GAP
