"""The movement holder as a solid: ring and step, slot for the stem, tabs in recesses, lugs that crush."""

from collections.abc import Iterator

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.making.shape import Annulus, Bar, RoundSpot, Solid, Step
from marquetry.core.making.sizes import Sizes, half_angle, refuse, refuse_thin
from marquetry.core.sheet.described.holder import TAB_SHAPES

OUTER, INNER, RIM, TALL = (
    "holder.outer_diameter",
    "holder.inner_diameter",
    "holder.rim_outer_diameter",
    "holder.face_to_rim",
)
STEP, SLOT, TABS, LUGS = "holder.step", "holder.slot", "holder.tabs", "holder.lugs"
ROUND = TAB_SHAPES[1]
FACE_TO_STEM = "movement.face_to_stem"
MOST_LUGS = 60


def holder_solid(s: Sizes) -> Solid:
    """Put the holder together. DimensionError, naming the field, where it cannot be made."""
    refuse_thin(s, INNER, OUTER)
    base = holder_base(s)
    inner, outer = s[INNER] / 2, s[OUTER] / 2
    above = ring_height(s)
    step = min(s[STEP], base) if s.known(STEP) else base
    narrow = outer
    steps = [*_dial_ring(s, above, outer), Step(Annulus(inner, outer), 0.0, step)]
    if step < base:
        refuse_thin(s, INNER, RIM)
        narrow = s[RIM] / 2
        steps.append(Step(Annulus(inner, narrow), step, base))
    steps += _lugs(s, base, inner, narrow)
    steps += _slot(s)
    steps += _tabs(s, inner)
    return Solid(tuple(steps))


def holder_base(s: Sizes) -> float:
    """How deep the ring reaches without its lugs, mm; DimensionError where they leave nothing of it."""
    height = s[f"{LUGS}.height"] if s.build.has(LUGS) else 0.0
    if height >= s[TALL]:
        raise refuse(f"{LUGS}.height", height, "mm", f"less than {TALL}, {s[TALL]:g} mm")
    return s[TALL] - height


def ring_height(s: Sizes) -> float:
    """How far the dial ring in one piece stands above the movement's face, mm; 0 without one."""
    return s[f"{HOLDER_RING}.thickness"] if s.build.has(HOLDER_RING) else 0.0


def _dial_ring(s: Sizes, above: float, outer: float) -> Iterator[Step]:
    if above:
        refuse_thin(s, f"{HOLDER_RING}.inner_diameter", OUTER)
        yield Step(Annulus(s[f"{HOLDER_RING}.inner_diameter"] / 2, outer), -above, 0.0)


def _lugs(s: Sizes, base: float, inner: float, outer: float) -> Iterator[Step]:
    if not s.build.has(LUGS):
        return
    count = int(s.build.at(f"{LUGS}.count") or 0)
    if not 1 <= count <= MOST_LUGS:
        raise refuse(f"{LUGS}.count", count, "", f"one lug to {MOST_LUGS}")
    first = s.crown + s[f"{LUGS}.angle"]
    for number in range(count):
        bar = Bar(first + 360.0 * number / count, s[f"{LUGS}.width"], inner=inner, outer=outer)
        yield Step(bar, base, s[TALL])


def slot_depths(s: Sizes) -> tuple[float, float]:
    """From which depth to which the slot for the stem is open, mm below the movement's face."""
    middle, half = s[FACE_TO_STEM], s[f"{SLOT}.height"] / 2
    towards = s.word(f"{SLOT}.open")
    top = -ring_height(s) - 1.0 if towards == "dial" else middle - half
    return top, s[TALL] + 1.0 if towards == "back" else middle + half


def _slot(s: Sizes) -> Iterator[Step]:
    if not s.build.has(SLOT):
        return
    width = s[f"{SLOT}.width"]
    if width >= s[OUTER]:
        raise refuse(f"{SLOT}.width", width, "mm", f"less than {OUTER}, {s[OUTER]:g} mm")
    top, bottom = slot_depths(s)
    _refuse_slot_through_tab(s, width, top, bottom)
    yield Step(Bar(s.crown, width), top, bottom, adds=False, layer="CUT")


def _refuse_slot_through_tab(s: Sizes, width: float, top: float, bottom: float) -> None:
    radius = s[INNER] / 2
    for index in range(s.count(TABS)):
        tab = f"{TABS}.{index}"
        off = abs((s[f"{tab}.angle"] + 180.0) % 360.0 - 180.0)
        beside = half_angle(width, radius) + _tab_half_angle(s, tab, radius)
        if off < beside and s[f"{tab}.from"] < bottom and s[f"{tab}.to"] > top:
            raise refuse(f"{SLOT}.width", width, "mm", f"a slot that does not go through {tab}")


def _tab_half_angle(s: Sizes, tab: str, radius: float) -> float:
    """Half the angle under which a tab meets the bore, degrees; a round one meets it in a longer chord."""
    if s.word(f"{tab}.shape") == ROUND:
        return 2 * half_angle(s[f"{tab}.radius"], radius)
    return half_angle(s[f"{tab}.width"], radius)


def _tabs(s: Sizes, inner: float) -> Iterator[Step]:
    for index in range(s.count(TABS)):
        tab = f"{TABS}.{index}"
        top, bottom = s[f"{tab}.from"], s[f"{tab}.to"]
        if top >= bottom:
            raise refuse(f"{tab}.from", top, "mm", f"less than {tab}.to, {bottom:g} mm")
        angle = s.crown + s[f"{tab}.angle"]
        if s.word(f"{tab}.shape") == ROUND:
            yield Step(RoundSpot(inner, angle, s[f"{tab}.radius"], outer=inner), top, bottom)
        else:
            bar = Bar(angle, s[f"{tab}.width"], start=s[f"{tab}.reach"], outer=inner)
            yield Step(bar, top, bottom)


def tab_bridge(s: Sizes, tab: str) -> float:
    """How far a tab reaches into the bore, mm: what hangs in the air while it is printed dial side down."""
    if s.word(f"{tab}.shape") == ROUND:
        return s[f"{tab}.radius"]
    return s[INNER] / 2 - s[f"{tab}.reach"]
