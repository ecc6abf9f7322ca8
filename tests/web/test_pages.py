"""Pages without a browser: what they show, what they refuse, and that nothing is overwritten silently."""

import json
from typing import Any

import pytest
from fastapi.routing import APIRoute
from lxml import html
from starlette.testclient import TestClient

from marquetry.web.finder import routes as finder
from marquetry.web.order import routes as order
from marquetry.web.site.app import ROUTES
from tests.e2e.pages import FOUND, NO_PAGES, PAGES, PASSING
from tests.strategies import case, case_build

LIVE = {"Marquetry-Fragment": "1"}
ENTRY = {"path": "dial.thickness", "value": "0.5", "tol": "0.01", "source": "measured", "place": "tray"}


def page(client: TestClient, address: str, status: int = 200) -> Any:
    answer = client.get(address)
    assert answer.status_code == status
    return parsed(answer.text)


def parsed(page_text: str) -> Any:
    return html.fromstring(page_text)


def text(element: Any) -> str:
    return " ".join(element.text_content().split())


def test_the_bench_shows_each_watch_with_its_worst_verdict(client: TestClient) -> None:
    strips = page(client, "/").xpath("//li[contains(@class,'strip')]")
    told = {
        text(s.xpath(".//*[@class='strip-name']")[0]): s.get("class").split("verdict-")[1] for s in strips
    }
    assert told == {
        "Skerry Light": "tight",
        "Night Ferry": "clash",
        "Orchard": "clash",
        "Tide Table": "tight",
    }
    assert "spacer of this thickness is missing" in text(strips[1])


def test_the_watch_opens_with_its_gravest_finding_and_the_dimensions_it_hangs_on(client: TestClient) -> None:
    shown = page(client, "/watches/2")
    tray = shown.get_element_by_id("tray")
    assert "Stem against tube" in text(tray)
    assert "0.74" in text(tray)
    assert tray.xpath(".//input[@name='path']/@value")[0] == "movement.face_to_stem"
    assert shown.xpath("//*[@id='plate']//*[@data-check][.//*[local-name()='a'][@class='note']]/@data-check")


@pytest.mark.parametrize(
    ("query", "current"),
    [
        ("", "half"),
        ("?view=whole", "whole"),
        ("?view=hands&stretch=3", "hands"),
        ("?view=sideways&stretch=x", "half"),
    ],
)
def test_a_view_is_in_the_address_and_what_it_cannot_mean_is_read_as_usual(
    client: TestClient, query: str, current: str
) -> None:
    chosen = page(client, f"/watches/2{query}").xpath("//*[@id='views']//a[@aria-current]/@id")
    assert chosen[0] == f"view-{current}"


def test_an_edit_is_saved_told_and_undone(client: TestClient) -> None:
    edit = {"version": "1", "side": "dial", "value": "0,74"}
    answer = client.post("/watches/2/spacers?check=stem_height", data=edit, headers=LIVE)
    fragment = parsed(f"<div>{answer.text}</div>")
    turned = text(fragment.get_element_by_id("plate"))
    assert "Stem against tube: clash → clear" in turned
    assert "Rotor to case back: clear → tight" in turned
    assert fragment.get_element_by_id("status").get("data-version") == "2"
    assert client.get("/watches/2/findings.json").json()["findings"]["stem_height"]["verdict"] == "clear"
    client.post("/watches/2/undo", data={"version": "2"}, headers=LIVE)
    assert client.get("/watches/2/findings.json").json()["findings"]["stem_height"]["verdict"] == "clash"
    client.post("/watches/2/redo", data={"version": "3"}, headers=LIVE)
    assert client.get("/watches/2/findings.json").json()["findings"]["stem_height"]["verdict"] == "clear"


def test_forms_work_without_script(client: TestClient) -> None:
    answer = client.post("/watches/1/entries?view=whole", data={"version": "1", **ENTRY})
    assert answer.history[0].status_code == 303
    assert "view=whole" in str(answer.url)
    assert "Dial, thickness: 0.40 ±0.01 measured → 0.50 ±0.01 measured" in answer.text


