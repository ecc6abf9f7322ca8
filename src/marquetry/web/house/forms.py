"""What the forms of the house rules send."""

from typing import Annotated

from pydantic import AfterValidator, BaseModel, Field

from marquetry.core.fit.model import Model
from marquetry.core.measuring.instrument import WAYS, Instrument
from marquetry.core.sheet.entries import Json
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.web.watch.forms import Typed


class RuleForm(BaseModel):
    """A house rule as typed: one or two figures, empty for an open end."""

    key: Annotated[str, Field(max_length=60, pattern=r"^[a-z0-9_]+$")]
    low: Typed = ""
    high: Typed = ""
    reset: bool = False

    def read(self, model: Model) -> Json:
        """The rule as JSON, in its own unit: a number, `[low, high]`, or None for the default."""
        typed = [text.strip() for text in (self.low, self.high)]
        if self.reset or not any(typed):
            return None
        plain = model.plain_rules.get(self.key)
        described = plain or model.bands.get(self.key) or model.limit_keys[self.key]
        unit = described.unit
        ends = [parse_figure(self.key, text, unit) if text else None for text in typed]
        return ends[0] if plain else ends


def _known_way(way: str) -> str:
    if way not in WAYS:
        raise ValueError(f"expected one of {', '.join(WAYS)}")
    return way


class InstrumentForm(BaseModel):
    """An instrument as typed."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    resolution: Typed
    uncertainty: Typed
    ways: Annotated[list[Annotated[str, AfterValidator(_known_way)]], Field(min_length=1)]

    def read(self) -> Instrument:
        """The instrument. Raises DimensionError where a figure cannot be one."""
        resolution = _small("resolution", self.resolution)
        return Instrument(
            self.name.strip(), resolution, _small("uncertainty", self.uncertainty), tuple(self.ways)
        )


def _small(field: str, text: str) -> float:
    """A figure that an instrument may have for resolution or uncertainty."""
    value = parse_figure(field, text, "mm")
    if not 0 < value <= 1:
        raise DimensionError(field, value, "mm", "more than 0 and at most 1 mm")
    return value
