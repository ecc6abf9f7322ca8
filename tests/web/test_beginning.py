"""Beginning a watch from all there is, reading listings into it, and the measuring round, by forms alone."""

import html
import re
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.core.sheet.ready_families import READY
from marquetry.core.values.dimension import Source
from marquetry.store import rounds
from marquetry.store.database import Connection
from marquetry.store.watches import StoredWatch, watch
from tests.strategies import MODEL, report_on


def begun(client: TestClient, connection: Connection, **form: str) -> StoredWatch:
    answer = client.post("/begin", data=form)
    assert answer.status_code == 200, answer.text[:400]
    found = re.search(r"/watches/(\d+)", str(answer.url))
    assert found
    return watch(connection, int(found[1]))


@pytest.mark.parametrize("family", READY, ids=lambda family: family.key)
def test_a_family_stands_at_once_without_a_clash_and_every_dimension_assumed(
    family: Any, client: TestClient, connection: Connection
) -> None:
    stored = begun(client, connection, start=f"family:{family.key}")
    assert {d.source for d in stored.build.dimensions.values()} == {Source.ASSUMED}
    findings = client.get(f"/watches/{stored.id}/findings.json").json()["findings"]
    assert {finding["verdict"] for finding in findings.values()} == {"clear", "assumed", "skipped"}
    assert stored.build.dimensions["strap.width"].tol == 2.0, "its spread, and no tolerance"
    assert "Doubt left" in client.get(f"/watches/{stored.id}").text


def test_a_copy_a_kept_family_and_parts_of_the_shelf(client: TestClient, connection: Connection) -> None:
    copy = begun(client, connection, start="watch:1", name="Second light")
    assert copy.build.name == "Second light"
    assert copy.build.dimensions == watch(connection, 1).build.dimensions
    assert "shelf_piece" not in copy.build.text
    kept = client.post("/watches/1/family", data={"name": "Our lights"})
    assert "Our lights" in kept.text
    ours = begun(client, connection, start="kept:1")
    assert {d.source for d in ours.build.dimensions.values()} == {Source.ASSUMED}
    assert ours.build.dimensions["case.seat_to_tube"].value == pytest.approx(2.62)
    client.post("/families/1/removed")
    assert client.post("/begin", data={"start": "kept:1"}).status_code == 422
    movement = connection.execute("SELECT id FROM part WHERE kind = 'movement' LIMIT 1").fetchone()[0]
    picked = begun(client, connection, start="family:three-hands-39", movement=str(movement))
    assert picked.build.at("movement.shelf_part") == movement
    sources = {d.source for p, d in picked.build.dimensions.items() if p.startswith("movement.")}
    assert Source.MEASURED in sources
    assert picked.build.at("movement.posts.hour.top") is not None


@pytest.mark.parametrize(
    "form",
    [
        {"start": "family:boiler"},
        {"start": "watch:99"},
        {"start": "variant:1"},
        {"name": "x" * 81},
        {"case": "9999"},
    ],
    ids=str,
)
def test_what_cannot_be_begun_from_is_told_and_makes_no_watch(
    form: dict[str, str], client: TestClient
) -> None:
    answer = client.post("/begin", data=form)
    assert answer.status_code == 422
    assert 'role="alert"' in answer.text
    assert len(re.findall(r'class="strip ', client.get("/").text)) == 4


def test_what_is_wanted_is_set_checked_and_taken_back(client: TestClient, connection: Connection) -> None:
    form = {
        "version": "1",
        "max_height_mm": "13,0",
        "wrist_circumference_mm": "172",
        "functions": "date, h24",
    }
    client.post("/watches/1/target", data=form)
    findings = client.get("/watches/1/findings.json").json()["findings"]
    assert findings["height_wish"]["verdict"] == "clash"
    assert findings["functions_wish"]["issues"] == ["wanted:h24"]
    refused = client.post("/watches/1/target", data={"version": "2", "max_height_mm": "-1"})
    assert refused.status_code == 422
    assert "At most so high" in refused.text
    client.post("/watches/1/undo", data={"version": "2"})
    assert watch(connection, 1).build.target("max_height_mm") == pytest.approx(13.6)


def test_the_rest_of_a_part_is_assumed_as_in_the_nearest_family(
    client: TestClient, connection: Connection
) -> None:
    before = watch(connection, 3).build
    assert "case.seat_to_back_plane" not in before.dimensions
    client.post("/watches/3/assumed", data={"version": "1", "path": "case"})
    after = watch(connection, 3)
    assert after.undo is not None
    assert "Slim 36" in after.undo
    assert after.build.dimensions["case.seat_to_back_plane"].source is Source.ASSUMED
    assert after.build.dimensions["case.seat_to_tube"] == before.dimensions["case.seat_to_tube"]


