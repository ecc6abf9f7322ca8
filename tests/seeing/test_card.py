"""The card: what is printed is what is looked for, to the hundredth."""

import json
from io import BytesIO
from pathlib import Path

import cv2
import numpy as np
import pytest
from reportlab.lib.pagesizes import A6

from marquetry import cli
from marquetry.core.seeing import card
from marquetry.drawing.pdf import MM, pdf_bytes
from marquetry.drawing.picture_card import picture_card
from marquetry.drawing.scene import CutFace, Dot

CASES = Path(__file__).parents[1] / "cases" / "pictures"


def test_the_cells_are_the_dictionarys() -> None:
    dictionary = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    for number, rows in enumerate(card.MARKER_BITS):
        drawn = cv2.aruco.generateImageMarker(dictionary, number, card.CELLS, borderBits=1)
        assert [[cell > 0 for cell in row] for row in drawn[1:5, 1:5]] == [
            [bit == "1" for bit in row] for row in rows
        ]


@pytest.mark.parametrize("printed", [60.0, 60.1, 59.4])
def test_corners_grow_with_the_print(printed: float) -> None:
    first, second = card.corners(printed)[:2]
    assert np.hypot(*(second - first)) == pytest.approx(12.0 * printed / 60.0)
    assert card.corners(printed).reshape(4, 4, 2).mean(axis=1) == pytest.approx(
        np.array(card.MARKER_MIDDLES) * printed / 60.0
    )


def test_what_is_printed_is_true_to_size() -> None:
    scene = picture_card()
    assert (scene.width * MM, scene.height * MM) == pytest.approx(A6, abs=1.0)
    faces = [mark for mark in scene.walk() if isinstance(mark, CutFace)]
    xs = [x for face in faces for outline in face.outlines for x, _ in outline]
    assert max(xs) - min(xs) == pytest.approx(2 * 34.0 + 12.0)
    (ring,) = [mark for mark in scene.walk() if isinstance(mark, Dot)]
    assert ring.radius == 25.0
    assert pdf_bytes([scene], "card").startswith(b"%PDF")


def test_the_commands_print_a_card_and_read_a_picture(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert cli.main(["card", "--out", str(tmp_path / "card.pdf")]) == 0
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")
    capsys.readouterr()
    square = tmp_path / "square.png"
    picture = ["picture", str(CASES / "p03.jpg"), "--kind", "hands"]
    assert cli.main([*picture, "--json", "--out", str(square)]) == 0
    printed = json.loads(capsys.readouterr().out)
    assert printed["kind"] == "hands"
    assert printed["scale"]["from"] == "card"
    assert printed["picture"] == str(square)
    assert {field["path"] for field in printed["fields"]} >= {"hour.bore", "seconds.length"}
    assert all(set(field) == {"path", "value", "tol", "unit", "at", "sure"} for field in printed["fields"])
    assert square.read_bytes()[:4] == b"\x89PNG"


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--print", "12"], "--print: 12.0 cannot be; expected from 57 to 63"),
        (["--stem-at", "north"], "two pixels, X,Y"),
        (["--thickness", "nan"], "--thickness"),
    ],
)
def test_options_that_cannot_be_are_told(
    options: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert cli.main(["picture", str(CASES / "p03.jpg"), "--kind", "hands", *options]) == 2
    assert words in capsys.readouterr().err


def test_a_file_that_is_no_picture_ends_with_two(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "a.jpg").write_bytes(BytesIO(b"none").getvalue())
    assert cli.main(["picture", str(tmp_path / "a.jpg"), "--kind", "ring"]) == 2
    assert "no picture" in capsys.readouterr().err
