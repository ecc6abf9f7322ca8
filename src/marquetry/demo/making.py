"""What the demo workshop has made so far: holders printed again and again, blanks cut, finishes tried.

`making.jsonl` holds a version, a batch or a trial a line, in the order in which they came.
"""

import json
from collections.abc import Mapping
from importlib.resources import files

from marquetry.core.making.batch import BatchStep, FinishTrial
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.version import AskedSize, PrintedBy
from marquetry.core.sheet.entries import Json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.money import USUAL_CURRENCY, Money
from marquetry.store import batches, made
from marquetry.store.database import Connection


def make_parts(connection: Connection, numbers: Mapping[str, int]) -> None:
    """Note all of it; `numbers` are the watches by their names among the demo's sheets."""
    for line in files("marquetry.demo").joinpath("making.jsonl").read_text("utf-8").splitlines():
        row = json.loads(line)
        watch = numbers[row["watch"]]
        if "part" in row:
            _version(connection, watch, row)
        elif "batch" in row:
            number = batches.add_batch(connection, watch, row["batch"], row["wanted"], row["at"])
            for step in row["steps"]:
                batches.add_step(connection, watch, number, BatchStep(*step))
        else:
            kind, what, layers, blank, did, chosen = row["trial"]
            trial = FinishTrial(0, kind, what, layers, blank, did, bool(chosen), 1, row["at"])
            batches.add_trial(connection, watch, trial)


def _version(connection: Connection, watch: int, row: dict[str, Json]) -> None:
    asked = {path: AskedSize(*told) for path, told in row["asked"].items()}
    by = PrintedBy(row["printer"], row["material"], PrintSetting(layer=row["layer"]))
    number = made.add_version(connection, watch, 1, row["part"], asked, by, at=row["at"])
    measured = {path: Dimension(value, 0.02, Source.MEASURED) for path, value in row["measured"].items()}
    made.measure_version(connection, made.version_of(connection, watch, number), measured, 1)
    version = made.version_of(connection, watch, number)
    told = (row["state"], row["notes"], row["minutes"], Money(row["cost"], USUAL_CURRENCY))
    made.tell_version(connection, version, *told, version.version)
