"""Made parts on their pages: fields, features, versions with files, batches and trials."""

import io
import json
import re
import zipfile
from typing import Any

import numpy as np
import pytest
from PIL import Image
from starlette.testclient import TestClient

from marquetry.core.making.body import made_body
from marquetry.core.making.parts import made_part
from marquetry.core.sheet.build import Build
from marquetry.formats.mesh_files import read_mesh
from tests.strategies import ANATOMY, MODEL
from tests.web.test_pages import LIVE, page, parsed, text

MAKE, HOLDER = "/watches/2/make", "/watches/2/make/part/holder"


def sheet(client: TestClient, watch: int = 2) -> Any:
    return client.get(f"/watches/{watch}/sheet.json").json()["parts"]


def row(shown: Any, path: str) -> Any:
    return shown.get_element_by_id(f"ledger-{path.replace('.', '-')}-value").getparent()


def versions(client: TestClient, address: str = HOLDER) -> Any:
    return page(client, address).xpath("//details[starts-with(@class, 'version ')]")


def made_one(client: TestClient, address: str = HOLDER, **told: str) -> Any:
    at = page(client, address).get_element_by_id("status").get("data-version")
    fields = {"version": at, "printer": "P", "material": "M", **told}
    answer = client.post(f"{address}/versions", data=fields)
    assert answer.status_code == 200, answer.text
    return versions(client, address)[0]


def test_each_size_says_where_it_comes_from_and_can_be_taken(client: TestClient) -> None:
    shown = page(client, HOLDER)
    rim = text(row(shown, "holder.face_to_rim"))
    assert "from the movement's face to the back's lip" in rim
    assert "take 5.92" in rim
    field = {
        "version": "1",
        "path": "holder.face_to_rim",
        "value": "5.17",
        "offer": "5.92",
        "source": "measured",
    }
    client.post(f"{HOLDER}/entries", data=field)
    assert sheet(client)["holder"]["face_to_rim"]["value"] == 5.92
    client.post(f"{HOLDER}/sizes", data={"version": "2"})
    assert not page(client, HOLDER).xpath("//section[@id='made-fields']//button[@class='offer']")
    client.post(f"{HOLDER}/undo", data={"version": "3"})
    assert sheet(client)["holder"]["face_to_rim"]["value"] == 5.92
    assert "a usual size: Case, underside Ø" in text(page(client, f"{MAKE}/part/press-support"))


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("holder.inner_diameter", "30", "less than holder.outer_diameter, 29.15 mm"),
        ("holder.tabs.0.from", "3.8", "less than holder.tabs.0.to, 3.7 mm"),
        ("holder.face_to_rim", "", "the part cannot be made without it"),
    ],
)
def test_what_cannot_be_made_is_told_beside_the_field_that_causes_it(
    client: TestClient, path: str, value: str, words: str
) -> None:
    fields = {"version": "1", "path": path, "value": value, "source": "measured"}
    changed = parsed(client.post(f"{HOLDER}/entries", data=fields, headers=LIVE).text)
    assert words in text(row(changed, path))
    assert not changed.xpath("//section[@id='made-drawing']//svg[@class='plate']")
    refused = client.post(f"{HOLDER}/entries", data={**fields, "version": "2", "value": "thin"}, headers=LIVE)
    assert "“thin” cannot be" in text(row(parsed(refused.text), path))


def test_an_edit_changes_drawing_preview_and_report_at_once(client: TestClient) -> None:
    before = page(client, HOLDER)
    fields = {"version": "1", "path": "holder.face_to_rim", "value": "5.92", "source": "planned"}
    after = parsed(client.post(f"{HOLDER}/entries", data=fields, headers=LIVE).text)
    drawing, was = (shown.get_element_by_id("made-drawing") for shown in (after, before))
    assert "5.92" in text(drawing)
    assert "5.92" not in text(was)
    assert "Back on the holder: clash → clear" in text(after.get_element_by_id("made-report"))
    corners = np.frombuffer(client.get(drawing.get("data-mesh")).content, "<f4").reshape(-1, 3, 3)
    assert corners[..., 2].min() == pytest.approx(-5.92, abs=1e-4)
    build = Build({"format": "marquetry-build/1", "name": "x", "parts": sheet(client)}, ANATOMY)
    mesh = made_body(made_part("holder", build, MODEL.rules_of(build))).mesh
    assert mesh is not None
    assert len(corners) == len(mesh.triangles)


