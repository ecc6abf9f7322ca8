"""The pages of the story: the log sifted and searched, cards in every form, out and back, lessons."""

import io
import json
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from marquetry.store import fates, lessons, listed_pairs, photos, shelf, watches
from marquetry.store.database import connect
from marquetry.web.story.view import SHOWN
from tests.strategies import MODEL
from tests.web.test_pages import page, text

TIDE, SKERRY, FERRY = "/watches/4/story", "/watches/1/story", "/watches/2/story"


def plain(element: Any) -> str:
    return text(element).replace("\u00a0", " ")


def rows(client: TestClient, address: str) -> list[str]:
    return [plain(row) for row in page(client, address).xpath("//section[@class='story-day']//li")]


def picture() -> bytes:
    written = io.BytesIO()
    Image.new("RGB", (40, 30), "teal").save(written, "PNG")
    return written.getvalue()


def test_the_log_tells_everything_and_leads_to_its_place(client: TestClient) -> None:
    shown = page(client, f"{TIDE}?all=1")
    told = rows(client, f"{TIDE}?all=1")
    assert sum("Sold to the pilot for 700.00 EUR" in row for row in told) == 1
    links = {a.get("href") for a in shown.xpath("//section[@class='story-day']//li/span/a")}
    for address in (
        "/watches/4/prove/dry",
        "/watches/4/build/at/check_minute",
        "/watches/4/money",
        "/watches/4/brief",
        "/watches/4/story/away",
    ):
        assert address in links
        assert client.get(address).status_code == 200
    columns = shown.xpath("//figure[@class='story-strips']//*[contains(@class, 'strip-day')]")
    assert len(columns) > 8
    days = {section.get("id") for section in shown.xpath("//section[@class='story-day']")}
    assert all(a.get("href").rpartition("#")[2] in days for a in columns)


@pytest.mark.parametrize(
    ("query", "holds", "count"),
    [
        ("?trades=mishap", "Hand too deep", 1), ("?trades=life&trades=mishap", "", 5),
        ("?words=spring%20bar", "worn thin", 1),
        ("?words=leak", "Leak at 10.00 bar", 1), ("?words=nothing-of-the-kind", "", 0),
        ("?words=%27%22*&all=1", "", 159),
        ("?trades=nonsense", "", 0), ("?after=150", "", None),
    ],
)  # fmt: skip
def test_it_is_sifted_and_searched(client: TestClient, query: str, holds: str, count: int | None) -> None:
    told = rows(client, f"{TIDE}{query}")
    assert count is None or len(told) == count
    assert all(holds in row for row in told)
    if not told:
        assert "Nothing in the log says that" in client.get(f"{TIDE}{query}").text


def test_a_long_log_is_paged_and_printed_whole(client: TestClient, database: Path) -> None:
    connection = connect(database, MODEL)
    for _ in range(110):
        stored = watches.watch(connection, 2)
        after = watches.save(
            connection, 2, stored.version, stored.build.renamed("Ferry"), "Name: Ferry", stored
        )
        watches.undo(connection, 2, after.version)
    connection.close()
    first, older, oldest, every = (
        rows(client, f"{FERRY}{query}") for query in ("", f"?after={SHOWN}", f"?after={2 * SHOWN}", "?all=1")
    )
    assert (len(first), len(older), len(oldest)) == (SHOWN, SHOWN, len(every) - 2 * SHOWN)
    assert [*first, *older, *oldest] == every
    assert f"?after={SHOWN}" in client.get(FERRY).text
    links = page(client, f"{FERRY}?words=name&trades=parts").xpath("//a[contains(@href, '#day-')]/@href")
    assert links
    for link in links:
        there = page(client, link)
        assert there.xpath("//section[@id=$day]", day=link.rpartition("#")[2])
        assert there.xpath("//input[@name='words']/@value") == ["name"]
        assert there.xpath("//input[@name='trades'][@checked]/@value") == ["parts"]


def test_a_note_is_kept_with_its_picture_and_taken_back(client: TestClient) -> None:
    told = {
        "words": "Thursday's ferry: <b>wet</b>",
        "kind": "decision",
        "about": "dial",
        "at": "2026-03-05T08:30",
    }
    answer = client.post(f"{FERRY}/notes", data=told, files={"photo": ("a.png", picture(), "image/png")})
    assert answer.status_code == 200
    (row,) = page(client, f"{FERRY}?words=thursday").xpath("//section[@class='story-day']//li")
    assert "Thursday's ferry: <b>wet</b>" in text(row)
    assert row.xpath("./span/a/@href")[0].endswith("#part-dial")
    assert client.get(row.xpath(".//img/@src")[0]).headers["content-type"] == "image/jpeg"
    back = client.post(row.xpath(".//form/@action")[0])
    assert "The note was taken back" in back.text
    assert rows(client, f"{FERRY}?words=thursday") == []
    client.post(page(client, f"{FERRY}?back=4").xpath("//form[@class='notice']/@action")[0])
    assert len(rows(client, f"{FERRY}?words=thursday")) == 1


