"""Words that take back the next: “no date” reads nothing."""

import re

DENIAL = re.compile(
    r"(?:\bno\b|\bnot\b|\bnon\b|\bwithout\b|\bw/o\b|\bohne\b|\bkeine?n?\b|\bsans\b|\bpas de\b|\bpas d'|\bnever\b|\bnor\b|\blacks\b)"
    r"(?:\s+(?:a|an|any|the|visible))?\s*-?\s*(?:\w+,?\s+(?:or|and|nor|oder|und|et|ou|/)\s+|\w+/)?$"
)
AFTERWARDS = re.compile(
    r"^\s*(?:free|less)\b|^\s*:?\s*(?:no|none|nein|non|without|not included|n/a)\s*(?:$|[,;.|)])"
)


def is_denied(plain: str, start: int, end: int | None = None) -> bool:
    """Whether the word that stands at the place is denied by the words before it, or right after it."""
    before = DENIAL.search(plain[max(0, start - 40) : start])
    after = AFTERWARDS.match(plain[end:]) if end is not None else None
    return bool(before or after)
