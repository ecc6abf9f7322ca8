"""The shelf's pages without a browser: searching, filling a watch, parts, pieces, donors, files."""

import io
import re
import time
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from starlette.testclient import TestClient

from marquetry.store.database import open_workshop
from marquetry.web.site.app import create_app
from tests.strategies import MODEL
from tests.web.test_pages import LIVE, page, parsed, text


def slips(client: TestClient, query: str) -> list[str]:
    return [text(name) for name in page(client, f"/shelf{query}").xpath("//*[@class='slip-name']")]


@pytest.mark.parametrize(
    ("query", "expected"),
    [
        ("?q=gull+crown", ["Gull grey, crown at four"]),
        ("?q=nothing+such+part", []),
        ("?kind=dial&colour=red", ["Beacon red, date"]),
        ("?kind=dial&by=thickness&low=0,84&high=0.9", ["Green stone dial"]),
        ("?kind=dial&q=green&stock=free", ["Black tide, 24 hours"]),
        ("?kind=rotor&sort=price&page=999", 3),
        ("?kind=no+such&by=x&low=wide", []),
    ],
)
def test_the_address_says_what_is_looked_for(
    client: TestClient, query: str, expected: list[str] | int
) -> None:
    found = slips(client, query)
    assert (len(found) if isinstance(expected, int) else found) == expected


def test_drawers_keep_the_watch_and_pages_keep_the_drawer(client: TestClient) -> None:
    shown = page(client, "/shelf?for=2&q=a")
    drawers = shown.xpath("//nav[@class='drawers']/a/@href")
    assert all("for=2" in link and "q=a" in link for link in drawers)
    following = page(client, "/shelf?for=2").xpath("//a[@rel='next']/@href")[0]
    assert "page=2" in following
    assert "for=2" in following
    assert not set(slips(client, "?page=2")) & set(slips(client, ""))


def test_a_part_is_tried_put_in_and_goes_back_with_undo(client: TestClient) -> None:
    slip = page(client, "/shelf?kind=dial&for=2&q=green+stone").xpath("//li[contains(@class,'slip')]")[0]
    tried = client.get(slip.xpath(".//a[.='Try']/@href")[0])
    assert "Trying; nothing is stored" in tried.text
    assert "Green stone dial" in tried.text
    form = slip.xpath(".//form")[0]
    fields = {i.get("name"): i.get("value") for i in form.xpath(".//input")}
    put = client.post(form.get("action"), data=fields)
    assert put.url.path == "/watches/2"
    sheet = client.get("/watches/2/sheet.json").json()
    assert sheet["parts"]["dial"]["name"] == "Green stone dial"
    assert "shelf_part" not in sheet["parts"]["dial"]
    old = page(client, "/shelf?kind=dial&q=night+blue").xpath("//*[@class='slip-foot']")[0]
    assert "1 free of 1" in text(old)
    client.post("/watches/2/undo", data={"version": "2"})
    assert client.get("/watches/2/sheet.json").json()["parts"]["dial"]["name"] == "Night blue, 24 hours"


def entry(path: str, value: str, version: int = 1, **more: str) -> dict[str, str]:
    return {"version": str(version), "path": path, "value": value, "tol": "", "source": "measured", **more}


def test_a_part_is_described_edited_and_taken_off_and_put_back(client: TestClient) -> None:
    made = client.post("/shelf/parts", data={"kind": "dial", "name": "Plain test dial", "owned": "yes"})
    address = made.url.path
    assert "Pieces 1" in text(parsed(made.text).get_element_by_id("pieces"))
    live = client.post(f"{address}/entries", data=entry("dial.thickness", "0,5 ±0.01"), headers=LIVE)
    fragment = parsed(f"<div>{live.text}</div>")
    assert fragment.get_element_by_id("status").get("data-version") == "2"
    assert fragment.get_element_by_id("part-drawing").get("data-at") == "dial.thickness"
    client.post(f"{address}/things", data={"version": "2", "path": "dial.feet.-"})
    client.post(f"{address}/entries", data=entry("dial.colour", "teal", 3))
    assert slips(client, "?q=teal") == ["Plain test dial"]
    client.post(f"{address}/things/removed", data={"version": "4", "path": "dial.feet.0"})
    stale = client.post(f"{address}/entries", data=entry("dial.colour", "blue", 2))
    assert stale.status_code == 409
    client.post(f"{address}/removed")
    assert client.get(address).status_code == 404
    assert slips(client, "?q=teal") == []
    client.post(f"{address}/restored")
    assert slips(client, "?q=teal") == ["Plain test dial"]


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("dial.thickness", "thick", "a number in mm"),
        ("dial.thickness", "-1", "more than 0"),
        ("dial.diameter", "12.5", "Did you mean the diameter: 25.00"),
        ("dial.diameter", "1.122", "Did you mean inches: 28.50"),
        ("dial.diameter", "2850", "at most 200"),
        ("dial.thickness", "4", "Has the decimal point slipped: 0.40"),
    ],
)
def test_a_slip_is_asked_about_and_only_the_impossible_refused(
    client: TestClient, path: str, value: str, words: str
) -> None:
    answer = client.post("/parts/1/entries", data=entry(path, value), headers=LIVE)
    assert words in text(parsed(f"<div>{answer.text}</div>")).replace("\u00a0", " ")
    for button in parsed(f"<div>{answer.text}</div>").xpath("//button[@class='offer']")[:1]:
        taken = client.post("/parts/1/entries", data=entry(path, value, 2, offer=button.get("value")))
        shown = parsed(taken.text).get_element_by_id(f"ledger-{path.replace('.', '-')}-value")
        assert shown.get("value") == button.get("value")
        assert not parsed(taken.text).xpath("//button[@class='offer']")


