"""The card and the sheet: only what is known, and how; water as tested; hours in which the date is let be."""

from dataclasses import replace

import pytest

from marquetry.core.bench.situation import Situation
from marquetry.core.brief.wish import Brief, WishState, WishStep
from marquetry.core.fit.report import report_on
from marquetry.core.proving.asked import readiness
from marquetry.core.proving.record import Proof
from marquetry.core.proving.water_claim import water_claim
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.story.card import CardWatch, card_rows, card_text
from marquetry.core.story.handover import HandedOver, chapters, clock, forbidden_minutes, promises
from marquetry.core.values.day import day_of_ms, months_later
from marquetry.core.values.dimension import Dimension, Source
from marquetry.demo.workshop import demo_sheets
from tests.strategies import MODEL

SHEETS = demo_sheets(MODEL.anatomy)
DRY = Proof(
    "dry-00001",
    "dry",
    "case",
    5,
    "passed",
    means="the chamber",
    by="Kittiwake Bench",
    result={"held_bar": 10.0},
)


def card(build: Build, *proofs: Proof, number: int = 1, count: int = 1) -> CardWatch:
    situation = Situation(report_on(build, MODEL.rules_of(build)))
    ready = readiness(situation, list(proofs), 0)
    return CardWatch(
        situation, ready, water_claim(ready), "2027-01-15", number, count, "2027-01-20", ("a strap",)
    )


def with_source(build: Build, path: str, source: Source) -> Build:
    known = build.dimensions[path]
    return build.with_entry(path, dimension_as_json(Dimension(known.value, known.tol, source)))


@pytest.mark.parametrize(
    ("path", "source", "row", "expected"),
    [
        ("case.lug_to_lug", Source.MEASURED, "span", "measured"),
        ("case.lug_to_lug", Source.LISTED, "span", "listed"),
        ("case.lug_to_lug", Source.ASSUMED, "span", None),
        ("case.diameter", Source.EXACT, "diameter", "measured"),
        ("crystal.centre_thickness", Source.LISTED, "height", "listed"),
        ("crystal.centre_thickness", Source.ASSUMED, "height", None),
    ],
)
def test_a_row_is_as_sure_as_the_weakest_figure_in_it(
    path: str, source: Source, row: str, expected: str | None
) -> None:
    rows = {one.key: one for one in card_rows(card(with_source(SHEETS["skerry-light"], path, source)))}
    assert (rows[row].source if row in rows else None) == expected


def test_what_is_measured_all_through_is_computed_from_measures() -> None:
    build = SHEETS["skerry-light"]
    for path in build.dimensions:
        build = with_source(build, path, Source.MEASURED)
    rows = {one.key: one for one in card_rows(card(build))}
    assert (rows["height"].source, rows["lugs"].source) == ("computed", "measured")


def test_rows_say_what_is_there_and_leave_out_what_is_not_wanted() -> None:
    rows = {
        one.key: one.value.replace("\u00a0", " ")
        for one in card_rows(card(SHEETS["skerry-light"], DRY, number=2, count=3))
    }
    assert rows["diameter"] == "Ø 39.0 mm"
    assert rows["number"] == "2 of 3"
    assert rows["functions"] == "hours, minutes, seconds, date, hacking, hand-winding"
    assert rows["strap"] == "Waxed strap 20; beside it a strap"
    assert rows["water"] == "dry at 10.0 bar (as 100 m), 2027-01-15"
    less = card_rows(card(SHEETS["skerry-light"]), ["diameter", "strap"])
    assert {"diameter", "strap", "water", "number"}.isdisjoint({one.key for one in less}), (
        "nor what was not tested"
    )
    text = card_text("Skerry Light", "for the museum", "Kittiwake Bench", less)
    assert text.startswith("Skerry Light\nfor the museum\n\nHeight: ")
    assert text.endswith("\n\nKittiwake Bench\n")
    assert "\u00a0" not in text