def step(page: str) -> dict[str, str]:
    return dict(re.findall(r'name="(step|path)" value="([^"]*)"', page))


def test_a_round_saves_skips_refuses_and_goes_on_where_it_was_left(
    client: TestClient, connection: Connection
) -> None:
    address = "/round/watch/3"
    assert "to measure" in client.get(address).text
    page = client.post(address).text
    first = step(page)
    refused = client.post(f"{address}/taken", data={**first, "value": "seven"})
    assert refused.status_code == 422
    assert 'value="seven"' in refused.text
    page = client.post(f"{address}/taken", data={**first, "value": "-"}).text
    second = step(page)
    assert second["step"] == "1"
    quantity = MODEL.anatomy.quantity_at(second["path"])
    value = quantity.usual
    once = client.post(f"{address}/taken", data={**second, "value": f"{value}", "each": "2"}).text
    assert step(once)["step"] == "1"
    assert "round-taken" in once
    page = client.post(f"{address}/taken", data={**second, "value": f"{value + 0.01}", "each": "2"}).text
    assert step(page)["step"] == "2"
    measured = watch(connection, 3).build.dimensions[second["path"]]
    assert measured.source is Source.MEASURED
    assert measured.value == pytest.approx(value + 0.005, abs=0.001)
    assert step(client.get(address).text) == step(page)
    found = rounds.stored_round(connection, "watch", "3")
    assert found is not None
    for number in range(2, len(found.plan)):
        page = client.post(f"{address}/skipped", data={"step": str(number)}).text
    assert "1 measured" in page
    assert "Take up what was left out" in page
    assert step(client.post(f"{address}/again").text)["step"] == "0"
    client.post(f"{address}/ended")
    assert rounds.stored_round(connection, "watch", "3") is None


def test_a_round_takes_each_part_up_once_and_each_instrument_once_with_it(
    client: TestClient, connection: Connection
) -> None:
    assumed = begun(client, connection, start="family:four-hands-40").id
    for watch_id in (3, assumed):
        client.post(f"/round/watch/{watch_id}")
        found = rounds.stored_round(connection, "watch", str(watch_id))
        steps = found.plan if found else ()
        assert len(steps) > 1
        parts = [one.path.partition(".")[0] for one in steps]
        assert parts == sorted(parts, key=parts.index)
        hands = [(part, one.tool) for part, one in zip(parts, steps, strict=True)]
        assert hands == sorted(hands, key=hands.index)
        assert len(set(hands)) == sum(a != b for a, b in zip(hands, [None, *hands], strict=False))


def part_name(connection: Connection, part: int) -> str:
    return str(connection.execute("SELECT name FROM part WHERE id = ?", (part,)).fetchone()[0])


def test_a_round_of_which_everything_was_left_out_claims_nothing(
    client: TestClient, connection: Connection
) -> None:
    page = client.post("/round/watch/3").text
    found = rounds.stored_round(connection, "watch", "3")
    assert found is not None
    for number in range(len(found.plan)):
        page = client.post("/round/watch/3/skipped", data={"step": str(number)}).text
    assert "0 measured" in page
    assert "Nothing was measured yet" in page
    assert "less doubt" not in page


@pytest.mark.parametrize("address", ["/round/drawer/dial", "/round/donor/1"])
def test_a_drawer_and_a_donor_are_measured_part_by_part(
    address: str, client: TestClient, connection: Connection
) -> None:
    before = client.get(address).text
    page = client.post(address).text
    begun_at = step(page)
    what, which = address.split("/")[2:]
    found = rounds.stored_round(connection, what, which)  # type: ignore[arg-type]
    assert found is not None
    parts = len({one.number for one in found.plan})
    assert f"{len(found.plan)} to measure, {parts} part" in before
    assert all(part_name(connection, one.number) in html.unescape(before) for one in found.plan[:20])
    first = found.plan[0]
    quantity = MODEL.anatomy.quantity_at(
        begun_at["path"] if "." in begun_at["path"] else f"dial.{begun_at['path']}"
    )
    middle = sum(quantity.plausible) / 2
    assert client.post(f"{address}/taken", data={**begun_at, "value": f"{middle:.2f}"}).status_code == 200
    sheet = connection.execute("SELECT sheet FROM part WHERE id = ?", (first.number,)).fetchone()[0]
    assert '"measured"' in sheet


