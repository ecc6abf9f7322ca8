"""A watch heard through the browser's own microphone, a chamber heard as it reads, a watch read by one key.

The microphone is Chromium's stand-in for the device, fed with a file: permission, stream, worklet and samples
go the way they go with a real one.
"""

import base64
import re
import subprocess
import sys
from collections.abc import Iterator
from functools import partial

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from marquetry.formats.wav import wav_bytes
from tests.e2e.conftest import make_driver, told
from tests.e2e.test_beginning import clicked, patient
from tests.e2e.test_build import press
from tests.proving.ticking import ticking

RATE = 48_000
LEVEL = 0.3
"""Of the meter, which shows the root: a tenth of full scale. The file ticks at a third, over a ground of hundredths."""


HEARD_BY_THE_EAR = """
const [size, from, silent, done] = arguments;
const context = new OfflineAudioContext(1, size, 48000);
const sound = context.createBuffer(1, size, 48000);
sound.getChannelData(0).set(Array.from({ length: size }, (_, at) => (at < from || at >= from + silent ? at + 1 : 0)));
(async () => {
  await context.audioWorklet.addModule(document.getElementById("listen").dataset.worklet);
  const ear = new AudioWorkletNode(context, "ear", { numberOfOutputs: 0, channelCount: 1 });
  const told = [];
  ear.port.onmessage = (event) => told.push(event.data.torn ? "torn" : event.data.block[0]);
  const source = new AudioBufferSourceNode(context, { buffer: sound });
  source.connect(ear);
  source.start();
  await context.startRendering();
  setTimeout(() => done(told), 200);
})();
"""
"""The first sample of each block that the ear hands on, and where it found the sound torn."""


OUT_OF_TIME = """
const [told, rate] = arguments;
const bytes = Uint8Array.from(atob(told), (letter) => letter.charCodeAt(0));
const samples = Float32Array.from(new Int16Array(bytes.buffer), (each) => each / 32768);
window.AudioContext = function () {
  const context = new OfflineAudioContext(1, samples.length, rate);
  const buffer = context.createBuffer(1, samples.length, rate);
  buffer.getChannelData(0).set(samples);
  context.createMediaStreamSource = () => {
    const source = new AudioBufferSourceNode(context, { buffer });
    source.start();
    return source;
  };
  return Object.assign(context, { resume: () => context.startRendering(), close: () => {} });
};
"""
"""Puts these samples in place of the device's, as fast as they can be worked on."""


def says(told: str, browser: Chrome) -> bool:
    return told in words(browser, ".prove-head")


def words(browser: Chrome, css: str) -> str:
    return browser.find_element(By.CSS_SELECTOR, css).text


@pytest.fixture(scope="module")
def eared(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Chrome]:
    """A browser whose microphone hears a watch that gains nine seconds a day, over and over."""
    folder = tmp_path_factory.mktemp("eared")
    heard = folder / "watch.wav"
    heard.write_bytes(wav_bytes(ticking(rate=9.0, hertz=RATE, seconds=40.0, ground_db=35.0), RATE))
    made = make_driver(
        folder / "profile",
        more=("--use-fake-device-for-media-stream", f"--use-file-for-fake-audio-capture={heard}"),
    )
    yield made
    made.quit()


def allow(browser: Chrome, setting: str) -> None:
    asked = {"permission": {"name": "microphone"}, "setting": setting}
    browser.execute_cdp_cmd("Browser.setPermission", asked)


def test_the_microphone_is_asked_for_and_its_sound_arrives(eared: Chrome, looked_at: str) -> None:
    """As far as a machine that others use can be trusted with time: seconds count up, at the file's level."""
    allow(eared, "granted")
    eared.get(f"{looked_at}/watches/2/prove/sound")
    press(eared, "i")
    patient(eared).until(lambda b: re.match(r"([2-9]|1\d) of", words(b, ".listen-told")))
    patient(eared).until(lambda b: b.execute_script("return Listen.meter.value") > LEVEL)
    press(eared, Keys.ESCAPE)
    patient(eared).until(lambda b: "Stopped" in words(b, ".listen-told"))
    assert told(eared) == []


def test_a_watch_is_heard_through_the_ear_and_kept(eared: Chrome, looked_at: str) -> None:
    """The whole way of the microphone's samples, but for its clock: a busy machine would tear a sound in time."""
    allow(eared, "granted")
    eared.get(f"{looked_at}/watches/2/prove/sound")
    eared.find_element(By.NAME, "round").click()
    sound = (ticking(rate=9.0, hertz=RATE, seconds=22.0, ground_db=35.0)[:, 0] * 32_000).astype("<i2")
    eared.execute_script(OUT_OF_TIME, base64.b64encode(sound.tobytes()).decode(), RATE)
    press(eared, "i")
    patient(eared).until(lambda b: "Kept." in words(b, ".listen-told"))
    rate = words(eared, ".positions .position i")
    assert rate.startswith("+"), rate
    assert abs(float(rate.split()[0]) - 9.0) < 1.5, rate
    eared.get(f"{looked_at}/watches/2/prove/sound")
    assert "microphone" in words(eared, ".proof-history li")
    assert eared.execute_script("return document.querySelectorAll('.heard .beat-even').length") > 60
    assert told(eared) == []


def test_sound_that_is_torn_is_told_where_it_tears_and_what_lies_before_is_dropped(
    eared: Chrome, looked_at: str
) -> None:
    """A column that rises by one a sample, with noughts where a busy computer fills in silence."""
    eared.get(f"{looked_at}/watches/2/prove/sound")
    eared.set_script_timeout(20)
    heard = eared.execute_async_script(HEARD_BY_THE_EAR, 4 * 4096, 4096 + 1280, 640)
    assert heard == [1, "torn", 0, 4096 + 1280 + 4096 + 1], heard


