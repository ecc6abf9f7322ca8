"""A build read for drawing: what is not measured stands at a plausible place."""

from collections.abc import Mapping

from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.number import Number


class Plausible(Trace):
    """Plain nominal numbers in mm and degrees, and a usual one wherever a dimension is missing.

    What is missing and what is only assumed count alike as not measured: both are drawn dashed. `planned`
    are the dimensions that are to be made or altered: they have a line of their own.
    """

    def __init__(self, build: Build, rules: Rules, moved: Mapping[str, Dimension] | None = None) -> None:
        super().__init__(build, rules, moved)
        self.planned: dict[str, None] = {}

    def __getitem__(self, path: str) -> Number:
        """The dimension's nominal value, or where such a dimension usually lies."""
        dimension = self.build.dimensions.get(path)
        if dimension is None:
            return self._usual(path)
        if dimension.source is Source.ASSUMED:
            self.lack(path)
        elif dimension.source is Source.PLANNED:
            self.planned[path] = None
        return dimension.value

    def assumed(self) -> tuple[str, ...]:
        """What stands at a usual place so far, in a builder's words."""
        return tuple(map(self.build.anatomy.label_of, self.missing))

    def _usual(self, path: str) -> float:
        self.lack(path)
        quantity = self.build.anatomy.quantity_at(path)
        if quantity.near is None:
            return quantity.usual
        neighbour, offset = quantity.near
        return float(self[neighbour]) + offset
