"""What a formula is evaluated on, and what can be asked of the result.

The same formula runs on plain floats, on numbers that carry one derivative per dimension, and on numpy
columns of many parts at once. Carrying is left to `uncertainties`: a dimension used twice counts once.
"""

import math
from collections.abc import Sequence
from typing import Any, TypeAlias

import numpy as np
from uncertainties import UFloat, ufloat, umath

from marquetry.core.values.dimension import Dimension

# float, UFloat or numpy column. These three share arithmetic but no type that names it, so a formula's
# numbers are Any; everything around the formulas is typed.
Number: TypeAlias = Any


def sensitive(path: str, dimension: Dimension) -> Number:
    """The dimension as a number that remembers, by `path`, how results depend on it, in its own unit."""
    u = dimension.standard_uncertainty
    return ufloat(dimension.value, u, tag=path) if u > 0 else dimension.value


def nominal(number: Number) -> Number:
    """The number without its sensitivities: for decisions such as which hand is longer, in its own unit."""
    return number.nominal_value if isinstance(number, UFloat) else number


def partials(number: Number) -> dict[str, float]:
    """∂number/∂dimension for every dimension, by path, that has a tolerance and moves the number."""
    if not isinstance(number, UFloat):
        return {}
    return {str(v.tag): float(d) for v, d in number.derivatives.items() if d != 0.0}


def is_column(number: Number) -> bool:
    """Whether the number stands for many parts at once."""
    return isinstance(number, np.ndarray)


def where_not(excluded: Any, number: Number) -> Number:  # noqa: ANN401  # a yes or no, or a column of them
    """The number, in its unit; of a column, ∞ in the rows that are excluded: no limit is met there."""
    return np.where(excluded, np.inf, number) if is_column(excluded) else number


def least(numbers: Sequence[Number]) -> Number:
    """The smallest, in their unit: of columns row by row, of others the nominally smallest, doubt and all."""
    if any(map(is_column, numbers)):
        return np.minimum.reduce(np.broadcast_arrays(*numbers))
    return min(numbers, key=nominal)


def greatest(numbers: Sequence[Number]) -> Number:
    """The largest, likewise, in their unit."""
    return -least([-number for number in numbers])


def arc_cosine_deg(cosine: Number) -> Number:
    """Arc cosine in degrees, doubt and all. ValueError outside −1 … 1."""
    return umath.acos(cosine) * (180.0 / math.pi)


def square_root(number: Number) -> Number:
    """Square root, doubt and all, in the root of its unit. ValueError of a negative number."""
    if nominal(number) < 0:
        raise ValueError("no square root of a negative number")
    return number**0.5
