"""The caliper stand-in as its window shows it: a beam, two pairs of jaws, the display on the slider."""

from collections.abc import Iterator

from marquetry.drawing.scene import Label, Line, Mark, Paper, Scene

WIDTH, HEIGHT = 180.0, 64.0
BEAM = (26.0, 34.0)
LEFT = 16.0
WIDEST_SHOWN = 110.0


def caliper_drawing(size: float, shown: str) -> Scene:
    """The caliper opened to `size` mm, its display showing `shown`."""
    x = LEFT + min(size, WIDEST_SHOWN)
    marks = (
        _box(4.0, BEAM[0], WIDTH - 8.0, BEAM[1], "body body-steel"),
        *_scale(),
        *_jaws(x),
        *_slider(x, shown),
    )
    return Scene(WIDTH, HEIGHT, f"Simulated caliper, {shown}", "", marks)


def _box(left: float, low: float, right: float, high: float, classes: str) -> Line:
    return Line(((left, low), (right, low), (right, high), (left, high)), classes, closed=True)


def _scale() -> Iterator[Mark]:
    for mm in range(0, 140, 2):
        x, tall = LEFT + mm, 3.0 if mm % 10 == 0 else 1.6
        yield Line(((x, BEAM[0]), (x, BEAM[0] + tall)), "centre-line")


def _jaws(x: float) -> Iterator[Mark]:
    yield _jaw((LEFT, BEAM[0]), -1.0, 23.0)
    yield _jaw((x, BEAM[0]), 1.0, 23.0)
    yield _jaw((LEFT, BEAM[1]), 1.0, -12.0)
    yield _jaw((x, BEAM[1]), -1.0, -12.0)


def _jaw(root: Paper, side: float, long: float) -> Line:
    """A jaw whose measuring face stands at the root's x; `side` is where its back is, `long` downwards."""
    x, y = root
    return Line(
        ((x, y), (x, y - long), (x + side * 2.0, y - long), (x + side * 9.0, y)),
        "body body-steel",
        closed=True,
    )


def _slider(x: float, shown: str) -> Iterator[Mark]:
    yield _box(x, BEAM[0] - 4.0, x + 44.0, BEAM[1] + 5.0, "body body-rubber")
    yield _box(x + 4.0, BEAM[0] - 0.5, x + 40.0, BEAM[1] + 2.5, "body body-void")
    yield Label((x + 38.0, BEAM[0] + 2.2), shown, "figure", 6.4, "end")
