"""Where a dial's markers stand: their angles, their numerals, and those that a window leaves no room for."""

from dataclasses import dataclass

ROMAN = ("XII", "I", "II", "III", "IIII", "V", "VI", "VII", "VIII", "IX", "X", "XI")
"""Four strokes at four, as dials have it: it balances the eight opposite."""
PLACES = {
    "all twelve": range(12),
    "twelve": (0,),
    "quarters": (0, 3, 6, 9),
    "three, six, nine": (3, 6, 9),
    "all but twelve": range(1, 12),
    "all but quarters": (1, 2, 4, 5, 7, 8, 10, 11),
    "even hours": range(0, 12, 2),
    "odd hours": range(1, 12, 2),
}
ALL_DAY = "all twenty-four"


@dataclass(frozen=True, slots=True)
class MarkerPlace:
    """One marker: its angle clockwise from twelve in degrees, and what a numeral there says."""

    angle: float
    numeral: str
    roman: str


def marker_places(places: str) -> tuple[MarkerPlace, ...]:
    """Every place of a set; those of a word that is not known are all twelve."""
    if places == ALL_DAY:
        return tuple(MarkerPlace(15.0 * k, str(k or 24), str(k or 24)) for k in range(24))
    hours = PLACES.get(places, PLACES["all twelve"])
    return tuple(MarkerPlace(30.0 * hour, str(hour or 12), ROMAN[hour]) for hour in hours)


def apart(one: float, other: float) -> float:
    """The angle between two directions, 0 to 180 degrees."""
    return abs((one - other + 180.0) % 360.0 - 180.0)
