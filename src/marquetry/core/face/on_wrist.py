"""The watch over a wrist of the target's circumference: what it covers, how it stands, where it gapes."""

import math
from dataclasses import dataclass

from marquetry.core.fit.checks.strap import WRIST_ASPECT, wrist_width
from marquetry.core.fit.levels import watch_height
from marquetry.core.fit.plausible import Plausible
from marquetry.core.values.figures import figure

USUAL_WRIST = 172.0
"""mm round, where no wrist is wished: a usual one."""
BAR_UP = 1.8
"""How high a spring bar's axis stands over the back's outermost face, mm: assumed."""


@dataclass(frozen=True, slots=True)
class Worn:
    """The watch on a wrist, all in mm.

    `wide` and `high` are the wrist's ellipse; `covered` the share of its width that lies under the watch;
    `gap` what stands open between strap and wrist under the spring bars; `is_wished`: the wrist was told.
    """

    circumference: float
    wide: float
    high: float
    reach: float
    thickness: float
    height: float
    gap: float
    covered: float
    is_wished: bool
    is_known: bool
    """Whether all that is told of it was measured, planned or said by a seller."""

    @property
    def told(self) -> str:
        """The figures in words, for whoever looks at the drawing."""
        whose = "as wished" if self.is_wished else "a usual one"
        wrist = f"wrist {figure(self.circumference, 0)} mm round, {whose}"
        strap = f"strap {figure(self.thickness, 1)} mm, gap under the bars {figure(self.gap, 1)} mm"
        return f"To scale: {wrist}; height {figure(self.height, 1)} mm, {strap}."


def worn(p: Plausible) -> Worn:
    """How the watch sits, from its case, its height and its strap; what is not known lies where usual."""
    wished = p.target("wrist_circumference_mm")
    circumference = wished or USUAL_WRIST
    wide = wrist_width(circumference)
    high = wide / WRIST_ASPECT
    reach, thickness = p["case.lug_to_lug"] / 2, p["strap.thickness"] if p.has("strap") else 2.5
    height = float(watch_height(p))
    a, b = wide / 2, high / 2
    # The back rests on the crown of the ellipse; at the bar's axis the wrist has fallen away by so much.
    axis = min(p["case.diameter"] / 2 + p["case.bar_to_case"], a)
    fallen = b - b * math.sqrt(max(1.0 - (axis / a) ** 2, 0.0))
    gap = max(BAR_UP + fallen - thickness / 2, 0.0)
    return Worn(
        circumference,
        wide,
        high,
        reach,
        thickness,
        height,
        gap,
        2 * reach / wide,
        bool(wished),
        not p.missing,
    )
