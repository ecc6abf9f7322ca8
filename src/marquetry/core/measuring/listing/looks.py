"""What a listing tells beside dimensions: colour, finish, material, lume, functions, windows, price, notes."""

import re
from collections.abc import Iterable

from marquetry.core.measuring.listing.denial import is_denied
from marquetry.core.measuring.listing.line import ListingLine

COLOURS = {
    "black": "black|schwarz(?:e[rsn]?)?|noire?s?", "white": "white|weis+(?:e[rsn]?)?|blanche?s?|blanc", "blue": "blue|navy|blau(?:e[rsn]?)?|bleue?s?",
    "green": "green|grun(?:e[rsn]?)?|verte?s?", "red": "red|rot(?:e[rsn]?)?|rouges?", "grey": "grey|gray|grau(?:e[rsn]?)?|grise?s?|slate|anthracite|anthrazit",
    "silver": "silver|silbern?|argente?e?s?|silberfarben", "gold": "gold(?:en)?|gilt|dore+s?|goldfarben", "brown": "brown|braun(?:e[rsn]?)?|bruns?|marron", "orange": "orange",
    "yellow": "yellow|gelb(?:e[rsn]?)?|jaunes?", "purple": "purple|violet(?:te)?|lila", "pink": "pink|rosa", "cream": "cream|ivory|creme|elfenbein|ivoire",
    "salmon": "salmon|lachs|saumon", "turquoise": "turquoise|turkis", "burgundy": "burgundy|bordeaux", "beige": "beige|sand", "champagne": "champagne",
    "bronze": "", "teal": "teal", "copper": "copper|kupfern?",
}  # fmt: skip
FINISHES = {
    "sunray": "sun ?ray|soleil(?:lee?)?|sonnenschliff", "sunburst": "sun ?burst", "matte": "matte?|matt(?:e[rsn]?)?|mate?s?|mattiert", "brushed": "brushed|geburstet(?:e[rsn]?)?|brosse+s?",
    "polished": "polished|poliert(?:e[rsn]?)?|polie?s?|hochglanzpoliert", "bead-blasted": "(?:bead|sand) ?blasted|blasted|sandgestrahlt|gestrahlt|sable+s?|microbille", "textured": "textured|strukturiert|texture+s?|structured",
    "gradient": "gradient|fume|verlauf|degrade", "enamel": "enamel(?:led)?|emaille?|email", "satin": "satin(?:ed)?|satine+s?|satiniert", "glossy": "gloss(?:y)?|glanzend|brillant", "guilloché": "guilloche", "lacquered": "lacquer(?:ed)?|lackiert|laque+s?",
    "coated": "dlc|pvd|coated", "frosted": "frosted", "engraved": "engraved|graviert|grave+s?", "skeleton": "skeleton(?:ized)?|skelettiert|squelette",
}  # fmt: skip
METALS = {
    "steel": "(?:stainless )?steel|edelstahl|stahl|acier(?: inoxydable)?|inox", "titanium": "titanium|titan|titane", "bronze": "bronze", "brass": "brass|messing|laiton",
    "ceramic": "ceramic|keramik|ceramique", "aluminium": "aluminium|aluminum|alu", "silver": "sterling silver", "gold": "solid gold",
}  # fmt: skip
GLASSES = {
    "sapphire": "sapphire|saphir(?:glas)?",
    "mineral": "mineral(?:glas)?",
    "acrylic": "acrylic|acryl(?:glas)?|acrylique",
}
SOFT = {
    "leather": "leather|leder|cuir", "canvas": "canvas|segeltuch|toile", "rubber": "rubber|kautschuk|caoutchouc|fkm|nbr|nitrile", "silicone": "silicone|silikon", "nylon": "nylon",
    "suede": "suede|wildleder|velours", "cotton": "cotton", **METALS,
}  # fmt: skip
DIALS = {
    "brass": METALS["brass"],
    "stone": "stone|stein|pierre",
    "mother of pearl": "mother of pearl|perlmutt|nacre",
    "meteorite": "meteorite|meteorit",
    "steel": "",
    "wood": "wood|holz|bois",
    "ceramic": METALS["ceramic"],
}
SEALS = {
    "nitrile": "nitrile|nbr",
    "silicone": SOFT["silicone"],
    "rubber": "rubber|gummi|kautschuk|caoutchouc|fkm",
    "nylon": "nylon",
    "plastic": "plastic|kunststoff|plastique",
}
MATERIALS = {
    "crystal": GLASSES, "strap": SOFT, "dial": DIALS, "back_gasket": SEALS, "crown_gasket": SEALS, "crystal_gasket": SEALS,
    "bezel_insert": {**METALS, "sapphire": GLASSES["sapphire"], "acrylic": GLASSES["acrylic"]},
}  # fmt: skip
LUME = r"(?:super )?lum(?:e|inous|inescent)?(?: (?:colou?r|paint|pigment))?|leuchtmasse|leuchtfarbe|(?:nach)?leuchtend|glow|glowing|lumineux|luminescence|lumed"
NOT_OF_THE_PART = (
    r"\s*(?:colou?red\s+)?(?:lume|luminous|glow|leucht\w*|lumi\w*|ar\b|coating|anti|beschichtung|traitement|markers?|indices|"
    r"index\b|indexes|numerals?|printing|print\b|text|minute track|date|disc|wheel|box|pouch|stitch(?:ing)?|naht|thread|light|glowing)"
)
OF_HANDS = r"|\s*hands?\b(?!\s*set)"
FUNCTIONS = (
    ("hours", r"\bhours\b(?! of)|\bstunden\b|\bheures\b"), ("minutes", r"\bminutes\b|\bminuten\b"),
    ("seconds", r"\b(?:central |small |sweep |running )?seconds\b(?! per| a day)|\bsekunden?\b|\bsecondes\b"),
    ("date", r"\bdate\b(?!\s*(?:of|code))|\bdatum(?:sanzeige)?\b|\bquantieme\b"),
    ("day", r"(?:(?<![/\d] )(?<![/\d])|(?<=date/)|(?<=date / ))\bday\b(?!s|\s*(?:reserve|delivery|return|shipping|power))|\bwochentag(?:sanzeige)?\b|\bweekday\b|\bjour\b(?! de)"),
    ("h24", r"\bgmt\b|\b24 ?h(?:ou)?rs?(?: hand)?\b|\b24 ?h\b(?: hand)?|\b24 stunden ?zeiger\b|\bfourth hand\b"),
    ("hacking", r"\bhack(?:s|ing|able)?\b(?: seconds)?|\bstop ?seconds?\b|\bseconds? stop\b|\bsekundenstopp?\b|\bstopp?sekunden?\b|\bstop secondes?\b"),
    ("hand_winding", r"\bhand ?wind(?:s|ing|able)?\b|\bhand wound\b|\bmanual(?:ly)? w(?:ind(?:ing)?|ound)\b|\bcan be (?:hand )?wound\b|\bhandaufzug\b|\bremontage manuel\b"),
)  # fmt: skip
NO_FUNCTION = re.compile(
    r"(?:(?:\bper|\ba|(?<!date)(?<!date )(?<!\bw)/|\b\d+|\bsame|\bnext|\bbusiness|\bevery|\bin one)\s*)$|\b(?:time ?zones?)\b.{0,12}$"
)
NO_DATE = re.compile(r"(?:\bup to|\bdelivery|\bshipping|\bproduction|\bdispatch|\bbuild|\bto|\bship)\s*$")
WINDOWS = (
    ("day", r"\bday[ /&-]{0,3}date\b|\bday and date\b|\bday (?:window|display|aperture)\b|\bwochentag\w*|\btag[ /]?datum\b|\bguichet jour\b"),
    ("date", r"\b(?:day[ /&-]{0,3})?date\b(?:\s+(?:window|aperture|display))?|\bdatum(?:s?fenster|sanzeige)?\b|\bguichet (?:de )?(?:date|quantieme)\b"),
)  # fmt: skip


