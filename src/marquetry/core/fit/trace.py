"""How a check reads a build: every access by its path, and a record of all that was asked.

A formula is written once, on `trace["dial.thickness"]`. What is missing reads as NaN, which flows through
the arithmetic to the end. The record is complete: whether a part is there, a word, a flag, how many feet, a
rule, all leave their mark, so that two builds which answer every recorded question alike give one finding.
The Finder, the tray, "measure next" and "because of" all read this one record.
"""

import math
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Literal, TypeAlias

from marquetry.core.evidence.ruling import Vouched, vouched_for
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HANDS
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.schema import Flag
from marquetry.core.sheet.statements import DRIVE
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, sensitive

How = Literal[
    "dimension", "known", "part", "count", "word", "names", "whole", "flag", "target", "wanted", "rule",
    "stated", "drive",
]  # fmt: skip
Access: TypeAlias = tuple[How, str]
"""What was asked: in which way, and the path, target or rule."""
OF_NO_PART: frozenset[How] = frozenset({"target", "wanted", "rule"})
"""Ways that ask the watch as a whole, or its rules; `stated` names its parts, every other begins with one."""


@dataclass(frozen=True, slots=True)
class Uses:
    """Every question a check asked of a build, in the order in which it asked."""

    accesses: tuple[Access, ...] = ()

    def dimensions(self) -> tuple[str, ...]:
        """Paths of the dimensions that were read or wanted."""
        return tuple(path for how, path in self.accesses if how == "dimension")

    def words(self) -> tuple[str, ...]:
        """Paths of the words, lists of words, counts and flags that were read."""
        return tuple(path for how, path in self.accesses if how in {"word", "names", "whole", "flag"})

    def counted(self) -> tuple[str, ...]:
        """Paths of the lists whose things were counted, such as `dial.feet`."""
        return tuple(path for how, path in self.accesses if how == "count")

    def parts(self) -> frozenset[str]:
        """Keys of every part that was asked about in any way, absent ones too."""
        return frozenset(
            path.partition(".")[0] for how, path in self.accesses if how not in OF_NO_PART and how != "stated"
        )

    def hangs_on(self, path: str) -> bool:
        """Whether another value at the path could change what was found."""
        return any(p == path or (how == "count" and path.startswith(f"{p}.")) for how, p in self.accesses)

    def __iter__(self) -> Iterator[Access]:
        return iter(self.accesses)


NOTHING_ASKED = Uses()


def observed(access: Access, build: Build, rules: Rules) -> object:  # noqa: PLR0911  # one a question
    """The answer to one recorded question; builds that give the same answers give the same finding."""
    how, path = access
    if how == "dimension":
        return build.has(build.anatomy.owner_of(path)), rules.believed(build, path)
    if how in {"known", "part"}:
        return build.has(path)
    if how == "count":
        return build.count(path)
    if how == "drive":
        return build.has_rotor
    if how == "target":
        return build.target(path)
    if how == "wanted":
        return build.wanted_functions
    if how == "stated":
        dry_fit, _, about = path.partition(":")
        return vouched_for(build, tuple(about.split(",")), dry_fit or None, may_be_vouched=True)
    return rules.own(path) if how == "rule" else (build.at(path), path in build.assumed_words)


