"""Build sheets: what is written is read back the same."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.build_sheet import dumps, loads
from tests.strategies import ANATOMY, builds

words = st.text(max_size=12)
json_values = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False, allow_infinity=False) | words,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(words, inner, max_size=3),
    max_leaves=12,
)


@settings(max_examples=30, deadline=None)
@given(builds(), st.dictionaries(words.map(lambda w: f"own {w}"), json_values, max_size=3))
def test_round_trip_keeps_everything(build: Build, own: dict[str, object]) -> None:
    whole = Build({**build.document, **own}, ANATOMY)
    assert loads(dumps(whole), ANATOMY) == whole
    assert loads(dumps(whole).encode(), ANATOMY).document == whole.document


@settings(max_examples=150, deadline=None)
@given(json_values)
def test_any_json_is_read_or_refused_with_a_sentence(value: object) -> None:
    document = {
        "format": "marquetry-build/1",
        "name": "x",
        "parts": {"dial": value, "hands": {"hour": value}},
    }
    try:
        loads(dumps_raw(document), ANATOMY)
    except MarquetryError as error:
        assert "expected" in str(error)  # noqa: PT017  # either outcome is right; only the sentence is checked


def dumps_raw(document: object) -> str:
    import json  # noqa: PLC0415  # only here: the tests above go through our own writer

    return json.dumps(document)


def test_a_byte_order_mark_is_read_over() -> None:
    assert loads(b"\xef\xbb\xbf" + dumps(Build.empty("x", ANATOMY)).encode(), ANATOMY).name == "x"


@pytest.mark.parametrize("text", ["", "null", "3", '"x"', "{}"])
def test_what_is_no_sheet_is_refused(text: str) -> None:
    with pytest.raises(MarquetryError):
        loads(text, ANATOMY)
