"""A sum of money: whole hundredths of one currency. No rates are applied anywhere."""

import re
from dataclasses import dataclass

from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import SPACE

USUAL_CURRENCY = "EUR"
"""The currency of a sum that names none."""
_TYPED = re.compile(r"(?P<sum>\d{1,7})(?:[.,](?P<cents>\d{1,2}))?\s*(?P<currency>[A-Za-z]{3})?")


@dataclass(frozen=True, slots=True)
class Money:
    """`minor` hundredths of `currency`, three capital letters."""

    minor: int
    currency: str

    @classmethod
    def of(cls, amount: float, currency: str) -> "Money":
        """The sum of so many of the currency's main unit, to the nearest hundredth."""
        return cls(round(100 * amount), currency)

    def __str__(self) -> str:
        return f"{self.minor // 100}.{self.minor % 100:02d}{SPACE}{self.currency}"


def parse_money(field: str, text: str, usual_currency: str) -> Money | None:
    """The sum typed, `12.50`, `12,5 EUR`; None where nothing was. DimensionError for anything else."""
    typed = text.replace(SPACE, " ").strip()
    if not typed:
        return None
    found = _TYPED.fullmatch(typed)
    currency = (found["currency"] or usual_currency).upper() if found else ""
    if not found or not currency:
        raise DimensionError(field, f"“{typed[:40]}”", "", "a sum such as 12.50 or 12.50 EUR")
    cents = (found["cents"] or "").ljust(2, "0")
    return Money(int(found["sum"]) * 100 + int(cents), currency)