@pytest.mark.parametrize(
    ("changed", "told"),
    [
        ({"value": "two"}, "expected a number in mm"),
        ({"value": "-1"}, "more than 0"),
        ({"value": "900"}, "at most 200 mm"),
        ({"tol": "−0.1"}, "a tolerance of 0 or more"),
        ({"tol": "x"}, "tolerance: “x”"),
        ({"path": "bezel.clicks", "value": "many"}, "a whole number"),
    ],
)
def test_what_is_refused_is_told_by_the_field_and_kept_as_typed(
    client: TestClient, changed: dict[str, str], told: str
) -> None:
    form = {"version": "1", **ENTRY, **changed}
    form["place"] = "tray" if form["path"] == "dial.thickness" else "ledger"
    answer = client.post("/watches/1/entries?check=stem_height", data=form)
    assert answer.status_code == 422
    name = f"{form['place']}-{form['path'].replace('.', '-')}-value"
    row = parsed(answer.text).get_element_by_id(name).getparent()
    assert told in text(row.xpath(".//*[contains(@class,'error')]")[0])
    assert row.xpath(".//input[@name='value']/@value") == [form["value"]]
    assert 'data-version="1"' in client.get("/watches/1").text


def case_at(client: TestClient, number: int) -> Any:
    return client.get(f"/watches/{number}/sheet.json").json()


def test_a_second_tab_with_an_older_version_is_told_and_changes_nothing(client: TestClient) -> None:
    first = client.post("/watches/1/entries", data={"version": "1", **ENTRY}, headers=LIVE)
    assert "Changed meanwhile" not in first.text
    second = client.post("/watches/1/entries", data={"version": "1", **ENTRY, "value": "0.9"}, headers=LIVE)
    assert "Changed meanwhile" in second.text
    assert "plate" not in second.text
    plain = client.post("/watches/1/entries", data={"version": "1", **ENTRY, "value": "0.9"})
    assert plain.status_code == 409
    assert case_at(client, 1)["parts"]["dial"]["thickness"]["value"] == 0.5


def test_an_empty_value_makes_a_dimension_unknown(client: TestClient) -> None:
    client.post("/watches/1/entries", data={"version": "1", **ENTRY, "value": " "})
    found = client.get("/watches/1/findings.json").json()["findings"]["stem_height"]
    assert (found["verdict"], found["missing"]) == ("unmeasured", ["dial.thickness"])
    shown = page(client, "/watches/1?check=stem_height").get_element_by_id("tray")
    assert text(shown.xpath(".//form[@data-kept]")[0]).startswith("Dial, thickness")


def test_inches_and_a_tolerance_are_shown_back_in_millimetres(client: TestClient) -> None:
    data = {"version": "1", **ENTRY, "path": "dial.diameter", "value": '1 1/8" ±0.001', "place": "ledger"}
    answer = client.post("/watches/1/entries", data=data)
    row = parsed(answer.text).get_element_by_id("ledger-dial-diameter-value").getparent()
    assert row.xpath(".//input[@name='value' or @name='tol']/@value") == ["28.575", "0.0254"]


def test_parts_and_their_things_are_added_and_taken_out(client: TestClient) -> None:
    version = 1
    for address, path in [
        ("parts", "dial.feet.-"),
        ("parts/removed", "dial.feet.2"),
        ("parts", "hands.h24"),
        ("parts/removed", "hands.h24"),
        ("parts/removed", "bezel"),
        ("parts", "bezel"),
        ("parts", "spacers.-"),
    ]:
        answer = client.post(
            f"/watches/1/{address}", data={"version": str(version), "path": path}, headers=LIVE
        )
        version += 1
        assert f'data-version="{version}"' in answer.text
    assert case_at(client, 1)["parts"]["bezel"] == {}
    assert client.post("/watches/1/parts", data={"version": "8", "path": "sundial"}).status_code == 404


