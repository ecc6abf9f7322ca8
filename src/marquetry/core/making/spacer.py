"""A spacer as a solid: a flat ring, with a notch in its edge or a gap that lets it be sprung in."""

from marquetry.core.making.shape import Annulus, Bar, Solid, Step
from marquetry.core.making.sizes import Sizes, refuse_thin


def spacer_solid(s: Sizes, path: str) -> Solid:
    """Put the spacer at the path together. DimensionError, naming the field, where it cannot be made."""
    inner, outer = f"{path}.inner_diameter", f"{path}.outer_diameter"
    refuse_thin(s, inner, outer)
    thick, radius = s[f"{path}.thickness"], s[outer] / 2
    steps = [Step(Annulus(s[inner] / 2, radius), 0.0, thick)]
    if s.build.has(f"{path}.notch"):
        deep = radius - s[f"{path}.notch.depth"]
        bar = Bar(s[f"{path}.notch.angle"], s[f"{path}.notch.width"], inner=max(deep, 0.0))
        steps.append(Step(bar, -1.0, thick + 1.0, adds=False, layer="CUT"))
    if s.build.has(f"{path}.gap"):
        bar = Bar(s[f"{path}.gap.angle"], s[f"{path}.gap.width"])
        steps.append(Step(bar, -1.0, thick + 1.0, adds=False, layer="CUT"))
    return Solid(tuple(steps))