@pytest.mark.parametrize(
    ("told", "says"),
    [
        ({"words": "  "}, "what happened, in a few words"),
        ({"words": "x", "about": "strap.name"}, "a part of this watch"),
        ({"words": "x", "at": "yesterday"}, "a day and a time"),
        ({"words": "x", "at": "0001-01-01"}, "a day and a time"),
        ({"words": "x", "photo": b"no picture"}, "a JPEG, PNG or WebP picture"),
    ],
)  # fmt: skip
def test_a_note_that_is_none_changes_nothing_and_says_why(
    client: TestClient, told: dict[str, Any], says: str
) -> None:
    before = len(rows(client, f"{FERRY}?all=1"))
    files = {"photo": ("a.png", told.pop("photo"), "image/png")} if "photo" in told else None
    answer = client.post(f"{FERRY}/notes", data=told, files=files)
    assert answer.status_code == 422
    assert says in answer.text
    assert len(rows(client, f"{FERRY}?all=1")) == before


def test_the_card_comes_in_every_form_and_says_what_the_workshop_wants(client: TestClient) -> None:
    said = {
        "version": "1",
        "maker": "K & Daughters",
        "line": "low water",
        "day": "2026-02-14",
        "shown": ["diameter", "water", "strap"],
    }
    answer = client.post(f"{TIDE}/card", data=said)
    assert answer.status_code == 200
    told = client.get(f"{TIDE}/card.txt").text
    assert told == (
        "Tide Table\nlow water\n\nAcross: Ø 39.0 mm (measured)\n"
        "Strap: Waxed strap 20; beside it Woven pass-through strap 20\n"
        f"Water: tested dry at 10.0 bar (as 100 m), {told.rpartition('), ')[2][:10]}\n\nK & Daughters\n"
    )
    drawn = " ".join(page(client, f"{TIDE}/card").xpath("//figure[@class='spec-card']//text()"))
    assert "K & Daughters" in drawn
    assert "Height" not in drawn
    image = Image.open(io.BytesIO(client.get(f"{TIDE}/card.png").content))
    assert image.width in {1183, 1184}
    assert image.height == 840
    colours = len(image.convert("RGB").quantize(64).getcolors() or [])
    assert colours > 40, "a face, not an empty card"
    paper = client.get(f"{TIDE}/card.pdf")
    assert paper.content.startswith(b"%PDF-")
    assert b"/MediaBox [ 0 0 419.5276 297.6378 ]" in paper.content, "a postcard, to a thousandth"
    assert client.get(f"{SKERRY}/card.txt?number=3").text.count("Number: 3 of 3") == 1


@pytest.mark.parametrize(
    ("told", "status", "says"),
    [
        ({"version": "0", "maker": "x"}, 409, "changed meanwhile"),
        ({"version": "1", "day": "soon"}, 422, "a day such as"),
        ({"version": "1", "maker": "x" * 81}, 422, ""),
    ],
)  # fmt: skip
def test_a_card_that_cannot_be_kept_is_not(
    client: TestClient, told: dict[str, str], status: int, says: str
) -> None:
    before = client.get(f"{TIDE}/card.txt").text
    answer = client.post(f"{TIDE}/card", data=told)
    assert answer.status_code in {status, 422}
    assert says in answer.text
    assert client.get(f"{TIDE}/card.txt").text == before


def test_the_sheet_says_what_was_agreed_and_whom_to_ask(client: TestClient) -> None:
    client.post(
        f"{TIDE}/card",
        data={
            "version": "1",
            "promised": "New bars within the year.",
            "contact": "The slipway, Kittiwake Bench",
        },
    )
    told = plain(page(client, f"{TIDE}/sheet").xpath("//article")[0])
    for words in (
        "Water depth100 m", "waxed leather, and a woven one", "New bars within the year.", "The slipway",
        "Woven pass-through strap 20", "tested again by 2027-", "One watch, tested to 100 m",
    ):  # fmt: skip
        assert words in told
    assert "720.00" not in told, "the budget is nobody else's business"
    assert "Not every proof has passed" in client.get(f"{FERRY}/sheet").text
    assert "keep it dry" in client.get(f"{FERRY}/sheet").text


