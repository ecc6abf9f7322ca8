"""Fields that words tell and no length: how a back closes, what drives a movement, what a part is said not to have."""

import re
from collections.abc import Iterator

from marquetry.core.measuring.listing.denial import DENIAL, is_denied
from marquetry.core.measuring.listing.lengths import lengths_in
from marquetry.core.measuring.listing.line import ListingLine
from marquetry.core.measuring.listing.looks import windows_of
from marquetry.core.measuring.listing.result import Proposed
from marquetry.core.sheet.described.words import DRIVES

CLOSINGS: tuple[tuple[str, str], ...] = (
    ("screws", r"\b(?:\d+|two|three|four|five|six|eight|vier|funf|sechs|acht|quatre|cinq|six|huit) (?:small |little |kleine[nr]? |petites )?(?:screws|schrauben|vis)\b|\b(?:held|fixed|closed|closes|fastened|secured) (?:on |down |in place )?(?:by|with) (?:\w+ )?screws\b|\bmit schrauben\b|\b(?:par|a|avec) (?:\d+ )?vis\b(?! s)|\bby screws\b"),
    ("pressed", r"\bpress(?:ed|es)?(?: (?:fit|in|on|type))?\b|\bpush (?:in|on|fit)\b|\bsnap(?:s|ped)?(?: (?:in|on|fit|back))?\b|\bgepresst\w*|\bpressboden\b|\bdruckboden\b|\beingepresst\w*|\bpresse\b|\bclipse?e?\b|\ba pression\b|\bpression\b"),
    ("screw-in", r"\bscrew(?:ed|s)?(?: (?:in|on|down|back|case ?back|type))?\b|\bthreaded\b|\bverschraubt\w*|\bgeschraubt\w*|\bschraubboden\b|\bschraub\b|\bvisse+s?\b|\ba visser\b"),
)  # fmt: skip
OF_DRIVE: tuple[tuple[str, str], ...] = (
    (DRIVES[0], r"\bautomatics?\b|\bself winding\b|\bautomatik(?:werk)?\w*|\bselbstaufzug\b|\bautomatiques?\b|\bremontage automatique\b|\bautomatisch\w*"),
    (DRIVES[2], r"\bbatter(?:y|ies)\b|\bquartz\b|\bquarz\w*|\bbatterie\w*|\ba pile\b|\bpiles?\b"),
    (DRIVES[1], r"\bhand wound\b|\bmanual(?:ly)? (?:wind(?:ing)?|wound)\b|\bhandaufzug\w*|\bremontage (?:manuel|a la main)\b|\bmanuel\b|\bhand winding only\b|\bhandwound\b|\bhand ?winding\b"),
)  # fmt: skip
QUICK_RELEASE = re.compile(
    r"\bquick release\b|\bquick (?:change|fit)\b|\bschnell(?:verschluss|wechsel|spann)\w*|\b(?:demontage|degagement|changement|attache|pompes?) rapides?\b"
)
NO_FEET = re.compile(
    r"\b(?:no|without(?: any)?|w/o|zero) (?:dial )?feet\b|\bfootless\b|\bfeet (?:removed|cut off|taken off)\b|\bohne (?:zifferblatt)?fus+(?:e|chen)\b|\bkeine fus+(?:e|chen)\b|\bsans pieds?\b|\bfeet\s*:\s*(?:none|no|0)\b"
)
DATE_OR_DAY = re.compile(
    r"\bdate\b|\bdatums?\w*|\bquantieme\b|\bday\b|\bwindows?\b|\bfenster\b|\bguichets?\b|\bdateless\b"
)
NO_SECONDS = re.compile(
    r"\b(?:no|without(?: a)?|w/o|ohne|keine?n?|sans(?: l.)?|pas d.) ?(?:central |small |sweep |running |grosse |aiguille (?:des? )?)?"
    r"(?:seconds?|sekunden?\w*|secondes?|trotteuse)(?: (?:hand|hole|zeiger))?\b|\bseconds?(?: hand)?\s*:\s*(?:no|none)\b"
)
ADHESIVE = re.compile(
    r"\b(?:adhesive|self adhesive|sticky|(?:double sided |glue )?tape|selbstklebend\w*|kleb(?:er|eband|efolie|stoff)\w*|adhesif|autocollante?|double face)\b"
)
CLICKS = re.compile(
    r"(?P<clicks>\d{2,3})\s*(?:clicks?|klicks?|clics?|crans|rast(?:en|ungen|ung)|positions|detents)\b|\bclicks?\s*[:=]?\s*(?P<after>\d{2,3})\b"
)
WATER = re.compile(
    r"(?<![\w.,])(\d{1,4})\s*(m\b|meters?\b|metres?\b|meter\b|metern\b|atm\b|bars?\b|ft\b|feet\b)"
)
ABOUT_WATER = re.compile(r"water|wasser|etanche|\bwr\b|resist|dicht|atm|bars?\b|\bdepth|\btiefe|profondeur")
METRES_A_BAR, METRES_A_FOOT = 10.0, 0.3048
"""A bar is ten metres of water, near enough for a claim; a foot."""
DEEPEST_M = 1000
USUAL_RATINGS_M = frozenset({30, 50, 100, 150, 200, 300, 500, 600, 1000})
ALONE = re.compile(r"\s*(?:$|[,;|)\0-])")
"""Behind a case's “50 m” that stands by itself: metres are of nothing else."""