@pytest.mark.parametrize(
    "address",
    ["/round/watch/99", "/round/watch/x", "/round/drawer/boiler", "/round/donor/77", "/watches/99/listing"],
)
def test_what_is_not_there_is_no_round_and_no_listing(address: str, client: TestClient) -> None:
    assert client.get(address).status_code == 404
    assert client.get("/round/nothing/1").status_code == 422


KIT_FOR_TERN = """Case: Harbour
dial size 28.5 mm
crown at 3
for Tern 27 movement

Dial: Slate
diameter 28.5 mm
for Tern 27

Hands: Lantern
hole sizes 1.50/0.90/0.20 mm
for Tern 27 movement

Movement: Tern 27 automatic
diameter 26 mm

Insert: Slate
outer diameter 38 mm
inner diameter 31.5 mm
"""
CASED = ["case", "case_back", "crystal", "crystal_gasket", "chapter_ring", "bezel", "bezel_insert", "crown",
         "crown_gasket", "back_gasket", "holder"]  # fmt: skip


def test_a_strangers_watch_is_open_and_not_red(client: TestClient, connection: Connection) -> None:
    fields = {"start": "family:diver-40", "listing": KIT_FOR_TERN, "came": CASED, "asked_tools": "yes"}
    answer = client.post("/begin", data={**fields, "tools": ["Digital caliper", "Depth gauge"]})
    assert str(answer.url).endswith("/listing"), "each part is seen before it is used"
    taken = client.post(f"{answer.url}/taken", data={"version": "1", "do": "take"})
    assert str(taken.url).endswith("/next"), "what is known for sure needs no second look"
    stored = watch(connection, int(str(taken.url).split("/")[-2]))
    assert stored.build.at("dial.suits") == ["Tern 27"]
    assert stored.build.dimensions["hands.hour.bore"].value == pytest.approx(1.48)
    assert stored.build.dimensions["movement.posts.hour.diameter"].value == pytest.approx(1.5), "it follows"
    told = client.get(f"/watches/{stored.id}/findings.json").json()
    assert told["watch"]["verdict"] in {"open", "tight"}
    assert not [name for name, finding in told["findings"].items() if finding["verdict"] == "clash"]
    assert "Micrometer" not in client.get("/rules?family=instruments").text
    version, tried = stored.version, 0
    for key in ("back_closes", "dial_on", "stem_in_crown"):
        form = {"version": str(version), "key": key, "fits": "yes", "back": "next"}
        assert client.post(f"/watches/{stored.id}/tried", data=form).status_code == 200
        version, tried = version + 1, tried + 1
    after = client.get(f"/watches/{stored.id}/findings.json").json()
    assert after["findings"]["stem_thread"]["by"] == "tried"
    assert after["watch"]["doubt"] < told["watch"]["doubt"] / 1.5
    build = watch(connection, stored.id).build
    assert len(report_on(build).open_names) < 10


def test_next_goes_on_from_one_thing_to_the_next(client: TestClient, connection: Connection) -> None:
    stored = begun(client, connection, start="family:three-hands-39")
    address = f"/watches/{stored.id}"
    shown = client.get(f"{address}/next?do=case.lug_width").text
    assert "Measure: Case" in shown
    refused = client.post(
        f"{address}/next/read", data={"version": "1", "path": "case.lug_width", "value": "wide"}
    )
    assert refused.status_code == 422
    assert "a number in mm" in refused.text
    client.post(f"{address}/next/read", data={"version": "1", "path": "case.lug_width", "value": "20.1 20.2"})
    read = watch(connection, stored.id).build
    assert read.dimensions["case.lug_width"].source is Source.MEASURED
    assert read.dimensions["case.lug_width"].value == pytest.approx(20.15)
    assert read.dimensions["strap.width"].value == pytest.approx(20.15), "what is assumed follows"
    client.post(f"{address}/next/word", data={"version": "2", "path": "crystal.material", "value": "mineral"})
    said = watch(connection, stored.id).build
    assert said.at("crystal.material") == "mineral"
    assert "crystal.material" not in said.assumed_words
    client.post(
        f"{address}/tried", data={"version": "3", "key": "dial_on", "fits": "no", "misses": "dial_feet"}
    )
    findings = client.get(f"{address}/findings.json").json()["findings"]
    assert (findings["dial_feet"]["verdict"], findings["dial_feet"]["by"]) == ("clash", "tried")
    client.post(f"{address}/tried", data={"version": "4", "key": "dial_on", "fits": "forget"})
    assert not watch(connection, stored.id).build.tried
    assert (
        client.post(f"{address}/tried", data={"version": "5", "key": "wings", "fits": "yes"}).status_code
        == 404
    )