def test_features_go_on_and_off_and_what_is_off_shows_no_fields(client: TestClient) -> None:
    shown = page(client, HOLDER)
    assert "costs: weakens the ring there" in text(shown)
    assert not shown.xpath("//*[@id='ledger-holder-slot-width-value']")
    client.post(f"{HOLDER}/features", data={"version": "1", "key": "slot", "on": "true"})
    shown = page(client, HOLDER)
    assert shown.get_element_by_id("switch-slot").get("aria-checked") == "true"
    assert "the crown's tube and 0.40" in text(row(shown, "holder.slot.width"))
    client.post(f"{HOLDER}/features", data={"version": "2", "key": "slot", "on": "false"})
    assert "slot" not in sheet(client)["holder"]
    assert client.post(f"{HOLDER}/features", data={"version": "3", "key": "wings"}).status_code == 404


def test_a_part_begun_is_only_tried_until_it_is_kept(client: TestClient) -> None:
    answer = client.get(f"{MAKE}/part/spacer:0")
    assert "try=" in str(answer.url)
    shown = parsed(answer.text)
    assert "Trying; nothing is stored" in text(shown)
    sides = text(shown.get_element_by_id("made-sides"))
    assert "The posts stand 0.74 mm lower over the dial" in sides
    assert sheet(client).get("spacers", []) == []
    keep = shown.xpath("//form[.//button[@id='keep-made']]")[0]
    client.post(keep.get("action"), data={"version": "1"})
    assert sheet(client)["spacers"][0]["thickness"]["value"] == 0.74
    assert "Spacer 2" in text(page(client, MAKE)), "another one can be begun"
    second = parsed(client.get(f"{MAKE}/part/spacer:1").text)
    thick = second.get_element_by_id("ledger-spacers-1-thickness-value").get("value")
    assert thick == "0.05", "nothing is missing any more: the thinnest sheet"
    assert client.get(f"{MAKE}/part/spacer:5").status_code == 404
    assert client.get(f"{MAKE}/part/crown").status_code == 404


def test_a_version_has_every_file_under_its_own_name_and_a_readme(client: TestClient) -> None:
    made = made_one(client, notes="first of its kind")
    links = {link.text: link.get("href") for link in made.xpath(".//p[@class='version-files']/a")}
    assert set(links) == {"STL", "3MF", "DXF", "SVG", "PDF", "JSON", "All in a zip"}
    stl = client.get(links["STL"])
    assert stl.headers["content-disposition"] == 'attachment; filename="night-ferry-holder-v2.stl"'
    assert read_mesh(stl.content, "stl").is_watertight
    assert client.get(links["SVG"]).headers["content-security-policy"].startswith("default-src 'none'")
    zipped = client.get(links["All in a zip"])
    with zipfile.ZipFile(io.BytesIO(zipped.content)) as archive:
        names = archive.namelist()
        told = archive.read("readme.txt").decode()
    assert names == [f"holder-v2.{end}" for end in ("stl", "3mf", "dxf", "svg", "pdf", "json")] + [
        "readme.txt"
    ]
    assert "version 2, for “Night Ferry”" in told
    assert "Outer: Ø 29.15 mm\n" in told.replace("\u00a0", " ")
    assert "first of its kind" in told
    assert client.get(links["STL"].replace(".stl", ".exe")).status_code == 404
    assert client.get(links["STL"].replace("/2/make", "/1/make")).status_code == 404


def test_a_version_is_asked_for_corrected_and_told_apart_from_what_is_wanted(client: TestClient) -> None:
    same = made_one(client, printer="the bench's own", material="PETG", corrected="true")
    wanted, asked = ([float(cell.text) for cell in same.xpath(f".//table/tbody/tr/td[{k}]")] for k in (1, 2))
    assert wanted[:3] == [29.15, 27.08, 5.17]
    assert len(wanted) == len(same.xpath(".//table//input")) > 3, "every size of it, each to be measured"
    assert asked[:3] == [29.07, 27.2, 5.2], (
        "outsides come 0.08 too large, insides 0.12 too small, heights 0.03 low"
    )
    zipped = client.get(same.xpath(".//a[.='All in a zip']/@href")[0]).content
    with zipfile.ZipFile(io.BytesIO(zipped)) as archive:
        told = archive.read("readme.txt").decode().replace("\u00a0", " ")
    assert "Outer: Ø 29.07 mm (wanted: Ø 29.15 mm)" in told
    bounds = read_mesh(client.get(same.xpath(".//a[.='STL']/@href")[0]).content, "stl").bounds
    assert bounds[1][0] == pytest.approx(29.07 / 2, abs=1e-3)
    as_wanted = made_one(client, printer="the bench's own", material="PETG")
    assert [float(cell.text) for cell in as_wanted.xpath(".//table/tbody/tr/td[2]")] == wanted
    shown = text(page(client, "/watches/1/make/part/holder"))
    assert "Versions 3 made, 2 spoilt, 65 minutes, 1.20 EUR" in shown.replace("\u00a0", " ")


