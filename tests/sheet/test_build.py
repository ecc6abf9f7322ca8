"""Reading a build sheet: what is taken, what is refused and by which path, and what an edit changes."""

from typing import Any

import pytest

from marquetry.core.measuring.instrument import WAYS
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.schema import Group, Many, Quantity
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import DimensionError, MarquetryError, NotFoundError, SheetError
from marquetry.core.values.verdict import Verdict
from tests.strategies import ANATOMY, case_build, report_on


def sheet(**parts: Any) -> dict[str, Any]:
    return {"format": "marquetry-build/1", "name": "Trial", "parts": parts}


@pytest.mark.parametrize(
    ("written", "expected"),
    [
        (2.5, Dimension(2.5, 0.05, Source.LISTED)),
        ({"value": 2.5, "source": "measured"}, Dimension(2.5, 0.02, Source.MEASURED)),
        ({"value": 2.5, "source": "assumed"}, Dimension(2.5, 0.15, Source.ASSUMED)),
        ({"value": 2.5, "source": "exact"}, Dimension(2.5, 0.0, Source.EXACT)),
        ({"value": 2.5, "tol": 0.1}, Dimension(2.5, 0.1, Source.LISTED)),
        ({"value": 2.5, "tol": None, "source": "listed"}, Dimension(2.5, 0.05, Source.LISTED)),
    ],
)
def test_a_dimension_brings_the_usual_tolerance_of_its_source(written: Any, expected: Dimension) -> None:
    assert Build(sheet(dial={"thickness": written}), ANATOMY).dimensions["dial.thickness"] == expected


def test_an_angle_has_its_own_usual_tolerances() -> None:
    build = Build(sheet(case={"crown_angle": 90}), ANATOMY)
    assert build.dimensions["case.crown_angle"].tol == 0.5


@pytest.mark.parametrize(
    ("document", "path", "expected"),
    [
        ([], "", "an object"),
        ({"format": "marquetry-build/2", "name": "x", "parts": {}}, "format", '"marquetry-build/1"'),
        ({"format": "marquetry-build/1", "parts": {}}, "name", "name in words"),
        ({"format": "marquetry-build/1", "name": "x"}, "parts", "an object"),
        (sheet(dial=[]), "parts.dial", "an object"),
        (sheet(dial={"thickness": "thin"}), "parts.dial.thickness", "a number, or an object"),
        (sheet(dial={"thickness": True}), "parts.dial.thickness", "a number, or an object"),
        (sheet(dial={"thickness": {"value": None}}), "parts.dial.thickness.value", "a number in mm"),
        (sheet(dial={"thickness": {"value": 10**400}}), "parts.dial.thickness.value", "a number in mm"),
        (sheet(dial={"thickness": {"value": 1, "source": "felt"}}), "parts.dial.thickness.source", "one of"),
        (sheet(dial={"feet": {}}), "parts.dial.feet", "a list"),
        (sheet(dial={"feet": [3]}), "parts.dial.feet.0", "an object"),
        (sheet() | {"target": {"water_depth_m": -5}}, "target.water_depth_m", "a number from 0"),
        (sheet(dial={"feet": [{}] * 25}), "parts.dial.feet", "at most 24"),
        (sheet(dial={"windows": [1]}), "parts.dial.windows", "a list of words"),
        (sheet(spacers=[{"side": "left"}]), "parts.spacers.0.side", '"dial" or "movement"'),
        (sheet(bezel={"clicks": 0}), "parts.bezel.clicks", "a whole number"),
        (sheet(hands={"hour": {"through": "yes"}}), "parts.hands.hour.through", "true or false"),
        (sheet(stem={"thread": 0.9}), "parts.stem.thread", "words"),
    ],
)
def test_what_cannot_be_read_is_refused_by_path(document: Any, path: str, expected: str) -> None:
    with pytest.raises(SheetError) as caught:
        Build(document, ANATOMY)
    assert caught.value.path == path
    assert expected in caught.value.expected


