"""The handbook: every page has a chapter, every figure draws, every link leads on, words are found."""

import re
from typing import Any

import pytest
from lxml import html
from starlette.testclient import TestClient

from marquetry.core.values.errors import MarquetryError
from marquetry.web.handbook.chapters import SHELVES, chapter_for, chapters
from marquetry.web.handbook.figures import KINDS, figure_scene
from marquetry.web.handbook.look_up import every_section, search_handbook
from marquetry.web.handbook.tour import STOPS
from marquetry.web.handbook.written import Passage
from tests.e2e.pages import PAGES, PASSING
from tests.strategies import MODEL
from tests.test_layers import SOURCE


def parsed(text: str) -> Any:
    return html.fromstring(text)


def page_of(client: TestClient, address: str) -> Any:
    answer = client.get(address)
    assert answer.status_code == 200, address
    return parsed(answer.text)


OF_ITSELF = {"handbook", "chapter"}
FIGURE = re.compile(r"\(figure:([^)]*)\)")


def test_every_page_has_the_help_that_its_key_leads_to(client: TestClient) -> None:
    """And it is one key away: `H`, on every page."""
    without = {name for name in (set(PAGES) | PASSING) - OF_ITSELF if chapter_for(name) is None}
    assert without <= {"work"}, "a page of work in hand says itself what it is"
    told = [page for each in chapters() for page in each.helps_on]
    assert len(told) == len(set(told)), "one chapter a page"
    for name in ("bench", "watch", "orders"):
        helps = page_of(client, PAGES[name][0]).xpath('//a[@data-key="H"]/@href')
        assert helps == [f"/handbook/for/{name}"]
        answer = client.get(helps[0])
        assert answer.url.path == f"/handbook/{chapter_for(name).key}"  # type: ignore[union-attr]  # seen above
    assert client.get("/handbook/for/nowhere").url.path == "/handbook"


def test_there_are_fourteen_walks_in_order_and_each_shelf_is_filled() -> None:
    walks = [each.title for each in chapters() if each.shelf == "walks"]
    assert [title.split(" ")[0] for title in walks] == [f"J{number}" for number in range(1, 15)]
    assert {each.shelf for each in chapters()} == {shelf for shelf, _ in SHELVES}
    assert len({each.key for each in chapters()}) == len(chapters())


@pytest.mark.parametrize("told", sorted({each for c in chapters() for each in FIGURE.findall(c.text)}))
def test_every_figure_of_the_handbook_can_be_drawn(told: str) -> None:
    scene = figure_scene(MODEL, told)
    assert scene.marks
    assert scene.title


@pytest.mark.parametrize(
    "told", ["", "plate:nowhere", "photo:x", "gap:nothing", "made:nothing", "plate:x?dial.thickness=1"]
)
def test_a_figure_of_which_nothing_is_known_is_told_and_never_drawn_as_something_else(told: str) -> None:
    with pytest.raises(MarquetryError):
        figure_scene(MODEL, told)


def test_every_kind_of_figure_is_used() -> None:
    assert {told.partition(":")[0] for c in chapters() for told in FIGURE.findall(c.text)} == set(KINDS)


def test_every_chapter_opens_and_every_link_in_it_leads_somewhere(client: TestClient) -> None:
    seen: set[str] = set()
    for each in chapters():
        page = page_of(client, f"/handbook/{each.key}")
        text = page.xpath('//article[@class="handbook-text"]')[0]
        assert each.about in text.text_content()
        assert not re.search(r"figure:[a-z]", text.text_content()), "a figure that was not drawn"
        assert len(text.xpath(".//svg")) >= len(FIGURE.findall(each.text))
        assert len(page.xpath("//@id")) == len(set(page.xpath("//@id"))), each.key
        seen |= {str(link).partition("#")[0] for link in text.xpath(".//a/@href")}
    for link in sorted(seen):
        assert client.get(link).status_code == 200, link


def test_what_the_model_describes_is_in_the_handbook_by_itself(client: TestClient) -> None:
    """An engineer who adds a check, a dimension or a school writes nothing here."""
    checks = page_of(client, "/handbook/checks").text_content()
    assert all(check.title in checks and check.words.means in checks for check in MODEL.checks)
    ids = set(page_of(client, "/handbook/dimensions").xpath("//dt/@id"))
    assert {f"{kind.key}.{path}" for kind in MODEL.anatomy.kinds for path, _ in kind.quantities()} == ids
    schools = page_of(client, "/handbook/schools").text_content()
    assert all(practice.reason in schools for school in MODEL.school_list for practice in school.practices)
    assert page_of(client, "/handbook/keys").xpath("//kbd")