def test_a_new_watch_with_nothing_known_has_a_page(client: TestClient) -> None:
    answer = client.post("/begin", data={"name": "Blank"})
    assert "Nothing to draw yet" in answer.text
    number = str(answer.url).rsplit("/", 1)[1]
    answer = client.post(f"/watches/{number}/parts", data={"version": "1", "path": "movement"})
    assert answer.status_code == 200
    assert client.post("/begin", data={"name": "x" * 81}).status_code == 422


def test_a_watch_is_taken_off_the_bench_and_put_back(client: TestClient) -> None:
    answer = client.post("/watches/3/removed")
    assert "Orchard" not in answer.text
    assert client.get("/watches/3").status_code == 404
    assert "Orchard" in client.post("/watches/3/restored").text


def upload(client: TestClient, content: bytes) -> Any:
    return client.post("/sheets", files={"sheet": ("../../x.json", content, "application/json")})


def test_a_sheet_is_brought_in_and_given_out_unchanged(client: TestClient) -> None:
    document = {**case(10)["build"], "own key": [1, {"deep": None}]}
    answer = upload(client, json.dumps(document).encode())
    number = int(answer.url.path.rsplit("/", 1)[1])
    given = client.get(f"/watches/{number}/sheet.json")
    assert given.json() == document
    assert given.headers["content-disposition"] == 'attachment; filename="skerry-light-build.json"'


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"{]", "expected JSON"),
        (b'{"format": "marquetry-build/2"}', "marquetry-build/1"),
        (b'{"format":"marquetry-build/1","name":"x","parts":{"dial":{"thickness":-3}}}', "dial.thickness"),
        (json.dumps({**case_build(1).document, "rules": {"stem_height": "x"}}).encode(), "rules.stem_height"),
        (b" " * 1_000_002, "at most 1000 kB"),
    ],
)
def test_a_sheet_that_cannot_be_read_is_told_by_the_field(
    client: TestClient, content: bytes, told: str
) -> None:
    answer = upload(client, content)
    assert answer.status_code == 422
    shown = parsed(answer.text)
    assert told in text(shown.get_element_by_id("new-sheet-told"))
    assert "Traceback" not in answer.text
    assert len(parsed(client.get("/").text).xpath("//li[contains(@class,'strip')]")) == 4


def test_fifty_megabytes_are_refused_in_a_sentence(client: TestClient) -> None:
    answer = upload(client, b"x" * 50_000_000)
    assert answer.status_code == 413
    assert "That is 50 MB" in answer.text
    assert len(page(client, "/").xpath("//li[contains(@class,'strip')]")) == 4


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"Origin": "http://127.0.0.1"}, 200),
        ({"Origin": "http://elsewhere.example"}, 403),
        ({"Origin": "null"}, 403),
        ({"Sec-Fetch-Site": "cross-site"}, 403),
        ({"Host": "elsewhere.example"}, 400),
    ],
)
def test_requests_from_elsewhere_are_refused(
    client: TestClient, headers: dict[str, str], status: int
) -> None:
    assert client.post("/begin", data={"name": "Other"}, headers=headers).status_code == status


def test_every_answer_carries_a_strict_policy(client: TestClient) -> None:
    for address in ("/", "/watches/2", "/static/css/app.css", "/nothing", "/watches/99"):
        policy = client.get(address).headers["content-security-policy"]
        assert "unsafe" not in policy
        assert "script-src 'self'" in policy
    for address in ("/", "/watches/2", "/patterns"):
        shown = page(client, address)
        assert not shown.xpath("//script[not(@src)] | //style | //*[@style] | //*[@onclick]")
        addresses = shown.xpath("//@src | //link/@href | //a/@href")
        assert not [a for a in addresses if "://" in a]


