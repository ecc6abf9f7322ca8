"""The press support as a solid: it holds the case, back off, under the crystal press. Also fits by heat."""

import re
from dataclasses import dataclass

from marquetry.core.making.dial import BEYOND
from marquetry.core.making.shape import Annulus, Solid, Step
from marquetry.core.making.sizes import Sizes, refuse
from marquetry.core.values.errors import DimensionError

SUPPORT = "press_support"
THREAD = re.compile(r"\s*M\s?(\d{1,2}(?:[.,]\d{1,2})?)\s*[×xX*]\s*(\d(?:[.,]\d{1,3})?)\s*")
EXPANSION = {
    "steel 316": 16.0e-6, "titanium": 8.6e-6, "brass": 19e-6, "aluminium": 23e-6, "sapphire": 5.3e-6,
    "mineral glass": 9e-6, "acrylic": 70e-6,
}  # fmt: skip
"""Coefficients of linear expansion per kelvin, as made-parts.md has them: handbook values near 20 °C."""


def support_solid(s: Sizes) -> Solid:
    """Put the support together. DimensionError, naming the field, where it cannot be made."""
    seat, relief = s[f"{SUPPORT}.seat_diameter"], s[f"{SUPPORT}.relief_diameter"]
    if relief > seat:
        raise refuse(
            f"{SUPPORT}.relief_diameter", relief, "mm", f"at most {SUPPORT}.seat_diameter, {seat:g} mm"
        )
    shoulder, floor = s[f"{SUPPORT}.shoulder"], s[f"{SUPPORT}.floor"]
    deep = shoulder + s[f"{SUPPORT}.relief_depth"]
    steps = [
        Step(Annulus(0.0, seat / 2 + s[f"{SUPPORT}.wall"]), 0.0, shoulder + floor),
        Step(Annulus(0.0, seat / 2), -BEYOND, shoulder, adds=False),
        Step(Annulus(0.0, relief / 2), -BEYOND, deep, adds=False),
    ]
    drill = tapping_drill(s.word(f"{SUPPORT}.thread"))
    if drill is not None:
        bore = Annulus(0.0, drill / 2)
        steps.append(Step(bore, -BEYOND, shoulder + floor + BEYOND, adds=False, layer="HOLE"))
    return Solid(tuple(steps))


def tapping_drill(thread: str) -> float | None:
    """Ø of the drill for a metric thread, mm: nominal − pitch (M6 × 1 → 5.0); None where no thread is told.

    DimensionError where the words are no metric thread.
    """
    if not thread.strip():
        return None
    found = THREAD.fullmatch(thread)
    if found is None:
        raise DimensionError(f"{SUPPORT}.thread", thread[:20], "", "a metric thread such as M6 × 1")
    nominal, pitch = (float(text.replace(",", ".")) for text in found.groups())
    if pitch >= nominal:
        raise DimensionError(f"{SUPPORT}.thread", thread[:20], "", "a pitch less than the nominal diameter")
    return nominal - pitch


def bar_stock(s: Sizes) -> float:
    """Ø of the round bar to ask for, mm: the support's own outer Ø, up to the next whole millimetre."""
    outer = s[f"{SUPPORT}.seat_diameter"] + 2 * s[f"{SUPPORT}.wall"]
    return -(-round(outer, 6) // 1)


@dataclass(frozen=True, slots=True)
class HeatFit:
    """What warming a bore and cooling what goes into it gives, in mm over the diameter."""

    bore_grows: float
    part_shrinks: float

    @property
    def gain(self) -> float:
        """Both together, mm."""
        return self.bore_grows + self.part_shrinks


def heat_fit(diameter: float, bore: str, part: str, warm_by: float, cool_by: float) -> HeatFit:
    """ΔØ = α·Ø·ΔT of a bore, mm, warmed by so many kelvin, and of the part that is cooled by so many.

    `bore` and `part` name materials of EXPANSION; KeyError for others.
    """
    return HeatFit(EXPANSION[bore] * diameter * warm_by, EXPANSION[part] * diameter * cool_by)
