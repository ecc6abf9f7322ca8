"""What a part is called: the line it begins with, without what only says its kind, its sizes and its price."""

import re
from functools import cache

from marquetry.core.measuring.listing.kinds import QUANTITY, Head, head_of, heading_kind
from marquetry.core.measuring.listing.kit import MARKS
from marquetry.core.measuring.listing.labels import (
    BETWEEN_LUGS,
    HEIGHT,
    INNER,
    LENGTH,
    OUTER,
    THICKNESS,
    THREAD,
)
from marquetry.core.measuring.listing.line import ListingLine
from marquetry.core.measuring.listing.price import prices_in

LONGEST_NAME = 40
"""Letters of a name: it stands on a tile, on the client's card and in a line of an order."""
CUT = re.compile(r"\s*(?:,(?!\d)|;|\||\t|\s{3,}|•|(?<=[\w)])\s+[-–—]\s+|:\s|\.\s|\(|\)|\[|\])\s*|\s*[.:]$")
"""Where one saying of the line ends."""
LEAD = re.compile(
    r"^(?:(?:(?:there|here|it|that)'?s|i'(?:ve|m|d)|spare|first(?:ly)?|second(?:ly)?|last(?:ly)?|finally|hey|lovely|nice|beautiful|great|please|still|available|for you|hi|hello|hallo|bonjour|also|and|then|next|here|there|this|that|these|i|we|you|my|our|your|it|he|she|is|are|am|have|has|had|got|sell|selling|offer|offering|can|could|"
    r"do|want|would|like|get|gets|include|includes|comes?|for sale|a|an|the|one|some|item|pos|position|article|part|another|"
    r"ich|wir|habe|haben|hatte|noch|auch|ein|eine|einen|der|die|das|den|dazu|und|biete|verkaufe|gibt|es|ist|hier|"
    r"j'ai|je|nous|avons|aussi|un|une|le|la|les|l'|du|de|et|voici|il y a|est|vends|propose)\b'?\s*)+"
)
"""Words of a sentence before the part's own."""
SLOGAN = re.compile(
    r"\b(?:free (?:shipping|postage|delivery)|hot|new|neu|neuf|sale|best ?seller|top|limited|last (?:one|pieces?)|in stock|rare|bargain|mint|nos|unused|only|"
    r"\d(?:[.,]\d)?/5|\d+ ?% ?(?:off)?|-\d+ ?%|each|je|piece|apiece|pcs|versandkostenfrei|auf lager|en stock|livraison gratuite)\b|[!*]+"
)
SIZE = re.compile(
    r"(?:[ø⌀]\s*)?(?:\d+(?:[.,]\d+)?\s*(?:mm|cm)?\s*[x×/]\s*)+\d+(?:[.,]\d+)?\s*(?:mm|cm|in\b|\")?"
    r"|(?:[ø⌀]\s*)?\d+(?:[.,]\d+)?\s*(?:mm|cm|in\b(?! [a-z])|inch\b|\"|″|m\b|bar\b|atm\b|h\b|jewels?|bph|o.?clock|uhr|°|pcs?\b|pieces?\b|pairs?\b|sets?\b|stk\b|stuck\b|lignes?\b|months?|years?)"
    r"|[ø⌀]\s*\d+(?:[.,]\d+)?|\b\d+(?:[.,]\d+)? \d/\d\b|(?<![a-z])[x×]\s?\d{1,3}\b"
)
SAYS = re.compile(
    r"\b(?:for|mwst|vat|tva|inkl\w*|taper\w*|hack(?:s|ing)|stop seconds?|sekundenstopp|stop seconde|to go|od|id|thick|across|wide|was|date at|adhesive|included|clasp|buckle|lugs?|clicks?|notches|holds?|weighs?|centre|center|screwed|pressed|verschraubt|dick|breit|cornes?|entre|couronne|etanche|visse|"
    r"wasserdicht|horner|anstos+\w*|krone|hole|inner|outer|cord|ring height|tip|functions?|movement for|strap width|fits?|fitting|suits?|takes?|with|without|no|compatible|incl\w*|at|automatic|hand wound|quartz|battery|self winding|screw in|screw down|quick release|"
    r"fur|passend|passt|mit|ohne|bei|automatik|handaufzug|pour|avec|sans|automatique|remontage|diameter|width|length|height|thickness|holes?|bore|lug|thread|water resist\w*|waterproof|"
    r"durchmesser|breite|lange|hohe|dicke|bohrung|gewinde|diametre|largeur|longueur|hauteur|epaisseur|trou|filetage|item|ref|art|sku|order|set of|pack of)\b"
)
"""A saying that begins with or holds such a word tells what the part is like or goes with, not what it is called."""
EDGE_OR_HOLE = r"\b(?:rand|mitten)(?:dicke|starke)\b|\bbords?\b|\btrous?\b|\bcanons?\b|\bloch\b|\bsection\b|\bschnurstarke\b|\bfonds?\b|\bprix\b|\bpreis\b|\bprices?\b|\bcosts?\b|\bkostet\b|\bpaires?\b|\bpaar\b|\bschnell\w*"
SIZED = re.compile(rf"{THICKNESS}|{HEIGHT}|{LENGTH}|{INNER}|{OUTER}|{BETWEEN_LUGS}|{THREAD}|{EDGE_OR_HOLE}")
"""Words that name a size, in every language that is read."""
DECORATION = " \t.,;:|–—-•*!()[]_/=~\0"


