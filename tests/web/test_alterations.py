"""Four feet and two holes: tried first, offered once read, planned, done at the bench, and taken back."""

import json
import re
import uuid
from typing import Any

import pytest
from lxml.html import fromstring
from starlette.testclient import TestClient

from tests.strategies import case_build


@pytest.fixture
def here(client: TestClient) -> str:
    """The worked case with four feet, two of them to remove, as a watch on the bench."""
    return brought(client, case_build(6).document)


def brought(client: TestClient, document: Any) -> str:
    answer = client.post("/sheets", files={"sheet": ("x.json", json.dumps(document).encode())})
    return answer.url.path


def sheet(client: TestClient, here: str) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"{here}/sheet.json").json()
    return found


def version(client: TestClient, here: str) -> str:
    found = re.search(r"Saved, version (\d+)", client.get(here).text)
    assert found
    return found[1]


def tap(client: TestClient, here: str, step: str, what: str, **more: str) -> dict[str, Any]:
    entry = {"key": uuid.uuid4().hex, "step": step, "what": what, **more}
    answer: dict[str, Any] = client.post(f"{here}/build/entries", json={"entries": [entry]}).json()
    return {**answer, "key": entry["key"]}


def read_all(client: TestClient, here: str) -> None:
    """Read every foot and hole, and the crown's place, as a caliper and a loupe would."""
    build = case_build(6)
    for path, found in build.dimensions.items():
        if path.startswith(("dial.feet", "movement.foot_holes", "case.crown_angle")):
            fields = {
                "version": version(client, here),
                "path": path,
                "value": str(found.value),
                "source": "measured",
            }
            tol = "0.02" if "angle" not in path else "0.1"
            client.post(f"{here}/entries", data={**fields, "tol": tol})


def remedies(client: TestClient, here: str) -> str:
    return client.get(f"{here}/remedies?now=true").text


def test_four_feet_are_cut_once_they_were_read_and_at_the_bench(client: TestClient, here: str) -> None:
    guessed = {
        "version": version(client, here),
        "path": "case.crown_angle",
        "value": "90",
        "source": "assumed",
    }
    client.post(f"{here}/entries", data=guessed)
    assert "Find out first" in remedies(client, here)
    assert "Lay the dial on the movement" in remedies(client, here)
    read_all(client, here)
    page: Any = fromstring(remedies(client, here))
    (row,) = [
        li for li in page.xpath("//li[contains(@class,'remedy')]") if "no hole waits for" in li.text_content()
    ]
    client.post(row.xpath(".//form")[0].get("action"), data={"version": version(client, here)})
    assert len(sheet(client, here)["parts"]["dial"]["feet"]) == 4, "taken is not done"
    assert "Take feet" in client.get(f"{here}/parts").text
    assert "remove_feet" in client.get(f"{here}/build/state.json").text
    for step, what in (("lay_out_parts", "done"), ("check_movement", "yes"), ("clean_dial", "done")):
        tap(client, here, step, what)
    done = tap(client, here, "remove_feet", "done")
    assert done["refused"] == {}
    now = sheet(client, here)
    assert len(now["parts"]["dial"]["feet"]) == 2
    assert now["alterations"][0]["done"]
    assert "feet" in client.get(f"{here}/story").text
    tap(client, here, "", "undo", undoes=done["key"])
    back = sheet(client, here)
    assert len(back["parts"]["dial"]["feet"]) == 4
    assert back["alterations"][0]["done"] is None


def test_a_planned_alteration_can_be_dropped_and_counts_no_more(client: TestClient, here: str) -> None:
    before = client.get(f"{here}/findings.json").json()["findings"]["dial_centre_hole"]
    change = {
        "path": "dial.centre_hole",
        "from": sheet(client, here)["parts"]["dial"]["centre_hole"],
        "to": 2.4,
    }
    planned = {
        "id": "a1",
        "title": "Broach the hole",
        "kind": "hole_broached",
        "changes": [change],
        "done": None,
    }
    document = {**sheet(client, here), "alterations": [planned]}
    other = brought(client, document)
    counted = client.get(f"{other}/findings.json").json()["findings"]["dial_centre_hole"]
    assert counted["value"] > before["value"] + 0.1
    assert "alter:a1" in client.get(f"{other}/build/state.json").text
    assert client.get(f"{other}/build/at/alter:a1").status_code == 200
    client.post(f"{other}/alterations/dropped", data={"version": "1", "key": "a1"})
    after = client.get(f"{other}/findings.json").json()["findings"]["dial_centre_hole"]
    assert after["value"] == before["value"]
