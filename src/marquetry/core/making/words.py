"""Words for whoever cuts or turns a part: every size with its sign and tolerance, the material, how many.

A diameter is never written without Ø: bars have been ordered by the radius.
"""

from collections.abc import Iterator

from marquetry.core.making.allowance import GENERAL, Allowance, allowances
from marquetry.core.making.measures import Measure
from marquetry.core.making.parts import MadePart
from marquetry.core.making.support import SUPPORT, bar_stock
from marquetry.core.values.figures import MINUS, figure

EVEN = 0.005
"""Two sides of a tolerance that are told alike in hundredths are told as one, mm."""


def size_words(measure: Measure, allowed: Allowance) -> str:
    """One size in words: `Outer: Ø 29.10 +0.08 −0.05 mm`, `Thickness: 0.40 ± 0.05 mm`."""
    sign = "Ø " if measure.is_diameter else ""
    told = f"{measure.label.removesuffix(' Ø')}: {sign}{figure(measure.value)}"
    if abs(allowed.plus - allowed.minus) < EVEN:
        return f"{told} ± {figure(allowed.plus, 2, 'mm')}"
    return f"{told} +{figure(allowed.plus)} {MINUS}{figure(allowed.minus, 2, 'mm')}"


def order_lines(part: MadePart, count: int, material: str = "") -> tuple[str, ...]:
    """What to write to a cutter or a turner, line by line; `count` is how many are wanted."""
    return tuple(_lines(part, count, material))


def _lines(part: MadePart, count: int, material: str) -> Iterator[str]:
    told = material or part.kind.material
    yield f"{part.label} for “{part.build.name}”: {count} {'piece' if count == 1 else 'pieces'}, {told}."
    allowed = allowances(part)
    yield from (size_words(m, allowed.get(m.path, Allowance())) for m in part.measures())
    if part.kind.key == "press-support":
        if thread := part.sizes.word(f"{SUPPORT}.thread"):
            yield f"Thread for the press: {thread}, through, on the axis, from the drill's size above."
        yield f"Stock: round bar Ø {figure(bar_stock(part.sizes), 0, 'mm')} or more (that is its diameter)."
    yield from _cuts(part)
    yield f"Sizes without a tolerance: ± {figure(GENERAL, 2, 'mm')}. Edges broken, no burrs, flat within 0.02 mm."
    yield "The DXF is in millimetres; cut along OUTLINE, CUT and HOLE. CENTRE, MARK and TEXT are not cut."
    yield "If the kerf is not allowed for in your program, tell me: a window cut too wide is scrap."


def _cuts(part: MadePart) -> Iterator[str]:
    windows = {"dial": "dial.cutouts", "dial_adapter": "dial_adapter.windows"}.get(part.path)
    if windows and part.sizes.count(windows):
        yield f"Windows: {part.sizes.count(windows)}, as drawn; better 0.02 mm too narrow than too wide."
