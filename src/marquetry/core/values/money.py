"""A sum of money: whole minor units of one currency, never a float."""

import re
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from marquetry.core.values.currency import decimals_of, is_currency
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import MINUS, SPACE

USUAL_CURRENCY = "EUR"
"""The currency of a sum that names none."""
_TYPED = re.compile(r"(?P<sum>\d{1,9})(?:[.,](?P<cents>\d{1,3}))?\s*(?P<currency>[A-Za-z]{3})?")
EXAMPLE = "12.50"


@dataclass(frozen=True, slots=True)
class Money:
    """`minor` minor units of `currency`, three capital letters; below zero where it is brought back."""

    minor: int
    currency: str

    @classmethod
    def of(cls, amount: float | Decimal | Fraction, currency: str) -> "Money":
        """The sum of so many of the currency's main unit, rounded half-even to the nearest minor unit."""
        exact = Fraction(str(amount)) if isinstance(amount, float) else Fraction(amount)
        return cls(round(exact * 10 ** decimals_of(currency)), currency)

    @property
    def plain(self) -> str:
        """The sum with its currency's decimals and nothing else, as files carry it: `-12.50`."""
        decimals = decimals_of(self.currency)
        digits = str(abs(self.minor)).rjust(decimals + 1, "0")
        whole, rest = (digits[:-decimals], f".{digits[-decimals:]}") if decimals else (digits, "")
        return f"{'-' if self.minor < 0 else ''}{whole}{rest}"

    def __str__(self) -> str:
        return f"{self.plain.replace('-', MINUS)}{SPACE}{self.currency}"

    def __add__(self, other: "Money") -> "Money":
        """Both together; ValueError where they are not of one currency."""
        if self.currency != other.currency:
            raise ValueError(f"{self} and {other} are not of one currency")
        return Money(self.minor + other.minor, self.currency)

    def __neg__(self) -> "Money":
        return Money(-self.minor, self.currency)


def parse_money(field: str, text: str, usual_currency: str) -> Money | None:
    """The sum typed, `12.50`, `12,5 EUR`; None where nothing was. DimensionError for anything else."""
    typed = text.replace(SPACE, " ").strip()
    if not typed:
        return None
    found = _TYPED.fullmatch(typed)
    currency = (found["currency"] or usual_currency).upper() if found else ""
    if not found or not is_currency(currency):
        raise DimensionError(field, f"“{typed[:40]}”", "", f"a sum such as {EXAMPLE} or {EXAMPLE} EUR")
    decimals, cents = decimals_of(currency), found["cents"] or ""
    if len(cents.rstrip("0")) > decimals:
        limit = f"a sum in {currency}, which has {decimals or 'no'} decimals"
        raise DimensionError(field, f"“{typed[:40]}”", "", limit)
    digits = found["sum"] + cents[:decimals].ljust(decimals, "0")
    return Money(int(digits), currency)
