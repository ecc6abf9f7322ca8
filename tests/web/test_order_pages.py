"""The order room's pages without a browser: plan, orders, books, quotes, series, suppliers, stock."""

import re
from typing import Any

import pytest
from starlette.testclient import TestClient

from tests.web.test_pages import page, parsed, text


def sent(client: TestClient, address: str, **fields: Any) -> Any:
    answer = client.post(address, data=fields)
    assert answer.status_code == 200, answer.text[:400]
    return parsed(answer.text)


def taken(client: TestClient, watch: int = 1) -> list[str]:
    """The plan of a watch taken as orders; the addresses of the new ones."""
    before = set(page(client, "/orders").xpath("//*[@id='orders']//td/a/@href"))
    form = page(client, f"/watches/{watch}/order").xpath("//form[.//input[@name='mark']]")[0]
    fields = {i.get("name"): i.get("value") for i in form.xpath(".//input")}
    shown = sent(client, form.get("action"), **fields)
    assert sent(client, form.get("action"), **fields).text, (
        "the same form again counts once, and says nothing"
    )
    again = client.post(form.get("action"), data={**fields, "sent": ""})
    assert again.status_code == 409
    assert "Nothing was ordered" in again.text
    found = [link for link in shown.xpath("//*[@id='orders']//td/a/@href") if link not in before]
    return [link.removeprefix("http://127.0.0.1") for link in found]


def test_a_plan_is_taken_once_arrives_and_is_kept_for_its_watch(client: TestClient) -> None:
    shown = page(client, "/watches/1/order")
    total = text(shown.xpath("//*[@class='plan-sum figure']")[0])
    assert "nothing is cheaper" in text(shown.get_element_by_id("plan-title"))
    assert shown.xpath("//figure[@class='lanes']//*[name()='svg']")
    orders = taken(client)
    sums = [
        text(row.xpath("td")[5])
        for row in page(client, "/watches/1/order").xpath("//*[@id='orders']//tbody/tr")
        if "open" in text(row)
    ]
    assert len(sums) == len(orders) > 1
    assert f"{sum(float(s.split()[0]) for s in sums):.2f} EUR" == total.replace("\u00a0", " "), (
        "orders cost what the plan said"
    )
    after = page(client, "/watches/1/order")
    assert "on the way" in text(after.xpath("//details[@class='covered']")[0])
    assert not after.xpath("//form[.//input[@name='mark']]"), "what is on its way is not ordered again"
    order = orders[0]
    sent(client, f"{order}/steps", what="sent")
    line = page(client, order).xpath("//article[@class='supply-line']")[0]
    action, version = line.xpath(".//form/@action")[0], line.xpath(".//input[@name='version']/@value")[0]
    look = {
        "version": version,
        "pieces": "1",
        "faulty": "0",
        "place": "Drawer Z9",
        "words": "clean",
        "right": "true",
    }
    arrived = sent(client, action, **look)
    assert "Drawer Z9" in text(arrived)
    twice = client.post(action, data=look)
    assert twice.status_code in {409, 422}, "a second click brings nothing more"
    assert "part arrived" in text(arrived) or "arrived" in text(arrived)
    undo = arrived.xpath("//form[.//button[contains(@aria-label, 'Take back: arrived')]]/@action")[0]
    assert "taken back: arrived" in text(sent(client, undo))


def shown(client: TestClient, address: str) -> str:
    """A page without the keys of its forms, which are others each time."""
    return re.sub(r'name="sent"\s+value="\w+"', "", client.get(address).text)


