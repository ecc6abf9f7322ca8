"""Core results as drawings: a scene of plain primitives in paper millimetres, then SVG text."""
