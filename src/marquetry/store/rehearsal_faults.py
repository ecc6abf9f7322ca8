"""What may not be in a workshop brought in, of its rehearsals: plays that no page could show."""

import json
import math
from collections.abc import Callable, Mapping

from marquetry.core.fit.model import Model
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import SheetError

RehearsalRow = dict[str, Json]


def _rehearsal(model: Model, row: RehearsalRow) -> None:
    Build(json.loads(row["sheet"]), model.anatomy)
    rules = json.loads(row["rules"])
    if not isinstance(rules, dict):
        raise SheetError("rules", "rules by their keys")
    model.rules(rules).check_all()
    for key in ("begun", "ended"):
        if row[key] or key == "begun":
            parse_day(key, row[key])


def _move(_: Model, row: RehearsalRow) -> None:
    if not math.isfinite(row["value"]):
        raise SheetError("value", "a number", str(row["value"]))


REHEARSAL_FAULTS: Mapping[str, Callable[[Model, RehearsalRow], None]] = {
    "rehearsal": _rehearsal, "rehearsal_move": _move,
}  # fmt: skip
"""By table what is wrong with a row, told as SheetError or DimensionError."""