def test_a_watch_goes_out_and_comes_back_and_is_proved_anew(client: TestClient, database: Path) -> None:
    assert "Back for service." in client.get("/").text
    client.post(
        f"{TIDE}/fates", data={"what": "changed", "words": "New bars; back off for a look", "opened": "back"}
    )
    assert "lapsed" in client.get("/watches/4/prove").text
    assert "Still to prove before it goes" in client.get(f"{TIDE}/away").text
    assert "Water" not in client.get(f"{TIDE}/card.txt").text, "what was tested lapsed with it"
    client.post(f"{TIDE}/fates", data={"what": "out"})
    shown = page(client, "/")
    assert len(shown.xpath("//li[contains(@class,'strip')]")) == 3
    assert "12 watches that left the bench" in text(shown)
    client.post(f"{TIDE}/fates/1/taken-back")
    assert len(page(client, "/").xpath("//li[contains(@class,'strip')]")) == 4
    connection = connect(database, MODEL)
    assert [fate.what for fate in fates.fates_of(connection, 4)][-1] == "undo"
    connection.close()


@pytest.mark.parametrize(
    ("told", "status"),
    [
        ({"what": "sold"}, 422), ({"what": "undo"}, 422), ({"what": "found"}, 422),
        ({"what": "out", "day": "soon"}, 422),
        ({"what": "eaten"}, 422), ({"what": "out", "number": "2"}, 422),
        ({"what": "out", "number": "0"}, 422),
        ({"what": "changed", "words": "x", "opened": "lid"}, 422),
    ],
)  # fmt: skip
def test_what_cannot_follow_changes_nothing(
    client: TestClient, database: Path, told: dict[str, str], status: int
) -> None:
    connection = connect(database, MODEL)
    before = fates.fates_of(connection, 4)
    assert client.post(f"{TIDE}/fates", data=told).status_code == status
    assert fates.fates_of(connection, 4) == before
    connection.close()


def test_leftovers_are_put_away_from_the_page(client: TestClient) -> None:
    forms = page(client, f"{TIDE}/away").xpath("//form[@class='left-piece']")
    names = [text(form.xpath(".//a")[0]) for form in forms]
    assert names == ["Gull grey, date", "Lantern set, blue-glowing"]
    first, second = (form.get("action") for form in forms)
    assert (
        client.post(first, data={"where": "shelf", "place": "Drawer D1", "worth": "20 EUR"}).status_code
        == 200
    )
    assert client.post(second, data={"where": "donor"}).status_code == 422, "it came out of none"
    assert client.post(second, data={"where": "shelf", "worth": "a lot"}).status_code == 422
    assert client.post(second, data={"where": "client"}).status_code == 200
    shown = page(client, f"{TIDE}/away")
    assert shown.xpath("//form[@class='left-piece']") == []
    assert "Lantern set, blue-glowing" in text(shown.xpath("//ul[@class='left-gone']")[0])
    assert "written down" in client.get("/watches/4/money").text
    assert "handed over with it" in client.get("/watches/4/money").text


def test_what_left_the_bench_asks_for_nothing_any_more(client: TestClient) -> None:
    shown = client.get("/orders").text
    assert "Saltpan" not in shown
    assert "Quay Light" not in shown
    assert "Skerry Light" in shown
    on_part = page(client, "/parts/1").xpath("//select[@name='watch']//text()")
    assert "Quay Light" not in " ".join(on_part)


def test_the_workshop_s_pages_tell_what_its_records_add_up_to(client: TestClient, database: Path) -> None:
    connection = connect(database, MODEL)
    pairs = listed_pairs.listed_pairs(connection)
    connection.close()
    years = page(client, "/workshop/years")
    assert len(years.xpath("//figure[@class='year-planks']//*[contains(@class, 'year-plank')]")) == 15
    assert len(years.xpath("//span[@class='year-faces']/a/svg")) == 12
    worth = page(client, "/workshop/sellers")
    assert f"{len(pairs)} pairs" in text(worth)
    own = [p for p in pairs if p.supplier == "Sandbank Parts" and p.kind == "thickness"]
    told = next(
        plain(row)
        for row in worth.xpath("//section[@aria-label='Thicknesses']//div[@class='worth-row']")
        if "Sandbank" in text(row)
    )
    assert f"{len(own)} pairs, {sum(abs(p.deviation) > p.listed.tol + 1e-9 for p in own)} outside" in told
    record = page(client, "/workshop/report")
    counted = sum(
        int(td) for td in record.xpath("//section[@aria-labelledby='gap-title']//tbody/tr/td[2]/text()")
    )
    assert f"{counted} answers of the bench" in text(record)
    assert "Hand too deep" in text(record)


