"""Measures what the issues set bars for: `make bench` prints one JSON line for each figure.

Ratios are against a bare baseline taken in the same run, so that a slow machine shows on both sides.
"""

import csv
import gzip
import json
import re
import resource
import statistics
import time
import tracemalloc
from collections.abc import Callable
from io import BytesIO
from itertools import islice
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from fastapi import FastAPI
from starlette.responses import HTMLResponse
from starlette.testclient import TestClient

from marquetry.core.face.face import seen_face
from marquetry.core.finder.candidates import Slot
from marquetry.core.finder.pairs import pair_table
from marquetry.core.finder.search import Search
from marquetry.core.fit.report import Report
from marquetry.core.fit.sampling import SAMPLES
from marquetry.core.sheet.build import Build
from marquetry.demo.workshop import demo_builds, make_demo
from marquetry.drawing.face.face_scene import by_day
from marquetry.drawing.plate import plate
from marquetry.drawing.sheet import Display
from marquetry.drawing.svg import to_svg
from marquetry.store import imports as shelf_import
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.web.site.app import create_app
from tests.many_parts import many_slots
from tests.strategies import ANATOMY, MODEL, case_build, report_on, rules

LIVE = {"Marquetry-Fragment": "1"}
WIRE_BAR_KB = 250


def median_ms(work: Callable[[], object], rounds: int = 60) -> float:
    """Median wall time of one call, after three calls to warm up."""
    for _ in range(3):
        work()
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def tell(figure: str, value: float, unit: str, **more: float) -> None:
    rounded = {key: round(number, 2) for key, number in more.items()}
    print(json.dumps({"figure": figure, "value": round(value, 2), "unit": unit, **rounded}), flush=True)


def bench_core() -> None:
    """The report of the worked case with four hands, against a bare draw and minimum of as many samples."""
    build = case_build(10)
    generator = np.random.default_rng(1)
    rows = generator.standard_normal((25, SAMPLES))
    slopes = generator.standard_normal((120, 25))
    bare = median_ms(lambda: (slopes @ rows).min(axis=0))
    report = median_ms(lambda: report_on(build))
    tell("report_four_hands", report, "ms", bar=20, bare_numpy_ms=bare, ratio=report / bare)
    for watch in demo_builds(ANATOMY):
        both = median_ms(lambda watch=watch: to_svg(plate(watch, report_on(watch), Display())))  # type: ignore[misc]
        tell(f"report_and_section_{watch.name.lower().replace(' ', '_')}", both, "ms", bar=30)


def bare_client() -> TestClient:
    app = FastAPI()

    @app.get("/", response_class=HTMLResponse)
    def bare() -> str:
        return "<!doctype html><title>bare</title>"

    return TestClient(app)


def bench_web(database: Path) -> None:
    """Requests without a socket, against a bare application's."""
    bare = bare_client()
    baseline = median_ms(lambda: bare.get("/"))
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        for figure, address in (("page_bench", "/"), ("page_watch", "/watches/2")):
            spent = median_ms(lambda address=address: client.get(address))  # type: ignore[misc]
            tell(figure, spent, "ms", bare_ms=baseline, ratio=spent / baseline)
        version = 0

        def edit() -> None:
            nonlocal version
            version += 1
            value = f"0.{40 + version % 20}"
            form = {"version": str(version), "path": "dial.thickness", "value": value, "place": "tray"}
            assert client.post("/watches/2/entries", data=form, headers=LIVE).status_code == 200

        spent = median_ms(edit)
        tell("edit_saved_and_redrawn", spent, "ms", bar_ratio=8, bare_ms=baseline, ratio=spent / baseline)
        pages = [len(client.get(f"/watches/{number}").content) / 1000 for number in (1, 2, 3)]
        tell("watch_page_html_largest", max(pages), "kB", bar=60, least=min(pages))
        bench_wire(client)


LISTING = "Redshank dial\nSize: 28.5mm (1.122 in)\nThickness: 0.4 mm\nCentre hole: 1.95mm"


