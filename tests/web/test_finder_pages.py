"""The Finder's pages without a browser: searches that go on by themselves, the matrix, the shopping card."""

import csv
import io
import time
from typing import Any
from urllib.parse import parse_qs

import pytest
from starlette.testclient import TestClient

from tests.web.test_pages import LIVE, page, parsed, text

FINDER = "/watches/2/finder"


def found(client: TestClient, query: str) -> Any:
    """Start a search and wait until it is over."""
    answer = client.post(FINDER, data=parse_qs(query.removeprefix("?")))
    address = answer.url.path
    for _ in range(600):
        shown = parsed(client.get(address).text)
        if "data-over" in client.get(address, headers=LIVE).text:
            return shown if shown.xpath("//*[@id='work'][@data-over]") else parsed(client.get(address).text)
        time.sleep(0.05)
    raise TimeoutError(address)


def test_the_form_keeps_what_was_asked_and_asks_for_a_slot(client: TestClient) -> None:
    back = client.post(FINDER, data={"spacer": "0.6", "feet": "true"})
    assert back.url.path == FINDER
    assert "spacer=0.6" in str(back.url)
    shown = page(client, f"{FINDER}?slots=dial&other=true&wishes=blue")
    assert shown.xpath("//input[@name='slots'][@checked]/@value") == ["dial"]
    assert shown.xpath("//input[@name='other']/@checked")
    assert shown.xpath("//input[@name='wishes']/@value") == ["blue"]


def test_a_watch_is_completed_and_the_best_is_looked_at_and_kept(client: TestClient) -> None:
    shown = found(client, "?slots=crystal&slots=dial&spacer=1.0&feet=true")
    rows = shown.xpath("//table//tbody/tr")
    assert rows
    pays = [text(row.xpath("./td[5]")[0]) for row in rows]
    assert pays[0] == "nothing"
    look = rows[0].xpath(".//a[.='Look']/@href")[0]
    assert "Trying; nothing is stored" in client.get(look).text
    kept = client.post(look.replace("?", "/kept?", 1), data={"version": "1"})
    assert kept.status_code == 200
    findings = client.get("/watches/2/findings.json").json()["findings"]
    assert findings["stem_height"]["verdict"] != "clash"


def test_a_substitute_leaves_out_what_is_in_it_and_says_what_changes(client: TestClient) -> None:
    shown = found(client, "?slots=strap&other=true&unmeasured=true")
    names = [text(a) for a in shown.xpath("//table//ul/li/a")]
    assert names
    assert "Pass-through strap 20" not in names
    whole = found(client, "?slots=strap&unmeasured=true&wishes=waxed")
    again = [text(a) for a in whole.xpath("//table//ul/li/a")]
    assert "Pass-through strap 20" in again
    assert set(names) <= set(again)


def test_where_nothing_goes_together_the_page_says_what_to_accept(client: TestClient) -> None:
    shown = found(client, "?slots=movement&owned=true&other=true")
    assert "No combination goes together" in text(shown)
    assert "What came nearest" in text(shown)
    assert "misses by" in text(shown)
    assert "No single thing" in text(shown)
    stopped = client.get(
        f"{FINDER}/start?slots=dial&slots=hands&slots=crystal&slots=strap&slots=crown&unmeasured=true"
    )
    client.post(f"{stopped.url.path}/stopped")
    assert client.get("/finds/999").status_code == 404


@pytest.mark.parametrize("kinds", ["movement-case", "dial-movement", "hands-movement", "crystal-case"])
def test_the_matrix_shows_every_pair_and_goes_out_as_csv(client: TestClient, kinds: str) -> None:
    shown = page(client, f"/watches/2/pairs?kinds={kinds}")
    cells = shown.xpath("//table[@class='pairs-table']/tbody//td")
    rows = list(
        csv.DictReader(io.StringIO(client.get(f"/watches/2/pairs.csv?kinds={kinds}").text.lstrip("\ufeff")))
    )
    assert cells
    assert len(rows) >= len(cells)
    told = {(row[kinds.split("-", maxsplit=1)[0]], row[kinds.split("-")[1]]): row["verdict"] for row in rows}
    for cell in cells[::5]:
        names, rest = cell.get("title").split(": ", 1)
        assert told[tuple(names.split(" × "))] == rest.split(", ")[0]
    only = page(client, f"/watches/2/pairs?kinds={kinds}&only=clear").xpath(
        "//td//span[@class='hidden-words']"
    )
    assert {text(word) for word in only} <= {"clear"}
    assert client.get("/watches/2/pairs?kinds=dial-dial").status_code == 422


def test_the_shopping_card_tells_ranges_and_what_asks_for_them(client: TestClient) -> None:
    shown = text(page(client, "/watches/1/card-for/crystal_gasket"))
    assert "Crystal gasket, wall" in shown
    assert "Crystal in its gasket" in shown
    begun = client.post("/begin", data={"name": "Blank"}).url
    assert "Nothing asks for" in text(page(client, f"{begun}/card-for/rotor"))
    assert client.get("/watches/1/card-for/boiler").status_code == 404