@pytest.mark.parametrize(
    ("address", "status"), [("/watches/99", 404), ("/watches/x", 422), ("/nothing", 404)]
)
def test_an_error_is_a_page_or_json_without_a_trace(client: TestClient, address: str, status: int) -> None:
    shown = page(client, address, status)
    assert shown.xpath("//a[contains(., 'Back to the bench')]")
    answer = client.get(address, headers={"Accept": "application/json"})
    assert set(answer.json()) == {"error"}


def test_an_unforeseen_error_tells_nothing_of_the_program(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    monkeypatch.setattr("marquetry.web.watch.visit.fit_page", lambda *_, **__: 1 / 0)
    quiet = TestClient(client.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    answer = quiet.get("/watches/1")
    assert answer.status_code == 500
    assert "ZeroDivision" not in answer.text
    assert "ZeroDivisionError" in caplog.text


def test_the_section_is_a_file_with_a_plain_name(client: TestClient) -> None:
    answer = client.get("/watches/2/plate.svg?view=whole")
    assert answer.headers["content-type"].startswith("image/svg+xml")
    assert answer.headers["content-disposition"] == 'attachment; filename="night-ferry-whole.svg"'
    assert "<style>" in answer.text


def test_a_hostile_name_is_escaped_everywhere(client: TestClient) -> None:
    name = '"><script>alert(1)</script>'
    answer = client.post("/begin", data={"name": name})
    for address in (str(answer.url), "/"):
        assert "<script>alert" not in client.get(address).text


@pytest.mark.parametrize(
    ("typed", "remark"),
    [("12", "Did you mean the diameter"), ("1.12", "Did you mean inches"), ("280", ""), ("28.5", "")],
)
def test_an_unusual_value_is_saved_and_asked_about(client: TestClient, typed: str, remark: str) -> None:
    data = {"version": "1", **ENTRY, "path": "movement.diameter", "value": typed, "place": "ledger"}
    answer = client.post("/watches/1/entries", data=data)
    row = parsed(answer.text).get_element_by_id("ledger-movement-diameter-value").getparent()
    if typed == "280":
        assert "at most 200 mm" in text(row)
    else:
        assert remark in text(row)
        assert ("Saved, but unusual" in text(row)) == bool(remark)


def test_with_most_dimensions_missing_the_page_shows_what_it_can(client: TestClient) -> None:
    build = case_build(10)
    paths = sorted(build.dimensions)
    for path in [path for index, path in enumerate(paths) if index % 4]:
        build = build.without(path)
    assert len(build.dimensions) <= len(paths) / 4 + 1
    answer = upload(client, json.dumps(build.document).encode())
    number = answer.url.path.rsplit("/", 1)[1]
    for view in ("half", "whole", "hands", "front", "back"):
        shown = page(client, f"/watches/{number}?view={view}")
        assert "unmeasured" in text(shown.get_element_by_id("tray"))
        assert "not measured, drawn where usual" in text(shown.get_element_by_id("plate"))
    assert shown.xpath("//*[@id='rail']//a")
    assert len(page(client, f"/watches/{number}/next").xpath("//ol[@class='next-after']/li")) > 5


def test_every_page_is_looked_at_for_accessibility() -> None:
    """A new route is a page and has an address in tests/e2e/pages.py, or is said there to be none."""
    routers = [*(room.router for room in ROUTES), finder.watch_router, order.watch_router]
    routes = [route for router in routers for route in router.routes if isinstance(route, APIRoute)]
    names = {route.name for route in routes if "GET" in (route.methods or ())}
    assert names == {*PAGES, *NO_PAGES, *PASSING}


def test_no_key_means_two_things_on_a_page(client: TestClient) -> None:
    for addresses in PAGES.values():
        for address in addresses:
            if address != FOUND:
                keys = [element.get("data-key") for element in page(client, address).xpath("//*[@data-key]")]
                assert len(keys) == len(set(keys)), (address, sorted(keys))
