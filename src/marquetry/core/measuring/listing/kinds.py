"""Which kind of part a listing is about, and where one part of a kit ends and the next begins."""

import re
from functools import cache

from marquetry.core.measuring.listing.line import ListingLine

WORDS: tuple[tuple[str, str], ...] = (
    ("crystal_gasket", r"(?:[io] ring )?(?:crystal|glass?) (?:[ilo] )?(?:ring )?(?:gasket|seal)s?|(?:gasket|seal|i ring|dichtung|joint)s? (?:for|of|fur|de|du|pour)(?: the| le)? (?:crystals?|glass?|verre)|i rings?|glasdichtung(?:en)?|joint de (?:glace|verre)"),
    ("back_gasket", r"(?:o ring )?(?:case ?)?back (?:gasket|seal|o ring)s?|(?:o ring )?(?:gasket|seal|o ring|dichtung|joint)s?(?: gaskets?)? (?:for|of|fur|de|du|pour)(?: the| le| den)? (?:case ?backs?|backs?|gehauseboden|boden|fonds?)|bodendichtung(?:en)?|joint de fond|gehausedichtung"),
    ("crown_gasket", r"(?:o ring )?crown (?:tube )?(?:gasket|seal|o ring)s?|(?:gasket|seal|o ring|dichtung|joint)s? (?:for|of|fur|de|du|pour)(?: the| la| die)? (?:crowns?|[a-z]*kronen?|couronnes?)|kronendichtung(?:en)?|joint de couronne"),
    ("bezel_insert", r"bezel inserts?|inserts?|lunetteneinlagen?|lunetten inlays?|inlays?|einlagen?"),
    ("chapter_ring", r"chapter rings?|rehauts?|inner rings?|hohenringe?"),
    ("calendar_disc", r"(?:calendar|date|day) (?:discs?|disks?|wheels?)|datumsscheiben?|disques? (?:de )?(?:date|quantieme)"),
    ("case_back", r"case ?backs?|(?:display|exhibition|screw|solid) backs?|gehauseboden|fonds? de boitier"),
    ("holder", r"movement (?:holder|ring|retainer)s?|holders?|werkhaltering|werkhalter|porte mouvement"),
    ("spacers", r"(?:(?:dial|movement) )?spacers?(?: rings?)?|distanzringe?|entretoises?"),
    ("spring_bars", r"spring ?bars?|federstege?|barrettes?"),
    ("hands", r"(?:watch )?hands?(?: ?sets?)?|hand ?sets?|[a-z]*zeiger(?:satz|satze|paar)?|(?:jeu d')?aiguilles?"),
    ("dial", r"dials?|[a-z]*zifferblatt(?:er)?|cadrans?"),
    ("rotor", r"rotors?|masses? oscillantes?|schwungmassen?"),
    ("movement", r"movements?|[a-z]*werke?|mouvements?|mvt|calib(?:re|er)s?"),
    ("crown", r"crowns?|[a-z]*kronen?|couronnes?"),
    ("stem", r"(?:winding )?stems?|aufzug(?:s)?wellen?|stellwellen?|[a-z]*wellen?|tiges?(?: de remontoir)?"),
    ("bezel", r"bezels?|[a-z]*lunetten?|lunettes?"),
    ("crystal", r"crystals?|(?:sapphire|mineral|watch) glass(?:es)?|glasses|glass?|[a-z]*glas|glaser|verres?|glaces?"),
    ("back_gasket", r"o rings?|gaskets?|seals?|[a-z]*dichtung(?:en)?|dichtringe?|joints?(?: toriques?)?"),
    ("strap", r"(?:watch )?straps?|bracelets?|[a-z]*armband(?:er)?|uhrenband|uhrband|lederband|bands?"),
    ("case", r"(?:watch )?cases?|[a-z]*gehause|boitiers?"),
)  # fmt: skip
"""Kinds by the words that name them; where two begin at one place, the longer words win."""
KIND_WORDS = tuple((kind, re.compile(rf"(?<![a-z])(?:{pattern})(?![a-z])")) for kind, pattern in WORDS)
NOT_ABOUT = re.compile(
    r"\b(?:for|fits?|fitting|suits?|suitable for|compatible with|to fit|takes?|accepts?|fur|passend (?:fur|zu)|pour|"
    r"without|w/o|no|not|ohne|sans|with|incl(?:uding|\.)?|mit|avec|and|und|et|matches|like)\b[^,;|(:]*$"
)
"""Before a word, it says that the part is for that, or comes with or without it."""
HEADING = re.compile(
    r"^\W*(?:\d+\s*(?:x|×|pcs?\.?|stk\.?)?\s*|(?:part|teil|no\.?|nr\.?)\s*\d+\s*[:.)-]?\s*|[a-z0-9][.)]\s+)?"
    r"(?:the\s+|die\s+|das\s+|le\s+|la\s+|les\s+)?(?P<kind>[a-z' ]+?)\s*(?:\(\s*\d+\s*(?:pcs?|pieces?|x|stk|hands)?\.?\s*\)|[x×]\s*\d+)?\s*\W*$"
)


