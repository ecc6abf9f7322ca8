"""What a worksheet is: readings a caliper can reach, and the formula that makes a dimension of them.

The doubt of each reading is carried through, first order; a reading used twice counts once.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from marquetry.core.sheet.anatomy import is_number
from marquetry.core.values.dimension import COVERAGE_FACTOR, Dimension, Source, Unit
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.number import Number, nominal, partials, sensitive

Inputs = Mapping[str, Number]
ReadingsFormula = Callable[[Inputs], Number]


@dataclass(frozen=True, slots=True)
class Asked:
    """One reading a worksheet asks for."""

    key: str
    label: str
    how: str
    unit: Unit = "mm"


@dataclass(frozen=True, slots=True)
class Result:
    """What comes out: the path below a part (`feet.*.angle` for any foot), its formula and its unit."""

    path: str
    formula: ReadingsFormula
    unit: Unit = "mm"


@dataclass(frozen=True, slots=True)
class Computed:
    """A worksheet's result with each reading's share of its variance."""

    dimension: Dimension
    shares: Mapping[str, float]
    unit: Unit = "mm"


@dataclass(frozen=True, slots=True)
class Worksheet:
    """One way round to dimensions that cannot be reached directly. `part` is the kind they belong to."""

    key: str
    title: str
    part: str
    asks: tuple[Asked, ...]
    results: tuple[Result, ...]
    steps: tuple[str, ...]

    def serves(self, path: str) -> bool:
        """Whether it computes the dimension at the path, part included."""
        plain = ".".join("*" if is_number(step) else step for step in path.split("."))
        wanted = {f"{self.part}.{result.path}" for result in self.results}
        return plain in wanted or plain in {f"{self.part}.*.{result.path}" for result in self.results}

    def compute(self, readings: Mapping[str, Dimension]) -> dict[str, Computed]:
        """Every result from the readings; DimensionError where they cannot belong together."""
        numbers = {asked.key: sensitive(asked.key, readings[asked.key]) for asked in self.asks}
        return {result.path: self._computed(result, numbers, readings) for result in self.results}

    def _computed(self, result: Result, numbers: Inputs, readings: Mapping[str, Dimension]) -> Computed:
        try:
            number = result.formula(numbers)
        except (ValueError, ZeroDivisionError):
            raise DimensionError(
                self.title, "these readings", "", "readings that can belong to one part"
            ) from None
        slopes = partials(number)
        variances = {key: (slope * readings[key].standard_uncertainty) ** 2 for key, slope in slopes.items()}
        total = sum(variances.values())
        tol = COVERAGE_FACTOR * total**0.5
        shares = {key: variance / total for key, variance in variances.items() if total > 0}
        return Computed(Dimension(float(nominal(number)), tol, Source.MEASURED), shares, result.unit)
