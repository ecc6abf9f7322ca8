"""What a builder's own words say of a look, in the words the face is drawn by: as far as they go.

`heat blued` is the colour heat blue, `enamel-like` the finish enamel, `oak on brass` grained wood. The
words stay as they are; this only reads them.
"""

import re
from collections.abc import Mapping

from marquetry.core.sheet.described.colours import PALETTE

SYNONYMS = {
    "heat blue": r"heat[ -]?blued?|blued",
    "light blue": r"light blue|ice blue|pale blue|sky",
    "navy": r"navy|night blue|dark blue|midnight",
    "rose gold": r"rose gold|red gold",
    "gold": r"gold(?:en)?|gilt",
    "charcoal": r"charcoal|anthracite|dark grey",
    "grey": r"gr[ea]y",
    "champagne": "champagne",
    "chestnut": r"chestnut|dark brown",
    "brown": r"brown|walnut|oak",
    "cream": r"cream|ivory|linen|bone",
    "turquoise": "turquoise|aqua",
    "purple": "purple|violet",
    "burgundy": r"burgundy|wine|dark red",
    "green": r"green",
    "olive": "olive|khaki",
    "steel": r"(?:stainless )?steel",
    "titanium": r"titan(?:ium)?",
    "bronze": "bronze",
    "brass": "brass",
    "copper": "copper",
    "silver": r"silver(?:ed)?",
}
FINISHES = {
    "sunray": r"sun ?ray|sun ?burst",
    "gradient": r"gradient|faded?|fade",
    "enamel": r"enamel",
    "engine-turned": r"engine|guilloch\w*",
    "grained wood": r"wood|oak|walnut|veneer|oiled",
    "stone": r"stone|marble|meteorite",
    "woven": r"linen|woven|canvas|weave",
    "hammered": "hammered",
    "blasted": r"blast\w*|frosted|sanded",
    "brushed round": r"brushed round|circular|azur\w*",
    "brushed along": r"brushed|satin\w*",
    "polished": r"polish\w*|mirror|gloss\w*|lacquer\w*",
    "coated": r"coat\w*|dlc|pvd",
    "textured": r"textur\w*|grain\w*|engraved|striped",
    "matt": r"matt?e?|dull",
}
HAND_SHAPES = {
    "leaf": "lea(?:f|ves)",
    "sword": "sword|broad",
    "pencil": "pencil",
    "lozenge": "lozenge|diamond",
    "arrow": "arrow",
    "ring-tipped": "ring",
    "skeleton": "skeleton|open",
    "baton": "baton|stick",
    "plain": "plain",
}
SURFACES = {
    "suede": "suede",
    "textile": "nylon|textile|canvas|cotton|woven|fabric",
    "rubber": "rubber|silicone",
    "mesh": "mesh",
    "links": "links?|bracelet|steel|titanium",
    "leather": "leather|waxed|calf",
}
SCALES = {
    "twenty-four": r"24|twenty-four",
    "twelve": r"twelve|12|hours",
    "minutes": r"minutes?|60|dive",
    "none": "bare|plain|blank|no scale",
}
EDGES = {
    "coin": "coin",
    "fluted": "flut\\w*|ribbed|onion",
    "notched": "notch\\w*|scallop\\w*",
    "smooth": "smooth|cone|plain",
}
OUTLINES = {"cushion": "cushion", "barrel": "barrel", "round": "round"}
PRINTINGS = {"minutes": "minutes?|track", "hours": "hours?", "dots": "dots?", "none": "blank|bare"}
COATINGS = {"blue": "blue", "violet": "violet|purple", "green": "green", "amber": "amber|gold|yellow"}
GLOWS = {
    "turquoise": "blue-green|turquoise|aqua",
    "green": "green",
    "blue": "blue",
    "yellow": "yellow",
    "orange": "orange",
    "white": "white",
    "purple": "purple|violet",
    "nothing": "nothing|none",
}
BUCKLES = {
    "folding clasp": r"fold\w*|deploy\w*|butterfly|clasp",
    "pin buckle": r"pin|tongue|tang|buckle",
}
READ: Mapping[str, Mapping[str, str]] = {
    "finish": FINISHES,
    "shape": HAND_SHAPES,
    "surface": SURFACES,
    "scale": SCALES,
    "edge": EDGES,
    "outline": OUTLINES,
    "printing": PRINTINGS,
    "coating": COATINGS,
    "glow": GLOWS,
    "buckle": BUCKLES,
    "buckle_finish": FINISHES,
}
"""By the key of the look: each word of the vocabulary, and what in a builder's words means it."""


def word_in(key: str, words: str) -> str:
    """The word of the vocabulary that these words mean; nothing where they mean none of it.

    The first one that is said; of two said at one place the longer, so that blue-green is not blue.
    """
    plain = words.lower()
    hits = [
        (found.start(), -len(found[0]), word)
        for word, pattern in READ.get(key, {}).items()
        if (found := re.search(rf"(?<![a-z0-9])(?:{pattern})(?![a-z0-9])", plain))
    ]
    return min(hits)[2] if hits else ""


def colours_in(words: str) -> tuple[str, ...]:
    """The names of the palette that these words hold, in their order: `red and blue` holds two."""
    plain = words.lower()
    hits = [
        (hit.end() - hit.start(), hit.start(), name)
        for name in PALETTE
        for hit in re.finditer(rf"(?<![a-z])(?:{SYNONYMS.get(name) or name})(?![a-z])", plain)
    ]
    found: list[tuple[int, int, str]] = []
    for length, start, name in sorted(hits, reverse=True):
        if not any(at < start + length and start < at + long for at, long, _ in found):
            found.append((start, length, name))
    return tuple(name for _, _, name in sorted(found))