def looks_of(lines: list[ListingLine], kind: str) -> dict[str, str]:
    """Colour, finish, material, lume, coating and shape, told by words that are not denied."""
    found: dict[str, str] = {}
    material = MATERIALS.get(kind, METALS)
    for key, table in (("finish", FINISHES), ("material", material)):
        word = _first(lines, table, "")
        if word:
            found[key] = word
    beside = NOT_OF_THE_PART + ("" if kind == "hands" else OF_HANDS)
    colour = _first(lines, COLOURS, beside)
    if colour:
        found["colour"] = colour
    glow = _glow(lines)
    if glow:
        found["glow"] = glow
    for line in lines:
        coating = re.search(
            r"\b(?:(\w+) )?(?:ar\b|anti ?reflect\w+|entspiegel\w+|antireflet)(?: coat\w*)?", line.plain
        )
        if kind == "crystal" and coating and not is_denied(line.plain, coating.start()):
            found.setdefault("coating", line.words(coating.start(), coating.end()))
        shape = re.search(r"\b(flat|sloped|slanted|curved)\b", line.plain)
        if kind == "bezel_insert" and shape and not is_denied(line.plain, shape.start()):
            found.setdefault("shape", shape[1])
    return found


def _first(lines: list[ListingLine], table: dict[str, str], not_before: str) -> str:
    """The first word of the table that the lines tell of the part itself."""
    for line in lines:
        hits = [
            (match.start(), word)
            for word, pattern in table.items()
            if pattern
            for match in re.finditer(rf"(?<![a-z])(?:{pattern})(?![a-z])", line.plain)
            if not is_denied(line.plain, match.start())
            and not (not_before and re.match(not_before, line.plain[match.end() :]))
            and not (
                not_before
                and re.search(
                    rf"(?:{LUME}|leuchtet|glows?|coating|antireflet\w*|entspiegel\w*|beschichtung|hands?|numerals|indices|markers)\s*(?:colou?r|in)?\s*[:=(]?\s*$",
                    line.plain[: match.start()],
                )
            )
        ]
        if hits:
            return min(hits)[1]
    return ""