def test_an_empty_workshop_says_what_will_stand_there(tmp_path: Path) -> None:
    from marquetry.store.database import open_workshop  # noqa: PLC0415  # for this test alone
    from marquetry.web.site.app import create_app  # noqa: PLC0415  # as above

    open_workshop(tmp_path / "own.sqlite3", MODEL)
    with TestClient(create_app(tmp_path / "own.sqlite3", MODEL), base_url="http://127.0.0.1") as own:
        for address, says in (
            ("years", "begin a watch"),
            ("report", "No build of the bench"),
            ("sellers", "makes a pair"),
            ("lessons", "No lesson yet"),
        ):
            assert says in page(own, f"/workshop/{address}").text_content()


def test_the_house_goes_by_what_sellers_were_worth_and_each_field_says_so(
    client: TestClient, database: Path
) -> None:
    address = "/watches/12/parts/movement"
    connection = connect(database, MODEL)
    stored = watches.watch(connection, 12)
    told = {
        "path": "movement.face_to_back",
        "value": "5.2",
        "tol": "",
        "source": "listed",
        "place": "ledger",
        "version": str(stored.version),
    }
    client.post("/watches/12/entries", data=told)
    before = json.loads(client.get("/watches/12/findings.json").text)["findings"]["rotor_clearance"]
    assert "Worth ±" in client.get(address).text
    assert "Use ±" in client.get(address).text
    client.post("/rules/schools", data={"key": "school_listed", "choice": "learned"})
    after = json.loads(client.get("/watches/12/findings.json").text)["findings"]["rotor_clearance"]
    assert after["low"] != before["low"]
    assert "Counts with ±" in client.get(address).text
    assert "In force:" in client.get("/workshop/sellers").text
    part = shelf.part_named(connection, "dial", "Fog white, date")
    assert part is not None
    assert client.get(f"/parts/{part.id}").status_code == 200
    client.post("/rules/schools", data={"key": "school_listed", "choice": "claimed"})
    assert json.loads(client.get("/watches/12/findings.json").text)["findings"]["rotor_clearance"] == before
    connection.close()


def test_a_lesson_by_hand_is_shown_where_it_belongs(client: TestClient, database: Path) -> None:
    new = {"words": "Level the press before the crystal.", "step": "press_crystal", "watch": "2"}
    assert client.post("/workshop/lessons", data=new).status_code == 200
    assert "Level the press" in client.get("/watches/1/build/at/press_crystal").text
    by_school = {"words": "Pads by hand first.", "kind": "dial", "school": "school_feet=pads"}
    client.post("/workshop/lessons", data=by_school)
    assert "Pads by hand first." in client.get("/rules?family=schools").text
    assert "Pads by hand first." in client.get("/parts/1").text
    connection = connect(database, MODEL)
    number = lessons.lessons(connection)[0].id
    connection.close()
    client.post(
        f"/workshop/lessons/{number}/turns", data={"what": "outgrown", "watch": "1", "words": "a hood now"}
    )
    assert "Pads by hand first." not in client.get("/parts/1").text
    client.post(f"/workshop/lessons/{number}/taken-back")
    assert "Pads by hand first." not in client.get("/workshop/lessons").text
    client.post(f"/workshop/lessons/{number}/brought-back")
    assert "Pads by hand first." in client.get("/workshop/lessons").text


@pytest.mark.parametrize(
    ("told", "status"),
    [
        ({"words": ""}, 422), ({"words": "Nowhere to be shown."}, 422),
        ({"words": "x", "step": "no_such_step"}, 422),
        ({"words": "x", "kind": "anvil"}, 422), ({"words": "x", "school": "school_x=y"}, 422),
        ({"words": "x", "step": "cut_stem", "watch": "99"}, 422),
    ],
)  # fmt: skip
def test_a_lesson_that_would_never_be_shown_is_refused(
    client: TestClient, told: dict[str, str], status: int
) -> None:
    before = client.get("/workshop/lessons").text.count('class="lesson"')
    assert client.post("/workshop/lessons", data=told).status_code == status
    assert client.get("/workshop/lessons").text.count('class="lesson"') == before


def test_photographs_of_notes_belong_to_the_watch(client: TestClient, database: Path) -> None:
    connection = connect(database, MODEL)
    before = len(photos.photos_of(connection, "watch", 2))
    client.post(f"{FERRY}/notes", data={"words": "seen"}, files={"photo": ("a.png", picture(), "image/png")})
    assert len(photos.photos_of(connection, "watch", 2)) == before + 1
    assert sum("seen" in row for row in rows(client, FERRY)) == 1, (
        "once: as a note, not as a picture beside it"
    )
    connection.close()