@pytest.mark.parametrize(
    ("asked", "expected"),
    [
        ("squeeze", "Crown gasket, squeeze"),
        ("STEM cut", "To cut off the stem"), ("taken apart", "J2 · One out of two"),
        ("csv", "Shelf, donors, import and export"), ("six positions", "Prove"),
        ("passphrase", "House rules"),
        ("hour bore", "Hands, hour hand, bore Ø"),
    ],
)  # fmt: skip
def test_a_builder_finds_what_she_looks_up(client: TestClient, asked: str, expected: str) -> None:
    found = page_of(client, f"/handbook?q={asked}")
    titles = [
        " ".join(link.text_content().split())
        for link in found.xpath('//section[@class="handbook-found"]//li/a')
    ]
    assert expected in titles
    first = found.xpath('//section[@class="handbook-found"]//li/a/@href')[0]
    assert client.get(first).status_code == 200


def test_a_search_is_for_all_words_and_titles_come_first() -> None:
    sections = [
        Passage("a", "", "Cutting", "the stem, by a caliper"),
        Passage("b", "", "Stems", "cut once and stop"),
        Passage("c", "", "Other", "nothing of the kind"),
    ]
    assert [one.section.chapter for one in search_handbook(sections, "stem cut")] == ["a", "b"]
    assert [one.section.chapter for one in search_handbook(sections, "stem")] == ["b", "a"]
    assert [one.hit for one in search_handbook(sections, "CALI")] == ["caliper"]
    assert search_handbook(sections, "  ?! ") == []
    assert search_handbook(sections, "tem") == [], "by beginnings alone"


def test_what_is_looked_up_is_told_as_it_was_typed_and_never_run(client: TestClient) -> None:
    page = client.get("/handbook", params={"q": "<script>alert(1)</script>"}).text
    assert "<script>alert" not in page
    assert "Nothing found" in " ".join(parsed(page).text_content().split())


def test_the_tour_leads_through_the_demo_and_ends_where_one_s_own_begins(client: TestClient) -> None:
    assert page_of(client, "/").xpath('//a[@href="/tour/1"]'), "offered where the demo's watches are"
    address, seen = "/tour/1", []
    while address:
        answer = client.get(address)
        assert answer.status_code == 200
        page = parsed(answer.text)
        (panel,) = page.xpath('//aside[@class="tour"]')
        seen.append(panel.xpath(".//b")[0].text_content())
        address = next(iter(panel.xpath('.//a[@class="tour-next"]/@href')), "")
        end = panel.xpath('.//a[text()="End the tour"]/@href')[0]
        assert not parsed(client.get(end).text).xpath('//aside[@class="tour"]')
    assert seen == [stop.title for stop in STOPS]
    assert answer.url.path == "/begin"
    for wrong in ("0", "11", "x"):
        assert client.get(f"/tour/{wrong}").status_code in {404, 422}
        assert not page_of(client, f"/?tour={wrong}").xpath('//aside[@class="tour"]')
    client.post("/watches/2/removed")
    assert not page_of(client, "/").xpath('//a[@href="/tour/1"]')
    assert client.get("/tour/2").status_code == 404


NAMED = re.compile(r"(?<!\*)\*([^*\n]{3,60})\*(?!\*)")


def plain(words: str) -> str:
    """Letters alone, so that what a template breaks over lines or puts together is found all the same."""
    return re.sub(r"\s+", " ", re.sub(r"[{}%'\"’_]", " ", words)).casefold()


def test_what_the_handbook_names_is_written_on_the_program() -> None:
    """Words in italics are those that a builder has to find on a page: buttons, headings, steps, checks."""
    files = [p for p in SOURCE.rglob("*") if p.suffix in {".py", ".html", ".js"} and p.parent.name != "pages"]
    titles = " ".join(check.title for check in MODEL.checks)
    written = plain(" ".join(p.read_text("utf-8") for p in files) + titles)
    wrong = [
        (c.key, name) for c in chapters() for name in NAMED.findall(c.text) if plain(name) not in written
    ]
    assert wrong == []


def test_every_section_has_words() -> None:
    """Nothing that could be found is empty, and every anchor is one."""
    from marquetry.web.handbook.written import Writer  # noqa: PLC0415  # with an address of its own

    found = list(every_section(MODEL, Writer(MODEL, lambda *_, **__: "/x")))  # type: ignore[arg-type]  # no page is asked for
    assert len(found) > 250
    assert all(section.text for section in found if section.chapter != "formats")
    assert all(re.fullmatch(r"[\w.-]*", section.anchor) for section in found)
