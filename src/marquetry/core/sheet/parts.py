"""Every part of a watch and every entry that describes it: the one place that collects them."""

from marquetry.core.sheet.described import inside, outside, seals, wrist
from marquetry.core.sheet.schema import Entry, Group, Many, Quantity
from marquetry.core.values.errors import NotFoundError

PARTS: tuple[Group | Many, ...] = (
    outside.CASE,
    outside.CASE_BACK,
    outside.CRYSTAL,
    seals.CRYSTAL_GASKET,
    outside.CHAPTER_RING,
    inside.DIAL,
    inside.HANDS,
    inside.MOVEMENT,
    inside.ROTOR,
    inside.CALENDAR_DISC,
    inside.HOLDER,
    inside.SPACERS,
    outside.CROWN,
    seals.CROWN_GASKET,
    outside.STEM,
    seals.BACK_GASKET,
    outside.BEZEL,
    outside.BEZEL_INSERT,
    wrist.STRAP,
    wrist.SPRING_BARS,
)
PART_BY_KEY = {part.key: part for part in PARTS}


def entry_at(path: str) -> tuple[Entry, ...]:
    """The entries from the part down to `path`, such as (Movement, Posts, Minute post, Top above the face).

    A number in the path stands for one of a list. Raises NotFoundError where no such entry is described.
    """
    steps = [step for step in path.split(".") if not step.isdigit()]
    entries: tuple[Entry, ...] = PARTS
    trail: list[Entry] = []
    for step in steps:
        found = next((entry for entry in entries if entry.key == step), None)
        if found is None:
            raise NotFoundError(f"entry {path!r} in a build sheet")
        trail.append(found)
        entries = (*found.entries, *found.looks) if isinstance(found, Group | Many) else ()
    return tuple(trail)


def quantity_at(path: str) -> Quantity:
    """The description of the dimension at `path`; NotFoundError where the path names something else."""
    last = entry_at(path)[-1]
    if not isinstance(last, Quantity):
        raise NotFoundError(f"dimension {path!r} in a build sheet")
    return last


def label_of(path: str) -> str:
    """The path in a builder's words: `dial.feet.0.radius` is «Dial, foot 1, from the centre»."""
    trail = iter(entry_at(path))
    words: list[str] = []
    previous: Entry | None = None
    for step in path.split("."):
        if step.isdigit():
            singular = previous.singular if isinstance(previous, Many) else ""
            words[-1] = f"{singular} {int(step) + 1}"
        else:
            previous = next(trail)
            words.append(previous.label)
    tail = [word if "Ø" in word[:2] else word[0].lower() + word[1:] for word in words[1:]]
    return ", ".join([words[0][0].upper() + words[0][1:], *tail])
