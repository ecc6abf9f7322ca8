"""A build sheet in memory: one watch's target, parts and rules, with every dimension read and checked.

The document is kept whole, so keys that this version does not know are written back as they came.
A build never changes; `with_entry` and `without` return another, which shares with it what stayed the same.
"""

import copy
import json
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property

from marquetry.core.sheet.anatomy import Anatomy, is_number
from marquetry.core.sheet.entries import FORMAT, Dimensions, Json, checked_document, dimensions_of
from marquetry.core.sheet.plain import (
    refuse_hostile,
    refuse_unwritable_numbers,
)
from marquetry.core.sheet.schema import Entry, Group, Many
from marquetry.core.sheet.statements import (
    ASSUMED_WORDS,
    CALIBRES,
    DRIVE,
    MOVEMENT,
    SUITS,
    WITHOUT_ROTOR,
    Alteration,
    Change,
    DryFitResult,
    alterations_of,
    as_planned,
    names_of,
    together_of,
    tried_of,
)
from marquetry.core.values.errors import NotFoundError


class Build:
    """One watch as its sheet describes it.

    `dimensions` maps each path, such as `movement.posts.minute.top` or `spacers.0.thickness`, to its
    Dimension in millimetres or degrees. Raises SheetError or DimensionError, naming the path, where the
    document cannot be read.
    """

    def __init__(self, document: Json, anatomy: Anatomy) -> None:
        refuse_hostile(document)
        self._check(copy.deepcopy(checked_document(document)), anatomy)

    @classmethod
    def of_text(cls, text: str, anatomy: Anatomy) -> "Build":
        """The build in a sheet's JSON. ValueError or RecursionError where it is none, else as above.

        Nobody else holds what was parsed here, so it is not copied: a third of the time that a sheet takes.
        """
        document = json.loads(text)
        refuse_hostile(document)
        build = cls.__new__(cls)
        build._check(checked_document(document), anatomy)  # noqa: SLF001  # another way to begin, of the class itself
        return build

    def _check(self, checked: dict[str, Json], anatomy: Anatomy) -> None:
        read = {key: dimensions_of(anatomy, key, value) for key, value in checked["parts"].items()}
        self._take(checked, anatomy, read)
        refuse_unwritable_numbers(checked)

    def _take(self, document: dict[str, Json], anatomy: Anatomy, read: Mapping[str, Dimensions]) -> None:
        self._document, self.anatomy, self._read = document, anatomy, read
        self.parts: Mapping[str, Json] = document["parts"]
        self._has: dict[str, bool] = {}

    @cached_property
    def dimensions(self) -> Dimensions:
        """Every known dimension by its path, in mm or degrees."""
        return {path: dimension for read in self._read.values() for path, dimension in read.items()}

    def sizes_of(self, key: str) -> Dimensions:
        """The dimensions of one part that have a value, assumed ones too, by path, in mm or degrees."""
        return self._read.get(key, {})

    @classmethod
    def empty(cls, name: str, anatomy: Anatomy) -> "Build":
        """A watch of which nothing is known yet but its name."""
        return cls({"format": FORMAT, "name": name, "target": {}, "parts": {}, "rules": {}}, anatomy)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Build) and self._document == other._document

    __hash__ = None  # type: ignore[assignment]  # a build holds a JSON document; nothing needs it as a key

    @property
    def document(self) -> dict[str, Json]:
        """A copy of the whole sheet, unknown keys included."""
        return copy.deepcopy(self._document)

    @cached_property
    def text(self) -> str:
        """The sheet in one line of JSON: as it is stored, and what tells two builds apart."""
        return json.dumps(self._document, ensure_ascii=False, separators=(",", ":"), allow_nan=False)

    @property
    def raw(self) -> Mapping[str, Json]:
        """The sheet itself, to be read and never to be changed."""
        return self._document

    @property
    def name(self) -> str:
        """The watch's name."""
        return str(self._document["name"])

    @property
    def has_rotor(self) -> bool:
        """Whether a rotor winds the movement: so unless somebody said that it is driven otherwise."""
        return self.at(DRIVE) not in WITHOUT_ROTOR or DRIVE in self.assumed_words

    @property
    def rules(self) -> Mapping[str, Json]:
        """The sheet's own rules, unread; `rules.py` gives them meaning."""
        return self._document.get("rules") or {}

    def target(self, key: str) -> float | None:
        """A plain number of the target, its unit at the end of its key, or None where it is not set."""
        found = (self._document.get("target") or {}).get(key)
        return None if found is None else float(found)

    @property
    def wanted_functions(self) -> list[str]:
        """The functions that the target asks for, by name; none where it asks for none."""
        return list((self._document.get("target") or {}).get("functions") or [])

    @cached_property
    def assumed_words(self) -> frozenset[str]:
        """Paths of the words that nobody said: a family brought them."""
        return frozenset(self._document.get(ASSUMED_WORDS) or ())

    def is_said(self, path: str) -> bool:
        """Whether somebody said what stands there: a word that is not assumed, a size that is known."""
        known = self.dimensions.get(path)
        return path not in self.assumed_words and (known is None or known.source.is_known)

    @cached_property
    def together(self) -> tuple[frozenset[str], ...]:
        """Lists of the parts that came assembled, by their slots."""
        return together_of(self._document)

    @cached_property
    def sold_for(self) -> Mapping[str, frozenset[str]]:
        """By slot the calibres that each part is sold for, and the movement's own names, as compared."""
        own = {key: CALIBRES if key == MOVEMENT else SUITS for key in self.parts}
        return {key: names_of(self.parts[key], told) for key, told in own.items()}

    @cached_property
    def tried(self) -> Mapping[str, DryFitResult]:
        """What was tried on the bench, by dry fit."""
        return tried_of(self._document)

    @cached_property
    def alterations(self) -> tuple[Alteration, ...]:
        """What is, or is to be, altered of bought parts, in the sheet's order."""
        return alterations_of(self._document)

    @cached_property
    def as_planned(self) -> "Build":
        """The watch with every alteration that is not done yet: what the fit counts."""
        made = self
        for alteration in self.alterations:
            if alteration.done is None:
                made = made.altered(alteration)
        made.__dict__["as_planned"] = made
        return made

    def altered(self, alteration: Alteration, *, done: bool = False) -> "Build":
        """The build with an alteration's changes written in, as planned or, once `done`, as they are given.

        A change whose place is no longer there changes nothing: its part was replaced.
        """
        made = self
        for change in alteration.changes:
            value = change.after if done else as_planned(change.after, change.before)
            try:
                made = made.without(change.path) if value is None else made.with_entry(change.path, value)
            except NotFoundError:
                continue
        return made

    def restored(self, alteration: Alteration) -> "Build":
        """The build as it was before an alteration that was done."""
        back = tuple(Change(one.path, one.after, one.before) for one in alteration.changes)
        return self.altered(replace(alteration, changes=back), done=True)

    def with_statement(self, key: str, value: Json) -> "Build":
        """The build with another statement as a whole (`tried`, …); None or empty takes it away."""
        refuse_hostile(value)
        document = {k: v for k, v in self._document.items() if k != key}
        if value:
            document[key] = copy.deepcopy(value)
        checked_document(document)
        return self._made(document, self._read)

    def has(self, path: str) -> bool:
        """Whether the part, or the entry of a part, is in the sheet; an empty list of spacers is none."""
        # A report asks three hundred times, of a few dozen paths; a build never changes.
        known = self._has.get(path)
        if known is None:
            found = self.at(path) if "." in path else self.parts.get(path)
            known = self._has[path] = found is not None and found != []
        return known

    def at(self, path: str) -> Json:
        """What stands at the path below `parts`, or None."""
        node: Json = self.parts
        for step in path.split("."):
            if isinstance(node, Mapping):
                node = node.get(step)
            elif (
                isinstance(node, Sequence)
                and not isinstance(node, str)
                and is_number(step)
                and len(step) < MOST_DIGITS
            ):
                node = node[int(step)] if int(step) < len(node) else None
            else:
                return None
        return node

    def count(self, path: str) -> int:
        """How many things the list at the path holds."""
        found = self.at(path) if "." in path else self.parts.get(path)
        return len(found) if isinstance(found, list) else 0

    def with_entry(self, path: str, value: Json) -> "Build":
        """The build with `value` at the path; a path ending in `.-` appends to its list.

        Raises NotFoundError where no part has such an entry, SheetError or DimensionError for the value.
        """
        refuse_hostile(value)
        key, *below = path.split(".")
        written = _written(self.anatomy.part(key), self.parts.get(key), below, copy.deepcopy(value), path)
        return self._with({key: written}).said(path)

    def with_parts(self, held: Mapping[str, Json]) -> "Build":
        """The build with other parts in these slots, all at once; None empties a slot."""
        refuse_hostile(held)
        made = self._with(copy.deepcopy(dict(held)))
        for path in self.assumed_words:
            if path.partition(".")[0] in held and made.at(path) != self.at(path):
                made = made.said(path)
        return made

    def with_read(self, held: Mapping[str, tuple[Json, Dimensions]]) -> "Build":
        """The same with parts that were read before, as `Part` holds them; they are not read again."""
        return self._with({key: document for key, (document, _) in held.items()}, held)

    def _with(
        self, held: Mapping[str, Json], known: Mapping[str, tuple[Json, Dimensions]] | None = None
    ) -> "Build":
        parts, read = dict(self.parts), dict(self._read)
        for key, value in held.items():
            if value is None:
                parts.pop(key, None)
                read.pop(key, None)
            else:
                parts[key] = value
                read[key] = known[key][1] if known else dimensions_of(self.anatomy, key, value)
                if not known:
                    refuse_unwritable_numbers(value)
        return self._made({**self._document, "parts": parts}, read)

    def said(self, path: str) -> "Build":
        """The build with the words at or below the path no longer assumed: somebody wrote them."""
        kept = [
            word for word in self._document.get(ASSUMED_WORDS) or () if not f"{word}.".startswith(f"{path}.")
        ]
        return self if len(kept) == len(self.assumed_words) else self.with_statement(ASSUMED_WORDS, kept)

    def _made(self, document: dict[str, Json], read: Mapping[str, Dimensions]) -> "Build":
        made = Build.__new__(Build)
        made._take(document, self.anatomy, read)  # noqa: SLF001  # the same class
        return made

    def without(self, path: str) -> "Build":
        """The build without the part or entry at the path; NotFoundError where there is none."""
        if self.at(path) is None:
            raise NotFoundError(f"entry {path[:80]!r} in this watch")
        key, *below = path.split(".")
        return self._with({key: _cut(self.parts[key], below) if below else None})

    def with_rules(self, rules: Json) -> "Build":
        """The build with other rules of its own, as a whole."""
        refuse_hostile(rules)
        refuse_unwritable_numbers(rules)
        document = {**self._document, "rules": copy.deepcopy(rules)}
        checked_document(document)
        return self._made(document, self._read)

    def with_target(self, target: Json) -> "Build":
        """The build with another target, as a whole."""
        refuse_hostile(target)
        document = {**self._document, "target": copy.deepcopy(target)}
        checked_document(document)
        return self._made(document, self._read)

    def renamed(self, name: str) -> "Build":
        """The build under another name; SheetError where it cannot be one."""
        document = {**self._document, "name": name}
        checked_document(document)
        return self._made(document, self._read)


