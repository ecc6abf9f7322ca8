"""The kinds of part a shelf holds: each part of a watch, one piece at a time."""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from marquetry.core.sheet.schema import Entry, Group, Look, Many, Quantity

if TYPE_CHECKING:  # an anatomy makes its kinds and stands above them
    from marquetry.core.sheet.anatomy import Anatomy


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind. `key` is also the slot of a watch that it fills; of a list, such as spacers, one thing."""

    described: Group | Many
    anatomy: "Anatomy" = field(repr=False, compare=False)

    @property
    def key(self) -> str:
        """Its name in sheets and addresses."""
        return self.described.key

    @property
    def label(self) -> str:
        """Its name for a builder: of a list, one thing's."""
        described = self.described
        return described.singular.capitalize() if isinstance(described, Many) else described.label

    @property
    def is_many(self) -> bool:
        """Whether a watch may have several of the kind."""
        return isinstance(self.described, Many)

    @property
    def prefix(self) -> str:
        """Where the part's entries stand in a build that holds only this part."""
        return f"{self.key}.0" if self.is_many else self.key

    @property
    def slot(self) -> str:
        """Where the part goes in a watch; `.-` is one more of a list."""
        return f"{self.key}.-" if self.is_many else self.key

    def held(self, document: object) -> object:
        """The part's document as its slot holds it: of a kind that may be several, in a list."""
        return [document] if self.is_many else document

    @property
    def entries(self) -> tuple[Entry, ...]:
        """What it is described by, looks apart."""
        return self.described.entries

    @property
    def looks(self) -> tuple[Look, ...]:
        """How it looks and what it is made of."""
        return self.described.looks

    @property
    def face(self) -> Group | None:
        """How it is seen from the front, in the words the face is drawn by; None where it is not seen."""
        return self.described.face

    def quantities(self) -> tuple[tuple[str, Quantity], ...]:
        """Its own dimensions by path below it, those of hands and posts included, lists left out."""
        return tuple(_quantities(self.entries, ""))


def _quantities(entries: tuple[Entry, ...], above: str) -> list[tuple[str, Quantity]]:
    found: list[tuple[str, Quantity]] = []
    for entry in entries:
        if isinstance(entry, Quantity):
            found.append((above + entry.key, entry))
        elif isinstance(entry, Group):
            found.extend(_quantities(entry.entries, f"{above}{entry.key}."))
    return found