def test_an_entry_of_another_part_is_not_there(client: TestClient) -> None:
    assert client.post("/parts/1/entries", data=entry("case.lug_width", "20")).status_code == 404
    assert client.get("/parts/999").status_code == 404
    assert client.get("/parts/1/card?path=case.lug_width").status_code == 404


def test_terms_and_pieces_are_kept_and_their_history_told(client: TestClient) -> None:
    client.post("/parts/1/terms", data={"version": "1", "price": "41,5 gbp", "notes": "nicer than pictured"})
    assert slips(client, "?q=nicer+pictured") == ["Gull grey, date"]
    refused = client.post("/parts/1/terms", data={"version": "2", "price": "much"})
    assert refused.status_code == 422
    assert "a sum such as 12.50" in refused.text
    stock = {"place": "Tin 4", "condition": "faulty", "fault": "edge chipped", "kept_for": "2"}
    client.post("/pieces/1", data=stock)
    client.post("/pieces/1/state", data={"state": "returned", "why": "sent back in the post"})
    told = text(page(client, "/parts/1").get_element_by_id("piece-1"))
    for words in ("returned", "edge chipped", "laid into Tin 4", "kept for a watch", "sent back in the post"):
        assert words in told
    assert client.post("/pieces/1", data={"kept_for": "999"}).status_code == 404
    assert client.post("/pieces/1", data={"paid": "much"}).status_code == 422


def photo(kind: str = "PNG") -> bytes:
    written = io.BytesIO()
    Image.new("RGB", (400, 300), "white").save(written, kind)
    return written.getvalue()


def test_a_photograph_is_shown_measured_on_and_refused_where_it_is_none(client: TestClient) -> None:
    client.post("/parts/1/photos", files={"photo": ("../../x.svg", photo())}, data={"caption": "back"})
    shown = page(client, "/parts/1").xpath("//section[@id='photos']//img/@src")[0]
    answer = client.get(shown)
    assert answer.headers["content-type"] == "image/jpeg"
    assert Image.open(io.BytesIO(answer.content)).size == (400, 300)
    refused = client.post("/parts/1/photos", files={"photo": ("x.png", b"<svg onload='x()'/>")})
    assert refused.status_code == 422
    assert "Nothing was changed" in refused.text
    marks = {"p1": "100;250", "m1": "0;0", "p2": "300;250", "m2": "20;0", "p3": "100;50", "m3": "0;20"}
    picked = {
        "photo": re.findall(r"\d+", str(shown))[0],
        "centre": "200;150",
        "place": "200;30",
        **marks,
    }
    query = {"path": "dial.feet.0.radius", **picked}
    card = client.get("/parts/1/card", params=query).text
    assert "12.000" in card
    client.post("/parts/1/card", data={**query, "version": "1"})
    feet = page(client, "/parts/1").xpath("//input[starts-with(@id,'ledger-dial-feet-0-')]")
    values = {i.get("id").split("-")[-2]: i.get("value") for i in feet if i.get("id").endswith("-value")}
    assert (values["radius"], values["angle"]) == ("12.00", "0.00")
    in_line = {**query, "p3": "200;250", "m3": "10;0"}
    assert "span an area" in client.get("/parts/1/card", params=in_line).text
    assert "two numbers" in client.get("/parts/1/card", params={**query, "place": "12"}).text
    client.post(f"/parts/1/photos/{picked['photo']}/removed")
    assert client.get(shown).status_code == 404


CARD = "/watches/2/card"


