"""The stem's ledger against least squares, against a thousand simulated cuts, and at its edges."""

import math
import random
from statistics import NormalDist

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from marquetry.core.bench.stem import (
    Remaining,
    StemEvent,
    StemSchool,
    StemTerms,
    StemWhat,
    advised,
    stem_ledger,
)
from marquetry.core.bench.stem_words import advice_told
from marquetry.core.values.limits import Limits

WINDOW = Limits(-0.15, 0.10)
SCHOOLS: tuple[StemSchool, ...] = ("once", "creep", "eye")


def terms(school: StemSchool = "once", risk: float = 0.001) -> StemTerms:
    return StemTerms(school, WINDOW, risk, 0.30)


small = st.floats(0.005, 0.2)


@given(st.lists(st.tuples(st.floats(-0.03, 0.03), small), min_size=1, max_size=6))
def test_readings_of_one_length_are_the_weighted_least_squares(offsets: list[tuple[float, float]]) -> None:
    """By the normal equations of numpy, for readings that do not contradict each other."""
    readings = [(2.0 + off, u) for off, u in offsets]
    events = [StemEvent("gap", value, u) for value, u in readings]
    found = stem_ledger(events, terms())
    assume(not found.conflict)
    weights = np.array([1 / u for _, u in readings])
    values = np.array([value for value, _ in readings])
    design = weights.reshape(-1, 1)
    best = float(np.linalg.lstsq(design, weights * values, rcond=None)[0][0])
    assert found.now is not None
    assert found.now.r == pytest.approx(best, abs=1e-9)
    assert found.now.u == pytest.approx(float(np.linalg.inv(design.T @ design)[0, 0]) ** 0.5, rel=1e-9)


@given(st.floats(0.31, 12.0), st.floats(0.0, 0.15), st.sampled_from(SCHOOLS), st.sampled_from([0.001, 0.05]))
def test_a_cut_never_risks_more_than_the_workshop_takes(
    r: float, u: float, school: StemSchool, risk: float
) -> None:
    advice, amount = advised(Remaining(r, u), terms(school, risk))
    assert advice in {"cut", "file"}
    if advice == "file":
        assert amount == r
        return
    spread = math.hypot(u, 0.30 if school == "eye" else 0.05)
    assert amount / 0.05 == pytest.approx(round(amount / 0.05), abs=1e-6)
    assert amount >= 0.10 - 1e-9
    assert NormalDist(r, spread).cdf(amount) <= risk + 1e-9
    if school == "creep":
        assert amount <= (1.0 if r > 2 else 0.5 if r > 1 else r / 2) + 1e-9
    elif NormalDist(r, spread).cdf(amount + 0.06) < risk:
        pytest.fail("a whole step more could have come off")


@pytest.mark.parametrize("school", SCHOOLS)
def test_followed_a_stem_is_seated_and_seldom_too_short(school: StemSchool) -> None:
    """Two hundred stems of unknown length, read with noise, cut and filed with spread, by the advice."""
    draws = random.Random(7)
    short = rounds = 0
    for _ in range(200):
        left = draws.uniform(0.5, 8.0)
        events: list[StemEvent] = []
        for _ in range(40):
            ledger = stem_ledger(events, terms(school))
            rounds += 1
            if ledger.advice in {"seat", "short"}:
                break
            # After what takes something off, a reading: nobody cuts twice unseen.
            if ledger.advice == "measure" or (events and events[-1].what in {"cut", "file"}):
                events.append(StemEvent("gap", left + draws.gauss(0, 0.03)))
                continue
            what: StemWhat = "cut" if ledger.advice == "cut" else "file"
            spread = {"cut": 0.30 if school == "eye" else 0.05, "file": 0.02}[what]
            left -= max(ledger.amount + draws.gauss(0, spread), 0.0)
            events.append(StemEvent(what, ledger.amount))
        short += left < -0.15
        assert left < 0.25
    assert short <= 2
    assert rounds < 200 * 25


