"""What a listing tells that is worth keeping and has no field."""

import re

from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.labels import HEIGHT, LENGTH, OTHER_PARTS, THICKNESS
from marquetry.core.measuring.listing.line import ListingLine

KEPT: tuple[tuple[str, str], ...] = (
    ("beats_per_hour {}", r"(?P<figure>\d{1,3}[.,' ]?\d{3})\s*(?:bph|vph|a/h|alt/h|beats|vibrations|halbschwingungen)|(?:beats|vibrations?|frequency|halbschwingungen|alternances)(?: (?:per|an|a|/) ?(?:hour|h))?(?: rate)?\s*[:\t ]+\s*(?P<figure2>\d{1,3}[.,' ]?\d{3})(?:\s*(?:bph|vph|a/h|alt/h))?"),
    ("power reserve {} h", r"(?:(?:power )?reserve|gangreserve|reserve de marche)[^\d,;|]{0,18}(?P<figure>\d{2,3})|(?P<figure2>\d{2,3})\s*(?:h|hrs?|hours?|std\.?|stunden|heures)\s*(?:of |de )?(?:power |gang)?reserve"),
    ("{} jewels", r"(?P<figure>\d{1,2})\s*(?:jewels?|rubis|steine|rubine)|(?:jewels?|rubis|steine|lagersteine)\s*[:\t ]+\s*(?P<figure2>\d{1,2})"),
    ("lift_angle {}", r"(?:lift angle|hebungswinkel|angle de levee)\D{0,12}(?P<figure>\d{2}(?:[.,]\d)?)"),
    ("screw-down", r"screw ?down|screwed crown|verschraubt\w*|vissee?"),
    ("double dome", r"double ?domed?|doppelt gewolbt|double bombe"),
    ("single dome", r"single ?domed?"),
    ("free shipping", r"free (?:shipping|postage|delivery)|versandkostenfrei|livraison gratuite|kostenloser versand"),
)  # fmt: skip


def notes_of(lines: list[ListingLine]) -> list[str]:
    """The notes in the order in which they are told, each once."""
    found: list[str] = []
    for line in lines:
        for words, pattern in KEPT:
            match = re.search(pattern, line.plain)
            if match and not is_denied(line.plain, match.start()):
                told = next((value for key, value in match.groupdict().items() if value), "")
                found.append(words.format(re.sub(r"[.,' ](?=\d{3})", "", told).replace(",", ".")))
    return list(dict.fromkeys(found))


def noted_at(plain: str) -> list[tuple[int, int]]:
    """Where in the line something stands that is kept as a note."""
    found = (re.search(pattern, plain) for _, pattern in KEPT)
    return [match.span() for match in found if match and not is_denied(plain, match.start())]


def figures_noted(lines: list[ListingLine], kind: str) -> list[str]:
    """Statements with figures that no check computes with: a strap's length; a case's height beside its back's."""
    if kind == "strap":
        return _stated(lines, rf"^(?!.*\b(?:links?|clasp|buckle)\b).*(?:{LENGTH})")
    if kind in OF_A_RING:
        return _stated(lines, rf"{HEIGHT}|\bhigh\b")
    height, back = (_stated(lines, pattern) for pattern in (HEIGHT_OF_CASE, HEIGHT_OF_BACK))
    return [*height, *back] if kind == "case" and height and back else []


OF_A_RING = ("chapter_ring", "crystal_gasket", "back_gasket", "crown_gasket")
"""Parts whose height no check computes with, and whoever orders another wants to know."""
HEIGHT_OF_BACK = rf"{OTHER_PARTS['case_back']}|\bbacks?\b"
HEIGHT_OF_CASE = rf"^(?!.*(?:{HEIGHT_OF_BACK})).*(?:{THICKNESS}|{HEIGHT})"


def _stated(lines: list[ListingLine], pattern: str) -> list[str]:
    found = (
        (line, segment, line.plain[segment.start : segment.end])
        for line in lines
        for segment in line.segments()
    )
    return [
        line.words(segment.start, segment.end)
        for line, segment, plain in found
        if re.search(pattern, plain) and re.search(r"\d", plain)
    ]
