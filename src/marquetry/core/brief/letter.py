"""A client's letter in prose read into wishes: each with the sentence that it was read from, none agreed to.

What is read is proposed and no more: a sentence such as “perhaps something around 38 mm” is a wish to talk over.
Only what a word or a figure names is read; a mood (“not too flashy”) stays in the letter.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.brief.topics import TOPIC_BY_KEY, Topic
from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.line import plain_words
from marquetry.core.measuring.listing.looks import COLOURS, FINISHES
from marquetry.core.measuring.listing.price import prices_in
from marquetry.core.values.entry import INCH_MM
from marquetry.core.values.money import Money

SENTENCE = re.compile(r"[^.!?\n]+(?:(?:[.,]\d|(?<=\d)\.[ \u00a0](?=[^\W\d]))[^.!?\n]*)*[.!?]?")
"""A sentence; a point inside a figure or behind a day's number (“5. Juni”) ends none."""
SIZE = r"(?P<size>\d{1,3}(?:[.,]\d{1,2})?)\s*(?P<unit>mm|millimet(?:er|re)s?|cm|in\b|inch(?:es)?|\")"
NUMBERS: tuple[tuple[str, str, tuple[float, float]], ...] = (
    ("wrist", rf"(?:wrist|handgelenk|poignet)\D{{0,40}}{SIZE}|{SIZE}[^\d,;]{{0,20}}(?:wrist|handgelenk|poignet)", (120.0, 240.0)),
    ("span", rf"(?:lug to lug|horn zu horn|corne a corne)\D{{0,30}}{SIZE}|{SIZE}[^\d,;]{{0,10}}(?:lug to lug|horn zu horn|corne a corne)", (30.0, 60.0)),
    ("height", rf"(?:height|high|thick(?:ness|er)?|thin|thinner|tall|flat|hoch|hohe|dick|flach|epais\w*|haut\w*|fin)\D{{0,30}}{SIZE}|{SIZE}[^\d,;]{{0,12}}(?:high|thick|tall|hoch|dick|d.epaisseur|in height)", (4.0, 20.0)),
    ("diameter", rf"(?:diameter|wide|wider|across|size|big|bigger|small|smaller|large|larger|case|durchmesser|breit|gro(?:ss|s)\w*|klein\w*|diametre|large|petite?|taille|like it|around|about|watch|uhr|montre)\D{{0,40}}{SIZE}|{SIZE}[^\d,;]{{0,14}}(?:wide|across|in diameter|diameter|case|watch|breit|durchmesser|de diametre)", (24.0, 50.0)),
)  # fmt: skip
"""Topic, words with a figure in three languages, and the millimetres that such a wish can have."""
DEPTH = re.compile(r"(?P<size>\d{1,3})\s*(?:m\b|met(?:er|re)s?\b)")
ABOUT_WATER = re.compile(r"water|swim|div(?:e|ing)|sea|wasser|schwimm|tauch|eau|nage|plong")
OCCASIONS = (
    "birthday", "wedding", "anniversary", "graduation", "retirement", "christmas", "engagement", "promotion", "geburtstag", "hochzeit",
    "jubilaum", "weihnachten", "abschluss", "pensionierung", "verlobung", "anniversaire", "mariage", "noel", "diplome", "retraite",
)  # fmt: skip
WHOM = re.compile(
    r"\b(?:for|fur|pour) (?P<whom>(?:my|our|mein(?:e[nmr]?)?|unser(?:e[nmr]?)?|mon|ma|notre) (?:\w+ )?(?:wife|husband|father|mother|dad|mum|son|daughter|brother|sister|friend|partner|uncle|aunt|grandfather|grandmother|"
    r"frau|mann|vater|mutter|sohn|tochter|bruder|schwester|freund(?:in)?|partner(?:in)?|onkel|tante|grossvater|femme|mari|pere|mere|fils|fille|frere|soeur|amie?|oncle))\b"
)  # fmt: skip
FUNCTIONS: tuple[tuple[str, str], ...] = (
    ("date", r"\bdate\b(?! of)|\bdatum\b|\bquantieme\b"), ("day", r"\bday (?:of the week|and date)|\bweekday|\bwochentag\b|\bjour de la semaine\b"),
    ("h24", r"\b(?:second|other) time ?zones?\b|\b24 ?hour hand\b|\bzweite zeitzone\b|\bsecond fuseau\b"), ("seconds", r"\bseconds?(?: hand)?\b(?! time)|\bsekundenzeiger\b|\btrotteuse\b"),
    ("hacking", r"\bhack(?:s|ing)\b|\bsekundenstopp\b|\bstop seconde\b"), ("hand_winding", r"\bhand ?wound\b|\bhand winding\b|\bwind it\b|\bhandaufzug\b|\bremontage manuel\b"),
)  # fmt: skip
STRAP = re.compile(r"(?P<strap>(?:[\w-]+ ){0,3}(?:bracelets? en \w+|straps?|bracelets?|[a-z]*armband))\b")
LUME = re.compile(
    r"\b(?:glows?|glowing|lume|luminous|in the dark|leucht\w*|im dunkeln|lumin\w*|dans le noir)\b"
)
MONTHS = {
    name: number
    for number, names in enumerate(
        (
            "january januar janvier jan", "february februar fevrier feb", "march marz mars mar", "april avril apr", "may mai",
            "june juni juin jun", "july juli juillet jul", "august aout aug", "september septembre sept sep",
            "october oktober octobre oct okt", "november novembre nov", "december dezember decembre dec dez",
        ),
        1,
    )
    for name in names.split()
}  # fmt: skip
MONTH = "|".join(sorted(MONTHS, key=len, reverse=True))
DATES = (
    re.compile(r"\b(?P<year>20\d\d)-(?P<month>\d\d)-(?P<day>\d\d)\b"),
    re.compile(r"\b(?P<day>\d{1,2})\.\s?(?P<month>\d{1,2})\.\s?(?P<year>20\d\d)?(?!\d)"),
    re.compile(
        rf"\b(?P<day>\d{{1,2}})(?:st|nd|rd|th|er|\.)?(?: of)? (?P<name>{MONTH})\b(?:,? (?P<year>20\d\d))?"
    ),
    re.compile(rf"\b(?P<name>{MONTH}) (?:the )?(?P<day>\d{{1,2}})(?:st|nd|rd|th)?\b(?:,? (?P<year>20\d\d))?"),
)
SCALE = {"c": 10.0, "i": INCH_MM, '"': INCH_MM}


