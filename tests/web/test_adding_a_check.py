"""The example in docs/adding-a-check.md, added as it stands there, shows up everywhere by itself."""

import re
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from marquetry.core.fit.checks import CHECK_BY_NAME, CHECKS, FAMILIES
from marquetry.core.fit.checks.check import Check, Span, Words
from marquetry.core.values.limits import Limits
from marquetry.formats.findings_table import table_of
from tests.strategies import case_build

DOCUMENT = Path(__file__).parents[2] / "docs" / "adding-a-check.md"


def test_the_documented_example_follows_into_page_drawing_rules_and_table(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    found = re.search(r"```python\n(.*?)```", DOCUMENT.read_text("utf-8"), re.DOTALL)
    assert found
    names = {"Check": Check, "Limits": Limits, "Span": Span, "Words": Words}
    check = eval(found[1].strip().rstrip(","), names)  # noqa: S307  # our own document
    monkeypatch.setitem(CHECK_BY_NAME, check.name, check)
    monkeypatch.setattr("marquetry.core.fit.report.CHECKS", (*CHECKS, check))
    families = (*FAMILIES, ("Example", (check,)))
    for place in ("fit_page", "routes.house", "routes.trial"):
        monkeypatch.setattr(f"marquetry.web.{place}.FAMILIES", families)
    page = client.get(f"/watches/1?check={check.name}").text
    assert f'aria-label="{check.title}: clash"' in page
    assert f'id="rail-{check.name}"' in page
    assert 'id="tray-crystal_gasket-wall"' in page
    assert check.title in client.get("/rules").text
    assert client.get("/watches/1/findings.json").json()["findings"][check.name]["value"] == pytest.approx(
        -0.1
    )
    from marquetry.core.fit.report import report_on  # noqa: PLC0415  # after the patch above

    build = case_build(1)
    assert check.title in table_of(build, report_on(build))
    missing = report_on(build.without("crystal_gasket.wall")).findings[check.name].missing
    assert missing == ("crystal_gasket.wall",)
