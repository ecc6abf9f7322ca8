"""A seller's text on its page, by forms alone: read, decided about, used; its prices in every book."""

import re
from decimal import Decimal
from html import unescape

import pytest
from starlette.testclient import TestClient

from marquetry.core.values.dimension import Source
from marquetry.store import kits, pasted, sellers_words, shelf, suppliers, terms_of_trade
from marquetry.store.database import Connection
from marquetry.store.watches import StoredWatch, watch
from tests.web.test_pages import parsed, text

DIAL = "Redshank dial\nSize: 28.5mm (1.122 in)\nThickness: 0.4 mm\nCentre hole: 1.95mm\n$22.50"
ORDER = """Order 7741 - Tidewrack

1. Case - Rowan 40, brushed steel, 40 mm diameter, lug width 20 mm, crown at 3, takes 28.5 mm dials, height 18 mm - $61.00
2. Dial - Heron moss green, 28.5 x 0.4 mm, no date - $22.00
3. Strap - leather, brown, 20/18 mm - $15.00
4. Strap - canvas, grey, 20 mm - $9.00
5. Movement - Tern 27, automatic, hacking, 27.0 mm diameter, stem thread 0.90 - $52.00
6. Crystal press - $30.00

Lochmass im Ganzen 3
Shipping $6.90
Total $195.90
"""
DOUBTED = "Case: Rowan 40\nLug to lug 46 mm\nLug to lug: 47.5 mm\nLug width 20 mm\n$55\n\nDial: Heron, diameter 1.125\nLochmass: 2.1 mm\n$14"


def begun(client: TestClient, words: str, start: str = "family:three-hands-39") -> str:
    """The address of a watch that is begun with a text."""
    answer = client.post("/begin", data={"start": start, "listing": words})
    assert answer.status_code == 200
    return str(answer.url).removeprefix("http://127.0.0.1").rpartition("/")[0]


def stored(connection: Connection, address: str) -> StoredWatch:
    return watch(connection, int(address.split("/")[2]))


def decide(client: TestClient, address: str, does: str, **more: str) -> str:
    """Press a button of the page with all its fields as they stand; where that leads."""
    page = parsed(client.get(f"{address}/listing").text)
    form = page.get_element_by_id("kit")
    fields: dict[str, list[str]] = {}
    for name, value in form.form_values():
        fields.setdefault(name, []).append(value)
    answer = client.post(f"{address}/listing/taken", data={**fields, **more, "do": does})
    assert answer.status_code == 200, answer.text[:300]
    return str(answer.url).removeprefix("http://127.0.0.1")


def tiles(client: TestClient, address: str) -> list[str]:
    page = parsed(client.get(f"{address}/listing").text)
    return [
        tile.xpath(".//input[starts-with(@name, 'name-')]/@value")[0]
        for tile in page.xpath("//li[contains(@class, 'kit-tile')]")
    ]


def test_an_order_is_seen_before_it_is_used_and_its_prices_are_in_every_book(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, ORDER)
    before = stored(connection, address)
    shown = unescape(client.get(f"{address}/listing").text)
    assert tiles(client, address) == [
        "Rowan 40, brushed steel",
        "Heron moss green",
        "leather, brown",
        "canvas, grey",
        "Tern 27",
    ]
    assert "<mark>40 mm diameter</mark>" in shown
    assert re.search(r"Height: 18(.00)? mm claimed", shown), "the parts as they are known make another height"
    assert "What is this?" in shown
    assert stored(connection, address).build == before.build, "nothing is saved until it is confirmed"
    where = decide(client, address, "take", **{"seller": "Tidewrack", "rate-USD": "0.92"})
    assert where.endswith("/listing"), "the stem's thread is still asked about"
    after = stored(connection, address).build
    assert after.dimensions["case.diameter"].source is Source.LISTED
    assert after.at("dial.windows") == []
    assert after.at("strap.name") == "leather, brown", "the second strap is beside it"
    offers = {
        offer.name: offer.offer
        for offer in suppliers.offers_in_force(connection)
        if offer.offer.supplier == "Tidewrack"
    }
    assert {name: str(offer.price) for name, offer in offers.items()} == {
        "Rowan 40, brushed steel": "61.00", "Heron moss green": "22.00", "leather, brown": "15.00", "canvas, grey": "9.00", "Tern 27": "52.00"}  # fmt: skip
    order = text(parsed(client.get(f"{address}/order").text))
    assert "beside the one in it" in order
    assert "nobody offers" not in order
    assert "152.63" in order, "159.00 of goods and 6.90 of postage, at 0.92"
    assert "146.28" in text(parsed(client.get(f"{address}/money").text)), "postage aside"
    assert "146.28" in text(parsed(client.get(f"{address}/quote").text))
    assert decide(client, address, "answer:6:stem.thread:meant").endswith("/listing")
    assert decide(client, address, "take").endswith("/next")
    assert stored(connection, address).build.at("stem.thread") == "0.90"
    assert stored(connection, address).build.at("strap.name") == "leather, brown", (
        "and beside it stays beside it"
    )
    assert len(kits.beside_of(connection, stored(connection, address).id)) == 1
    assert len([o for o in suppliers.offers_in_force(connection) if o.offer.supplier == "Tidewrack"]) == 5, (
        "told once"
    )


