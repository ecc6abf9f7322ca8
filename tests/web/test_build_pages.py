"""Build's pages and what they send: kept once, refused in words; mishaps, timers, kills."""

import asyncio
import io
import os
import signal
import urllib.parse
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient

from marquetry.store import bench_log, watches
from marquetry.store.bookings import ledger_of
from marquetry.store.database import Connection, connect
from marquetry.web.site.app import create_app
from marquetry.web.site.live import BenchLines
from tests.bench.test_written import sheet
from tests.strategies import MODEL
from tests.web.test_pages import page, parsed, text

BUILD = "/watches/1/build"
NUMBER = iter(range(10**6))


def sent(client: TestClient, *entries: dict[str, Any], watch: int = 1) -> dict[str, Any]:
    told = [{"key": f"test-{next(NUMBER):08}", **entry} for entry in entries]
    answer = client.post(f"/watches/{watch}/build/entries", json={"device": "tablet", "entries": told})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_an_entry_that_is_sent_twice_is_kept_once(client: TestClient, connection: Connection) -> None:
    before = len(bench_log.entries_of(connection, 1))
    entry = {"key": "the-very-same", "step": "fit_bezel", "what": "done", "ago": 90_000}
    first, second = sent(client, entry), sent(client, entry)
    assert first["kept"] == second["kept"] == ["the-very-same"]
    assert first["state"]["steps"]["fit_bezel"][0] == "done"
    assert len(bench_log.entries_of(connection, 1)) == before + 1


def test_a_figure_that_is_not_plausible_is_asked_about_and_kept_once_it_is_said_again(
    client: TestClient,
) -> None:
    sent(client, {"step": "measure_gap", "what": "gap", "value": "3.42"}, watch=2)
    slip: dict[str, Any] = {"step": "cut_stem", "what": "cut", "value": "11.2"}
    answer = sent(client, slip, watch=2)
    ((key, question),) = answer["asked"].items()
    assert answer["refused"] == {key: question}
    assert "Only" in question
    assert sent(client, {"step": "measure_gap", "what": "gap", "value": "13"}, watch=2)["asked"]
    form = client.post("/watches/2/build/taps", data=slip, headers={"accept": "text/html"})
    assert form.status_code == 422
    shown = parsed(form.text)
    assert shown.xpath("//form[@data-entry='cut']//input[@name='value']/@value") == ["11.2"]
    assert not shown.xpath("//form[@data-entry='cut']//button[@name='sure']/@hidden")
    assert sent(client, slip | {"sure": True}, watch=2)["refused"] == {}


def test_a_crown_short_of_home_tells_its_turns_and_a_step_its_way_of_cutting(
    client: TestClient, connection: Connection
) -> None:
    sent(client, {"step": "measure_gap", "what": "gap", "value": "4.87", "turns": "2", "pitch": "0.3"})
    entry = bench_log.entries_of(connection, 1)[-1]
    assert entry.detail == {"turns_short": 2.0, "pitch": 0.3}
    refused = sent(client, {"step": "measure_gap", "what": "gap", "value": "1", "turns": "many"})["refused"]
    assert "a number in turns" in next(iter(refused.values()))
    client.post("/watches/1/build/stem-school", data={"school": "creep", "step": "cut_stem"})
    assert watches.watch(connection, 1).build.rules["school_stem"] == "creep"
    chosen = page(client, "/watches/1/build/at/cut_stem").xpath("//button[@aria-pressed='true']")
    assert [text(one) for one in chosen] == ["creeping up"]


