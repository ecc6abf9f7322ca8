"""What is said of a watch beside its sizes: what came assembled, what was tried, what is to be altered.

Checked when a sheet is read and written back as it came; here it gets its meaning.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from marquetry.core.sheet.plain import has_control
from marquetry.core.values.errors import SheetError

JsonValue = Any

ASSUMED_WORDS, TOGETHER, TRIED, ALTERATIONS = "assumed_words", "together", "tried", "alterations"
SUITS, CALIBRES, MOVEMENT = "suits", "calibres", "movement"
MOST_WORDS, MOST_TOGETHER, MOST_TRIED, MOST_MISSES, MOST_ALTERATIONS, MOST_CHANGES = 200, 24, 40, 40, 60, 40
LONGEST_PATH, LONGEST_NOTE = 120, 500
ARRIVED = ("arrives_with", "arrives_stays")
ARRIVES_WITH, STAYS = (f"{MOVEMENT}.{key}" for key in ARRIVED)
"""A movement's entries: what a bought one has on it, and whether that stays."""
DRIVE = "movement.drive"
WITHOUT_ROTOR = ("battery", "hand-wound")
"""Drives that no rotor winds."""
ALTERATION_KINDS: dict[str, str] = {
    "feet_off": "Feet off",
    "feet_bent": "Feet bent",
    "holes_drilled": "Holes drilled",
    "edge_turned": "Edge turned down",
    "hole_broached": "Hole broached",
    "pipe_closed": "Pipe closed",
    "pipe_opened": "Pipe opened",
    "ring_filed": "Ring filed",
    "post_out": "Pinion taken out",
    "spring_bent": "Spring bent",
    "stem_cut": "Stem cut",
    "other": "Other",
}
"""What is done to a bought part, by kind, and its name for a builder."""


@dataclass(frozen=True, slots=True)
class DryFitResult:
    """What a dry fit showed: it fits, or it does not, and then which checks were seen to fail."""

    fits: bool
    misses: tuple[str, ...] = ()
    on: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class Change:
    """One entry of an alteration: what really stands at the path, and what will (None takes it away)."""

    path: str
    before: JsonValue
    after: JsonValue


@dataclass(frozen=True, slots=True)
class Alteration:
    """What is to be done to a bought part; `done` is when it was, None while it is only planned."""

    id: str
    title: str
    kind: str
    changes: tuple[Change, ...]
    done: str | None = None

    def as_dict(self) -> dict[str, JsonValue]:
        """As a sheet carries it."""
        changes = [{"path": c.path, "from": c.before, "to": c.after} for c in self.changes]
        return {"id": self.id, "title": self.title, "kind": self.kind, "changes": changes, "done": self.done}

    def touches(self, part: str) -> bool:
        """Whether it changes anything of the part in that slot."""
        return any(change.path.partition(".")[0] == part for change in self.changes)


def alike(name: str) -> str:
    """A calibre's name as names are compared: without case, spaces and hyphens."""
    return "".join(letter for letter in name.casefold() if not letter.isspace() and letter not in "-‐‑–")


def names_of(part: JsonValue, key: str) -> frozenset[str]:
    """The calibres that a part lists under the key, as they are compared."""
    found = part.get(key) if isinstance(part, Mapping) else None
    return frozenset(alike(name) for name in found or () if isinstance(name, str) and alike(name))


def together_of(document: Mapping[str, JsonValue]) -> tuple[frozenset[str], ...]:
    """The lists of parts that came assembled, by their slots."""
    return tuple(frozenset(group) for group in document.get(TOGETHER) or ())


def tried_of(document: Mapping[str, JsonValue]) -> dict[str, DryFitResult]:
    """What was tried, by dry fit."""
    return {
        key: DryFitResult(
            found["fits"],
            tuple(found.get("misses") or ()),
            str(found.get("on") or ""),
            str(found.get("note") or ""),
        )
        for key, found in (document.get(TRIED) or {}).items()
    }


