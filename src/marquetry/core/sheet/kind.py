"""The kinds of part a shelf holds: each part of a watch, one piece at a time."""

from dataclasses import dataclass

from marquetry.core.sheet.parts import PARTS
from marquetry.core.sheet.schema import Entry, Group, Look, Many, Quantity
from marquetry.core.values.errors import NotFoundError


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind. `key` is also the slot of a watch that it fills; of a list, such as spacers, one thing."""

    key: str
    label: str
    described: Group | Many

    @property
    def prefix(self) -> str:
        """Where the part's entries stand in a build that holds only this part."""
        return f"{self.key}.0" if isinstance(self.described, Many) else self.key

    @property
    def slot(self) -> str:
        """Where the part goes in a watch; `.-` is one more of a list."""
        return f"{self.key}.-" if isinstance(self.described, Many) else self.key

    @property
    def entries(self) -> tuple[Entry, ...]:
        """What it is described by, looks apart."""
        return self.described.entries

    @property
    def looks(self) -> tuple[Look, ...]:
        """How it looks and what it is made of."""
        return self.described.looks

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


def _kind(part: Group | Many) -> Kind:
    label = part.singular.capitalize() if isinstance(part, Many) else part.label
    return Kind(part.key, label, part)


KINDS: tuple[Kind, ...] = tuple(_kind(part) for part in PARTS)
KIND_BY_KEY = {kind.key: kind for kind in KINDS}


def kind_named(key: str) -> Kind:
    """The kind of that key; NotFoundError where there is none."""
    if key not in KIND_BY_KEY:
        raise NotFoundError(f"kind of part “{key[:40]}”")
    return KIND_BY_KEY[key]