def test_readings_become_a_value_with_its_doubt_and_former_ones_come_back(client: TestClient) -> None:
    readings = {"path": "dial.thickness", "reading": ["0.44", "0.45 0.43"], "next": "0.44"}
    shown = client.get(CARD, params=readings).text
    assert "mean of 4" in text(parsed(shown))
    client.post(CARD, data={**readings, "version": "1"})
    known = client.get("/watches/2/sheet.json").json()["parts"]["dial"]["thickness"]
    assert known == {"value": 0.44, "tol": pytest.approx(0.0092, abs=2e-4), "source": "measured"}
    card = parsed(client.get(CARD, params={"path": "dial.thickness"}).text)
    history = text(card.xpath("//section[@class='former']")[0])
    assert "Micrometer0.44 0.45 0.43 0.44" in history
    former = card.xpath("//button[@name='former']/@value")[-1]
    client.post(CARD, data={"path": "dial.thickness", "version": "2", "former": former})
    assert client.get("/watches/2/sheet.json").json()["parts"]["dial"]["thickness"]["value"] == 0.40
    assert client.post(CARD, data={"path": "dial.thickness", "version": "x", "next": "1"}).status_code == 422
    assert client.post(CARD, data={"path": "dial.thickness", "version": "3"}).status_code == 422
    stale = client.post(CARD, data={"path": "dial.thickness", "version": "1", "next": "0.4"})
    assert stale.status_code == 409


@pytest.mark.parametrize(
    ("query", "words"),
    [
        ({"path": "dial.thickness", "next": "thick"}, "a number in mm"),
        ({"path": "dial.thickness", "next": "-1"}, "more than 0"),
        ({"path": "dial.diameter", "next": "12.5"}, "Did you mean the diameter"),
        ({"path": "dial.thickness", "reading": ["0.40", "0.41", "0.40", "0.60"]}, "Reading 4 far from"),
        ({"path": "case.seat_to_tube", "sheet": "seat-to-tube", "in-seat": "5.1", "in-hole": "1.7",
          "in-bore": "1.2"}, "2.800 ±"),
        ({"path": "case.seat_to_tube", "sheet": "seat-to-tube", "in-seat": "deep", "in-hole": "1.7",
          "in-bore": "1.2"}, "a number in mm"),
        ({"path": "crown.thread", "outside": "0.89", "over": "1.80", "pitches": "8"}, "0.90"),
        ({"path": "crown.thread", "outside": "0.89", "over": "1.80", "pitches": "7.5"}, "a whole number"),
        ({"path": "dial.feet.0.angle", "sheet": "place-foot-past-six", "in-dial": "28.5", "in-across": "0.7",
          "in-edge": "1.3", "in-chord": "18"}, "°"),
    ],
)  # fmt: skip
def test_cards_tell_what_comes_out_or_why_nothing_does(
    client: TestClient, query: dict[str, Any], words: str
) -> None:
    assert words in text(parsed(client.get(CARD, params=query).text)).replace("\u00a0", " ")


def test_every_dimension_of_a_watch_has_a_card(client: TestClient) -> None:
    ledger = page(client, "/watches/1").xpath("//section[@id='ledger']")[0]
    parts = [fold.get("id").removeprefix("part-") for fold in ledger.xpath(".//details[@data-fold]")]
    folds = [ledger.get("data-folds") + part for part in parts]
    assert len(folds) > 12
    links = [link for fold in folds for link in page(client, fold).xpath("//a[@class='card-link']/@href")]
    assert len(links) > 80
    for link in links[::7]:
        card = page(client, link)
        assert card.xpath("//svg | //*[@id='thread']")
        assert card.xpath("//*[@class='steps']/li | //*[@id='thread']")


