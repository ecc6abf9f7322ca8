"""Which calibre a movement is, and which calibres any other part is sold for."""

import re

from marquetry.core.measuring.listing.line import ListingLine

MODEL = r"[A-ZÄÖÜ][\w'’]*(?:-[\w'’]+)*[ -][A-Z]?\d{1,4}(?!\d)[A-Za-z]?(?![A-Za-z])(?:-[A-Z0-9]{1,4})?"
"""A name and a number, as movements are called: Tern 27, Dunlin 22B, Tern 27-A."""
NO_SIZE = r"(?![.,]\d|\s*(?:mm|cm|x\s*\d|×|€|£|\$|EUR|USD|GBP|CHF|h\b|jewels?|bar|ATM|m\b|pcs))"
NAMES = rf"{MODEL}{NO_SIZE}(?:\s*(?:,|/|&|\band\b|\bor\b|\bund\b|\bet\b)\s*(?:{MODEL}|\d{{1,4}}[A-Z]?\b){NO_SIZE})*"
FOR = re.compile(
    r"\b(?i:for|fits?|suits?|to suit|compatible with|made for|passend (?:f[uü]r|zu)|f[uü]r|pour|compatible avec)"
    rf"\s+(?i:the\s+|movements?\s+|calibres?\s+|mouvements?\s+|das\s+)?(?P<names>{NAMES})(?!\s*(?i:cases?|dials?|bezels?|straps?|watch|geh[aä]use|zifferbl|bo[iî]tier|cadran|montre))"
)
"""Sold for a movement; a case's or a dial's own model is no calibre."""
OWN = re.compile(rf"\b(?i:calib(?:re|er)|kaliber|cal\.)\s*:?\s*(?P<name>{MODEL}{NO_SIZE})")
BARE = re.compile(rf"(?<![\w-])(?P<name>{MODEL}{NO_SIZE})")
APART = re.compile(r"\s*(?:,|/|&|\band\b|\bor\b|\bund\b|\bet\b)\s*")
MOST = 8


def suits_of(lines: list[ListingLine]) -> list[str]:
    """The calibres that the lines say a part is sold for, as they are written."""
    found = [name for line in lines for match in FOR.finditer(line.text) for name in _names(match["names"])]
    return list(dict.fromkeys(found))[:MOST]


def calibres_of(lines: list[ListingLine]) -> list[str]:
    """The names that the lines call a movement by: those told as its calibre, else the first model words."""
    told = [match["name"] for line in lines for match in OWN.finditer(line.text)]
    if not told:
        bare = (match["name"] for line in lines[:2] for match in BARE.finditer(line.text))
        told = [name for name in bare if not re.match(r"(?i)movements?\b|uhrwerk|mouvement|calib", name)][:1]
    return list(dict.fromkeys(told))[:MOST]


def _names(words: str) -> list[str]:
    """Each name of a row; a bare number takes the word before it: “Tern 27/28” is Tern 27 and Tern 28."""
    found: list[str] = []
    for name in APART.split(words):
        bare = name[:1].isdigit() and found
        found.append(f"{found[-1].rpartition(' ')[0]} {name}" if bare else name)
    return found


def models_at(line: ListingLine) -> list[tuple[int, int]]:
    """Where in the line names of calibres stand: their figures are no sizes."""
    return [match.span("names") for match in FOR.finditer(line.text)] + [
        match.span("name") for match in OWN.finditer(line.text)
    ]