def worded_fields(line: ListingLine, number: int, kind: str) -> Iterator[Proposed]:
    """Every field of the part that words of the line tell."""
    for matched, path, value, unit in _found(line.plain, kind):
        start, end = matched.span()
        yield Proposed(
            path, value, None, unit, line.words(start, end), "said", number, start, end, is_plain=True
        )


Worded = tuple[re.Match[str], str, float | str | bool | tuple[str, ...], str]


def _found(plain: str, kind: str) -> Iterator[Worded]:
    if kind == "case":
        yield from _water(plain)
    if kind == "case_back" and (closing := _first(plain, CLOSINGS)):
        yield closing[0], "closing", closing[1], ""
    quick = QUICK_RELEASE.search(plain) if kind in {"strap", "spring_bars"} else None
    if quick and not is_denied(plain, quick.start()):
        yield quick, "quick_release", True, ""
    if kind == "dial":
        if none := NO_FEET.search(plain):
            yield none, "feet", (), ""
        yield from _no_window(plain)
    if kind == "bezel" and (clicks := CLICKS.search(plain)):
        yield clicks, "clicks", float(clicks["clicks"] or clicks["after"]), ""


def _first(plain: str, table: tuple[tuple[str, str], ...]) -> tuple[re.Match[str], str] | None:
    for word, pattern in table:
        for match in re.finditer(pattern, plain):
            if not is_denied(plain, match.start()):
                return match, word
    return None


def _no_window(plain: str) -> Iterator[Worded]:
    """A window that is denied: the dial is said to have none, unless it has another (“date without day”)."""
    if windows_of([ListingLine(plain, plain)]):
        return
    for match in DATE_OR_DAY.finditer(plain):
        before = DENIAL.search(plain[max(0, match.start() - 40) : match.start()])
        if before or match[0] == "dateless" or is_denied(plain, match.start(), match.end()):
            yield match, "windows", (), ""
            return


def _water(plain: str) -> Iterator[Worded]:
    for match in WATER.finditer(plain):
        metres = _metres(match)
        if 0 < metres <= DEEPEST_M and is_about_water(plain, match):
            yield match, "water_rating_m", metres, "m"
            return


def is_about_water(plain: str, match: re.Match[str]) -> bool:
    """Whether the figure is a depth of water: by its unit, or by words beside it."""
    if match[2].startswith("m") and int(match[1]) in USUAL_RATINGS_M and ALONE.match(plain, match.end()):
        return True
    around = plain[max(0, match.start() - 48) : match.end() + 32]
    return match[2].startswith(("atm", "bar")) or ABOUT_WATER.search(around) is not None


def _metres(match: re.Match[str]) -> float:
    number, unit = float(match[1]), match[2]
    if unit.startswith(("atm", "bar")):
        return number * METRES_A_BAR
    return float(round(number * METRES_A_FOOT)) if unit.startswith("f") else number


def water_at(plain: str) -> list[tuple[int, int]]:
    """Where in the line water ratings stand."""
    return [match.span() for match in WATER.finditer(plain) if is_about_water(plain, match)]


def drive_of(lines: list[ListingLine]) -> str:
    """What drives a movement, in the sheet's word; nothing where no word tells.

    Hand-winding alone drives it; beside another drive it is what an automatic can do as well.
    """
    for word, pattern in OF_DRIVE:
        for line in lines:
            if any(
                not is_denied(line.plain, match.start(), match.end())
                for match in re.finditer(pattern, line.plain)
            ):
                return word
    return ""


