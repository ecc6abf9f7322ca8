"""Mixed-integer programs, solved by HiGHS through scipy: the one file that knows of it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from marquetry.core.values.errors import MarquetryError

Coefficients = Mapping[int, float]
"""Coefficients by the number of their variable."""
SECONDS = 60.0
"""Longest time for one program; what was not proved by then is told by its gap."""


class UnsolvedError(MarquetryError, RuntimeError):
    """A program for which no answer was found in time."""


@dataclass(frozen=True, slots=True)
class Solution:
    """Values by variable, the objective there, and the bound below which nothing can be; no units."""

    values: tuple[float, ...]
    objective: float
    bound: float


@dataclass
class Program:
    """Variables with their bounds and rows that hold; filled step by step, solved as often as wanted."""

    lows: list[float] = field(default_factory=list)
    highs: list[float] = field(default_factory=list)
    whole: list[int] = field(default_factory=list)
    rows: list[tuple[Coefficients, float, float]] = field(default_factory=list)

    def variable(self, low: float, high: float, *, is_whole: bool = False) -> int:
        """A new variable between two bounds; its number."""
        self.lows.append(low)
        self.highs.append(high)
        self.whole.append(int(is_whole))
        return len(self.lows) - 1

    def switch(self) -> int:
        """A new variable that is 0 or 1; its number."""
        return self.variable(0, 1, is_whole=True)

    def hold(self, row: Coefficients, low: float = float("-inf"), high: float = float("inf")) -> int:
        """Let the sum of the row stay between two bounds; its number."""
        self.rows.append((dict(row), low, high))
        return len(self.rows) - 1

    def cap(self, row: int, high: float) -> None:
        """Let the sum of a row that is there be at most so much."""
        coefficients, low, _ = self.rows[row]
        self.rows[row] = (coefficients, low, high)

    def prices(self, objective: Coefficients, fixed: Mapping[int, float], rows: Sequence[int]) -> list[float]:
        """What the least objective would grow by for one more of each row's lower bound, a ratio.

        The program is relaxed, with some variables fixed; rows that do not bind have no price.
        """
        import numpy as np  # noqa: PLC0415  # heavy
        from scipy.optimize import linprog  # noqa: PLC0415  # heavy

        matrix, (lows, highs) = self._matrix()
        bounds = np.array([self.lows, self.highs]).T
        for variable, value in fixed.items():
            bounds[variable] = value
        at_most, at_least = np.flatnonzero(np.isfinite(highs)), np.flatnonzero(np.isfinite(lows))
        from scipy.sparse import vstack  # noqa: PLC0415  # heavy

        found = linprog(
            self._cost(objective),
            A_ub=vstack([matrix[at_most], -matrix[at_least]]),
            b_ub=np.concatenate([highs[at_most], -lows[at_least]]),
            bounds=bounds,
            method="highs",
        )
        if found.x is None:
            return [0.0] * len(rows)
        place = {int(row): len(at_most) + number for number, row in enumerate(at_least)}
        return [max(-float(found.ineqlin.marginals[place[row]]), 0.0) for row in rows]

    def _matrix(self) -> tuple[Any, tuple[Any, Any]]:
        """The rows as a sparse matrix, with their lower and upper bounds."""
        import numpy as np  # noqa: PLC0415  # heavy
        from scipy.sparse import coo_array  # noqa: PLC0415  # heavy

        places = [(r, v, c) for r, (row, _, _) in enumerate(self.rows) for v, c in row.items()]
        at, of, by = zip(*places, strict=True)
        matrix = coo_array((by, (at, of)), shape=(len(self.rows), len(self.lows))).tocsr()
        return matrix, (np.array([row[1] for row in self.rows]), np.array([row[2] for row in self.rows]))

    def _cost(self, objective: Coefficients) -> Any:  # noqa: ANN401  # an array of a package that ships no types
        import numpy as np  # noqa: PLC0415  # heavy

        cost = np.zeros(len(self.lows))
        for variable, coefficient in objective.items():
            cost[variable] = coefficient
        return cost

    def least(self, objective: Coefficients) -> Solution | None:
        """The solution with the least objective; None where the rows hold nowhere.

        UnsolvedError where time ran out before anything was found.
        """
        import numpy as np  # noqa: PLC0415  # heavy
        from scipy.optimize import Bounds, LinearConstraint, milp  # noqa: PLC0415  # heavy

        matrix, (lows, highs) = self._matrix()
        found = milp(
            self._cost(objective),
            integrality=np.array(self.whole),
            bounds=Bounds(np.array(self.lows), np.array(self.highs)),
            constraints=LinearConstraint(matrix, lows, highs),
            options={"mip_rel_gap": 0.0, "time_limit": SECONDS},
        )
        if found.x is None:
            if found.status == INFEASIBLE:
                return None
            raise UnsolvedError(f"No answer was found within {SECONDS:.0f} seconds.")
        bound = found.fun if found.mip_dual_bound is None else found.mip_dual_bound
        return Solution(tuple(map(float, found.x)), float(found.fun), float(bound))


def warm_up() -> None:
    """Import what solving needs, ahead of the first program."""
    import scipy.optimize  # noqa: F401, PLC0415  # heavy


INFEASIBLE = 2
"""The status by which scipy says that no answer can be."""
