"""What an edit changed, in words: for the undo button and for the history."""

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.figures import figure

UNKNOWN = "unknown"
MOST_TOLD = 3
"""Entries of a thing that are named when all of it changed."""


def change_of_entry(before: Build, after: Build, path: str) -> str:
    """`Dial, thickness: 0.40 → 0.95`, or what became known or unknown."""
    return f"{after.anatomy.label_of(path)}: {_told(before, path)} → {_told(after, path)}"


def _told(build: Build, path: str) -> str:
    dimension = build.dimensions.get(path)
    if dimension is not None:
        return f"{figure(dimension.value)} ±{figure(dimension.tol)} {dimension.source.value}"
    return _brief(build.at(path))


def _brief(value: Json) -> str:  # noqa: PLR0911  # one return a shape
    """What stands in a sheet, in few words."""
    match value:
        case None | []:
            return UNKNOWN if value is None else "none"
        case {"name": str(name)}:
            return f"“{name}”"
        case {"value": int(number) | float(number)}:
            return figure(number)
        case dict():
            told = ", ".join(f"{key} {_brief(inner)}" for key, inner in list(value.items())[:MOST_TOLD])
            return told or "nothing known"
        case list():
            return "; ".join(_brief(item) for item in value)
        case float():
            return figure(value)
        case _:
            return str(value)


def changed_parts(before: Build, after: Build) -> list[str]:
    """Keys of the parts that differ between two builds, in the order of the parts."""
    return [
        part.key for part in after.anatomy.parts if before.parts.get(part.key) != after.parts.get(part.key)
    ]