def bench_beginning(database: Path) -> None:
    """The first quarter of an hour with a watch of one's own: the slowest of its steps, each done often."""
    open_workshop(database, MODEL)
    connection = connect(database, MODEL)
    furnish(connection)
    connection.close()
    bare = bare_client()
    baseline = median_ms(lambda: bare.get("/"))
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        begun = {"start": "family:diver-40", "listing": LISTING}
        client.post("/begin", data=begun)
        versions = iter(range(1, 10_000))

        def figure() -> None:
            version = next(versions)
            form = {"version": str(version), "path": "case.dial_bore", "value": f"28.{50 + version % 30}"}
            assert client.post("/watches/1/entries", data=form, headers=LIVE).status_code == 200

        def reading() -> None:
            client.post("/begin", data=begun, follow_redirects=False)

        steps: dict[str, Callable[[], object]] = {
            "begin_page": lambda: client.get("/begin"),
            "begin_with_listing": reading,
            "listing_read": lambda: client.get("/watches/1/listing"),
            "figure_typed": figure,
            "watch_assumed": lambda: client.get("/watches/1"),
            "measure_next_assumed": lambda: client.get("/watches/1/measure"),
            "round_page": lambda: client.get("/round/watch/1"),
        }
        for name, step in steps.items():
            spent = median_ms(step, 15)
            tell(name, spent, "ms", bar=100, bare_ms=baseline, ratio=spent / baseline)


def bench_faces(database: Path) -> None:
    """A watch's face from its sheet and report to SVG; then pages of faces against the bare application's."""
    bare = bare_client()
    baseline = median_ms(lambda: bare.get("/"))
    for build in demo_builds(MODEL.anatomy):
        report = report_on(build)
        spent = median_ms(lambda build=build, report=report: face_svg(build, report))  # type: ignore[misc]
        size = len(face_svg(build, report)) / 1000
        tell(
            "face_" + build.name.lower().replace(" ", "_"),
            spent,
            "ms",
            bar=25,
            kilobytes=size,
            bar_kilobytes=60,
        )
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        for number in (1, 2, 3):
            pages = [len(client.get(f"/watches/{number}/face?show={show}").content) for show in SHOWN]
            tell(f"face_page_{number}", max(pages) / 1000, "kB", bar=60)
        shown = {
            "page_face": "/watches/2/face",
            "page_brief": "/watches/1/brief",
            "client_sheet": "/watches/2/brief/sheet.html",
            "shelf_of_dials": "/shelf?kind=dial",
            "shelf_of_gaskets": "/shelf?kind=back_gasket",
        }
        for name, address in shown.items():
            spent = median_ms(lambda address=address: client.get(address))  # type: ignore[misc]
            tell(name, spent, "ms", bar=100, bare_ms=baseline, ratio=spent / baseline)


SHOWN = ("day", "night", "wrist")


def face_svg(build: Build, report: Report) -> str:
    """The face by day as a page has it."""
    return to_svg(by_day(seen_face(build, report), build.name), defs=False)


def bench_slider(folder: Path) -> None:
    """From a slider's move to the new drawing in headless Chromium, at the 95th percentile of 60 moves.

    Bare is a shipped file asked for and one word changed, in the same browser and the same run.
    """
    from tests.e2e.conftest import make_driver  # noqa: PLC0415  # Selenium is heavy
    from tests.nursery import serve  # noqa: PLC0415  # with it

    process, address = serve(folder / "slid.sqlite3")
    driver = make_driver(folder / "profile")
    driver.set_script_timeout(60)
    try:
        driver.get(f"{address}/watches/2?try=[]&check=stem_height")
        spent, bare_spent = driver.execute_async_script(SLIDE)
    finally:
        driver.quit()
        process.terminate()
        process.wait(10)
    late, bare = (statistics.quantiles(times, n=20)[-1] for times in (spent, bare_spent))
    more = {"bare_ms": bare, "ratio": late / bare, "median_ms": statistics.median(spent)}
    tell("slider_to_drawing_p95", late, "ms", bar=60, moves=len(spent), **more)