class Trace:
    """One build's dimensions as numbers that carry their sensitivities, for one check.

    After a check ran: `missing` names the dimensions it wanted and did not get, `absent` the parts that are
    not in the build, `uses` every question it asked. `moved` dimensions stand in for the build's own.
    """

    def __init__(self, build: Build, rules: Rules, moved: Mapping[str, Dimension] | None = None) -> None:
        self.build, self.rules, self.moved = build, rules, moved or {}
        self.missing: dict[str, None] = {}
        self.absent: dict[str, None] = {}
        self._asked: dict[Access, None] = {}
        self._about: dict[str, None] = {}
        self._guarded: set[str] = set()
        self._is_choosing = False
        self.exactly: list[str] = []
        """Paths that were read with a tolerance of nothing: no slope remembers them."""
        self._numbers: dict[str, Number] = {}

    @property
    def uses(self) -> Uses:
        """Every question that was asked so far."""
        return Uses(tuple(self._asked))

    @property
    def about(self) -> tuple[str, ...]:
        """Slots of the parts without which the check says nothing: read or wanted without asking whether.

        A ring, a spacer or a rotor that a formula asks for first may be absent, so it is about none of them.
        """
        return tuple(self._about)

    def __getitem__(self, path: str) -> Number:
        """The dimension at the path, in mm or degrees, doubt and all; NaN, and noted, where unknown."""
        if path not in self._numbers:
            self._asked["dimension", path] = None
            self._is_about(path)
            self._numbers[path] = self._read(path)
        return self._numbers[path]

    def _read(self, path: str) -> Number:
        owner = self.build.anatomy.owner_of(path)
        if not self.build.has(owner):
            self.absent[owner] = None
            return math.nan
        dimension = self.dimension(path)
        if dimension is None:
            self.lack(path)
            return math.nan
        return self.number(path, dimension)

    def _is_about(self, path: str) -> None:
        slot = path.partition(".")[0]
        if slot not in self._guarded and not self._is_choosing:
            self._about[slot] = None

    @contextmanager
    def choosing(self) -> Iterator[None]:
        """What is read within only serves to choose what the check is about, such as which feet are kept."""
        self._is_choosing = True
        try:
            yield
        finally:
            self._is_choosing = False

    def number(self, path: str, dimension: Dimension) -> Number:
        """The dimension as a formula takes it, in its own unit; other readers give something else."""
        if not dimension.tol and not self._is_choosing:
            self.exactly.append(path)
        return sensitive(path, dimension)

    def dimension(self, path: str) -> Dimension | None:
        """The dimension in force at a path that was asked for."""
        moved = self.moved.get(path) if self.moved else None
        return moved or self.rules.believed(self.build, path)

    def known(self, path: str) -> bool:
        """Whether the entry is there, without asking for it."""
        self._asked["known", path] = None
        return self.build.has(path)

    def has(self, path: str) -> bool:
        """Whether the part is in the build, without asking for it."""
        self._asked["part", path] = None
        self._guarded.add(path)
        return self.build.has(path)

    def wants(self, *parts: str) -> bool:
        """Whether all the parts are in the build; without one of them the check is about nothing.

        Each is asked about, absent ones too.
        """
        there = True
        for part in parts:
            self._asked["part", part] = None
            self._about[part.partition(".")[0]] = None
            if not self.build.has(part):
                self.absent[part] = None
                there = False
        return there

    def lack(self, path: str) -> None:
        """Note that something is not known."""
        self.missing[path] = None

    def count(self, path: str) -> int:
        """How many things the list at the path holds."""
        self._asked["count", path] = None
        if "." not in path:
            self._guarded.add(path)
        return self.build.count(path)

    def _at(self, how: How, path: str) -> Json:
        self._asked[how, path] = None
        return self.build.at(path)

    def word(self, path: str) -> str | None:
        """The word at the path, or None."""
        found = self._at("word", path)
        return found if isinstance(found, str) else None

    def names(self, path: str) -> list[str]:
        """The list of words at the path."""
        found = self._at("names", path)
        return [name for name in found if isinstance(name, str)] if isinstance(found, list) else []

    def whole(self, path: str) -> int | None:
        """The whole number at the path, or None."""
        found = self._at("whole", path)
        return int(found) if isinstance(found, int | float) else None

    def plain(self, path: str) -> float | None:
        """The plain number at the path, mm, or None: a size that carries no tolerance."""
        found = self._at("word", path)
        return float(found) if isinstance(found, int | float) and not isinstance(found, bool) else None

    def flag(self, path: str) -> bool | None:
        """The yes or no at the path, or its described default; None where nothing said is not known."""
        found, entry = self._at("flag", path), self.build.anatomy.entry_at(path)[-1]
        return found if isinstance(found, bool) else entry.default if isinstance(entry, Flag) else None

    def has_rotor(self) -> bool:
        """Whether the movement is wound by a rotor; a drive that only a family assumed says nothing of it.

        No `word`: who builds with an automatic movement need not say so for a rotor's checks to be known.
        """
        self._asked["drive", DRIVE] = None
        return self.build.has_rotor

    def target(self, key: str) -> float | None:
        """A plain number of the sheet's target, its unit at the end of its key."""
        self._asked["target", key] = None
        return self.build.target(key)

    def wanted_functions(self) -> list[str]:
        """The functions that the sheet's target asks for."""
        self._asked["wanted", "functions"] = None
        return self.build.wanted_functions

    def stated(self, dry_fit: str | None, *, may_be_vouched: bool) -> Vouched:
        """What is said and was tried of the check's parts; to be asked once it has read all it needs."""
        self._asked["stated", f"{dry_fit or ''}:{','.join(self._about)}"] = None
        return vouched_for(self.build, self.about, dry_fit, may_be_vouched=may_be_vouched)

    def rule(self, key: str) -> float:
        """A plain number of the workshop's rules, in the rule's own unit."""
        self._asked["rule", key] = None
        return self.rules.number(key)

    def limits(self, key: str, default: Limits) -> Limits:
        """The workshop's limits of that name, in the check's unit."""
        self._asked["rule", key] = None
        return self.rules.limits(key, default)

    def hands(self) -> list[str]:
        """The hands in the build, from the dial upwards."""
        return [hand for hand in HANDS if self.has(f"hands.{hand}")]


def aside(build: Build, rules: Rules) -> Trace:
    """A reading whose record nobody needs: for a remedy that looks at one height, or a place in the plan."""
    return Trace(build, rules)