REFUSED: dict[str, tuple[dict[str, Any], str]] = {
    "before its turn": ({"step": "close_back", "what": "done"}, "waits for"),
    "skipped without a word": ({"step": "fit_bezel", "what": "skip"}, "needs a reason"),
    "a figure that is none": ({"step": "measure_gap", "what": "gap", "value": "wide"}, "a number in mm"),
    "a cut of less than nothing": ({"step": "cut_stem", "what": "cut", "value": "-1"}, "0 or more"),
    "a height beyond any hand": ({"step": "check_hour", "what": "height", "value": "30"}, "at most|to 10"),
    "a step there is not": ({"step": "polish_moon", "what": "done"}, "a step of the bench"),
    "an entry screens do not make": ({"step": "fit_bezel", "what": "mishap"}, "that a screen makes"),
    "nothing to take back": ({"what": "undo", "undoes": "no-such-entry"}, "nothing to take back"),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_is_told_by_its_key_and_stops_none_of_the_others(
    client: TestClient, name: str
) -> None:
    entry, words = REFUSED[name]
    answer = sent(
        client,
        {**entry, "key": "refused-one"},
        {"key": "good-one", "step": "fit_bezel", "what": "note", "words": "x"},
    )
    assert list(answer["refused"]) == ["refused-one"]
    assert any(word in answer["refused"]["refused-one"] for word in words.split("|"))
    assert answer["kept"] == ["good-one"]


def test_an_entry_that_cannot_be_read_holds_up_none_of_the_others(client: TestClient) -> None:
    good = {"key": "good-entry", "step": "fit_bezel", "what": "note", "words": "kept"}
    bad: list[dict[str, Any]] = [
        {"key": "no-such-what", "step": "fit_bezel", "what": "shout"},
        {"key": "words-too-long", "step": "fit_bezel", "what": "note", "words": "x" * 401},
        {"key": "step-of-no-kind", "step": "../etc", "what": "done"},
        {"key": "ago-of-no-kind", "step": "fit_bezel", "what": "note", "ago": -1},
        {"key": "short", "step": "fit_bezel", "what": "note"},
        {},
    ]
    answer = client.post(f"{BUILD}/entries", json={"entries": [*bad, good]}).json()
    assert set(answer["refused"]) == {str(entry.get("key", "")) for entry in bad}
    assert all("cannot be read" in words for words in answer["refused"].values())
    assert "good-entry" in answer["kept"]


def test_what_was_taken_back_is_not_taken_back_twice(client: TestClient) -> None:
    sent(client, {"key": "a-done-step", "step": "fit_bezel", "what": "done"})
    assert sent(client, {"what": "undo", "undoes": "a-done-step"})["refused"] == {}
    again = sent(client, {"key": "undone-again", "what": "undo", "undoes": "a-done-step"})
    assert "nothing to take back" in again["refused"]["undone-again"]


def test_an_undo_that_waited_for_the_line_leaves_what_came_after_it(client: TestClient) -> None:
    """A tablet notes and takes it back, ten minutes without a line; meanwhile another one settles a step."""
    sent(client, {"key": "of-the-other", "step": "fit_bezel", "what": "done"})
    late = [
        {"key": "late-note", "step": "grease_click", "what": "note", "words": "dry", "ago": 600_000},
        {"key": "late-undo", "what": "undo", "ago": 590_000},
    ]
    answer = sent(client, *late)
    assert answer["refused"] == {}
    assert answer["state"]["steps"]["fit_bezel"][0] == "done"
    assert "dry" not in text(page(client, f"{BUILD}/at/grease_click"))


def test_the_screen_works_without_the_pages_script(client: TestClient) -> None:
    answer = client.post(f"{BUILD}/taps", data={"step": "fit_bezel", "what": "done"}, follow_redirects=False)
    assert answer.headers["location"] == f"{BUILD}/at/bezel_turns"
    refused = client.post(f"{BUILD}/taps", data={"step": "close_back", "what": "done"})
    assert refused.status_code == 422
    assert "waits for" in text(parsed(refused.text).get_element_by_id("screen-fault"))
    assert client.get(f"{BUILD}/at/no_such_step").status_code == 404
    assert client.post(f"{BUILD}/taps", data={"step": "fit_bezel", "what": "-1"}).status_code == 422
    no = client.post(f"{BUILD}/taps", data={"step": "bezel_turns", "what": "no"}, follow_redirects=False)
    assert no.headers["location"] == f"{BUILD}/mishap?step=bezel_turns"


def test_readings_of_the_stem_and_of_hands_change_their_screens(client: TestClient) -> None:
    sent(client, {"step": "measure_gap", "what": "gap", "value": "8,05"})
    shown = page(client, f"{BUILD}/at/cut_stem")
    assert "gap read 8.05 mm" in text(shown.xpath("//*[@class='screen-rows']")[0])
    assert text(shown.xpath("//*[@class='screen-figure']")[0]).startswith("Cut 7.")
    sent(client, {"step": "check_hour", "what": "height", "value": "0.30"})
    gaps = text(page(client, f"{BUILD}/at/check_hour").xpath("//*[@class='screen-gaps']")[0])
    assert "Hour above shoulder" in gaps


def test_undo_takes_the_answer_back_and_what_it_set_going(client: TestClient) -> None:
    answered = sent(client, *({"step": step, "what": "skip", "words": "seen"} for step in (
        "fit_bezel", "bezel_turns", "bezel_at_click")), {"step": "stick_insert", "what": "done"})  # fmt: skip
    assert answered["refused"] == {}
    assert [timer["step"] for timer in client.get("/timers").json()["timers"]] == ["stick_insert"]
    undone = sent(client, {"what": "undo"})
    assert undone["state"]["steps"]["stick_insert"][0] == "open"
    assert client.get("/timers").json()["timers"] == []


def test_a_timer_that_was_heard_is_quiet_everywhere(client: TestClient) -> None:
    for step in ("fit_bezel", "bezel_turns", "bezel_at_click", "stick_insert"):
        sent(client, {"step": step, "what": "skip" if step != "stick_insert" else "done", "words": "seen"})
    (timer,) = client.get("/timers").json()["timers"]
    assert 0 < timer["left"] <= 30 * 60_000
    assert timer["name"] == "Skerry Light"
    client.post(timer["quiet"], data={"step": "stick_insert", "words": "gone on"})
    assert client.get("/timers").json()["timers"] == []


def test_what_goes_wrong_is_shown_to_those_who_ask(client: TestClient) -> None:
    assert not page(client, f"{BUILD}/at/press_minute").xpath("//*[@class='screen-wrong']")
    client.post(f"{BUILD}/settings", data={"key": "guided", "value": "true"})
    assert "Pressed at an angle" in text(
        page(client, f"{BUILD}/at/press_minute").xpath("//*[@class='screen-wrong']")[0]
    )


def test_a_picture_stands_at_its_step_and_what_is_none_is_told(client: TestClient) -> None:
    from PIL import Image  # noqa: PLC0415  # one test needs it

    file = io.BytesIO()
    Image.new("RGB", (30, 20), "#446688").save(file, "JPEG")
    form = {"step": "fit_bezel"}
    client.post(f"{BUILD}/photos", data=form, files={"photo": ("p.jpg", file.getvalue(), "image/jpeg")})
    (shown,) = page(client, f"{BUILD}/at/fit_bezel").xpath("//*[@class='screen-pictures']//img")
    assert client.get(shown.get("src")).status_code == 200
    assert not page(client, "/watches/1/brief").xpath(f"//img[@src='{shown.get('src')}']")
    refused = client.post(
        f"{BUILD}/photos", data=form, files={"photo": ("p.jpg", b"no picture", "image/jpeg")}
    )
    assert refused.status_code == 422
    assert "Nothing was changed" in refused.text


def test_a_height_is_read_in_a_picture_from_the_side(client: TestClient) -> None:
    from PIL import Image  # noqa: PLC0415  # as above

    file = io.BytesIO()
    Image.new("RGB", (1600, 1000), "#c0b090").save(file, "PNG")
    files = {"photo": ("side.png", file.getvalue(), "image/png")}
    client.post(f"{BUILD}/photos", data={"step": "check_minute"}, files=files)
    (link,) = page(client, f"{BUILD}/at/check_minute").xpath("//*[@class='screen-pictures']/a/@href")
    clicks = {
        "known1": "400; 700",
        "known2": "400;571",
        "floor1": "200 700",
        "floor2": "1400; 700",
        "blade": "900; 580",
    }
    told = text(parsed(client.get(link, params=clicks).text).xpath("//*[@class='side-found']")[0])
    assert told.startswith("1.20 mm")
    assert "expected two numbers" in client.get(link, params={**clicks, "blade": "1; 2; 3"}).text
    assert "at least 8 pixels apart" in client.get(link, params={**clicks, "known2": "400; 699"}).text
    client.post(f"{BUILD}/taps", data={"step": "check_minute", "what": "height", "value": "1.20"})
    assert "1.20" in page(client, f"{BUILD}/at/check_minute").xpath("//figure")[0].text_content()


def test_another_part_is_told_with_what_opens_and_may_stand_as_it_is(client: TestClient) -> None:
    version = watches.watch(connect_now(client), 1).version
    client.post(
        "/watches/1/entries",
        data={"version": str(version), "path": "crystal.name", "value": "Another crystal"},
    )
    told = text(page(client, BUILD).xpath("//*[contains(@class,'build-again')]")[0])
    assert "another part is in the watch since" in told
    client.post(f"{BUILD}/stands")
    assert not page(client, BUILD).xpath("//*[contains(@class,'build-again')]")


def connect_now(client: TestClient) -> Connection:
    return connect(client.app.state.database, MODEL)  # type: ignore[attr-defined]  # our own application


def test_the_work_sheet_has_a_box_and_a_figure_for_each_step(client: TestClient) -> None:
    sheet = page(client, f"{BUILD}/sheet")
    assert len(sheet.xpath("//tr/td[@class='box']")) == 56
    assert "Shim 1.29" in text(sheet)


def test_a_kill_after_each_tap_of_a_whole_build_loses_none(database: Path) -> None:
    """Each tap in a process of its own, killed the moment it has answered."""
    app = create_app(database, MODEL)
    before = client_state(app)
    steps = [step for step, told in before["steps"].items() if told[0] in {"open", "waiting"}]
    assert len(steps) > 40
    for number, step in enumerate(steps):
        key = f"killed-{number:04}"
        reading, writing = os.pipe()
        child = os.fork()
        if child == 0:
            os.close(reading)
            tap_and_tell(app, key, step, writing)
        os.close(writing)
        acknowledged = os.read(reading, 1)
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        os.close(reading)
        connection = connect(database, MODEL)
        kept = {entry.key for entry in bench_log.entries_of(connection, 2)}
        connection.close()
        assert acknowledged == b"k", step
        assert key in kept, step
    state = client_state(create_app(database, MODEL))
    assert state["settled"] == before["settled"] + len(steps) == len(state["steps"])


def client_state(app: FastAPI) -> dict[str, Any]:
    with TestClient(app, base_url="http://127.0.0.1") as client:
        return dict(client.get("/watches/2/build/state.json").json())


def tap_and_tell(app: FastAPI, key: str, step: str, writing: int) -> None:
    """The tap through the whole application; a letter once it answered that it is kept; then idle."""
    client = TestClient(app, base_url="http://127.0.0.1")
    told = client.post(
        "/watches/2/build/entries",
        json={"entries": [{"key": key, "step": step, "what": "skip", "words": "killed"}]},
    )
    os.write(writing, b"k" if told.json()["kept"] == [key] else b"x")
    signal.pause()


def test_hours_by_the_clock_are_booked_once(client: TestClient, connection: Connection) -> None:
    def minutes() -> int:
        return sum(
            one.minutes or 0 for one in ledger_of(connection, 4, "2026-11-26").entries if one.kind == "hours"
        )

    before = minutes()
    for _ in range(2):
        client.post("/watches/4/build/hours")
    counted = sum(entry.what == "start" for entry in bench_log.entries_of(connection, 4))
    assert counted > 50
    assert 200 < minutes() - before < 400
    assert "Book" not in text(page(client, "/watches/4/build").xpath("//*[@class='build-go']")[0])


def test_a_part_that_is_made_here_says_so_at_its_step(client: TestClient) -> None:
    assert "Made here, version 3, good" in text(page(client, f"{BUILD}/at/fit_holder"))


def test_the_bench_says_how_far_each_build_is(client: TestClient) -> None:
    told = text(page(client, "/").xpath("//ol")[0])
    assert "Built: 25 of 56 steps; next “Fit the bezel”." in told
    assert "Built: 56 of 56 steps, all of them." in told


def test_pages_of_a_watch_are_told_and_those_of_another_are_not() -> None:
    async def heard() -> list[str]:
        lines = BenchLines()
        mine, other = lines.listen(1), lines.listen(2)
        found = [await anext(mine), await anext(other)]
        lines.tell(1, "entered")
        await asyncio.to_thread(lines.tell, 1, "measured")
        found += [await anext(mine), await anext(mine)]
        with pytest.raises(TimeoutError):
            await asyncio.wait_for(anext(other), 0.05)
        return found

    breath, told = ": listening\n\n", "event: bench\ndata: {}\n\n"
    assert asyncio.run(heard()) == [breath, breath, told.format("entered"), told.format("measured")]


def test_the_same_step_on_two_watches_is_one_tap_and_a_question_one_each(client: TestClient) -> None:
    copied = {"start": "watch:1", "name": "Skerry Two"}
    second = int(
        client.post("/begin", data=copied, follow_redirects=False)
        .headers["location"]
        .split("/")[2]
        .split("?")[0]
    )
    address = f"/watches/{second}/together"
    together = page(client, f"{address}?other=1&step=fit_bezel")
    assert "on all 2" in text(together.xpath("//h2")[0])
    client.post(address, data={"others": "1", "step": "lay_out_parts", "what": "done"})
    steps = [client.get(f"/watches/{n}/build/state.json").json()["steps"] for n in (1, second)]
    assert [one["lay_out_parts"][0] for one in steps] == ["done", "done"]
    asked = page(client, f"{address}?other=1&step=check_movement")
    assert not asked.xpath("//section[@class='together-common']//button")
    client.post(address, data={"others": "1", "step": "check_movement", "what": "yes", "only": str(second)})
    assert client.get(f"/watches/{second}/build/state.json").json()["steps"]["check_movement"][0] == "passed"
    refused = client.post(address, data={"others": "1", "step": "close_back", "what": "done"})
    assert refused.status_code == 422
    assert refused.text.count('role="alert"') == 2
    assert client.post(address, data={"step": "fit_bezel", "what": "done", "only": "99"}).status_code == 404


def test_pads_are_in_the_sheet_with_the_thickness_that_was_read(
    client: TestClient, connection: Connection
) -> None:
    """Orchard's feet miss: they come off, pads hold the dial, and the fit counts them."""
    at = "/watches/3/build/at/place_pads"
    assert "Thickness of a pad" in client.get(at).text
    sent(client, {"step": "remove_feet", "what": "done"}, watch=3)
    assert watches.watch(connection, 3).build.count("dial.feet") == 0
    assert "feet 1 and 2 off: done" in client.get("/watches/3/story").text
    sent(client, {"step": "place_pads", "what": "height", "value": "0.12"}, watch=3)
    for step, what in (
        ("dress_stubs", "done"),
        ("clean_after_filing", "done"),
        ("trial_dial", "yes"),
        ("place_pads", "done"),
    ):
        sent(client, {"step": step, "what": what}, watch=3)
    assert watches.watch(connection, 3).build.at("dial.fastening.thickness.value") == pytest.approx(0.12)
    for _ in range(6):
        sent(client, {"what": "undo"}, watch=3)
    assert watches.watch(connection, 3).build.count("dial.feet") == 2
    assert watches.watch(connection, 3).build.at("dial.fastening") is None


def test_a_tool_that_is_not_there_is_told_in_black_with_what_does_instead(client: TestClient) -> None:
    plain = page(client, BUILD).xpath("//*[@class='instead']")
    assert not plain, "nobody counted anything: nothing is said to lack"
    client.post("/rules/tools", data={"tools": ["loupe", "tray"]})
    assert "A bar clamp and two dies" in client.get(f"{BUILD}/at/press_crystal").text
    assert "A bar clamp and two dies" in text(page(client, BUILD).xpath("//aside")[0])
    assert not page(client, BUILD).xpath("//*[@class='lacks-one']")
    ticked = page(client, "/rules?family=tools").xpath("//input[@name='tools' and @checked]/@value")
    assert ticked == ["loupe", "tray"]


@pytest.mark.parametrize("name", ["a/b", "what?#50%&c", "x" * 90, "ö é", "."])
def test_an_alteration_of_any_name_can_be_opened_and_tapped(
    client: TestClient, connection: Connection, name: str
) -> None:
    bought = sheet("p00")
    change = {"path": "case.click", "from": bought.at("case.click"), "to": "ball"}
    planned = {"id": name, "title": "Bend it", "kind": "spring_bent", "changes": [change], "done": None}
    number = watches.add_watch(connection, bought.with_statement("alterations", [planned]))
    build = f"/watches/{number}/build"
    step = next(key for key in client.get(f"{build}/state.json").json()["steps"] if key.startswith("alter:"))
    assert "Bend it" in client.get(f"{build}/at/{urllib.parse.quote(step, safe='')}").text
    answer = client.post(f"{build}/taps", data={"step": step, "what": "skip", "words": "not here"})
    assert answer.status_code == 200
    assert [entry.step for entry in bench_log.entries_of(connection, number)] == [step]
