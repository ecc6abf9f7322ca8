"""The set: watches that ship with the program to rehearse on, each whole and in order."""

import json
from functools import lru_cache
from importlib.resources import files

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError

PIECES = ("three-hands", "four-hands", "four-feet")
"""Names of the sheets in the folder of that name."""


@lru_cache(maxsize=8)
def piece(name: str, anatomy: Anatomy) -> Build:
    """A watch of the set; NotFoundError where it has none of that name."""
    if name not in PIECES:
        raise NotFoundError(f"watch “{name[:40]}” in the set")
    text = files("marquetry.core.rehearsal").joinpath("set", f"{name}.json").read_text("utf-8")
    return Build(json.loads(text), anatomy)