def test_doubts_stay_until_they_are_answered_and_sellers_words_are_learnt(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, DOUBTED)
    assert decide(client, address, "take", seller="Ella").endswith("/listing")
    known = stored(connection, address).build.dimensions
    assert known["case.lug_width"].source is Source.LISTED
    assert {known[path].source for path in ("case.lug_to_lug", "dial.diameter")} == {Source.ASSUMED}
    decide(
        client,
        address,
        "answer:0:lug_to_lug:2"
        if "answer:0:lug_to_lug:2" in client.get(f"{address}/listing").text
        else "answer:0:lug_to_lug:1",
    )
    decide(client, address, "answer:6:diameter:meant")
    decide(client, address, "read", **{"means-6-0": "centre_hole"})
    assert decide(client, address, "take").endswith("/next")
    known = stored(connection, address).build.dimensions
    assert known["dial.diameter"].value == pytest.approx(28.575)
    assert known["dial.centre_hole"].value == pytest.approx(2.1)
    assert known["case.lug_to_lug"].source is Source.LISTED
    (word,) = sellers_words.known_words(connection)
    assert (word.seller, word.label.kind, word.label.label, word.label.means) == (
        "Ella",
        "dial",
        "Lochmass",
        "centre_hole",
    )
    house = text(parsed(client.get("/rules?family=words").text))
    assert "“Lochmass”" in house
    assert "centre hole" in house.lower()
    other = begun(client, "Dial: Winkle\nLochmass: 1.9 mm")
    decide(client, other, "read", seller="Ella")
    assert "Centre hole Ø" in client.get(f"{other}/listing").text
    client.post(f"/rules/words/{word.id}/taken-back")
    assert sellers_words.known_words(connection) == []
    assert client.post(f"/rules/words/{word.id}/taken-back").status_code == 404


def test_parts_are_joined_split_called_otherwise_and_left_out_by_their_lines(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, ORDER)
    decide(client, address, "line:4:+")
    assert tiles(client, address) == [
        "Rowan 40, brushed steel",
        "Heron moss green",
        "canvas, grey",
        "Tern 27",
    ]
    decide(client, address, "begin", **{"line": "4", "line-kind": "strap"})
    decide(client, address, "line:5:-")
    assert tiles(client, address) == [
        "Rowan 40, brushed steel",
        "Heron moss green",
        "leather, brown",
        "Tern 27",
    ]
    decide(client, address, "read", **{"kind-4": "bezel", "name-3": "My dial"})
    assert tiles(client, address) == ["Rowan 40, brushed steel", "My dial", "leather, brown", "Tern 27"]
    assert pasted.pasted_for(connection, "watch", int(address.split("/")[2])).decided.lines["4"] == "bezel"
    page = client.get(f"{address}/listing").text
    client.post(f"{address}/listing/taken", data={"do": "line:2:boiler", "seller": "x"})
    assert "boiler" not in client.get(f"{address}/listing").text, "no part is called so"
    assert client.post(f"{address}/listing", data={"text": ""}).text != page
    assert pasted.pasted_for(connection, "watch", int(address.split("/")[2])).text == ""


def test_of_a_filled_slot_it_is_asked_whether_it_is_the_same_part(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, DIAL)
    decide(client, address, "take")
    first = stored(connection, address)
    part = first.build.at("dial.shelf_part")
    client.post(f"{address}/listing", data={"text": "Dial: Winkle grey\n29 x 0.5 mm\n18 EUR"})
    assert "is in the watch" in client.get(f"{address}/listing").text
    assert decide(client, address, "take").endswith("/listing")
    assert stored(connection, address).version == first.version, "nothing is taken before that is answered"
    assert decide(client, address, "take", **{"slot-0": "another"}).endswith("/next")
    after = stored(connection, address).build
    assert (after.at("dial.name"), after.dimensions["dial.diameter"].value) == ("Winkle grey", 29.0)
    assert after.at("dial.shelf_part") != part
    client.post(f"{address}/undo", data={"version": str(stored(connection, address).version)})
    assert stored(connection, address).build.at("dial.name") == "Redshank dial"
    client.post(f"{address}/listing", data={"text": "Dial: Winkle grey\n29 x 0.5 mm\n18 EUR"})
    decide(client, address, "take", **{"slot-0": "beside"})
    assert stored(connection, address).build.at("dial.name") == "Redshank dial"
    beside = kits.beside_of(connection, stored(connection, address).id)
    assert [shelf.part(connection, number).part.name for number in beside] == ["Winkle grey"]


