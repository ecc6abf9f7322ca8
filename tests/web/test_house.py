"""House rules and instruments: set, refused, put back, and in force everywhere."""

import re
from typing import Any

import pytest
from lxml import html
from starlette.testclient import TestClient

from marquetry.core.fit.rule_sets import RULE_SETS
from marquetry.core.fit.rules import BAND_RULES, PLAIN_RULES
from tests.strategies import MODEL

LIVE = {"Marquetry-Fragment": "1"}


def parsed(text: str) -> Any:
    return html.fromstring(text)


UNDRAWN = {rule.key for rule in PLAIN_RULES} | {rule.key for rule in BAND_RULES}
"""Rules that no check judges by."""


def verdict(client: TestClient, check: str, watch: int = 1) -> str:
    return str(client.get(f"/watches/{watch}/findings.json").json()["findings"][check]["verdict"])


def chapters(client: TestClient) -> list[Any]:
    links = parsed(client.get("/rules").text).xpath("//nav[@id='chapters']/a/@href")
    return [parsed(client.get(link).text) for link in links]


def test_every_limit_is_there_once_with_its_meaning_and_a_drawing(client: TestClient) -> None:
    rules = [form for page in chapters(client) for form in page.xpath("//form[starts-with(@class, 'rule')]")]
    keys = [form.xpath("./input[@name='key']/@value")[0] for form in rules]
    bounded = {c.key for c in MODEL.checks if c.limits.low is not None or c.limits.high is not None}
    assert sorted(keys) == sorted(bounded | UNDRAWN)
    for key, form in zip(keys, rules, strict=True):
        assert "as the fit model has it" in form.text_content()
        assert form.xpath(".//*[local-name()='svg']") or key in UNDRAWN, key


def test_a_rule_tells_what_it_turns_on_the_watches_of_today(client: TestClient) -> None:
    page = parsed(client.post("/rules", data={"key": "stem_height", "low": "-0.2", "high": "0.2"}).text)
    (row,) = page.xpath("//form[@id='rule-stem_height']")
    links = row.xpath(".//*[@class='standings']/a")
    told = {re.search(r"/watches/(\d+)", a.get("href"))[1]: a.get("title") for a in links}  # type: ignore[index]  # each has one
    assert told == {number: verdict(client, "stem_height", int(number)) for number in ("1", "2", "3", "4")}
    turned = [" ".join(item.text_content().split()) for item in row.xpath(".//*[@class='turned']/li")]
    names = [client.get(f"/watches/{number}/sheet.json").json()["name"] for number in (1, 4)]
    assert turned == [f"{name}, Stem against tube: tight → clear" for name in names]
    back = client.post("/rules", data={"key": "stem_height", "low": "-0.2", "high": "0.2", "reset": "true"})
    assert "turned" not in back.text
    assert verdict(client, "stem_height") == "tight"


def test_the_script_gets_the_chapter_alone_refused_or_saved(client: TestClient) -> None:
    for low, told in (("0.9", "Back to it"), ("x", "expected a number")):
        answer = client.post("/rules", data={"key": "gap_dial", "low": low}, headers=LIVE)
        assert answer.status_code == 200
        swapped = parsed(f"<div>{answer.text}</div>").xpath("//*[@data-swap]/@id")
        assert swapped == ["chapters", "chapter"]
        assert told in answer.text


def test_a_rule_is_set_in_force_and_put_back(client: TestClient) -> None:
    assert verdict(client, "stem_height") == "tight"
    answer = client.post("/rules", data={"key": "stem_height", "low": "−0,2", "high": "0.2"})
    assert "own, 20" in answer.text
    assert verdict(client, "stem_height") == "clear"
    assert "tight" not in parsed(client.get("/").text).xpath("//li")[0].get("class")
    typed = client.post("/rules", data={"key": "stem_height", "low": "-0.1", "high": "0.10"}).text
    assert "0 differ from the fit model" in typed
    client.post("/rules", data={"key": "stem_height", "low": "-0.3", "high": "0.3"})
    client.post("/rules", data={"key": "stem_height", "low": "", "high": ""})
    assert verdict(client, "stem_height") == "tight"


