"""The command line: what it prints, and with which code it ends."""

import json
from pathlib import Path

import pytest

from marquetry.cli import main
from tests.strategies import case


def write(folder: Path, number: int) -> str:
    file = folder / f"case-{number}.json"
    file.write_text(json.dumps(case(number)["build"]), "utf-8")
    return str(file)


@pytest.mark.parametrize(("number", "code"), [(1, 0), (2, 1), (3, 0), (9, 0)])
def test_the_exit_code_tells_a_clash(
    number: int, code: int, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["check", write(tmp_path, number), "--json"]) == code
    (printed,) = json.loads(capsys.readouterr().out)
    assert printed["name"] == case(number)["build"]["name"]
    assert printed["file"].endswith(f"case-{number}.json")
    for check, expected in case(number)["expected"].items():
        if check in printed["findings"]:
            assert printed["findings"][check]["verdict"] == expected["verdict"]


def test_the_table_names_the_gravest_first(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", write(tmp_path, 2), write(tmp_path, 9)]) == 1
    first, second = capsys.readouterr().out.split("\n\n")
    assert first.splitlines()[0] == "Night Ferry: clash (doubt 0.32)"
    assert "Stem against tube" in first.splitlines()[1]
    assert "wanted −0.10 … 0.10\u00a0mm" in first.splitlines()[1]
    assert "measure Movement, dial face to stem axis" in second


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"{", "expected JSON"),
        (b"\xff\xfe{}", "expected text in UTF-8"),
        (b'{"format": "marquetry-build/9"}', 'format: expected "marquetry-build/1", found'),
        (b'{"format": "marquetry-build/1", "name": "x", "parts": {"dial": {"thickness": NaN}}}', "finite"),
        (b'{"format": "marquetry-build/1", "name": "x", "parts": {"dial": 3}}', "parts.dial: expected"),
        (b"[" * 100_000, "nesting"),
        (b" " * 1_000_001, "at most 1000 kB"),
    ],
)
def test_unreadable_input_is_told_by_file_and_path(
    content: bytes, told: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "bad.json"
    file.write_bytes(content)
    assert main(["check", str(file)]) == 2
    error = capsys.readouterr().err
    assert str(file) in error
    assert told in error
    assert "Traceback" not in error


def test_a_file_that_is_not_there_is_told(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", str(tmp_path / "none.json")]) == 2
    assert "there is no such file" in capsys.readouterr().err
