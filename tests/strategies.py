"""Generators for property tests: builds near the worked cases, and numbers that meet limits exactly."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

from hypothesis import strategies as st

from marquetry.core.fit.model import usual_model
from marquetry.core.fit.report import Report
from marquetry.core.fit.report import report_on as _report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.remedies.offers import Offers, offers
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.part import Part
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
    Tint,
)
from marquetry.core.values.dimension import Dimension, Source

MODEL = usual_model()
ANATOMY = MODEL.anatomy


def rules(own: Any = None, house: Any = None) -> Rules:
    return MODEL.rules(own, house)


def report_on(build: Build, by: Rules | None = None) -> Report:
    return _report_on(build, by or MODEL.rules_of(build))


def offers_for(build: Build, house: Any = None) -> Offers:
    return offers(build, MODEL.rules_of(build, house))


CASES = sorted((Path(__file__).parent / "cases").glob("*.json"))


def case(number: int) -> dict[str, Any]:
    """A worked case, whole: title, build and what is expected."""
    loaded: dict[str, Any] = json.loads(CASES[number - 1].read_text("utf-8"))
    return loaded


def case_build(number: int) -> Build:
    return Build(case(number)["build"], ANATOMY)


def measured(build: Build) -> Build:
    """The same watch with every seller's figure read on an instrument, to the same tolerance."""
    for path, found in build.dimensions.items():
        if found.source is Source.LISTED:
            build = build.with_entry(path, dimension_as_json(replace(found, source=Source.MEASURED)))
    return build


sources = st.sampled_from([Source.MEASURED, Source.LISTED, Source.PLANNED, Source.ASSUMED])
tolerances = st.floats(0.0, 0.2)


@st.composite
def builds(draw: st.DrawFn) -> Build:
    """A worked case with some dimensions moved, some left out, some tolerances changed."""
    build = case_build(draw(st.integers(1, len(CASES))))
    paths = sorted(build.dimensions)
    for path in draw(st.lists(st.sampled_from(paths), max_size=6, unique=True)):
        old = build.dimensions[path]
        if draw(st.booleans()):
            moved = Dimension(old.value * draw(st.floats(0.9, 1.1)), draw(tolerances), draw(sources))
            build = build.with_entry(path, dimension_as_json(moved))
        else:
            build = build.without(path)
    return build


words = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"]), min_size=1, max_size=20
).map(str.strip).filter(bool)  # fmt: skip


def entry_values(entry: Entry) -> st.SearchStrategy[Any]:  # noqa: PLR0911  # one return a kind of entry
    """What may stand in a part's document for an entry."""
    if isinstance(entry, Quantity):
        values = st.floats(*entry.plausible).map(lambda v: round(v, 6))
        fitting = values.filter(lambda v: v > 0 or entry.floor != "positive")
        made = st.builds(Dimension, fitting, tolerances.map(lambda t: round(t, 6)), st.sampled_from(Source))
        return made.map(dimension_as_json)
    if isinstance(entry, Choice):
        return st.sampled_from(entry.options)
    if isinstance(entry, Names) and not entry.options:
        return st.lists(
            st.from_regex(r"[A-Z][a-z]{1,6} [1-9]\d?", fullmatch=True), min_size=1, max_size=3, unique=True
        )
    if isinstance(entry, Names):
        return st.lists(st.sampled_from(entry.options), min_size=1, max_size=3, unique=True)
    if isinstance(entry, Count):
        return st.integers(1, 1000)
    if isinstance(entry, PlainSize):
        return st.floats(0.0, entry.most).map(lambda v: round(v, 6))
    if isinstance(entry, Tint):
        return st.sampled_from(entry.options) | st.integers(0, 0xFFFFFF).map("#{:06x}".format)
    return st.booleans() if isinstance(entry, Flag) else words


@st.composite
def shelf_parts(draw: st.DrawFn) -> Part:
    """Any kind of part with some of its entries told, lists with one or two things in them."""
    kind = draw(st.sampled_from(ANATOMY.kinds))
    document: dict[str, Any] = {"name": draw(words)}
    _tell(draw, (*kind.looks, *kind.entries, *((kind.face,) if kind.face else ())), document)
    return Part.of(kind, document)


def _tell(draw: st.DrawFn, entries: tuple[Entry, ...], document: dict[str, Any]) -> None:
    for entry in entries:
        if entry.key == "name" or draw(st.booleans()):
            continue
        if isinstance(entry, Group):
            inner: dict[str, Any] = {}
            _tell(draw, entry.entries, inner)
            if inner:
                document[entry.key] = inner
        elif isinstance(entry, Many):
            first = entry.entries[0]
            things = st.lists(entry_values(first), min_size=1, max_size=2)
            document[entry.key] = [{first.key: value} for value in draw(things)]
        else:
            document[entry.key] = draw(entry_values(entry))


@st.composite
def dressed_builds(draw: st.DrawFn) -> Build:
    """A worked case with any looks on any of its parts, some numbers wilder than any dial."""
    build = case_build(draw(st.sampled_from([1, 5, 10, 16, 17])))
    for kind in ANATOMY.kinds:
        if kind.face and not kind.is_many and build.has(kind.key) and draw(st.booleans()):
            looks: dict[str, Any] = {}
            _tell(draw, kind.face.entries, looks)
            build = build.with_entry(f"{kind.key}.{kind.face.key}", looks)
    return build