def test_a_donor_is_taken_apart_kept_for_a_build_and_put_away(client: TestClient) -> None:
    fields = {"name": "Knot, from the attic", "paid": "30 EUR", "kinds": ["dial", "hands", "crown"]}
    made = client.post("/donors", data=fields)
    numbers = [name.split("-")[1] for name in parsed(made.text).xpath("//select/@name")]
    assert len(numbers) == 3
    address = made.url.path
    client.post(f"{address}/kept", data={f"piece-{numbers[0]}": "2"})
    client.post(f"{address}/put-away", data={"place": "Drawer D9"})
    told = [text(slip) for slip in page(client, address).xpath("//li[@class='slip']")]
    assert "in its tray" in told[0]
    assert all("Drawer D9" in slip and "10.00" in slip for slip in told[1:])
    client.post(f"/pieces/{numbers[2]}/state", data={"state": "scrapped"})
    left = page(client, address)
    outlines = left.xpath("//figure//g[@class='bodies taken']/path/title/text()")
    assert outlines, "what has left is drawn as an outline"
    assert {title.partition(" –")[0] for title in outlines} == {"Crown"}
    assert text(left.xpath("//p[@class='donor-tally']")[0]) == "1 free 1 kept for a build 1 gone"
    sheet = client.get("/watches/1/sheet.json").content
    again = client.post("/donors", data={"paid": ""}, files={"sheet": ("s.json", sheet)})
    assert len(parsed(again.text).xpath("//li[@class='slip']")) == 17
    for wrong, words in (({"name": ""}, "the donor&#39;s name"), ({"name": "x"}, "at least one part"),
                         ({"name": "x", "kinds": ["dial"], "paid": "lots"}, "a sum such as")):  # fmt: skip
        refused = client.post("/donors", data=wrong)
        assert refused.status_code == 422
        assert words in refused.text
    assert client.post(f"{address}/kept", data={f"piece-{numbers[1]}": "77"}).status_code == 404


def done(client: TestClient, answer: Any) -> Any:
    """Wait for work in progress and give the page it leads to."""
    for _ in range(200):
        if not answer.url.path.startswith("/work/") or "data-over" in answer.text:
            return answer
        time.sleep(0.05)
        answer = client.get(answer.url.path)
    raise TimeoutError(answer.url)


def test_a_file_of_parts_is_looked_over_before_it_is_taken(client: TestClient) -> None:
    content = client.get("/shelf.csv").content
    seen = done(client, client.post("/shelf/imports", files={"file": ("shelf.csv", content)}))
    assert "139 same" in text(parsed(seen.text))
    more = b"kind,name,thickness\ndial,Tern test dial,0.5\nplate,?,1\n"
    seen = done(client, client.post("/shelf/imports", files={"file": ("more.csv", more)}))
    assert "1 new" in text(parsed(seen.text))
    assert "1 refused" in text(parsed(seen.text))
    assert slips(client, "?q=tern+test") == []
    taken = done(client, client.post(f"{seen.url.path}/taken"))
    assert "1 part taken onto the shelf" in taken.text
    assert slips(client, "?q=tern+test") == ["Tern test dial"]
    again = done(client, client.post(f"{seen.url.path}/taken"))
    assert "There is no file of parts" in again.text
    broken = done(client, client.post("/shelf/imports", files={"file": ("x.csv", b"\xff\x00\x01")}))
    assert "Nothing was changed" in broken.text


def test_a_body_too_large_for_its_address_is_refused_as_it_streams(client: TestClient) -> None:
    large = client.post("/shelf/imports", files={"file": ("x.csv", b"a" * 100_000_000)})
    assert large.status_code == 413
    assert "A file of parts has at most 30 MB" in large.text
    small = client.post("/watches/1/entries", data={"value": "a" * 1_200_000})
    assert small.status_code == 413


def test_a_workshop_moves_to_an_empty_one_and_only_there(client: TestClient, tmp_path: Path) -> None:
    client.post("/parts/1/photos", files={"photo": ("x.png", photo())})
    content = client.get("/workshop.zip").content
    refused = done(client, client.post("/workshop", files={"file": ("w.zip", content)}))
    assert "an empty one" in refused.text
    open_workshop(tmp_path / "new.sqlite3", MODEL)
    with TestClient(create_app(tmp_path / "new.sqlite3", MODEL), base_url="http://127.0.0.1") as other:
        assert re.search(r"The bench is empty", other.get("/").text)
        bench = done(other, other.post("/workshop", files={"file": ("w.zip", content)}))
        assert "Night Ferry" in bench.text
        assert other.get("/workshop.zip").content == content


def test_the_caliper_refuses_what_is_no_reading_and_says_when_nobody_listens(client: TestClient) -> None:
    assert client.post("/caliper/readings", data={"keys": "<b>"}).status_code == 422
    assert client.post("/caliper/readings", data={"keys": "28.51\n"}).json() == {"heard": 0}
    assert "No page listens" in client.post("/caliper/measured", data={"size": "28.5"}).text
    assert "between the jaws" in client.post("/caliper/measured", data={"size": "500"}).text


def test_an_instrument_keeps_the_day_it_was_checked(client: TestClient) -> None:
    client.post("/instruments/1/checked", data={"day": "2026-11-20"})
    assert "2026-11-20" in client.get("/rules?family=instruments").text
    assert "checked 2026-11-20" in client.get(CARD, params={"path": "case.dial_bore"}).text
    assert client.post("/instruments/1/checked", data={"day": "soon"}).status_code == 422
