"""What a watch is made of: the described parts, and every question about them that a path answers.

An anatomy is handed in with the model and never reached for; a test or a workshop may bring its own.
"""

from dataclasses import dataclass
from functools import cached_property

from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.schema import Entry, Group, Many, Quantity
from marquetry.core.values.errors import NotFoundError


@dataclass(frozen=True, eq=False)
class Anatomy:
    """The parts of a watch in the order in which a builder reads them."""

    parts: tuple[Group | Many, ...]

    @cached_property
    def by_key(self) -> dict[str, Group | Many]:
        """Every part by its key, which is also its slot in a watch."""
        return {part.key: part for part in self.parts}

    @cached_property
    def kinds(self) -> tuple[Kind, ...]:
        """The kinds of part a shelf holds: each part of a watch, one piece at a time."""
        return tuple(Kind(part, self) for part in self.parts)

    @cached_property
    def _kind_by_key(self) -> dict[str, Kind]:
        return {kind.key: kind for kind in self.kinds}

    @cached_property
    def _trails(self) -> dict[str, tuple[Entry, ...]]:
        return {}

    def part(self, key: str) -> Group | Many:
        """The description of the part in that slot; NotFoundError where there is none."""
        if key not in self.by_key:
            raise NotFoundError(f"part “{key[:40]}” in a watch")
        return self.by_key[key]

    def has_kind(self, key: str) -> bool:
        """Whether a part of that kind is described."""
        return key in self.by_key

    def kind(self, key: str) -> Kind:
        """The kind of that key; NotFoundError where there is none."""
        if key not in self._kind_by_key:
            raise NotFoundError(f"kind of part “{key[:40]}”")
        return self._kind_by_key[key]

    def entry_at(self, path: str) -> tuple[Entry, ...]:
        """The entries from the part down to `path`: (Movement, Posts, Minute post, Top above the face).

        A number in the path stands for one of a list. Raises NotFoundError where no such entry is described.
        """
        plain = ".".join(step for step in path.split(".") if not is_number(step))
        if plain not in self._trails:
            self._trails[plain] = self._trail(path, plain)
        return self._trails[plain]

    def _trail(self, path: str, plain: str) -> tuple[Entry, ...]:
        entries: tuple[Entry, ...] = self.parts
        trail: list[Entry] = []
        for step in plain.split("."):
            found = next((entry for entry in entries if entry.key == step), None)
            if found is None:
                raise NotFoundError(f"entry {path[:80]!r} in a build sheet")
            trail.append(found)
            entries = found.within if isinstance(found, Group | Many) else ()
        return tuple(trail)

    def quantity_at(self, path: str) -> Quantity:
        """The description of the dimension at `path`; NotFoundError where the path names something else."""
        last = self.entry_at(path)[-1]
        if not isinstance(last, Quantity):
            raise NotFoundError(f"dimension {path[:80]!r} in a build sheet")
        return last

    def owner_of(self, path: str) -> str:
        """The part that has to be there for the entry at `path` to mean anything: `dial`, `hands.minute`.

        One hand of a set is a part that may be absent; a post is an entry of its movement.
        """
        if path not in self._owners:
            first, *rest = path.split(".")
            described = self.by_key.get(first)
            inner = (
                next((e for e in described.entries if rest and e.key == rest[0]), None) if described else None
            )
            may_lack = isinstance(inner, Group) and inner.optional
            self._owners[path] = f"{first}.{rest[0]}" if may_lack else first
        return self._owners[path]

    @cached_property
    def _owners(self) -> dict[str, str]:
        return {}

    def is_quantity(self, path: str) -> bool:
        """Whether the path names a dimension."""
        try:
            return isinstance(self.entry_at(path)[-1], Quantity)
        except NotFoundError:
            return False

    def label_of(self, path: str) -> str:
        """The path in a builder's words: `dial.feet.0.radius` is «Dial, foot 1, from the centre»."""
        if path not in self._labels:
            self._labels[path] = self._told(path)
        return self._labels[path]

    @cached_property
    def _labels(self) -> dict[str, str]:
        return {}

    def _told(self, path: str) -> str:
        trail = iter(self.entry_at(path))
        words: list[str] = []
        previous: Entry | None = None
        for step in path.split("."):
            if is_number(step):
                singular = previous.singular if isinstance(previous, Many) else ""
                words[-1] = f"{singular} {int(step) + 1}"
            else:
                previous = next(trail)
                words.append(previous.label)
        # A label that begins with a sign, as «Ø at the lugs» does, keeps it; others go on in small letters.
        tail = [
            word if not word[0].isalpha() or word[0] == "Ø" else word[0].lower() + word[1:]
            for word in words[1:]
        ]
        return ", ".join([words[0][0].upper() + words[0][1:], *tail])


def is_number(step: str) -> bool:
    """Whether a step of a path numbers one thing of a list: plain digits, not all that Unicode counts by."""
    return step.isascii() and step.isdecimal()
