"""The press support as a solid: it holds the case, back off, under the crystal press. Also fits by heat."""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.dial import BEYOND
from marquetry.core.making.shape import Annulus, Solid, Step
from marquetry.core.making.sizes import Sizes, refuse
from marquetry.core.sheet.described.made import SPIGOT
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK

SUPPORT = "press_support"
PARTING, FACING = 2.0, 0.5
"""What a saw takes where a piece is parted off, and a lathe at each end, mm."""
INCH = 25.4
"""mm."""
BAR = re.compile(
    r"(?:ø\s*)?(?:(\d{1,3}(?:[.,]\d{1,3})?)(?=[\s\"″a-z]|$))?\s*(?:(\d{1,2})\s*/\s*(\d{1,3}))?\s*(mm|in|inch|inches|\"|″)?",
    re.IGNORECASE,
)
THREAD = re.compile(r"\s*M\s?(\d{1,2}(?:[.,]\d{1,2})?)\s*[×xX*]\s*(\d(?:[.,]\d{1,3})?)\s*")
EXPANSION = {
    "steel 316": 16.0e-6, "titanium": 8.6e-6, "brass": 19e-6, "aluminium": 23e-6, "sapphire": 5.3e-6,
    "mineral glass": 9e-6, "acrylic": 70e-6,
}  # fmt: skip
"""Coefficients of linear expansion per kelvin, as made-parts.md has them: handbook values near 20 °C."""


def support_solid(s: Sizes) -> Solid:
    """Put the support together. DimensionError, naming the field, where it cannot be made."""
    return _spigot_solid(s) if is_spigot(s) else _recess_solid(s)


def is_spigot(s: Sizes) -> bool:
    """Whether the support enters the back opening; without a word the case stands in a recess."""
    return s.word(f"{SUPPORT}.form") == SPIGOT


def _recess_solid(s: Sizes) -> Solid:
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
    return Solid((*steps, *_bore(s, -BEYOND, shoulder + floor + BEYOND)))


def _spigot_solid(s: Sizes) -> Solid:
    """Depth 0 is the face that the case's underside stands on; the spigot stands above it."""
    spigot, rim = s[f"{SUPPORT}.spigot_diameter"], s[f"{SUPPORT}.rim_diameter"]
    relief, deep = s[f"{SUPPORT}.relief_diameter"], s[f"{SUPPORT}.relief_depth"]
    height, floor = s[f"{SUPPORT}.spigot_height"], s[f"{SUPPORT}.floor"]
    _refuse_from(f"{SUPPORT}.spigot_diameter", spigot, f"{SUPPORT}.rim_diameter", rim)
    _refuse_from(f"{SUPPORT}.relief_diameter", relief, f"{SUPPORT}.spigot_diameter", spigot)
    _refuse_from(f"{SUPPORT}.relief_depth", deep, f"{SUPPORT}.floor", floor)
    steps = [
        Step(Annulus(0.0, rim / 2), 0.0, floor),
        Step(Annulus(0.0, spigot / 2), -height, 0.0),
        Step(Annulus(0.0, relief / 2), -height - BEYOND, deep, adds=False),
    ]
    return Solid((*steps, *_bore(s, -height - BEYOND, floor + BEYOND)))


def _refuse_from(path: str, value: float, limit_path: str, limit: float) -> None:
    """Raise DimensionError where a size, mm, is not less than the one that holds it."""
    if value >= limit:
        raise refuse(path, value, "mm", f"less than {limit_path}, {limit:g} mm")


def _bore(s: Sizes, top: float, bottom: float) -> Iterator[Step]:
    drill = tapping_drill(s.word(f"{SUPPORT}.thread"))
    if drill is not None:
        yield Step(Annulus(0.0, drill / 2), top, bottom, adds=False, layer="HOLE")


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


def outer_diameter(s: Sizes) -> float:
    """The support's greatest Ø, mm: what a bar has to have at least."""
    if is_spigot(s):
        return s[f"{SUPPORT}.rim_diameter"]
    return s[f"{SUPPORT}.seat_diameter"] + 2 * s[f"{SUPPORT}.wall"]


def whole_height(s: Sizes) -> float:
    """The support's height from end to end, mm."""
    above = s[f"{SUPPORT}.spigot_height"] if is_spigot(s) else s[f"{SUPPORT}.shoulder"]
    return above + s[f"{SUPPORT}.floor"]


def bar_stock(s: Sizes) -> float:
    """Ø of the round bar to ask for, mm: the support's own outer Ø, up to the next whole millimetre."""
    return -(-round(outer_diameter(s), 6) // 1)


def cut_length(s: Sizes) -> float:
    """How long a piece of bar to cut, mm: its height, what parting takes, and facing both ends."""
    return whole_height(s) + PARTING + 2 * FACING


@dataclass(frozen=True, slots=True)
class BarAtHand:
    """A bar that is there: its Ø, mm, and how much is to be turned off it, mm over the Ø; too thin, < 0."""

    diameter: float
    spare: float

    @property
    def does(self) -> bool:
        """Whether the support can be turned from it."""
        return self.spare >= -SLACK


def bar_at_hand(s: Sizes, told: str) -> BarAtHand | None:
    """A bar by its Ø in words, mm or inches: `42`, `41,3 mm`, `1 5/8 in`; None where it is no size.

    Fractions of an inch are what bars are sold by in half of the world: 1 5/8 in is 41.275 mm.
    """
    found = BAR.fullmatch(told.strip())
    if found is None:
        return None
    whole, over, under, unit = found.groups()
    value = float((whole or "0").replace(",", "."))
    if over:
        if not float(under):
            return None
        value += float(over) / float(under)
    # A fraction of a millimetre is sold by nobody: written without a unit it is of an inch.
    is_inches = unit in {"in", "inch", "inches", '"', "″"} or bool(over and unit is None)
    diameter = value * INCH if is_inches else value
    return BarAtHand(diameter, diameter - outer_diameter(s)) if diameter > 0 else None


def bar_told(s: Sizes) -> str:
    """What is said of the bar at hand: its Ø and what is turned off it, mm; nothing where none is told."""
    told = s.word(f"{SUPPORT}.bar").strip()
    if not told:
        return ""
    bar = bar_at_hand(s, told)
    if bar is None:
        return f"Bar at hand, “{told[:20]}”: no diameter; written as 42, 41.3 mm or 1 5/8 in"
    # 41.275 is told as 41.28: half a hundredth goes up, as on a page of sizes.
    named = f"Bar at hand, Ø {told} = {figure(bar.diameter + SLACK, 2, 'mm')}"
    if bar.does:
        return f"{named}: yes, {figure(bar.spare, 1)} to turn off"
    return f"{named}: no, {figure(-bar.spare, 1)} too thin"


def in_the_way(s: Sizes) -> tuple[str, ...]:
    """What stands where a spigot goes in, while the movement is cased; nothing of a recess."""
    cased = ("movement", "rotor", "holder") if is_spigot(s) and s.build.has("movement") else ()
    return tuple(part for part in cased if s.build.has(part))


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
