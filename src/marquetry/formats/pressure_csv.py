"""A dry test's series, `time_s,pressure_bar,deflection_um`, a reading a row; and its result as a document."""

import math
from collections.abc import Sequence

from marquetry.core.proving.pressure import Hold, PressureReading
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import SheetError

COLUMNS = "time_s,pressure_bar,deflection_um"
MOST_BYTES = 4_000_000
MOST_ROWS = 100_000


def read_series(raw: bytes) -> list[PressureReading]:
    """The readings of a file. SheetError with the line's number where one is none, or there are none."""
    if len(raw) > MOST_BYTES:
        raise SheetError("the series", f"a file of {MOST_BYTES // 1_000_000} MB at most")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise SheetError("the series", f"a text file with rows of {COLUMNS}") from error
    lines = [(at, line.strip()) for at, line in enumerate(text.splitlines(), 1)]
    lines = [(at, line) for at, line in lines if line and not line.startswith("#")]
    if lines and [word.strip() for word in lines[0][1].split(",")] == COLUMNS.split(","):
        lines = lines[1:]
    if not lines:
        raise SheetError("the series", f"rows of {COLUMNS}; there are none")
    if len(lines) > MOST_ROWS:
        raise SheetError("the series", f"{MOST_ROWS} rows at most")
    return [_reading(at, line) for at, line in lines]


def _reading(at: int, line: str) -> PressureReading:
    try:
        numbers = [float(word) for word in line.split(",")]
    except ValueError:
        numbers = []
    if len(numbers) != len(COLUMNS.split(",")) or not all(math.isfinite(number) for number in numbers):
        raise SheetError(f"line {at}", f"three finite numbers, {COLUMNS}", f"“{line[:40]}”")
    return PressureReading(*numbers)


def series_text(readings: Sequence[PressureReading], comments: Sequence[str] = ()) -> str:
    """The readings as a file."""
    rows = [f"{each.time:g},{each.pressure:g},{each.deflection:g}" for each in readings]
    return "\n".join([*(f"# {words}" for words in comments), COLUMNS, *rows, ""])


def hold_document(found: Hold) -> dict[str, Json]:
    """The result as `marquetry pressure --json` prints it."""
    return {
        "verdict": found.verdict,
        "held_bar": found.held,
        "hold_s": found.seconds,
        "loss_per_min": found.loss,
        "u": found.u,
        "deflection_um": found.deflection,
    }
