"""Pairs and shopping cards against the report: every cell, and both sides of every range."""

import csv
import io
from typing import Any

import numpy as np
import pytest

from marquetry.core.finder.candidates import Candidate, Slot
from marquetry.core.finder.pairs import PAIRS, pair_table
from marquetry.core.finder.shopping import shopping_card
from marquetry.core.fit.finding import Finding
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.verdict import Verdict
from marquetry.formats.pairs_csv import pairs_csv
from tests.about import about
from tests.finder.test_search import slots_of
from tests.strategies import ANATOMY, MODEL, case_build, report_on, rules


def hangs_on_both(finding: Finding, kinds: set[str]) -> bool:
    waits = any(path.partition(".")[0] not in kinds for path in finding.missing)
    return kinds <= about(finding.check) and not waits


def gravest(build: Build, kinds: set[str]) -> Verdict:
    spoken = [f for f in report_on(build).findings.values() if hangs_on_both(f, kinds)]
    told = [f.verdict for f in spoken if f.verdict is not Verdict.SKIPPED]
    return max(told, key=lambda verdict: verdict.gravity, default=Verdict.UNMEASURED)


@pytest.mark.parametrize("kinds", PAIRS, ids=" × ".join)
@pytest.mark.parametrize("number", [1, 10])
def test_every_cell_is_what_the_report_says_of_the_two(kinds: tuple[str, str], number: int) -> None:
    build = case_build(number)
    rows, columns = slots_of(build, kinds, 6, 3)
    table = pair_table(build, rules(), rows, columns)
    for row, first in enumerate(rows.candidates):
        for column, second in enumerate(columns.candidates):
            held = {rows.kind: first.part.document, columns.kind: second.part.document}
            whole = build.with_parts(held)
            expected = gravest(whole, set(kinds))
            assert table.verdict(row, column) is expected, (row, column, held)
            worst = table.worst[row, column]
            if worst >= 0:
                assert report_on(whole).findings[table.checks[worst]].verdict is expected


def test_a_cell_tells_the_spacer_it_takes() -> None:
    build = case_build(2)
    rows, columns = slots_of(build, ("movement", "case"), 5, 9)
    table = pair_table(build, rules(), rows, columns, most_spacer=1.0)
    bare = pair_table(build, rules(), rows, columns)
    assert np.all(bare.spacers == 0)
    assert np.count_nonzero(table.spacers) > 5
    for row, column in zip(*np.nonzero(table.spacers), strict=True):
        thickness = dimension_as_json(Dimension(float(table.spacers[row, column]), 0.02, Source.PLANNED))
        held: dict[str, Any] = {
            "movement": rows.candidates[row].part.document,
            "case": columns.candidates[column].part.document,
            "spacers": [{"side": "dial", "thickness": thickness}],
        }
        assert abs(report_on(build.with_parts(held)).findings["stem_height"].value or 0) <= 0.011
        assert table.verdict(int(row), int(column)) is gravest(build.with_parts(held), {"movement", "case"})


def test_the_matrix_goes_out_as_csv() -> None:
    build = case_build(1)
    rows, columns = slots_of(build, ("crystal", "case"), 3, 4)
    text = "".join(pairs_csv(build, rules(), (rows, columns), 0.0))
    told = list(csv.DictReader(io.StringIO(text)))
    assert len(told) == 9
    assert set(told[0]) == {"crystal", "case", "verdict", "by", "spacer_mm"}
    assert {row["verdict"] for row in told} <= {verdict.value for verdict in Verdict}


@pytest.mark.parametrize("kind", ["dial", "crystal_gasket", "stem", "hands", "back_gasket"])
def test_inside_a_cards_range_everything_is_clear_and_just_outside_it_is_not(kind: str) -> None:
    build = case_build(1)
    card = shopping_card(build, rules(), ANATOMY.kind(kind))
    assert card
    for line in card:
        if line.low is None or line.high is None or line.tight:
            continue
        low, high = line.quantity.plausible
        for value, clear in (
            (line.low + 0.002, True), (line.high - 0.002, True),
            (line.low - 0.01, line.low <= low + 0.01), (line.high + 0.01, line.high >= high - 0.01),
        ):  # fmt: skip
            if value <= 0 and line.quantity.floor != "signed":
                continue
            made = build.with_entry(line.path, {"value": round(value, 4), "source": "measured"})
            findings = report_on(made).findings
            # The card stands for a part that is described; of this one the track is not.
            told = [findings[name].verdict for name in line.by if not findings[name].missing]
            found = all(verdict is Verdict.CLEAR for verdict in told)
            assert found or not clear, (line.path, value)
            assert not found or clear, (line.path, value)


def test_a_missing_part_has_a_card_too_and_no_kind_raises() -> None:
    build = case_build(9)
    for kind in ANATOMY.kinds:
        for line in shopping_card(build.with_parts({kind.key: None}), rules(), kind):
            assert line.now is None
            assert all(name in MODEL.check_by_name for name in line.by)
    assert shopping_card(build.with_parts({"dial": None}), rules(), ANATOMY.kind("dial"))


def test_an_empty_shelf_gives_an_empty_table() -> None:
    rows, columns = (
        Slot("movement", ()),
        Slot("case", (Candidate(1, slots_of(case_build(1), ("case",), 1, 1)[0].candidates[0].part),)),
    )
    assert pair_table(case_build(1), rules(), rows, columns).codes.shape == (0, 1)
