"""Kits read: orders, invoices, chats and letters, each part with its name, its price and nothing of its neighbours.

What is expected of `p*` came with the design, of `hand-*` it was written before the reader saw the text. `own-*` are the
reader's own words, gone through one by one: they hold what it does and prove less.
"""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.measuring.listing.kit import JOIN, LEAVE
from marquetry.core.measuring.listing.learnt import LearntLabel, label_of
from marquetry.core.measuring.listing.naming import LONGEST_NAME
from marquetry.core.measuring.listing.read import LONGEST_LISTING, KitRead, read_kit
from tests.strategies import ANATOMY

WORKED = sorted((Path(__file__).parent / "kits").glob("*.json"))


def same(got: Any, wanted: Any) -> bool:
    if isinstance(wanted, bool | list) or isinstance(got, bool | list):
        return bool(got == wanted)
    return (
        abs(float(got) - float(wanted)) <= 0.011 if _is_number(got) and _is_number(wanted) else got == wanted
    )


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) or str(value).replace(".", "", 1).isdigit()


@pytest.mark.parametrize("file", WORKED, ids=lambda file: file.stem)
def test_a_worked_kit_is_read_whole_and_nothing_else(file: Path) -> None:
    worked = json.loads(file.read_text("utf-8"))
    found = [part.as_dict() for part in read_kit(worked["text"], ANATOMY).parts]
    wanted = [expected["kind"].split("|") for expected in worked["expected"]]
    assert len(found) == len(wanted)
    assert all(part["kind"] in kinds for part, kinds in zip(found, wanted, strict=True)), [
        p["kind"] for p in found
    ]
    for part, expected in zip(found, worked["expected"], strict=True):
        _fields_are_all(part, expected)
        _words_are_right(part, expected)
    for trap in worked.get("traps", []):
        assert not _is_sprung(trap, found, worked["expected"]), trap["why"]


def _fields_are_all(part: dict[str, Any], expected: dict[str, Any]) -> None:
    left = list(part["fields"])
    for field in expected.get("fields", []):
        paths = field["path"].split("|")
        told = [f for f in left if f["path"] in paths and same(f["value"], field["value"])]
        assert told, (field, part["fields"])
        left.remove(told[0])
        assert all(told[0][key] == field[key] for key in ("sure", "tol") if key in field), (field, told)
    assert left == []


def _words_are_right(part: dict[str, Any], expected: dict[str, Any]) -> None:
    for key in ("price", "kit_price", "quantity", "windows", "calibres", "drive", "name"):
        assert key not in expected or part.get(key) == expected[key], key
    assert part.get("suits", []) == expected.get("suits", part.get("suits", []))
    assert set(expected.get("functions", [])) <= set(part["functions"])
    for key, words in expected.get("looks", {}).items():
        assert part["looks"].get(key) in words.split("|")
    assert all(words in part["name"] for words in expected.get("name_has", []))
    assert not any(words in part["name"] for words in expected.get("name_not", []))
    assert not {field["path"] for field in part["fields"]} & set(expected.get("not", []))


def _is_sprung(trap: dict[str, Any], found: list[dict[str, Any]], expected: list[dict[str, Any]]) -> bool:
    fields = [field for part in found for field in part["fields"]]
    if "price" in trap:
        return any(part["price"] and part["price"]["amount"] == trap["price"] for part in found)
    if "kind" in trap:
        counts = [sum(part["kind"] == trap["kind"] for part in parts) for parts in (found, expected)]
        return bool(counts[0] > counts[1])
    if "window" in trap:
        without = [part for part, wanted in zip(found, expected, strict=True) if not wanted.get("windows")]
        return any(trap["window"] in part["windows"] for part in without)
    if "function" in trap:
        return any(trap["function"] in part["functions"] for part in found)
    if "path" in trap:
        return (trap["path"], trap["sure"]) in {(f["path"], f["sure"]) for f in fields}
    value = trap["value"]
    return any(same(f["value"], value) and f["path"] != trap.get("but") for f in fields)


def kinds_of(text: str) -> list[str | None]:
    return [part.kind for part in read_kit(text, ANATOMY).parts]


