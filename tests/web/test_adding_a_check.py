"""The examples in the guides, added as they stand there, show up everywhere by themselves."""

import json
import re
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.report import report_on
from marquetry.core.section.body import Drawn
from marquetry.core.section.extent import part_bodies
from marquetry.core.section.stations import Z_STATIONS
from marquetry.core.sheet.described.looks import COLOUR, MATERIAL, NAME
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.schema import Group, PlainRing, Quantity
from marquetry.core.sheet.ways import JAWS, OUTSIDE, SOFT
from marquetry.core.values.limits import Limits
from marquetry.demo.workshop import make_demo
from marquetry.drawing.part_thumb import part_thumb
from marquetry.drawing.scene import Dot
from marquetry.formats import build_sheet
from marquetry.formats.findings_table import table_of
from marquetry.web.site.app import create_app
from tests.strategies import MODEL, case, case_build

DOCS = Path(__file__).parents[2] / "docs"


def example(document: str, names: dict[str, Any]) -> Any:
    """The first example in a guide, as Python."""
    found = re.search(r"```python\n(.*?)```", (DOCS / document).read_text("utf-8"), re.DOTALL)
    assert found
    return eval(found[1].strip().rstrip(","), names)  # noqa: S307  # our own document


def test_the_documented_check_follows_into_page_drawing_rules_and_table(tmp_path: Path) -> None:
    names = {"FormulaCheck": FormulaCheck, "Limits": Limits, "Span": Span, "Words": Words}
    check = example("adding-a-check.md", names)
    model = MODEL.with_check(check)
    make_demo(tmp_path / "demo.sqlite3", model)
    with TestClient(create_app(tmp_path / "demo.sqlite3", model), base_url="http://127.0.0.1") as client:
        page = client.get(f"/watches/1?check={check.name}").text
        assert f'title="{check.title}: clash"' in page
        assert f'id="rail-{check.name}"' in page
        assert 'id="tray-crystal_gasket-wall-value"' in page
        assert check.title in client.get("/rules?family=more").text
        findings = client.get("/watches/1/findings.json").json()["findings"]
        assert findings[check.name]["value"] == pytest.approx(-0.1)
    build, rules = case_build(1), model.rules()
    assert check.title in table_of(build, report_on(build, rules))
    missing = report_on(build.without("crystal_gasket.wall"), rules).findings[check.name].missing
    assert missing == ("crystal_gasket.wall",)


PART_NAMES = {
    "COLOUR": COLOUR,
    "MATERIAL": MATERIAL,
    "NAME": NAME,
    "JAWS": JAWS,
    "OUTSIDE": OUTSIDE,
    "SOFT": SOFT,
    "Group": Group,
    "PlainRing": PlainRing,
    "Quantity": Quantity,
}
DAMPER_CHECK = FormulaCheck(
    name="damper_room",
    title="Damper in the back",
    limits=Limits(0.1, None),
    formula=lambda r: r["case_back.lip_inner_diameter"] - r["back_damper.outer_diameter"],
    words=Words(means="How much narrower the damper is than the back.", below="It creases.", helps=()),
)


def test_the_documented_part_follows_into_sheet_drawing_page_shelf_and_checks(tmp_path: Path) -> None:
    part = example("adding-a-part.md", PART_NAMES)
    model = MODEL.with_part(part).with_check(DAMPER_CHECK)
    key = part.key
    bare = build_sheet.loads(json.dumps(case(1)["build"]).encode(), model.anatomy)
    rules = model.rules()
    assert report_on(bare, rules).findings["damper_room"].verdict.value == "skipped"
    document = {"name": "Soft ring", "inner_diameter": {"value": 18.0}, "outer_diameter": {"value": 26.0}}
    worn = bare.with_entry(key, document)
    assert "back_damper.thickness" not in worn.dimensions

    (body,) = part_bodies(worn, rules, key)
    floor = float(Z_STATIONS["back_inner"](Drawn(worn, rules)))
    assert {r for r, _ in body.outline} == {9.0, 13.0}
    assert {round(z - floor, 9) for _, z in body.outline} == {0.0, 0.4}
    assert body.assumed_labels == ("Back damper, thickness",)
    thumb = part_thumb(Part.of(model.anatomy.kind(key), document), rules)
    assert not any(isinstance(mark, Dot) for mark in thumb.walk()), "a sign stands for it"
    assert "Damper in the back" in table_of(worn, report_on(worn, rules))

    make_demo(tmp_path / "demo.sqlite3", model)
    with TestClient(create_app(tmp_path / "demo.sqlite3", model), base_url="http://127.0.0.1") as client:
        version = {"version": "1"}
        client.post("/watches/1/parts", data={**version, "path": key})
        assert 'name="path" value="back_damper.thickness"' in client.get(f"/watches/1/parts/{key}").text
        assert "Back damper" in client.get("/watches/1/parts").text
        assert "Back damper" in client.get("/shelf").text
        assert "back_damper" in client.get("/watches/1/sheet.json").text
