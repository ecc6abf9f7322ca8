"""What two builds differ by, and that applying it gives the other."""

import json

import pytest
from hypothesis import HealthCheck, given, settings

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import applied, difference, read_edits, told
from marquetry.core.values.errors import MarquetryError, SheetError
from tests.strategies import builds, case_build

relaxed = settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])


@relaxed
@given(builds(), builds())
def test_applying_the_difference_gives_the_other_build(one: Build, other: Build) -> None:
    edits = read_edits(json.loads(json.dumps(difference(one, other))))
    assert applied(one, edits).parts == other.parts
    assert difference(one, one) == ()
    assert len(told(one, other)) == len(edits)


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("dial.thickness", 0.5, "Dial, thickness: 0.40 ±0.01 measured → 0.50 ±0.05 listed"),
        ("spacers.-", {"side": "dial", "thickness": 0.74}, "Spacers: none → side dial, thickness 0.74"),
        ("crystal.material", "mineral", "Crystal, material: sapphire → mineral"),
        ("bezel.clicks", 60, "Bezel, clicks a turn: 120 → 60"),
        ("dial.windows", ["date", "day"], "Dial, windows: date → date; day"),
    ],
)
def test_a_difference_is_told_in_words(path: str, value: object, words: str) -> None:
    build = case_build(1)
    assert told(build, build.with_entry(path, value)) == [words]


def test_a_part_taken_out_is_one_difference() -> None:
    build = case_build(1)
    assert difference(build, build.without("bezel")) == (("bezel", None),)
    assert told(build, build.without("bezel")) == ["Bezel: “Coin-edge bezel” → unknown"]


@pytest.mark.parametrize("document", [3, {}, [3], [["x"]], [[1, 2]], [["a", 1]] * 101])
def test_edits_that_are_none_are_refused(document: object) -> None:
    with pytest.raises(SheetError):
        read_edits(document)


@pytest.mark.parametrize(
    "edit", [["sundial", 1], ["dial.thickness", -1], ["dial.feet.9.length", 1], ["dial", 3]]
)
def test_edits_that_cannot_be_applied_are_refused(edit: list[object]) -> None:
    with pytest.raises(MarquetryError):
        applied(case_build(1), read_edits([edit]))
