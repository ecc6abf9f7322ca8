"""What a seller's figure is worth: against plain sums, a grid of beliefs, and its own claim."""

import math
import random
from collections.abc import Sequence
from statistics import fmean, stdev

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.fit.sellers import WorthKind
from marquetry.core.story.student import t_95
from marquetry.core.story.worth import PRIOR_PAIRS, DeviationBelief, ListedPair, unseen, worth_of
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import DimensionError

deviations = st.lists(st.floats(-0.3, 0.3), min_size=1, max_size=30)


def pairs(
    supplier: str, off: Sequence[float], kind: WorthKind = "diameter", tol: float = 0.05
) -> list[ListedPair]:
    return [
        ListedPair(
            supplier,
            kind,
            "mm",
            Dimension(28.5, tol, Source.LISTED),
            Dimension(28.5 + d, 0.02, Source.MEASURED),
        )
        for d in off
    ]


@pytest.mark.parametrize(
    ("degrees", "expected", "source"),
    [
        (1, 12.71, "table G.2"), (4, 2.78, "table G.2"), (10, 2.23, "table G.2"), (20, 2.09, "table G.2"),
        (100, 1.984, "table G.2"),
        (10**9, 1.960, "table G.2, the limit"), (22, 2.074, "Student's t, by its quantile"),
        (60, 2.000, "Student's t, by its quantile"), (5.5, 2.503, "Student's t, by its quantile"),
    ],
)  # fmt: skip
def test_the_factor_is_the_published_one_and_nearly_t_between(
    degrees: float, expected: float, source: str
) -> None:
    assert t_95(degrees) == pytest.approx(expected, abs=0.008), source


def test_no_freedom_has_no_factor() -> None:
    for degrees in (0.0, 0.5, math.nan):
        with pytest.raises(DimensionError):
            t_95(degrees)


def test_what_was_seen_is_told_plainly_beside_what_is_believed() -> None:
    off = [0.02, 0.05, -0.01, 0.08, 0.03]
    (found,) = worth_of(pairs("Sandbank Parts", off))
    assert found.plain_bias == pytest.approx(sum(off) / 5)
    assert found.plain_spread == pytest.approx(stdev(off))
    assert (found.count, found.outside) == (5, 1), "0.08 lay outside, 0.05 on the edge did not"
    assert found.leaning == pytest.approx(4 / 9)


@pytest.mark.parametrize(
    "off", [[0.0], [0.05, 0.02, -0.03], [0.1] * 6, [-0.2, 0.2, 0.1, 0.02, 0.0, -0.05, 0.07]], ids=len
)
def test_the_belief_is_the_one_that_a_grid_of_beliefs_gives(off: list[float]) -> None:
    """Another method: every bias and spread weighed by how well it explains what was seen, and added up."""
    prior = DeviationBelief(0.01, 0.04)
    mu = np.linspace(-0.6, 0.6, 2401)[:, None]
    log_sigma = np.linspace(np.log(0.003), np.log(1.5), 1200)[None, :]
    sigma = np.exp(log_sigma)
    log = -PRIOR_PAIRS * log_sigma - PRIOR_PAIRS * prior.spread**2 / (2 * sigma**2)
    log = log - log_sigma - PRIOR_PAIRS * (mu - prior.mean) ** 2 / (2 * sigma**2)
    for d in off:
        log = log - log_sigma - (d - mu) ** 2 / (2 * sigma**2)
    weight = np.exp(log - log.max())
    found, total = prior.after(off), weight.sum()
    assert found.mean == pytest.approx(float((mu * weight).sum() / total), abs=1e-4)
    # Of an inverse chi-square the mean of 1/sigma^2 is one over the scale squared.
    assert found.spread == pytest.approx(float(((weight / sigma**2).sum() / total) ** -0.5), rel=1e-3)


@given(deviations, st.floats(-0.1, 0.1))
def test_it_moves_with_what_it_is_shown(off: list[float], more: float) -> None:
    start = unseen("mm")
    one = start.after(off)
    assert start.after([]) == start
    assert one.mean_pairs == PRIOR_PAIRS + len(off)
    assert min(0.0, *off) - 1e-12 <= one.mean <= max(0.0, *off) + 1e-12, (
        "between what was held and what was seen"
    )
    apart = start.after(off[:1]).after(off[1:])
    assert (apart.mean, apart.spread) == pytest.approx((one.mean, one.spread), abs=1e-9), (
        "in one go or in two"
    )
    shifted = DeviationBelief(more, start.spread).after([d + more for d in off])
    assert shifted.mean == pytest.approx(one.mean + more, abs=1e-9)
    assert shifted.spread == pytest.approx(one.spread, abs=1e-9)
    assert one.reach >= abs(one.mean) + 1.96 * one.spread


@given(deviations, deviations)
def test_few_pairs_lean_on_all_sellers_and_many_stand_alone(few: list[float], many: list[float]) -> None:
    own, others = few[:1], many * 4
    found = {one.supplier: one for one in worth_of([*pairs("Few", own), *pairs("Many", others)])}
    everyone = found["Few"].others
    assert found["Few"].belief.mean == pytest.approx((4 * everyone.mean + own[0]) / 5)
    assert (
        abs(found["Many"].belief.mean - fmean(others))
        <= abs(found["Many"].others.mean - fmean(others)) + 1e-9
    )
    assert found["Few"].leaning > 0.7


def test_what_is_proposed_covers_the_next_figure_nineteen_times_in_twenty() -> None:
    """Drawn sellers, some honest, some not; each next figure lies within what their first ones proposed."""
    draw = random.Random(15)  # noqa: S311  # a test's own draw
    within = counted = 0
    for _ in range(600):
        bias, spread = draw.gauss(0, 0.03), abs(draw.gauss(0.03, 0.015)) + 0.004
        seen = [draw.gauss(bias, spread) for _ in range(draw.randint(3, 25))]
        (found,) = worth_of(pairs("Fjell & Tang", seen))
        counted += 20
        within += sum(abs(draw.gauss(bias, spread)) <= found.tolerance for _ in range(20))
    assert within / counted >= 0.95


def test_kinds_and_units_are_judged_apart_and_rounded_up() -> None:
    angles = [
        ListedPair(
            "A", "angle", "°", Dimension(90, 0.5, Source.LISTED), Dimension(90.2, 0.2, Source.MEASURED)
        )
    ]
    found = worth_of([*pairs("A", [0.01]), *pairs("A", [0.2], "thickness"), *angles])
    assert [one.kind for one in found] == ["diameter", "thickness", "angle"]
    for one in found:
        assert one.tolerance == pytest.approx(round(one.tolerance, 2))
        assert one.belief.reach - 1e-9 <= one.tolerance < one.belief.reach + 0.01
    assert worth_of([]) == []
