"""When what was tried, or said to have come together, no longer speaks: a part was replaced or altered."""

from collections.abc import Collection, Iterable, Mapping

from marquetry.core.evidence.dry_fit import DryFit
from marquetry.core.evidence.follow import followed
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import with_one_date_window
from marquetry.core.sheet.described.words import ARRIVING
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import LINKS
from marquetry.core.sheet.statements import (
    ALTERATIONS,
    ARRIVED,
    ASSUMED_WORDS,
    MOVEMENT,
    STAYS,
    TOGETHER,
    TRIED,
)
from marquetry.core.values.dimension import Source

DryFits = Mapping[str, DryFit]


def replaced(build: Build, slots: Collection[str], dry_fits: DryFits) -> Build:
    """The build without what was tried with, said of or planned for the parts that stood in these slots."""
    gone = frozenset(slots)
    made = _without_arrived(_without_groups(without_tried(build, slots, dry_fits), gone), gone)
    kept = [one.as_dict() for one in made.alterations if not any(map(one.touches, gone))]
    if len(kept) < len(made.alterations):
        made = made.with_statement(ALTERATIONS, kept)
    words = [path for path in made.raw.get(ASSUMED_WORDS) or () if path.partition(".")[0] not in gone]
    return made if len(words) == len(made.assumed_words) else made.with_statement(ASSUMED_WORDS, words)


def without_tried(build: Build, slots: Collection[str], dry_fits: DryFits) -> Build:
    """The build without every dry fit that handled a part of these slots."""
    tried: dict[str, Json] = dict(build.raw.get(TRIED) or {})
    kept = {key: found for key, found in tried.items() if not _handles(dry_fits.get(key), slots)}
    return build if kept == tried else build.with_statement(TRIED, kept)


def came_together(build: Build, groups: list[list[str]]) -> Build:
    """The build with these lists of parts as come assembled.

    A dial, or hands, that came on the movement are this watch's own and stay on it: the bench then looks them
    over instead of fitting them again.
    """
    made = build.with_statement(TOGETHER, groups)
    if not build.has(MOVEMENT):
        return made
    on_it = [one for one in ARRIVING if any({MOVEMENT, one} <= set(group) for group in groups)]
    had = any(MOVEMENT in group for group in build.together)
    if not on_it and not had:
        return made
    told = {key: value for key, value in made.parts[MOVEMENT].items() if key not in ARRIVED}
    said = dict(zip(ARRIVED, (on_it, True), strict=True)) if on_it else {}
    return made.with_parts({MOVEMENT: {**told, **said}})


def _handles(dry_fit: DryFit | None, slots: Collection[str]) -> bool:
    return dry_fit is not None and not frozenset(dry_fit.parts).isdisjoint(slots)


def _without_groups(build: Build, slots: frozenset[str]) -> Build:
    """A part that was replaced did not come with the others; what is left of its group still did."""
    if not any(group & slots for group in build.together):
        return build
    groups = [[slot for slot in group if slot not in slots] for group in build.raw[TOGETHER]]
    return build.with_statement(TOGETHER, [group for group in groups if len(group) > 1])


def _without_arrived(build: Build, gone: frozenset[str]) -> Build:
    """Another dial or other hands: what the movement arrived with no longer stays on it."""
    if gone.isdisjoint(ARRIVING) or build.at(STAYS) is None:
        return build
    left = {key: value for key, value in build.parts[MOVEMENT].items() if key != ARRIVED[1]}
    return build.with_parts({MOVEMENT: left})


def lapsed(before: Build, after: Build, dry_fits: DryFits) -> Build:
    """`after` without what lapses by what changed since `before`; measuring a part lapses nothing."""
    said = after.tried or after.together or after.alterations or after.assumed_words
    if not said and after.at(STAYS) is None:
        return after
    # What is planned counts: a dial whose feet are to come off is tried again once they are off.
    then, now = before.as_planned, after.as_planned
    changed = [key for key in then.parts if then.parts[key] != now.parts.get(key)]
    others = {key for key in changed if _is_another(then.parts[key], now.parts.get(key))}
    made = replaced(after, others, dry_fits) if others else after
    altered = {key for key in changed if key not in others and _is_altered(then, now, key)}
    altered |= {key for key in now.parts if key not in then.parts}
    return without_tried(made, altered, dry_fits) if altered else made


def settled(before: Build | None, after: Build, dry_fits: DryFits) -> Build:
    """The build as every save keeps it: without what lapsed since `before`, what is assumed settled anew."""
    if before is None:
        return followed(after)
    return followed(lapsed(before, with_one_date_window(before, after), dry_fits))


def _is_another(before: Json, after: Json) -> bool:
    """Whether another part stands in the slot: taken out, or another part or piece of the shelf."""
    if not isinstance(before, dict) or not isinstance(after, dict):
        return after is None
    if all(before.get(link) == after.get(link) for link in LINKS):
        return False
    if all(before.get(link) is None for link in LINKS) and _is_filled_in(before, after):
        return False
    # A part that is put on the shelf from the watch is still itself: only its links are new.
    plain = [{k: v for k, v in part.items() if k not in LINKS} for part in (before, after)]
    return plain[0] != plain[1]


READ = {source.value for source in (Source.MEASURED, Source.EXACT)}


def _is_filled_in(before: Mapping[str, Json], after: Mapping[str, Json]) -> bool:
    """Whether a part that nobody chose, or one of that very name, is only told more about, by the catalogue.

    What was read at the bench is read of one part: where that is gone, another one stands there.
    """
    if before.get("name") not in {None, "", after.get("name")}:
        return False
    read = {key for key, value in before.items() if isinstance(value, dict) and value.get("source") in READ}
    return all(after.get(key) == before[key] for key in read)


def _is_altered(before: Build, after: Build, key: str) -> bool:
    """Whether something was done to the part, or is planned: not only told or measured anew."""
    if isinstance(after.parts.get(key), list):
        return True
    lists = {path.rpartition(".")[0].rpartition(".")[0] for path in _listed(before.sizes_of(key))}
    if any(before.count(path) != after.count(path) for path in lists):
        return True
    now, then = after.sizes_of(key), before.sizes_of(key)
    return any(
        found.source is Source.PLANNED and (path not in then or then[path].value != found.value)
        for path, found in now.items()
    )


def _listed(paths: Iterable[str]) -> list[str]:
    """Paths of the sizes of things in a list: `dial.feet.0.radius`."""
    return [path for path in paths if any(step.isdecimal() for step in path.split("."))]
