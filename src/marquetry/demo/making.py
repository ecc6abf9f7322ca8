"""What the demo workshop has made so far: holders printed again and again, blanks cut, finishes tried.

`making.jsonl` holds a version, a batch or a trial a line, in the order in which they came.
"""

import json
from collections.abc import Mapping
from importlib.resources import files

from marquetry.core.making.batch import FinishTrial
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.version import AskedSize, PrintedBy
from marquetry.core.sheet.entries import Json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.money import USUAL_CURRENCY, Money
from marquetry.store import blanks, made, trials
from marquetry.store.database import Connection


def make_parts(connection: Connection, numbers: Mapping[str, int]) -> None:
    """Note all of it; `numbers` are the watches by their names among the demo's sheets."""
    for line in files("marquetry.demo").joinpath("making.jsonl").read_text("utf-8").splitlines():
        row = json.loads(line)
        watch = numbers[row["watch"]]
        if "part" in row:
            _version(connection, watch, row)
        elif "batch" in row:
            _batch(connection, watch, row)
        else:
            kind, what, layers, blank, did, chosen = row["trial"]
            trial = FinishTrial(
                kind=kind,
                what=what,
                layers=layers,
                blank=blank,
                did=did,
                is_chosen=bool(chosen),
                at=row["at"],
                blank_id=_blank(connection, watch, row.get("on")),
            )
            trials.add_trial(connection, watch, trial)


def _batch(connection: Connection, watch: int, row: dict[str, Json]) -> None:
    """A batch as it was bought, then stage by stage and what became of each, by the blanks' numbers."""
    number = blanks.add_batch(connection, watch, row["batch"], row["wanted"], row["at"])
    ids = blanks.add_blanks(connection, watch, number, row["bought"], row["at"])
    for stage, which, cost, at in row["stages"]:
        paid = Money(cost, USUAL_CURRENCY) if cost else None
        blanks.through(connection, watch, number, [ids[n - 1] for n in which], stage, paid, at)
    for state, which, stage, why, at in row["became"]:
        blanks.become(connection, watch, number, [(ids[n - 1], 1) for n in which], state, stage, why, at)


def _blank(connection: Connection, watch: int, number: int | None) -> int | None:
    """The workshop's number of a blank of the watch's first batch."""
    if number is None:
        return None
    return blanks.batches_of(connection, watch)[0].blanks[number - 1].id


def _version(connection: Connection, watch: int, row: dict[str, Json]) -> None:
    asked = {path: AskedSize(*told) for path, told in row["asked"].items()}
    by = PrintedBy(row["printer"], row["material"], PrintSetting(layer=row["layer"]))
    number = made.add_version(connection, watch, 1, row["part"], asked, by, at=row["at"])
    measured = {path: Dimension(value, 0.02, Source.MEASURED) for path, value in row["measured"].items()}
    made.measure_version(connection, made.version_of(connection, watch, number), measured, 1)
    version = made.version_of(connection, watch, number)
    told = (row["state"], row["notes"], row["minutes"], Money(row["cost"], USUAL_CURRENCY))
    made.tell_version(connection, version, *told, version.version)