@pytest.mark.parametrize(
    ("text", "kinds"),
    [
        ("Case\n40 mm, for 28.5 mm dials\nCrystal size 30 mm\nStrap width 20 mm\nCrown at 3", ["case"]),
        ("Case 40 mm\nstrap 20 mm\ncrystal: sapphire 30 x 2.5", ["case", "strap", "crystal"]),
        ("Dial: a, 28.5 mm, $10\nDial: b, 29 mm, $12", ["dial", "dial"]),
        ("1x dial, red\n1x dial, blue", ["dial", "dial"]),
        ("Dial: black 28.5 mm\nfor Osier cases\nwith feet for movements", ["dial"]),
        ("Gasket: crystal, 30 x 0.5 mm\nGasket: crown, 2 x 0.6 mm", ["crystal_gasket", "crown_gasket"]),
        ("Movement holder 30 mm\nMovement Tern 27", ["holder", "movement"]),
        ("Case 40 mm, $50\nCase opener $9\nCrystal press $30\nHand setting tool $8", ["case"]),
        ("Movement Tern 27\nHand sizes 1.50/0.90/0.20\nStem thread 0.90\nHand-winding\nDial side to stem 2.1", ["movement"]),
        ("Case 40 mm\nCrystal 30 mm\nCrown: at 3.8", ["case", "crystal"]),
        ("Case 40 mm $60\nWarranty on the dial 6 months\nReturns: dial unworn", ["case"]),
        ("Hands: 1.50/0.90/0.20\nHour hand length 8 mm\nMinute hand length 12 mm", ["hands"]),
        ("Zifferblatt 28,5 mm\nZeiger 8/12/12,5 mm\nGlas 30 mm\nGehäuseboden: verschraubt", ["dial", "hands", "crystal", "case_back"]),
        ("Cadran 28,5 mm\nBoîtier : 40 mm\nTige : 25 mm\nJoint de couronne 2 x 0,5 mm", ["dial", "case", "stem", "crown_gasket"]),
    ],
)  # fmt: skip
def test_a_part_begins_where_a_line_heads_with_another(text: str, kinds: list[str]) -> None:
    assert kinds_of(text) == kinds


@pytest.mark.parametrize(
    ("line", "price"),
    [
        ("Dial, pip at 12 $25", (25.0, "USD")), ("Dial 28.5 x 0.4 25 $", (25.0, "USD")), ("Dial at 3 24,90 €", (24.9, "EUR")),
        ("Dial 18.- CHF", (18.0, "CHF")), ("Dial 12€50", (12.5, "EUR")), ("Dial EUR 1.250,00", (1250.0, "EUR")),
        ("Dial was $30 now $22", (22.0, "USD")), ("Dial $20, shipping $4", (20.0, "USD")), ("Dial, je 9,00 €", (9.0, "EUR")),
        ("3 dials, $36.00 ($12.00 each)", (12.0, "USD")), ("2x dial 9.00 USD = 18.00 USD", (9.0, "USD")), ("2 dials $18.00, 9.00 $/pc", (9.0, "USD")),
        ("Dial, no price", None), ("Dial, free shipping over $80", None), ("Dial 28.5 mm, 30 pounds", (30.0, "GBP")),
    ],
)  # fmt: skip
def test_a_price_is_the_figure_that_touches_a_currency(line: str, price: tuple[float, str] | None) -> None:
    (part,) = read_kit(line, ANATOMY).parts
    assert part.price == price


DECIDED = "Case Rowan 40\nLug width 20 mm\nSomething brass\nthickness 0.3 mm\nDial Heron 28.5 mm"


def test_what_a_builder_says_of_a_line_goes_before_the_readers_own_word() -> None:
    assert kinds_of(DECIDED) == ["case", "dial"]

    def decided(says: dict[int, str]) -> list[tuple[str | None, list[int]]]:
        return [(part.kind, part.numbers) for part in read_kit(DECIDED, ANATOMY, says).parts]

    assert decided({2: "spacers"}) == [("case", [0, 1]), ("spacers", [2, 3]), ("dial", [4])]
    assert decided({4: JOIN}) == [("case", [0, 1, 2, 3, 4])]
    assert decided({0: "bezel"}) == [("bezel", [0, 1, 2, 3]), ("dial", [4])]
    assert decided({2: LEAVE}) == [("case", [0, 1]), ("dial", [4])]
    assert [number for number, _ in read_kit(DECIDED, ANATOMY, {2: LEAVE}).left] == [2, 3]


HEADS = ("Dial: Heron", "1x hands, gold", "Case – Rowan 40", "2 x strap", "Gehäuse: Eibe", "Tweezers", "Mouvement : Vanneau 27",
         "I also have a crystal,", "3) Bezel insert", "Crown at 3.8", "Part\tQty\tPrice", "Crystal press", "Movement holder")  # fmt: skip
TAILS = ("28.5 mm", "28.5 x 0.4 mm, no date", "hole 1.50/0.90/0.20", "$12.50", "12,50 € each", "for Tern 27 movements", "at 12 $25",
         "ID 32 x OD 34 mm", "20/18", "quick-release", "Shipping $4", "Total 95 €", "\t2\t$17.00", "", "\n", "with domed crystal")  # fmt: skip
