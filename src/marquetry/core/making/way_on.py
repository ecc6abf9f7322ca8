"""How a holder goes on over the rotor, step by step: straight, one side first, or not at all."""

from dataclasses import dataclass

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.fit.checks.tabs import FULL_TURN, TABS, chosen_tabs, goes_on_from_the_dial, groups_over
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import aside
from marquetry.core.sheet.build import Build
from marquetry.core.values.number import nominal


@dataclass(frozen=True, slots=True)
class WayStep:
    """One step: what is done, the tabs that go on, and where the middle of the rotor's weight points, °."""

    words: str
    going: tuple[int, ...]
    on_already: tuple[int, ...]
    rotor: float


@dataclass(frozen=True, slots=True)
class WayOn:
    """All steps; `angles` are every tab's place from the stem, `sector` what the rotor covers, degrees."""

    steps: tuple[WayStep, ...]
    angles: tuple[float, ...]
    sector: float


def way_on(build: Build, rules: Rules) -> WayOn | None:
    """The steps; None where there is no rotor, no tab, or where it is not known which tabs are in the way."""
    trace = aside(build, rules)
    if not trace.wants("holder", "rotor") or not build.count(TABS):
        return None
    if trace.has(HOLDER_RING) and goes_on_from_the_dial(trace):
        return None
    chosen = chosen_tabs(trace, "angle")
    if chosen is None:
        return None
    numbers, found = chosen
    sector = rules.number("rotor_sector")
    angles = [float(nominal(angle)) for angle in found]
    every = tuple(
        known.value if (known := build.dimensions.get(f"{TABS}.{k}.angle")) else 0.0
        for k in range(build.count(TABS))
    )
    return WayOn(tuple(_steps(numbers, angles, sector)), every, sector)


def _steps(numbers: list[int], angles: list[float], sector: float) -> list[WayStep]:
    if not numbers:
        return [WayStep("No tab reaches under the rotor: let the holder down straight.", (), (), 180.0)]
    groups = groups_over(angles, FULL_TURN - sector)
    if groups is None:
        words = "Tabs stand all round: rotor off first, or a tab cut off. Its screw is small: over a tray."
        return [WayStep(words, tuple(numbers), (), 0.0)]
    first, rest = (tuple(numbers[k] for k in group) for group in groups)
    away = _across([angles[numbers.index(k)] for k in first])
    if not rest:
        told = f"Turn the rotor's weight away from {_named(first)}, then let the holder down straight."
        return [WayStep(told, first, (), away)]
    over = _across([angles[numbers.index(k)] for k in rest])
    return [
        WayStep(
            f"Tilt the holder: {_named(first)} in first, the rotor's weight turned away.", first, (), away
        ),
        WayStep(f"Hold it there and turn the rotor over {_named(first)}.", (), first, over),
        WayStep(f"Let the other side down: {_named(rest)}.", rest, first, over),
    ]


def _named(tabs: tuple[int, ...]) -> str:
    names = " and ".join(str(tab + 1) for tab in tabs)
    return f"tab {names}" if len(tabs) == 1 else f"tabs {names}"


def _across(angles: list[float]) -> float:
    """The place across from the middle of the arc that holds all the angles, degrees."""
    around = sorted(angle % FULL_TURN for angle in angles)
    gaps = [
        ((around[(k + 1) % len(around)] - around[k]) % FULL_TURN or FULL_TURN, k) for k in range(len(around))
    ]
    widest, at = max(gaps)
    return (around[at] + widest / 2) % FULL_TURN
