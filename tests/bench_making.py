"""The bench's figures of made parts: solid, files, a field followed in the browser."""

import statistics
from pathlib import Path

from shapely import LineString, MultiLineString, unary_union
from starlette.testclient import TestClient

from marquetry.core.making.body import made_body
from marquetry.core.making.kernel import GRID, borders_of, cells_of, mesh_of
from marquetry.core.making.parts import MadePart, made_part
from marquetry.demo.workshop import demo_sheets
from marquetry.formats.made_files import made_files
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.strategies import ANATOMY, MODEL

FOLLOW = """
const [rounds, done] = arguments;
const times = [], canvas = document.getElementById("turning");
const shown = (last) => new Promise((yes) => {
  const look = () => (canvas.dataset.shown !== last ? yes() : setTimeout(look, 4));
  look();
});
(async () => {
  for (let round = 0; round < rounds; round += 1) {
    const field = document.getElementById("ledger-holder-face_to_rim-value");
    const last = canvas.dataset.shown;
    field.value = (5.2 + round / 50).toFixed(2);
    const start = performance.now();
    field.dispatchEvent(new Event("change", { bubbles: true }));
    await shown(last);
    times.push(performance.now() - start);
  }
  done(times);
})();
"""


def whole_holder() -> MadePart:
    """Night Ferry's holder with step, slot, tab and lugs."""
    build = demo_sheets(ANATOMY)["night-ferry"]
    for key in ("step", "slot", "lugs"):
        build = made_part("holder", build, MODEL.rules_of(build)).with_feature(key)
    return made_part("holder", build, MODEL.rules_of(build))


def bench_making(folder: Path, database: Path) -> None:
    """A holder with every feature; bare is the noding of its lines, and the bare application's answer."""
    part = whole_holder()
    solid = part.solid()
    assert solid is not None
    lines = MultiLineString([LineString(b) for step in solid.steps for b in borders_of(step.shape)])
    bare = median_ms(lambda: unary_union(lines, grid_size=GRID), 20)
    spent = median_ms(lambda: mesh_of(cells_of(solid)), 20)
    tell("holder_solid", spent, "ms", bar=150, bare_noding_ms=bare, ratio=spent / bare)
    spent = median_ms(lambda: made_files(part, made_body(part)), 8)
    tell("holder_all_files", spent, "ms", bar=1500, bare_noding_ms=bare, ratio=spent / bare)
    bare_app = bare_client()
    baseline = median_ms(lambda: bare_app.get("/"))
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        for name, address in (("page_make", ""), ("page_made", "/part/holder")):
            spent = median_ms(lambda at=f"/watches/1/make{address}": client.get(at), 15)  # type: ignore[misc]
            tell(name, spent, "ms", bar=100, bare_ms=baseline, ratio=spent / baseline)
    follow_a_field(folder)


def follow_a_field(folder: Path) -> None:
    """From a typed figure to plan, cut, report and preview in headless Chromium; bare is a plain answer."""
    from tests.e2e.conftest import make_driver  # noqa: PLC0415  # Selenium is heavy
    from tests.nursery import serve  # noqa: PLC0415  # with it

    process, address = serve(folder / "followed.sqlite3")
    driver = make_driver(folder / "followed-profile")
    driver.set_script_timeout(60)
    try:
        driver.get(f"{address}/watches/2/make/part/holder?try=[]")
        times = driver.execute_async_script(FOLLOW, 23)[3:]
        bare = driver.execute_async_script(
            """const done = arguments[0], start = performance.now();
               fetch("/watches/2/findings.json").then((a) => a.json())
                 .then(() => done(performance.now() - start))"""
        )
    finally:
        driver.quit()
        process.terminate()
        process.wait(10)
    tell(
        "made_field_followed", statistics.median(times), "ms",
        bar=300, worst=max(times), bare_findings_ms=bare, ratio=statistics.median(times) / bare,
    )  # fmt: skip
