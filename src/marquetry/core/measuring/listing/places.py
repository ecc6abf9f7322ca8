"""Places round the dial as a seller tells them: where the crown stands, where the date shows."""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.measuring.listing.denial import is_denied

HOURS_TOLD = r"\d{1,2}(?:[.,]\d{1,2}|\s?[:h]\s?[0-5]\d)?"
CLOCK = rf"(?P<hours>{HOURS_TOLD})\s*(?P<clock>o.?\s?clock|uhr\b|h\b(?!\w)|heures?\b)?(?!\s*(?:mm|cm|in\b|\"|/|x|×|[.,]?\d|%|atm|bar|pcs))"
AT = r"(?:\bat\b|@|\bbei\b|\bauf\b|\ba\b|\bposition(?:ed)?\b(?: at)?|:|\t|\s{2,}|\bfor\b)"
CROWN = re.compile(
    rf"\b(?:crown|krone|couronne)\b(?: (?:position|place|location|lage|vissee|verschraubt|sits|stands|is))?\s*{AT}[\s:]*(?:at |bei |auf |a )?{CLOCK}"
    rf"|\b(?P<hours2>\d{{1,2}}(?:[.,]\d{{1,2}})?)\s*(?:o.?\s?clock|uhr)\s*(?:crown|krone)"
    rf"|\b(?:crown|krone|couronne)\b\s*(?P<hours3>\d{{1,2}}(?:[.,]\d{{1,2}})?)\s*(?:o.?\s?clock|uhr\b|h\b)"
    r"|\b(?:crown|krone|couronne)\b\s*(?P<hours5>2|3|4|8|9|10|3[.,]8|4[.,]2)(?=\s*(?:$|[,;|)]))"
    rf"|\b(?:crown|krone|couronne)\b\s*(?P<hours4>\d{{1,2}}:[0-5]\d)\b"
)
ALONE = re.compile(r"(?<![\w.,])(?P<hours>\d{1,2}(?:[.,]\d{1,2})?)\s*(?:o.?\s?clock|uhr)\b")
OTHER_PLACE = re.compile(
    r"\b(?:dates?|datum\w*|windows?|feet|foot|fus+e|pieds|subdials?|registers?|dials?|hands|lumi\w*)\b"
)
DATE = re.compile(
    rf"\b(?:day[ /&-]{{0,3}}date|day and date|date|datum|datums?fenster|guichet (?:de )?date|wochentag und datum|tag[ /]?datum)"
    rf"(?: (?:window|display|aperture|fenster|anzeige))?(?: (?:pos(?:ition)?|place|location))?\s*(?:\({{0,1}})(?:{AT}[\s:]*(?:at |bei |auf |a )?{CLOCK}"
    rf"|[\s(-]*(?P<hours2>{HOURS_TOLD})\s*(?:o.?\s?clock|uhr))"
    rf"|\b(?P<hours3>{HOURS_TOLD})\s*(?:o.?\s?clock|uhr)\s*(?:day[ /&-]{{0,3}})?(?:date|datum)"
)
DEGREES_AN_HOUR = 30.0
HOURS = 12.0


@dataclass(frozen=True, slots=True)
class AtHour:
    """A place told by the hour: its angle clockwise from 12 in degrees, and where the words stand."""

    angle: float
    start: int
    end: int


def crown_places(plain: str) -> Iterator[AtHour]:
    """Where the crown is said to stand."""
    yield from _found(CROWN, plain)
    if not OTHER_PLACE.search(plain):
        yield from _found(ALONE, plain)


def disc_places(plain: str) -> Iterator[AtHour]:
    """Which crown's place a calendar disc is said to be printed for: any hour in its text is that."""
    yield from _found(CROWN, plain)
    yield from _found(ALONE, plain)


def date_places(plain: str) -> Iterator[AtHour]:
    """Where the date's window is said to stand."""
    yield from _found(DATE, plain)


def _found(pattern: re.Pattern[str], plain: str) -> Iterator[AtHour]:
    for match in pattern.finditer(plain):
        told = next(
            (value for key, value in match.groupdict().items() if key.startswith("hours") and value), None
        )
        hours = _hours(told) if told else -1.0
        if 0 < hours <= HOURS and not is_denied(plain, match.start()):
            yield AtHour(round(hours * DEGREES_AN_HOUR, 6) % 360.0, match.start(), match.end())


def _hours(told: str) -> float:
    """Hours as a decimal, or as hours and minutes."""
    whole, _, minutes = re.sub(r"\s", "", told).replace("h", ":").partition(":")
    return float(whole.replace(",", ".")) + (float(minutes) / 60.0 if minutes else 0.0)
