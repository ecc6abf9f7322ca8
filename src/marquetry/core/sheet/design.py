"""What is drawn here for a part and not cut yet: kept when a bought blank takes the part's place.

A blank is a dial of which nothing is told that shows: no window, no cut-out, no mark, no look. Laid into the
watch it brought its own sizes and, once, took the whole design away with the dial that stood there.
"""

from collections.abc import Mapping

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.dimension import Source

SHOWS: Mapping[str, tuple[str, ...]] = {
    "dial": (
        "cutouts", "marks", "windows", "face", "track_radius", "features",
        "date_window_angle", "date_window_radius",
    ),
}  # fmt: skip
"""By the kind of part: what of it shows, and therefore what a blank has not."""


def with_design(build: Build, kind: str, document: Mapping[str, Json]) -> dict[str, Json]:
    """The new part's document with what was drawn here for the one in its slot, where the new one is a blank.

    Only what is planned is kept, words and looks beside it; what the blank says itself stands.
    """
    old = build.at(kind)
    shows = SHOWS.get(kind, ())
    if not shows or not isinstance(old, dict) or any(document.get(key) for key in shows):
        return dict(document)
    if not any(_is_planned(old.get(key)) for key in shows):
        return dict(document)
    kept = {key: value for key, value in old.items() if key in shows or _is_planned(value)}
    return {**{key: value for key, value in kept.items() if key not in document}, **document}


def _is_planned(value: Json) -> bool:
    """Whether a size in it is planned, however deep."""
    if isinstance(value, dict):
        return value.get("source") == Source.PLANNED.value or any(map(_is_planned, value.values()))
    return isinstance(value, list) and any(map(_is_planned, value))
