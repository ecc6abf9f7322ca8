"""A part as it is described on the shelf: the same document that stands in a build sheet, checked alone."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.sheet.anatomy import is_number
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.described.looks import LUME
from marquetry.core.sheet.entries import FORMAT, LONGEST_WORDS, Json, dimension_as_json
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.plain import has_control
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.core.values.figures import figure

PART_LINK, PIECE_LINK = LINKS = ("shelf_part", "shelf_piece")
"""Keys by which a part in a build sheet says which part of the shelf, and which piece of it, it is."""


@dataclass(frozen=True)
class Part:
    """One described part. `build` holds it and nothing else, so that whatever reads a build reads a part."""

    kind: Kind
    build: Build

    @classmethod
    def of(cls, kind: Kind, document: Json) -> "Part":
        """Read a part's document, every dimension written out. SheetError or DimensionError name the path."""
        if not isinstance(document, dict):
            raise SheetError(kind.key, "an object in braces")
        plain = {key: value for key, value in document.items() if key not in LINKS}
        for look in kind.looks:
            words = plain.get(look.key)
            if words is not None and not (
                isinstance(words, str) and len(words) <= LONGEST_WORDS and not has_control(words)
            ):
                raise SheetError(f"{kind.key}.{look.key}", f"at most {LONGEST_WORDS} letters of plain words")
        build = _alone(kind, plain)
        for path, dimension in build.dimensions.items():
            if not isinstance(build.at(path), dict):
                build = build.with_entry(path, dimension_as_json(dimension))
        return cls(kind, build)

    @property
    def read(self) -> tuple[Json, Mapping[str, Dimension]]:
        """The part as a slot holds it with its dimensions by path: `Build.with_read` takes it as it is."""
        return self.build.at(self.kind.key), self.build.dimensions

    @cached_property
    def document(self) -> dict[str, Json]:
        """The part as a build sheet carries it."""
        found: dict[str, Json] = self.build.at(self.kind.prefix)
        return found

    @property
    def name(self) -> str:
        """What it is called, or its kind's label."""
        name = self.document.get("name")
        return name if isinstance(name, str) and name else self.kind.label

    @cached_property
    def dimensions(self) -> Mapping[str, Dimension]:
        """Its dimensions by their path below the part."""
        skip = len(self.kind.prefix) + 1
        return {path[skip:]: dimension for path, dimension in self.build.dimensions.items()}

    def looks(self) -> Iterator[tuple[str, str]]:
        """Key and words of every look that is told."""
        for look in self.kind.looks:
            words = self.document.get(look.key)
            if isinstance(words, str) and words:
                yield look.key, words

    def face_words(self) -> tuple[str, ...]:
        """Every word that is chosen of how it looks from the front: colours, finishes, shapes."""
        return tuple(_words_in(self.document.get(FACE)))

    @property
    def is_unseen(self) -> bool:
        """Whether it is a part that is seen from the front, and nothing is told of how it looks."""
        return self.kind.face is not None and not (self.face_words() or self.in_words())

    def in_words(self) -> str:
        """How it looks in one line: lume is told by what it is, the rest by its words alone."""
        lume = {look.key: look.label.removeprefix("Lume, ") for look in LUME}
        told = (f"{lume[key]} {words}" if key in lume else words for key, words in self.looks())
        return ", ".join(told)

    def headline(self, most: int = 3) -> str:
        """The first few dimensions in words, as a drawer's slip tells them."""
        known = self.dimensions
        told = [
            f"{quantity.label} {figure(known[path].value)}"
            for path, quantity in self.kind.quantities()
            if path in known
        ]
        return " · ".join(told[:most])


def _words_in(node: Json) -> Iterator[str]:
    if isinstance(node, str):
        yield node
    elif isinstance(node, dict | list):
        for inner in node.values() if isinstance(node, dict) else node:
            yield from _words_in(inner)


def _alone(kind: Kind, document: dict[str, Json]) -> Build:
    # Which side a spacer goes on is the watch's business; alone it has to be on one of them.
    sided = {"side": "dial", **document} if kind.is_many else document
    whole = {
        "format": FORMAT,
        "name": kind.label,
        "target": {},
        "parts": {kind.key: kind.held(sided)},
        "rules": {},
    }
    return Build(whole, kind.anatomy)


def parts_of(build: Build) -> Iterator[tuple[str, Kind, dict[str, Json]]]:
    """Every part in a build with its slot, kind and document; of a list one by one."""
    for kind in build.anatomy.kinds:
        found = build.at(kind.key)
        if isinstance(found, dict):
            yield kind.key, kind, found
        elif isinstance(found, list):
            yield from ((f"{kind.key}.{index}", kind, item) for index, item in enumerate(found))


def part_at(build: Build, path: str) -> tuple[Part, str]:
    """The part of the build that the entry at the path belongs to, and the path below it.

    NotFoundError where the build has no such part.
    """
    key, _, rest = path.partition(".")
    kind = build.anatomy.kind(key)
    slot = key
    if kind.is_many:
        index, _, rest = rest.partition(".")
        slot = f"{key}.{index}"
    document = build.at(slot) if not kind.is_many or is_number(slot.rpartition(".")[2]) else None
    if document is None or not rest:
        raise NotFoundError(f"{kind.label.lower()} in this watch for {path[:80]!r}")
    return Part.of(kind, document), rest


def unlinked(build: Build, links: Sequence[str] = LINKS) -> Build:
    """The build without its links to this workshop's shelf, which mean nothing elsewhere; or without some."""
    document = build.document
    for kind in build.anatomy.kinds:
        held = document["parts"].get(kind.key)
        for part in held if isinstance(held, list) else [held]:
            for link in links:
                if isinstance(part, dict):
                    part.pop(link, None)
    return Build(document, build.anatomy)
