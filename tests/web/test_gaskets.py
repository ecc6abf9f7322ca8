"""Which gasket: the wall from bore and crystal, packs of the shelf told, what was tried noted."""

import re

import pytest
from starlette.testclient import TestClient

from marquetry.core.fit.squeeze_pairs import gasket_wanted, squeeze_pairs, wall_of
from marquetry.core.sheet.part import Part
from tests.strategies import ANATOMY, MODEL, case_build, report_on
from tests.web.test_pages import page, text

PAGE = "/watches/2/gaskets"


@pytest.mark.parametrize(("bore", "crystal"), [(30.9, 30.0), (31.0, 30.0), (27.0, 26.2)])
def test_a_wall_at_its_limits_is_squeezed_just_so_much(bore: float, crystal: float) -> None:
    """By the report's own figure: at the thinnest and the thickest wall the squeeze is 4 and 18 per cent."""
    build = case_build(1).with_entry("case.crystal_bore", {"value": bore, "tol": 0.01, "source": "measured"})
    build = build.with_entry("crystal.diameter", {"value": crystal, "tol": 0.01, "source": "measured"})
    wanted = gasket_wanted(build, MODEL.rules_of(build))
    assert wanted is not None
    for wall, squeeze in ((wanted.low, 4.0), (wanted.high, 18.0)):
        tried = build.with_entry("crystal_gasket.wall", {"value": wall, "tol": 0.01, "source": "measured"})
        assert report_on(tried).findings["crystal_squeeze"].value == pytest.approx(squeeze, abs=1e-6)
    outer = [crystal + 2 * wanted.low, crystal + 2 * wanted.high]
    assert [wanted.outer_low, wanted.outer_high] == pytest.approx(outer)


def test_a_crystal_that_fills_its_bore_takes_no_gasket_and_a_chart_needs_none_to_begin_with() -> None:
    build = case_build(1)
    rules = MODEL.rules_of(build)
    full = build.with_entry("case.crystal_bore", build.at("crystal.diameter"))
    assert gasket_wanted(full, rules) is None
    assert gasket_wanted(build.without("case.crystal_bore"), rules) is None
    assert squeeze_pairs(build.without("crystal_gasket.wall"), rules) is not None


@pytest.mark.parametrize(
    ("document", "wall"),
    [
        ({"wall": 0.5}, 0.5),
        ({"inner_diameter": 30.0, "outer_diameter": 31.1}, 0.55),
        ({"wall": 0.5, "inner_diameter": 30.0, "outer_diameter": 31.4}, 0.5),
        ({"inner_diameter": 30.0}, None),
    ],
)
def test_a_gaskets_wall_follows_from_both_its_diameters(
    document: dict[str, float], wall: float | None
) -> None:
    gasket = Part.of(ANATOMY.kind("crystal_gasket"), {"name": "Ring", **document})
    assert wall_of(gasket) == (None if wall is None else pytest.approx(wall))


def packs(client: TestClient) -> list[list[str]]:
    """The shelf's gaskets as the page has them, a row each."""
    rows = page(client, PAGE).xpath("//table[contains(@class, 'gasket-held')]/tbody/tr")
    return [[text(cell) for cell in row.xpath("./*")] for row in rows]


def test_the_page_tells_the_wall_and_keeps_what_a_pack_says_and_what_was_tried(client: TestClient) -> None:
    (card,) = page(client, PAGE).xpath("//dl[@class='gasket-card']")
    assert [text(told) for told in card.xpath(".//b")] == ["0.47 to 0.55 mm"]
    assert "the bore is 30.90 mm" in text(card)
    assert ["I-ring 30.0 x 0.45", "0.45"] in [row[:2] for row in packs(client)], "a wall that does not fit"
    made = client.post("/shelf/parts", data={"kind": "crystal_gasket", "name": "Pack of ten", "owned": "yes"})
    number = re.search(r"/parts/(\d+)", str(made.url))
    assert number is not None
    told = {
        "inner_diameter": "30.0",
        "outer_diameter": "31.0",
        "height": "2.4",
        "section": "square",
        "pack": "10",
    }
    for version, (key, value) in enumerate(told.items(), 1):
        form = {"version": str(version), "path": f"crystal_gasket.{key}", "value": value, "source": "listed"}
        assert client.post(f"/parts/{number[1]}/entries", data=form).status_code == 200
    assert ["Pack of ten wall fits", "0.50", "30.00", "31.00", "2.40", "square", "10"] in packs(client)
    client.post("/watches/2/make/trials", data={"kind": "gasket", "what": "0.50", "did": "went in level"})
    (tried,) = page(client, PAGE).xpath("//ul[@class='gasket-tried']")
    assert "0.50: went in level" in text(tried)
    for link in ("/watches/2/remedies?now=true", f"/parts/{number[1]}", "/watches/2/make/part/press-support"):
        assert page(client, link).xpath(f"//a[@href='{PAGE}']"), link