SLIDE = """
const done = arguments[0], times = [], bare = [];
const slider = () => document.getElementById("tray-dial-thickness-slide");
// A task posted from a frame's callback runs once that frame has been laid out, painted and handed over.
const painted = (shown) => requestAnimationFrame(() => {
  const { port1, port2 } = new MessageChannel();
  port1.onmessage = shown;
  port2.postMessage(null);
});
const drawn = () => new Promise((shown) =>
  document.addEventListener("swapped", () => painted(shown), { once: true }));
(async () => {
  slider().dispatchEvent(new Event("pointerdown", { bubbles: true }));
  for (let move = 0; move < 65; move++) {
    const field = slider(), start = performance.now(), waiting = drawn();
    field.value = (0.4 + 0.01 * (move % 40)).toFixed(2);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await waiting;
    if (move >= 5) times.push(performance.now() - start);
  }
  for (let move = 0; move < 65; move++) {
    const start = performance.now();
    await (await fetch("/static/inlay.svg", { cache: "no-store" })).text();
    document.querySelector(".tray-title").lastChild.data = ` ${move}`;
    await new Promise(painted);
    if (move >= 5) bare.push(performance.now() - start);
  }
  done([times, bare]);
})();
"""


def bench_wire(client: TestClient) -> None:
    """Bytes over the wire for a first visit to a watch: page, styles, scripts, and every font it may use."""
    page = client.get("/watches/2").text
    addresses = set(re.findall(r'(?:src|href)="(/static/[^"]+)"', page))
    css = next(client.get(a).text for a in addresses if ".css" in a)
    addresses |= {f"/static/{path}" for path in re.findall(r"url\(\"?\.\./([^)\"]+)", css)}
    total = len(gzip.compress(page.encode()))
    for address in addresses:
        content = client.get(address).content
        total += len(content) if address.endswith(".woff2") else len(gzip.compress(content))
    tell("watch_page_over_the_wire", total / 1000, "kB", bar=WIRE_BAR_KB, files=len(addresses) + 1)


def many_rows(count: int) -> str:
    """A file of parts as a large shelf would be: every kind, names and notes that differ."""
    colours, notes = ("grey", "red", "white", "blue", "green"), ("spring order", "from the fair", "spare")
    lines = ["kind,name,colour,diameter,thickness,price,notes,owned"]
    for n in range(count):
        colour, note = colours[n % 5], notes[n % 3]
        lines.append(
            f"dial,{colour.title()} dial {n},{colour},{26 + n % 40 / 10:.2f}±0.02 measured,0.{35 + n % 60},"
            f"{20 + n % 50}.00 EUR,{note} {n % 997},{n % 3}"
        )
    return "\n".join(lines)


def bench_shelf(database: Path) -> None:
    """A file of 5,000 parts brought in, then shelf and search over 20,000; peak memory of the import."""
    connection = connect(database, MODEL)

    def bring_in(text: str) -> None:
        number = shelf_import.begin(connection, "bench.csv")
        shelf_import.read_in(connection, number, BytesIO(text.encode()), lambda _: None)
        shelf_import.take(connection, number, lambda _: None)

    rows = many_rows(20_000).splitlines()
    start = time.perf_counter()
    bare = sum(len(row) for row in csv.reader(rows[:5001]))
    baseline = time.perf_counter() - start
    start = time.perf_counter()
    bring_in("\n".join(rows[:5001]))
    spent = time.perf_counter() - start
    tell("import_5000_rows", spent, "s", bar=5, bare_s=baseline, ratio=spent / baseline, cells=bare)
    peaks = []
    for first in (5001, 10001):
        tracemalloc.start()
        bring_in("\n".join([rows[0], *rows[first : first + (2500 if first == 5001 else 5000)]]))
        peaks.append(tracemalloc.get_traced_memory()[1] / 1e6)
        tracemalloc.stop()
    tell("import_peak_memory", peaks[1], "MB", half_as_many_rows=peaks[0])
    bring_in("\n".join([rows[0], *rows[7501:10001], *rows[15001:]]))
    client_alone = bare_client()
    baseline_ms = median_ms(lambda: client_alone.get("/"))
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        for figure, query in (
            ("shelf_page_20000", ""), ("shelf_drawer_20000", "?kind=dial&sort=price&page=300"),
            ("shelf_search_20000", "?q=blue+spring"),
            ("shelf_filters_20000", "?kind=dial&colour=red&stock=free&by=thickness&low=0.5&sort=size"),
        ):  # fmt: skip
            spent = median_ms(lambda query=query: client.get(f"/shelf{query}"))  # type: ignore[misc]
            tell(figure, spent, "ms", bar=60, bare_ms=baseline_ms, ratio=spent / baseline_ms)


