"""A build sheet in memory: one watch's target, parts and rules, with every dimension read and checked.

The document is kept whole, so keys that this version does not know are written back as they came.
A build never changes; `with_entry` and `without` return another.
"""

import copy
import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Any, Self

from marquetry.core.sheet.parts import PART_BY_KEY, entry_at
from marquetry.core.sheet.schema import Choice, Count, Entry, Flag, Group, Many, Names, Quantity, Text
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import DimensionError, NotFoundError, SheetError

FORMAT = "marquetry-build/1"
TARGETS = ("water_depth_m", "wrist_circumference_mm")
MOST_ITEMS = 16
"""Longest list of feet, holes, features or spacers; a longer one is a slip or a strain on the program."""

Json = Any  # what a JSON parser returns; its shape is what this module checks


class Build:
    """One watch as its sheet describes it.

    `dimensions` maps each path, such as `movement.posts.minute.top` or `spacers.0.thickness`, to its
    Dimension. Raises SheetError or DimensionError, naming the path, where the document cannot be read.
    """

    def __init__(self, document: Json) -> None:
        self._document: dict[str, Json] = copy.deepcopy(_checked_document(document))
        self.parts: Mapping[str, Json] = self._document["parts"]
        self.dimensions: Mapping[str, Dimension] = dict(_read_parts(self.parts))

    @classmethod
    def empty(cls, name: str) -> Self:
        """A watch of which nothing is known yet but its name."""
        return cls({"format": FORMAT, "name": name, "target": {}, "parts": {}, "rules": {}})

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Build) and self._document == other._document

    __hash__ = None  # type: ignore[assignment]  # a build holds a JSON document; nothing needs it as a key

    @property
    def document(self) -> dict[str, Json]:
        """A copy of the whole sheet, unknown keys included."""
        return copy.deepcopy(self._document)

    @property
    def name(self) -> str:
        """The watch's name."""
        return str(self._document["name"])

    @property
    def rules(self) -> Mapping[str, Json]:
        """The sheet's own rules, unread; `rules.py` gives them meaning."""
        return self._document.get("rules") or {}

    def target(self, key: str) -> float | None:
        """A plain number of the target, or None where it is not set."""
        found = (self._document.get("target") or {}).get(key)
        return None if found is None else float(found)

    def has(self, path: str) -> bool:
        """Whether the part, or the entry of a part, is in the sheet; an empty list of spacers is none."""
        found = self.at(path)
        return found is not None and found != []

    def at(self, path: str) -> Json:
        """What stands at the path below `parts`, or None."""
        node: Json = self.parts
        for step in path.split("."):
            if isinstance(node, Mapping):
                node = node.get(step)
            elif isinstance(node, Sequence) and not isinstance(node, str) and step.isdigit():
                node = node[int(step)] if int(step) < len(node) else None
            else:
                return None
        return node

    def count(self, path: str) -> int:
        """How many things the list at the path holds."""
        found = self.at(path)
        return len(found) if isinstance(found, list) else 0

    def with_entry(self, path: str, value: Json) -> "Build":
        """The build with `value` at the path; a path ending in `.-` appends to its list.

        Raises NotFoundError where no part has such an entry, SheetError or DimensionError for the value.
        """
        entry_at(path.removesuffix(".-"))
        document = self.document
        node, last = _parent(document["parts"], path)
        if isinstance(node, list):
            if last == "-":
                node.append(value)
            elif int(last) < len(node):
                node[int(last)] = value
            else:
                raise NotFoundError(f"entry {path!r} in this watch")
        else:
            node[last] = value
        return Build(document)

    def with_parts(self, held: Mapping[str, Json]) -> "Build":
        """The build with other parts in these slots, all at once; None empties a slot."""
        return Build({**self._document, "parts": {**self.parts, **held}})

    def without(self, path: str) -> "Build":
        """The build without the part or entry at the path; NotFoundError where there is none."""
        if self.at(path) is None:
            raise NotFoundError(f"entry {path!r} in this watch")
        document = self.document
        node, last = _parent(document["parts"], path)
        del node[int(last) if isinstance(node, list) else last]
        return Build(document)

    def renamed(self, name: str) -> "Build":
        """The build under another name."""
        return Build({**self.document, "name": name})


def dimension_as_json(dimension: Dimension) -> dict[str, Json]:
    """The dimension as a build sheet carries it."""
    return {"value": dimension.value, "tol": dimension.tol, "source": dimension.source.value}


def _parent(parts: dict[str, Json], path: str) -> tuple[Any, str]:
    """The mapping or list that holds the last step of the path; missing ones on the way are made."""
    *way, last = path.split(".")
    node: Any = parts
    for step, after in zip(way, path.split(".")[1:], strict=True):
        if isinstance(node, list):
            if int(step) >= len(node):
                raise NotFoundError(f"entry {path!r} in this watch")
            node = node[int(step)]
        else:
            if node.get(step) is None:
                node[step] = [] if after == "-" or after.isdigit() else {}
            node = node[step]
    return node, last


