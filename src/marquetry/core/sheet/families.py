"""Families: a usual watch of a size and crown place, every dimension assumed, to begin a watch from.

A family says only what sets it apart; all else follows from what such parts usually measure. A watch kept
as a family is the same made of a watch: its dimensions stay, known from then on by assumption only.
"""

from collections.abc import Iterable, Iterator
from functools import lru_cache

from marquetry.core.sheet.anatomy import Anatomy, is_number
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import FORMAT, Json, assumed_entry
from marquetry.core.sheet.part import LINKS
from marquetry.core.sheet.ready_families import READY, WatchFamily
from marquetry.core.sheet.schema import Choice, Count, Entry, Flag, Group, Many, Names, Quantity, Text
from marquetry.core.sheet.statements import (
    ALTERATIONS,
    ASSUMED_WORDS,
    CALIBRES,
    SUITS,
    TOGETHER,
    TRIED,
)
from marquetry.core.values.dimension import Source
from marquetry.core.values.errors import NotFoundError

LISTING = "listing"
"""Key under which a part keeps the seller's text that some of it was read from."""


def ready_family(key: str) -> WatchFamily:
    """The ready family of that key; NotFoundError where there is none."""
    found = next((family for family in READY if family.key == key), None)
    if found is None:
        raise NotFoundError(f"family “{key[:40]}”")
    return found


@lru_cache(maxsize=32)
def usual_watch(family: WatchFamily, anatomy: Anatomy) -> Build:
    """A watch of the family: every part it has, every dimension assumed."""
    return _Usual(family, anatomy).build()


class _Usual:
    """One family being written out: what it sets, what follows from a neighbour, what is usual."""

    def __init__(self, family: WatchFamily, anatomy: Anatomy) -> None:
        self._family, self._anatomy = family, anatomy
        crown = family.sets.get("case.crown_angle", anatomy.quantity_at("case.crown_angle").usual)
        hole = anatomy.quantity_at("movement.foot_holes.0.angle").usual
        turned = {f"dial.feet.{n}.angle": crown + hole + 180.0 * n for n in range(2)}
        turned |= {f"movement.foot_holes.{n}.angle": hole + 180.0 * n for n in range(2)}
        shown = {"dial.date_window_angle": crown, "movement.date_angle": 0.0}
        self._values = {**turned, **shown, **family.sets}

    def build(self) -> Build:
        """The whole watch, named after its family."""
        kept = {key: self._part(self._anatomy.part(key), key) for key in self._family.parts}
        made = Build(
            {"format": FORMAT, "name": self._family.name, "target": {}, "parts": kept, "rules": {}},
            self._anatomy,
        )
        for path, value in self._family.says.items():
            made = made.with_entry(path, value) if made.has(path.partition(".")[0]) else made
        return made.with_statement(ASSUMED_WORDS, word_paths(made))

    def _part(self, part: Group | Many, key: str) -> Json:
        return dict(self._entries(part.entries, key))

    def _entries(self, entries: tuple[Entry, ...], above: str) -> Iterator[tuple[str, Json]]:
        for entry in entries:
            path = f"{above}.{entry.key}"
            if isinstance(entry, Quantity) and not entry.differs and not self._is_silent(path):
                yield entry.key, assumed_entry(self._value(path))
            elif isinstance(entry, Group) and entry.key not in OUTLINES and self._has(entry):
                yield entry.key, dict(self._entries(entry.entries, path))
            elif isinstance(entry, Many) and entry.key in PAIRED:
                yield entry.key, [dict(self._entries(entry.entries, f"{path}.{n}")) for n in range(2)]

    def _has(self, entry: Group) -> bool:
        return not entry.optional or entry.key in self._family.hands

    def _is_silent(self, path: str) -> bool:
        """Whether the family has no such thing: a date it does not show, a rotor or a step of its own."""
        dateless = not self._family.says.get("dial.windows")
        return (dateless and "date_" in path) or path in LEFT_OUT

    def _value(self, path: str) -> float:
        if path not in self._values:
            quantity = self._anatomy.quantity_at(path)
            neighbour = quantity.near
            near = None if neighbour is None else self._value(neighbour[0]) + neighbour[1]
            self._values[path] = quantity.usual if near is None else near
        return self._values[path]