@cache
def own_name(kind: str) -> re.Pattern[str]:
    """The words that name the kind, at the beginning of a statement."""
    patterns = "|".join(pattern for key, pattern in WORDS if key == kind)
    return re.compile(rf"^\W*(?:{patterns or '(?!)'})\b\s*[:=-]")


def kind_named(line: ListingLine) -> str | None:
    """The kind the line is about: the first named that it is not said to be for, with or without."""
    best: tuple[int, int, str] | None = None
    for kind, pattern in KIND_WORDS:
        for found in pattern.finditer(line.plain):
            if NOT_ABOUT.search(line.plain[: found.start()]):
                continue
            at = (found.start(), -found.end(), kind)
            if best is None or at[:2] < best[:2]:
                best = at
    return best[2] if best else None


def heading_kind(line: ListingLine) -> str | None:
    """The kind that the line names and nothing else, as a kit's parts are set apart."""
    found = HEADING.match(line.plain)
    if found is None:
        return None
    words = found["kind"].strip()
    return next((kind for kind, pattern in KIND_WORDS if pattern.fullmatch(words)), None)


def split(lines: list[ListingLine]) -> list[tuple[str | None, list[ListingLine]]]:
    """The lines of each part with the kind of its heading; a text without such headings is one part."""
    if (labelled := _labelled_parts(lines)) is not None:
        return labelled
    headings = [index for index, line in enumerate(lines) if heading_kind(line)]
    if not headings or (len(headings) == 1 and headings[0] == 0) or _is_title_only(lines, headings):
        return [(None, lines)]
    parts: list[tuple[str | None, list[ListingLine]]] = []
    if any(line.has_figure for line in lines[: headings[0]]):
        parts.append((None, lines[: headings[0]]))
    for start, end in zip(headings, [*headings[1:], len(lines)], strict=True):
        parts.append((heading_kind(lines[start]), lines[start:end]))
    return parts


LABEL = re.compile(
    r"^\W*(?:\d+\s*(?:x|×|pcs?\.?|stk\.?)?\s*|\d+[.)]\s*)?(?P<kind>[a-z' ]+?)\s*[:|\t–]\s*\S", re.IGNORECASE
)
FEWEST_LABELLED = 3
"""Fewer lines that begin with a kind's name are a part's own rows, such as “Crystal: domed” of a case."""


def _labelled_parts(lines: list[ListingLine]) -> list[tuple[str | None, list[ListingLine]]] | None:
    """The parts of an order whose lines begin with a kind's name and go on (“Dial: Lantern”); None of others."""
    labelled = [(index, kind) for index, line in enumerate(lines) if (kind := _label_kind(line))]
    if len({kind for _, kind in labelled}) < FEWEST_LABELLED:
        return None
    starts = [
        (index, kind)
        for place, (index, kind) in enumerate(labelled)
        if not place or labelled[place - 1][1] != kind
    ]
    ends = [*(index for index, _ in starts[1:]), len(lines)]
    return [(kind, lines[index:end]) for (index, kind), end in zip(starts, ends, strict=True)]


def _label_kind(line: ListingLine) -> str | None:
    found = LABEL.match(line.plain)
    if found is None:
        return None
    words = found["kind"].strip()
    return next((kind for kind, pattern in KIND_WORDS if pattern.fullmatch(words)), None)


def _is_title_only(lines: list[ListingLine], headings: list[int]) -> bool:
    """Whether the only heading names the kind that the first line names already."""
    return len(headings) == 1 and kind_named(lines[0]) == heading_kind(lines[headings[0]])
