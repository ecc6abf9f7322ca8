"""Mishaps at the bench: what a no may mean, what is booked and taken back, doubts, the lessons left."""

import copy
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.core.bench.clock import seconds_by_step
from marquetry.core.bench.log import standing
from marquetry.store import bench_log, lessons, pieces, watches
from marquetry.store.bookings import ledger_of
from marquetry.store.database import Connection
from marquetry.store.lessons import NewLesson
from tests.web.test_build_pages import BUILD, sent
from tests.web.test_pages import page, text


def test_a_mishap_is_booked_opens_its_steps_and_can_be_taken_back(
    client: TestClient, connection: Connection
) -> None:
    def books() -> tuple[Any, ...]:
        ledger = ledger_of(connection, 1, "2026-11-26")
        hands = copy.deepcopy(watches.watch(connection, 1).build.at("hands"))
        of_part = pieces.pieces_of_part(connection, hands["shelf_part"])
        told = [(piece.state, piece.stock.condition, piece.fittings) for piece in of_part]
        height = [one.pop("pressed", None) for one in hands.values() if isinstance(one, dict)]
        return sum(one.minor for one in ledger.entries), len(lessons.lessons(connection)), hands, told, height

    # What was read before the program wrote it into sheets is written with the next tap.
    sent(client, {"step": "fit_bezel", "what": "note", "words": "a tap"})
    for way, fate in (("lift", "refitted"), ("other", "scrapped"), ("leave", "")):
        before = books()
        form = {"step": "check_minute", "kind": "hand_too_deep", "way": way, "lesson": "Hold the shim."}
        assert client.post(f"{BUILD}/mishap", data=form, follow_redirects=False).status_code == 303
        after = books()
        assert (after[0] > before[0]) == (way != "leave")
        assert after[1] == before[1] + 1
        assert (after[2] != before[2]) == (fate == "scrapped")
        state = client.get(f"{BUILD}/state.json").json()["steps"]
        assert (state["press_minute"][0] != "done") == (way != "leave")
        sent(client, {"what": "undo"})
        assert books() == before, way
        assert client.get(f"{BUILD}/state.json").json()["steps"]["press_minute"][0] == "done"


def test_a_no_leads_to_its_failures_and_accepted_it_settles_its_question(
    client: TestClient, connection: Connection
) -> None:
    sheet = page(client, f"{BUILD}/mishap?step=check_minute")
    first, every = sheet.xpath("//ul[@class='mishap-kinds']")
    assert text(first).startswith("Hand touches")
    assert "Hand too deep" in text(every)
    shown = page(client, f"{BUILD}/mishap?step=check_minute&kind=hand_leans")
    assert "Books 4.00" in text(shown.xpath("//ol")[0])
    sent(client, {"step": "check_minute", "what": "no"})
    form = {
        "step": "check_minute", "kind": "hand_leans", "way": "accept", "happened": "A trace, towards four.",
        "lesson": "",
    }  # fmt: skip
    assert client.post(f"{BUILD}/mishap", data=form, follow_redirects=False).status_code == 303
    assert client.get(f"{BUILD}/state.json").json()["steps"]["check_minute"][0] == "skipped"
    assert "A trace, towards four." in client.get("/watches/1/story").text
    sent(client, {"what": "undo"})
    assert client.get(f"{BUILD}/state.json").json()["steps"]["check_minute"][0] == "failed"
    assert not [one for one in standing(bench_log.entries_of(connection, 1)) if one.what == "mishap"]


def test_nothing_is_booked_without_a_rate_and_a_fault_stands_in_its_sellers_record(
    client: TestClient, connection: Connection
) -> None:
    connection.execute("DELETE FROM trade_setting WHERE key = 'hours'")
    connection.commit()
    before = ledger_of(connection, 1, "2026-11-26").total
    shown = page(client, f"{BUILD}/mishap?step=check_movement&kind=not_as_sold")
    assert "Books nothing" in text(shown.xpath("//ol")[0])
    form = {
        "step": "check_movement", "kind": "not_as_sold", "way": "price", "happened": "Sold blue, came grey.",
    }  # fmt: skip
    form["supplier"] = connection.execute("SELECT name FROM supplier ORDER BY name").fetchone()["name"]
    assert client.post(f"{BUILD}/mishap", data=form, follow_redirects=False).status_code == 303
    assert ledger_of(connection, 1, "2026-11-26").total == before
    assert "Sold blue, came grey." in client.get("/suppliers").text
    assert "no rate is set" in client.get("/watches/1/quote").text
    sent(client, {"what": "undo"})
    assert "Sold blue, came grey." not in client.get("/suppliers").text


