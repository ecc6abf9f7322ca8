"""Sums, prices and shares as files carry them: decimal strings, never a float; faults told by their path."""

import re
from collections.abc import Sequence
from decimal import Decimal
from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError
from pydantic_core import PydanticCustomError

from marquetry.core.values.currency import decimals_of, is_currency
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import DimensionError, FaultsError

DECIMAL = re.compile(r"(-?)(\d{1,15})(?:\.(\d{1,12}))?")
Fault = tuple[Sequence[str | int], str]
MOST_PIECES = 1_000_000
LONGEST_NAME = 200


def _amount(value: object) -> Decimal:
    found = DECIMAL.fullmatch(value) if isinstance(value, str) and value.isascii() else None
    if found is None:
        raise PydanticCustomError("amount", 'expected a decimal in quotes, such as "12.50"')
    if found[1]:
        raise PydanticCustomError("amount", "a sum may not be negative")
    return Decimal(found[0])


def _day(value: object) -> str:
    try:
        return parse_day("day", value if isinstance(value, str) else "")
    except DimensionError:
        raise PydanticCustomError("day", "expected a day such as 2027-01-15") from None


def _currency(value: object) -> str:
    if not (isinstance(value, str) and is_currency(value)):
        raise PydanticCustomError("currency", "expected a currency of ISO 4217, three capital letters")
    return value


Amount = Annotated[Decimal, BeforeValidator(_amount)]
Day = Annotated[str, BeforeValidator(_day)]
Currency = Annotated[str, BeforeValidator(_currency)]
NameText = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]
Pieces = Annotated[int, Field(ge=1, le=MOST_PIECES)]
StockPieces = Annotated[int, Field(ge=0, le=MOST_PIECES)]


class ReadObject(BaseModel):
    """What a file's object may hold; numbers and strings are not taken for each other."""

    model_config = ConfigDict(strict=True, extra="ignore", frozen=True)


ModelRead = TypeVar("ModelRead", bound=BaseModel)


def read_as(model: type[ModelRead], raw: Any) -> ModelRead:  # noqa: ANN401  # whatever a file holds
    """The file's content as the model. FaultsError names the path of each fault."""
    try:
        return model.model_validate(raw)
    except ValidationError as error:
        raise FaultsError([(_path(fault["loc"]), fault["msg"]) for fault in error.errors()]) from None


def _path(loc: tuple[str | int, ...]) -> tuple[str | int, ...]:
    """Where a fault is, without what pydantic adds for a mapping's key."""
    return tuple(step for step in loc if step != "[key]")


def in_minor(amount: Decimal, currency: str, path: Sequence[str | int], faults: list[Fault]) -> int:
    """The sum in minor units; a fault is noted where it is finer than its currency."""
    minor = amount * 10 ** decimals_of(currency)
    if minor != int(minor):
        faults.append((path, f"finer than {currency}, which has {decimals_of(currency)} decimals"))
    return int(minor)


def price_text(price: Decimal, currency: str) -> str:
    """A price of one with its currency's decimals, more where it is finer."""
    decimals = max(decimals_of(currency), -int(price.normalize().as_tuple().exponent))
    return f"{price:.{decimals}f}"