def bench_finder() -> None:
    """The 50 best watches of 1,000 parts in each of six slots; pairs at 100 and at 1,000 of each kind."""
    build = case_build(1)
    for count, bar in ((100, None), (1000, 1.0)):
        slots = many_slots(build, count)
        matrix = np.random.default_rng(1).standard_normal((count, count))
        start = time.perf_counter()
        for _ in range(15):
            np.minimum(matrix, matrix.T)
        bare = time.perf_counter() - start
        search = Search(build, rules(), slots, unmeasured_ok=True)
        start = time.perf_counter()
        found = list(islice(search.best(), 50))
        spent = time.perf_counter() - start
        assert len(found) == 50
        assert [f.key for f in found] == sorted(f.key for f in found)
        more = {} if bar is None else {"bar": bar}
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000
        tell(f"finder_50_best_of_{count}", spent, "s", **more, looked_at=search.looked_at, bare_s=bare,
             ratio=spent / bare, peak_mb=peak)  # fmt: skip
    bench_pairs(build)


def bench_pairs(build: Build) -> None:
    """The matrix at 100 and at 1,000 parts of each kind: all cells, and one row."""
    spent: dict[tuple[str, int], float] = {}
    for count in (100, 1000):
        slots = {slot.kind: slot for slot in many_slots(build, count)}
        for rows, columns in (("crystal", "case"), ("dial", "movement")):
            start = time.perf_counter()
            pair_table(build, rules(), slots[rows], slots[columns], 0.6)
            spent[rows, count] = time.perf_counter() - start
            one = Slot(rows, slots[rows].candidates[:1])
            start = time.perf_counter()
            pair_table(build, rules(), one, slots[columns], 0.6)
            spent[f"{rows}_one_row", count] = time.perf_counter() - start
    for name in ("crystal", "dial", "crystal_one_row", "dial_one_row"):
        few, many = spent[name, 100], spent[name, 1000]
        tell(
            f"pairs_{name}_1000", many, "s", at_100=few, growth=many / few, parts_growth=10, cells_growth=100
        )


def main() -> None:
    from tests.bench_import import bench_import, bench_listing  # noqa: PLC0415  # it tells by what stands here
    from tests.bench_making import bench_making  # noqa: PLC0415  # it tells by what stands here
    from tests.bench_proofs import bench_proofs  # noqa: PLC0415  # as above
    from tests.bench_rehearsal import bench_rehearsal  # noqa: PLC0415  # as above
    from tests.bench_seeing import bench_seeing  # noqa: PLC0415  # as above
    from tests.bench_steps import bench_steps  # noqa: PLC0415  # as above
    from tests.bench_story import bench_story  # noqa: PLC0415  # as above
    from tests.bench_tenfold import bench_start, bench_tenfold  # noqa: PLC0415  # as above
    from tests.bench_trade import bench_trade  # noqa: PLC0415  # as above
    from tests.bench_trust import bench_trust  # noqa: PLC0415  # as above

    bench_core()
    bench_finder()
    with TemporaryDirectory() as folder:
        database = Path(folder) / "bench.sqlite3"
        make_demo(database, MODEL)
        bench_start(database)
        bench_tenfold(Path(folder))
        bench_web(database)
        bench_faces(database)
        bench_beginning(Path(folder) / "own.sqlite3")
        bench_slider(Path(folder))
        bench_making(Path(folder), database)
        bench_trust()
        bench_trade(database)
        bench_steps(database)
        bench_proofs(database)
        bench_seeing(database)
        bench_story(database)
        bench_rehearsal(database)
        bench_shelf(database)
        bench_import(database)
    bench_listing()


if __name__ == "__main__":
    main()
