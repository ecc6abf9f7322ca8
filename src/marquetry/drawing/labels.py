"""Labels that never overlap: each takes the first free place around its anchor."""

from dataclasses import dataclass, field

from marquetry.drawing.scene import Paper

ADVANCE = 0.62
"""Width of a figure's digit as a share of its height of type, measured on the shipped face."""

AROUND = (
    (1.6, 0.8),
    (1.6, -3.2),
    (-1.0, 1.4),
    (-1.0, -3.2),
    (0.0, 3.4),
    (0.0, -5.4),
    (3.0, 4.2),
    (3.0, -6.4),
)


@dataclass(slots=True)
class LabelBoard:
    """Remembers the boxes taken on one sheet: left, bottom, right, top in paper millimetres."""

    taken: list[tuple[float, float, float, float]] = field(default_factory=list)

    def place(self, anchor: Paper, text: str, size: float) -> Paper:
        """Lower left corner for the text near the anchor, clear of every earlier label where possible."""
        width = len(text) * ADVANCE * size
        boxes = [_box(anchor, offset, width, size) for offset in AROUND]
        chosen = next(
            (box for box in boxes if not any(_overlap(box, other) for other in self.taken)), boxes[0]
        )
        self.taken.append(chosen)
        return chosen[0], chosen[1]


def _box(anchor: Paper, offset: Paper, width: float, size: float) -> tuple[float, float, float, float]:
    dx, dy = offset
    left = anchor[0] + dx - (width if dx < 0 else 0.0)
    bottom = anchor[1] + dy
    return left, bottom, left + width, bottom + size


def _overlap(a: tuple[float, float, float, float], b: tuple[float, float, float, float]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]
