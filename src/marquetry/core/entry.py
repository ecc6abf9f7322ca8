"""What a builder types into a field, understood: `2.62`, `2,62`, ` −0.4 mm`."""

import math
import re

from marquetry.core.dimension import Unit
from marquetry.core.errors import DimensionError

_TYPED = re.compile(r"(?P<sign>[+\-−]?)\s*(?P<digits>\d{1,6}([.,]\d{0,9})?|[.,]\d{1,9})\s*(?P<unit>mm|°)?")


def parse_figure(field: str, text: str, unit: Unit) -> float:
    """The number in the text, with a decimal point or comma and an optional unit.

    Raises DimensionError, naming the field and what would do.
    """
    found = _TYPED.fullmatch(text.strip())
    if found is None or found["unit"] not in {None, unit}:
        raise DimensionError(field, f"“{text.strip()[:40]}”", "", f"a number in {unit}, such as 2.62")
    value = float(found["digits"].replace(",", "."))
    return math.copysign(value, -1.0) if found["sign"] in {"-", "−"} else value