def alterations_of(document: Mapping[str, JsonValue]) -> tuple[Alteration, ...]:
    """Every alteration, done or not, in the sheet's order."""
    return tuple(
        Alteration(
            found["id"],
            found["title"],
            found["kind"],
            tuple(Change(c["path"], c.get("from"), c.get("to")) for c in found["changes"]),
            found.get("done"),
        )
        for found in document.get(ALTERATIONS) or ()
    )


def as_planned(after: JsonValue, before: JsonValue) -> JsonValue:
    """What will stand at a path as a sheet carries it, every size that differs from `before` planned."""
    if after == before or after is None or isinstance(after, bool | str):
        return after
    if isinstance(after, int | float):
        return {"value": after, "source": "planned"}
    if isinstance(after, list):
        # One foot fewer moves all behind it up: what stood anywhere in the list before is no change.
        known = before if isinstance(before, list) else []
        return [item if item in known else as_planned(item, None) for item in after]
    if "value" in after:
        return {**after, "source": "planned"}
    held = before if isinstance(before, dict) else {}
    return {key: as_planned(item, held.get(key)) for key, item in after.items()}


def refuse_statements(document: Mapping[str, JsonValue]) -> None:
    """Raise SheetError, naming the place, where a statement of a sheet cannot be read."""
    _words(ASSUMED_WORDS, document.get(ASSUMED_WORDS), MOST_WORDS)
    groups = _list(TOGETHER, document.get(TOGETHER), MOST_TOGETHER)
    for index, group in enumerate(groups):
        _words(f"{TOGETHER}[{index}]", group, MOST_TOGETHER)
    tried = document.get(TRIED)
    if tried is not None:
        _refuse_tried(tried)
    for index, found in enumerate(_list(ALTERATIONS, document.get(ALTERATIONS), MOST_ALTERATIONS)):
        _refuse_alteration(f"{ALTERATIONS}[{index}]", found)


def _refuse_tried(tried: JsonValue) -> None:
    if not isinstance(tried, dict) or len(tried) > MOST_TRIED:
        raise SheetError(TRIED, f"an object in braces with at most {MOST_TRIED} entries")
    for key, found in tried.items():
        path = f"{TRIED}.{str(key)[:40]}"
        if not isinstance(found, dict):
            raise SheetError(path, "an object in braces")
        if not isinstance(found.get("fits"), bool):
            raise SheetError(f"{path}.fits", "true or false")
        _words(f"{path}.misses", found.get("misses"), MOST_MISSES)
        for word in ("on", "note"):
            _plain(f"{path}.{word}", found.get(word))


def _refuse_alteration(path: str, found: JsonValue) -> None:
    if not isinstance(found, dict):
        raise SheetError(path, "an object in braces")
    for word in ("id", "title"):
        if not isinstance(found.get(word), str) or not found[word]:
            raise SheetError(f"{path}.{word}", "a word in quotation marks")
        _plain(f"{path}.{word}", found[word])
    if found.get("kind") not in ALTERATION_KINDS:
        raise SheetError(f"{path}.kind", "one of " + ", ".join(ALTERATION_KINDS))
    _plain(f"{path}.done", found.get("done"))
    for index, change in enumerate(_list(f"{path}.changes", found.get("changes"), MOST_CHANGES)):
        if not isinstance(change, dict) or not isinstance(change.get("path"), str):
            raise SheetError(f"{path}.changes[{index}].path", "a path such as dial.feet")
        _plain(f"{path}.changes[{index}].path", change["path"])


def _list(path: str, value: JsonValue, most: int) -> list[JsonValue]:
    if value is None:
        return []
    if not isinstance(value, list) or len(value) > most:
        raise SheetError(path, f"a list in square brackets of at most {most} entries")
    return value


def _words(path: str, value: JsonValue, most: int) -> None:
    for word in _list(path, value, most):
        if not isinstance(word, str) or not word or len(word) > LONGEST_PATH or has_control(word):
            raise SheetError(path, f"a list of words of at most {LONGEST_PATH} letters")


def _plain(path: str, value: JsonValue) -> None:
    if value is not None and not (
        isinstance(value, str) and len(value) <= LONGEST_NOTE and not has_control(value)
    ):
        raise SheetError(path, f"words in quotation marks, at most {LONGEST_NOTE} plain letters")
