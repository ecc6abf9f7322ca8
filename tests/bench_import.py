"""A tap at the bench while a file of parts comes in, and the longest listing that says one thing again."""

import io
import json
import time
from contextlib import closing
from pathlib import Path
from threading import Event, Thread

from marquetry.core.bench.log import LogEntry
from marquetry.core.measuring.listing.read import LONGEST_LISTING, read_listing
from marquetry.store import imports
from marquetry.store.bench_log import add_entries
from marquetry.store.database import connect
from tests.bench_pages import tell
from tests.measuring.test_kits import HOSTILE, WORKED
from tests.measuring.test_listing import REPEATED
from tests.strategies import ANATOMY, MODEL

ROWS = 8_000


def bench_import(database: Path) -> None:
    """8,000 rows read and taken, new ones and then every one changed, while somebody taps."""
    with closing(connect(database, MODEL)) as connection:
        for name, diameter in (("new", "28.50"), ("changed", "28.70")):
            lines = "".join(f"dial,Waited for {n},{diameter},0.40,1.90,black,1\n" for n in range(ROWS))
            file = io.BytesIO(f"kind,name,diameter,thickness,centre_hole,colour,owned\n{lines}".encode())
            waited: list[float] = []
            over = Event()
            thread = Thread(target=_tap, args=(database, name, waited, over))
            thread.start()
            start = time.perf_counter()
            number = imports.begin(connection, f"{name}.csv")
            imports.read_in(connection, number, file, lambda _: None)
            imports.take(connection, number, lambda _: None)
            spent = time.perf_counter() - start
            over.set()
            thread.join()
            told = {"bar": 0.5, "taps": len(waited), "import_s": spent}
            tell(f"tap_waits_for_{ROWS}_{name}_rows", max(waited), "s", **told)


def _tap(database: Path, name: str, waited: list[float], over: Event) -> None:
    with closing(connect(database, MODEL)) as own:
        while not over.wait(0.05):
            start = time.perf_counter()
            key = f"tap-{name}-{len(waited):05}"
            add_entries(own, 1, [LogEntry(key, "cut_stem", "note", 10**12, words="x")])
            waited.append(time.perf_counter() - start)


def bench_listing() -> None:
    """As many letters as are read, of whatever takes longest."""
    spent: dict[str, float] = {}
    kits = tuple(json.loads(file.read_text("utf-8"))["text"] for file in WORKED)
    for unit in (*REPEATED, *HOSTILE, "".join(kits)):
        text = (unit * (LONGEST_LISTING // len(unit) + 1))[:LONGEST_LISTING]
        start = time.perf_counter()
        read_listing(text, ANATOMY)
        spent[unit] = time.perf_counter() - start
    tell("listing_20000_letters_worst", max(spent.values()), "s", bar=1.0, of=len(spent))
