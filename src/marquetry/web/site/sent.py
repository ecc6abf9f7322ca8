"""What a page was sent: the address's query or a form, every value of every name; and its whole numbers."""

from collections.abc import Mapping, Sequence

from marquetry.core.values.errors import SheetError

Sent = Mapping[str, Sequence[str]]
"""The address's query or a form: every value of every name."""


def first(sent: Sent, key: str) -> str:
    """The first value of a name, or nothing."""
    return next(iter(sent.get(key, ())), "").strip()


LONGEST_NUMBER = 12
"""Digits of the longest number of a row."""


def whole(sent: Sent, key: str) -> int:
    """The whole number of a name. SheetError where it is none."""
    return whole_number(first(sent, key))


def whole_number(text: str) -> int:
    """The whole number that was sent. SheetError where it is none."""
    number = number_in(text)
    if number is None:
        raise SheetError("the form", "a whole number", f"“{text[:40]}”")
    return number


def number_in(text: str) -> int | None:
    """The whole number from 0 that the text is, such as a row's; None where it is none."""
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= LONGEST_NUMBER else None
