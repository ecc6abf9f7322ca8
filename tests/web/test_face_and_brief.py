"""The face's page and the brief's: looks edited and tried on, wishes, the client's sheet and answer."""

import re
from typing import Any

import pytest
from lxml import html
from starlette.testclient import TestClient

LIVE = {"Marquetry-Fragment": "1"}
FACE, BRIEF = "/watches/1/face", "/watches/1/brief"


def parsed(text: str) -> Any:
    return html.fromstring(text)


def text(element: Any) -> str:
    return " ".join(element.text_content().split())


def shown(client: TestClient, address: str) -> Any:
    answer = client.get(address)
    assert answer.status_code == 200, answer.text
    return parsed(answer.text)


def sheet(client: TestClient) -> Any:
    return client.get("/watches/1/sheet.json").json()


def test_the_face_says_what_it_wears_what_glows_and_what_does_not_go_together(client: TestClient) -> None:
    page = shown(client, "/watches/2/face")
    assert [text(item) for item in page.xpath("//*[@class='face-notes']/li")] == [
        "Finishes side by side: case polished, bezel brushed.",
        "Glows in different colours: dial blue, hands blue, insert green.",
        "By day the lume has different colours on dial, hands and insert.",
    ]
    worn = [text(item) for item in page.xpath("//*[@class='garment-words']")]
    assert "Dial Night blue, 24 hours" in worn
    assert "Calendar disc none" in worn
    assert "20 after 60 min (DIN 67510-1)" in text(page.xpath("//aside")[0])
    assert len(page.xpath("//a[starts-with(@class, 'glimpse')]")) == 3
    assert "drawn quietly" not in text(page)
    client.post("/watches/2/parts/removed", data={"version": "1", "path": "crystal"})
    client.post("/watches/2/parts", data={"version": "2", "path": "crystal"})
    assert "drawn quietly: crystal" in text(shown(client, "/watches/2/face"))


def test_parts_are_tried_on_by_arrow_keys_and_nothing_is_stored(client: TestClient) -> None:
    before = sheet(client)
    page = shown(client, f"{FACE}?part=dial")
    keys = {link.get("data-key"): link.get("href") for link in page.xpath("//a[@data-key]")}
    tried = shown(client, FACE + keys["ArrowRight"])
    assert "Tried on; nothing is stored" in text(tried)
    assert text(tried.xpath("//*[@id='choose-dial']")[0]) != text(page.xpath("//*[@id='choose-dial']")[0])
    assert tried.xpath("//a[@id='own-dial']")
    back = {link.get("data-key"): link.get("href") for link in tried.xpath("//a[@data-key]")}["ArrowLeft"]
    assert "Tried on" not in text(shown(client, FACE + back)), "one step back is its own again"
    assert shown(client, FACE + keys["ArrowDown"]).xpath("//li[@aria-current]//*[@id='choose-hands']")
    assert sheet(client) == before


def test_what_is_tried_on_is_kept_seen_in_section_or_kept_as_a_variant(client: TestClient) -> None:
    number = (
        shown(client, "/shelf?kind=dial&q=beacon")
        .xpath("//a[@class='slip-link']/@href")[0]
        .rpartition("/")[2]
    )
    query = f"?part=dial&wear=dial.{number}"
    section = client.get(f"{FACE}/section{query}")
    assert section.url.path == "/watches/1"
    assert "Trying; nothing is stored" in section.text
    client.post(f"{FACE}/variants{query}", data={"version": "1", "name": "The red one"})
    assert "The red one" in client.get("/watches/1/compare").text
    kept = client.post(f"{FACE}/worn{query}", data={"version": "1"})
    assert sheet(client)["parts"]["dial"]["name"] == "Beacon red, date"
    assert kept.url.params.get("wear") is None
    assert client.post(f"{FACE}/worn{query}", data={"version": "1"}).status_code == 409
    undone = client.post(f"{FACE}/undo", data={"version": "2"}, headers=LIVE)
    assert "Lamp-room white" in undone.text


