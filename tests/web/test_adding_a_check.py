"""The examples in the guides, added as they stand there, show up everywhere by themselves."""

import re
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.report import report_on
from marquetry.core.values.limits import Limits
from marquetry.demo.workshop import make_demo
from marquetry.formats.findings_table import table_of
from marquetry.web.site.app import create_app
from tests.strategies import MODEL, case_build

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
        assert 'id="tray-crystal_gasket-wall"' in page
        assert check.title in client.get("/rules").text
        findings = client.get("/watches/1/findings.json").json()["findings"]
        assert findings[check.name]["value"] == pytest.approx(-0.1)
    build, rules = case_build(1), model.rules()
    assert check.title in table_of(build, report_on(build, rules))
    missing = report_on(build.without("crystal_gasket.wall"), rules).findings[check.name].missing
    assert missing == ("crystal_gasket.wall",)
