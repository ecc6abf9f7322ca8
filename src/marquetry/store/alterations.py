"""What the bench writes into a watch's sheet: an alteration that was done, or taken back with its tap.

The part becomes what it was planned to be, still planned until it is read; its piece on the shelf follows
with the sheet. Taken back, all stands as before the tap.
"""

from collections.abc import Iterable
from dataclasses import replace

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.statements import ALTERATIONS, Alteration, Change
from marquetry.store import watches
from marquetry.store.database import Connection


def write(connection: Connection, watch_id: int, done: Iterable[tuple[str, str | None]]) -> None:
    """Note each alteration as done at that moment (a text as clocks write it), or with None as not done."""
    stored = watches.watch(connection, watch_id)
    build, told = stored.build, list[str]()
    for name, at in done:
        found = next((one for one in build.alterations if one.id == name), None)
        if found is not None and (found.done is None) != (at is None):
            build = _with(build, found, at)
            told.append(f"{found.title}: {'done' if at else 'not done after all'}")
    if build != stored.build:
        watches.save(connection, watch_id, stored.version, build, f"bench: {'; '.join(told)}"[:200], stored)


def _with(build: Build, alteration: Alteration, at: str | None) -> Build:
    if at is None:
        back = tuple(Change(one.path, one.after, one.before) for one in alteration.changes)
        made = build.altered(replace(alteration, changes=back), done=True)
    else:
        made = build.altered(replace(alteration, done=None))
    written = [
        replace(one, done=at).as_dict() if one.id == alteration.id else one.as_dict()
        for one in build.alterations
    ]
    return made.with_statement(ALTERATIONS, written)