PAIRED = ("feet", "foot_holes")
"""Lists of which a usual watch has two."""
OUTLINES = ("slot", "lugs", "fastening", "dial_ring", "h24_disc")
LEFT_OUT = {
    "movement.face_to_rotor", "movement.rotor_bearing_diameter", "holder.step", "strap.link_length",
    "strap.clasp_length", "strap.end_link_overhang", "movement.clamp_face", "case.seat_to_screw_face",
    "case.underside_diameter", "case.back_opening_diameter",
}  # fmt: skip
"""What only some watches have, so that a usual one says nothing of it."""


def as_family(build: Build) -> Build:
    """The watch as others of its kind begin: everything it knows, by assumption only; no links, no text."""
    kept = {k: v for k, v in build.document.items() if k not in {TOGETHER, TRIED, ALTERATIONS}}
    for part in kept["parts"].values():
        for item in part if isinstance(part, list) else [part]:
            if isinstance(item, dict):
                for link in (*LINKS, LISTING, CALIBRES, SUITS):
                    item.pop(link, None)
    made = Build({**kept, "target": {}, "rules": {}}, build.anatomy)
    for path, known in build.dimensions.items():
        made = made.with_entry(path, assumed_entry(known.value))
    return made.with_statement(ASSUMED_WORDS, word_paths(made))


def word_paths(build: Build) -> list[str]:
    """Paths of every word, list of words, count and flag of a build that a check may read."""
    return [
        path
        for part in build.anatomy.parts
        if isinstance(part, Group) and build.has(part.key)
        for path in _words_below(build, part, part.key)
    ]


def _words_below(build: Build, group: Group, above: str) -> Iterator[str]:
    for entry in group.entries:
        path = f"{above}.{entry.key}"
        if isinstance(entry, Group):
            yield from _words_below(build, entry, path)
        elif isinstance(entry, WORDED) and entry.key not in NO_WORDS and build.at(path) is not None:
            yield path


WORDED = (Choice, Text, Names, Count, Flag)
NO_WORDS = frozenset({"name", CALIBRES, SUITS})
"""What a part is called, and what it is sold for, is said by somebody or not at all."""


def nearest(build: Build, usual: Iterable[Build], key: str) -> Build | None:
    """Of these watches that have such a part the one nearest to what is known of this one, and not assumed.

    With nothing known the first, None where no watch has one; told by the mean of how far each dimension is
    off, as a share of it.
    """

    def apart(other: Build) -> float:
        known = [(d, other.dimensions.get(path)) for path, d in build.dimensions.items()]
        both = [(d.value, o.value) for d, o in known if o is not None and d.source is not Source.ASSUMED]
        shares = [abs(a - b) / max(abs(a), abs(b), 1.0) for a, b in both]
        return sum(shares) / len(shares) if shares else 0.0

    return min((one for one in usual if one.has(key)), key=apart, default=None)


def filled_up(build: Build, usual: Build, key: str) -> Build:
    """The build with what is not known of one part taken from a usual watch, by assumption only.

    A thing of a list that the part has not is not added: how many feet a dial has is no matter of assumption.
    """
    for path, known in usual.sizes_of(key).items():
        if path in build.dimensions or not _holds(build, path):
            continue
        build = build.with_entry(path, assumed_entry(known.value))
    return build


def _holds(build: Build, path: str) -> bool:
    """Whether the part has what the dimension belongs to: the foot of that number, the hand."""
    steps = path.split(".")
    above = ".".join(steps[:-1])
    listed = any(map(is_number, steps))
    return build.has(above) if listed or build.anatomy.owner_of(path) != steps[0] else build.has(steps[0])