def _written(entry: Entry, node: Json, below: list[str], value: Json, path: str) -> Json:
    """A copy of the node with the value below it; what does not lie on the way is shared."""
    if not below:
        return value
    step, *rest = below
    if isinstance(entry, Group):
        inner = next((e for e in entry.within if e.key == step), None)
        if inner is not None and (node is None or isinstance(node, dict)):
            held = node or {}
            return {**held, step: _written(inner, held.get(step), rest, value, path)}
    elif isinstance(entry, Many) and (node is None or isinstance(node, list)):
        items = list(node or [])
        thing = Group(entry.key, entry.label, entry.entries, looks=entry.looks, face=entry.face)
        if step == "-" and not rest:
            return [*items, value]
        if is_number(step) and len(step) < MOST_DIGITS and int(step) < len(items):
            items[int(step)] = _written(thing, items[int(step)], rest, value, path)
            return items
    raise NotFoundError(f"entry {path[:80]!r} in this watch")


MOST_DIGITS = 5


def _cut(node: Json, below: list[str]) -> Json:
    """A copy of the node without what stands below it; it is known to be there."""
    step, *rest = below
    if isinstance(node, list):
        index = int(step)
        kept = [_cut(node[index], rest)] if rest else []
        return [*node[:index], *kept, *node[index + 1 :]]
    if rest:
        return {**node, step: _cut(node[step], rest)}
    return {key: value for key, value in node.items() if key != step}
