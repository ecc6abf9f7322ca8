"""Listings read: the worked ones, a table of our own, and that nothing hostile breaks the reader."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.measuring.listing.labels import BY_KIND
from marquetry.core.measuring.listing.lengths import MOST_FIGURES, lengths_in
from marquetry.core.measuring.listing.read import LONGEST_LISTING, read_listing
from marquetry.core.values.errors import NotFoundError
from tests.strategies import ANATOMY

WORKED = sorted((Path(__file__).parent / "listings").glob("*.json"))


def told(text: str, kind: str | None = None) -> list[dict[str, Any]]:
    return [listing.as_dict() for listing in read_listing(text, ANATOMY, kind)]


def same(got: Any, wanted: Any) -> bool:
    return bool(got == wanted if isinstance(wanted, str | list) else abs(float(got) - wanted) <= 0.011)


@pytest.mark.parametrize("file", WORKED, ids=lambda file: file.stem)
def test_a_worked_listing_is_read_whole_and_nothing_else(file: Path) -> None:
    worked = json.loads(file.read_text("utf-8"))
    found = told(worked["text"])
    assert len(found) == len(worked["expected"])
    for listing, expected in zip(found, worked["expected"], strict=True):
        assert listing["kind"] in expected["kind"].split("|")
        left = list(listing["fields"])
        for field in expected["fields"]:
            paths = field["path"].split("|")
            match = next(f for f in left if f["path"] in paths and same(f["value"], field["value"]))
            left.remove(match)
            assert all(match[key] == field[key] for key in ("sure", "tol") if key in field)
        assert left == []
        for key, words in expected.get("looks", {}).items():
            assert listing["looks"][key] in words.split("|")
        assert all(listing[key] == expected[key] for key in ("windows", "price") if key in expected)
        assert sorted(listing["functions"]) == sorted(expected.get("functions", []))
    _no_trap_is_fallen_into(found, worked["traps"])


def _no_trap_is_fallen_into(found: list[dict[str, Any]], traps: list[dict[str, Any]]) -> None:
    fields = [field for listing in found for field in listing["fields"]]
    unread = [words.casefold() for listing in found for words in listing["unread"]]
    for trap in traps:
        if "look" in trap:
            assert all(listing["looks"].get(trap["look"]) != trap["value"] for listing in found)
        elif "value" in trap:
            sized = [f for f in fields if isinstance(f["value"], float) and f["path"] != trap.get("but")]
            assert not any(same(field["value"], trap["value"]) for field in sized), trap["why"]
        elif "path" in trap:
            hit = [
                f for f in fields if f["path"] == trap["path"] and f["sure"] == trap.get("sure", f["sure"])
            ]
            assert hit == [], trap["why"]
        for key, wanted in (("unread", True), ("read", False)):
            if key in trap:
                assert any(all(word in words for word in trap[key]) for words in unread) is wanted, trap[
                    "why"
                ]


OURS: list[tuple[str, str, dict[str, Any]]] = [
    ("Curlew diver case\nCase size: 42 mm (without crown)\n22mm lug width\nTakes 28.5 mm dials\nCrystal size: 31.5 x 2.5 mm\n"
     "Screw-down crown at 4 o'clock\nWeight 85 g", "case",
     {"diameter": 42, "lug_width": 22, "dial_bore": 28.6, "crown_angle": 120}),
    ("Zifferblatt, sonnenschliff blau\nDurchmesser: 28,5 mm\nStärke 0,4mm\nMittelloch Ø 2,0 mm\nDatumsfenster bei 3 Uhr",
     "dial", {"diameter": 28.5, "thickness": 0.4, "centre_hole": 2.0, "date_window_angle": 90}),
    ("Dial, matte black, no date\n29.5 x 0.4 mm\nfits 40 mm cases", "dial",
     {"diameter": 29.5, "thickness": 0.4, "windows": []}),
    ("28.5mm diameter dial, 0.4 mm thick", "dial", {"diameter": 28.5, "thickness": 0.4}),
    ('Dial size: 1.122"\nThickness: 0.016 in', "dial", {"diameter": 28.4988, "thickness": 0.4064}),
    ("Hand set for Tern 27\nHour hand: length 8.2 mm, hole 1.50 mm\nMinute hand: length 12.1 mm, hole 0.90 mm", "hands",
     {"hour.length": 8.2, "hour.bore": 1.48, "minute.length": 12.1, "minute.bore": 0.88}),
    ("Hands\nhour: 8.0 mm (bore 1.50 mm)\n24h hand length: 10.5 mm", "hands",
     {"hour.length": 8.0, "hour.bore": 1.48, "h24.length": 10.5}),
    ("Aiguilles dorées\nLongueur heures 8 mm, minutes 11,5 mm, secondes 12 mm\nTrou 1,50 / 0,90 / 0,20", "hands",
     {"hour.length": 8, "minute.length": 11.5, "seconds.length": 12, "hour.bore": 1.48, "minute.bore": 0.88,
      "seconds.bore": 0.18}),
    ("Plover 26 movement\ndiameter: 1.063 in (27.0 mm)\nthickness 5.32 mm\naccuracy -10/+30 s/day; lift angle 53°",
     "movement", {"diameter": 27.0, "face_to_back": 5.32}),
    ("Double domed sapphire crystal\nDiameter 30.5 mm ± 0.02\nEdge thickness 2.0 mm\nCentre thickness approx. 3.1 mm",
     "crystal", {"diameter": 30.5, "edge_thickness": 2.0, "centre_thickness": 3.1}),
    ("Ceramic bezel insert\nOD 37.8mm / ID 30.6mm\n0.6 mm thick", "bezel_insert",
     {"outer_diameter": 37.8, "inner_diameter": 30.6, "thickness": 0.6}),
    ("O-ring crown gasket\nID 2.4 mm, cross-section 0.5 mm\npack of 10", "crown_gasket",
     {"inner_diameter": 2.4, "cord": 0.5}),
    ("I-ring crystal gasket 30.0 x 0.50 mm", "crystal_gasket", {"wall": 0.5}),
    ("Crown, screw-down\nDiameter 6.5 mm\nTap 0.90\nTube 2.5 mm", "crown", {"diameter": 6.5, "thread": "0.90"}),
    ("Winding stem\nLength 24.6 mm\nThread 0.90\nPart no. 401", "stem", {"length": 24.6, "thread": "0.90"}),
    ("Spring bars (2 pcs)\nLength: 22 mm\nDiameter: 1.5mm\nTip: 0.8 mm\nfor 20 mm lugs", "spring_bars",
     {"length": 22, "diameter": 1.5, "tip_diameter": 0.8}),
    ("Lederarmband\nAnstoßbreite 20 mm, Schließe 18 mm, Dicke 4 mm", "strap",
     {"width": 20, "clasp_width": 18, "thickness": 4}),
    ('Redshank 40\nDiameter (in)  1.575\nLug to lug: 1 7/8"\nLug width (mm)\t20', "case",
     {"diameter": 40.005, "lug_to_lug": 47.625, "lug_width": 20}),
    ("Case\nDiameter: Ø41mm (44 mm with crown)\n20 mm lugs\nwith crown 44 mm\nwide lume", "case",
     {"diameter": 41, "lug_width": 20}),
    ("Dial Ø28.5mm / 0.4mm\nCenter hole Ø2.0", "dial", {"diameter": 28.5, "thickness": 0.4, "centre_hole": 2.0}),
    ("Hands\nhole: 1.80/1.50/0.90/0.25 mm", "hands",
     {"h24.bore": 1.78, "hour.bore": 1.48, "minute.bore": 0.88, "seconds.bore": 0.23}),
    ("Hands, holes: 150/90/20 (1/100 mm)\n8/12/12.5 mm, black", "hands",
     {"hour.bore": 1.48, "minute.bore": 0.88, "seconds.bore": 0.18, "hour.length": 8, "minute.length": 12,
      "seconds.length": 12.5}),
    ("Hand set\n| Hand | Length | Hole |\n| Hour | 8.0 | 1.50 |\n| Minute | 12.0 | 0.90 |", "hands",
     {"hour.length": 8, "hour.bore": 1.48, "minute.length": 12, "minute.bore": 0.88}),
    ("Mouvement automatique\nDiamètre 11 1/2 lignes (26,0 mm)\nHauteur 3,9 mm", "movement",
     {"diameter": 26, "face_to_back": 3.9}),
    ("Movement Tern 26\nØ 11.5\"' / H 4.20 mm\n38 h power reserve, 25 jewels", "movement",
     {"diameter": 25.9417, "face_to_back": 4.2}),
    ("Insert, ceramic\n38 x 30.5 x 0.8 mm", "bezel_insert",
     {"outer_diameter": 38, "inner_diameter": 30.5, "thickness": 0.8}),
    ("Caseback O-ring 31.0mm x 0.6mm", "back_gasket", {"inner_diameter": 31, "cord": 0.6}),
    ("Rubber strap 22mm\nThickness at lugs 4.5 mm, at the buckle 2.5mm\nLength 120/75 mm\n22mm at lugs / 18mm at buckle",
     "strap", {"width": 22, "thickness": 4.5, "clasp_width": 18}),
    ("Bracelet\nLink length 8.2 mm\nClasp length 38 mm", "strap", {"link_length": 8.2, "clasp_length": 38}),
    ("Stem, 0.90 thread, 28 mm total length, 6 mm threaded", "stem",
     {"thread": "0.90", "length": 28, "thread_length": 6}),
    ("Chapter ring inner diameter 27.5mm, drop 0.3 mm", "chapter_ring", {"inner_diameter": 27.5, "drop": 0.3}),
    ("• Diameter — 28.5 mm\n• Thickness — 0.4 mm\n• Date — 4:30 o'clock\nDial, teal", "dial",
     {"diameter": 28.5, "thickness": 0.4, "date_window_angle": 135}),
    ("Enamel dial\nThk. 0.9 mm at the centre, 0.5 mm at the edge\nDate window 3 o'clock", "dial",
     {"thickness": 0.9, "edge_thickness": 0.5, "date_window_angle": 90}),
    ("Diameter of the dial is 28.5 mm and its thickness is 0.4 mm. The centre hole measures 2 mm.", "dial",
     {"diameter": 28.5, "thickness": 0.4, "centre_hole": 2}),
    ("Hour hand 8.00 mm / 1.50 mm hole\nMinute 11.5 x 0.90", "hands",
     {"hour.length": 8, "hour.bore": 1.48, "minute.length": 11.5, "minute.bore": 0.88}),
    ("24-hour hand, red arrow\nLength 11 mm, hole 1.80 mm", "hands", {"h24.length": 11, "h24.bore": 1.78}),
    ("Sword hands, fit Tern 28 GMT\nlength 8/12/12.5/10.5 mm", "hands",
     {"hour.length": 8, "minute.length": 12, "seconds.length": 12.5, "h24.length": 10.5}),
    ("Dial diameter: 28.5 mm / 1.12 inches. Thickness: .4mm", "dial", {"diameter": 28.5, "thickness": 0.4}),
    ("O-Ring 0.7 x 29.5 mm", "back_gasket", {"inner_diameter": 29.5, "cord": 0.7}),
    ("Strap: 22/20 mm, 4 mm thick", "strap", {"width": 22, "clasp_width": 20, "thickness": 4}),
    ("Case\nLug distance: 47 mm lug to lug\nstrap width 20 mm", "case", {"lug_to_lug": 47, "lug_width": 20}),
    ("Case\n39mm x 47mm lug to lug\n18mm lug\nCrown @ 3\nTotal length with strap 240 mm for $40", "case",
     {"diameter": 39, "lug_to_lug": 47, "lug_width": 18, "crown_angle": 90}),
    ("Case for Tern 27, diameter excl. crown 39.5 mm, incl. crown 43 mm\nStrap size 20 mm", "case",
     {"diameter": 39.5, "lug_width": 20}),
    ("Boîtier 41 mm, entrecorne 22 mm, hauteur 12,9 mm, couronne vissée à 3,8 h", "case",
     {"diameter": 41, "lug_width": 22, "crown_angle": 114, "claimed_height": 12.9}),
    ("Crown\nCrown diameter: 7.0 mm\nThread M0.9\nTube outer diameter 2.5 mm\nwith O-ring 3.0 x 0.5", "crown",
     {"diameter": 7, "thread": "0.9"}),
    ("Gasket for case back\nID: 29.8mm\nCS: 0.80mm", "back_gasket", {"inner_diameter": 29.8, "cord": 0.8}),
    ("Flat gasket for case backs, 30.2 x 29.0 x 0.5 mm", "back_gasket", {"inner_diameter": 29, "cord": 0.6}),
    ("Bezel insert 30.6mm x 38mm x 1mm sapphire\nnumerals 2 mm high, tape 0.1 mm thick", "bezel_insert",
     {"outer_diameter": 38, "inner_diameter": 30.6, "thickness": 1}),
    ("Bezel insert 38mm outside, 30.6mm inside", "bezel_insert", {"outer_diameter": 38, "inner_diameter": 30.6}),
    ("Crystal I-gasket for 31.5 mm crystal, wall thickness 0.45 mm", "crystal_gasket", {"wall": 0.45}),
    ("Dial spacer 0.15 mm OD 28.4 ID 26.5", "spacers",
     {"thickness": 0.15, "outer_diameter": 28.4, "inner_diameter": 26.5}),
    ("Dial 28.5mm for 40mm case, 1/64 in thick, edge 0.35 mm\nhole in the centre: 2 mm; Date: at 3", "dial",
     {"diameter": 28.5, "thickness": 0.3969, "edge_thickness": 0.35, "centre_hole": 2, "date_window_angle": 90}),
    ("Dial\nSize\n28.5 mm\nCenter hole (mm)\n2.0\nHeight\n1.1 mm\n3 o'clock date", "dial",
     {"diameter": 28.5, "centre_hole": 2, "date_window_angle": 90}),
    ("Mineral glass dome 30mm, thickness 1.2 mm (edge) / 2.1mm (centre)", "crystal",
     {"diameter": 30, "edge_thickness": 1.2, "centre_thickness": 2.1}),
    ("Hands for Tern 27, 9/13/13 mm\nMounting holes: H 1.50, M 0.90, S 0.20", "hands",
     {"hour.length": 9, "minute.length": 13, "seconds.length": 13, "hour.bore": 1.48, "minute.bore": 0.88,
      "seconds.bore": 0.18}),
    ("Hands\nhour 8, minute 12, second 12.5 mm + 4 mm tail", "hands",
     {"hour.length": 8, "minute.length": 12, "seconds.length": 12.5}),
    ("Hour/minute/second: 8.5/12.5/12.5 mm (length); 1.5/0.9/0.2 mm (hole)", "hands",
     {"hour.length": 8.5, "minute.length": 12.5, "seconds.length": 12.5, "hour.bore": 1.48, "minute.bore": 0.88,
      "seconds.bore": 0.18}),
    ("Case\n⌀ 38.5 mm | 46 mm lug-lug | 20 mm strap\ncrown 4:00", "case",
     {"diameter": 38.5, "lug_to_lug": 46, "lug_width": 20, "crown_angle": 120}),
    ("Crown gasket Ø ext 3.5 mm Ø int 2.5mm ép 0.5 mm", "crown_gasket", {"inner_diameter": 2.5, "cord": 0.5}),
    ("Mvt Tern 28, height without dial 5.3mm, size 27 mm (overall 29.3 mm)", "movement",
     {"face_to_back": 5.3, "diameter": 27}),
    ("Cadran bleu soleillé\n28,5 mm // épaisseur 0,4 mm, percement central 2,0 mm", "dial",
     {"diameter": 28.5, "thickness": 0.4, "centre_hole": 2}),
    ("Crown Ø6.8mm; thread 0.9; tube hole Ø 2.0mm", "crown", {"diameter": 6.8, "thread": "0.9"}),
    ("| Spec | Value |\n|---|---|\n| Case diameter | 40 mm |\n| Lug width | 20 mm |\n| Crown | 4 o'clock |", "case",
     {"diameter": 40, "lug_width": 20, "crown_angle": 120}),
    ("Gehäuse\nDurchmesser ..... 40,0 mm\nLänge über Hörner ..... 48,0 mm", "case",
     {"diameter": 40, "lug_to_lug": 48}),
    ("Part: Dial\nOD: 28.50\nCTR HOLE: 2.00\nDATE POS: 3H", "dial",
     {"diameter": 28.5, "centre_hole": 2, "date_window_angle": 90}),
    ("Leather strap, 20→16 mm, 2,0–3,5 mm thick", "strap", {"width": 20, "clasp_width": 16}),
    ("Automatic movement, Ø 11½‴ (25.6 mm)", "movement", {"diameter": 25.6}),
    ("Stem 27 mm overall, 0.9 mm thread, for 36 mm", "stem", {"length": 27, "thread": "0.9"}),
    ("Hands\nHole: 1.5, 0.9, 0.2 (mm). 4th hand: 24h, 11 mm, hole 1.75", "hands",
     {"hour.bore": 1.48, "minute.bore": 0.88, "seconds.bore": 0.18, "h24.length": 11, "h24.bore": 1.73}),
    ("Sapphire crystal 30.5mm × 2.5mm, domed outside, flat inside", "crystal",
     {"diameter": 30.5, "edge_thickness": 2.5, "inner_dome": 0}),
    ('Dial\nSize: 1\t1/8"', "dial", {"diameter": 28.575}),
    ("Stem for Tern 27: 0.9 mm tap, 24.5 mm", "stem", {"thread": "0.9", "length": 24.5}),
    ("Case 40.0 ± 0.1 mm diameter; lug to lug: 46.8–47.2 mm; lug width ca. 20 mm; model 2850, 1,204 sold", "case",
     {"diameter": 40, "lug_to_lug": 47, "lug_width": 20}),
]  # fmt: skip


@pytest.mark.parametrize(("text", "kind", "fields"), OURS, ids=[row[0].splitlines()[0] for row in OURS])
def test_a_listing_of_our_own_is_read_whole_and_nothing_else(
    text: str, kind: str, fields: dict[str, Any]
) -> None:
    (found,) = told(text)
    assert found["kind"] == kind
    assert {f["path"] for f in found["fields"]} == set(fields)
    assert all(same(f["value"], fields[f["path"]]) for f in found["fields"])


def test_a_doubt_that_is_told_is_kept_and_a_slip_is_asked_about() -> None:
    (case,) = told(OURS[-1][0])
    assert {f["path"]: f["tol"] for f in case["fields"]} == {
        "diameter": 0.1,
        "lug_to_lug": 0.2,
        "lug_width": 0.15,
    }
    assert {f["path"] for f in case["fields"] if f["source"] == "assumed"} == {"lug_width"}
    (dial,) = told("Dial\nDiameter 1.125")
    assert dial["asks"][0]["path"] == "diameter"
    assert dial["asks"][0]["meant"] == pytest.approx(28.575)


@pytest.mark.parametrize("line", ["Lug width 19 mm or 20mm", "Lug width 20 mm\nLug width: 22 mm"])
def test_two_figures_for_one_quantity_are_asked_about(line: str) -> None:
    (case,) = told(f"Case\n{line}")
    assert [(f["path"], f["sure"]) for f in case["fields"]] == [("lug_width", "ask")] * 2


@pytest.mark.parametrize(
    ("text", "unread", "notes"),
    [
        ("Case: 38mm diameter x 11.5mm thick", [], []),
        ("Case\nThickness 12.4 mm\nBack height 2.1 mm", [], ["Thickness 12.4 mm", "Back height 2.1 mm"]),
        ("Sandwich dial, upper 0.3 mm, total thickness 0.5 mm", ["upper 0.3 mm"], []),
        ("Strap\nLength 120/75 mm", [], ["Length 120/75 mm"]),
        ("Movement\n38 h power reserve, 25 jewels, 4 Hz", ["4 Hz"], ["power reserve 38 h", "25 jewels"]),
        ("Case\nwater resistant to 10 ATM, lot 17\n$12.50", ["lot 17"], []),
    ],
)
def test_what_has_no_field_is_noted_or_left_unread(text: str, unread: list[str], notes: list[str]) -> None:
    (found,) = told(text)
    assert (found["unread"], found["notes"]) == (unread, notes)


def test_a_kits_price_is_no_parts_price() -> None:
    kit = told("Kit\n1x dial\n28.5 x 0.4 mm, $10\n1x strap\n20 mm wide\nAll for 180,00 EUR")
    assert [part["price"] for part in kit] == [{"amount": 10.0, "currency": "USD"}, None]
    for price in ("Total $149", "60 EUR for both"):
        assert [part["price"] for part in told(f"Case:\n40 mm\nStrap:\n20 mm leather\n{price}")] == [
            None,
            None,
        ]
    assert told("Strap\n20 mm\nTotal: 15,- €")[0]["price"] == {"amount": 15.0, "currency": "EUR"}


def test_denied_words_read_nothing_and_the_lume_is_not_the_dial() -> None:
    (found,) = told("Dial, silver\nno date or day, without lume\n28.5 x 0.4 mm\nblack hands")
    assert found["windows"] == []
    assert found["looks"] == {"colour": "silver"}
    (works,) = told("Movement\nno date, hacking; not hand-winding; 5 s/day, second time zone")
    assert works["functions"] == ["hacking"]
    assert told("Movement\ndate without day")[0]["functions"] == ["date"]
    assert told("Movement\nDate/day, handwinds, 5 s/day")[0]["functions"] == ["date", "day", "hand_winding"]
    assert told("Movement w/ 24-hour hand")[0]["functions"] == ["h24"]
    assert told("Dial 28.5 mm with lume (blue)")[0]["looks"] == {"glow": "blue"}


def test_the_builders_word_for_the_kind_comes_first() -> None:
    assert told("28.5 x 0.4 mm", "dial")[0]["fields"][1]["path"] == "thickness"
    assert told("nothing to see here")[0]["kind"] is None
    with pytest.raises(NotFoundError):
        read_listing("28.5 mm", ANATOMY, "boiler")


@given(text=st.text(max_size=400) | st.from_regex(r"(?s)[0-9a-z ,./x()\"±:\n-]{0,200}"))
def test_whatever_is_pasted_is_read_or_left(text: str) -> None:
    for listing in told(text):
        json.dumps(listing, allow_nan=False)
        assert all(letters(field["text"]) in letters(text) for field in listing["fields"])


def letters(text: str) -> str:
    """Letters and digits alone: signs between a label and its figure may be the reader's own."""
    return "".join(filter(str.isalnum, text))


