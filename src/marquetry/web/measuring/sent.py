"""What a measuring card was sent: the address's query or a form, every value of every name."""

from collections.abc import Mapping, Sequence

Sent = Mapping[str, Sequence[str]]
"""The address's query or a form: every value of every name."""


def first(sent: Sent, key: str) -> str:
    """The first value of a name, or nothing."""
    return next(iter(sent.get(key, ())), "").strip()
