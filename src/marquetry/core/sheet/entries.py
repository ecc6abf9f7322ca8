"""What stands in a build sheet, checked against its description: every entry, and the dimensions in it.

Errors name the path, what was expected there and what was found.
"""

import math
from collections.abc import Iterator, Mapping
from typing import Any

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.described.target import WISHES
from marquetry.core.sheet.plain import LONGEST_NAME, has_control, refuse_unreadable_name
from marquetry.core.sheet.schema import (
    Choice,
    Count,
    Entry,
    Flag,
    Group,
    Many,
    Names,
    PlainSize,
    Quantity,
    Text,
    Tint,
)
from marquetry.core.sheet.spreads import spread
from marquetry.core.sheet.statements import refuse_statements
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import DimensionError, SheetError

FORMAT = "marquetry-build/1"
TARGETS = tuple(wish.key for wish in WISHES)
"""Plain numbers of the target."""
FURTHEST_TARGET = 1e6
LONGEST_PART_NAME = 120
LONGEST_WORDS = 200
MOST_NAMES = 16
"""Longest list of words, such as functions."""

Json = Any  # what a JSON parser returns; its shape is what this module checks
Dimensions = Mapping[str, Dimension]


def dimension_as_json(dimension: Dimension) -> dict[str, Json]:
    """The dimension as a build sheet carries it."""
    return {"value": dimension.value, "tol": dimension.tol, "source": dimension.source.value}


def assumed_entry(value: float) -> dict[str, Json]:
    """An assumed dimension as a build sheet carries it: without a tolerance, so that its spread counts."""
    return {"value": round(value, 4) + 0.0, "source": Source.ASSUMED.value}


def checked_document(document: Json) -> dict[str, Json]:
    """The document with everything outside `parts` checked."""
    top = _mapping("", document)
    if top.get("format") != FORMAT:
        raise SheetError("format", f'"{FORMAT}"', _shown(top.get("format")))
    refuse_unreadable_name("name", top.get("name"), LONGEST_NAME)
    parts = _mapping("parts", top.get("parts"))
    for key in ("target", "rules"):
        if top.get(key) is not None:
            _mapping(key, top[key])
    for key in TARGETS:
        value = (top.get("target") or {}).get(key)
        if value is not None and not (_is_number(value) and 0 <= value <= FURTHEST_TARGET):
            raise SheetError(f"target.{key}", "a number from 0 to 1,000,000, or null", _shown(value))
    wanted = (top.get("target") or {}).get("functions")
    if wanted is not None:
        _refuse_names("target.functions", wanted)
    refuse_statements(top)
    return {**top, "parts": {key: value for key, value in parts.items() if value is not None}}


def dimensions_of(anatomy: Anatomy, key: str, value: Json) -> Dimensions:
    """Every dimension of one part by its path, in mm or degrees; none of a part that is not described.

    SheetError or DimensionError, naming the path, where something in it is not what it should be.
    """
    described = anatomy.by_key.get(key)
    if described is None:
        return {}
    try:
        return dict(_read(described, key, value))
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
        for inner in (*entry.entries, entry.face) if entry.face else entry.entries:
            yield from _read(inner, f"{path}.{inner.key}", known.get(inner.key))
    elif isinstance(entry, Many):
        for index, item in enumerate(_list(path, value, entry.most)):
            known = _mapping(f"{path}.{index}", item)
            for inner in entry.entries:
                yield from _read(inner, f"{path}.{index}.{inner.key}", known.get(inner.key))
    else:
        _refuse_other(entry, path, value)


def _refuse_other(
    entry: Text | Choice | Names | Count | Flag | Tint | PlainSize, path: str, value: Json
) -> None:
    """Raise SheetError where an entry that is no dimension holds something else than it should."""
    match entry:
        case Names():
            _refuse_names(path, value)
        case Count():
            if not (_is_number(value) and value == int(value) and 1 <= value <= 1000):  # noqa: PLR2004  # a plain cap
                raise SheetError(path, "a whole number from 1 to 1000", _shown(value))
        case Flag():
            if not isinstance(value, bool):
                raise SheetError(path, "true or false", _shown(value))
        case PlainSize():
            if not (_is_number(value) and 0 <= value <= entry.most):
                raise SheetError(path, f"a number from 0 to {entry.most:g} mm", _shown(value))
        case _:
            _refuse_words(entry, path, value)


def _refuse_words(entry: Text | Choice | Tint, path: str, value: Json) -> None:
    """Raise SheetError where there are no words, too many, or none of those that a side may have."""
    if not isinstance(value, str) or len(value) > LONGEST_WORDS or has_control(value):
        raise SheetError(
            path, f"words in quotation marks, at most {LONGEST_WORDS} plain letters", _shown(value)
        )
    if entry.key == "name":
        refuse_unreadable_name(path, value, LONGEST_PART_NAME)
    elif isinstance(entry, Choice) and entry.key == "side" and value not in entry.options:
        raise SheetError(path, " or ".join(f'"{option}"' for option in entry.options), _shown(value))


def _refuse_names(path: str, value: Json) -> None:
    """Raise SheetError where there is anything but a short list of short words."""
    if not all(
        isinstance(name, str) and len(name) <= LONGEST_NAME and not has_control(name)
        for name in _list(path, value, MOST_NAMES)
    ):
        raise SheetError(path, f"a list of words of at most {LONGEST_NAME} letters", _shown(value))


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
    if tol is None and not source.is_known:
        tol = spread(path, float(fields["value"]), quantity.unit)
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


def _list(path: str, value: Json, most: int) -> list[Json]:
    if not isinstance(value, list):
        raise SheetError(path, "a list in square brackets", _shown(value))
    if len(value) > most:
        raise SheetError(path, f"at most {most} entries", f"{len(value)}")
    return value


def _shown(value: Json) -> str:
    """The value, short enough for a sentence."""
    if value is None:
        return "nothing"
    text = repr(value)
    return text if len(text) <= 40 else f"{text[:39]}…"  # noqa: PLR2004  # about half a line
