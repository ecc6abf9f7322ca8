"""Buckle or clasp as it lies open beside its watch, on the end of its strap, in its own colour and finish."""

from collections.abc import Iterator

from marquetry.core.face.seen import SeenStrap
from marquetry.core.face.shade import lit, mixed
from marquetry.drawing.face.light import PATTERNS, laid
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Inlay, InlayEdge, Mark

NARROWER = 1.0
"""How much narrower than at the case a strap is at its buckle, either side, mm."""
STUB = 7.0
"""How much of the strap is drawn behind the buckle, mm."""
FRAME, BAR, TONGUE = 1.5, 1.0, 1.1
"""Width of a pin buckle's frame, of the bar behind it, and of its tongue, mm."""
HIGH = 9.0
"""From a pin buckle's bar to its front, mm; a clasp's plate is as long again by half."""


def buckle_face(plan: Plan, strap: SeenStrap) -> Iterator[Mark]:
    """The buckle at the plan's centre, its strap coming in from above; nothing where there is none."""
    coat = strap.buckle_coat
    if strap.buckle == "none" or coat is None:
        return
    half = max(strap.half - NARROWER, 4.0)
    end = _box(plan, (-half, half), (HIGH / 2, HIGH / 2 + STUB))
    yield Inlay((end,), strap.coat.colour, line=mixed(strap.coat.colour, "#000000", 0.6), line_width=0.2)
    if strap.surface == "textile":
        yield Inlay((end,), "url(#li-weave)", 0.8)
    outlines = _pin(plan, half) if strap.buckle == "pin buckle" else _clasp(plan, half)
    ink = mixed(coat.colour, "#000000", 0.7)
    yield Inlay(outlines, coat.colour, line=ink, line_width=0.06 * plan.scale)
    pattern = PATTERNS.get(coat.finish)
    if pattern:
        yield Inlay(outlines, f"url(#li-{pattern})", 0.8)
    elif coat.finish == "polished":
        yield Inlay(outlines, "url(#li-sheen)", 0.9)
    if strap.buckle == "pin buckle":
        tongue = _box(plan, (-TONGUE / 2, TONGUE / 2), (-HIGH / 2 - 0.4, HIGH / 2 + BAR / 2))
        yield Inlay((tongue,), lit(coat.colour, 0.4), line=ink, line_width=0.06 * plan.scale)


def _pin(plan: Plan, half: float) -> tuple[InlayEdge, ...]:
    """A frame with an open middle, and the bar that the strap is folded round."""
    outer = _box(plan, (-half - FRAME, half + FRAME), (-HIGH / 2, HIGH / 2))
    inner = _box(plan, (-half, half), (FRAME - HIGH / 2, HIGH / 2 - BAR))
    return outer, inner


def _clasp(plan: Plan, half: float) -> tuple[InlayEdge, ...]:
    """A plate as wide as the strap with a little over, and a slot where its cover opens."""
    plate = _box(plan, (-half - 0.4, half + 0.4), (-HIGH, HIGH / 2))
    slot = _box(plan, (-half - 0.4, half + 0.4), (-HIGH / 2, 0.25 - HIGH / 2))
    return plate, slot


def _box(plan: Plan, across: tuple[float, float], up: tuple[float, float]) -> InlayEdge:
    (a, b), (low, high) = across, up
    return laid(plan, ((a, low), (b, low), (b, high), (a, high)))