def test_a_doubt_goes_on_and_is_asked_again_at_the_back(client: TestClient) -> None:
    said = sent(client, {"step": "crystal_seated", "what": "unsure"})
    assert said["state"]["steps"]["crystal_seated"][:2] == ["unsure", "not sure"]
    assert "not sure at" in said["state"]["steps"]["close_back"][2]
    asked = page(client, f"{BUILD}/at/close_back").xpath("//a[@data-go='crystal_seated']")
    assert [text(one) for one in asked] == ["Level four ways, gasket even all round?"]
    assert "Crystal seated and level" in client.get("/watches/1/prove").text


def test_a_lesson_comes_up_at_its_step_in_other_builds_of_the_kind(client: TestClient) -> None:
    told = text(page(client, f"{BUILD}/at/check_minute").xpath("//*[@class='screen-lesson']")[0])
    assert told.startswith("Tide Table The shim had slipped")
    assert not page(client, f"{BUILD}/at/press_hour").xpath("//*[@class='screen-lesson']")


def test_minutes_booked_with_a_mishap_are_not_booked_by_the_clock_again(
    client: TestClient, connection: Connection
) -> None:
    """Tide Table's hand was lifted for eight minutes, which stand in its books since."""
    entries = bench_log.entries_of(connection, 4)
    spent = sum(seconds_by_step(standing(entries), entries[-1].at_ms).values())
    client.post("/watches/4/build/hours")
    booked = {
        one.words: one.minutes
        for one in ledger_of(connection, 4, "2026-11-26").entries
        if one.kind == "hours"
    }
    assert booked["bench: by the clock"] == int(spent / 60) - 8
    assert [minutes for words, minutes in booked.items() if words.startswith("Hand too deep")] == [8]


SHARED_BY: dict[str, tuple[dict[str, Any], bool]] = {
    "by the step alone": ({}, True),
    "by a kind that the watch has": ({"kind": "hands"}, True),
    "by a kind that it has not": ({"kind": "rotor"}, False),
    "by a part of the same kind": ({"kind": "hands", "part_id": 99}, True),
    "by the school in force": ({"school": "school_hands_off=gloves"}, True),
    "by another school": ({"school": "school_hands_off=paper"}, False),
    "by a school there is not": ({"school": "school_of_whales=blue"}, False),
}


@pytest.mark.parametrize("name", SHARED_BY)
def test_a_lesson_is_shown_where_something_is_shared(
    client: TestClient, connection: Connection, name: str
) -> None:
    more, shown = SHARED_BY[name]
    part = connection.execute("SELECT id FROM part WHERE kind = 'hands' ORDER BY id DESC").fetchone()["id"]
    more = {**more, "part_id": part} if "part_id" in more else more
    number = lessons.add_lesson(
        connection, 2, NewLesson("press_hour", "Mind the boss.", "2026-11-26", **more)
    )
    told = text(page(client, f"{BUILD}/at/press_hour"))
    assert ("Mind the boss." in told) == shown
    lessons.withdraw_lesson(connection, number)
    assert "Mind the boss." not in text(page(client, f"{BUILD}/at/press_hour"))


def test_a_lesson_without_a_step_is_shown_once(client: TestClient, connection: Connection) -> None:
    """At the first step about its part; one of a way of working alone, before anything is begun."""
    for words, kind, school in (
        ("Mind the print.", "dial", ""),
        ("Two pairs.", "", "school_hands_off=gloves"),
    ):
        lessons.add_lesson(connection, 2, NewLesson("", words, "2026-11-26", kind, None, school))
    found = page(client, f"{BUILD}/screens").xpath("//template")
    shown = {
        words: [one.get("data-screen") for one in found if words in text(one)]
        for words in ("Mind the print.", "Two pairs.")
    }
    assert shown == {"Mind the print.": ["clean_dial"], "Two pairs.": ["lay_out_parts"]}