@pytest.mark.parametrize(
    "wear", ["dial.99999", "hands.1", "dial.x", "spacers.1", "nonsense", "dial.1,dial.2"]
)
def test_an_address_that_means_nothing_dresses_nothing_wrong(client: TestClient, wear: str) -> None:
    answer = client.get(f"{FACE}?wear={wear}")
    assert answer.status_code in {200, 404}
    if answer.status_code == 200:
        assert "Night blue" not in text(parsed(answer.text).xpath("//*[@id='choose-hands']")[0])


def test_looks_are_edited_beside_the_face(client: TestClient) -> None:
    query = "?part=dial&edit=true"
    page = shown(client, FACE + query)
    rows = {
        row.xpath(".//input[@name='path']/@value")[0] for row in page.xpath("//form[contains(@class, 'row')]")
    }
    assert {"dial.face.colour", "dial.face.markers.1.shape", "dial.face.lines.0.words", "dial.finish"} <= rows

    def edit(version: int, path: str, value: str) -> Any:
        data = {"version": str(version), "path": path, "value": value}
        return client.post(f"{FACE}/entries{query}", data=data, headers=LIVE)

    changed = edit(1, "dial.face.colour", "#7a1020")
    assert changed.status_code == 200
    assert "#7a1020" in changed.text
    assert 'data-version="2"' in changed.text
    edit(2, "dial.face.finish", "sunray")
    assert sheet(client)["parts"]["dial"]["face"]["finish"] == "sunray"
    assert sheet(client)["parts"]["dial"]["finish"] == "enamel-like", "the builder's words stay"
    assert "no colour is known by it" in edit(3, "dial.face.print_colour", "plaid").text
    edit(4, "dial.face.print_colour", "navy")
    refused = edit(5, "dial.face.inner_ring", "wide")
    assert "a number in mm" in text(parsed(f"<div>{refused.text}</div>"))
    assert 'value="wide"' in refused.text
    client.post(f"{FACE}/things{query}", data={"version": "5", "path": "dial.face.markers.-"})
    assert len(sheet(client)["parts"]["dial"]["face"]["markers"]) == 3
    client.post(f"{FACE}/things/removed{query}", data={"version": "6", "path": "dial.face.markers.2"})
    edit(7, "dial.face.finish", "")
    told = shown(client, FACE + query).xpath("//form[.//input[@value='dial.face.finish']]//option[1]")
    assert text(told[0]) == "read: enamel", "what nobody chose says where it comes from"


def test_a_part_of_the_shelf_has_its_looks_too(client: TestClient) -> None:
    page = shown(client, "/parts/4")
    assert page.xpath("//*[@class='part-front']//*[local-name()='svg']")
    saved = client.post(
        "/parts/4/entries", data={"version": "1", "path": "dial.face.colour", "value": "olive"}, headers=LIVE
    )
    assert saved.status_code == 200
    assert "#66683b" in client.get("/parts/4").text
    assert ",face.colour" in client.get("/shelf.csv").text.splitlines()[0]


@pytest.mark.parametrize(
    ("query", "words"),
    [("?show=night&minutes=60", "in the dark, 60 minutes after light"), ("?show=wrist", "on the wrist"),
     ("?show=day&time=12:00:00", "as it looks")],
)  # fmt: skip
def test_the_face_comes_as_a_file(client: TestClient, query: str, words: str) -> None:
    answer = client.get(f"{FACE}.svg{query}")
    assert answer.headers["content-type"] == "image/svg+xml"
    assert "li-lamp" in answer.text
    assert words in answer.text
    assert client.get(f"{FACE}?show=night&minutes=-1").status_code == 422