def test_what_a_version_measures_goes_into_the_watch_as_a_piece_of_the_shelf(client: TestClient) -> None:
    made = made_one(client)
    form = made.xpath(".//form[contains(@action, '/measured')]")[0]
    far = {"made": "1", "size-holder.outer_diameter": "27.10"}
    refused = client.post(form.get("action"), data=far)
    assert "within 1.5 mm of what was asked" in refused.text
    readings = {"size-holder.outer_diameter": "29.11", "size-holder.face_to_rim": "5,21 ±0.01"}
    client.post(form.get("action"), data={"made": "1", **readings})
    assert client.post(form.get("action"), data={"made": "1", **readings}).status_code == 409
    told = {"made": "2", "state": "good", "notes": "clamps well", "minutes": "25", "cost": "1.20"}
    client.post(form.get("action").replace("measured", "told"), data=told)
    made = versions(client)[0]
    put = made.xpath(".//form[contains(@action, '/in-watch')]/@action")[0]
    client.post(put, data={"version": "1"})
    holder = sheet(client)["holder"]
    assert (holder["outer_diameter"]["value"], holder["outer_diameter"]["source"]) == (29.11, "measured")
    assert (holder["face_to_rim"]["value"], holder["face_to_rim"]["tol"]) == (5.21, 0.01)
    assert holder["inner_diameter"]["value"] == 27.08
    made = versions(client)[0]
    assert "in the watch" in text(made)
    part = re.findall(r'href="(/parts/\d+)"', client.get("/watches/2/parts/holder").text)
    owned = client.get(part[0])
    assert "Holder, Night Ferry, made here" in owned.text
    assert "1.20" in owned.text
    client.post("/watches/2/undo", data={"version": "2"})
    assert "in the watch" not in text(versions(client)[0])
    assert "a piece of the shelf" in text(versions(client)[0])


def test_a_description_read_back_is_tried_and_a_strange_file_changes_nothing(client: TestClient) -> None:
    made = made_one(client)
    described = client.get(made.xpath(".//a[.='JSON']/@href")[0]).content
    client.post(f"{HOLDER}/entries", data={"version": "1", "path": "holder.face_to_rim", "value": "6"})
    back = client.post(f"{MAKE}/read", files={"file": ("x.json", described)})
    assert "Trying; nothing is stored" in back.text
    assert "5.17" in text(parsed(back.text).get_element_by_id("made-drawing"))
    assert sheet(client)["holder"]["face_to_rim"]["value"] == 6
    strange = json.loads(described)
    for wrong in (b"[]", b"x", json.dumps({**strange, "part": "crown"}).encode()):
        refused = client.post(f"{MAKE}/read", files={"file": ("x.json", wrong)})
        assert refused.status_code == 422


def test_a_version_is_measured_in_every_size_angles_in_degrees(client: TestClient) -> None:
    made = made_one(client)
    labels = [text(cell) for cell in made.xpath(".//table/tbody/tr/th")]
    assert len(labels) == len(set(labels)) > 5, "two tabs have each their own"
    assert "Tab 1, place from the stem, °" in labels
    (action,) = made.xpath(".//form[contains(@action, '/measured')]/@action")
    (record,) = made.xpath(".//form[contains(@action, '/measured')]/input[@name='made']/@value")
    off = client.post(action, data={"made": record, "size-holder.tabs.0.angle": "120"})
    assert off.status_code == 422
    assert "within 15 ° of what was asked" in off.text.replace("\u00a0", " ")
    told = {"size-holder.tabs.0.angle": "74.2", "size-holder.tabs.0.width": "2.35"}
    client.post(action, data={"made": record, **told})
    shown = page(client, HOLDER).xpath("//details[contains(@class, 'version')]")[0]
    kept = {path: shown.xpath(f".//input[@name='{path}']/@value")[0] for path in told}
    assert kept == {"size-holder.tabs.0.angle": "74.20", "size-holder.tabs.0.width": "2.35"}


