"""Figures of the bench view: a tap stored, its screens, the state another tablet asks for, steps and ledger alone.

Of the browser it tells how long a tap takes until the next screen stands, with the line there and without.
"""

import statistics
import tempfile
from collections.abc import Iterator
from itertools import count
from pathlib import Path

from starlette.testclient import TestClient

from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.situation import Situation
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.e2e.conftest import make_driver
from tests.nursery import serve
from tests.strategies import MODEL, case_build, report_on

BUILD = "/watches/1/build"
TAPS = 24


def bench_steps(database: Path) -> None:
    """Core, pages and browser."""
    situation = Situation(report_on(case_build(1)))
    tell("steps_of_a_watch", median_ms(lambda: procedure(Situation(situation.report))), "ms")
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for name, path in (
            ("build", ""),
            ("step", "/at/press_minute"),
            ("screens", "/screens"),
            ("state", "/state.json"),
        ):
            client.get(BUILD + path)
            page = median_ms(lambda path=path: client.get(BUILD + path))  # type: ignore[misc]  # a default of a lambda
            # All screens at once come behind the page's back: nobody waits for them.
            bar = {} if name == "screens" else {"bar": 100.0}
            tell(f"page_build_{name}", page, "ms", **bar, bare=nothing, times_bare=page / nothing)
        numbers = count()
        stored = median_ms(lambda: client.post(f"{BUILD}/entries", json=_tap(next(numbers))))
        tell("tap_stored", stored, "ms", bar=300, bare=nothing, times_bare=stored / nothing)
    in_browser(database)


def _tap(number: int) -> dict[str, object]:
    return {
        "entries": [{"key": f"bench-{number:06}", "step": "fit_bezel", "what": "note", "words": "measured"}]
    }


TIMED = """
const done = arguments[0], before = Bench.step, at = performance.now();
Bench.tap("skip", { words: "measured" });
requestAnimationFrame(() => setTimeout(async () => {
  const shown = performance.now() - at;
  while (Line.waiting.length || Line.sending) await new Promise((r) => setTimeout(r, 5));
  done([before !== Bench.step, shown, performance.now() - at]);
}, 0));
"""


def in_browser(database: Path) -> None:
    """From the tap to the next screen painted, and to the answer that it is on disk."""
    process, address = serve(database)
    driver = make_driver(Path(tempfile.mkdtemp()))
    try:
        driver.get(f"{address}{BUILD}/at/fit_bezel")
        driver.set_script_timeout(10)
        while not driver.execute_script("return Bench.screens.size > 50 && Bench.here"):
            pass
        shown, stored = zip(*_timed(driver), strict=True)
        tell("tap_to_next_screen", statistics.median(shown), "ms", bar=100, worst=max(shown), taps=len(shown))
        tell("tap_to_on_disk", statistics.median(stored), "ms", bar=300, worst=max(stored))
    finally:
        driver.quit()
        process.terminate()
        process.wait(10)


def _timed(driver: object) -> Iterator[tuple[float, float]]:
    for _ in range(TAPS):
        went, shown, stored = driver.execute_async_script(TIMED)  # type: ignore[attr-defined]  # selenium's driver
        assert went, "a tap must lead on"
        yield shown, stored