def test_a_part_of_the_shelf_and_the_shelf_take_a_text_each_with_its_offer(
    client: TestClient, connection: Connection
) -> None:
    count = "SELECT count(*) FROM part"
    before = connection.execute(count).fetchone()[0]
    client.post(
        "/shelf/listing",
        data={
            "text": "Kit\n1x dial\nDiameter 28.5 mm, black\nCase:\nCase diameter 38 mm\nLug width 20 mm\n€ 49,00"
        },
    )
    assert connection.execute(count).fetchone()[0] == before
    client.post(
        "/shelf/listing/taken",
        data={"do": "take", "shown-1": "diameter", "use-1": "diameter", "seller": "Quay Parts"},
    )
    assert connection.execute(count).fetchone()[0] == before + 2
    number = connection.execute("SELECT id FROM part WHERE kind = 'case' ORDER BY id DESC").fetchone()[0]
    assert [(str(o.offer.price), o.offer.supplier) for o in suppliers.offers_of(connection, number)] == [
        ("49.00", "Quay Parts")
    ]
    part = f"/parts/{number}"
    client.post(f"{part}/listing", data={"text": "Diameter 38.2 mm\nLug to lug: 46 mm"})
    answer = client.post(f"{part}/listing/taken", data={"version": "1", "do": "take"})
    assert "46.00" in answer.text
    sheet = shelf.part(connection, number).part.document
    assert sheet["lug_to_lug"]["source"] == "listed"
    assert client.post("/shelf/listing", data={"text": ""}).status_code == 200


def test_what_is_answered_later_is_told_to_the_part_that_was_taken(
    client: TestClient, connection: Connection
) -> None:
    client.post("/shelf/listing", data={"text": DOUBTED})
    page = parsed(client.get("/shelf/listing").text)
    fields: dict[str, list[str]] = {}
    for name, value in page.get_element_by_id("kit").form_values():
        fields.setdefault(name, []).append(value)
    client.post("/shelf/listing/taken", data={**fields, "do": "take"})
    number = connection.execute("SELECT id FROM part WHERE kind = 'case' ORDER BY id DESC").fetchone()[0]
    count = connection.execute("SELECT count(*) FROM part").fetchone()[0]
    assert "lug_to_lug" not in shelf.part(connection, number).part.document
    answer = re.findall(r"answer:0:lug_to_lug:\d", client.get("/shelf/listing").text)[-1]
    client.post("/shelf/listing/taken", data={"do": answer})
    client.post("/shelf/listing/taken", data={"do": "take"})
    assert shelf.part(connection, number).part.document["lug_to_lug"]["value"] == 47.5
    assert connection.execute("SELECT count(*) FROM part").fetchone()[0] == count


MAIL = (b"From: Quayside Parts <Orders@quayside.example>\r\nSubject: Your order\r\nMIME-Version: 1.0\r\n"
        b"Content-Type: text/html; charset=utf-8\r\n\r\n<html><head><style>dial 99 mm</style></head><body><script>alert(1)</script>"
        b"<table><tr><th>Part</th><th>Qty</th><th>Price</th></tr><tr><td>Dial, Winkle <b>grey</b>, 28.5 mm</td><td>1</td>"
        b"<td>\xc2\xa318.00</td></tr></table></body></html>")  # fmt: skip


def test_a_mail_is_read_from_its_file_and_its_seller_is_known_the_next_time(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, "")
    for expected in ("", "Quayside"):
        client.post(f"{address}/listing/file", files={"file": ("order.eml", MAIL, "message/rfc822")})
        shown = client.get(f"{address}/listing").text
        assert parsed(shown).xpath("//input[@name='seller']/@value") == [expected]
        assert "alert(1)" not in shown
        assert tiles(client, address) == ["Winkle grey"]
        decide(
            client,
            address,
            "take",
            **{"seller": "Quayside", "rate-GBP": "1.17", "slot-1": "same", "slot-2": "same"},
        )
    assert sellers_words.seller_of(connection, "orders@quayside.example") == "Quayside"
    refused = client.post(f"{address}/listing/file", files={"file": ("x.txt", b"\0\1\2", "text/plain")})
    assert refused.status_code == 422
    assert "with words in it" in refused.text