def batch_of(client: TestClient, watch: str = "/watches/1/make") -> Any:
    """The first batch on the page."""
    return page(client, watch).xpath("//article[@class='batch']")[0]


def picked(batch: Any, *numbers: int) -> list[str]:
    """What the boxes of these blanks send."""
    boxes = batch.xpath(".//input[@name='blanks']/@value")
    return [boxes[number - 1] for number in numbers]


def test_blanks_are_counted_by_what_became_of_each_and_the_next_order_is_told(client: TestClient) -> None:
    batch = batch_of(client)
    assert "6 bought: 2 in work · 1 good · 0 test · 3 spoilt." in text(batch)
    assert "2 × cut: window cut too wide" in text(batch)
    (told,) = batch.xpath(".//form[contains(@action, '/told')]/@action")
    both = picked(batch, 5, 6)
    client.post(told, data={"what": "stage", "blanks": both, "stage": "cut", "cost": "3.20 EUR"})
    assert "cut 3.20 EUR" in text(batch_of(client).xpath(".//ol/li")[-1])
    assert "6.40 EUR" in text(batch_of(client)), "what both stages cost together"
    assert "cut, 2 blanks" in text(page(client, "/watches/1/money"))
    client.post(told, data={"what": "good", "blanks": both})
    assert "Nothing more to order" in text(batch_of(client))
    late = client.post(told, data={"what": "test", "blanks": both})
    assert late.status_code == 409
    assert "3 good · 0 test" in text(batch_of(client)), "and nothing was changed"
    client.post(
        told, data={"what": "spoilt", "blanks": picked(batch_of(client), 6), "stage": "print", "why": "lint"}
    )
    assert "spoilt at print: lint" in text(batch_of(client))
    client.post(told, data={"what": "work", "blanks": picked(batch_of(client), 6)})
    assert "lint" not in text(batch_of(client)), "in work again, without the reason it is spoilt no more"


@pytest.mark.parametrize(
    ("sent", "status", "words"),
    [
        ({"what": "good"}, 422, "the blanks it is about"),
        ({"what": "stage", "blanks": ["5"], "stage": ""}, 422, "a stage, such as base coat"),
        ({"what": "stage", "blanks": ["5"], "stage": "cut", "cost": "three"}, 422, "cost"),
        ({"what": "gone", "blanks": ["4"]}, 409, "it stays in the record"),
        ({"what": "good", "blanks": ["999"]}, 404, "blank 999 of this batch"),
    ],
)
def test_what_cannot_be_told_of_blanks_changes_nothing(
    client: TestClient, sent: dict[str, Any], status: int, words: str
) -> None:
    before = batch_of(client)
    (told,) = before.xpath(".//form[contains(@action, '/told')]/@action")
    sent = {**sent, "blanks": [f"{number}:1" for number in sent.get("blanks", [])]}
    if sent["blanks"] == ["4:1"]:
        sent["blanks"] = picked(before, 4)
    answer = client.post(told, data=sent)
    assert answer.status_code == status
    assert words in answer.text
    assert text(batch_of(client)) == text(before)


