"""What a value outside the plausible range may have been meant to be: the usual slips, each undone.

Nothing is refused here: a builder who insists keeps the value as it was typed.
"""

from dataclasses import dataclass

from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.entry import INCH_MM
from marquetry.core.values.figures import figure


@dataclass(frozen=True, slots=True)
class SecondThought:
    """A question and the value that answers it with yes."""

    asks: str
    value: float


SLIPS: tuple[tuple[str, float, bool], ...] = (
    ("Did you mean the diameter", 2.0, True),
    ("Did you mean half of it, the radius", 0.5, True),
    ("Did you mean inches", INCH_MM, True),
    ("Has the decimal point slipped", 0.1, False),
    ("Has the decimal point slipped", 10.0, False),
    ("Has the decimal point slipped by two places", 0.01, False),
)
"""Question, factor, and whether the slip is one of lengths only."""


def second_thoughts(quantity: Quantity, value: float) -> tuple[SecondThought, ...]:
    """The slips that would make an implausible value plausible, the likeliest first."""
    if quantity.is_plausible(value):
        return ()
    made = ((asks, value * factor) for asks, factor, length in SLIPS if quantity.unit == "mm" or not length)
    return tuple(
        SecondThought(f"{asks}: {figure(meant, 2, quantity.unit)}?", round(meant, 4))
        for asks, meant in made
        if quantity.is_plausible(meant)
    )
