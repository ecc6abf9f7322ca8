"""The page of remedies: shown when ready, looked at as a trial, taken and undone, kept as a variant."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.money import Money
from marquetry.store import shelf, terms_of_trade
from marquetry.store.database import Connection
from tests.strategies import MODEL, case
from tests.web.test_pages import LIVE, page, parsed, text

REMEDIES = "/watches/2/remedies"


def test_the_page_comes_first_and_asks_for_the_remedies(client: TestClient) -> None:
    waiting = page(client, REMEDIES)
    assert waiting.get_element_by_id("live").get("data-load") == ""
    assert "Trying every remedy" in text(waiting)
    loaded = parsed(client.get(REMEDIES, headers=LIVE).text)
    assert "A spacer of 0.74" in text(loaded.xpath("//ol[@class='remedy-list']//h2")[0])
    assert "Rotor to case back: clear → tight" in text(loaded)
    assert "which pairs give the wanted squeeze" in text(loaded)


def test_a_remedy_is_looked_at_taken_undone_and_kept_as_a_variant(client: TestClient) -> None:
    first = page(client, f"{REMEDIES}?now=true").xpath("//li[contains(@class,'remedy-whole')]")[0]
    tried = client.get(first.xpath(".//a[.='Look']/@href")[0])
    assert "Trying; nothing is stored" in tried.text
    take, variant = first.xpath(".//form")
    client.post(take.get("action"), data={"version": "1"})
    findings = client.get("/watches/2/findings.json").json()["findings"]
    assert not [name for name, finding in findings.items() if finding["verdict"] == "clash"]
    client.post("/watches/2/undo", data={"version": "2"})
    fields = {i.get("name"): i.get("value") for i in variant.xpath(".//input")}
    compared = client.post(variant.get("action"), data=fields)
    assert "spacer of 0.74" in compared.text


def test_a_remedy_that_changes_a_rule_is_a_trial_like_any_other(client: TestClient) -> None:
    edits = json.dumps([["rules", {"stem_height": [-1, 1]}]])
    tried = client.get("/watches/2", params={"try": edits})
    assert "Rules of this watch: stem height" in tried.text
    kept = client.post("/watches/2/kept", params={"try": edits}, data={"version": "1"})
    assert kept.status_code == 200
    assert client.get("/watches/2/findings.json").json()["findings"]["stem_height"]["verdict"] == "clear"
    assert client.get("/watches/2", params={"try": '[["rules", {"stem_height": "wide"}]]'}).status_code == 422


def test_where_nothing_is_to_be_mended_the_page_says_so(client: TestClient) -> None:
    sheet = json.dumps(case(10)["build"])
    number = client.post("/sheets", files={"sheet": ("s.json", sheet)}).url.path.rsplit("/", 1)[1]
    assert "Nothing to mend" in client.get(f"/watches/{number}/remedies?now=true").text


def test_schools_are_chosen_in_the_house_rules(client: TestClient) -> None:
    client.post("/rules/schools", data={"key": "school_feet", "choice": "new_holes"})
    client.post("/rules/sets", data={"name": "cautious"})
    shown = page(client, "/rules?family=schools").xpath("//form[@class='school']//input[@checked]/@value")
    assert shown[:3] == ["spacer_dial", "new_holes", "leave_calendar"]
    assert len(shown) == len(MODEL.schools)
    assert client.post("/rules/schools", data={"key": "school_feet", "choice": "glue"}).status_code == 422
    assert client.post("/rules/schools", data={"key": "school_x", "choice": "pads"}).status_code == 404


@pytest.mark.parametrize(("number", "words"), [(2, "spoils: "), (9, "Nothing clashes")])
def test_the_command_line_tells_remedies(tmp_path: Path, number: int, words: str) -> None:
    file = tmp_path / "sheet.json"
    file.write_text(json.dumps(case(number)["build"]), "utf-8")
    command = [sys.executable, "-m", "marquetry.cli", "remedies", str(file)]
    assert words in subprocess.run(command, capture_output=True, text=True, check=True).stdout
    as_json = json.loads(
        subprocess.run([*command, "--json"], capture_output=True, text=True, check=True).stdout
    )
    assert all({"kind", "title", "patch", "mends", "worsens"} <= item.keys() for item in as_json)
    file.write_text("{", "utf-8")
    broken = subprocess.run(command, capture_output=True, text=True, check=False)
    assert (broken.returncode, "JSON" in broken.stderr) == (2, True)


RING = "Chapter ring whose underside stands 0.74 mm below the ledge, not 0.00 mm"


@pytest.mark.parametrize(
    ("drop", "home", "told"),
    [
        ((0.74, "listed"), "EUR", ["Deep ring: 12.50 EUR"]),
        ((0.75, "measured"), "EUR", ["Deep ring: 12.50 EUR"]),
        ((0.74, "listed"), "USD", ["Foreign ring: 1.00 USD"]),
        ((0.90, "listed"), "EUR", []),
        ((0.74, "assumed"), "EUR", []),
        (None, "EUR", []),
    ],
    ids=str,
)
def test_what_a_known_part_that_would_do_costs_stands_beside_its_remedy(
    client: TestClient,
    connection: Connection,
    drop: tuple[float, str] | None,
    home: str,
    told: list[str],
) -> None:
    terms_of_trade.set_terms(connection, {"home": home})
    size = dict(zip(("value", "source"), drop, strict=True)) if drop else None
    prices = {
        "Deep ring": Money(1250, "EUR"),
        "Dear ring": Money(4900, "EUR"),
        "Foreign ring": Money(100, "USD"),
    }
    for name, price in prices.items():
        document = {"name": name, **({"drop": size} if size else {})}
        part = Part.of(MODEL.anatomy.kind("chapter_ring"), document)
        shelf.add_part(connection, part, Terms(price=price))
    rows = page(client, f"{REMEDIES}?now=true&more=true").xpath("//li[contains(@class,'remedy')]")
    (row,) = [row for row in rows if text(row.xpath(".//h2")[0]).replace("\xa0", " ") == RING]
    assert [text(words) for words in row.xpath(".//*[@class='remedy-price']")] == told
