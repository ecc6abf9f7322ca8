"""What a part costs, where it comes from, and what else is to be remembered of it."""

from dataclasses import dataclass

from marquetry.core.values.money import Money


@dataclass(frozen=True, slots=True)
class Terms:
    """Words as they were typed, and the price in hundredths of its currency, where there is one."""

    notes: str = ""
    supplier: str = ""
    price: Money | None = None
    order_link: str = ""