def test_a_price_is_corrected_where_it_stands(client: TestClient, connection: Connection) -> None:
    address = begun(client, "Dial: Winkle grey\n29 x 0.5 mm\n18 EUR")
    refused = client.post(f"{address}/listing/taken", data={"version": "1", "do": "take", "price-0": "cheap"})
    assert refused.status_code == 422
    assert "a sum such as 12.50" in refused.text
    decide(client, address, "take", **{"price-0": "17.20"})
    asked = [o.offer for o in suppliers.offers_in_force(connection) if o.name == "Winkle grey"]
    assert [(str(offer.price), offer.currency, offer.supplier) for offer in asked] == [
        ("17.20", "EUR", kits.NOT_TOLD)
    ]


@pytest.mark.parametrize(
    ("text", "number", "currency"),
    [
        ("Dial: Winkle grey\n29 x 0.5 mm", "0", "CHF"),
        ("Dial: Winkle grey\n29 x 0.5 mm\n\nCrystal: Limpet domed\n30.5 x 2.5 mm\n$18", "0", "USD"),
    ],
    ids=["the workshop's where the text has none", "the text's where the part has none"],
)
def test_a_price_typed_without_a_currency_is_in(
    text: str, number: str, currency: str, client: TestClient, connection: Connection
) -> None:
    terms_of_trade.set_terms(connection, {"home": "CHF"})
    address = begun(client, text)
    decide(client, address, "take", **{f"price-{number}": "17.20"})
    asked = [o.offer for o in suppliers.offers_in_force(connection) if o.name == "Winkle grey"]
    assert [(str(offer.price), offer.currency) for offer in asked] == [("17.20", currency)]


@pytest.mark.parametrize("rate", ["abc", "-1"])
def test_a_rate_that_is_none_changes_nothing(rate: str, client: TestClient, connection: Connection) -> None:
    address = begun(client, DIAL)
    version = stored(connection, address).version
    answer = client.post(f"{address}/listing/taken", data={"version": "1", "do": "take", "rate-USD": rate})
    assert answer.status_code == 422
    assert 'role="alert"' in answer.text
    assert stored(connection, address).version == version
    assert not terms_of_trade.rates(connection).knows("USD", "2026-12-31") or Decimal(1)


def test_another_version_in_between_is_told_and_nothing_is_taken(
    client: TestClient, connection: Connection
) -> None:
    address = begun(client, DIAL)
    number, client_count = stored(connection, address).id, "SELECT count(*) FROM part"
    before = connection.execute(client_count).fetchone()[0]
    client.post(
        f"{address}/entry",
        data={"version": "1", "path": "case.lug_width", "value": "20", "tol": "", "source": "measured"},
    )
    answer = client.post(f"{address}/listing/taken", data={"version": "0", "do": "take"})
    assert answer.status_code in {409, 422}
    assert connection.execute(client_count).fetchone()[0] == before, "the catalogue neither"
    assert watch(connection, number).build.at("dial.name") is None
    assert re.search("dial", pasted.pasted_for(connection, "watch", number).text)


def test_a_quote_below_cost_and_a_cost_without_prices_say_so(client: TestClient) -> None:
    address = begun(client, "Dial: Winkle grey, 28.5 mm\nHands: pencil, 1.50/0.90/0.20, 8.00 EUR")
    decide(client, address, "take", seller="Ella")
    quote = text(parsed(client.get(f"{address}/quote?margin=10").text))
    assert "Not in this sum, for want of a price: Winkle grey" in quote
    assert "Below cost" not in quote
    client.post(f"{address}/money", data={"kind": "hours", "work": "bench", "time": "4:00", "sent": ""})
    client.post(f"{address}/money", data={"kind": "part", "amount": "12.50", "words": "a bezel", "sent": ""})
    assert "part: a bezel" in text(parsed(client.get(f"{address}/money").text))
    quote = text(parsed(client.get(f"{address}/quote?hours=1").text)).replace("\u00a0", " ")
    assert "Below cost: 85.50 EUR less" in quote, "140.50 booked and open, 55.00 asked"
    away = text(parsed(client.get(f"{address}/story/away").text))
    assert "without Winkle grey" in away
    assert "what goes with it included" not in away
