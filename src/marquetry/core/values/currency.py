"""Currencies by their codes, and how many decimals a sum has: a table of ISO 4217 beside this file."""

from functools import lru_cache
from importlib.resources import files

USUAL_DECIMALS = 2


@lru_cache(maxsize=1)
def _decimals() -> dict[str, int]:
    text = files("marquetry.core.values").joinpath("currencies.csv").read_text("utf-8")
    rows = (line.split(",") for line in text.splitlines() if not line.startswith("#"))
    return {code: int(decimals) for code, decimals in rows}


def decimals_of(currency: str) -> int:
    """Whole count of decimals of a sum in the currency; the usual two of a code that nobody knows."""
    return _decimals().get(currency, USUAL_DECIMALS)


def is_currency(code: str) -> bool:
    """Whether it is the code of a currency that sums are paid in."""
    return code in _decimals()
