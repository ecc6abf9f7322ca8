"""A build read for drawing: what is not measured stands at a plausible place."""

from marquetry.core.fit.trace import Readings
from marquetry.core.sheet.parts import quantity_at
from marquetry.core.values.number import Number


class Plausible(Readings):
    """Readings for drawing: plain nominal numbers, and a usual one wherever a dimension is missing."""

    def __getitem__(self, path: str) -> Number:
        self.uses[path] = None
        dimension = self.build.dimensions.get(path)
        return self._usual(path) if dimension is None else dimension.value

    def _usual(self, path: str) -> float:
        self.lack(path)
        quantity = quantity_at(path)
        if quantity.near is None:
            return quantity.usual
        neighbour, offset = quantity.near
        return float(self[neighbour]) + offset
