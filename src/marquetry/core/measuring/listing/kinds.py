"""Which kind of part words name, and which of them head a line: the table of kinds, in three languages.

Tools and consumables are named here too, as a kind of their own: a press for crystals is no crystal, and its
price is no crystal's.
"""

import re
from dataclasses import dataclass
from functools import cache, lru_cache

from marquetry.core.measuring.listing.line import ListingLine

TOOL = "tool"
"""What is no part: a tool, a consumable, a box."""

WORDS: tuple[tuple[str, str], ...] = (
    (TOOL, r"tweezers?|pliers|loupes?|magnifiers?|screwdrivers?|(?<!fond )(?<!fonds )(?:bench |hand |crystal |bezel |case ?back |back )?press(?:es)?(?! (?:fit|in|on)\b)(?: (?:set|tool)s?)?|(?:case ?back |case |back )?(?:openers?|wrench(?:es)?|spanners?)|case ?back keys?|(?:[a-z]+ )?(?:setting |removal |removing |fitting |changing |pressing |insertion |sizing )?tools?(?: (?:kit|set))?|tool ?kits?|(?:hand )?(?:removers?|levers?(?! of))|(?:case|movement|dial) (?:cushions?|vi[cs]es?|clamps?|stands?)|cushions?|vi[cs]es?|(?:[a-z]+ )?glues?|(?:crystal )?cement|adhesives?|uv resin|(?:[a-z]+ )?grease|oils?|oilers?|lubricants?|putty|pegwood|blowers?|hammers?|calipers?|gloves|finger cots?|cloths?|(?:gift |watch |travel |storage )(?:box(?:es)?|pouch(?:es)?|rolls?|cases?)|pouch(?:es)?)(?!\s*(?:resistant|proof|free|filled)"),
    (TOOL, r"pinzetten?|zangen?|lupen?|schraubendreher|(?<!fond )(?<!fonds )[a-z]*pressen?|[a-z]*offner|[a-z]*werkzeuge?|[a-z]*(?:setzer|abheber|zieher)|kleber|klebstoff|[a-z]*fett|(?:uhren|silikon|mobel)?ole?|oler|hammer|handschuhe|tucher|etui|brucelles|pinces?|(?<!fond )(?<!fonds )presses?|potences?|ouvre boitiers?|outils?|tournevis|colles?|graisses?|huiles?|gants|chiffons?|ecrins?|coffrets?"),
    ("crystal_gasket", r"(?:[io] ring )?(?:crystal|glass?) (?:[ilo] )?(?:ring )?(?:gasket|seal)s?|(?:gasket|seal|i ring|dichtung|joint)s? (?:for|of|fur|de|du|pour)(?: the| le| das)? (?:crystals?|glass?|verre|glace)|i rings?|glasdichtung(?:en)?|joints? de (?:glace|verre)"),
    ("back_gasket", r"(?:o ring )?(?:case ?)?back (?:gasket|seal|o ring)s?|(?:o ring )?(?:gasket|seal|o ring|dichtung|joint)s?(?: gaskets?)? (?:for|of|fur|de|du|pour)(?: the| le| den)? (?:case ?backs?|backs?|gehauseboden|boden|fonds?)|bodendichtung(?:en)?|gehausebodendichtung(?:en)?|joints? de fond|gehausedichtung"),
    ("crown_gasket", r"(?:o ring )?crown (?:tube )?(?:gasket|seal|o ring)s?|(?:gasket|seal|o ring|dichtung|joint)s? (?:for|of|fur|de|du|pour)(?: the| la| die)? (?:crowns?|[a-z]*kronen?|couronnes?)|kronendichtung(?:en)?|joints? de couronne"),
    ("bezel_insert", r"bezel inserts?|inserts?|lunetteneinlagen?|lunetten inlays?|inlays?|einlagen?|inserts? de lunette"),
    ("chapter_ring", r"chapter rings?|rehauts?(?: rings?)?|rehautringe?|inner rings?|hohenringe?"),
    ("calendar_disc", r"(?:calendar|date|day) (?:discs?|disks?|wheels?)|datumsscheiben?|disques? (?:de |du )?(?:date|quantieme|calendrier)"),
    ("case_back", r"case ?backs?|(?:display|exhibition|screw|solid) backs?|[a-z]*boden|fonds? de boitier|fonds?(?= (?:visse|presse|clipse|plein|transparent|saphir|vitre))|fonds?(?=\s*[:|\t])|backs?(?=\s*[:|\t])"),
    ("holder", r"movement (?:holder|ring|retainer)s?|holders?|werkhaltering|werkhalter|porte mouvement|cercles? d.emboitage"),
    ("spacers", r"(?:(?:dial|movement) )?spacers?(?: rings?)?|distanzringe?|entretoises?"),
    ("spring_bars", r"(?:quick release )?spring ?bars?|federstege?|barrettes?(?: a ressort)?"),
    ("hands", r"(?:watch )?hands?(?: ?sets?)?|hand ?sets?|sets? of hands|[a-z]*zeiger(?:satz|satze|paar)?|(?:jeux? d.)?aiguilles?"),
    ("dial", r"dials?|[a-z]*zifferblatt(?:er)?|cadrans?"),
    ("rotor", r"rotors?|masses? oscillantes?|schwungmassen?"),
    ("movement", r"movements?|[a-z]*(?<!hand)(?<!feuer)werke?|mouvements?|mvt"),
    ("crown", r"crowns?|[a-z]*kronen?|couronnes?"),
    ("stem", r"(?:winding )?stems?|aufzug(?:s)?wellen?|stellwellen?|[a-z]*wellen?|tiges?(?: de remontoir)?"),
    ("bezel", r"bezels?|[a-z]*lunetten?|lunettes?"),
    ("crystal", r"crystals?|(?:sapphire|mineral|watch) glass(?:es)?|glasses|glass?|[a-z]*glas|glaser|verres?|glaces?"),
    ("back_gasket", r"o rings?|gaskets?|seals?|[a-z]*dichtung(?:en)?|dichtringe?|joints?(?: toriques?)?"),
    ("strap", r"(?:watch )?straps?|bracelets?|[a-z]*armband(?:er)?|uhrenband|uhrband|lederband|bands?"),
    ("case", r"(?:watch )?cases?|[a-z]*gehause|boitiers?|boites? de montre"),
)  # fmt: skip
"""Kinds by the words that name them; where two begin at one place, the longer words win."""
KIND_WORDS = tuple((kind, re.compile(rf"(?<![a-z])(?:{pattern})(?![a-z])")) for kind, pattern in WORDS)
NO_KIND = re.compile(
    r"\bhands? (?:sizes?|winding|winds?|wound|windable|fittings?|heights?|made|measurements?)\b|\b(?:dial|movement|crystal) sides?\b"
    r"|\bstem (?:height|thread|length|position)\b|\bstem\b(?= to dial)|\b(?:to|de|du) (?:the )?(?:stem|tige)\b|\b(?:strap|band) width\b"
    r"|\b(?:hours?|minutes?|sec(?:ond)?s?|sweep|fourth|4th|gmt|24 ?h(?:ou)?rs?|24 ?h) hands?\b(?! ?sets?)"
    r"|\b(?:stunden|minuten|sekunden|24 ?h|24 ?stunden) ?zeiger\b|\baiguilles? (?:des? |24)\w*|\b(?:filetage|hauteur|axe|diametre) (?:de )?(?:la )?tige\b"
    r"|\bcote (?:cadran|mouvement)\b|\b(?:dial|crystal) (?:size|feet|opening)\b|\bcase(?: |-)?(?:by|in point)\b|\bin (?:any|that|this) case\b"
    r"|\b(?:first|second) hand(?= (?:watch|goods|part))|\bback ?order|\bmoney back\b|\bin good hands\b|\bauf wellen\b|\brepair works\b"
)
"""Words for something else than a part: what a part has, does or is measured at."""
DENIED = re.compile(
    r"\b(?:for(?! (?:sale|you)\b)|fits?|fitting|suits?|suitable|compatible|takes?|accepts?|with|w/|without|w/o|no(?!\.? ?\d)|not|incl(?:uding|\.)?|fur|"
    r"passend|passt|mit|ohne|kein(?:e[nmrs]?)?|pour|avec|sans|pas de|convient|compatibles?)\b"
)
"""Before the first kind word of a line, it says that the line is of something that goes with that kind."""
SENTENCE = re.compile(r"[.!?]\s+(?=[a-z])(?<!ca\. )(?<!nr\. )(?<!no\. )(?<!approx\. )(?<!incl\. )")
IN_A_ROW = re.compile(r"[\s/'-]*(?:set )?")
OF_A_GASKET = re.compile(r"\s*[:,(-]\s*(?:of |for )?(?:the )?")
GASKETS = {"crystal": "crystal_gasket", "case_back": "back_gasket", "crown": "crown_gasket"}
QUANTITY = re.compile(
    r"\s*(?:sizes?|diameters?|dia\b|widths?|lengths?|heights?|thickness|openings?|positions?|places?|pos\b|tubes?|holes?|bores?|threads?|weights?|"
    r"finish|colou?rs?|material|types?|shape|feet|prices?|cost|durchmesser|breite|hohe|dicke|lange|farbe|material|preis|diametre|largeur|hauteur|epaisseur|longueur|"
    r"couleur|matiere|prix)\b"
)
"""Right behind a kind's word, it makes a label of both: “crystal size” is no crystal."""