ABOUT_LUME = re.compile(rf"{LUME}|glow|leuchtet")


def _glow(lines: Iterable[ListingLine]) -> str:
    """The colour in which the lume glows, where a word says so."""
    for line in lines:
        if not ABOUT_LUME.search(line.plain):
            continue
        for word, pattern in COLOURS.items():
            if not pattern:
                continue
            before = rf"(?<![a-z])(?:{pattern})(?:\s+\w+)?\s+(?:{LUME})"
            after = rf"(?:{LUME}|glows?|leuchtet)(?:\s+(?:colou?r|is|in))?\s*[:,(]?\s*(?:{pattern})(?![a-z])"
            for match in re.finditer(f"{before}|{after}", line.plain):
                if not is_denied(line.plain, match.start()):
                    return word
    return ""


def functions_of(lines: list[ListingLine]) -> list[str]:
    """What the movement is said to do; hours, minutes and seconds only where functions are listed."""
    found: list[tuple[int, int, str]] = []
    for number, line in enumerate(lines):
        listed = re.search(
            r"\bfunctions?\b|\bfunktion(?:en)?\b|\bfonctions?\b|\bfeatures?\b|\bcomplications?\b", line.plain
        )
        for name, pattern in FUNCTIONS:
            if name in {"hours", "minutes", "seconds"} and not listed:
                continue
            for match in re.finditer(pattern, line.plain):
                before = line.plain[: match.start()]
                stops = name == "seconds" and re.search(
                    r"stop|hack", line.plain[max(0, match.start() - 9) : match.end() + 6]
                )
                denied = is_denied(line.plain, match.start(), match.end())
                if not (
                    denied
                    or stops
                    or NO_FUNCTION.search(before)
                    or (name == "date" and NO_DATE.search(before))
                ):
                    found.append((number, match.start(), name))
                    break
    return list(dict.fromkeys(name for _, _, name in sorted(found)))


def windows_of(lines: list[ListingLine]) -> list[str]:
    """The windows that the dial is said to have."""
    found: list[str] = []
    for line in lines:
        for name, pattern in WINDOWS:
            for match in re.finditer(pattern, line.plain):
                before = line.plain[: match.start()]
                if not is_denied(line.plain, match.start(), match.end()) and not NO_DATE.search(before):
                    found.append(name)
                    break
    return [name for name in ("day", "date") if name in found]
