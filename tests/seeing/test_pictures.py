"""Sizes from pictures: the public ones and some of the stand-in camera's, judged by the page's own bars.

The camera shares no line with what measures: it follows rays down from each pixel, the other way round.
"""

import json
import math
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image

from marquetry.core.seeing.measure import PictureTold, Seen, measure
from marquetry.core.seeing.refusal import PictureError
from marquetry.devices import bench_parts as parts
from marquetry.devices.bench_camera import BenchCamera, Paint, disc
from marquetry.formats.photograph import read_photograph

CASES = Path(__file__).parents[1] / "cases" / "pictures"
OPTIONS = {"--thickness": "thickness", "--camera": "camera"}
BARS = {"bore": 0.04, "length": 0.08}
LOOSE = ("centre_hole", "posts", "foot_holes", "feet", "inner_diameter")
Truth = Mapping[str, float]


def public() -> list[object]:
    cases = json.loads((CASES / "cases.json").read_text("utf-8"))["cases"]
    return [pytest.param(case, id=case["name"]) for case in cases]


def pixels(raw: bytes) -> NDArray[np.uint8]:
    return read_photograph(raw).pixels


def judge(seen: Seen, truth: Truth) -> None:
    """Every true size is found within its bar and its tolerance, and no place besides."""
    found = {find.path: find for find in seen.finds}
    assert set(found) >= set(truth), f"not found: {set(truth) - set(found)}"
    assert {path for path in found if path.endswith("radius")} <= set(truth), "found, and not there"
    for path, true in truth.items():
        find, off = found[path], found[path].value - true
        if find.unit == "°":
            off = math.radians((off + 180) % 360 - 180) * truth[path.replace("angle", "radius")]
        last = path.rpartition(".")[2]
        loose = path.startswith(LOOSE) and last not in {"radius", "angle"}
        bar = 0.10 if loose else next((bar for word, bar in BARS.items() if word in last), 0.06)
        assert abs(off) <= bar, f"{path}: {off:+.3f}"
        within = (
            find.tol if find.unit == "mm" else math.radians(find.tol) * truth[path.replace("angle", "radius")]
        )
        assert abs(off) <= within, f"{path}: {off:+.3f} is not within {within:.3f}"


@pytest.mark.parametrize("case", public())
def test_the_public_pictures_are_read_or_refused(case: dict[str, object]) -> None:
    given = [str(word) for word in case["options"]]  # type: ignore[attr-defined]  # a list of words
    options = {OPTIONS[name]: float(value) for name, value in zip(given[::2], given[1::2], strict=True)}
    photograph = read_photograph((CASES / str(case["image"])).read_bytes())
    told = PictureTold(case["kind"], focal=photograph.focal, **options)  # type: ignore[arg-type]  # words of the case
    if case["refuse"]:
        with pytest.raises(PictureError, match=str(case["refuse"])):
            measure(photograph.pixels, told)
        return
    seen = measure(photograph.pixels, told)
    judge(seen, case["truth"])  # type: ignore[arg-type]  # as above
    assert seen.asks == ()
    assert seen.tilt == pytest.approx(case["drawn"]["tilt"], abs=0.3)  # type: ignore[index]  # as above


def foot(radius: float, angle: float, diameter: float) -> dict[str, float]:
    return {"radius": radius, "angle": angle, "diameter": diameter}


FEET = (foot(11.9, 40.2, 0.74), foot(12.1, 160.7, 0.78), foot(11.8, 281.4, 0.70))
HOLES = (foot(12.0, 41.3, 0.82), foot(11.9, 222.6, 0.82))
WINDOW = {"radius": 9.8, "angle": 90.0, "width": 2.6, "height": 1.9}
LONG = (
    {"bore": 1.5, "length": 8.5, "boss": 2.6, "wide": 0.6},
    {"bore": 0.9, "length": 12.6, "boss": 2.1, "wide": 0.5},
    {"bore": 0.26, "length": 13.2, "boss": 1.4, "wide": 0.09, "tail": 4.0},
)


def counted(name: str, things: tuple[dict[str, float], ...]) -> dict[str, float]:
    return {f"{name}.{n}.{key}": value for n, thing in enumerate(things) for key, value in thing.items()}


SCENES = {
    "dial-back": (
        BenchCamera(height=296, tilt=14, leans=200, turn=94, field=66, seed=5),
        parts.dial_back(28.5, 2.0, FEET, about=(0.8, -0.6), colour=(0.30, 0.2, 0.09)),
        PictureTold("dial-back"),
        {"diameter": 28.5, "centre_hole": 2.0, **counted("feet", FEET)},
    ),
    "movement": (
        BenchCamera(height=262, tilt=9, leans=40, field=62, distortion=-0.05, seed=6),
        parts.movement(27.4, HOLES, 1.5, stem_at=96.0, about=(-0.7, 0.2), face=4.1),
        PictureTold("movement", thickness=4.1),
        {"diameter": 27.4, **counted("foot_holes", HOLES)},
    ),
    "dial-front": (
        BenchCamera(height=250, tilt=4, leans=300, turn=-3, distortion=0.05, seed=7),
        parts.dial_front(30.0, 2.0, track=13.9, window=WINDOW, colour=(0.05, 0.12, 0.35)),
        PictureTold("dial-front", window_at=90.0),
        {"diameter": 30.0, "centre_hole": 2.0, "track_radius": 13.9, "date_window_radius": 9.8,
         "date_window_angle": 90.0},
    ),
    "hands": (
        BenchCamera(height=252, tilt=3, leans=45, seed=8),
        parts.hands(LONG, closed=(2,)),
        PictureTold("hands"),
        {"hour.bore": 1.5, "hour.length": 8.5, "minute.bore": 0.9, "seconds.length": 13.2},
    ),
    "ring": (
        BenchCamera(height=267, tilt=4, leans=120, turn=178, seed=9),
        parts.ring(38.0, 31.5, height=1.0, colour=parts.BLACK, about=(0.4, 0.9)),
        PictureTold("ring", thickness=1.0),
        {"outer_diameter": 38.0, "inner_diameter": 31.5},
    ),
}  # fmt: skip


