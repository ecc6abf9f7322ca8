"""Every page of a workshop ten times as large as the demo, and what a start costs."""

import json
import statistics
import subprocess
import sys
import time
from pathlib import Path

from starlette.testclient import TestClient

from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.e2e.pages import PAGES
from tests.strategies import MODEL
from tests.tenfold import grow

BAR_MS = 100.0
ROUNDS, STARTS = 9, 5
TOLD = 12
"""Pages that are told one by one, the slowest first; of the others only how many there are."""


def bench_tenfold(folder: Path) -> None:
    """Pages that were seen once before: the first after a start reads its watches, and is told apart."""
    database = folder / "tenfold.sqlite3"
    size = grow(database)
    spent: dict[str, float] = {}
    first: dict[str, float] = {}
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for address in (each for every in PAGES.values() for each in every if each.startswith("/")):
            start = time.perf_counter()
            assert client.get(address).status_code == 200, address
            first[address] = (time.perf_counter() - start) * 1000
            spent[address] = statistics.median(_times(client, address))
    ranked = sorted(spent, key=lambda address: -spent[address])
    for address in ranked[:TOLD]:
        tell(f"tenfold {address}", spent[address], "ms", bar=BAR_MS, first=first[address],
             ratio=spent[address] / nothing)  # fmt: skip
    over = sum(each > BAR_MS for each in spent.values())
    tell("tenfold_pages_over_the_bar", over, "pages", of=len(spent), bare_ms=nothing, **size)


def _times(client: TestClient, address: str) -> list[float]:
    found = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        client.get(address)
        found.append((time.perf_counter() - start) * 1000)
    return found


FIRST_PAGE = """
import sys, time
start = time.perf_counter()
from pathlib import Path
from starlette.testclient import TestClient
from marquetry.core.fit.model import usual_model
from marquetry.store.database import open_workshop
from marquetry.web.site.app import create_app
database, model = Path(sys.argv[1]), usual_model()
open_workshop(database, model)
with TestClient(create_app(database, model), base_url="http://127.0.0.1") as client:
    assert client.get("/").status_code == 200
print(time.perf_counter() - start)
"""


def bench_start(database: Path) -> None:
    """From a new process to the demo's first page; bare is a process that imports the framework alone."""
    bare = "import time; start = time.perf_counter(); import fastapi; print(time.perf_counter() - start)"
    for_page = [_printed(FIRST_PAGE, str(database)) for _ in range(STARTS)]
    for_bare = [_printed(bare) for _ in range(STARTS)]
    spent, base = statistics.median(for_page), statistics.median(for_bare)
    tell("start_to_first_page", spent, "s", bare_s=base, ratio=spent / base, least=min(for_page))


def _printed(program: str, *arguments: str) -> float:
    done = subprocess.run(
        [sys.executable, "-c", program, *arguments], check=True, capture_output=True, text=True
    )
    return float(json.loads(done.stdout))
