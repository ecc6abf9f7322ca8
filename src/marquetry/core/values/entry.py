"""What a builder types into a field, understood: `2.62`, `2,62`, ` −0.4 mm`, `28.5 ±0.02`, `1 1/8"`.

Inches are converted here and nowhere else, by the exact 25.4 mm.
"""

import math
import re
from typing import Literal

from marquetry.core.values.dimension import Unit
from marquetry.core.values.errors import DimensionError

INCH_MM = 25.4
TypedUnit = Unit | Literal["%", "×", "K", "s/d", "s", "ms", "min", "ppm", "bar", "months", "turns", "m"]
"""What a field may ask for: a dimension's unit, or that of a rule."""
_INCHES = {"in", '"', "″", "inch"}
_UNIT = r"(?:mm|inch|in|\"|″|°|%|×|K|s/d|s|ms|min|ppm|bar|months|turns|m)"
_DECIMAL = r"(?:\d{1,6}(?:[.,]\d{0,9})?|[.,]\d{1,9})"
_FRACTION = r"(?:(?:\d{1,3}\s+)?\d{1,3}/\d{1,3})"
_TYPED = re.compile(
    rf"(?P<sign>[+\-−]?)\s*(?P<size>{_FRACTION}|{_DECIMAL})\s*(?P<unit>{_UNIT})?"
    rf"(?:\s*(?:±|\+/?[-−])\s*(?P<tol>{_DECIMAL})\s*(?P<tol_unit>{_UNIT})?)?"
)


def parse_entry(field: str, text: str, unit: TypedUnit) -> tuple[float, float | None]:
    """The value in the text in `unit`, and the half width of its tolerance where one was typed.

    Understands decimal point and comma, fractions, inches and `±`, and any white space between them, such as
    the no-break space of a pasted `1 1/8"`; inches only where millimetres are asked for. Raises
    DimensionError, naming the field and what would do.
    """
    found = _TYPED.fullmatch(" ".join(text.split()))
    if found is None:
        raise _refused(field, text, unit)
    typed_unit = found["unit"] or found["tol_unit"] or unit
    if typed_unit in _INCHES and unit == "mm":
        factor = INCH_MM
    elif typed_unit == unit and found["tol_unit"] in {None, unit}:
        factor = 1.0
    else:
        raise _refused(field, text, unit)
    size = _size(found["size"])
    if size is None:
        raise _refused(field, text, unit)
    value = math.copysign(size * factor, -1.0) if found["sign"] in {"-", "−"} else size * factor
    return value, None if found["tol"] is None else _decimal(found["tol"]) * factor


def parse_figure(field: str, text: str, unit: TypedUnit) -> float:
    """A single number: what `parse_entry` understands, without a tolerance, in the asked unit."""
    value, tol = parse_entry(field, text, unit)
    if tol is not None:
        raise _refused(field, text, unit)
    return value


def parse_figures(field: str, text: str, unit: TypedUnit) -> list[float]:
    """One number or several, parted by semicolons or by gaps, as readings are typed, in the asked unit."""
    typed = text.strip()
    if ";" in typed:
        return [parse_figure(field, part, unit) for part in typed.split(";") if part.strip()]
    try:
        return [parse_figure(field, typed, unit)] if typed else []
    except DimensionError:
        parts = typed.split()
        if len(parts) < 2:  # noqa: PLR2004  # a single one was refused already
            raise
        return [parse_figure(field, part, unit) for part in parts]


def _size(text: str) -> float | None:
    """A decimal or a fraction, `1 1/8`; None where something is divided by nothing."""
    if "/" not in text:
        return _decimal(text)
    whole, _, rest = text.rpartition(" ")
    upper, lower = (int(part) for part in rest.split("/"))
    return None if lower == 0 else int(whole.strip() or 0) + upper / lower


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _refused(field: str, text: str, unit: TypedUnit) -> DimensionError:
    return DimensionError(field, f"“{text.strip()[:40]}”", "", f"a number in {unit}, such as 2.62")
