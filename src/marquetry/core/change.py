"""What an edit changed, in words: for the undo button and for the history."""

from marquetry.core.build import Build, Json
from marquetry.core.figures import figure
from marquetry.core.parts import PARTS, label_of

UNKNOWN = "unknown"


def change_of_entry(before: Build, after: Build, path: str) -> str:
    """`Dial, thickness: 0.40 → 0.95`, or what became known or unknown."""
    return f"{label_of(path)}: {_told(before, path)} → {_told(after, path)}"


def _told(build: Build, path: str) -> str:
    dimension = build.dimensions.get(path)
    if dimension is not None:
        return f"{figure(dimension.value)} ±{figure(dimension.tol)} {dimension.source.value}"
    found: Json = build.at(path)
    if found is None:
        return UNKNOWN
    return ", ".join(found) if isinstance(found, list) else str(found)


def changed_parts(before: Build, after: Build) -> list[str]:
    """Keys of the parts that differ between two builds, in the order of the parts."""
    return [part.key for part in PARTS if before.parts.get(part.key) != after.parts.get(part.key)]