@dataclass(frozen=True, slots=True)
class Spoken:
    """A wish that a sentence speaks of: the value as the topic keeps it, and where the sentence stands."""

    topic: Topic
    value: str
    words: str
    start: int
    end: int


def read_letter(text: str, today: str) -> tuple[Spoken, ...]:
    """Every wish that the letter speaks of, each topic once, in the order of the letter; `today` dates a day."""
    found: dict[str, Spoken] = {}
    for match in SENTENCE.finditer(text):
        plain = plain_words(match[0])
        for key, value in _wishes(plain, match[0], today):
            start = match.start() + len(match[0]) - len(match[0].lstrip())
            spoken = Spoken(TOPIC_BY_KEY[key], value, match[0].strip(), start, match.end())
            before = found.get(key)
            if before is None:
                found[key] = spoken
            elif key == "functions":
                names = dict.fromkeys([*before.value.split(", "), *value.split(", ")])
                found[key] = Spoken(before.topic, ", ".join(names), before.words, before.start, before.end)
    return tuple(found.values())


def _wishes(plain: str, text: str, today: str) -> Iterator[tuple[str, str]]:
    """Topic and value of each wish in a sentence."""
    yield from _numbers(plain)
    depth = DEPTH.search(plain)
    if depth and ABOUT_WATER.search(plain) and int(depth["size"]) > 0:
        yield "depth", depth["size"]
    if functions := [name for name, pattern in FUNCTIONS if _is_wished(pattern, plain)]:
        yield "functions", ", ".join(functions)
    yield from _looks(plain, text)
    occasion = next((word for word in OCCASIONS if re.search(rf"\b{word}\b", plain)), "")
    if occasion:
        yield "occasion", text[plain.index(occasion) : plain.index(occasion) + len(occasion)].lower()
    if whom := WHOM.search(plain):
        yield "whom", text[whom.start("whom") : whom.end("whom")]
    if prices := prices_in(plain):
        yield "budget", str(Money.of(prices[-1].amount, prices[-1].currency)).replace("\u00a0", " ")
    if day := _day(plain, today):
        yield "day", day


