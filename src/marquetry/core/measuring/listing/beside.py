"""Where labels stand in a statement, and whether a figure stands beside one."""

import re
from dataclasses import dataclass, replace

from marquetry.core.measuring.listing.labels import DIAMETER, HEIGHT, LENGTH, THICKNESS, Named
from marquetry.core.measuring.listing.lengths import Lengths
from marquetry.core.measuring.listing.line import Segment

FILLER = (
    r"is|are|of|approx(?:imately|\.)?|around|about|ca\.?|circa|c\.|environ|etwa|ungefahr|de|von|the|size|max\.?|min\.?|"
    r"diameter|in|with(?:out)?|w/o|mit|ohne|avec|sans|at|ist|est|total|overall|nominal|exactly|only|just|range|each|per|hands?|"
    r"its|their|has|have|accepted|needed|required|supported|measures?|measuring|dial|case|crystal|movement|strap|insert|hole|mesure|misst"
)
ABOUT_THE_UNIT = (
    r"[(\[]\s*(?:in\s+)?(?:mm|millimet(?:er|re)s?|cm|in|inch(?:es)?|\"|″)\s*[)\]]|\bin (?:mm|inch(?:es)?)\b"
    r"|,?\s*(?:mm|inch)\b(?=\s*:|\t)"
)
LOOSE = r"[\s:=.\-|ø⌀~≈)]*"
BETWEEN = re.compile(
    rf"{LOOSE}(?:(?:{FILLER})(?![a-z]){LOOSE})*(?P<unit>{ABOUT_THE_UNIT})?{LOOSE}(?:(?:{FILLER})(?![a-z]){LOOSE})*"
)
"""What may stand between a label and its figure."""
AFTER = re.compile(
    r"\s*(?:\([^)]*\)\s*)?(?:in |of |from |de |im |the |for the |at (?:the )?|am |an der |aux? |a la |-){0,2}\s*"
)
BRACKETED = re.compile(r"\s*[(\[]\s*(?:at |in )?(?:the )?")
CLOSED = re.compile(r"[a-z ]*[)\]]")
"""A label behind its figure may stand in brackets of its own, as in “1.2 mm (edge)”."""
MADE_FOR = re.compile(r"\b(?:for|fits?|fitting|suits?|takes?|fur|pour|passend)\b")


@dataclass(frozen=True, slots=True)
class LabelAt:
    """A label where it stands in a line."""

    named: Named
    start: int
    end: int


def labels_at(plain: str, segment: Segment, names: tuple[Named, ...]) -> list[LabelAt]:
    """Labels of a statement in their order; of two at one place the longer, then the one named first."""
    found = [
        LabelAt(named, match.start(), match.end())
        for named in names
        for match in named.pattern.finditer(plain, segment.start, segment.end)
    ]
    rank = {id(named): place for place, named in enumerate(names)}
    found.sort(key=lambda label: (label.start, -(label.end - label.start), rank[id(label.named)]))
    kept: list[LabelAt] = []
    for label in found:
        if not kept or label.start >= kept[-1].end:
            if kept and _goes_on(plain, kept[-1], label):
                kept[-1] = replace(kept[-1], end=label.end)
            else:
                kept.append(label)
    return kept


def _goes_on(plain: str, label: LabelAt, after: LabelAt) -> bool:
    """Whether the words of a label only say more of the one before, as in “centre hole Ø”."""
    apart, words = plain[label.end : after.start], plain[after.start : after.end]
    return not apart.strip(" :(-") and GENERAL.fullmatch(words) is not None


GENERAL = re.compile(
    rf"(?:{DIAMETER}|{THICKNESS}|{HEIGHT}|{LENGTH}|\bsize\b|\bwidth\b|\bbreite\b|\blargeur\b)"
)


def stands_behind(plain: str, figure: Lengths, label: LabelAt) -> bool:
    """Whether the label is right behind its figure, be it in brackets of its own; “for” tells of what follows."""
    if MADE_FOR.fullmatch(plain, label.start, label.end):
        return False
    if AFTER.fullmatch(plain, figure.end, label.start):
        return True
    opened = BRACKETED.fullmatch(plain, figure.end, label.start)
    return bool(opened and CLOSED.match(plain, label.end))
