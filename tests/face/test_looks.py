"""How looks are told: words read, choices kept, and what nobody said drawn quietly and said to be so."""

import pytest
from hypothesis import given

from marquetry.core.face.dress import Dress, Origin, colour_of
from marquetry.core.face.face import seen_face
from marquetry.core.face.wording import READ, colours_in, word_in
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.colours import GLOWS, PALETTE
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.schema import Choice, Group, Many
from marquetry.core.values.errors import SheetError
from tests.strategies import ANATOMY, case_build, dressed_builds, report_on


@pytest.mark.parametrize(
    ("key", "words", "expected"),
    [
        ("finish", "enamel-like", "enamel"),
        ("finish", "sunray, darker to the edge", "sunray"),
        ("finish", "oak on brass", "grained wood"),
        ("finish", "heat blued", ""),
        ("finish", "brushed, polished step", "brushed along"),
        ("finish", "circular brushed", "brushed round"),
        ("finish", "linen", "woven"),
        ("finish", "matt", "matt"),
        ("finish", "mattress", ""),
        ("shape", "Leaf set, slim", "leaf"),
        ("shape", "Broad set", "sword"),
        ("shape", "Ferry set", ""),
        ("scale", "Red and blue insert, 24 hours", "twenty-four"),
        ("scale", "Green insert, hours", "twelve"),
        ("scale", "Grey insert, bare", "none"),
        ("surface", "waxed leather", "leather"),
        ("surface", "nylon", "textile"),
        ("edge", "Coin-edge bezel", "coin"),
        ("outline", "Alder 39 cushion case", "cushion"),
        ("coating", "blue, inside", "blue"),
        ("glow", "blue-green", "turquoise"),
        ("glow", "nothing", "nothing"),
    ],
)
def test_a_builders_words_mean_a_word_of_the_vocabulary(key: str, words: str, expected: str) -> None:
    assert word_in(key, words) == expected


@pytest.mark.parametrize(
    ("words", "expected"),
    [
        ("red and blue", ("red", "blue")),
        ("blue and red", ("blue", "red")),
        ("dark brown", ("chestnut",)),
        ("night blue", ("navy",)),
        ("light blue over navy", ("light blue", "navy")),
        ("heat blued steel", ("heat blue", "steel")),
        ("rose gold", ("rose gold",)),
        ("slate over brass", ("slate", "brass")),
        ("Golden Eye", ("gold",)),
        ("reddish", ()),
        ("", ()),
    ],
)
def test_colours_are_found_in_words(words: str, expected: tuple[str, ...]) -> None:
    assert colours_in(words) == expected


def test_what_words_are_read_as_is_what_the_forms_offer() -> None:
    offered: dict[str, set[str]] = {}

    def gather(group: Group | Many) -> None:
        for entry in group.entries:
            if isinstance(entry, Choice):
                offered.setdefault(entry.key, set()).update(entry.options)
            elif isinstance(entry, Group | Many):
                gather(entry)

    for kind in ANATOMY.kinds:
        if kind.face:
            gather(kind.face)
    for key, table in READ.items():
        assert set(table) <= offered[key], key
    assert set(GLOWS) <= offered["glow"]


@pytest.mark.parametrize(
    ("typed", "colour"),
    [("navy", PALETTE["navy"]), ("#1D3557", "#1d3557"), (" Gold ", PALETTE["gold"]),
     ("dark red", PALETTE["burgundy"]), ("#12345", ""), ("plaid", ""), ("", "")],
)  # fmt: skip
def test_a_colour_is_a_name_or_hex(typed: str, colour: str) -> None:
    assert colour_of(typed) == colour


def test_a_choice_goes_before_words_and_words_before_quiet() -> None:
    bare = case_build(1)
    dial = {k: v for k, v in bare.at("dial").items() if k not in {"colour", "finish", FACE}}
    plain = bare.with_parts({"dial": {**dial, "name": "Dial"}})
    for build, origin, finish in (
        (plain, Origin.QUIET, "matt"),
        (plain.with_entry("dial.finish", "fine sunburst"), Origin.READ, "sunray"),
        (plain.with_entry("dial.finish", "sunburst").with_entry("dial.face.finish", "stone"),
         Origin.CHOSEN, "stone"),
    ):  # fmt: skip
        dress = Dress(build)
        assert dress.word("dial", "finish", "matt") == finish
        assert dress.origins["dial.face.finish"] is origin
    assert "dial" in seen_face(plain, report_on(plain)).quiet
    told = plain.with_entry("dial.colour", "blue")
    assert "dial" not in seen_face(told, report_on(told)).quiet


def test_the_builders_words_stay_beside_the_choice() -> None:
    build = case_build(1).with_entry("dial.finish", "like wet slate").with_entry("dial.face.finish", "stone")
    again = Build(build.document, ANATOMY)
    assert (again.at("dial.finish"), again.at("dial.face.finish")) == ("like wet slate", "stone")


@pytest.mark.parametrize(
    ("path", "value", "expected"),
    [
        ("dial.face.inner_ring", -1, "a number from 0 to 30 mm"),
        ("dial.face.inner_ring", "wide", "a number from 0 to 30 mm"),
        ("dial.face.markers", [{"lume": "a bit"}], "true or false"),
        ("dial.face.markers", [{}] * 5, "at most 4 entries"),
        ("dial.face.colour", 7, "words in quotation marks"),
        ("dial.face", "blue", "an object in braces"),
        ("strap.face.rows", 0, "a whole number"),
    ],
)
def test_what_cannot_be_a_look_is_refused_with_its_path(path: str, value: object, expected: str) -> None:
    build = case_build(17)
    with pytest.raises(SheetError, match=expected) as refused:
        build.with_entry(path, value)
    assert refused.value.path.startswith(f"parts.{path}")


@given(build=dressed_builds())
def test_looks_survive_the_sheet_and_change_no_verdict(build: Build) -> None:
    assert Build(build.document, ANATOMY).document == build.document
    held = {key: part for key, part in build.parts.items() if isinstance(part, dict)}
    bare = build.with_parts({key: {k: v for k, v in part.items() if k != FACE} for key, part in held.items()})
    findings, without = report_on(build).findings, report_on(bare).findings
    assert {name: (f.verdict, f.value) for name, f in findings.items()} == {
        name: (f.verdict, f.value) for name, f in without.items()
    }
