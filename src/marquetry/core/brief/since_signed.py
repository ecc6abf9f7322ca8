"""What was changed after the client's yes: parts, and wishes that are talked over again."""

from dataclasses import dataclass

from marquetry.core.brief.wish import Brief, ClientWish
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import changed_parts
from marquetry.core.sheet.difference import told
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import PART_LINK


@dataclass(frozen=True, slots=True)
class PartSince:
    """A slot that is not as it was signed: names, and numbers on the shelf, of the part then and now.

    `is_other`: another part came in, or one went; else only something of it is told otherwise.
    """

    kind: Kind
    before: str
    after: str
    was: int | None
    now: int | None
    is_other: bool


@dataclass(frozen=True, slots=True)
class SinceSigned:
    """All that differs from what was signed."""

    parts: tuple[PartSince, ...]
    changes: tuple[str, ...]
    wishes: tuple[ClientWish, ...]

    @property
    def is_nothing(self) -> bool:
        """Whether the watch is still the one that was signed."""
        return not (self.changes or self.wishes)


def since_signed(signed: Build, now: Build, brief: Brief) -> SinceSigned:
    """Compare the watch with the version that was signed, and the brief with what it was a yes to."""
    last = brief.signed.last_step if brief.signed else 0
    wishes = tuple(wish for wish in brief.wishes if wish.last and wish.last.number > last)
    kinds = (now.anatomy.kind(key) for key in changed_parts(signed, now))
    return SinceSigned(tuple(_part(signed, now, kind) for kind in kinds), tuple(told(signed, now)), wishes)


def _part(signed: Build, now: Build, kind: Kind) -> PartSince:
    before, after = (str(build.at(f"{kind.prefix}.name") or "") for build in (signed, now))
    links = [build.at(f"{kind.prefix}.{PART_LINK}") for build in (signed, now)]
    was, is_now = (number if isinstance(number, int) else None for number in links)
    is_other = signed.has(kind.key) != now.has(kind.key) or before != after or was != is_now
    return PartSince(kind, before, after, was, is_now, is_other)
