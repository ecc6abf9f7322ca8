"""What figures without a label are: two or three with a times sign, or one beside the part's own name."""

PAIRS: dict[str, tuple[str, str]] = {
    "dial": ("diameter", "thickness"),
    "crystal": ("diameter", "edge_thickness"),
    "bezel_insert": ("outer_diameter", "inner_diameter"),
    "back_gasket": ("inner_diameter", "cord"),
    "crown_gasket": ("inner_diameter", "cord"),
    "chapter_ring": ("outer_diameter", "inner_diameter"),
    "spacers": ("outer_diameter", "inner_diameter"),
    "movement": ("diameter", "face_to_back"),
    "spring_bars": ("length", "diameter"),
    "strap": ("width", "clasp_width"),
    "holder": ("outer_diameter", "inner_diameter"),
    "crystal_gasket": ("", "wall"),
    "case": ("diameter", "lug_to_lug"),
    "crown": ("diameter", ""),
}
"""What two figures with a times sign between them are, by kind; what has no field is left out."""
ONLY_NAMED = {"case"}
"""Kinds of which two figures mean other things too: a case's are read only where words name one of them."""
TRIPLES: dict[str, tuple[str, str, str]] = {
    "bezel_insert": ("outer_diameter", "inner_diameter", "thickness"),
    "spacers": ("outer_diameter", "inner_diameter", "thickness"),
    "chapter_ring": ("outer_diameter", "inner_diameter", ""),
    "holder": ("outer_diameter", "inner_diameter", ""),
    "case": ("diameter", "lug_to_lug", ""),
    "back_gasket": ("inner_diameter", "", "cord"),
}
"""What three are, by kind."""
ALONE: dict[str, tuple[str, ...]] = {
    "case": ("diameter",), "dial": ("diameter", "thickness"), "crystal": ("diameter", "edge_thickness"),
    "movement": ("diameter",), "strap": ("width",), "crown": ("diameter",),
    "bezel_insert": ("outer_diameter", "thickness"), "spring_bars": ("length", "diameter"),
    "spacers": ("thickness",), "stem": ("length",),
}  # fmt: skip
"""What one figure beside nothing but the part's own name most likely is: the first that it may be by its size."""
