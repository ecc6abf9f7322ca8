"""What of a made part is measured: each size once, for drawing, printed version and words to a turner."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal, TypeAlias

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.making.adapter import has_skirt
from marquetry.core.making.holder import INNER, OUTER, RIM, STEP, TALL, holder_base, ring_height
from marquetry.core.making.sizes import Sizes
from marquetry.core.making.support import SUPPORT, is_spigot, tapping_drill, whole_height
from marquetry.core.values.dimension import Unit

MeasureKind = Literal["outer", "inner", "height"]
"""How a printer errs: outside edges, inside edges and heights each in their own way."""
SizeKind = Literal["outer", "inner", "height", "angle", "place"]
"""The same, and what no printer is corrected in: angles, and how far from the axis something stands."""
SIZE_KINDS: tuple[SizeKind, ...] = ("outer", "inner", "height", "angle", "place")
MEASURE_KINDS: tuple[MeasureKind, ...] = ("outer", "inner", "height")


@dataclass(frozen=True, slots=True)
class Measure:
    """One size of a part, mm. `path` is its field, empty where it follows from others.

    A diameter is read at depth `start`; a height runs from depth `start` to depth `end`, drawn at `radius`.
    """

    label: str
    path: str
    kind: SizeKind
    value: float
    start: float = 0.0
    end: float = 0.0
    radius: float = 0.0
    short: str = ""
    """What stands beside a height in a drawing, where there is little room."""

    @property
    def is_diameter(self) -> bool:
        """Whether it goes round the axis."""
        return self.kind in {"outer", "inner"}

    @property
    def unit(self) -> Unit:
        """In what it is told: ° or mm."""
        return "°" if self.kind == "angle" else "mm"


MeasuresOf: TypeAlias = Callable[[Sizes, str], Iterator[Measure]]


def of_holder(s: Sizes, path: str) -> Iterator[Measure]:
    """The holder's diameters and heights, mm."""
    del path
    base, above = holder_base(s), ring_height(s)
    step = min(s[STEP], base) if s.known(STEP) else base
    outer = s[OUTER] / 2
    yield Measure("Outer Ø", OUTER, "outer", s[OUTER], start=step / 2)
    yield Measure("Inner Ø", INNER, "inner", s[INNER], start=0.0)
    if step < base:
        yield Measure("Rim outer Ø", RIM, "outer", s[RIM], start=(step + base) / 2)
        yield Measure("Face to the step", STEP, "height", step, 0.0, step, outer, "step")
    if above:
        ring = f"{HOLDER_RING}.inner_diameter"
        thick = f"{HOLDER_RING}.thickness"
        yield Measure("Dial ring inner Ø", ring, "inner", s[ring], start=-above)
        yield Measure("Dial ring", thick, "height", above, -above, 0.0, outer, "ring")
    yield Measure("Face to the rim", TALL, "height", s[TALL], 0.0, s[TALL], outer, "rim")


def of_spacer(s: Sizes, path: str) -> Iterator[Measure]:
    """A spacer's diameters and thickness, mm."""
    outer, inner, thick = (f"{path}.{key}" for key in ("outer_diameter", "inner_diameter", "thickness"))
    yield Measure("Outer Ø", outer, "outer", s[outer])
    yield Measure("Inner Ø", inner, "inner", s[inner])
    yield Measure("Thickness", thick, "height", s[thick], 0.0, s[thick], s[outer] / 2, "thick")


def of_dial(s: Sizes, path: str) -> Iterator[Measure]:
    """A dial's diameters and thickness, mm."""
    yield Measure("Outer Ø", f"{path}.diameter", "outer", s[f"{path}.diameter"])
    if s.known(f"{path}.centre_hole"):
        yield Measure("Centre hole Ø", f"{path}.centre_hole", "inner", s[f"{path}.centre_hole"])
    thick = s[f"{path}.thickness"]
    yield Measure(
        "Thickness", f"{path}.thickness", "height", thick, 0.0, thick, s[f"{path}.diameter"] / 2, "thick"
    )


def of_adapter(s: Sizes, path: str) -> Iterator[Measure]:
    """An adapter's diameters and heights, mm; its skirt's follow from the movement."""
    outer, inner, thick = (f"{path}.{key}" for key in ("outer_diameter", "opening_diameter", "thickness"))
    yield Measure("Outer Ø", outer, "outer", s[outer])
    yield Measure("Opening Ø", inner, "inner", s[inner])
    yield Measure("Plate thickness", thick, "height", s[thick], 0.0, s[thick], s[outer] / 2, "thick")
    tall = f"{path}.grip_height"
    if has_skirt(s):
        bore = s["movement.diameter"] + 2 * s[f"{path}.grip_play"]
        yield Measure("Skirt inner Ø", "", "inner", bore, start=s[thick] + s[tall] / 2)
        skirt = bore / 2 + s[f"{path}.grip_wall"]
        yield Measure("Skirt height", tall, "height", s[tall], s[thick], s[thick] + s[tall], skirt, "skirt")


def of_support(s: Sizes, path: str) -> Iterator[Measure]:
    """A press support's diameters and heights, mm, every diameter of them."""
    if is_spigot(s):
        yield from _of_spigot(s, path)
        return
    seat, relief = f"{path}.seat_diameter", f"{path}.relief_diameter"
    shoulder, deep = s[f"{path}.shoulder"], s[f"{path}.relief_depth"]
    outer = s[seat] + 2 * s[f"{path}.wall"]
    whole = shoulder + s[f"{path}.floor"]
    yield Measure("Outer Ø", "", "outer", outer, start=whole / 2)
    yield Measure("Seat Ø", seat, "inner", s[seat], start=0.0)
    yield Measure("Relief Ø", relief, "inner", s[relief], start=shoulder)
    drill = tapping_drill(s.word(f"{SUPPORT}.thread"))
    if drill is not None:
        yield Measure("Tapping drill Ø", "", "inner", drill, start=whole)
    yield Measure(
        "Rim above the seat", f"{path}.shoulder", "height", shoulder, 0.0, shoulder, s[seat] / 2, "seat"
    )
    yield Measure(
        "Relief depth",
        f"{path}.relief_depth",
        "height",
        deep,
        shoulder,
        shoulder + deep,
        s[relief] / 2,
        "relief",
    )
    yield Measure("Whole height", "", "height", whole, 0.0, whole, outer / 2, "whole")


def _of_spigot(s: Sizes, path: str) -> Iterator[Measure]:
    spigot, rim, relief = (f"{path}.{key}_diameter" for key in ("spigot", "rim", "relief"))
    high, deep, floor = (s[f"{path}.{key}"] for key in ("spigot_height", "relief_depth", "floor"))
    yield Measure("Rim Ø", rim, "outer", s[rim], start=floor / 2)
    yield Measure("Spigot Ø", spigot, "outer", s[spigot], start=-high / 2)
    yield Measure("Relief Ø", relief, "inner", s[relief], start=-high)
    drill = tapping_drill(s.word(f"{SUPPORT}.thread"))
    if drill is not None:
        yield Measure("Tapping drill Ø", "", "inner", drill, start=floor)
    yield Measure(
        "Spigot height", f"{path}.spigot_height", "height", high, -high, 0.0, s[spigot] / 2, "spigot"
    )
    yield Measure(
        "Relief below the face", f"{path}.relief_depth", "height", deep, 0.0, deep, s[relief] / 2, "relief"
    )
    whole = whole_height(s)
    yield Measure("Whole height", "", "height", whole, -high, floor, s[rim] / 2, "whole")
