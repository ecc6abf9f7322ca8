"""A table pasted cell by cell: the label on one line, its figure on the next."""

import re
from dataclasses import replace
from functools import cache

from marquetry.core.measuring.listing.kinds import heading_kind
from marquetry.core.measuring.listing.labels import BY_KIND
from marquetry.core.measuring.listing.line import ListingLine

FIGURE_ALONE = re.compile(
    r"\W*\d[\d\s.,/x×±+'\"″-]*(?:mm|cm|in|inch(?:es)?|°|m|atm|bar|h|bph|vph|o.?\s?clock|uhr)?\W*"
)
NO_DIMENSION = re.compile(
    r"(?:crown|date(?: window)?)(?: (?:position|place|location))?|water resistan(?:ce|t)|power reserve|jewels|"
    r"(?:beats|vibrations)(?: per hour)?|lift angle|weight|quantity|(?:case )?(?:thickness|height)"
)
UNIT_IN_BRACKETS = re.compile(r"\s*[(\[][^)\]]*[)\]]\s*$")


def in_rows(lines: list[ListingLine]) -> list[ListingLine]:
    """The lines, with every label that stands alone put before the figure that stands alone below it."""
    rows: list[ListingLine] = []
    label: ListingLine | None = None
    for line in lines:
        if label is not None and FIGURE_ALONE.fullmatch(line.plain):
            joined = ListingLine.of(f"{label.text.rstrip(' :')}: {line.text}")
            rows[-1] = replace(joined, opens=label.opens, number=label.number)
            label = None
            continue
        rows.append(line)
        label = line if _is_label(line) else None
    return rows


def _is_label(line: ListingLine) -> bool:
    """Whether the line names a quantity and nothing else; a part's name alone heads what follows."""
    if line.has_figure or heading_kind(line):
        return False
    words = UNIT_IN_BRACKETS.sub("", line.plain).strip(" :")
    return NO_DIMENSION.fullmatch(words) is not None or any(p.fullmatch(words) for p in _label_patterns())


@cache
def _label_patterns() -> tuple[re.Pattern[str], ...]:
    return tuple(named.pattern for names in BY_KIND.values() for named in names)
