"""The card of a watch: its face at the left, what it is at the right, each figure with how it is known."""

import textwrap
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.face.seen import SeenFace
from marquetry.core.story.card import CardRow, CardSource
from marquetry.drawing.face.face_drawing import drawn_face
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Box, Cluster, Dot, Label, Line, Mark, Paper, Scene
from marquetry.drawing.sheet import USUAL_TIME
from marquetry.drawing.svg import FACE

WIDTH, HEIGHT = 148.0, 105.0
"""A postcard's size, lying."""
CENTRE: Paper = (37.5, 58.0)
FACE_HIGH = 66.0
LEFT, RIGHT, VALUE = 75.0, 142.0, 94.5
TOP, HIGHER, FOOT = 81.0, 86.0, 13.4
LETTERS = 34
"""Letters in a line of values."""
SHORT, FIGURED = 14, ("measured", "computed", "listed")
"""Up to so many letters a measured value is one figure."""
LINE, SIZE = 3.75, 2.8
MARKS: dict[CardSource, str] = {
    "measured": "measured", "computed": "from measures", "listed": "as listed", "tested": "tested",
    "told": "",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class CardWords:
    """What stands on the card beside its rows: the watch's name, a line under it, the maker's own name."""

    name: str
    line: str
    maker: str


def spec_card(face: SeenFace, words: CardWords, rows: Sequence[CardRow]) -> Scene:
    """The card; rows that find no room any more are left out, the last ones first."""
    radius = face.case.radius if face.case else 20.0
    plan = Plan(FACE_HIGH / (2.0 * max(face.reach, radius)), centre=CENTRE)
    marks: list[Mark] = [*_frame()]
    marks.append(Cluster(tuple(drawn_face(plan, face, USUAL_TIME, strap=0.0)), FACE))
    marks += _heading(words)
    marks += _ledger(rows, _top(words))
    marks += _legend({row.source for row in rows})
    told = "; ".join(f"{row.label}: {row.value}" for row in rows)
    return Scene(WIDTH, HEIGHT, f"{words.name}: its card", told, tuple(marks))


def _frame() -> Iterator[Mark]:
    yield Box((0.0, 0.0), WIDTH, HEIGHT, "card-paper")
    yield Box((3.0, 3.0), WIDTH - 6.0, HEIGHT - 6.0, "card-line")
    yield Box((4.2, 4.2), WIDTH - 8.4, HEIGHT - 8.4, "card-line card-fine")
    for x, y in ((3.0, 3.0), (WIDTH - 3.0, 3.0), (3.0, HEIGHT - 3.0), (WIDTH - 3.0, HEIGHT - 3.0)):
        yield from _inlay((x, y), 3.2)


def _inlay(centre: Paper, size: float) -> Iterator[Mark]:
    """A lozenge of four veneers, light and dark by turns."""
    x, y = centre
    tips = ((x, y + size), (x + size, y), (x, y - size), (x - size, y))
    for place, tip in enumerate(tips):
        yield Line((centre, tip, tips[(place + 1) % 4]), f"card-veneer-{'ab'[place % 2]}", closed=True)


def _heading(words: CardWords) -> Iterator[Mark]:
    size = 8.6 if len(words.name) <= 14 else 6.4 if len(words.name) <= 22 else 4.8  # noqa: PLR2004  # letters to a line
    yield Label((LEFT, HEIGHT - 15.0), words.name[:36], "display", size)
    if words.line:
        yield Label((LEFT, HEIGHT - 20.4), words.line[:46], "quiet", 3.2)
    top = _top(words)
    yield Line(((LEFT, top + 1.8), (RIGHT, top + 1.8)), "card-rule")
    if words.maker:
        yield Label((CENTRE[0], 11.5), words.maker[:40], "display", 4.6, "middle")


def _top(words: CardWords) -> float:
    return TOP if words.line else HIGHER


def _ledger(rows: Sequence[CardRow], top: float) -> Iterator[Mark]:
    y = top - 2.6
    for row in rows:
        lines = textwrap.wrap(row.value, LETTERS) or [""]
        if y - (len(lines) - 1) * LINE < FOOT:
            return
        yield Label((LEFT, y), row.label, "quiet", SIZE)
        if row.source != "told":
            yield from _mark(row.source, (VALUE - 3.4, y + 1.0))
        for number, line in enumerate(lines):
            yield Label(
                (VALUE, y - number * LINE),
                line,
                "figure" if row.source in FIGURED and len(row.value) <= SHORT else "",
                SIZE,
            )
        y -= len(lines) * LINE + 0.38


def _mark(source: CardSource, centre: Paper) -> Iterator[Mark]:
    """How a figure is known: full lozenge measured, half full computed, open listed; a ring for a test."""
    x, y = centre
    size = 1.15
    left, top, right, foot = (x - size, y), (x, y + size), (x + size, y), (x, y - size)
    if source == "tested":
        yield Dot(centre, size, "card-mark")
        yield Dot(centre, size * 0.45, "card-mark-full")
        return
    yield Line(
        (left, top, right, foot), "card-mark-full" if source == "measured" else "card-mark", closed=True
    )
    if source == "computed":
        yield Line((left, right, foot), "card-mark-full", closed=True)


def _legend(sources: set[CardSource]) -> Iterator[Mark]:
    x = LEFT
    for source, words in MARKS.items():
        if words and source in sources:
            yield from _mark(source, (x + 1.2, 9.6))
            yield Label((x + 3.2, 8.7), words, "quiet", 2.5)
            x += 5.6 + 1.38 * len(words)
