"""What may not be in a workshop brought in, of its story: fates, cards and notes that no page could show."""

import json
from collections.abc import Callable, Mapping

from marquetry.core.fit.model import Model
from marquetry.core.sheet.entries import Json
from marquetry.core.values.currency import is_currency
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import SheetError

StoryRow = dict[str, Json]


def _fate(_: Model, row: StoryRow) -> None:
    parse_day("day", row["day"])
    if (row["minor"] is None) is not (row["currency"] == ""):
        raise SheetError("minor", "a sum with its currency, or neither")
    if row["currency"] and not is_currency(row["currency"]):
        raise SheetError("currency", "a currency of ISO 4217", f"“{str(row['currency'])[:10]}”")


def _card(_: Model, row: StoryRow) -> None:
    if row["day"]:
        parse_day("day", row["day"])
    left_out = json.loads(row["left_out"])
    if not isinstance(left_out, list) or not all(isinstance(key, str) for key in left_out):
        raise SheetError("left_out", "a list of rows by their keys")


def _turn(_: Model, row: StoryRow) -> None:
    parse_day("day", row["day"])


STORY_FAULTS: Mapping[str, Callable[[Model, StoryRow], None]] = {
    "fate": _fate, "spec_card": _card, "lesson_turn": _turn,
}  # fmt: skip
"""By table what is wrong with a row, told as SheetError or DimensionError."""