def test_three_markers_do_and_a_dial_without_feet_gets_none() -> None:
    camera = BenchCamera(hidden=(1,), samples=1, seed=11)
    seen = measure(pixels(camera.picture(parts.dial_back(28.5, 2.0, (), specks=9))), PictureTold("dial-back"))
    judge(seen, {"diameter": 28.5, "centre_hole": 2.0})


@cache
def taken(name: str) -> NDArray[np.uint8]:
    camera, things, *_ = SCENES[name]
    return pixels(replace(camera, samples=1).picture(things))


@pytest.mark.parametrize("name", SCENES)
def test_what_the_stand_in_camera_saw_is_read_back(name: str) -> None:
    *_, told, truth = SCENES[name]
    seen = measure(taken(name), told)
    judge(seen, {path: value for path, value in truth.items() if path != "date_window_angle"})
    assert {ask.path for ask in seen.asks} == ({"seconds.bore"} if name == "hands" else set())


def test_a_print_a_height_and_a_stem_that_are_told_are_used() -> None:
    *_, told, truth = SCENES["ring"]
    grown = {find.path: find.value for find in measure(taken("ring"), replace(told, printed=60.6)).finds}
    assert grown["outer_diameter"] == pytest.approx(1.01 * truth["outer_diameter"], abs=0.07)
    flat = {find.path: find for find in measure(taken("movement"), PictureTold("movement")).finds}
    asks = measure(taken("movement"), PictureTold("movement")).asks
    assert "thickness" in {ask.path for ask in asks}
    assert flat["diameter"].value == pytest.approx(27.4, abs=0.1), (
        "four millimetres are taken, and asked about"
    )
    pointed = measure(
        taken("movement"), PictureTold("movement", thickness=4.1, stem_at=(1500.0, 2000.0))
    ).finds
    assert {f.path: f.value for f in pointed}["foot_holes.0.angle"] != flat["foot_holes.0.angle"].value


def scan(dpi: float, part: tuple[float, float, float] | float, ground: float) -> NDArray[np.uint8]:
    """A ring of 20 and 12 mm as a scanner sees it, straight down."""
    step = 25.4 / dpi
    y, x = np.mgrid[0:1000, 0:1200] * step
    out = np.hypot(x - 600.3 * step, y - 480.6 * step)
    inside = np.clip((10.0 - out) / step + 0.5, 0, 1) * np.clip((out - 6.0) / step + 0.5, 0, 1)
    light = ground + (np.asarray(part) - ground) * inside[..., None]
    coded = 255 * np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
    noise = np.random.default_rng(3).normal(0, 1.2, (1000, 1200, 3))
    return np.asarray(np.clip(coded + noise, 0, 255), np.uint8)


def test_a_scanner_needs_no_card_but_its_scale_is_doubted() -> None:
    seen = measure(scan(900, 0.2, 0.85), PictureTold("ring", dpi=900))
    found = {find.path: find for find in seen.finds}
    assert found["outer_diameter"].value == pytest.approx(20.0, abs=0.06)
    assert found["inner_diameter"].value == pytest.approx(12.0, abs=0.06)
    assert found["outer_diameter"].tol > 0.003 * 20.0
    assert seen.as_dict()["scale"]["from"] == "dpi"
    with pytest.raises(PictureError, match="dark ground"):
        measure(scan(900, 0.02, 0.01), PictureTold("ring", dpi=900))


VELVET = (Paint(0, disc(0, 0, 24.6), (0.012, 0.012, 0.014)),)
DARK = (*VELVET, *parts.dial_back(28.5, 2.0, FEET, colour=(0.03, 0.03, 0.035)))
REFUSED = {
    "no card": (BenchCamera(hidden=(0, 1, 2, 3)), (), "No card"),
    "two markers": (BenchCamera(hidden=(0, 2)), (), "fewer than three"),
    "nothing on it": (BenchCamera(seed=2), (), "ring line"),
    "bent": (BenchCamera(bend=4.0), (), "bent"),
    "out of focus": (BenchCamera(blur=4.0), (), "too blurred"),
    "dark on dark": (BenchCamera(), DARK, "dark ground"),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_measured_is_refused_in_words(name: str) -> None:
    camera, things, words = REFUSED[name]
    with pytest.raises(PictureError, match=words) as refused:
        measure(pixels(replace(camera, samples=1).picture(things)), PictureTold("dial-back"))
    assert str(refused.value).count(".") >= 2, "what is wrong, and what to do"


def png(width: int, height: int) -> bytes:
    file = BytesIO()
    Image.new("1", (width, height)).save(file, "PNG")
    return file.getvalue()


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        (b"", "no picture"),
        (b"\xff\xd8\xff\xe0 nothing", "no picture"),
        (b"x" * 41_000_000, "40 MB"),
        (png(20_000, 4_000), "60 megapixels"),
        (png(100, 100), "pixels"),
    ],
)
def test_hostile_files_are_refused_before_they_are_decoded(raw: bytes, words: str) -> None:
    with pytest.raises(PictureError, match=words):
        read_photograph(raw)