PIECES = [
    "dial", "Case", "crown", "Ø", "OD", "ID", "thread", "tap", "tube", "length", "hole", "hour", "edge", "thick", "lug",
    "lug to lug", "width", "date", "at 3", "for", "no", "0.9", "½", "27", "28.5 mm", "1/8 in", "38 x 30 x 1 mm",
    "8/12/12.5 mm", "20-24 mm", "38.0 ± 0.1", "$12.50", "12,-", "€", "(", ")", ",", ";", ":", "-", "|", "//", "\n",
]  # fmt: skip


@settings(max_examples=1500)
@given(pieces=st.lists(st.sampled_from(PIECES), max_size=16), kind=st.sampled_from([None, "hands", *BY_KIND]))
def test_whatever_words_and_figures_come_together_are_read_or_left(
    pieces: list[str], kind: str | None
) -> None:
    for listing in told(" ".join(pieces), kind):
        json.dumps(listing, allow_nan=False)
        paths = [field["path"] for field in listing["fields"] if field["sure"] != "ask"]
        assert len(paths) == len(set(paths))
        assert all(letters(field["text"]) in letters(" ".join(pieces)) for field in listing["fields"])
        assert all(any(map(str.isalnum, field["text"])) for field in listing["fields"])


@pytest.mark.parametrize("piece", ["1/", "9" * 40 + " ", "28.5 x ", "a " * 30, "mm,", "no ", "(", "8, "])
def test_a_long_nasty_text_is_read_to_its_end(piece: str) -> None:
    (found,) = told("Dial\nDiameter 28.5 mm\n" + piece * (20_000 // len(piece)))
    assert found["kind"] == "dial"
    assert {"diameter"} <= {field["path"] for field in found["fields"]}


REPEATED = (
    "28.5 x ", "28.5", "28.5 ", "28.5 mm ", "28.5 - ", "28.5 (", "1.5, ", "1.5/0.9/", '1 1/8" ', "1/", "1     ", "± ", "( ( (1",
    "3 o'clock ", "date at 3 ", "100 m water ", "blue lume ", "hour: 1.5 minute: 0.9 ", "| 1 ", "no ", "a", "x", "\t", "     ",
    "dial\n28.5\n", "1\n", "hour 1.5\n", "€ 12.50 ", "approx ", "c1 c1 ",
)  # fmt: skip


@pytest.mark.parametrize("unit", REPEATED)
def test_a_text_that_says_one_thing_again_and_again_is_read(unit: str) -> None:
    """48 s were 20,000 letters once; what each takes now `make bench` tells."""
    for letters in (5_000, LONGEST_LISTING):
        found = read_listing((unit * (letters // len(unit) + 1))[:letters], ANATOMY)
        assert found
        assert all(len(part.fields) <= 40 for part in found), "a part has each field once, or twice to ask"


def test_of_a_line_so_many_figures_are_read_and_no_more() -> None:
    plain = " ".join(f"{number}.5" for number in range(10, 90))
    found = lengths_in(plain)
    assert len(found) == MOST_FIGURES
    assert found[-1].values[0].value == 10 + MOST_FIGURES - 1 + 0.5
