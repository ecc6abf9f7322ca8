"""Figures in a seller's line: lengths in millimetres whatever their unit, with what is said of their doubt."""

import re
from dataclasses import dataclass, replace
from functools import lru_cache
from unicodedata import numeric

from marquetry.core.measuring.listing.traps import WORDS_BEFORE
from marquetry.core.values.entry import INCH_MM

NUMBER = r"(?:(?:\d{1,3} ?)?[½¼¾⅛⅜⅝⅞]|\d{1,3}\s+\d{1,2}/\d{1,3}(?![\d/])|\d{1,3}/\d{1,3}(?=\s*(?:in\b|inch|[\"″”]|''))|\d+(?:[.,]\d+)*|\.\d+)"
LIGNE = r"lignes?\b|linien\b|‴|'{3}|\"'|″'|”'"
LIGNE_MM = 2.2558
"""The line of the old foot, by which the trade still names a movement's size."""
HUNDREDTHS = r"\(?(?:in )?1/100\s*mm\)?|(?:in )?hundredths?\b"
UNIT = rf"(?:{LIGNE}|{HUNDREDTHS}|mm\b|millimet(?:er|re)s?\b|cm\b|inch(?:es)?\b|pouces?\b|po\b|zoll\b|in\b(?!\s+(?:diam|thickness|leng|width|height|total|stock|set|the))|[\"″”]|''|°|deg(?:rees)?\b)"
ONE = rf"(?P<one>{NUMBER})\s*(?P<one_unit>{UNIT})?"
DOUBT = rf"\s*(?:±|\+\s?/\s?-|\+-)\s*(?P<doubt>\d+(?:[.,]\d+)?)\s*(?P<doubt_unit>{UNIT})?"
TIMES = r"\s*[x×*→]\s*(?:o\s|[ø⌀]\s*)?"
MORE = r"(?:\s*(?:/|,\s+(?:and\s+)?|\s+and\s+|\s*&\s*|;\s*|\|)\s*|\s+(?=\d+[.,]\d))"


def _row_of(apart: str) -> re.Pattern[str]:
    size = r"\d+(?:[.,]\d+)?(?:\s*mm)?"
    return re.compile(rf"(?<![\w.,/])(?P<list>{size}(?:{apart}{size}){{2,3}})\s*(?P<unit>{UNIT})?(?![\w/])")


STROKED_ROW, ANY_ROW = _row_of(r"\s*/\s*"), _row_of(MORE)
"""Three or four in a row: with strokes only, or, as hands are told, with commas and other signs too."""
PAIR = re.compile(
    rf"(?<![\w.,/])(?P<first>{NUMBER})\s*(?P<first_unit>{UNIT})?{TIMES}(?P<second>{NUMBER})\s*(?P<second_unit>{UNIT})?(?!\s*[x×*]\s*\d)(?![\w/]|[.,]\d)"
)
TRIPLE = re.compile(
    rf"(?<![\w.,/])(?P<list>\d+(?:[.,]\d+)?(?:\s*mm)?(?:{TIMES}\d+(?:[.,]\d+)?(?:\s*mm)?){{2}})\s*(?P<unit>{UNIT})?(?!\s*[x×*]\s*\d)(?![\w/]|[.,]\d)"
)
SLASHED = re.compile(
    rf"(?<![\w.,/])(?P<list>\d+(?:[.,]\d+)?(?:\s*mm)?\s*/\s*\d+(?:[.,]\d+)?)\s*(?P<unit>{UNIT})?(?!\s*/\s*\d)(?![\w/]|[.,]\d)"
)
RANGE = re.compile(
    rf"(?<![\w.,/])(?P<low>\d+(?:[.,]\d+)?)\s*(?P<low_unit>{UNIT})?\s*(?:-|\bto\b|\bbis\b|\ba\b)\s*(?P<high>\d+(?:[.,]\d+)?)\s*(?P<unit>{UNIT})(?![\w/])"
)
CHOICE = re.compile(r"\d+(?:[.,]\d+)?(?:mm)?-\d+(?:[.,]\d+)?\s*mm")
"""Two sizes with a dash that are no doubt about one: neither is the part's."""
SINGLE = re.compile(rf"(?<![\w.,/])(?:m(?=[01][.,]\d))?{ONE}(?:{DOUBT})?(?!\w)")
ABOUT = re.compile(
    r"(?:\bapprox(?:imately|\.)?|\baround|\babout|\bca\.?|\bcirca|~|≈|\benviron|\betwa|\bungefahr|\bc\.)\s*[:.]?\s*(?:[ø⌀]\s*)?$"
)
ABOUT_AFTER = re.compile(
    r"\s*\(?\s*(?:approx(?:imately|\.)?|about|ca\.?|circa|environ|or so|roughly)\s*(?:$|[,;|)])"
)
ABOUT_TOL_MM = 0.15
"""What “about” is taken to mean."""
WIDEST_RANGE = 0.25
"""A range further apart, as a share of its middle, is a choice of sizes and no doubt."""
THOUSANDS = re.compile(r"[1-9]\d{0,2}(?:[.,]\d{3})+")
INCHES = ("in", "po", "zoll", '"', "″", "”", "''")