@pytest.mark.parametrize(
    ("address", "fields", "told"),
    [
        ("/orders/2/bill", {"version": "1", "day": "2026-11-01", "due": "soon"}, "a day such as"),
        (
            "/orders/2/bill",
            {"version": "1", "day": "2026-11-01", "due": "2026-11-05", "postage": "7.805"},
            "2 decimals",
        ),
        ("/orders/2/bill", {"version": "1", "day": "2026-11-01", "due": "2026-11-05", "duty": "-3"}, "duty"),
        (
            "/orders/2/bill",
            {"version": "1", "day": "2026-11-01", "due": "2026-11-05", "discount": "900"},
            "at most",
        ),
        ("/orders/2/steps", {"what": "returned", "line": "4", "pieces": "9"}, "at most"),
        ("/suppliers", {"name": "Fjell & Tang"}, "already"),
        ("/suppliers", {"name": "New", "currency": "XYZ"}, "a code such as EUR"),
        ("/suppliers", {"name": "New", "postage": "5 GBP"}, "a sum in EUR"),
        ("/rates", {"currency": "EUR", "rate": "1"}, "which is home"),
        ("/rates", {"currency": "GBP", "rate": "abc"}, "a number from 0"),
        ("/trade", {"home": "EUR", "pay-bench": "12 GBP"}, "a sum in EUR"),
        ("/offers/part:3", {"supplier": "1", "price": "", "breaks": ""}, "the price of one"),
        ("/offers/part:3", {"supplier": "1", "price": "3", "breaks": "ten: 2"}, "pieces and price"),
        ("/watches/1/money", {"kind": "hours", "time": "long"}, "a number from 0"),
        ("/watches/1/money", {"kind": "other", "amount": ""}, "a sum such as"),
        ("/watches/1/series/numbers", {"number": "2", "buyer": "x"}, "boathouse"),
        ("/watches/1/series", {"count": "1", "version": "1"}, "given out"),
    ],
)
def test_what_cannot_be_is_told_and_changes_nothing(
    client: TestClient, address: str, fields: dict[str, str], told: str
) -> None:
    before = [shown(client, where) for where in ("/suppliers", "/watches/1/money", "/orders")]
    if "version" in fields and "bill" in address:
        fields = {**fields, "version": page(client, "/orders/2").xpath("//input[@name='version']/@value")[0]}
    answer = client.post(address, data=fields)
    assert answer.status_code in {409, 422}
    alerts = " ".join(text(alert) for alert in parsed(answer.text).xpath("//*[@role='alert']"))
    assert told in alerts
    assert [shown(client, where) for where in ("/suppliers", "/watches/1/money", "/orders")] == before


def test_the_books_add_up_on_the_page_and_are_only_reversed(client: TestClient) -> None:
    def total() -> float:
        return float(
            text(page(client, "/watches/1/money").xpath("//tfoot//td[@class='figure']")[0]).split()[0]
        )

    def rows() -> list[float]:
        found = page(client, "/watches/1/money").xpath(
            "//table[contains(@class,'books-table')]/tbody/tr/td[4]"
        )
        return [float(text(cell).split()[0].replace("−", "-")) for cell in found]

    before, count = total(), len(rows())
    assert round(sum(rows()), 2) == before
    booked = sent(client, "/watches/1/money", kind="hours", work="bench", time="1:30", words="hands")
    assert round(total() - before, 2) == 45.00
    reverse = booked.xpath("//form[.//button[@aria-label='Reverse bench: hands']]/@action")[0]
    sent(client, reverse)
    assert total() == before
    assert len(rows()) == count + 2
    assert client.post(reverse).status_code in {404, 409}
    spoilt = page(client, "/watches/1/money").xpath("//form[contains(@action, '/money/spoilt/')]/@action")[0]
    sent(client, spoilt, why="bent")
    assert total() > before
    before, piece = total(), page(client, "/parts/1").xpath("//form[contains(@action, '/state')]")[0]
    version = piece.xpath(".//input[@name='version']/@value")[0]
    sent(client, piece.get("action"), state="scrapped", booked="1", why="scratched", version=version)
    assert round(total() - before, 2) == 38.00


