"""What a measuring card was sent: the address's query or a form, every value of every name."""

from collections.abc import Mapping, Sequence

from marquetry.core.values.errors import SheetError

Sent = Mapping[str, Sequence[str]]
"""The address's query or a form: every value of every name."""


def first(sent: Sent, key: str) -> str:
    """The first value of a name, or nothing."""
    return next(iter(sent.get(key, ())), "").strip()


LONGEST_NUMBER = 12


def whole(sent: Sent, key: str) -> int:
    """The whole number of a name. SheetError where it is none."""
    return whole_number(first(sent, key))


def whole_number(text: str) -> int:
    """The whole number that was sent. SheetError where it is none."""
    if not (text.isascii() and text.isdecimal()) or len(text) > LONGEST_NUMBER:
        raise SheetError("the form", "a whole number", f"“{text[:40]}”")
    return int(text)