def wish(client: TestClient, topic: str, act: str, value: str = "", **more: str) -> Any:
    seen = shown(client, BRIEF).xpath("//input[@name='seen']/@value")[0]
    fields = {"seen": seen, "topic": topic, "act": act, "value": value, **more}
    return client.post(f"{BRIEF}/wishes", data=fields)


def stands(client: TestClient, topic: str) -> str:
    return text(shown(client, BRIEF).xpath(f"//*[@id='wish-{topic}']/summary")[0])


def checked(client: TestClient) -> str:
    found: str = client.get("/watches/1/findings.json").json()["findings"]["diameter_wish"]["verdict"]
    return found


def test_a_wish_is_proposed_agreed_changed_and_checked(client: TestClient) -> None:
    assert stands(client, "diameter") == "open Diameter, at most"
    first = client.post(
        "/watches/3/brief/wishes", data={"seen": "0", "topic": "whom", "act": "propose", "value": "me"}
    )
    assert first.url.params["open"] == "occasion", "a new brief is typed through from wish to wish"
    assert parsed(first.text).xpath("//details[@open]//input[@autofocus]/ancestor::details/@id") == [
        "wish-occasion"
    ]
    wish(client, "diameter", "propose", "39,5 mm", words="it must go under a cuff")
    assert "proposed Diameter, at most 39.5 mm" in stands(client, "diameter")
    assert checked(client) == "skipped"
    wish(client, "diameter", "agree", teller="client")
    assert sheet(client)["target"]["max_diameter_mm"] == 39.5
    assert checked(client) == "clear"
    wish(client, "diameter", "propose", "38")
    assert "agreed was 39.5 mm" in stands(client, "diameter")
    assert sheet(client)["target"]["max_diameter_mm"] == 39.5
    refused = wish(client, "diameter", "settle", "wide")
    assert refused.status_code == 422
    assert "a number in mm" in text(parsed(refused.text).xpath("//*[@id='wish-diameter']")[0])
    stale = client.post(
        f"{BRIEF}/wishes", data={"seen": "1", "topic": "height", "act": "propose", "value": "9"}
    )
    assert stale.status_code == 409
    client.post("/watches/1/target", data={"version": "2", "max_height_mm": "12"})
    assert "The sheet has 12 mm, which nobody agreed to." in stands(client, "height")


def test_the_finder_begins_with_the_looks_that_are_agreed(client: TestClient) -> None:
    wished = shown(client, "/watches/1/finder").xpath("//input[@name='wishes']/@value")[0]
    assert wished == "white navy slate green"
    assert shown(client, "/watches/1/finder?wishes=red").xpath("//input[@name='wishes']/@value") == ["red"]
    assert not shown(client, "/watches/3/finder").xpath("//input[@name='wishes']/@value")[0]


def test_the_clients_sheet_needs_nothing_but_itself(client: TestClient) -> None:
    client.post(f"{FACE}/variants?wear=dial.1", data={"version": "1", "name": "Grey <dial>"})
    answer = client.get(f"{BRIEF}/sheet.html?save=true")
    assert answer.headers["content-disposition"] == 'attachment; filename="skerry-light-for-the-client.html"'
    page = parsed(answer.text)
    outside = [a for a in page.xpath("//@src | //@href") if not a.startswith(("data:", "#"))]
    assert outside == []
    assert not re.findall(r"url\((?!data:|#)", answer.text)
    assert "script-src 'sha256-" in page.xpath("//meta[@http-equiv]/@content")[0]
    assert (
        "unsafe-inline" not in re.findall(r"script-src [^;]*", answer.headers["content-security-policy"])[0]
    )
    assert len(page.xpath("//article")) == 2
    assert "Grey <dial>" in [text(name) for name in page.xpath("//article/h3")]
    assert {row.get("data-topic") for row in page.xpath("//*[@data-topic]")} >= {
        "Finishes",
        "Strap or straps",
    }
    assert [text(cell) for cell in page.xpath("//dl/div[dt='Water depth']/dd")] == ["100 m"]
    assert len(page.xpath("//*[local-name()='svg'][@role='group']")) == 6