@dataclass(frozen=True, slots=True)
class Length:
    """One figure: value and tolerance in millimetres or degrees, where it stands, and which unit was written.

    `digits` are the decimals that were written, in the written unit; `thousands`: without one, and written as
    thousands are.
    """

    value: float
    tol: float | None
    unit: str
    start: int
    end: int
    about: bool = False
    digits: int = 0
    thousands: bool = False


@dataclass(frozen=True, slots=True)
class Lengths:
    """Figures that stand together: one, two with a times sign between, or three and four in a row."""

    values: tuple[Length, ...]
    start: int
    end: int
    slashed: bool = False
    """Two with a stroke between: two sizes of one part, or a choice of one."""

    @property
    def has_unit(self) -> bool:
        """Whether a unit of length was written."""
        return any(length.unit in {"mm", "mm/100", "in", "cm", "ligne"} for length in self.values)

    @property
    def is_thousands(self) -> bool:
        """Whether it is written as thousands are, and no unit says that it is a length."""
        return any(length.thousands for length in self.values)


MOST_FIGURES = 32
"""Figures of a line that are read; a seller's line has a few, and each is held against every label."""


@lru_cache(maxsize=1024)
def lengths_in(
    plain: str, *, rows: re.Pattern[str] = STROKED_ROW, strokes: bool = True
) -> tuple[Lengths, ...]:
    """The figures and groups of figures in the line, in order; figures inside words are none.

    `rows` is what a row of three or four looks like; without `strokes`, two with a stroke between them are two
    figures and no pair.
    """
    found: list[Lengths] = []
    free = plain
    for pattern, read in (
        (STROKED_ROW, _list),
        *([(rows, _list)] if rows is not STROKED_ROW else []),
        (TRIPLE, _list),
        (PAIR, _pair),
        *([(SLASHED, _slashed)] if strokes else []),
        (RANGE, _range),
        (SINGLE, _single),
    ):
        for match in pattern.finditer(free):
            lengths = read(match, plain)
            if lengths is not None:
                found.append(lengths)
            if lengths is not None or CHOICE.fullmatch(match[0]):
                free = free[: match.start()] + "\0" * (match.end() - match.start()) + free[match.end() :]
    in_order = sorted(found, key=lambda lengths: lengths.start)[:MOST_FIGURES]
    return tuple(_in_one_unit(in_order, plain))


def _list(match: re.Match[str], plain: str) -> Lengths | None:
    parts = re.findall(r"\d+(?:[.,]\d+)?", match["list"])
    unit = unit_of(match["unit"] or ("mm" if "mm" in match["list"] else ""))
    made = [_length(part, unit, match.start(), match.end(), plain) for part in parts]
    known = [length for length in made if length is not None]
    return Lengths(tuple(known), match.start(), match.end()) if len(known) == len(parts) else None


def _slashed(match: re.Match[str], plain: str) -> Lengths | None:
    """Two sizes with a stroke; a fraction of an inch, or of nothing at all, is none."""
    if unit_of(match["unit"]) == "in" or not re.search(r"[.,]|mm", match[0]):
        return None
    both = _list(match, plain)
    return None if both is None else replace(both, slashed=True)


def _pair(match: re.Match[str], plain: str) -> Lengths | None:
    last = unit_of(match["second_unit"])
    first = unit_of(match["first_unit"]) or last
    made = (
        _length(match["first"], first, match.start(), match.end(), plain),
        _length(match["second"], last or first, match.start(), match.end(), plain),
    )
    return None if None in made else Lengths(tuple(filter(None, made)), match.start(), match.end())


def _range(match: re.Match[str], plain: str) -> Lengths | None:
    unit = unit_of(match["unit"])
    low = _length(match["low"], unit_of(match["low_unit"]) or unit, match.start(), match.end(), plain)
    high = _length(match["high"], unit, match.start(), match.end(), plain)
    if low is None or high is None or not 0 < high.value - low.value <= WIDEST_RANGE * high.value:
        return None
    middle, half = (low.value + high.value) / 2, (high.value - low.value) / 2
    one = replace(high, value=round(middle, 6), tol=round(half, 6))
    return Lengths((one,), match.start(), match.end())


