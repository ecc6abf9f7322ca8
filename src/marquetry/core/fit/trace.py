"""How a formula reads a build: every dimension by its path, and a note of all that was not there.

A formula is written once, on `readings["dial.thickness"]`. What is missing reads as NaN, which flows
through the arithmetic to the end; the notes then say what to measure, or which part is not in the build.
"""

import math

from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HANDS
from marquetry.core.sheet.parts import entry_at
from marquetry.core.sheet.schema import Flag
from marquetry.core.values.number import Number, sensitive


class Readings:
    """One build's dimensions as numbers that carry their sensitivities, for one check.

    After a formula ran: `missing` names the dimensions it wanted and did not get, `absent` the parts that
    are not in the build, `uses` every dimension and every list it read or wanted.
    """

    def __init__(self, build: Build, rules: Rules) -> None:
        self.build, self.rules = build, rules
        self.missing: dict[str, None] = {}
        self.absent: dict[str, None] = {}
        self.uses: dict[str, None] = {}
        self._numbers: dict[str, Number] = {}

    def __getitem__(self, path: str) -> Number:
        if path not in self._numbers:
            self._numbers[path] = self._read(path)
        return self._numbers[path]

    def _read(self, path: str) -> Number:
        if not self._has_part_of(path):
            return math.nan
        self.uses[path] = None
        dimension = self.build.dimensions.get(path)
        if dimension is None:
            self.lack(path)
            return math.nan
        return sensitive(path, dimension)

    def has(self, path: str) -> bool:
        """Whether the part is in the build, without asking for it."""
        return self.build.has(path)

    def wants(self, path: str) -> bool:
        """Whether the part is in the build; where it is not, the check is about nothing."""
        if not self.build.has(path):
            self.absent[path] = None
            return False
        return True

    def lack(self, path: str) -> None:
        """Note that something other than a single dimension is not known."""
        self.missing[path] = None

    def count(self, path: str) -> int:
        """How many things the list at the path holds; the list itself counts as used."""
        self.uses[path] = None
        return self.build.count(path)

    def word(self, path: str) -> str | None:
        """The word at the path, or None."""
        found = self.build.at(path)
        return found if isinstance(found, str) else None

    def names(self, path: str) -> list[str]:
        """The list of words at the path."""
        found = self.build.at(path)
        return [name for name in found if isinstance(name, str)] if isinstance(found, list) else []

    def whole(self, path: str) -> int | None:
        """The whole number at the path, or None."""
        found = self.build.at(path)
        return int(found) if isinstance(found, int | float) else None

    def target(self, key: str) -> float | None:
        """A plain number of the sheet's target, such as the water depth wanted."""
        return self.build.target(key)

    def flag(self, path: str) -> bool:
        """The yes or no at the path, or its described default."""
        found, entry = self.build.at(path), entry_at(path)[-1]
        return found if isinstance(found, bool) else isinstance(entry, Flag) and entry.default

    def hands(self) -> list[str]:
        """The hands in the build, from the dial upwards."""
        return [hand for hand in HANDS if self.build.has(f"hands.{hand}")]

    def rule(self, key: str) -> float:
        """A plain number of the workshop's rules."""
        return self.rules.number(key)

    def _has_part_of(self, path: str) -> bool:
        part, *rest = path.split(".")
        if part == "hands":
            return self.wants(f"hands.{rest[0]}")
        return self.wants(part)
