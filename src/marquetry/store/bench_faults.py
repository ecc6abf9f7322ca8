"""What may not be in a workshop brought in, of bench and proofs: entries that no page could show."""

import json
import math
from collections.abc import Callable, Mapping

from marquetry.core.bench.clock import LONGEST_TIMER_MINUTES
from marquetry.core.fit.model import Model
from marquetry.core.sheet.entries import Json
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import SheetError
from marquetry.store.proofs import LONGEST_RESULT, LONGEST_SERIES

BenchRow = dict[str, Json]
LATEST_MS = 253_402_300_799_000
"""The last second of the year 9999."""
FURTHEST_MM = 1000.0


def _entry(_: Model, row: BenchRow) -> None:
    if not isinstance(row["at_ms"], int) or not 0 <= row["at_ms"] <= LATEST_MS:
        raise SheetError("at_ms", "milliseconds since 1970")
    most = LONGEST_TIMER_MINUTES if row["what"] == "timer" else FURTHEST_MM
    for key in ("value", "u"):
        if row[key] is not None and not (math.isfinite(row[key]) and abs(row[key]) <= most):
            raise SheetError(key, f"a number of at most {most:g}")
    detail = json.loads(row["detail"])
    opens = detail.get("opens", []) if isinstance(detail, dict) else None
    if not isinstance(opens, list) or not all(isinstance(step, str) for step in opens):
        raise SheetError("detail", "an object whose `opens` names steps")


def _lesson(_: Model, row: BenchRow) -> None:
    parse_day("day", row["day"])


def _proof(_: Model, row: BenchRow) -> None:
    if not isinstance(row["at_ms"], int) or not 0 <= row["at_ms"] <= LATEST_MS:
        raise SheetError("at_ms", "milliseconds since 1970")
    if not isinstance(json.loads(row["result"]), dict):
        raise SheetError("result", "an object")
    for key, longest in (("result", LONGEST_RESULT), ("series", LONGEST_SERIES)):
        if len(row[key]) > longest:
            raise SheetError(key, f"{longest} letters at most")


BENCH_FAULTS: Mapping[str, Callable[[Model, BenchRow], None]] = {
    "bench_entry": _entry, "lesson": _lesson, "proof": _proof,
}  # fmt: skip
"""By table what is wrong with a row, told as SheetError or DimensionError."""
