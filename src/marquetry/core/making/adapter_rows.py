"""Where each size of a dial's carrier comes from: the stem that misses its tube, the movement, the holder."""

from marquetry.core.making.proposals import Neighbours, SizeRow
from marquetry.core.making.size_rows import STEM, THIN_PLATE, outermost_diameter, stem_missing

ADAPTER = (
    SizeRow(
        "dial_adapter.thickness",
        lambda p: max(stem_missing(p, "dial_adapter.thickness"), THIN_PLATE),
        "what is missing between stem and tube",
        STEM,
    ),
    SizeRow(
        "dial_adapter.outer_diameter",
        lambda p: p["dial.diameter"] - 0.10,
        "the dial, less 0.10",
        ("dial.diameter",),
    ),
    SizeRow(
        "dial_adapter.opening_diameter",
        lambda p: outermost_diameter(p) + 2.5,
        "the outermost post and room for its wheel",
        ("movement.posts.hour.diameter",),
    ),
)
SLITS = (
    SizeRow("dial_adapter.slit_width", lambda _: 0.4, "one line of the nozzle"),
    SizeRow(
        "dial_adapter.slit_inner_radius",
        lambda p: p["dial_adapter.outer_diameter"] / 2 - 1.8,
        "1.80 inside the edge",
    ),
)
PEGS = (
    SizeRow("dial_adapter.peg_play", lambda _: 0.06, "snaps in and can be drawn out"),
    SizeRow(
        "dial_adapter.peg_length",
        lambda p: p["movement.foot_hole_depth"] - 0.30,
        "the holes' depth, less 0.30",
        ("movement.foot_hole_depth",),
    ),
)
THINNEST_SKIRT, USUAL_SKIRT = 0.4, 0.8
"""One line of the nozzle, and two, mm."""


def _skirt_wall(p: Neighbours) -> float:
    """As thick as leaves the holder its play; what is thinner than a line of the nozzle is no wall."""
    if not p.has("holder"):
        return USUAL_SKIRT
    left = (p["holder.inner_diameter"] - p["movement.diameter"]) / 2 - p["dial_adapter.grip_play"]
    return min(max(float(left) - p.middle("adapter_holder"), THINNEST_SKIRT), USUAL_SKIRT)


def _has_room(p: Neighbours) -> bool:
    """Whether a skirt of one line of the nozzle goes between movement and holder."""
    if not p.has("holder"):
        return True
    left = (p["holder.inner_diameter"] - p["movement.diameter"]) / 2 - p["dial_adapter.grip_play"]
    least = p.rules.limits("adapter_holder", p.rules.model.check("adapter_holder").limits).low or 0.0
    return float(left) - least >= THINNEST_SKIRT


SKIRT = (
    SizeRow("dial_adapter.grip_play", lambda _: 0.05, "goes on by hand"),
    SizeRow("dial_adapter.grip_wall", _skirt_wall, "two lines of the nozzle, clear of the holder"),
    SizeRow(
        "dial_adapter.grip_height",
        lambda p: 1.0 if _has_room(p) else 0.0,
        "enough to centre it; none where the holder leaves no room for a skirt",
    ),
    SizeRow("dial_adapter.stem_opening", lambda _: 4.0, "the stem and its tube"),
)