def test_sound_that_keeps_tearing_is_given_up(eared: Chrome, looked_at: str) -> None:
    eared.get(f"{looked_at}/watches/2/prove/sound")
    told_of = eared.execute_script(
        "Listen.run = { torn: 0, blocks: [new Float32Array(9)], count: 9, end: () => {} };"
        "const told = [];"
        "while (Listen.run) { Listen.torn(Listen.run); told.push(Listen.words.textContent); }"
        "return told"
    )
    assert ["begun again" in each for each in told_of] == [True] * 10 + [False], told_of
    assert "Nothing was kept." in told_of[-1]


def test_a_microphone_that_is_refused_is_told_and_nothing_is_kept(eared: Chrome, looked_at: str) -> None:
    allow(eared, "denied")
    eared.get(f"{looked_at}/watches/3/prove/sound")
    press(eared, "i")
    patient(eared).until(lambda b: "refused" in words(b, ".listen-told"))
    assert eared.find_element(By.CSS_SELECTOR, "[data-listen]").is_displayed()
    eared.get(f"{looked_at}/watches/3/prove/sound")
    assert not eared.find_elements(By.CSS_SELECTOR, ".proof-history")
    assert told(eared) == []


def test_the_simulated_watch_goes_the_same_way_and_on_to_the_next(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1/prove/sound")
    Select(browser.find_element(By.NAME, "source")).select_by_value("stand-in")
    browser.find_element(By.CSS_SELECTOR, "[data-listen]").click()
    patient(browser).until(lambda b: "Now turn it: dial down" in words(b, ".listen-told"))
    assert "Mean of 1" in words(browser, ".round-sum")
    press(browser, Keys.ESCAPE)
    patient(browser).until(lambda b: "Stopped" in words(b, ".listen-told"))


def test_a_dry_test_grows_line_by_line_and_is_kept(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1/prove/dry")
    press(browser, "i")
    patient(browser).until(lambda b: b.execute_script("return Chamber.source?.readyState === 1"))
    play = ("chamber", "--case", "crown", "--bar", "5", "--hold", "60", "--to", address, "--faster", "60")
    command = [sys.executable, "-m", "marquetry.cli", *play]
    process = subprocess.Popen(command, stdout=subprocess.PIPE)
    patient(browser).until(lambda b: "Leak" in words(b, "#held"))
    assert b"lines sent" in process.communicate(timeout=30)[0]
    press(browser, Keys.ESCAPE)
    patient(browser).until(lambda b: clicked(b, "#dry .button"))
    patient(browser).until(lambda b: "Where to look" in words(b, ".water-do"))
    patient(browser).until(lambda b: "Leak at 5.0" in words(b, ".proof-history li"))


def test_a_watch_is_read_by_one_key_at_the_full_minute(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1/prove/wrist")
    assert ":" in words(browser, ".wrist-clock")
    press(browser, " ")
    patient(browser).until(lambda b: b.find_elements(By.CSS_SELECTOR, ".proof-history li"))
    assert "worn" in words(browser, ".proof-history li")


def test_a_finished_watch_is_opened_and_lapses_by_the_keyboard(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/4/prove")
    assert "Ready to hand over" in words(browser, ".prove-head")
    patient(browser).until(lambda b: clicked(b, ".prove-opened button"))
    patient(browser).until(lambda b: "still to pass" in words(b, ".prove-head"))
    press(browser, Keys.ENTER)
    patient(browser).until(lambda b: "Every function" in words(b, ".prove-title"))
    for number in (1, 2, 3):
        patient(browser).until(lambda b: clicked(b, ".trying .tap-usual"))
        patient(browser).until(partial(says, f"{number} of 7 tried"))


def test_an_angle_is_clicked_in_the_picture_point_by_point(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/4/prove/angle")
    browser.find_element(By.CSS_SELECTOR, ".picture-row a").click()
    for point, x, y in (("centre", 450, 450), ("marker", 450, 96), ("tip", 450, 170)):
        chosen = f"return Boolean(document.querySelector('[value={point}]:checked'))"
        patient(browser).until(partial(asked, chosen))
        click_at(browser, x, y)
        filled = f"return document.querySelector('[name={point}]').value !== ''"
        patient(browser).until(partial(asked, filled))
    told = patient(browser).until(lambda b: words(b, ".heard-rate .figure"))
    assert abs(float(told.split()[0].replace("−", "-"))) < 1.0
    Select(browser.find_element(By.NAME, "item")).select_by_value("minute")
    patient(browser).until(lambda b: "item=minute" in b.current_url)
    patient(browser).until(lambda b: clicked(b, ".straight-points .tap-usual"))
    patient(browser).until(lambda b: "Minute" in words(b, ".proof-history li"))


def asked(script: str, browser: Chrome) -> bool:
    return bool(browser.execute_script(script))


def click_at(browser: Chrome, x: float, y: float) -> None:
    """Click a place of the photograph, told in its own pixels."""
    picture = browser.find_element(By.CSS_SELECTOR, "svg.picture")
    at = browser.execute_script(
        "const m = arguments[0].getScreenCTM(), p = new DOMPoint(arguments[1], arguments[2]).matrixTransform(m);"
        "const r = arguments[0].getBoundingClientRect(); return [p.x - r.x - r.width / 2, p.y - r.y - r.height / 2];",
        picture, x, y,
    )  # fmt: skip
    ActionChains(browser).move_to_element_with_offset(picture, round(at[0]), round(at[1])).click().perform()
