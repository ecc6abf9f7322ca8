"""What the shelf's forms send."""

from typing import Annotated

from pydantic import BaseModel, Field

from marquetry.core.trade.terms import Terms
from marquetry.core.values.money import parse_money
from marquetry.store.pieces import Stock
from marquetry.web.watch.forms import Typed


class TermsForm(BaseModel):
    """What a part costs, where it comes from, what else to remember."""

    version: Annotated[int, Field(ge=1)]
    price: Typed = ""
    supplier: Annotated[str, Field(max_length=80)] = ""
    order_link: Typed = ""
    notes: Annotated[str, Field(max_length=4000)] = ""

    def read(self, home: str) -> Terms:
        """The terms, a price without a currency in home's; DimensionError where the price is none."""
        price = parse_money("price", self.price, home)
        return Terms(self.notes.strip(), self.supplier.strip(), price, self.order_link.strip())


class StockForm(BaseModel):
    """Where a piece lies, its condition, fault, price and what it is kept for."""

    version: Annotated[int | None, Field(ge=1)] = None
    place: Annotated[str, Field(max_length=80)] = ""
    condition: Annotated[str, Field(pattern="^(new|used|worn|faulty)$")] = "new"
    fault: Typed = ""
    paid: Typed = ""
    supplier: Annotated[str, Field(max_length=80)] = ""
    kept_for: Annotated[str, Field(pattern=r"^\d{0,12}$")] = ""

    def read(self, home: str) -> Stock:
        """The stock record, a price without a currency in home's; DimensionError where the price is none."""
        return Stock(
            self.place.strip(),
            self.condition,
            self.fault.strip(),
            parse_money("paid", self.paid, home),
            self.supplier.strip(),
            int(self.kept_for) if self.kept_for else None,
        )
