"""How far from an estimate its true value may lie: the published factor for so many degrees of freedom."""

import csv
from functools import lru_cache
from importlib.resources import files
from itertools import pairwise

from marquetry.core.values.errors import DimensionError


@lru_cache(maxsize=1)
def _table() -> tuple[tuple[float, float], ...]:
    text = files("marquetry.core").joinpath("data/t_95.csv").read_text("utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return tuple((float(row["degrees_of_freedom"]), float(row["t_95"])) for row in rows)


def t_95(degrees: float) -> float:
    """The factor for 95 %, two-sided, a plain ratio; between rows by 1/degrees, as t is nearly a line in it.

    JCGM 100:2008, table G.2. DimensionError for fewer than one degree of freedom.
    """
    table = _table()
    if not degrees >= table[0][0]:
        raise DimensionError("degrees of freedom", degrees, "", "1 or more")
    for (few, wide), (many, narrow) in pairwise(table):
        if degrees <= many:
            share = (1 / few - 1 / degrees) / (1 / few - 1 / many)
            return wide + share * (narrow - wide)
    return table[-1][1]