def _single(match: re.Match[str], plain: str) -> Lengths | None:
    unit = unit_of(match["one_unit"] or match["doubt_unit"]) or ("in" if "/" in match["one"] else "")
    one = _length(match["one"], unit, match.start(), match.end(), plain)
    if one is None:
        return None
    if match["doubt"]:
        doubt = _length(match["doubt"], unit_of(match["doubt_unit"]) or unit, 0, 0, "")
        one = replace(one, tol=doubt.value if doubt else one.tol)
    return Lengths((one,), match.start(), match.end())


def _length(number: str, unit: str, start: int, end: int, plain: str) -> Length | None:
    """The figure in millimetres or degrees; None for one that divides by nothing."""
    size = size_of(number)
    if size is None:
        return None
    factor = {"in": INCH_MM, "cm": 10.0, "ligne": LIGNE_MM, "mm/100": 0.01}.get(unit, 1.0)
    about = bool(ABOUT.search(plain, max(0, start - WORDS_BEFORE), start) or ABOUT_AFTER.match(plain, end))
    digits = len(re.split(r"[.,]", number)[-1]) if re.search(r"[.,]", number) else 0
    return Length(
        round(size * factor, 6),
        ABOUT_TOL_MM if about else None,
        unit,
        start,
        end,
        about=about,
        digits=digits,
        thousands=not unit and THOUSANDS.fullmatch(number) is not None,
    )


def size_of(number: str) -> float | None:
    """A decimal with point or comma, a fraction, or a whole and a fraction; a plain number."""
    if number[-1].isnumeric() and not number[-1].isdigit():
        return int(number[:-1].strip() or 0) + numeric(number[-1])
    if "/" in number:
        whole, _, rest = " ".join(number.split()).rpartition(" ")
        upper, lower = (int(part) for part in rest.split("/"))
        return None if lower == 0 else int(whole.strip() or 0) + upper / lower
    if len(re.findall(r"[.,]", number)) > 1:
        whole, decimals = re.split(r"[.,](?=\d+$)", number)
        return float(re.sub(r"[.,]", "", whole) + "." + decimals)
    return float(number.replace(",", "."))


def unit_of(written: str | None) -> str:
    """`mm`, `mm/100`, `cm`, `in`, `ligne`, `°`, or nothing."""
    words = (written or "").strip()
    if not words:
        return ""
    if re.match(LIGNE, words):
        return "ligne"
    if re.match(HUNDREDTHS, words):
        return "mm/100"
    if words.startswith(INCHES):
        return "in"
    if words.startswith(("mm", "milli")):
        return "mm"
    return "cm" if words.startswith("cm") else "°"


def _in_one_unit(found: list[Lengths], plain: str) -> list[Lengths]:
    """One figure told in two units is one: in millimetres, where both agree to the last digit given."""
    kept: list[Lengths] = []
    for lengths in found:
        before = kept[-1] if kept else None
        if before is not None and _is_same(before, lengths, plain):
            metric = before if before.values[-1].unit in {"mm", "cm"} else lengths
            closing = lengths.end + (plain[lengths.end : lengths.end + 1] in {")", "]"})
            kept[-1] = Lengths(metric.values, before.start, closing)
        else:
            kept.append(lengths)
    return kept


def _is_same(first: Lengths, second: Lengths, plain: str) -> bool:
    between = plain[first.end : second.start].strip()
    units = {first.values[-1].unit, second.values[-1].unit}
    if between not in {"(", "/", "=", "[", "", "(=", "or", "(approx.", "(ca."} or len(first.values) != len(
        second.values
    ):
        return False
    if not units & {"in", "ligne"} or not units & {"mm", "cm"}:
        return False
    return all(_agree(a, b) for a, b in zip(first.values, second.values, strict=True))


def _agree(a: Length, b: Length) -> bool:
    """Whether one rounds to the other in either unit, to the last digit that was given."""
    if "ligne" in {a.unit, b.unit}:
        return abs(a.value - b.value) <= LIGNE_MM / 4  # a class of sizes: told to a half, never measured
    for inches, metric in ((a, b), (b, a)):
        if inches.unit == "in":
            step_mm = max(
                10.0**-inches.digits * INCH_MM, 10.0**-metric.digits * (10 if metric.unit == "cm" else 1)
            )
            return abs(inches.value - metric.value) <= step_mm / 2 + 1e-6
    return False
