"""Gaskets by their two diameters: inner and outer tell the section, half of what they differ."""

import re
from dataclasses import replace

from marquetry.core.measuring.listing.lengths import Lengths, lengths_in
from marquetry.core.measuring.listing.line import ListingLine
from marquetry.core.measuring.listing.result import Proposed

SECTION = {"back_gasket": "cord", "crown_gasket": "cord", "crystal_gasket": "wall"}
"""What the section of a gasket is called, by kind."""
INNER, OUTER = "inner_diameter", "outer_diameter"
CORD_SHARE = 0.5
"""A second figure below that share of the first is no diameter beside it but the cord's."""


def is_two_diameters(figure: Lengths) -> bool:
    """Whether the first two figures with a times sign are an inner and an outer diameter, whichever is told first."""
    first, second = sorted(length.value for length in figure.values[:2])
    return first > CORD_SHARE * second


SIZE = r"(?P<{0}>\d+(?:[.,]\d+)?)\s*(?:mm)?"
INNER_WORDS, OUTER_WORDS = (
    r"\b(?:id|i\.d\.|inner|inside|innen|int(?:erieur)?)\b\.?\s*(?:[ø⌀]|diameter)?\s*[:=]?\s*",
    r"\b(?:od|o\.d\.|outer|outside|aus?sen|ext(?:erieur)?)\b\.?\s*(?:[ø⌀]|diameter)?\s*[:=]?\s*",
)
BOTH_NAMED = re.compile(
    rf"{INNER_WORDS}{SIZE.format('inner')}\s*[x×/,;]?\s*{OUTER_WORDS}{SIZE.format('outer')}"
    rf"|{OUTER_WORDS}{SIZE.format('outer2')}\s*[x×/,;]?\s*{INNER_WORDS}{SIZE.format('inner2')}"
)
"""Two diameters with their names, as in “ID 32 x OD 34 mm”: a times sign between hides them from other readers."""


def _both_named(line: ListingLine, number: int, kind: str) -> list[Proposed]:
    match = BOTH_NAMED.search(line.plain)
    if match is None:
        return []
    inner, outer = (
        float((match[name] or match[f"{name}2"]).replace(",", ".")) for name in ("inner", "outer")
    )
    at = (line.words(*match.span()), number, match.start(), match.end())
    return [replace(p, sure="said") if p.path == INNER else p for p in _of(kind, inner, outer, at)]


def ring_fields(line: ListingLine, number: int, kind: str) -> tuple[list[Proposed], list[str]]:
    """Inner diameter and section of “30 x 31 x 2.0 mm”, and what goes to the notes: the height that stands third."""
    if named := _both_named(line, number, kind):
        return named, []
    for figure in lengths_in(line.plain):
        if len(figure.values) not in {2, 3} or figure.slashed or not is_two_diameters(figure):
            continue
        first, second = sorted(length.value for length in figure.values[:2])
        at = (line.words(figure.start, figure.end), number, figure.start, figure.end)
        return _of(kind, first, second, at), ([at[0]] if len(figure.values) > 2 else [])  # noqa: PLR2004  # a height
    return [], []


def _of(kind: str, inner: float, outer: float, at: tuple[str, int, int, int]) -> list[Proposed]:
    words, number, start, end = at
    return [
        Proposed(path, round(value, 4), None, "mm", words, "likely", number, start, end)
        for path, value in ((INNER, inner), (SECTION[kind], (outer - inner) / 2))
        if value > 0
    ]


def with_section(told: list[Proposed], kind: str) -> list[Proposed]:
    """The proposals with the section that inner and outer diameter tell, where no words told it; the outer goes."""
    known = {proposed.path: proposed for proposed in told}
    kept = [proposed for proposed in told if proposed.path != OUTER]
    inner, outer, section = known.get(INNER), known.get(OUTER), SECTION[kind]
    if inner is None or outer is None or section in known:
        return kept
    gap = _value(outer) - _value(inner)
    if gap <= 0:
        return kept
    start, end = (inner.start, outer.end) if inner.line == outer.line else (outer.start, outer.end)
    return [
        *kept,
        replace(
            outer,
            path=section,
            value=round(gap / 2, 4),
            sure="likely",
            start=min(start, end),
            end=max(start, end),
        ),
    ]


def _value(proposed: Proposed) -> float:
    return float(proposed.value) if isinstance(proposed.value, int | float) else 0.0