def test_a_quote_is_reckoned_by_its_address_told_and_printed(client: TestClient) -> None:
    shown = page(client, "/watches/1/quote?count=3&hours=2&margin=10+%25&step=10")
    asked = text(shown.xpath("//table[@class='quote-lines']/tfoot//td")[0])
    assert re.fullmatch(r"\d+0\.00\sEUR", asked)
    assert "Watches" in text(shown)
    assert client.get("/watches/1/quote?margin=lots").status_code == 422
    told = client.post(
        "/watches/1/quote",
        data={"count": "3", "hours": "2", "margin": "10 %", "step": "10", "included": "two straps"},
    )
    sheet = parsed(told.text)
    assert asked in text(sheet)
    assert "two straps" in text(sheet)
    number = str(told.url).rsplit("/", 1)[1]
    client.post("/rates", data={"currency": "GBP", "rate": "2"})
    assert asked in text(page(client, f"/watches/1/quotes/{number}")), "a quote stays as it was told"
    assert "undone" in client.post(f"/watches/1/quotes/{number}/held", data={"withdrawn": "true"}).text
    job = page(client, "/watches/2/drafting?fee=60&prints=3&each=4.50&what=holder")
    assert "73.50 EUR" in text(job).replace("\u00a0", " ")


def test_offers_rates_and_terms_are_noted_and_the_plan_follows(client: TestClient) -> None:
    before = text(page(client, "/watches/1/order").xpath("//*[@class='plan-sum figure']")[0])
    part = page(client, "/watches/1/order").xpath("//a[contains(., 'Alder 39 cushion case')]/@href")[0]
    number = part.rsplit("/", 1)[1].split("#")[0]
    noted = sent(client, f"/offers/part:{number}", supplier="1", price="1.00", breaks="5: 0.90", stock="9")
    assert "5: 0.90" in text(noted.get_element_by_id("offers"))
    after = text(page(client, "/watches/1/order").xpath("//*[@class='plan-sum figure']")[0])
    assert float(after.split()[0]) < float(before.split()[0])
    for day in ("2023-01-01", "2024-01-01", "2025-01-01", "2026-01-01", "2026-09-01"):
        client.post("/rates", data={"currency": "GBP", "rate": "", "day": day})
    assert "Longshore Horology is left out: no rate" in text(page(client, "/watches/1/order"))
    sundries = page(client, "/suppliers").xpath("//form[@class='sundry-form']")[0]
    fields = {i.get("name"): i.get("value") for i in sundries.xpath(".//input")}
    name = next(key for key in fields if key.startswith("held-") and fields[key] == "0")
    sent(client, "/sundries/counted", **{**fields, name: "7"})
    assert page(client, "/suppliers").xpath(f"//input[@name='{name}']/@value") == ["7"]


def test_a_drawer_is_counted_and_labelled(client: TestClient) -> None:
    begun = sent(client, "/stock/takings", place="Drawer D1")
    buttons = begun.xpath("//form[contains(@action, '/pieces/')]/@action")
    there = sent(client, buttons[0], found="yes")
    assert "taking-found" in there.xpath("//li[contains(@id, 'piece-')]")[0].get("class")
    gone = sent(client, buttons[1], found="no")
    assert "1 not found leaves the books" in text(gone)
    sent(client, buttons[1].rsplit("/pieces", 1)[0] + "/done")
    labels = page(client, "/stock/labels?place=Drawer+D1")
    codes = labels.xpath("//li[@class='label']//*[name()='svg']")
    assert len(codes) == 3
    assert "/parts/" in text(codes[0]), "the code says which page it leads to"


def test_late_orders_are_told_on_the_bench_and_the_donors_shares_can_be_weighed(client: TestClient) -> None:
    assert "Longshore Horology is late" in text(page(client, "/"))
    states = {
        text(state)
        for state in page(client, "/orders").xpath("//*[@id='orders']//*[contains(@class, 'order-state')]")
    }
    assert states == {"open", "sent", "part arrived", "arrived", "lost", "called off"}
    assert "Order 4 there is not sent yet" in text(page(client, "/watches/2/order"))
    donor = page(client, "/donors/1")
    weights = {i.get("name"): "1" for i in donor.xpath("//input[starts-with(@name, 'weight-')]")}
    sent(client, "/donors/1/weights", **weights)
    shares = [text(s) for s in page(client, "/donors/1").xpath("//*[@class='share-list']//span")]
    assert round(sum(float(s.split()[0]) for s in shares), 2) == 45.00
    assert max(shares) == min(shares)
