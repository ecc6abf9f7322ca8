"""The worked cases of steps, stem and pressed hands, through the commands."""

import json
from pathlib import Path
from typing import Any

import pytest

from marquetry.cli import main

HERE = Path(__file__).parent


def cases(folder: str) -> list[Path]:
    return sorted((HERE / folder).glob("*.json"))


def ran(
    words: list[str], told: Any, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> tuple[int, str, str]:
    """The command on a file of what is told: exit code, what it printed, what it complained of."""
    file = tmp_path / "given.json"
    file.write_text(json.dumps(told), "utf-8")
    code = main([words[0], str(file), *words[1:]])
    return code, *capsys.readouterr()


@pytest.mark.parametrize("case", cases("stem"), ids=lambda path: path.stem)
def test_a_ledger_comes_out_to_the_digit(
    case: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    told = json.loads(case.read_text("utf-8"))
    expected = told["expected"]
    code, out, err = ran(["stem", "--json"], told["ledger"], tmp_path, capsys)
    assert code == expected.get("exit", 0)
    if code:
        assert f"{expected['path']}:" in err
        return
    found = json.loads(out)
    rows = found.pop("rows"), expected.pop("rows")
    assert found == pytest.approx(expected, abs=1e-6)
    for row, wanted in zip(*rows, strict=True):
        assert row == pytest.approx(wanted, abs=1e-6)


@pytest.mark.parametrize("case", cases("pressed"), ids=lambda path: path.stem)
def test_pressed_hands_come_out_to_the_digit(
    case: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    told = json.loads(case.read_text("utf-8"))
    words = ["pressed", "--heights", told["heights"]]
    code, out, _ = ran([*words, "--json"], told["build"], tmp_path, capsys)
    found, expected = json.loads(out), told["expected"]
    assert (code, found["verdict"]) == (0, expected["verdict"])
    for gap, wanted in zip(found["gaps"], expected["gaps"], strict=True):
        figures = {key: wanted[key] for key in ("gap", "spare") if key in wanted}
        assert gap == {
            "between": wanted["between"],
            **{k: pytest.approx(v, abs=1e-6) for k, v in figures.items()},
        }
    _, out, _ = ran(words, told["build"], tmp_path, capsys)
    assert out.startswith(expected["verdict"])


@pytest.mark.parametrize("case", cases("steps"), ids=lambda path: path.stem)
def test_the_steps_are_those_of_the_watch(
    case: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    told = json.loads(case.read_text("utf-8"))
    schools = [word for key, choice in told["schools"].items() for word in ("--school", f"{key}={choice}")]
    code, out, _ = ran(["steps", "--json", *schools], told["build"], tmp_path, capsys)
    found, expected = {step["id"]: step for step in json.loads(out)}, told["expected"]
    order = list(found)
    assert code == 0
    assert set(order) - set(expected["left_open"]) == set(expected["present"])
    for first, then in expected["in_order"]:
        if {first, then} <= set(order):
            assert order.index(first) < order.index(then), (first, then)
    for step, gates in expected["gates"].items():
        assert set(gates) <= set(found[step]["gates"]), step
    if "slack" not in expected:
        assert not any("shim_mm" in step for step in found.values())
        return
    shims = [step["shim_mm"] for step in found.values() if "shim_mm" in step]
    hands = ",".join(f"{i.removeprefix('press_')}={s['shim_mm']}" for i, s in found.items() if "shim_mm" in s)
    _, out, _ = ran(["pressed", "--heights", hands, "--json"], told["build"], tmp_path, capsys)
    wanted = [gap["spare"] for gap in json.loads(out)["gaps"] if "gap" in gap]
    assert shims
    assert min(wanted) == pytest.approx(expected["slack"], abs=1e-6)


REFUSED: dict[str, tuple[list[str], Any, str]] = {
    "an unknown school": (["steps", "--school", "school_glue=much"], {}, "--school"),
    "an unknown choice": (["steps", "--school", "school_stem=saw"], {}, "rules.school_stem"),
    "no pair": (["steps", "--school", "school_stem"], {}, "rules.school_stem"),
    "an unknown kind": (["stem"], {"events": [{"kind": "saw", "value": 1}]}, "events[0].kind"),
    "no value": (["stem"], {"events": [{"kind": "cut", "value": 1}, {"kind": "gap"}]}, "events[1].value"),
    "a value that is true": (["stem"], {"events": [{"kind": "gap", "value": True}]}, "events[0].value"),
    "a cut of less than nothing": (["stem"], {"events": [{"kind": "cut", "value": -1}]}, "events[0].value"),
    "a doubt of less than nothing": (
        ["stem"], {"events": [{"kind": "gap", "value": 1, "u": -0.1}]}, "events[0].u",
    ),
    "turns that are words": (
        ["stem"], {"events": [{"kind": "gap", "value": 1, "turns_short": "two"}]}, "events[0].turns_short",
    ),
    "turns of a cut": (
        ["stem"], {"events": [{"kind": "cut", "value": 1, "turns_short": 2}]}, "events[0].turns_short",
    ),
    "a thread without pitch": (
        ["stem"], {"events": [{"kind": "gap", "value": 1, "turns_short": 1, "pitch": 0}]}, "events[0].pitch",
    ),
    "a length without a target": (["stem"], {"events": [{"kind": "length", "value": 20}]}, "events[0]"),
    "a school there is not": (["stem"], {"school": "saw", "events": []}, "school"),
    "a risk that is none": (["stem"], {"rules": {"stem_risk": 1}, "events": []}, "rules.stem_risk"),
    "a window the wrong way round": (["stem"], {"rules": {"stem_window": [1, 0]}}, "rules.stem_window"),
    "a hand the watch has not": (["pressed", "--heights", "h24=0.5"], {}, "hands.h24"),
    "no hand at all": (["pressed", "--heights", ","], {}, "--heights"),
    "a hand twice": (["pressed", "--heights", "hour=1,hour=2"], {}, "--heights"),
    "a height in words": (["pressed", "--heights", "hour=low"], {}, "hour"),
    "a height beyond any hand": (["pressed", "--heights", "hour=21"], {}, "hour"),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_ends_with_2_and_names_the_place(
    name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    words, told, place = REFUSED[name]
    build = json.loads(cases("steps")[0].read_text("utf-8"))["build"]
    code, out, err = ran(words, told if words[0] == "stem" else build, tmp_path, capsys)
    assert (code, out) == (2, "")
    assert f"{place}:" in err


def test_a_gap_is_not_told_where_a_dimension_lacks(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    build = json.loads(cases("pressed")[0].read_text("utf-8"))["build"]
    del build["parts"]["hands"]["minute"]["pipe"]
    assert ran(["pressed", "--heights", "hour=0.8", "--json"], build, tmp_path, capsys)[0] == 0
    code, _, err = ran(["pressed", "--heights", "hour=0.8,minute=1.5"], build, tmp_path, capsys)
    assert code == 2
    assert "hands.minute.pipe:" in err
