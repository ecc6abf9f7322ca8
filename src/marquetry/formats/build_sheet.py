"""The build sheet, `marquetry-build/1`: one watch as JSON.

It carries target, parts, rules and every key it does not know. It cannot carry history, stock or pictures.
"""

import json
from typing import NoReturn

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import SheetError

MOST_BYTES = 1_000_000
"""A whole watch takes about 16 kB; sixty times that is no build sheet."""


def loads(text: str | bytes, anatomy: Anatomy) -> Build:
    """Read a build sheet. Raises SheetError or DimensionError, naming the path, where it is none."""
    return Build(parsed(text), anatomy)


def parsed(text: str | bytes) -> Json:
    """Any JSON that a builder brings; SheetError, saying where, where it is none."""
    if len(text) > MOST_BYTES:
        raise SheetError("", f"a build sheet of at most {MOST_BYTES // 1000} kB", f"{len(text) // 1000} kB")
    try:
        return json.loads(
            text.decode("utf-8-sig") if isinstance(text, bytes) else text, parse_constant=_refuse
        )
    except UnicodeDecodeError as error:
        raise SheetError(
            "", "text in UTF-8", f"byte {error.object[error.start]:#04x} at {error.start}"
        ) from None
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise SheetError("", "JSON", f"{error.msg} at {place}") from None
    except RecursionError:
        raise SheetError("", "JSON with fewer levels of nesting") from None
    except ValueError as error:
        if isinstance(error, SheetError):
            raise
        raise SheetError("", "numbers of ordinary length") from None


def _refuse(word: str) -> NoReturn:
    raise SheetError("", "finite numbers only", word)


def dumps(build: Build) -> str:
    """Write a build sheet; `loads(dumps(build)) == build`."""
    return json.dumps(build.document, ensure_ascii=False, indent=1, allow_nan=False) + "\n"
