"""How one watch's parts look, whatever is told of them: chosen, read from the builder's words, or quiet.

As a dimension carries its source, so does a look: what nobody said is drawn quietly, and said to be so.
"""

from dataclasses import dataclass
from enum import StrEnum

from marquetry.core.face.night import Paste, pastes
from marquetry.core.face.shade import is_hex
from marquetry.core.face.wording import colours_in, word_in
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.colours import GLOWS, PALETTE
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.schema import Choice


class Origin(StrEnum):
    """Where a look comes from."""

    CHOSEN = "chosen"
    READ = "read from its words"
    QUIET = "drawn quietly"


@dataclass(frozen=True, slots=True)
class Coat:
    """What a surface is covered with: a colour, for two-coloured things a second one, and a finish.

    `finish_is_told`: somebody said so, it is not only drawn quietly.
    """

    colour: str
    finish: str
    second: str = ""
    finish_is_told: bool = True


@dataclass(frozen=True, slots=True)
class Lume:
    """A glowing paste: what it glows in, by name, its colour by day; how it fades where that was measured."""

    glow: str
    day: str
    measured: Paste | None = None

    @property
    def paste(self) -> Paste:
        """How it glows on: as measured on this watch, else as pastes of its colour do."""
        return self.measured or pastes()[self.glow]


WORDS = {
    "colour": ("colour", "finish", "material", "name"), "second_colour": ("colour", "name"),
    "finish": ("finish", "material", "name"), "glow": ("glow",), "daylight": ("daylight",),
    "print_colour": ("numerals",), "buckle": ("clasp",), "buckle_colour": ("clasp",),
    "buckle_finish": ("clasp",), "coating": ("coating", "colour"), "surface": ("material", "name"),
}  # fmt: skip
"""In which of a part's own words a look is read; others in its name."""
LIGHT_PASTE = "cream"
GLOWING_PARTS = {"dial": "dial", "hands": "hands", "bezel_insert": "insert", "chapter_ring": "ring"}
"""Parts that may glow, with what each is called in short."""


class Dress:
    """The looks of a build's parts: as what each one asked for is `drawn`, and its `origins`."""

    def __init__(self, build: Build) -> None:
        self.build = build
        self.origins: dict[str, Origin] = {}
        self.drawn: dict[str, str] = {}

    def told(self, path: str) -> Json:
        """What is chosen at a path such as `dial.face.finish`; None where nothing is."""
        return self.build.at(path)

    def word(self, part: str, key: str, usual: str, below: str = "") -> str:
        """A word of the vocabulary; `below` is a thing of the face, such as `markers.0` or `hour`."""
        path = _path(part, key, below)
        chosen = self.build.at(path)
        if isinstance(chosen, str) and chosen in self._vocabulary(path):
            return self._from(path, Origin.CHOSEN, chosen)
        read = "" if below else next(filter(None, (word_in(key, text) for text in self._own(part, key))), "")
        return self._from(path, Origin.READ, read) if read else self._from(path, Origin.QUIET, usual)

    def tint(self, part: str, key: str, usual: str, below: str = "") -> str:
        """A colour as #rrggbb; `usual` is a name of the palette or a colour itself, or nothing."""
        path = _path(part, key, below)
        chosen = self.build.at(path)
        if isinstance(chosen, str) and (known := colour_of(chosen)):
            return self._from(path, Origin.CHOSEN, known)
        at = 1 if key == "second_colour" else 0
        read = "" if below else next(filter(None, (_nth(text, at) for text in self._own(part, key))), "")
        if read:
            return self._from(path, Origin.READ, read)
        return self._from(path, Origin.QUIET, PALETTE.get(usual, usual))

    def size(self, part: str, key: str, below: str = "") -> float | None:
        """A plain size in mm; None where none is told."""
        found = self.build.at(_path(part, key, below))
        return float(found) if isinstance(found, int | float) else None

    def flag(self, part: str, key: str, below: str = "") -> bool | None:
        """Yes, no, or not told."""
        found = self.build.at(_path(part, key, below))
        return found if isinstance(found, bool) else None

    def coat(self, part: str, colour: str, finish: str, *, two: bool = False) -> Coat:
        """Colour and finish of a part, quiet ones where nothing is told; some parts have `two` colours."""
        second = self.tint(part, "second_colour", "") if two else ""
        word = self.word(part, "finish", finish)
        told = self.origins[_path(part, "finish", "")] is not Origin.QUIET
        return Coat(self.tint(part, "colour", colour), word, second, told)

    def lume(self, part: str, below: str = "", usual: Lume | None = None) -> Lume | None:
        """The paste of a part, or of a thing `below` it; `usual`, or none, where nothing is told."""
        glow = self.word(part, "glow", usual.glow if usual else "", below)
        if not glow or glow == "nothing":
            return None
        day = self.tint(part, "daylight", usual.day if usual else LIGHT_PASTE, below)
        return Lume(glow if glow in GLOWS else "green", day)

    def glowing(self) -> dict[str, Lume]:
        """The paste of every part that has one, by what the part is called in short."""
        found = {short: self.lume(part) for part, short in GLOWING_PARTS.items() if self.build.has(part)}
        return {short: lume for short, lume in found.items() if lume}

    def _vocabulary(self, path: str) -> tuple[str, ...]:
        """The words that a look is chosen from; any other is kept in the sheet and drawn as if not said."""
        entry = self.build.anatomy.entry_at(path)[-1]
        return entry.options if isinstance(entry, Choice) else ()

    def _own(self, part: str, key: str) -> list[str]:
        found = (self.build.at(f"{part}.{word}") for word in WORDS.get(key, ("name",)))
        return [text for text in found if isinstance(text, str)]

    def _from(self, path: str, origin: Origin, value: str) -> str:
        self.origins[path], self.drawn[path] = origin, value
        return value

    def quiet(self) -> tuple[str, ...]:
        """The parts that are there and of which nothing at all is told, in the order they were asked for."""
        by_part: dict[str, set[Origin]] = {}
        for path, origin in self.origins.items():
            by_part.setdefault(path.partition(".")[0], set()).add(origin)
        return tuple(
            part for part, origins in by_part.items() if origins == {Origin.QUIET} and self.build.has(part)
        )


def _path(part: str, key: str, below: str) -> str:
    return f"{part}.{FACE}.{below}.{key}" if below else f"{part}.{FACE}.{key}"


def colour_of(text: str) -> str:
    """`#rrggbb` of a name or of itself; nothing where it is neither."""
    plain = text.strip().lower()
    if is_hex(plain):
        return plain
    return PALETTE.get(plain, "") or _nth(plain, 0)


def _nth(text: str, at: int) -> str:
    names = colours_in(text)
    return PALETTE[names[at]] if len(names) > at else ""
