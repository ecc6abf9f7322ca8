"""What two builds of a watch differ by, path by path: what a trial consists of, what a variant changes."""

from collections.abc import Iterator, Mapping, Sequence
from typing import TypeAlias

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import change_of_entry
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import LINKS
from marquetry.core.sheet.statements import ALTERATIONS, ASSUMED_WORDS, TOGETHER, TRIED
from marquetry.core.values.errors import NotFoundError, SheetError

Edit: TypeAlias = tuple[str, Json]
"""A path below `parts` and what stands there afterwards; None where nothing does."""

MOST_EDITS = 100
RULES = "rules"
STATED = (ASSUMED_WORDS, TOGETHER, TRIED, ALTERATIONS)
"""What besides parts and the sheet's own rules an edit may change, each as a whole."""
STATED_LABELS = {
    ASSUMED_WORDS: "What is only assumed of words",
    TOGETHER: "What came assembled",
    TRIED: "What was tried",
    ALTERATIONS: "What is to be altered",
}


def difference(before: Build, after: Build) -> tuple[Edit, ...]:
    """The edits that lead from one build to the other; a list of another length is one edit as a whole."""
    anatomy = after.anatomy
    rules = ((RULES, dict(after.rules)),) if before.rules != after.rules else ()
    stated = tuple((key, after.raw.get(key)) for key in STATED if before.raw.get(key) != after.raw.get(key))
    return (
        rules
        + tuple(
            edit
            for part in anatomy.parts
            for edit in _edits(anatomy, part.key, before.parts.get(part.key), after.parts.get(part.key))
        )
        + stated
    )


def _edits(anatomy: Anatomy, path: str, old: Json, new: Json) -> Iterator[Edit]:
    if old == new:
        return
    if _is_other_piece(old, new):
        yield path, new
    elif isinstance(old, Mapping) and isinstance(new, Mapping) and not _is_leaf(anatomy, path):
        for key in dict.fromkeys([*old, *new]):
            yield from _edits(anatomy, f"{path}.{key}", old.get(key), new.get(key))
    elif _same_length(old, new):
        for index, (one, other) in enumerate(zip(old, new, strict=True)):
            yield from _edits(anatomy, f"{path}.{index}", one, other)
    else:
        yield path, new


def _is_other_piece(old: Json, new: Json) -> bool:
    """Whether another part or piece of the shelf came into the slot: that is one edit as a whole."""
    both = isinstance(old, Mapping) and isinstance(new, Mapping)
    return both and any(old.get(link) != new.get(link) for link in LINKS)


def _is_leaf(anatomy: Anatomy, path: str) -> bool:
    """Whether what stands at the path is one thing: a dimension, or something no part describes."""
    try:
        anatomy.entry_at(path)
    except NotFoundError:
        return True
    return anatomy.is_quantity(path)


def _same_length(old: Json, new: Json) -> bool:
    """Whether both are lists of as many things, not of words."""
    both = isinstance(old, list) and isinstance(new, list) and len(old) == len(new)
    return both and all(isinstance(item, Mapping) for item in [*old, *new])


def applied(build: Build, edits: Sequence[Edit]) -> Build:
    """The build after the edits; SheetError, DimensionError or NotFoundError for one that cannot be."""
    for path, value in edits:
        if path == RULES:
            build = build.with_rules(value)
        elif path in STATED:
            build = build.with_statement(path, value)
        elif value is not None:
            build = build.with_entry(path, value)
        elif build.at(path) is not None:
            build = build.without(path)
    return build


def read_edits(document: Json) -> tuple[Edit, ...]:
    """Edits from JSON: a list of [path, value]. Raises SheetError where it is something else."""
    if not isinstance(document, list) or len(document) > MOST_EDITS:
        raise SheetError("try", f"a list of at most {MOST_EDITS} edits")
    for edit in document:
        if not (isinstance(edit, list) and len(edit) == 2 and isinstance(edit[0], str)):  # noqa: PLR2004  # path, value
            raise SheetError("try", "edits as [path, value]")
    return tuple((path, value) for path, value in document)


def told(before: Build, after: Build, *, known_only: bool = False) -> list[str]:
    """Each difference in words, `Dial, thickness: 0.40 ±0.01 measured → 0.95 ±0.02 measured`.

    With `known_only` nothing that is only assumed, before or after: for whoever the watch is promised to.
    """
    paths = [path for path, _ in difference(before, after)]
    return [
        _told(before, after, path)
        for path in paths
        if not known_only or (before.is_said(path) and after.is_said(path) and path not in STATED_LABELS)
    ]


def _told(before: Build, after: Build, path: str) -> str:
    if path == RULES:
        keys = [key for key in after.rules if before.rules.get(key) != after.rules[key]]
        return "Rules of this watch: " + ", ".join(
            f"{key.replace('_', ' ')} {after.rules[key]}" for key in keys
        )
    if path == ALTERATIONS:
        known = {found.id for found in before.alterations}
        new = [found.title for found in after.alterations if found.id not in known]
        return "; ".join(new) or STATED_LABELS[path]
    if path in STATED_LABELS:
        return STATED_LABELS[path]
    try:
        return change_of_entry(before, after, path)
    except NotFoundError:
        return path
