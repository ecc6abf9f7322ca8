"""How the demo's sellers list their parts, and how the demo's true parts differ from what was listed.

The program never sees these figures: it has to find them out from what is measured.
"""

import random
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.schema import Nature
from marquetry.core.values.dimension import Dimension, Source

HABITS: Mapping[str, Mapping[Nature, tuple[float, float]]] = {
    "Sandbank Parts": {"diameter": (-0.015, 0.03), "thickness": (0.045, 0.03), "length": (0.0, 0.05)},
    "Longshore Horology": {"diameter": (0.0, 0.012), "height": (0.02, 0.02), "length": (0.0, 0.02)},
    "Saltmarsh Tools": {"thickness": (-0.01, 0.02), "length": (0.06, 0.09), "diameter": (0.0, 0.03)},
    "Fjell & Tang": {"diameter": (0.0, 0.006), "thickness": (0.0, 0.012)},
}
"""By seller and kind of dimension: what the part is more than its listing, and the spread of that, mm."""
OTHERWISE = (0.0, 0.025)
LISTED = (
    "case.dial_bore", "case.seat_to_tube", "case.seat_to_back_plane", "case.lug_width", "case.movement_bore",
    "dial.diameter", "dial.thickness", "crystal.diameter", "crystal.edge_thickness", "hands.minute.length",
    "hands.hour.thickness", "movement.diameter", "movement.face_to_stem", "crown.diameter", "stem.length",
    "strap.width", "chapter_ring.inner_diameter",
    "bezel_insert.outer_diameter", "bezel_insert.thickness", "back_gasket.cord",
    "case_back.lip_recess",
)  # fmt: skip
"""What sellers of the finished watches' parts listed, and what was measured of it once they were here."""
GRAIN = 0.05
CALIPER = 0.02


@dataclass(frozen=True, slots=True)
class TrueSize:
    """A dimension of a true part: as it was listed, and as it is, mm."""

    path: str
    listed: float
    is_so: float


def true_sizes(build: Build, sellers: Mapping[str, str], draw: random.Random) -> Iterator[TrueSize]:
    """What was listed of a watch's parts, to the twentieth, and what they are; `sellers` by part."""
    for path in LISTED:
        dimension = build.dimensions.get(path)
        if dimension is None:
            continue
        nature = build.anatomy.quantity_at(path).nature
        habits = HABITS.get(sellers.get(path.partition(".")[0], ""), {})
        more, spread = habits.get(nature, OTHERWISE)
        listed = (
            dimension.value
            if "thickness" in path or "cord" in path
            else round(dimension.value / GRAIN) * GRAIN
        )
        yield TrueSize(path, round(listed, 2), round(listed + draw.gauss(more, spread), 3))


def as_listed(build: Build, sizes: list[TrueSize]) -> Build:
    """The watch with these as its sellers listed them."""
    for size in sizes:
        build = build.with_entry(size.path, dimension_as_json(Dimension.of(size.listed)))
    return build


def as_it_is(build: Build, sizes: list[TrueSize]) -> Build:
    """The watch as it truly is in these."""
    for size in sizes:
        build = build.with_entry(size.path, dimension_as_json(Dimension(size.is_so, 0.0, Source.EXACT)))
    return build


def measured(size: TrueSize, draw: random.Random) -> Dimension:
    """What a caliper says of it."""
    return Dimension(round(draw.gauss(size.is_so, CALIPER / 2), 2), CALIPER, Source.MEASURED)