def name_of(lines: list[ListingLine], kind: str) -> str:
    """The name a part is given, at most 40 letters in whole words; the kind's own word where nothing is left."""
    line = lines[0]
    if heading_kind(line) and len(lines) > 1:
        line = lines[1]  # “Dial:” on a line of its own heads the name that follows
    head = head_of(line.plain)
    start = _begin(line, head)
    spans = _spans(line, start, head)
    sayings = [_said(line, *span, is_first=span == spans[0]) for span in spans]
    told = [said for said in sayings if said]
    named = [
        said for place, said in enumerate(told) if not _is_kind_alone(said) or (place == 0 and len(told) > 1)
    ]
    name = _fitting([] if all(map(_is_kind_alone, named)) else named)
    return name or word_of(kind)


def _is_kind_alone(said: str) -> bool:
    """Whether a saying is a kind's word and nothing else: it names no part."""
    return heading_kind(ListingLine.of(said)) is not None


@cache
def word_of(kind: str) -> str:
    """The kind as a word of its own."""
    return kind.replace("_", " ")


QUOTES = "\"„“«'"


def _begin(line: ListingLine, head: Head | None) -> int:
    """Where the name can begin: behind numbers and counts, the label of the kind, and a sentence's first words."""
    start = MARKS.match(line.plain)
    begin = start.end() if start else 0
    while begin and line.text[begin - 1] in QUOTES:
        begin -= 1
    if head is None:
        return begin
    between = line.plain[begin : head.start]
    lead = LEAD.match(between)
    bare = not between.strip(" :-") or (lead is not None and lead.end() >= len(between.rstrip()))
    if bare and _is_label(line, head):
        verb = re.match(
            r"[\s:|\t-]*(?:(?:is|are|ist|sind|est)\s+(?:an?\s+|the\s+|eine?\s+|une?\s+)?)?",
            line.plain[head.end :],
        )
        return head.end + (verb.end() if verb else 0)
    return begin + (lead.end() if lead else 0)


def _is_label(line: ListingLine, head: Head) -> bool:
    """Whether the kind's word only labels what follows: a sign, a sentence's verb or a name of its own stands behind."""
    rest, text = line.plain[head.end :], line.text[head.end :].lstrip()
    if re.match(r"\s*(?:[:|–=\t]|-\s|\s-|is\b|are\b|ist\b|sind\b|est\b)", rest):
        return True
    if rest.lstrip().startswith(","):
        return text[1:].lstrip()[:1].isupper()  # “Dial, Harbour white”, but “Bracelet, steel”
    return bool(text) and (text[0].isupper() or text[0] in "„“«»\"'") and not QUANTITY.match(rest)


def _spans(line: ListingLine, start: int, head: Head | None) -> list[tuple[int, int]]:
    cuts = [start]
    for cut in CUT.finditer(line.text, start):
        cuts += [cut.start(), cut.end()]
        dash = re.search(r"[-–—]", cut[0])
        if (
            dash
            and line.text[start : cut.start()].strip()
            and head
            and head.end <= cut.start()
            and not line.is_row
        ):
            return list(zip(cuts[::2], cuts[1::2], strict=False))  # what stands behind a dash is said of it
    cuts.append(len(line.text))
    return list(zip(cuts[::2], cuts[1::2], strict=False))


def _said(line: ListingLine, start: int, end: int, *, is_first: bool) -> str:
    """One saying of the line without sizes and prices, up to where it tells what the part is like or goes with."""
    letters, plain = list(line.text[start:end]), line.plain[start:end]
    prices = ((price.start - start, price.end - start) for price in prices_in(line.plain))
    sizes = _spans_of(plain)
    if not is_first and (sizes or re.search(r"\d[.,]\d", plain)):
        return ""
    for first, last in (*prices, *sizes):
        for place in range(max(0, first), min(len(letters), last)):
            letters[place] = " "
    told = min(filter(None, (SAYS.search(plain), SIZED.search(plain))), key=re.Match.start, default=None)
    if told:
        if not is_first and any(letter.isdigit() for letter in plain):
            return ""  # a size, with the word that says which
        letters = letters[: told.start()]
    lead = LEAD.match(plain)
    if lead and lead.end() < len(plain):
        letters[: lead.end()] = " " * lead.end()
    said = " ".join("".join(letters).split()).strip(DECORATION)
    return said if any(map(str.isalpha, said)) else ""


def _spans_of(plain: str) -> list[tuple[int, int]]:
    return [match.span() for pattern in (SIZE, SLOGAN) for match in pattern.finditer(plain)]


def _fitting(sayings: list[str]) -> str:
    """As many sayings as fit, the first cut between words where it alone is too long."""
    name = ""
    for said in sayings:
        longer = f"{name}, {said}" if name else said
        if len(longer) > LONGEST_NAME:
            break
        name = longer
    if name or not sayings:
        return name
    words = ""
    for word in sayings[0].split():
        if len(words) + len(word) + 1 > LONGEST_NAME:
            break
        words = f"{words} {word}".strip()
    return words or sayings[0][:LONGEST_NAME]
