"""What is said of printing a part: words for the bench, not findings."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.adapter import has_skirt
from marquetry.core.making.holder import (
    FACE_TO_STEM,
    INNER,
    LUGS,
    OUTER,
    RIM,
    SLOT,
    STEP,
    TABS,
    TALL,
    holder_base,
    tab_bridge,
)
from marquetry.core.making.sizes import Sizes
from marquetry.core.values.figures import figure

BRIDGE = 2.0
"""What hangs in the air this far, mm, prints without support and can be pinched flat."""
LINES = 2
"""A wall wants so many lines of the nozzle."""


@dataclass(frozen=True, slots=True)
class PrintSetting:
    """How a part is printed: width of the nozzle's line and height of a layer, mm."""

    nozzle: float = 0.4
    layer: float = 0.1


def layered(height: float, layer: float) -> float:
    """A height as whole layers come nearest to it, mm; at least one layer."""
    return max(round(height / layer), 1) * layer


def wall_notes(walls: dict[str, float], setting: PrintSetting) -> Iterator[str]:
    """What of the walls, mm by name, is thinner than two lines of the nozzle."""
    least = LINES * setting.nozzle
    name = min(walls, key=lambda key: walls[key], default=None)
    if name is None:
        return
    told, nozzle = figure(walls[name], 2, "mm"), figure(setting.nozzle, 2, "mm")
    if walls[name] < least - 1e-9:
        yield f"{name} is {told} thick, under two lines of a {nozzle} nozzle: it may not print"
    else:
        yield f"Thinnest wall: {name.lower()}, {told}, two lines of a {nozzle} nozzle or more"


def layer_notes(heights: dict[str, float], setting: PrintSetting) -> Iterator[str]:
    """What becomes of each height, mm by name, in whole layers."""
    for name, height in heights.items():
        made = layered(height, setting.layer)
        if not math.isclose(made, height, abs_tol=1e-6):
            told = figure(made - height, 2, "mm", signed=True)
            layers = f"{figure(made)} in layers of {figure(setting.layer)}"
            yield f"{name} {figure(height)} prints as {layers}: {told}"


def holder_notes(s: Sizes, setting: PrintSetting) -> Iterator[str]:
    """Walls, layers, and tabs that hang in the air."""
    base = holder_base(s)
    walls = {"The wall": (s[OUTER] - s[INNER]) / 2}
    heights = {"Face to rim": s[TALL]}
    if s.known(STEP) and s[STEP] < base:
        walls["The wall beside the back"] = (s[RIM] - s[INNER]) / 2
        heights["Face to step"] = s[STEP]
    if s.build.has(LUGS):
        heights["Lugs"] = s[f"{LUGS}.height"]
    for index in range(s.count(TABS)):
        heights |= {f"Tab {index + 1}, {key},": s[f"{TABS}.{index}.{key}"] for key in ("from", "to")}
    yield from wall_notes(walls, setting)
    yield from layer_notes({name: h for name, h in heights.items() if h > 0}, setting)
    yield from _slot_notes(s, base)
    for index in range(s.count(TABS)):
        tab = f"{TABS}.{index}"
        if s[f"{tab}.from"] > 0:
            yield _hanging(index, tab_bridge(s, tab))


def _slot_notes(s: Sizes, base: float) -> Iterator[str]:
    """Whether stem and tube find their way through, as far as that is known."""
    stem, tube = s.or_none(FACE_TO_STEM), s.or_none("case.tube_outer_diameter")
    if not s.build.has(SLOT):
        if stem is not None and stem < base:
            yield "No stem slot: the stem cannot pass the ring"
    elif tube is not None:
        room = (min(s[f"{SLOT}.width"], s[f"{SLOT}.height"]) - tube) / 2
        told = figure(room, 2, "mm", signed=True)
        fits = "room all round" if room > 0 else "the tube has to end outside the ring"
        yield f"Stem slot against the crown's tube: {told}, {fits}"


def _hanging(index: int, bridge: float) -> str:
    told = (
        f"Tab {index + 1} hangs in mid-air when printed dial side down: it bridges {figure(bridge, 2, 'mm')}"
    )
    if bridge <= BRIDGE:
        return f"{told}, which prints without support and is pinched flat afterwards"
    return f"{told}: give it a breakaway pillar, or print the other side down"


def spacer_notes(s: Sizes, path: str, setting: PrintSetting) -> Iterator[str]:
    """The ring's wall and its layers."""
    wall = (s[f"{path}.outer_diameter"] - s[f"{path}.inner_diameter"]) / 2
    yield from wall_notes({"The ring": wall}, setting)
    yield from layer_notes({"Thickness": s[f"{path}.thickness"]}, setting)


def adapter_notes(s: Sizes, path: str, setting: PrintSetting) -> Iterator[str]:
    """Walls, layers, pegs that stand beside the plate, and what goes with glue."""
    heights = {"Plate": s[f"{path}.thickness"]}
    walls = {"The plate": (s[f"{path}.outer_diameter"] - s[f"{path}.opening_diameter"]) / 2}
    if has_skirt(s):
        walls["The skirt"] = s[f"{path}.grip_wall"]
        heights["Skirt"] = s[f"{path}.grip_height"]
        if s["movement.diameter"] / 2 + s[f"{path}.grip_play"] >= s[f"{path}.outer_diameter"] / 2:
            yield "The skirt stands outside the plate and is not joined to it: a wider plate, or no skirt"
    yield from wall_notes(walls, setting)
    yield from layer_notes(heights, setting)
    yield from _loose_pegs(s, path)
    yield "The dial is glued on: a thin film, fumes drawn off, left to cure under a weight"


def _loose_pegs(s: Sizes, path: str) -> Iterator[str]:
    if not s.known(f"{path}.peg_length"):
        return
    inner, outer = s[f"{path}.opening_diameter"] / 2, s[f"{path}.outer_diameter"] / 2
    for index in range(s.count("movement.foot_holes")):
        if not inner < s[f"movement.foot_holes.{index}.radius"] < outer:
            yield f"Peg {index + 1} stands beside the plate and is not joined to it"