@pytest.mark.parametrize(
    ("form", "told"),
    [
        ({"key": "stem_height", "low": "0.3", "high": "0.1"}, "the lower limit first"),
        ({"key": "stem_height", "low": "x"}, "expected a number"),
        ({"key": "gap_dial", "low": "-1"}, "a number from 0 to 1,000,000"),
    ],
)
def test_a_rule_that_cannot_be_is_refused_by_its_field(
    client: TestClient, form: dict[str, str], told: str
) -> None:
    answer = client.post("/rules", data=form)
    assert answer.status_code == 422
    assert told in parsed(answer.text).get_element_by_id(f"told-{form['key']}").text_content()
    assert "0 differ from the fit model" in answer.text


def test_an_unknown_rule_or_set_is_refused(client: TestClient) -> None:
    assert client.post("/rules", data={"key": "luck", "low": "1"}).status_code == 404
    assert client.post("/rules/sets", data={"name": "lucky"}).status_code == 404


@pytest.mark.parametrize("name", list(RULE_SETS))
def test_a_ready_set_is_taken_whole(client: TestClient, name: str) -> None:
    client.post("/rules", data={"key": "gap_dial", "low": "0.9"})
    answer = client.post("/rules/sets", data={"name": name})
    assert f"{len(RULE_SETS[name])} differ from the fit model" in answer.text
    assert client.get("/watches/1").status_code == 200


def test_ready_sets_name_rules_that_exist_and_can_be_read() -> None:
    limits = {c.key: c.limits for c in MODEL.checks}
    for chosen in RULE_SETS.values():
        for key in chosen:
            if key not in UNDRAWN:
                assert MODEL.rules(dict(chosen)).limits(key, limits[key]) != limits[key]


def test_a_sheets_own_rule_stands_over_the_workshops(client: TestClient) -> None:
    sheet = client.get("/watches/1/sheet.json").json() | {"rules": {"stem_height": [-0.01, 0.01]}}
    import json  # noqa: PLC0415  # only here

    number = client.post("/sheets", files={"sheet": ("s.json", json.dumps(sheet))}).url.path.rsplit("/", 1)[1]
    client.post("/rules", data={"key": "stem_height", "low": "-1", "high": "1"})
    findings = client.get(f"/watches/{number}/findings.json").json()["findings"]
    assert findings["stem_height"]["limits"] == [-0.01, 0.01]


def test_instruments_are_noted_and_removed_and_measuring_follows_them(client: TestClient) -> None:
    assert "Depth gauge" in client.get("/watches/3/next?do=movement.face_to_stem").text
    page = parsed(client.get("/rules?family=instruments").text)
    for action in page.xpath("//table//form/@action"):
        client.post(action)
    assert "Measure:" not in client.get("/watches/3/next").text
    fields = {
        "name": "Lever gauge",
        "resolution": "0.002",
        "uncertainty": "0,003",
        "ways": ["depth", "thickness"],
    }
    client.post("/instruments", data=fields)
    assert "Lever gauge" in client.get("/watches/3/next?do=movement.face_to_stem").text


@pytest.mark.parametrize(
    ("changed", "told"),
    [
        ({"ways": []}, "ways"),
        ({"uncertainty": "0"}, "uncertainty: 0"),
        ({"resolution": "fine"}, "resolution"),
    ],
)
def test_an_instrument_that_cannot_be_is_refused(
    client: TestClient, changed: dict[str, Any], told: str
) -> None:
    fields = {"name": "Odd", "resolution": "0.01", "uncertainty": "0.02", "ways": ["depth"], **changed}
    answer = client.post("/instruments", data=fields)
    assert answer.status_code == 422
    assert told in answer.text
    assert "Odd" not in client.get("/rules?family=instruments").text


def test_a_measurement_is_entered_where_it_was_proposed(client: TestClient) -> None:
    (form,) = parsed(client.get("/watches/3/next?do=movement.face_to_stem").text).xpath(
        "//form[@id='reading']"
    )
    fields = {i.get("name"): i.get("value") for i in form.xpath(".//input[@value]")}
    client.post(form.get("action"), data={**fields, "value": "2.2"})
    assert verdict(client, "stem_height", 3) != "unmeasured"
