"""The simulated watch: true dimensions drawn within the tolerances of a build, unknown to the player.

A dimension that was measured is drawn from a normal distribution, any other from a rectangular one, as the
report reckons its chances (GUM 4.3.7 and 6.2); neither beyond the tolerance. One seed gives one watch.
"""

import random
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace, aside
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Dimension, Source

ROUNDS = 3
"""What is missing may show only once something else is there."""
SUITS_SHARE, LEAST_MM, MOST_MM = 0.1, 0.01, 0.15
"""How far a part that suits its neighbours lies from the middle: a tenth of it, at most so much, mm or °."""
GRAIN = 4
"""Decimals of a true dimension: a tenth of a micron."""


def draws(seed: int, what: str) -> random.Random:
    """The draws for one thing that happens; the same seed and words give the same ones for ever."""
    return random.Random(f"{seed}/{what}")  # noqa: S311  # a game's dice, replayed from its record


@dataclass(frozen=True)
class Twin:
    """A watch twice: as its sheet describes it, and as its parts truly are."""

    believed: Build
    true: Build
    rules: Rules
    seed: int

    @cached_property
    def report(self) -> Report:
        """The report on what is believed."""
        return report_on(self.believed, self.rules)

    @cached_property
    def truth(self) -> Report:
        """The report on what is so."""
        return report_on(self.true, self.rules)

    @cached_property
    def reader(self) -> Plausible:
        """The true dimensions, in mm and degrees, for drawings and actions."""
        return Plausible(self.true, self.rules)

    @property
    def formulas(self) -> Trace:
        """The true dimensions as the report's own formulas read them."""
        return aside(self.true, self.rules)


def draw_twin(build: Build, rules: Rules, seed: int, checks: tuple[str, ...] = ()) -> Twin:
    """The twin of a build. What these `checks` lack is put in where it usually lies, as assumed."""
    believed = with_usual(build, rules, checks)
    return Twin(believed, true_build(believed, draws(seed, "parts")), rules, seed)


def true_build(build: Build, draw: random.Random) -> Build:
    """The same parts, every dimension one true figure."""
    true = {path: _true(dimension, draw) for path, dimension in build.dimensions.items()}
    return with_figures(build, true)


def _true(dimension: Dimension, draw: random.Random) -> float:
    if not dimension.source.is_known:
        # What is assumed spreads over all parts on sale: a twin is one watch whose parts suit each other, as
        # such parts do, and feet that stand anywhere round the dial would be nobody's watch.
        half = min(dimension.tol, max(abs(dimension.value) * SUITS_SHARE, LEAST_MM), MOST_MM)
        drawn = dimension.value + draw.uniform(-half, half)
    elif dimension.source is not Source.MEASURED:
        drawn = dimension.value + draw.uniform(-dimension.tol, dimension.tol)
    else:
        drawn = draw.gauss(dimension.value, dimension.standard_uncertainty)
        if (
            abs(drawn - dimension.value) > dimension.tol
        ):  # one in twenty-two: drawn flat instead, never beyond
            drawn = dimension.value + draw.uniform(-dimension.tol, dimension.tol)
    is_turned = drawn * dimension.value < 0 or drawn == 0.0
    return round(dimension.value if is_turned else drawn, GRAIN)


def with_figures(build: Build, figures: Mapping[str, float]) -> Build:
    """The build with these dimensions known exactly, in mm or degrees, whatever was believed of them."""
    exact = {path: Dimension(value, 0.0, Source.EXACT) for path, value in figures.items()}
    return with_believed(build, exact)


def with_believed(build: Build, figures: Mapping[str, Dimension]) -> Build:
    """The build with these dimensions as they are known now, each of an entry that its parts describe.

    What was read of the parts is taken over: a thousand twins would read the same words a thousand times.
    """
    touched = {path.partition(".")[0] for path in figures}
    parts: dict[str, Json] = {key: build.parts.get(key, {}) for key in touched}
    read = {key: dict(build.sizes_of(key)) for key in touched}
    for path, dimension in figures.items():
        key, *way = path.split(".")
        parts[key] = _with(parts[key], way, dimension_as_json(dimension))
        read[key][path] = dimension
    return build.with_read({key: (parts[key], read[key]) for key in touched})


def _with(node: Json, way: list[str], value: Json) -> Json:
    """The node with this value at the end of the way: copied along the way only, the rest is shared."""
    if not way:
        return value
    step, *rest = way
    if isinstance(node, list):
        at = int(step)
        return [*node[:at], _with(node[at], rest, value), *node[at + 1 :]]
    return {**node, step: _with(node.get(step, {}), rest, value)}


def with_usual(build: Build, rules: Rules, checks: tuple[str, ...]) -> Build:
    """The build with what these checks lack where it usually lies, believed as roughly as an assumption."""
    for _ in range(ROUNDS):
        lacking = dict(_usual(build, rules, checks))
        if not lacking:
            return build
        build = with_believed(build, lacking)
    return build


def _usual(build: Build, rules: Rules, checks: tuple[str, ...]) -> Iterator[tuple[str, Dimension]]:
    plausible = Plausible(build, rules)
    for name in checks:
        for path in rules.model.check(name).find(build, rules).missing:
            entry = build.anatomy.entry_at(path)[-1]
            if isinstance(entry, Quantity):
                yield path, Dimension.of(float(plausible[path]), source=Source.ASSUMED, unit=entry.unit)