@dataclass(frozen=True, slots=True)
class KindWord:
    """Words that name a kind, where they stand in a line."""

    kind: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Head:
    """The words of a line that say which part it is of. `is_label`: a quantity of the part stands with them."""

    kind: str
    start: int
    end: int
    is_label: bool


@cache
def own_name(kind: str) -> re.Pattern[str]:
    """The words that name the kind, at the beginning of a statement."""
    patterns = "|".join(pattern for key, pattern in WORDS if key == kind)
    return re.compile(rf"^\W*(?:{patterns or '(?!)'})\b\s*[:=-]")


@lru_cache(maxsize=1024)
def kind_words(plain: str) -> tuple[KindWord, ...]:
    """Every word of the line that names a kind, in order; of two at one place the longer."""
    bare = NO_KIND.sub(lambda match: "\0" * len(match[0]), plain)
    found = [
        KindWord(kind, match.start(), match.end())
        for kind, pattern in KIND_WORDS
        for match in pattern.finditer(bare)
    ]
    found.sort(key=lambda word: (word.start, -word.end))
    kept: list[KindWord] = []
    for word in found:
        if not kept or word.start >= kept[-1].end:
            kept.append(word)
    return tuple(kept)


@lru_cache(maxsize=1024)
def head_of(plain: str) -> Head | None:
    """The head of a line: its first kind word, of a row of them the last; None where it only goes with that kind.

    `Gasket: crown` is the crown's gasket, though two words with a colon between are no row.
    """
    words = kind_words(plain)
    if not words:
        return None
    last = first = words[0]
    breaks = [match.end() for match in SENTENCE.finditer(plain, 0, first.start)]
    if DENIED.search(plain, breaks[-1] if breaks else 0, first.start):
        return None
    for word in words[1:]:
        if not IN_A_ROW.fullmatch(plain, last.end, word.start):
            break
        last = word
    kind, end = last.kind, last.end
    following = next((word for word in words if word.start >= end), None)
    of_which = following is not None and OF_A_GASKET.fullmatch(plain, end, following.start)
    if kind == "back_gasket" and following and of_which and following.kind in GASKETS:
        kind, end = GASKETS[following.kind], following.end
    return Head(kind, first.start, end, QUANTITY.match(plain, end) is not None)


HEADING = re.compile(
    r"^\W*(?:\d+\s*(?:x|×|pcs?\.?|stk\.?)?\s*|(?:part|teil|no\.?|nr\.?)\s*\d+\s*[:.)-]?\s*|[a-z0-9][.)]\s+)?"
    r"(?:the\s+|die\s+|das\s+|le\s+|la\s+|les\s+)?(?P<kind>[a-z' ]+?)\s*(?:\(\s*\d+\s*(?:pcs?|pieces?|x|stk|hands)?\.?\s*\)|[x×]\s*\d+)?\s*\W*$"
)


def heading_kind(line: ListingLine) -> str | None:
    """The kind that the line names and nothing else, as a kit's parts are set apart."""
    found = HEADING.match(line.plain)
    if found is None:
        return None
    words = found["kind"].strip()
    return next((kind for kind, pattern in KIND_WORDS if kind != TOOL and pattern.fullmatch(words)), None)