ANSWER = (
    "Finishes: agreed, as sketched\nHeight, at most: rather 13 mm\nDiameter: 39\nWrist: rather round\nfoo\n"
)


def test_an_answer_is_seen_before_it_is_taken(client: TestClient) -> None:
    before = stands(client, "finishes")
    seen = client.post(f"{BRIEF}/answer", data={"text": ANSWER})
    told = text(parsed(seen.text).xpath("//main")[0])
    for words in (
        "agreed brushed case with one polished step",
        "changed 13 mm",
        "Left out",
        "Nothing was made of",
        "foo",
    ):
        assert words in told, words
    assert stands(client, "finishes") == before
    number = parsed(seen.text).xpath("//input[@name='seen']/@value")[0]
    client.post(f"{BRIEF}/answer/taken", data={"text": ANSWER, "seen": number})
    assert stands(client, "finishes").startswith("agreed")
    assert "13 mm" in stands(client, "height")
    assert client.post(f"{BRIEF}/answer/taken", data={"text": ANSWER, "seen": number}).status_code == 409


def test_a_change_after_the_yes_is_shown_with_what_it_touches(client: TestClient) -> None:
    client.post(f"{BRIEF}/signed", data={"version": "1", "name": "the keeper"})
    assert "Nothing was changed since" in text(shown(client, BRIEF))
    number = (
        shown(client, "/shelf?kind=dial&q=beacon")
        .xpath("//a[@class='slip-link']/@href")[0]
        .rpartition("/")[2]
    )
    client.post(f"{FACE}/worn?wear=dial.{number}", data={"version": "1"})
    since = text(shown(client, BRIEF).xpath("//*[@id='signed']")[0])
    assert "Version 1 was signed off by the keeper" in since
    assert "Dial: Lamp-room white → Beacon red, date as dear; in the watch already" in since.replace(
        "\u00a0", " "
    )
    assert client.post(f"{BRIEF}/signed", data={"version": "1", "name": "x"}).status_code == 409


def test_a_picture_is_kept_with_what_is_liked_in_it(client: TestClient) -> None:
    from tests.formats.test_workshop_archive import picture  # noqa: PLC0415  # one picture serves all

    client.post(
        f"{BRIEF}/pictures", data={"caption": "the light on the glass"}, files={"photo": ("p.png", picture())}
    )
    page = shown(client, BRIEF)
    assert "the light on the glass" in text(page.xpath("//*[@id='pictures']")[0])
    refused = client.post(f"{BRIEF}/pictures", files={"photo": ("p.png", b"no picture")})
    assert refused.status_code == 422
    assert "Nothing was changed" in refused.text
    removal = page.xpath("//*[@id='pictures']//figure//form/@action")[0]
    client.post(removal)
    assert not shown(client, BRIEF).xpath("//*[@id='pictures']//figure")


def test_a_spacer_that_is_seen_through_the_crystal_is_worn_and_has_looks(client: TestClient) -> None:
    assert not shown(client, "/watches/2/face").xpath("//a[@id='choose-spacers']"), "there is none yet"
    begun = shown(client, "/watches/2/make/part/spacer:0")
    (keep,) = begun.xpath("//form[.//button[@id='keep-made']]/@action")
    client.post(keep, data={"version": "1"})
    worn = shown(client, "/watches/2/face?part=spacers&edit=true")
    assert worn.xpath("//a[@id='choose-spacers']")
    assert "spacers.0.face.colour" in worn.xpath("//input[@name='path']/@value")
    form = {"version": "2", "path": "spacers.0.face.colour", "value": "red", "place": "ledger"}
    assert client.post("/watches/2/face/entries?part=spacers&edit=true", data=form).status_code == 200
    assert client.get("/watches/2/sheet.json").json()["parts"]["spacers"][0]["face"] == {"colour": "red"}
