"""How far a piece of long work is: told by whoever does it, to whoever shows it."""

from collections.abc import Callable

Progress = Callable[[int], None]
"""Takes the number of steps that are done."""