def _checked_document(document: Json) -> dict[str, Json]:
    """The document with everything outside `parts` checked."""
    top = _mapping("", document)
    if top.get("format") != FORMAT:
        raise SheetError("format", f'"{FORMAT}"', _shown(top.get("format")))
    if not isinstance(top.get("name"), str) or not top["name"].strip():
        raise SheetError("name", "the watch's name in words", _shown(top.get("name")))
    parts = _mapping("parts", top.get("parts"))
    for key in ("target", "rules"):
        if top.get(key) is not None:
            _mapping(key, top[key])
    for key in TARGETS:
        value = (top.get("target") or {}).get(key)
        if value is not None and not (_is_number(value) and value >= 0):
            raise SheetError(f"target.{key}", "a number of 0 or more, or null", _shown(value))
    return {**top, "parts": {key: value for key, value in parts.items() if value is not None}}


def _read_parts(parts: Mapping[str, Json]) -> Iterator[tuple[str, Dimension]]:
    for key, value in parts.items():
        kind = PART_BY_KEY.get(key)
        if kind is not None:
            try:
                yield from _read(kind, key, value)
            except SheetError as error:
                raise SheetError(f"parts.{error.path}", error.expected, error.found) from None


def _read(entry: Entry, path: str, value: Json) -> Iterator[tuple[str, Dimension]]:
    """Check what stands at the path against its description and give out the dimensions in it."""
    if value is None:
        return
    if isinstance(entry, Quantity):
        yield path, read_dimension(entry, path, value)
    elif isinstance(entry, Group):
        known = _mapping(path, value)
        for inner in entry.entries:
            yield from _read(inner, f"{path}.{inner.key}", known.get(inner.key))
    elif isinstance(entry, Many):
        for index, item in enumerate(_list(path, value)):
            known = _mapping(f"{path}.{index}", item)
            for inner in entry.entries:
                yield from _read(inner, f"{path}.{index}.{inner.key}", known.get(inner.key))
    else:
        _refuse_other(entry, path, value)


def _refuse_other(entry: Text | Choice | Names | Count | Flag, path: str, value: Json) -> None:
    """Raise SheetError where an entry that is no dimension holds something else than it should."""
    if isinstance(entry, Names):
        if not all(isinstance(name, str) for name in _list(path, value)):
            raise SheetError(path, "a list of words", _shown(value))
    elif isinstance(entry, Count):
        if not (_is_number(value) and value == int(value) and 1 <= value <= 1000):  # noqa: PLR2004  # a plain cap
            raise SheetError(path, "a whole number from 1 to 1000", _shown(value))
    elif isinstance(entry, Flag):
        if not isinstance(value, bool):
            raise SheetError(path, "true or false", _shown(value))
    elif not isinstance(value, str):
        raise SheetError(path, "words in quotation marks", _shown(value))
    elif isinstance(entry, Choice) and entry.key == "side" and value not in entry.options:
        raise SheetError(path, " or ".join(f'"{option}"' for option in entry.options), _shown(value))


def read_dimension(quantity: Quantity, path: str, value: Json) -> Dimension:
    """The dimension written at the path: a bare number, or value with tol and source.

    Raises SheetError for another shape, DimensionError for a number that no such part could have.
    """
    if _is_number(value):
        value = {"value": value}
    fields = _mapping(path, value, "a number, or an object with value, tol and source")
    for key in ("value", "tol"):
        if not (_is_number(fields.get(key)) or (key == "tol" and fields.get(key) is None)):
            raise SheetError(f"{path}.{key}", f"a number in {quantity.unit}", _shown(fields.get(key)))
    try:
        source = Source(fields.get("source", Source.LISTED))
    except ValueError:
        words = ", ".join(source.value for source in Source)
        raise SheetError(f"{path}.source", f"one of {words}", _shown(fields.get("source"))) from None
    tol = fields.get("tol")
    try:
        dimension = Dimension.of(
            float(fields["value"]), None if tol is None else float(tol), source, quantity.unit
        )
        quantity.refuse_impossible(path, dimension.value)
    except DimensionError as error:
        name = path if error.field == path else f"{path}.{error.field}"
        raise DimensionError(name, error.value, error.unit, error.limit) from None
    return dimension


def _is_number(value: Json) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and _fits_float(value)


def _fits_float(value: float) -> bool:
    try:
        return math.isfinite(float(value))
    except OverflowError:
        return False


def _mapping(path: str, value: Json, expected: str = "an object in braces") -> dict[str, Json]:
    if not isinstance(value, dict):
        raise SheetError(path, expected, _shown(value))
    return value


def _list(path: str, value: Json) -> list[Json]:
    if not isinstance(value, list):
        raise SheetError(path, "a list in square brackets", _shown(value))
    if len(value) > MOST_ITEMS:
        raise SheetError(path, f"at most {MOST_ITEMS} entries", f"{len(value)}")
    return value


def _shown(value: Json) -> str:
    """The value, short enough for a sentence."""
    if value is None:
        return "nothing"
    text = repr(value)
    return text if len(text) <= 40 else f"{text[:39]}…"  # noqa: PLR2004  # about half a line
