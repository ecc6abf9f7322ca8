"""The bench: every watch, new ones, build sheets brought in."""
