"""The demo's briefs: what the clients of its watches wished, day by day, and one yes with changes after it.

`briefs.jsonl` holds a step or a sign-off a line, in the order in which they came.
"""

import json
from collections.abc import Mapping
from importlib.resources import files

from marquetry.core.brief.wish import WishState, WishStep
from marquetry.store import briefs
from marquetry.store.database import Connection


def talk_over(connection: Connection, numbers: Mapping[str, int]) -> None:
    """Note all of it; `numbers` are the watches by their names among the demo's sheets."""
    for line in files("marquetry.demo").joinpath("briefs.jsonl").read_text("utf-8").splitlines():
        row = json.loads(line)
        number = numbers[row.pop("watch")]
        if "signed" in row:
            briefs.sign(connection, number, 1, row["signed"], row["words"], row["at"])
        else:
            briefs.add_history(connection, number, WishStep(**{**row, "state": WishState(row["state"])}))
