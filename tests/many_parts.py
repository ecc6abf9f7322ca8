"""A large shelf for measuring: parts of six kinds around a watch that goes together, most a little off."""

import copy
from typing import Any

import numpy as np

from marquetry.core.finder.candidates import Candidate, Slot
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from tests.strategies import ANATOMY

KINDS = ("case", "dial", "hands", "movement", "crystal", "crystal_gasket")
SPREAD = {
    "case": 0.15,
    "dial": 0.12,
    "hands": 0.01,
    "movement": 0.012,
    "crystal": 0.12,
    "crystal_gasket": 0.02,
}
FAMILIES = 8
TURN = 30.0


def many_slots(build: Build, count: int, seed: int = 1) -> tuple[Slot, ...]:
    """`count` parts of each kind; feet and holes come in families, as makers' do."""
    generator = np.random.default_rng(seed)
    return tuple(Slot(kind, tuple(_candidates(build, kind, count, generator))) for kind in KINDS)


def _candidates(build: Build, kind: str, count: int, generator: np.random.Generator) -> list[Candidate]:
    part = Part.of(ANATOMY.kind(kind), build.at(kind))
    made = []
    for number in range(count):
        document = copy.deepcopy(part.document)
        _vary(document, SPREAD[kind], generator)
        _turn(document, kind, int(generator.integers(FAMILIES)))
        owned, price = bool(generator.random() < 0.2), int(generator.integers(5, 90)) * 100
        made.append(Candidate(number, Part.of(part.kind, document), owned, price))
    return made


def _vary(node: Any, spread: float, generator: np.random.Generator) -> None:
    """Move every dimension a little; places of feet, holes and date stay where their family has them."""
    for key, value in node.items():
        if key in {"feet", "foot_holes", "date_angle", "date_window_angle", "crown_angle"}:
            continue
        if isinstance(value, dict) and "value" in value:
            value["value"] = round(max(value["value"] + float(generator.normal(0, spread)), 0.001), 4)
        elif isinstance(value, dict):
            _vary(value, spread, generator)


def _turn(document: dict[str, Any], kind: str, family: int) -> None:
    """The feet of one of the families; a movement's holes likewise. Most families do not meet."""
    for thing in document.get({"dial": "feet", "movement": "foot_holes"}.get(kind, ""), []):
        thing["angle"] = {**thing["angle"], "value": (thing["angle"]["value"] + TURN * family) % 360.0}