def has_no_seconds(lines: list[ListingLine]) -> bool:
    """Whether the lines say that there is no seconds hand, or no hole for one."""
    return any(NO_SECONDS.search(line.plain) for line in lines)


def adhesive_of(lines: list[ListingLine]) -> bool | None:
    """Whether an insert is said to have adhesive under it; None where nothing is said."""
    for line in lines:
        if match := ADHESIVE.search(line.plain):
            return not is_denied(line.plain, match.start(), match.end())
    return None


POSTS = re.compile(
    r"\bhand (?:sizes?|fittings?|holes?|bores?|measurements?)\b|\b(?:posts?|pinions?|hand arbors?)(?: (?:sizes?|diameters?))?\b|\bfor hands\b|\bhands\b(?=\s*[:=]?\s*\d)|\bhands? fit\b"
    r"|\bzeiger(?:mas+e?|gros+en?|aufnahmen?|sitze?|bohrungen|lochung|passung)?\b|\b(?:tailles?|ajustement|trous?|diametres?) (?:des |d.)?aiguilles\b|\baiguilles\b"
)


def post_fields(line: ListingLine, number: int) -> Iterator[Proposed]:
    """A movement's posts, told as the hand sizes it takes: hour, minute and seconds, with four the fourth hand first."""
    named = POSTS.search(line.plain)
    if named is None:
        return
    for figure in lengths_in(line.plain):
        sizes = [length.value for length in figure.values]
        if figure.start < named.end() or len(sizes) < 2 or max(sizes) > THICKEST_POST_MM:  # noqa: PLR2004  # hour and minute
            continue
        order = (
            ("h24", "hour", "minute", "seconds")
            if len(sizes) == len(("h24", "hour", "minute", "seconds"))
            else ("hour", "minute", "seconds")
        )
        for hand, length in zip(order, figure.values, strict=False):
            words = line.words(named.start(), figure.end)
            yield Proposed(
                f"posts.{hand}.diameter",
                length.value,
                length.tol,
                "mm",
                words,
                "said",
                number,
                named.start(),
                figure.end,
            )
        return


THICKEST_POST_MM = 2.6
TAKES_INSERT = re.compile(
    r"\b(?:takes?|fits?|for|accepts?|insert(?: size)?s?|einlagen?|fur|pour|prend)\s*[:=]?\s*(?:an? )?(?:inserts? (?:of )?)?(?P<outer>\d{2}(?:[.,]\d+)?)\s*(?:mm)?\s*[x×/]\s*(?P<inner>\d{2}(?:[.,]\d+)?)\s*(?:mm)?"
)
INSERT_GAPS = (("channel_outer_diameter", "outer", 0.08), ("channel_inner_diameter", "inner", -0.10))
"""mm; the channel of a bezel is that much wider than the insert it is said to take, and inside that much narrower."""


def insert_fields(line: ListingLine, number: int) -> Iterator[Proposed]:
    """A bezel's channel, told as the insert that it takes."""
    match = TAKES_INSERT.search(line.plain)
    if match is None or not re.search(r"insert|einlage|inlay", line.plain):
        return
    words = line.words(*match.span())
    for path, key, gap in INSERT_GAPS:
        value = round(float(match[key].replace(",", ".")) + gap, 4)
        yield Proposed(path, value, None, "mm", words, "likely", number, *match.span())


TAPER = re.compile(
    r"(?<![\d.,/])(?P<lugs>1[0-9]|2[0-9])\s*(?:mm)?\s*(?:/|-|→|>|to|tapering to|tapers to|tapered to|auf|zu|a|vers|x)\s*(?P<clasp>1[0-9]|2[0-6])\s*(?:mm\b)?(?![\d/]|[.,]\d|\s*(?:cm|x)\b)"
)


def taper_fields(line: ListingLine, number: int) -> Iterator[Proposed]:
    """A strap's two widths with a stroke between: at the lugs and at the clasp."""
    match = TAPER.search(line.plain)
    if match is None or not 0 <= int(match["lugs"]) - int(match["clasp"]) <= MOST_TAPER_MM:
        return
    words = line.words(*match.span())
    for path, key in (("width", "lugs"), ("clasp_width", "clasp")):
        yield Proposed(path, float(match[key]), None, "mm", words, "said", number, *match.span())


MOST_TAPER_MM = 8
