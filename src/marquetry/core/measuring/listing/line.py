"""A seller's line made comparable: small letters without accents, each at its own place in the line."""

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import islice

DASHES = "‐‑‒–—−"
SEPARATORS = re.compile(
    r",(?!\d)|;|\s//\s|\||[•·▪►■★]|(?<![a-z)])\s-+\s|\s-+\s(?!\W*(?:ca\b|approx|\d))|(?<!\bexcl)(?<!\bincl)(?<!\bapprox)(?<!\bca)(?<!\bdia)(?<!\bdiam)(?<!\bthk)(?<!\bep)\.\s+(?=[a-z])|(?<=[a-z)])\s*/\s*(?=[a-z])(?!hour|minute|day|seconds)|\.$|\s\+\s(?=[a-z])"
)
"""Where one statement ends and the next begins; a comma inside a figure is none, nor a dash before one."""


def plain_letter(letter: str) -> str:
    """One small letter without its accent, so that places in the plain line are places in the seller's."""
    if letter in DASHES:
        return "-"
    if letter in "øØ":
        return "⌀"  # the sign, not the letter: a figure may stand right behind it
    if letter == "ß":
        return "s"
    if letter.isspace() and letter != "\t":
        return " "
    bare = unicodedata.normalize("NFD", letter)[0].lower()
    return bare[0] if bare else " "


def plain_words(text: str) -> str:
    """The text as it is compared, of the same length: hyphens between words are gaps."""
    plain = "".join(map(plain_letter, text))
    return re.sub(r"(?<=[a-z])-(?=[a-z])|(?<=\d)-(?=[a-z]{3})", " ", plain)


ROW_OF_TWO = re.compile(r"\|[^|]*\|[^|]*\|?")
"""A row of a drawn table: a label, and what it says."""
SHORT = re.compile(r".{1,360}(?:\s|$)|.{1,360}")
"""A line longer than that is read in pieces: looking at it takes its length times itself."""
SAID_BY = re.compile(
    r"^\s*(?:[\[(]?(?:\d{1,4}[./-]\d{1,2}[./-]\d{2,4},?\s+)?\d{1,2}[:.]\d{2}(?::\d{2})?(?:\s?[ap]m)?[\])]?[\s,-]*(?:[^\W\d][\w .'-]{0,24}:\s+)|"
    r"(?:me|you|seller|buyer|verkäufer|käufer|ich|vendeur|acheteur|moi)\s*:\s+(?=\S))",
    re.IGNORECASE,
)
"""Who wrote a line of a chat, and when: no words of the part."""
MOST_LINES = 300


@dataclass(frozen=True, slots=True)
class Segment:
    """One statement of a line: where it stands in the line."""

    start: int
    end: int


@dataclass(frozen=True, slots=True)
class ListingLine:
    """One line as the seller wrote it, and as it is compared."""

    text: str
    plain: str
    opens: bool = False
    """Whether a paragraph begins with it."""
    number: int = 0
    """Which line of the seller's text it is, the empty ones counted."""
    count: int | None = None
    """How many pieces the row of a table counts."""
    asked: tuple[str, str] | None = None
    """Amount and currency of a table's row whose heading names the currency."""
    is_row: bool = False
    is_heading_row: bool = False

    @classmethod
    def of(cls, text: str) -> "ListingLine":
        """The line without what only decorates it."""
        trimmed = SAID_BY.sub("", text).strip(" \t\r•·▪▫►■□★☆*#>~-–—💎✅✔️🔥⭐")
        if ROW_OF_TWO.fullmatch(trimmed):
            trimmed = trimmed.strip("|").strip()
            return cls(trimmed, plain_words(trimmed).replace("|", "\t"))
        return cls(trimmed, plain_words(trimmed))

    @property
    def has_figure(self) -> bool:
        """Whether anything in it is a figure."""
        return any(letter.isdigit() for letter in self.plain)

    def segments(self) -> tuple[Segment, ...]:
        """The statements of the line, in their order."""
        return _segments(self.plain)

    def words(self, start: int, end: int) -> str:
        """What the seller wrote between two places."""
        return self.text[start:end].strip()


@lru_cache(maxsize=1024)
def _segments(plain: str) -> tuple[Segment, ...]:
    # A text whose kind is not said is read once for every kind; its statements are the same each time.
    cuts = [0, *(place for found in SEPARATORS.finditer(plain) for place in found.span()), len(plain)]
    pairs = zip(cuts[::2], cuts[1::2], strict=True)
    return tuple(Segment(start, end) for start, end in pairs if plain[start:end].strip())


def lines_of(text: str) -> list[ListingLine]:
    """Every line of the text that says something, with its number; the first after an empty one opens a paragraph."""
    return list(islice(_lines(text), MOST_LINES))


def _lines(text: str) -> Iterator[ListingLine]:
    opens = True
    for number, raw in enumerate(text.splitlines()):
        said = [line for piece in SHORT.findall(raw) if (line := ListingLine.of(piece)).plain.strip()]
        for place, line in enumerate(said):
            yield replace(line, opens=opens and place == 0, number=number)
        opens = not said
