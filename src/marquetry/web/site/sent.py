"""What a page was sent: the address's query or a form, every value of every name; and its whole numbers."""

from collections.abc import Mapping, Sequence
from typing import Annotated

from fastapi import Form
from pydantic import Field

from marquetry.core.values.errors import SheetError
from marquetry.store.sent_forms import FORM_KEY

Sent = Mapping[str, Sequence[str]]
"""The address's query or a form: every value of every name."""

FormKey = Annotated[str, Field(pattern=FORM_KEY)]
"""The field `sent`: what tells one form that was shown from any other (`store/sent_forms.py`)."""
SentKey = Annotated[FormKey, Form()]
"""The same as a route's own argument."""


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