def test_water_is_claimed_only_while_it_was_not_opened_since() -> None:
    opened = Proof("open-0001", "opened", "back", 9)
    for proofs, held in (
        ((), False),
        ((DRY,), True),
        ((replace(DRY, verdict="failed"),), False),
        ((DRY, opened), False),
    ):
        claim = card(SHEETS["skerry-light"], *proofs).claim
        assert (claim is not None) is held
    words = card(SHEETS["skerry-light"], DRY).claim
    assert words is not None
    assert "not a diving certificate" in words.words("2027-01-15")


@pytest.mark.parametrize(
    ("began", "jump", "expected"),
    [
        (None, None, ("21:00", "03:00")), (-38, 4, ("21:00", "03:00")), (-150, 10, ("20:30", "03:00")),
        (-10, 170, ("21:00", "03:50")), (None, -200, ("19:40", "03:00")),
    ],
    ids=["as usual", "inside the usual hours", "begins early", "jumps late", "jumps before nine"],
)  # fmt: skip
def test_the_forbidden_hours_are_never_fewer_than_usual(
    began: int | None, jump: int | None, expected: tuple[str, str]
) -> None:
    seen = (
        []
        if jump is None
        else [Proof("date-0001", "date", "jump", 5, "passed", result={"jump_min": jump, "began_min": began})]
    )
    ready = card(SHEETS["skerry-light"], *seen).ready
    assert tuple(map(clock, forbidden_minutes(ready))) == expected


def handed(build: Build, *proofs: Proof) -> dict[str, str]:
    found = card(build, *proofs)
    one = HandedOver(found.situation, found.ready, Brief.of([], []), found.claim, "2027-01-31", 13)
    return {chapter.title: " ".join(chapter.lines) for chapter in chapters(one)}


def test_the_sheet_follows_what_the_watch_can_do_and_what_was_tested() -> None:
    dry, tested = handed(SHEETS["skerry-light"]), handed(SHEETS["skerry-light"], DRY)
    assert "keep it dry" in dry["Its limits"]
    assert "tested again by 2028-02-29" in tested["Its limits"]
    assert "date by the crown between 21:00 and 03:00" in tested["Setting it"]
    assert "24-hour hand" in handed(SHEETS["night-ferry"])["Setting it"]
    assert "date" not in handed(SHEETS["skerry-light"].without("movement.functions"))["Setting it"]


def test_what_glows_is_what_the_face_is_drawn_with() -> None:
    dark = SHEETS["skerry-light"]
    for path in ("dial", "hands", "bezel_insert"):
        dark = dark.with_entry(f"{path}.face.glow", "nothing")
    for build, lume in ((dark, None), (dark.with_entry("hands.face.glow", "blue"), "blue-glowing on hands")):
        rows = {one.key: one.value for one in card_rows(card(build))}
        assert rows.get("lume") == lume
        assert ("Lume needs light" in handed(build)["Keeping it"]) is (lume is not None)


def test_promises_are_what_was_agreed_and_nothing_of_money_or_persons() -> None:
    steps = [
        WishStep("depth", WishState.AGREED, "100", number=1),
        WishStep("whom", WishState.AGREED, "the pilot", number=2),
        WishStep("budget", WishState.AGREED, "720.00 EUR", number=3),
        WishStep("straps", WishState.PROPOSED, "two", number=4),
    ]  # fmt: skip
    assert promises(Brief.of(steps, [])) == [("Water depth", "100 m")]


@pytest.mark.parametrize(
    ("day", "months", "later"),
    [
        ("2027-01-31", 1, "2027-02-28"), ("2027-01-31", 13, "2028-02-29"), ("2026-12-15", 1, "2027-01-15"),
        ("2026-11-30", 12, "2027-11-30"), ("2024-02-29", 12, "2025-02-28"), ("2027-03-10", 0, "2027-03-10"),
    ],
)  # fmt: skip
def test_months_end_where_the_calendar_ends_them(day: str, months: int, later: str) -> None:
    assert months_later(day, months) == later


def test_a_moment_has_its_day() -> None:
    assert [day_of_ms(ms) for ms in (0, 86_399_999, 86_400_000)] == ["1970-01-01", "1970-01-01", "1970-01-02"]
