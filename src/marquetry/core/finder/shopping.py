"""What a part must measure: for each dimension the range in which everything else of the watch is clear.

Each range is found with the part's other dimensions as they are, or as such parts usually have them; it is a
scan over all that such a part may plausibly measure, by the checks that read the dimension.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import Column
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.anatomy import is_number
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.schema import Quantity
from marquetry.core.sheet.usual_build import usual_build
from marquetry.core.values.dimension import USUAL_TOLERANCE, Source
from marquetry.core.values.limits import SLACK

STEPS = 400


@dataclass(frozen=True, slots=True)
class Wanted:
    """One line of the card. `low` and `high` bound what is clear in the worst case, None where nothing is.

    `now` is the part's own value, if it has one; `by` names the checks that ask. `tight`: nothing is clear in
    the worst case, and this is where the nominal value does not clash.
    """

    path: str
    quantity: Quantity
    low: float | None
    high: float | None
    now: float | None
    by: tuple[str, ...]
    tight: bool = False


def shopping_card(build: Build, rules: Rules, kind: Kind) -> list[Wanted]:
    """Every dimension of the kind, in mm or degrees, that some check of this watch reads."""
    whole = _completed(build, kind.key)
    reads = [(check, _reads(check, whole, rules)) for check in rules.model.checks]
    found = []
    for below, quantity in kind.quantities():
        path = f"{kind.prefix}.{below}"
        checks = [check for check, read in reads if path in read]
        if checks:
            found.append(_wanted(whole, rules, (path, quantity), checks, build.dimensions.get(path)))
    return found


def _completed(build: Build, kind: str) -> Build:
    """The watch with the part in it: its own, filled up with what such parts usually measure."""
    usual = usual_build(build.anatomy)
    own, stand_in = build.at(kind), usual.at(kind)
    whole = build.with_parts({kind: own or stand_in})
    for path in usual.dimensions:
        if (
            path.partition(".")[0] == kind
            and path not in whole.dimensions
            and not any(is_number(s) for s in path.split("."))
        ):
            whole = whole.with_entry(path, usual.at(path))
    return whole


def _reads(check: Check, build: Build, rules: Rules) -> frozenset[str]:
    """What the check reads of the watch, where it can be said at all."""
    probe = check.over(build, rules, {})
    if probe is None or probe.values is None or bool(np.isnan(probe.values).any()):
        return frozenset()
    return frozenset(check.find(build, rules).uses.dimensions())


def _wanted(
    build: Build, rules: Rules, what: tuple[str, Quantity], checks: list[Check], own: object
) -> Wanted:
    path, quantity = what
    now, names = build.dimensions[path].value, tuple(check.name for check in checks)
    kept = now if own is not None else None
    for tight in (False, True):
        found = _range(build, rules, what, (checks, tight))
        if found is not None:
            return Wanted(path, quantity, round(found[0], 3), round(found[1], 3), kept, names, tight)
    return Wanted(path, quantity, None, None, kept, names)


def _range(
    build: Build, rules: Rules, what: tuple[str, Quantity], asked: tuple[list[Check], bool]
) -> tuple[float, float] | None:
    """The run of fitting values nearest to the present one, its ends found by a second, finer scan."""
    path, quantity = what
    now = build.dimensions[path].value
    values = np.linspace(*quantity.plausible, STEPS + 1)
    run = _nearest_run(_fits(build, rules, (path, values), asked), values, now)
    if run is None:
        return None
    step, ends = values[1] - values[0], []
    for place, way in ((run[0], -1), (run[1], 1)):
        beyond = np.linspace(values[place], values[place] + way * step, STEPS)
        still = _fits(build, rules, (path, beyond), asked)
        ends.append(float(beyond[np.argmin(still) - 1] if not still.all() else values[place]))
    return ends[0], ends[1]


def _fits(
    build: Build, rules: Rules, column: tuple[str, NDArray[np.float64]], asked: tuple[list[Check], bool]
) -> NDArray[np.bool_]:
    """Where every check is clear in the worst case, or at least nominally where `tight` will do."""
    (path, values), (checks, tight) = column, asked
    unit = build.anatomy.quantity_at(path).unit
    tol = np.full(len(values), USUAL_TOLERANCE[unit][Source.MEASURED])
    moved = {path: Column(values, tol)}
    fits = np.ones(len(values), dtype=bool)
    for check in checks:
        judged = check.over(build, rules, moved)
        if judged is not None:
            room = judged.nominal if tight else judged.worst
            fits &= np.broadcast_to(room >= -SLACK, fits.shape)
    return fits


def _nearest_run(fits: NDArray[np.bool_], values: NDArray[np.float64], now: float) -> tuple[int, int] | None:
    """First and last place of the run of fitting values that lies nearest to the present one."""
    runs = list(_runs(fits))
    return min(runs, key=lambda run: max(values[run[0]] - now, now - values[run[1]], 0.0), default=None)


def _runs(fits: NDArray[np.bool_]) -> Iterator[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], fits.astype(np.int8), [0]])))
    for start, end in zip(edges[::2], edges[1::2], strict=True):
        yield int(start), int(end) - 1
