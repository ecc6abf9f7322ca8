"""The pages of Prove: what is kept, what is refused and leaves nothing, what lapses."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from marquetry.formats.wav import wav_bytes
from marquetry.store import proofs
from marquetry.store.database import connect
from tests.proving.ticking import ticking
from tests.strategies import MODEL
from tests.web.test_pages import page as page_of

SKERRY, TIDE = "/watches/1/prove", "/watches/4/prove"
RATE = 16_000
WATCH = wav_bytes(ticking(rate=8.0, hertz=RATE, seconds=6.0, ground_db=30.0), RATE)
SERIES = "time_s,pressure_bar,deflection_um\n" + "".join(
    f"{t},{min(t, 5)},{10 * min(t, 5) - leak * max(t - 15, 0)}\n" for leak in (0,) for t in range(80)
)
LEAKS = "".join(f"{t},{min(t, 5)},{10 * min(t, 5) - 0.2 * max(t - 15, 0)}\n" for t in range(80))


def kinds(database: Path, watch: int) -> list[str]:
    connection = connect(database, MODEL)
    try:
        return [proof.kind for proof in proofs.proofs_of(connection, watch)]
    finally:
        connection.close()


def sound(raw: bytes = WATCH) -> Any:
    return {"sound": ("up.wav", raw, "audio/wav")}


def test_a_recording_is_heard_and_kept_with_its_position(client: TestClient, database: Path) -> None:
    told = {"position": "dial_up", "lift": "50"}
    heard = client.post(f"{SKERRY}/sound/hear", data=told, files=sound())
    assert "+8." in heard.text
    assert "nothing kept yet" in heard.text
    assert kinds(database, 1) == []
    kept = client.post(f"{SKERRY}/sound/keep", data=told, files=sound(), headers={"Marquetry-Fragment": "1"})
    assert 'id="round"' in kept.text
    assert kinds(database, 1) == ["sound"]
    shown = client.get(f"{SKERRY}/sound").text
    assert "Mean of 1" in shown
    assert 'value="50"' in shown


SAID = (
    (WATCH[:2000], "ends before"),
    (b"no sound at all", "not a WAV"),
    (wav_bytes(np.zeros((RATE * 6, 1), np.float32), RATE), "silent"),
    (wav_bytes(np.random.default_rng(1).normal(0, 0.05, (RATE * 6, 1)).astype(np.float32), RATE), "No beat"),
)


@pytest.mark.parametrize(("raw", "words"), SAID)
@pytest.mark.parametrize("scripted", [True, False])
def test_a_recording_with_no_answer_says_what_to_do_and_keeps_nothing(
    client: TestClient, database: Path, raw: bytes, words: str, *, scripted: bool
) -> None:
    headers = {"Marquetry-Fragment": "1"} if scripted else {}
    answer = client.post(
        f"{SKERRY}/sound/keep", data={"position": "dial_up"}, files=sound(raw), headers=headers
    )
    assert answer.status_code == 422
    assert words in answer.text
    assert "Nothing was kept" in answer.text
    assert kinds(database, 1) == []


def test_a_dry_test_is_kept_with_its_series_and_makes_a_claim(client: TestClient, database: Path) -> None:
    looked = client.post(f"{TIDE}/dry/look", data={"series": LEAKS})
    assert "Leak" in looked.text
    before = len(kinds(database, 4))
    for text, word in ((LEAKS, "Leak"), (SERIES, "Tight")):
        client.post(f"{TIDE}/dry/keep", data={"by": "the bench"}, files={"file": ("c.csv", text.encode())})
        page = client.get(f"{TIDE}/dry").text
        assert word in page
        assert ("Tested dry at 5.0" in page) == (word == "Tight")
        assert ("Where to look" in page) == (word == "Leak")
    assert len(kinds(database, 4)) == before + 2
    connection = connect(database, MODEL)
    number = proofs.proofs_of(connection, 4)[-1].id
    connection.close()
    assert client.get(f"{TIDE}/records/{number}/series.csv").text == SERIES


@pytest.mark.parametrize(
    ("text", "words"), [("1,2\n", "line 1"), ("", "none"), ("0,0,1\nrubbish\n", "line 2")]
)
def test_a_series_with_rubbish_is_told_by_its_line_and_not_kept(
    client: TestClient, database: Path, text: str, words: str
) -> None:
    for where in ("look", "keep"):
        answer = client.post(f"{SKERRY}/dry/{where}", data={"series": text})
        assert answer.status_code == 422
        assert words in answer.text
    assert kinds(database, 1) == []


def test_a_wet_test_comes_after_a_dry_one_only(client: TestClient, database: Path) -> None:
    refused = client.post(f"{SKERRY}/wet", data={"bar": "3", "verdict": "passed"})
    assert refused.status_code == 422
    assert "dry test first" in refused.text
    assert client.post(f"{TIDE}/wet", data={"bar": "lots", "verdict": "passed"}).status_code == 422
    client.post(f"{TIDE}/wet", data={"bar": "3", "verdict": "passed", "words": "none seen"})
    assert kinds(database, 4)[-1] == "wet"
    assert "no bubbles" in client.get(f"{TIDE}/dry").text


def test_opening_lapses_and_taking_back_brings_it_all_again(client: TestClient, database: Path) -> None:
    assert "Ready to hand over" in client.get(TIDE).text
    client.post(f"{TIDE}/opened", data={"what": "back", "words": "a hair under the rotor"})
    page = client.get(TIDE).text
    assert "Ready to hand over" not in page
    assert "lapsed" in page
    connection = connect(database, MODEL)
    key = proofs.proofs_of(connection, 4)[-1].key
    connection.close()
    client.post(f"{TIDE}/undo", data={"key": key})
    assert "Ready to hand over" in client.get(TIDE).text
    assert client.post(f"{TIDE}/undo", data={"key": key}).status_code == 404


def test_what_is_tried_is_kept_and_what_is_not_asked_is_refused(client: TestClient, database: Path) -> None:
    for kind, item, verdict in (("functions", "setting", "passed"), ("loupe", "dust", "failed")):
        client.post(f"{SKERRY}/tried", data={"kind": kind, "item": item, "verdict": verdict, "words": "seen"})
    assert kinds(database, 1) == ["functions", "loupe"]
    assert "1 of 7 tried" in client.get(f"{SKERRY}/functions").text
    for kind, item in (("functions", "flying"), ("loupe", "setting"), ("meeting", "hour-minute-1")):
        data = {"kind": kind, "item": item, "verdict": "passed"}
        assert client.post(f"{SKERRY}/tried", data=data).status_code == 404
    assert len(kinds(database, 1)) == 2


def test_the_date_is_judged_by_its_rule(client: TestClient, database: Path) -> None:
    for typed, status in (("00:04", 200), ("23:40", 200), ("noon", 422)):
        assert client.post(f"{SKERRY}/date", data={"jumped": typed}).status_code == status
    connection = connect(database, MODEL)
    assert [proof.verdict for proof in proofs.proofs_of(connection, 1)] == ["passed", "failed"]
    connection.close()


READ: Any = (
    ({"what": "set"}, 200), ({"what": "read", "offset": "2.5"}, 200), ({"what": "read", "how": "dial_up"}, 200),
    ({"what": "wound"}, 200), ({"offset": "soon"}, 422), ({"offset": "99999"}, 422), ({"how": "swimming"}, 422),
    ({"offset": "1", "u": "0"}, 422),
)  # fmt: skip


def test_readings_from_the_wrist(client: TestClient, database: Path) -> None:
    for data, status in READ:
        assert client.post(f"{SKERRY}/wrist", data=data).status_code == status, data
    assert kinds(database, 1) == ["wrist"] * sum(status == 200 for _, status in READ)
    assert "Too soon for a rate" in client.get(f"{SKERRY}/wrist").text


CLICKS = {"centre": "450; 450", "marker": "450; 96", "tip": "450; 160"}


def test_an_angle_is_clicked_in_a_picture_and_kept(client: TestClient, database: Path) -> None:
    number = pictures(client, "angle")[0]
    query = {"picture": str(number), "item": "minute", **CLICKS}
    shown = client.get(f"{TIDE}/angle", params=query).text
    assert "0.00" in shown
    assert "Keep it: passed" in shown
    client.post(f"{TIDE}/angle", data=query)
    assert kinds(database, 4)[-1] == "angle"
    turned = {**query, "tip": "500; 160"}
    assert "Keep it: failed" in client.get(f"{TIDE}/angle", params=turned).text
    askew = {**query, "q12": "450; 96", "q3": "804; 450", "q6": "450; 804", "q9": "96; 450"}
    assert "Keep it: passed" in client.get(f"{TIDE}/angle", params=askew).text
    count = len(kinds(database, 4))
    for bad in (
        {**query, "tip": ""},
        {**query, "item": "cuckoo"},
        {**query, "tip": "x"},
        {**askew, "q3": ""},
    ):
        assert client.post(f"{TIDE}/angle", data=bad).status_code == 422
    assert client.post(f"{TIDE}/angle", data={**query, "picture": "999"}).status_code == 404
    assert len(kinds(database, 4)) == count


def test_lume_is_read_in_pictures_and_its_curves_shown(client: TestClient, database: Path) -> None:
    number = pictures(client, "lume")[0]
    spots = {"dial": "450; 130", "hands": "450; 300", "reference": "70; 70", "picture": str(number)}
    count = len(kinds(database, 4))
    client.post(f"{TIDE}/lume", data={**spots, "minutes": "90"})
    assert kinds(database, 4)[count:] == ["lume", "lume"]
    shown = client.get(f"{TIDE}/lume").text
    assert "t^−" in shown
    assert "go together" in shown
    for bad in (
        {**spots, "minutes": "soon"},
        {**spots, "minutes": "5", "reference": ""},
        {**spots, "minutes": "5", "dial": "2; 2"},
    ):
        assert client.post(f"{TIDE}/lume", data=bad).status_code in {404, 422}
    assert len(kinds(database, 4)) == count + 2
    assert "measured on this watch" in client.get("/watches/4/face?show=night").text


def pictures(client: TestClient, kind: str) -> list[int]:
    found = page_of(client, f"{TIDE}/{kind}").xpath("//p[@class='picture-row']/a/@href")
    return [int(str(address).rpartition("=")[2]) for address in found]


def test_a_picture_is_kept_with_a_flaw_and_what_is_none_is_refused(
    client: TestClient, database: Path
) -> None:
    rubbish = client.post(
        f"{SKERRY}/photos", data={"kind": "loupe", "item": "dust"}, files={"photo": ("x.png", b"<svg/>")}
    )
    assert rubbish.status_code == 422
    assert kinds(database, 1) == []
    for address in ("cuckoo", "opened", "undo", "wet"):
        assert client.get(f"{SKERRY}/{address}").status_code == 404


def test_the_chambers_line_is_heard_by_who_listens(client: TestClient) -> None:
    assert client.post("/chamber/lines", data={"line": "1,2.5,30"}).json() == {"heard": 0}
    assert client.post("/chamber/lines", data={"line": "<script>"}).status_code == 422
    played = client.get("/chamber/stand-in", params={"case": "crown", "hold": 5, "faster": 1000})
    lines = [line[6:] for line in played.text.splitlines() if line.startswith("data: ") and "," in line]
    assert len(lines) > 15
    assert client.get("/chamber/stand-in", params={"faster": 0}).status_code == 422
    assert client.get("/watch-sound.wav", params={"seconds": 4}).content[:4] == b"RIFF"


def test_what_stands_up_from_the_dial_is_looked_at_where_hands_pass_it(client: TestClient) -> None:
    looked = client.get(f"{SKERRY}/meeting").text
    assert "near the marker at" in looked
    assert "window&#39;s frame" in looked


def test_a_watch_that_the_bench_opens_again_makes_no_claim(client: TestClient) -> None:
    assert "Tested dry at" in client.get(TIDE).text
    at_the_bench = "/watches/4/build/at/pressure_dry"
    assert "Water, dry test: tight at 10.0\u00a0bar." in client.get(at_the_bench).text
    client.post("/watches/4/build/taps", data={"step": "close_back", "what": "open"})
    assert "Water, dry test: lapsed when the watch was opened." in client.get(at_the_bench).text
    assert "proofs have passed" in client.get("/watches/4/build/at/hand_over_ready").text
    shown = client.get(TIDE).text
    assert "The watch is open" in shown
    assert "Tested dry at" not in shown
    assert "lapsed" in shown


TYPED: dict[str, tuple[dict[str, str], str]] = {
    "held": (
        {"method": "dry chamber", "bar": "10", "minutes": "5", "held": "yes"},
        "Tight at 10.00 bar, 5.0 min",
    ),
    "leaked": (
        {"method": "dry chamber", "bar": "3", "minutes": "2", "held": "no", "where": "crown"},
        "Leak at 3.00 bar, at the crown",
    ),
    "the case alone": (
        {"method": "bubbles", "bar": "5", "minutes": "3", "held": "yes", "alone": "yes"},
        "The case alone: tight at 5.00 bar",
    ),
    "warm plate": (
        {"method": "warm plate and a drop", "minutes": "10", "held": "yes"},
        "No damp seen on the warm plate, 10.0 min",
    ),
}
TYPED_WRONG: dict[str, tuple[dict[str, str], str]] = {
    "under water before it was tested dry": (
        {"method": "bubbles", "bar": "5", "minutes": "3", "held": "yes"},
        "The dry test first",
    ),
    "no pressure": ({"method": "dry chamber", "bar": "", "minutes": "3", "held": "yes"}, "a number in bar"),
    "no method": (
        {"method": "a bucket", "bar": "3", "minutes": "3", "held": "yes"},
        "dry chamber or bubbles",
    ),
    "no place": (
        {"method": "dry chamber", "bar": "3", "minutes": "3", "held": "no", "where": "lugs"},
        "crown or back",
    ),
    "no time": ({"method": "dry chamber", "bar": "3", "minutes": "0", "held": "yes"}, "over 0"),
}


@pytest.mark.parametrize("name", TYPED)
def test_a_typed_dry_test_is_kept_with_how_and_where(client: TestClient, name: str) -> None:
    form, told = TYPED[name]
    assert client.post("/watches/1/prove/dry/typed", data=form, follow_redirects=False).status_code == 303
    shown = " ".join(client.get("/watches/1/prove/dry").text.split())
    assert told in shown
    # What was made with the case alone, or without pressure, proves nothing of a watch that wants 100 m.
    (state,) = page_of(client, "/watches/1/prove/dry").xpath(
        "//a[@aria-current='page' and contains(., 'Water')]/small"
    )
    expected = {
        "held": "passed", "leaked": "does not hold", "the case alone": "not yet", "warm plate": "unsure",
    }  # fmt: skip
    assert state.text == expected[name]


def test_neither_bubbles_nor_a_warm_plate_claim_a_depth(client: TestClient) -> None:
    for form in (
        TYPED["held"][0],
        TYPED["warm plate"][0],
        {**TYPED["held"][0], "method": "bubbles", "bar": "20"},
    ):
        client.post("/watches/1/prove/dry/typed", data=form)
    shown = " ".join(client.get("/watches/1/prove/dry").text.split())
    assert "Wet test at 20.0 bar: no bubbles" in shown
    (state,) = page_of(client, "/watches/1/prove/dry").xpath(
        "//a[@aria-current='page' and contains(., 'Water')]/small"
    )
    assert state.text == "passed", "the dry test at 10 bar still decides"


@pytest.mark.parametrize("name", TYPED_WRONG)
def test_a_typed_test_that_cannot_be_is_told_and_keeps_nothing(client: TestClient, name: str) -> None:
    form, told = TYPED_WRONG[name]
    refused = client.post("/watches/1/prove/dry/typed", data=form)
    assert refused.status_code == 422
    assert told in refused.text
    assert "proof-history" not in client.get("/watches/1/prove/dry").text
