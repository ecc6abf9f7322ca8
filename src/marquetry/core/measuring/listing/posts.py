"""Posts by which sellers name a hand set: in whole hundredths, and a little thicker than the holes they fit."""

from dataclasses import replace

from marquetry.core.measuring.listing.lengths import Lengths
from marquetry.core.measuring.listing.result import Proposed

HUNDREDTHS_FROM, HUNDREDTHS_TO = 100, 260


def in_hundredths(figure: Lengths) -> Lengths:
    """Posts named by whole hundredths and no unit, as in “150/90/20”: no hand is ten centimetres long."""
    sizes = [length.value for length in figure.values]
    if (
        figure.has_unit
        or any(length.digits for length in figure.values)
        or not HUNDREDTHS_FROM <= max(sizes) <= HUNDREDTHS_TO
    ):
        return figure
    values = tuple(replace(v, value=round(v.value / 100, 4), unit="mm/100", digits=2) for v in figure.values)
    return replace(figure, values=values)


STEP_MM, PLAY_MM, HOLE_TOL_MM = 0.05, 0.02, 0.03
THIN_POSTS_MM = (0.17, 0.22)
"""Seconds posts are thinner than the steps of the others and have sizes of their own."""


def as_posts(told: list[Proposed]) -> list[Proposed]:
    """Hand holes told in whole 0.05 mm throughout, read as the posts that they fit: a hole is a little less.

    Sellers name a set by its movement's posts ("1.50/0.90/0.20"). Read as they stand, such holes would grip
    nothing: every set sold for its movement would clash with it.
    """
    bores = [p for p in told if p.path.endswith(".bore") and isinstance(p.value, float)]
    if not bores or not all(_is_post(proposed) for proposed in bores):
        return told
    return [
        replace(
            p, value=round(p.value - PLAY_MM, 4), tol=HOLE_TOL_MM, sure="likely" if p.sure != "ask" else "ask"
        )
        if p in bores and isinstance(p.value, float)
        else p
        for p in told
    ]


def _is_post(proposed: Proposed) -> bool:
    value = proposed.value
    if not isinstance(value, float):
        return False
    steps = value / STEP_MM
    whole = abs(steps - round(steps)) < 1e-6  # noqa: PLR2004  # decimal places of a seller's figure
    return whole or (proposed.path == "seconds.bore" and round(value, 2) in THIN_POSTS_MM)
