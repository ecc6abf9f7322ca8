"""Every step of the bench, group by group: the one place that collects them."""

from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps import (
    case,
    casing,
    close,
    dial,
    hands,
    movement,
    outside,
    prepare,
    prove,
    stem,
)

STEPS: tuple[BenchStep, ...] = (
    *prepare.STEPS, *movement.STEPS, *dial.STEPS, *hands.STEPS, *case.STEPS, *casing.STEPS, *stem.STEPS,
    *close.STEPS, *outside.STEPS, *prove.STEPS,
)  # fmt: skip
"""In the table's order."""
