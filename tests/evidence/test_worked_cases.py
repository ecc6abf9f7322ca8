"""Worked cases of evidence: what follows, and every verdict with what it rests on and its doubt."""

import json
import math
from pathlib import Path
from typing import Any

import pytest

from marquetry.core.evidence.follow import followed, what_follows
from marquetry.core.sheet.build import Build
from marquetry.formats.findings import findings_of
from tests.strategies import ANATOMY, report_on

CASES = sorted((Path(__file__).parent / "cases").glob("*.json"))
NEAR = {"chance": 0.01}
"""How near a figure has to come, where not to the digit."""


YOUNGER = "track_seen"
"""The cases are older than the minute track's check, which judges any dial in any case."""


def without(watch: dict[str, Any], finding: dict[str, Any] | None) -> dict[str, Any]:
    """The whole as it is told without that check: its name left out, its doubt taken off."""
    named = {k: [n for n in v if n != YOUNGER] if isinstance(v, list) else v for k, v in watch.items()}
    if finding is not None:
        named["doubt"] = watch["doubt"] - finding["doubt"]
    return named


def told(value: object) -> object:
    """A list of missing things has no order that matters."""
    return sorted(value) if isinstance(value, list) else value


def agrees(key: str, found: object, wanted: object) -> bool:
    """Whether what was found is what the case says."""
    if isinstance(wanted, float) and isinstance(found, int | float):
        return math.isclose(found, wanted, abs_tol=NEAR.get(key, 1e-4))
    return told(found) == told(wanted)


@pytest.mark.parametrize("file", CASES, ids=lambda file: file.stem)
def test_a_worked_sheet_is_followed_and_judged(file: Path) -> None:
    case: dict[str, Any] = json.loads(file.read_text("utf-8"))
    build = followed(Build(case["build"], ANATOMY))
    settled = {path: build.dimensions[path].value for path in case["followed"]}
    assert settled == pytest.approx(case["followed"], abs=1e-4)
    document: dict[str, Any] = findings_of(build, report_on(build))
    found = {name: f for name, f in document["findings"].items() if f["verdict"] != "skipped"}
    watch = without(document["watch"], found.pop(YOUNGER, None))
    assert found.keys() == case["expected"].keys()
    for name, wanted in case["expected"].items():
        wrong = {
            key: (found[name][key], w) for key, w in wanted.items() if not agrees(key, found[name][key], w)
        }
        assert wrong == {}, name
    assert {key for key, w in case["watch"].items() if not agrees(key, watch[key], w)} == set()


def test_following_twice_changes_nothing_and_keeps_tolerances() -> None:
    for file in CASES:
        once = followed(Build(json.loads(file.read_text("utf-8"))["build"], ANATOMY))
        assert followed(once) == once
        for found in what_follows(once):
            assert found.value == pytest.approx(once.dimensions[found.path].value)
            assert once.dimensions[found.path].source == "assumed"