EDGES: dict[str, tuple[list[StemEvent], str, float | None]] = {
    "nothing known": ([], "measure", None),
    "a cut before anything is known": ([StemEvent("cut", 1.0)], "measure", None),
    "a doubtful reading": ([StemEvent("gap", 3.0, 0.16)], "measure", 3.0),
    "a reading just good enough": ([StemEvent("gap", 3.0, 0.15)], "cut", 3.0),
    "short": ([StemEvent("gap", -0.16, 0.0)], "short", -0.16),
    "on the window's edge": ([StemEvent("gap", -0.15, 0.0)], "seat", -0.15),
    "seated, doubt and all": ([StemEvent("gap", 0.0, 0.05)], "seat", 0.0),
    "doubt reaches out of the window": ([StemEvent("gap", 0.0, 0.06)], "file", 0.0),
    "where the file begins": ([StemEvent("gap", 0.30, 0.0)], "file", 0.30),
    "a reading without doubt replaces": (
        [StemEvent("gap", 1.0), StemEvent("gap", 1.05, 0.0)], "cut", 1.05,
    ),
    "what is known for certain stays": ([StemEvent("gap", 1.0, 0.0), StemEvent("gap", 1.05)], "cut", 1.0),
    "a reading that is off is held": ([StemEvent("gap", 1.0), StemEvent("gap", 1.5)], "measure", 1.0),
    "off, then another that agrees with what was known": (
        [StemEvent("gap", 1.0, 0.0), StemEvent("gap", 1.5), StemEvent("gap", 1.02)], "cut", 1.0,
    ),
    "off twice alike replaces": (
        [StemEvent("gap", 1.0), StemEvent("gap", 1.5), StemEvent("gap", 1.5)], "cut", 1.5,
    ),
    "off twice, each in its own way": (
        [StemEvent("gap", 1.0), StemEvent("gap", 1.5), StemEvent("gap", 3.0)], "measure", 1.0,
    ),
    "off, cut meanwhile, and then alike": (
        [StemEvent("gap", 3.0, 0.0), StemEvent("gap", 2.0, 0.0), StemEvent("cut", 1.0, 0.0), StemEvent("gap", 1.0, 0.0)],
        "cut", 1.0,
    ),
    "two turns short of home": ([StemEvent("gap", 3.45, 0.0, turns_short=2)], "cut", 3.0),
    "short of home on a coarse thread": ([StemEvent("gap", 3.9, turns_short=3, pitch=0.3)], "cut", 3.0),
}  # fmt: skip


@pytest.mark.parametrize("name", EDGES)
def test_at_the_edges(name: str) -> None:
    events, advice, r = EDGES[name]
    found = stem_ledger(events, terms())
    assert found.advice == advice
    assert (found.now.r if found.now else None) == (None if r is None else pytest.approx(r, abs=1e-12))
    assert found.conflict == ("off" in name)
    assert found.amount == 0 or advice in {"cut", "file"}
    assert all(advice_told(found))
    assert (found.held is not None) == ("held" in name or "its own way" in name)


@given(st.floats(0.5, 9.0), st.floats(0.5, 9.0), st.lists(st.floats(0.0, 0.4), max_size=4))
def test_one_mistyped_reading_never_moves_what_remains(true: float, slip: float, filed: list[float]) -> None:
    """Whatever one figure says, the ledger is that of the same stem without it, until another one agrees."""
    assume(abs(true - slip) > 0.5)
    before, work = [StemEvent("gap", true)], [StemEvent("file", each) for each in filed]
    ledger = stem_ledger([*before, StemEvent("gap", slip), *work], terms())
    without = stem_ledger([*before, *work], terms())
    assert (ledger.now, ledger.advice, ledger.amount) == (without.now, "measure", 0)
    again = StemEvent("gap", true - sum(filed))
    settled = stem_ledger([*before, StemEvent("gap", slip), *work, again], terms())
    assert settled.held is None
    assert settled.now == stem_ledger([*before, *work, again], terms()).now
