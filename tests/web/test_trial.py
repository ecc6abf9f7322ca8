"""What-if and variants: nothing stored until kept, shared by address, compared column by column."""

import json
from typing import Any
from urllib.parse import quote

import pytest
from lxml import html
from starlette.testclient import TestClient

LIVE = {"Marquetry-Fragment": "1"}
SPACER = [["spacers", [{"side": "dial", "thickness": {"value": 0.74, "tol": 0.02, "source": "measured"}}]]]
BEHIND = [
    ["spacers", [{"side": "movement", "thickness": {"value": 0.74, "tol": 0.02, "source": "measured"}}]]
]


def parsed(text: str) -> Any:
    return html.fromstring(text)


def trial(edits: object) -> str:
    return f"?try={quote(json.dumps(edits))}"


def findings(client: TestClient, query: str = "") -> Any:
    return client.get(f"/watches/2/findings.json{query}").json()["findings"]


def stored(client: TestClient) -> Any:
    return client.get("/watches/2/sheet.json").json()


def test_a_trial_is_computed_everywhere_and_stored_nowhere(client: TestClient) -> None:
    before = stored(client)
    page = client.get(f"/watches/2{trial(SPACER)}")
    assert "Trying; nothing is stored" in page.text
    assert "Spacers: none → side dial, thickness 0.74" in page.text
    assert findings(client, trial(SPACER))["stem_height"]["verdict"] == "clear"
    assert "Spacer 1" in client.get(f"/watches/2/plate.svg{trial(SPACER)}").text
    assert stored(client) == before
    assert findings(client)["stem_height"]["verdict"] == "clash"


def test_edits_in_a_trial_add_up_in_the_address(client: TestClient) -> None:
    form = {"version": "1", "path": "dial.thickness", "value": "0.45", "tol": "0.01", "place": "tray"}
    answer = client.post(f"/watches/2/entries{trial(SPACER)}", data=form)
    edits = json.loads(answer.url.params["try"])
    assert {path for path, _ in edits} == {"spacers", "dial.thickness"}
    assert stored(client)["parts"]["dial"]["thickness"]["value"] == 0.4
    live = client.post(f"/watches/2/entries{trial(SPACER)}", data=form, headers=LIVE)
    query = parsed(f"<div>{live.text}</div>").get_element_by_id("tray").get("data-query")
    assert "dial.thickness" in query
    assert client.get("/watches/2").text.count("Saved, version 1") == 1


def test_a_trial_has_sliders_and_a_stored_watch_has_none(client: TestClient) -> None:
    def sliders(query: str) -> Any:
        return parsed(client.get(f"/watches/2{query}").text).xpath("//input[@type='range']")

    assert sliders("") == []
    found = {s.get("data-slide"): s for s in sliders(trial([]) + "&check=stem_height")}
    slider = found["tray-case-seat_to_tube-value"]
    assert [slider.get(key) for key in ("min", "max", "step", "value")] == ["1.9", "3.9", "0.01", "2.90"]


def test_what_was_tried_is_kept_and_can_be_undone(client: TestClient) -> None:
    client.post(f"/watches/2/kept{trial(SPACER)}", data={"version": "1"})
    assert findings(client)["stem_height"]["verdict"] == "clear"
    page = client.get("/watches/2").text
    assert "tried and kept: Spacers: none → side dial, thickness 0.74" in page
    client.post("/watches/2/undo", data={"version": "2"})
    assert findings(client)["stem_height"]["verdict"] == "clash"


def test_keeping_a_trial_on_an_older_version_is_refused(client: TestClient) -> None:
    client.post(f"/watches/2/kept{trial(SPACER)}", data={"version": "1"})
    assert client.post(f"/watches/2/kept{trial(BEHIND)}", data={"version": "1"}).status_code == 409


def test_variants_stand_side_by_side_with_differences_marked(client: TestClient) -> None:
    assert "Nothing to compare with yet" in client.get("/watches/2/compare").text
    for name, edits in (("Dial side", SPACER), ("Behind", BEHIND)):
        client.post(f"/watches/2/variants{trial(edits)}", data={"version": "1", "name": name})
    page = parsed(client.get("/watches/2/compare").text)
    assert page.xpath("//*[@class='compare-name']/text()") == ["Night Ferry", "Dial side", "Behind"]
    rows = {
        row.xpath("./th")[0].text_content().replace("(differs)", "").strip(): [
            cell.text_content().split()[0] for cell in row.xpath("./td")
        ]
        for row in page.xpath("//tr[contains(@class, 'differs')]")
    }
    assert rows["Stem against tube"] == ["clash", "clear", "clear"]
    assert rows["Room for the hands"] == ["clear", "clear", "clash"]
    assert "Dial in its bore" not in rows


def test_a_variant_becomes_the_watch_or_is_removed(client: TestClient) -> None:
    client.post(f"/watches/2/variants{trial(SPACER)}", data={"version": "1", "name": "Dial side"})
    page = parsed(client.get("/watches/2/compare").text)
    take, remove = page.xpath("//thead//form/@action")
    client.post(take, data={"version": "1"})
    assert findings(client)["stem_height"]["verdict"] == "clear"
    assert stored(client)["name"] == "Night Ferry"
    assert client.post(remove).status_code == 200
    assert "Nothing to compare with yet" in client.get("/watches/2/compare").text
    assert client.post(take, data={"version": "2"}).status_code == 404


def test_a_fifth_column_is_refused(client: TestClient) -> None:
    answers = [
        client.post(f"/watches/2/variants{trial(SPACER)}", data={"version": "1", "name": f"V{n}"})
        for n in range(4)
    ]
    assert [answer.status_code for answer in answers] == [200, 200, 200, 422]
    assert "at most 3" in answers[3].text


@pytest.mark.parametrize(
    "text", ["x", "3", "[[1]]", "[" * 9000, '[["sundial", 1]]', '[["dial.thickness", -1]]']
)
def test_a_trial_that_cannot_be_read_is_a_clear_page(client: TestClient, text: str) -> None:
    answer = client.get("/watches/2", params={"try": text})
    assert answer.status_code in {404, 422}
    assert "Back to the bench" in answer.text


def test_the_findings_are_described_in_openapi(client: TestClient) -> None:
    described = client.get("/openapi.json").json()
    keys = set(described["components"]["schemas"]["FindingModel"]["properties"])
    assert keys <= set(findings(client)["stem_height"])
    assert "/watches/{watch_id}/findings.json" in described["paths"]
