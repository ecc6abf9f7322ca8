"""Sheets as an older version wrote what is assumed: with a tolerance by one rule for every dimension.

A sheet that is no longer readable is left as it is: it can be mended by hand, and never by a migration.
"""

import json
import sqlite3
from typing import Any

USUAL_MM, USUAL_DEG, SHARE, LEAST_MM = 0.15, 2.0, 0.1, 0.01
FUNCTION = "without_usual_tol"


def install(connection: sqlite3.Connection) -> None:
    """Let the connection's SQL call `without_usual_tol(sheet)`."""
    connection.create_function(FUNCTION, 1, without_usual_tol, deterministic=True)


def without_usual_tol(sheet: str | None) -> str | None:
    """The sheet, a JSON text, without the tolerances that the older rule gave to what is assumed."""
    if sheet is None:
        return None
    try:
        document = json.loads(sheet)
    except (ValueError, RecursionError):
        return sheet
    _strip(document)
    return json.dumps(document, ensure_ascii=False, separators=(",", ":"))


def _strip(node: Any) -> None:  # noqa: ANN401  # whatever a JSON parser returned
    if isinstance(node, dict):
        if node.get("source") == "assumed" and _is_usual(node.get("value"), node.get("tol")):
            del node["tol"]
        for inner in node.values():
            _strip(inner)
    elif isinstance(node, list):
        for inner in node:
            _strip(inner)


def _is_usual(value: Any, tol: Any) -> bool:  # noqa: ANN401  # as above
    numbers = all(isinstance(n, int | float) and not isinstance(n, bool) for n in (value, tol))
    if not numbers:
        return False
    by_rule = round(min(USUAL_MM, max(abs(value) * SHARE, LEAST_MM)), 4)
    return any(abs(tol - usual) < 1e-9 for usual in (by_rule, USUAL_MM, USUAL_DEG))  # noqa: PLR2004  # no reading is finer