@pytest.mark.parametrize(
    ("written", "field"),
    [
        (-1, "dial.thickness"),
        (0, "dial.thickness"),
        (5000, "dial.thickness"),
        ({"value": 1, "tol": -0.1}, "dial.thickness.tol"),
    ],
)
def test_an_impossible_number_names_field_value_and_limit(written: Any, field: str) -> None:
    with pytest.raises(DimensionError) as caught:
        Build(sheet(dial={"thickness": written}), ANATOMY)
    assert caught.value.field == field
    assert "or more" in str(caught.value) or "more than 0" in str(caught.value)


@pytest.mark.parametrize(
    "rules",
    [{"stem_height": [0.2, 0.1]}, {"stem_height": 3}, {"gap_dial": "wide"}, {"gap_dial": -1}],
)
def test_a_rule_that_cannot_be_read_is_named(rules: dict[str, Any]) -> None:
    with pytest.raises(SheetError, match=f"rules.{next(iter(rules))}"):
        report_on(Build({**case_build(1).document, "rules": rules}, ANATOMY))


def test_a_sheet_may_set_its_own_limits_and_numbers() -> None:
    document = {**case_build(1).document, "rules": {"stem_height": [0.05, None], "gap_dial": 0.6}}
    own, usual = report_on(Build(document, ANATOMY)).findings, report_on(case_build(1)).findings
    assert own["stem_height"].verdict is Verdict.CLASH
    assert (own["hand_stack"].value or 0) < (usual["hand_stack"].value or 0)


def test_unknown_keys_are_kept() -> None:
    document = sheet(dial={"thickness": 0.4, "enamel": "blue"}, sundial={"gnomon": 1}) | {"mood": "calm"}
    document["target"] = {"water_depth_m": None, "occasion": "a ferry's last crossing"}
    assert Build(document, ANATOMY).document == document


def test_edits_return_another_build_and_change_only_their_path() -> None:
    build = case_build(2)
    spaced = build.with_entry("spacers.-", {"side": "dial", "thickness": 0.74})
    assert build.count("spacers") == 0
    assert spaced.dimensions["spacers.0.thickness"].value == 0.74
    assert spaced.without("spacers.0") == build
    assert build.with_entry("dial.feet.1.length", 2).dimensions["dial.feet.0.length"].value == 1.4


@pytest.mark.parametrize("path", ["dial.enamel", "sundial", "dial.feet.9.length", "spacers.0"])
def test_an_edit_of_what_is_not_there_is_refused(path: str) -> None:
    with pytest.raises(NotFoundError):
        case_build(1).with_entry(path, 1.0)
    with pytest.raises(MarquetryError):
        case_build(1).without(path)


@pytest.mark.parametrize(
    ("path", "label"),
    [
        ("case.seat_to_tube", "Case, seat to tube axis"),
        ("movement.posts.minute.top", "Movement, posts, minute post, top above the face"),
        ("dial.feet.1.radius", "Dial, foot 2, from the centre"),
        ("spacers.0.thickness", "Spacer 1, thickness"),
        ("dial.feet.0.diameter", "Dial, foot 1, foot Ø"),
    ],
)
def test_a_path_in_a_builders_words(path: str, label: str) -> None:
    assert ANATOMY.label_of(path) == label


def test_every_described_quantity_is_plausible_at_its_usual_value() -> None:
    def quantities(prefix: str, part: Group | Many) -> list[tuple[str, Quantity]]:
        path = f"{prefix}{part.key}" + (".0" if isinstance(part, Many) else "")
        found = [(f"{path}.{e.key}", e) for e in part.entries if isinstance(e, Quantity)]
        inner = [e for e in part.entries if isinstance(e, Group | Many)]
        return found + [q for e in inner for q in quantities(f"{path}.", e)]

    every = [q for part in ANATOMY.parts for q in quantities("", part)]
    assert len(every) > 90
    for path, quantity in every:
        assert ANATOMY.quantity_at(path) is quantity
        assert ANATOMY.entry_at(path)[-1] is quantity
        assert quantity.is_plausible(quantity.usual), path
        quantity.refuse_impossible(path, quantity.usual)
        assert quantity.way in WAYS, path