def test_a_batch_begins_with_what_was_bought_and_a_good_blank_becomes_a_piece(client: TestClient) -> None:
    client.post(f"{MAKE}/batches", data={"name": "Cards", "wanted": "2", "bought": "3"})
    batch = batch_of(client, MAKE)
    assert "Cards 2 good ones are wanted" in text(batch)
    assert "3 bought: 3 in work" in text(batch)
    (told,) = batch.xpath(".//form[contains(@action, '/told')]/@action")
    action = told.removesuffix("/told")
    client.post(f"{action}/blanks", data={"count": "2"})
    client.post(told, data={"what": "gone", "blanks": picked(batch_of(client, MAKE), 4, 5)})
    assert "3 bought" in text(batch_of(client, MAKE))
    assert client.post(f"{action}/blanks", data={"count": "999"}).status_code == 422
    assert client.post(f"{action}/removed").status_code == 409, "it has blanks"
    client.post(told, data={"what": "good", "blanks": picked(batch_of(client, MAKE), 1)})
    (piece,) = batch_of(client, MAKE).xpath(".//form[contains(@action, '/piece')]/@action")
    client.post(piece)
    assert "on the shelf" in text(batch_of(client, MAKE).xpath(".//li")[0])
    assert "Cards, made for" in text(page(client, "/shelf?kind=dial"))
    assert client.post(piece.replace(MAKE, "/watches/3/make")).status_code == 404, "another watch's"
    client.post(told, data={"what": "work", "blanks": picked(batch_of(client, MAKE), 1)})
    client.post(f"{MAKE}/batches", data={"name": "Empty", "wanted": "1"})
    gone = page(client, MAKE).xpath(
        "//article[@class='batch']//button[@aria-label='Remove Empty']/../@action"
    )[0]
    client.post(gone)
    assert "Empty" not in text(page(client, MAKE))


def test_a_trial_is_done_on_a_blank_and_pictures_belong_to_both(client: TestClient) -> None:
    number = batch_of(client).xpath(".//input[@name='blanks']/@value")[4].partition(":")[0]
    client.post("/watches/1/make/trials", data={"kind": "gasket", "what": "0.90 square", "on": number})
    assert "trial: 0.90 square" in text(batch_of(client).xpath(".//ol/li")[4])
    assert "gasket: 0.90 square , on blank 5 of Brass blanks" in text(page(client, "/watches/1/make"))
    far = client.post(f"{MAKE}/trials", data={"kind": "coat", "what": "matt", "on": number})
    assert far.status_code == 404, "another watch's blank"
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "white").save(picture, "PNG")
    (photos, *_) = batch_of(client).xpath(f".//form[contains(@action, '/blanks/{number}/photos')]/@action")
    client.post(photos, files={"photo": ("a.png", picture.getvalue())}, data={"caption": "by day"})
    assert "1 picture" in text(batch_of(client).xpath(".//ol/li")[4])
    assert client.post(photos, files={"photo": ("a.png", b"none")}).status_code == 422


def test_trials_are_told_chosen_and_pictured_by_day_and_night(client: TestClient) -> None:
    client.post(f"{MAKE}/trials", data={"kind": "coat", "what": "matt coat", "layers": "2"})
    article = page(client, MAKE).xpath("//article[contains(@class, 'trial')]")[0]
    assert "coat: matt coat 2 layers" in text(article)
    action = article.xpath(".//form[contains(@action, '/told')]/@action")[0]
    client.post(action, data={"version": "1", "did": "lightens the colour", "chosen": "true"})
    assert client.post(action, data={"version": "1", "did": "late"}).status_code == 409
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "white").save(picture, "PNG")
    photos = action.replace("/told", "/photos")
    client.post(photos, files={"photo": ("a.png", picture.getvalue())}, data={"caption": "by night"})
    article = page(client, MAKE).xpath("//article[contains(@class, 'trial-chosen')]")[0]
    assert "by night" in text(article.xpath(".//figure")[0])
    assert client.post(photos, files={"photo": ("a.png", b"no picture")}).status_code == 422
    gone = article.xpath(".//figure//form/@action")[0]
    assert client.post(f"{action.removesuffix('/told')}/removed").status_code == 409, "it has a picture"
    client.post(gone)
    assert not page(client, MAKE).xpath("//article[contains(@class, 'trial')]//figure")
    client.post(f"{action.removesuffix('/told')}/removed")
    assert not page(client, MAKE).xpath("//article[contains(@class, 'trial')]")


def test_the_printers_error_is_told_with_its_fit_and_words_go_to_a_turner(client: TestClient) -> None:
    shown = text(page(client, MAKE))
    assert "the bench's own, PETG: height measured = −0.032 + 1.0000 · asked, from 4 pairs" in shown
    words = page(client, "/watches/1/make/part/holder/words?count=3&material=brass")
    assert "Holder for “Skerry Light”: 3 pieces, brass." in text(words)
    assert "Outer: Ø 29.15 ± 0.10 mm" in text(words)
    offered = page(client, "/watches/2/remedies?now=true").xpath("//p[contains(., 'to be made')]/a/@href")
    assert any("/make/part/spacer:0?try=" in link for link in offered)
