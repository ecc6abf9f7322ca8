"""What may not be in a workshop brought in, of its trade: sums, prices and days that no page could show."""

import json
from collections.abc import Callable, Mapping
from decimal import Decimal, InvalidOperation

from marquetry.core.fit.model import Model
from marquetry.core.sheet.entries import Json
from marquetry.core.values.currency import is_currency
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import SheetError
from marquetry.store.terms_of_trade import TradeTerms

MOST = Decimal(10) ** 12
TradeRow = dict[str, Json]


def refuse_decimal(what: str, text: Json) -> None:
    """Raise SheetError where the text is no decimal from 0 on."""
    try:
        found = Decimal(text) if isinstance(text, str) else Decimal("NaN")
    except InvalidOperation:
        found = Decimal("NaN")
    if not (found.is_finite() and 0 <= found <= MOST):
        raise SheetError(what, "a decimal from 0 on, as text", f"“{str(text)[:40]}”")


def _currency(row: TradeRow) -> None:
    if not is_currency(row["currency"]):
        raise SheetError("currency", "a currency of ISO 4217", f"“{str(row['currency'])[:10]}”")


def _supplier(_: Model, row: TradeRow) -> None:
    _currency(row)
    refuse_decimal("duty_percent", row["duty_percent"])


def _offer(_: Model, row: TradeRow) -> None:
    parse_day("seen_on", row["seen_on"])
    if row["price"] is not None:
        refuse_decimal("price", row["price"])
    for pieces, price in json.loads(row["breaks"]):
        refuse_decimal("breaks", price)
        if not isinstance(pieces, int):
            raise SheetError("breaks", "whole pieces")


def _rate(_: Model, row: TradeRow) -> None:
    _currency(row)
    parse_day("day", row["day"])
    refuse_decimal("rate", row["rate"])
    if not Decimal(row["rate"]):
        raise SheetError("rate", "more than nothing")


SETTINGS: Mapping[str, type] = {
    "home": str,
    "hours": dict,
    "spares": dict,
    "bench_days": int,
    "maker": str,
    "contact": str,
}


def _setting(_: Model, row: TradeRow) -> None:
    value = json.loads(row["value"])
    if not isinstance(value, SETTINGS.get(str(row["key"]), ())):
        raise SheetError(str(row["key"])[:40], "a setting as it is kept")
    terms = TradeTerms.of({row["key"]: value})
    counts = (*terms.hours.values(), *terms.spares.values())
    if not is_currency(terms.home) or not all(isinstance(n, int) and 0 <= n <= MOST for n in counts):
        raise SheetError(str(row["key"])[:40], "what can be reckoned with")


def _order(_: Model, row: TradeRow) -> None:
    _currency(row)
    for key in ("day", "due", "at_worst"):
        parse_day(key, row[key])
    for key in ("duty_percent", "tax_percent"):
        refuse_decimal(key, row[key])


def _line(_: Model, row: TradeRow) -> None:
    refuse_decimal("price", row["price"])


def _day(_: Model, row: TradeRow) -> None:
    parse_day("day", row["day"])


def _booking(_: Model, row: TradeRow) -> None:
    _currency(row)
    parse_day("day", row["day"])


TOLD = {"lines", "count", "each", "total", "deposit", "rest", "valid_until", "included", "maker", "watch"}
"""What a quote that was told has; its page shows each."""


def _quote(_: Model, row: TradeRow) -> None:
    parse_day("day", row["day"])
    told = json.loads(row["told"])
    pairs = told.get("lines") if isinstance(told, dict) else None
    if not isinstance(pairs, list) or not told.keys() >= TOLD:
        raise SheetError("told", f"a quote with {', '.join(sorted(TOLD))}")
    if not all(isinstance(pair, list) and len(pair) == 2 for pair in pairs):  # noqa: PLR2004  # words and sum
        raise SheetError("told.lines", "pairs of words and a sum")


TRADE_FAULTS: Mapping[str, Callable[[Model, TradeRow], None]] = {
    "supplier": _supplier,
    "offer": _offer,
    "rate": _rate,
    "trade_setting": _setting,
    "supply_order": _order,
    "supply_line": _line,
    "supply_step": _day,
    "booking": _booking,
    "quote": _quote,
    "series_number": _day,
    "stock_taking": _day,
}
"""By table what is wrong with a row, told as SheetError or DimensionError."""