def _numbers(plain: str) -> Iterator[tuple[str, str]]:
    taken: list[tuple[int, int]] = []
    for key, pattern, (low, high) in NUMBERS:
        for match in re.finditer(_twice(pattern), plain):
            size, unit = match["size"] or match["size2"], match["unit"] or match["unit2"]
            at = match.span("size") if match["size"] else match.span("size2")
            value = round(float(size.replace(",", ".")) * SCALE.get(unit[:1], 1.0), 2)
            if low <= value <= high and at not in taken:
                taken.append(at)
                yield key, f"{value:g}"
                break


def _twice(pattern: str) -> str:
    """The pattern with the names of its second figure told apart, as a pattern must have them."""
    head, _, rest = pattern.partition("|" + SIZE)
    return (
        head + "|" + SIZE.replace("<size>", "<size2>").replace("<unit>", "<unit2>") + rest
        if rest
        else pattern
    )


def _is_wished(pattern: str, plain: str) -> bool:
    return any(not is_denied(plain, match.start()) for match in re.finditer(pattern, plain))


def _looks(plain: str, text: str) -> Iterator[tuple[str, str]]:
    strap = STRAP.search(plain)
    bare = plain
    if strap:
        words = text[strap.start("strap") : strap.end("strap")]
        yield (
            "straps",
            re.sub(
                r"^(?:(?:a|an|the|on|with|and|or|ein|eine[mn]?|un|une|le|la)\s+)+",
                "",
                words,
                flags=re.IGNORECASE,
            ),
        )
        bare = plain[: strap.start()] + " " * (strap.end() - strap.start()) + plain[strap.end() :]
    glows = LUME.search(bare)
    if glows and not is_denied(bare, glows.start()):
        lume = _words_in(COLOURS, bare)
        yield "lume", f"{lume[0]} lume" if lume else "it should glow"
        return
    if colours := _words_in(COLOURS, bare):
        yield "colours", ", ".join(colours)
    if finishes := _words_in(FINISHES, bare):
        yield "finishes", ", ".join(finishes)


def _words_in(table: dict[str, str], plain: str) -> list[str]:
    """Words of the table that the sentence holds and does not deny, in its order."""
    hits = [
        (match.start(), word)
        for word, pattern in table.items()
        if pattern
        for match in re.finditer(rf"(?<![a-z])(?:{pattern})(?![a-z])", plain)
        if not is_denied(plain, match.start())
    ]
    return list(dict.fromkeys(word for _, word in sorted(hits)))


def _day(plain: str, today: str) -> str:
    """A day of the sentence; one without a year is the next that comes."""
    for pattern in DATES:
        if found := pattern.search(plain):
            named = found.groupdict()
            month, day = (
                MONTHS.get(named.get("name") or "", 0) or int(named.get("month") or 0),
                int(named["day"]),
            )
            if not (1 <= month <= 12 and 1 <= day <= 31):  # noqa: PLR2004  # of a year, of a month
                continue
            year = int(named["year"]) if named.get("year") else int(today[:4])
            if not named.get("year") and f"{year}-{month:02}-{day:02}" < today:
                year += 1
            return f"{year}-{month:02}-{day:02}"
    return ""