THROWN = st.lists(st.tuples(st.sampled_from(HEADS), st.lists(st.sampled_from(TAILS), max_size=4)), max_size=7)


@settings(max_examples=400)
@given(
    thrown=THROWN,
    apart=st.sampled_from(["\n", "\n\n"]),
    decided=st.dictionaries(st.integers(0, 12), st.sampled_from(["dial", JOIN, LEAVE]), max_size=3),
)
def test_whatever_is_thrown_together_every_line_has_one_place(
    thrown: list[tuple[str, list[str]]], apart: str, decided: dict[int, str]
) -> None:
    text = apart.join(f"{head} {', '.join(tails)}" for head, tails in thrown)
    read = read_kit(text, ANATOMY, decided)
    json.dumps([part.as_dict() for part in read.parts], allow_nan=False)
    places = _places(read)
    assert len(places) == len(set(places)), "no line is of two parts"
    written = text.splitlines()
    assert all(part.quantity >= 1 and 0 < len(part.name) <= LONGEST_NAME for part in read.parts if part.kind)
    assert all(written[number].strip() for number in places)
    assert sum(part.kit_price is not None for part in read.parts) <= 1


HOSTILE = ("dial 28.5 mm $20\n", "1x case 40 mm, ", "ID 32 x OD 34 ", "$1 ", "12€50 ", "1 x dial\n", "for ", "press ", "crown at 3\n", "a\t1\t2\n",
           "Part\tQty\tPrice\n", "total ", "Dial: x $1 ", "no feet no date ", "20/18 ")  # fmt: skip


@pytest.mark.parametrize("unit", HOSTILE)
def test_a_text_of_one_thing_again_and_again_is_read_to_its_end(unit: str) -> None:
    read = read_kit(unit * (LONGEST_LISTING // len(unit)), ANATOMY)
    assert all(len(part.fields) <= 40 for part in read.parts), "a part has each field once, or twice to ask"


def _places(read: KitRead) -> list[int]:
    return [number for part in read.parts for number in part.numbers] + [
        number for number, _ in (*read.left, *read.aside)
    ]


LEARNT = (
    LearntLabel("dial", "Lochmass", "centre_hole"),
    LearntLabel("", "Turning ring", "bezel"),
    LearntLabel("", "Goodie", LEAVE),
)


def test_what_a_sellers_own_words_mean_is_learnt() -> None:
    text = "Dial Heron\n28.5 mm\nLochmass: 2.1 mm\n\nTurning ring: steel, outer diameter 40 mm\n\nGoodie: dial postcard 20 mm"
    (dial,) = read_kit(text, ANATOMY).parts
    assert "Lochmass" in map(label_of, dial.unread)
    read = read_kit(text, ANATOMY, None, LEARNT)
    assert [(part.kind, {f.path: f.value for f in part.fields}) for part in read.parts] == [
        ("dial", {"diameter": 28.5, "centre_hole": 2.1}),
        ("bezel", {"outer_diameter": 40.0}),
    ]
    assert [words for _, words in read.left] == ["Goodie: dial postcard 20 mm"]
    assert [label_of(words) for words in ("3) Loch im Zifferblatt: 2 mm", "Ø 2 mm", "hole 2")] == [
        "Loch im Zifferblatt",
        "",
        "hole",
    ]


@pytest.mark.parametrize(
    ("line", "name"),
    [
        ("5. Dial - Slack Water grey, 28.5 x 0.4 mm, no date - £19.00", "Slack Water grey"), ("Strap 22 mm $14", "strap"),
        ("NEW! Heron dial (hot!) 28.5mm 4.8/5 $20 free shipping", "Heron dial"), ('1x "Night Tide" dial – black, 28.5 mm – 18,00 €', '"Night Tide" dial'),
        ("The case is a Bramble 40 in brushed steel: 40 mm", "Bramble 40 in brushed steel"), ("There's also a spare movement, Tern 27, 45 USD", "Tern 27"),
        ("Bracelet, steel, 20 mm", "Bracelet, steel"), ("Movement – Dunlin 24, hand-wound, 23.3 mm", "Dunlin 24"), ("2x crown 6 mm, waterproof", "crown"),
        ("Zifferblatt „Ebbe“, grau, 28,5 mm, NEU, 19,00 € inkl. MwSt.", "„Ebbe“, grau"), ("Hands for Tern 27, 9/13/13 mm", "hands"),
    ],
)  # fmt: skip
def test_a_name_is_the_line_without_what_only_sizes_or_sells(line: str, name: str) -> None:
    assert read_kit(line, ANATOMY).parts[0].name == name
