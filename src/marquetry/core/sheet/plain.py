"""What may stand in a sheet at all, whatever it describes: bounded nesting and numbers, words that are text.

Asked before anything is read, so that nothing stored can later break the page that shows it.
"""

import math
import unicodedata
from typing import Any

from marquetry.core.values.errors import SheetError

DEEPEST = 64
"""Levels of nesting; a build needs six."""
MOST_NODES = 60_000
"""Things in one sheet; a whole watch has about 700."""
LONGEST_NAME = 80


def refuse_hostile(document: Any) -> None:  # noqa: ANN401  # whatever a JSON parser returned
    """Raise SheetError where the document nests too deep, holds too much, or text that cannot be kept."""
    waiting: list[tuple[Any, int]] = [(document, 1)]
    seen = 0
    while waiting:
        node, level = waiting.pop()
        seen += 1
        if level > DEEPEST:
            raise SheetError("", f"at most {DEEPEST} levels of nesting")
        if seen > MOST_NODES:
            raise SheetError("", f"at most {MOST_NODES} things in one sheet")
        if isinstance(node, dict):
            waiting.extend((key, level) for key in node)
            waiting.extend((value, level + 1) for value in node.values())
        elif isinstance(node, list | tuple):
            waiting.extend((value, level + 1) for value in node)
        elif isinstance(node, str):
            _refuse_unkept(node)


def refuse_unwritable_numbers(document: Any) -> None:  # noqa: ANN401  # as above
    """Raise SheetError for a number, in an entry nobody describes, that could not be written back."""
    waiting = [document]
    while waiting:
        node = waiting.pop()
        if isinstance(node, dict):
            waiting.extend(node.values())
        elif isinstance(node, list | tuple):
            waiting.extend(node)
        elif isinstance(node, float) and not math.isfinite(node):
            raise SheetError("", "finite numbers", f"{node!r}")


def _refuse_unkept(words: str) -> None:
    # Nearly every word of a sheet is ASCII; to ask that first halves the time a sheet takes to be read.
    if not words.isascii() and any("\ud800" <= letter <= "\udfff" for letter in words):
        raise SheetError("", "text that can be written as UTF-8", f"{words!r:.40}")


def has_control(words: str) -> bool:
    """Whether the words hold signs that cannot be seen: NUL, escape, a lone half of a pair."""
    # What can be printed holds neither; the slow question is for the few words with other signs.
    return not words.isprintable() and any(unicodedata.category(letter) in {"Cc", "Cs"} for letter in words)


def refuse_unreadable_name(path: str, name: object, longest: int) -> None:
    """Raise SheetError where a name is no words, blank, too long, or holds signs that cannot be seen."""
    if not isinstance(name, str) or not name.strip():
        raise SheetError(path, "a name in words", "nothing to read" if isinstance(name, str) else "no words")
    if len(name) > longest:
        raise SheetError(path, f"a name of at most {longest} letters", f"{len(name)}")
    if has_control(name):
        raise SheetError(path, "a name without control characters", f"{name!r:.40}")
