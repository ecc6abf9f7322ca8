"""How parts look and what they are made of: words a builder chooses by, and no check computes with."""

from marquetry.core.sheet.schema import Text

NAME = Text("name", "Name")
FINISH = Text("finish", "Finish")
COLOUR = Text("colour", "Colour")
MATERIAL = Text("material", "Material")
WATER_RATING = Text("water_rating", "Water rating, in words")
"""What older sheets kept of a claim: words, from when it was no number of metres."""
LUME = (Text("glow", "Lume, glows"), Text("daylight", "Lume, by day"))
NUMERALS = Text("numerals", "Numerals")
COATING = Text("coating", "Coating")
SHAPE = Text("shape", "Shape")
