"""Where the money of a watch went: one plank of veneer, a strip for each kind, against the budget."""

from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.drawing.scene import Box, Label, Line, Mark, Scene

WIDTH, HEIGHT = 236.0, 52.0
LEFT, BASE, THICK = 4.0, 20.0, 18.0
ROWS = (14.0, 8.5, 3.0)
"""Heights at which names stand under the plank, mm."""
WORDS = 3.6
TONES = {
    "piece": "brass", "made": "print", "material": "glass", "consumable": "dial", "spoilt": "spacer",
    "loss": "rubber", "hours": "rotor", "other": "steel", "open": "void",
}  # fmt: skip
LEAST = 1.2
LETTER = 1.95
"""A letter's width, mm."""


@dataclass(frozen=True, slots=True)
class Strip:
    """A part of the sum: its kind, words and amount in minor units; `told` is the amount in words."""

    kind: str
    words: str
    minor: int
    told: str


def money_inlay(
    strips: Sequence[Strip], budget: int | None = None, budget_told: str = "", width: float = WIDTH
) -> Scene:
    """The plank to scale: so many millimetres a minor unit, the budget as a mark over it; `width` in mm."""
    held, right = [strip for strip in strips if strip.minor > 0], width - LEFT
    total = sum(strip.minor for strip in held)
    whole = max(total, budget or 0, 1) * 1.02
    marks: list[Mark] = [Line(((LEFT, BASE - 1.5), (right, BASE - 1.5)), "frame")]
    at, ends = LEFT, dict.fromkeys(ROWS, LEFT)
    for strip in held:
        wide = max(strip.minor / whole * (right - LEFT), LEAST)
        looks = (
            "lane-risk"
            if strip.kind == "open"
            else f"body body-{_hatch(strip.kind)} tone-{TONES[strip.kind]}"
        )
        marks.append(Box((at, BASE), wide, THICK, looks))
        _named(marks, strip, (at, wide, right), ends)
        at += wide
    if budget:
        x = LEFT + budget / whole * (right - LEFT)
        marks.append(Line(((x, BASE - 3.0), (x, BASE + THICK + 4.0)), "plan-wish"))
        anchor = "end" if x > width / 2 else "start"
        marks.append(Label((x, BASE + THICK + 5.5), f"budget {budget_told}", "figure", WORDS, anchor))  # type: ignore[arg-type]  # one of the three
    words = "; ".join(f"{strip.words} {strip.told}" for strip in held)
    return Scene(width, HEIGHT, "Where the money went", words or "Nothing was spent yet.", tuple(marks))


def _hatch(kind: str) -> str:
    return {"piece": "brass", "made": "print", "spoilt": "spacer", "hours": "rotor"}.get(kind, "steel")


def _named(
    marks: list[Mark], strip: Strip, place: tuple[float, float, float], ends: dict[float, float]
) -> None:
    """Name a strip on itself where it is wide enough, else under the plank in the first row with room."""
    at, width, right = place
    if width > max(len(strip.words), len(strip.told)) * LETTER + 3:
        marks.append(Label((at + 2, BASE + THICK - 6.0), strip.words, "halo", WORDS))
        marks.append(Label((at + 2, BASE + 3.4), strip.told, "figure halo", WORDS))
        return
    words = f"{strip.words} {strip.told}"
    long = len(words) * LETTER
    wanted = min(at, right - long)
    row = next((row for row, end in ends.items() if end <= wanted), ROWS[-1])
    start = max(ends[row], wanted)
    marks.append(Line(((at + width / 2, BASE), (at + width / 2, row + 3.4)), "overall-line"))
    marks.append(Label((start, row), words, "halo", WORDS))
    ends[row] = start + long + 4
