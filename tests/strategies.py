"""Generators for property tests: builds near the worked cases, and numbers that meet limits exactly."""

import json
from pathlib import Path
from typing import Any

from hypothesis import strategies as st

from marquetry.core.build import Build, dimension_as_json
from marquetry.core.dimension import Dimension, Source

CASES = sorted((Path(__file__).parent / "cases").glob("*.json"))


def case(number: int) -> dict[str, Any]:
    """A worked case, whole: title, build and what is expected."""
    loaded: dict[str, Any] = json.loads(CASES[number - 1].read_text("utf-8"))
    return loaded


def case_build(number: int) -> Build:
    return Build(case(number)["build"])


sources = st.sampled_from([Source.MEASURED, Source.LISTED, Source.ASSUMED])
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
