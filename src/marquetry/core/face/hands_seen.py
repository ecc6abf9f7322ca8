"""The hands as they are seen: shapes in proportion to their lengths, at their planned heights."""

from collections.abc import Iterator, Mapping

from marquetry.core.face.dress import Dress, Lume
from marquetry.core.face.hand_shapes import PROFILES, hand_shape, usual_width
from marquetry.core.face.seen import SeenHand
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.described.words import HANDS

QUIET_SHAPE, QUIET_COLOUR = "baton", "steel"
USUAL_SHAPES = {"seconds": "plain", "h24": "arrow"}
"""Hands that are usually of another shape than the rest of their set."""
QUIET_HEIGHTS = {"h24": 0.45, "hour": 0.8, "minute": 1.25, "seconds": 1.7}
"""Over the dial, mm, where no plan can be made: nothing is known of movement or dial."""


def hands(p: Plausible, dress: Dress, heights: Mapping[str, float]) -> Iterator[SeenHand]:
    """The hands from the dial upwards; `heights` are those of their undersides over the dial's face, mm."""
    if not p.has("hands"):
        return
    shape = _known(dress.word("hands", "shape", QUIET_SHAPE))
    colour, finish = dress.tint("hands", "colour", QUIET_COLOUR), dress.word("hands", "finish", "polished")
    edge, lume = dress.tint("hands", "edge", ""), dress.lume("hands")
    for key in HANDS:
        if p.has(f"hands.{key}"):
            own = _own_shape(dress, key, shape)
            length = p[f"hands.{key}.length"]
            width = dress.size("hands", "width", key) or usual_width(key, own, length)
            weight = dress.word("hands", "counterweight", _usual_weight(key), key)
            yield SeenHand(
                key,
                hand_shape(key, own, length, width, weight),
                length,
                width,
                weight,
                heights.get(key, QUIET_HEIGHTS[key]),
                dress.tint("hands", "colour", colour, key),
                edge,
                finish,
                _filled(dress, key, own, lume),
            )


def _own_shape(dress: Dress, key: str, shape: str) -> str:
    """What is told of this hand, else the set's; a seconds hand is usually plain, a 24-hour hand an arrow."""
    return _known(dress.word("hands", "shape", USUAL_SHAPES.get(key, shape), key))


def _usual_weight(key: str) -> str:
    return "tail" if key == "seconds" else "none"


def _known(shape: str) -> str:
    return shape if shape in PROFILES else QUIET_SHAPE


def _filled(dress: Dress, key: str, shape: str, lume: Lume | None) -> Lume | None:
    """The set's paste, where this hand has a field for it: usually all but a plain seconds hand."""
    told = dress.flag("hands", "lume", key)
    usual = shape != "skeleton" and (key != "seconds" or shape != "plain")
    return lume if (usual if told is None else told) else None
