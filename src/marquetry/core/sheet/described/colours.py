"""The palette that looks are told in: names of colours, what they are drawn as, and how pastes glow."""

COLOURS = {
    "black": "#1b1c1e", "charcoal": "#34373a", "slate": "#4e575f", "grey": "#8a8f92", "silver": "#d3d5d3",
    "white": "#f3f1ea", "cream": "#efe4c8", "champagne": "#dcc797", "beige": "#d3bf9b", "tan": "#b98a58",
    "brown": "#6b4a33", "chestnut": "#7d3f22", "burgundy": "#6a1f2b", "red": "#a8281f", "salmon": "#dd9880",
    "pink": "#d9a5ab", "orange": "#d2691f", "yellow": "#dcb53a", "olive": "#66683b", "green": "#2c5a41",
    "mint": "#a3cbb4", "teal": "#1f6268", "turquoise": "#5fb0ad", "light blue": "#8fb4cd", "blue": "#24518c",
    "navy": "#1c2c4c", "heat blue": "#23388f", "purple": "#57396b", "lilac": "#a795bd",
}  # fmt: skip
METAL_COLOURS = {
    "steel": "#c3c7c8", "titanium": "#9b9a95", "gold": "#d2a94e", "rose gold": "#cf9b7c", "brass": "#c7a250",
    "bronze": "#a87d48", "copper": "#b8704a",
}  # fmt: skip
PALETTE = {**COLOURS, **METAL_COLOURS}
"""Every colour by its name, as #rrggbb: ours, chosen to be told apart on paper and on a dark bench."""
GLOWS = {
    "green": "#7dffb0", "blue": "#7fc8ff", "turquoise": "#7af5e6", "yellow": "#e6ff7a", "orange": "#ffb066",
    "white": "#e8f4ff", "purple": "#c79bff",
}  # fmt: skip
"""What pastes glow in at night, by plain words, as #rrggbb."""
