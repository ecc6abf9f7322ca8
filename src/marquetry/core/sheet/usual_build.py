"""A watch made of the usual value of every dimension: what house rules and help are drawn from."""

from functools import lru_cache

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import FUNCTIONS
from marquetry.core.sheet.entries import FORMAT, Json
from marquetry.core.sheet.schema import (
    Choice,
    Count,
    Entry,
    Flag,
    Group,
    Many,
    Names,
    PlainSize,
    Quantity,
    Text,
    Tint,
)

SECOND = {"angle": 180.0}
"""The second foot and hole stand opposite the first."""

WORDS = {"thread": "0.90"}


@lru_cache(maxsize=4)
def usual_build(anatomy: Anatomy) -> Build:
    """Every part but those that are only put in where height is missing, all dimensions exact.

    Of each thing in a part's list there are two.
    """
    parts = {part.key: _usual(part) for part in anatomy.parts if not isinstance(part, Many)}
    target = {"water_depth_m": 50, "wrist_circumference_mm": 172}
    return Build(
        {"format": FORMAT, "name": "A usual watch", "target": target, "parts": parts, "rules": {}}, anatomy
    )


def _usual(entry: Entry, turn: int = 0) -> Json:  # noqa: C901, PLR0911  # one return a kind of entry
    match entry:
        case Quantity(differs=True) | Group(key="fastening" | "dial_ring"):
            return None
        case Quantity():
            return {"value": entry.usual + turn * SECOND.get(entry.key, 0.0), "tol": 0, "source": "exact"}
        case Group():
            found = {inner.key: _usual(inner, turn) for inner in entry.entries}
            return {key: value for key, value in found.items() if value is not None}
        case Many():
            return [_usual(Group("", "", entry.entries), turn) for turn in range(2)]
        case Count():
            return 120
        case Names(key="suits" | "calibres"):
            return None
        case Names():
            return ["date"] if entry.key == "windows" else [name for name in FUNCTIONS if name != "day"]
        case Text() | Tint() | PlainSize():
            return WORDS.get(entry.key)
        case Choice():
            return entry.options[0]
        case Flag():
            return None
