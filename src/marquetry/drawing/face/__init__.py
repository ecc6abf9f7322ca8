"""The face of a watch in its own colours: day, night, on the wrist, and parts alone."""
