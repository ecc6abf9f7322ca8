"""What is done to a bought part: which remedies do it, when they may be offered, and how one is kept.

Taken is not done. Such a remedy is kept as an alteration: the fit counts it as planned, the part stays what it
is until the bench says so. And none is offered on an assumption: what is cut off does not grow again.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.remedies.idea import Idea
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import Edit, applied, difference
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.statements import ALTERATIONS
from marquetry.core.values.dimension import Source
from marquetry.core.values.verdict import Verdict

ALTERS: dict[str, str] = {
    "feet_off": "feet_off",
    "pads": "feet_off",
    "new_holes": "holes_drilled",
    "shorter_feet": "other",
    "open_hole": "hole_broached",
    "open_bore": "hole_broached",
    "open_lug_hole": "hole_broached",
    "close_pipe": "pipe_closed",
    "open_pipe": "pipe_opened",
    "filed_ring": "ring_filed",
    "filed_notch": "ring_filed",
    "notch_off": "ring_filed",
    "nib_off": "ring_filed",
    "thinner_dial": "other",
    "scraped_edge": "edge_turned",
    "trimmed_hand": "other",
    "other_click": "spring_bent",
}
"""Kinds of remedy that alter a bought part, and the kind of alteration each is."""
MADE_HERE = ("holder", "spacers", "dial_adapter", "press_support", "dial.fastening")
"""What is made here, or laid in: planned in the sheet itself until it is measured."""
SURE = frozenset({Source.MEASURED, Source.EXACT, Source.PLANNED})
LISTS = ("dial.feet", "movement.foot_holes")
"""Feet and holes change as whole lists: their numbers move up when one goes."""


@dataclass(frozen=True, slots=True)
class FirstFind:
    """What to find out before anything is done to a part: a dry fit, or sizes to be read, for a check."""

    check: str
    dry_fit: str | None
    paths: tuple[str, ...]


def is_founded(finding: Finding, build: Build) -> bool:
    """Whether nothing that the finding rests on is assumed or only a seller's word."""
    if finding.verdict not in {Verdict.CLASH, Verdict.TIGHT}:
        return False
    return finding.by == "tried" or is_read(finding, build)


def is_read(finding: Finding, build: Build) -> bool:
    """Whether every size that the finding rests on was read, is exact or planned."""
    known = (build.dimensions.get(path) for path in finding.reads)
    return not finding.is_open and all(found is not None and found.source in SURE for found in known)


def first_find(report: Report, finding: Finding) -> FirstFind:
    """What would found the finding: the dry fit that settles it, and the sizes that nobody read."""
    dry_fit = report.rules.model.dry_fit_of(finding.check)
    known = report.build.dimensions
    paths = tuple(
        path
        for path in finding.reads or finding.uses.dimensions()
        if path not in known or known[path].source not in SURE
    )
    return FirstFind(finding.check, dry_fit if dry_fit not in report.build.tried else None, paths)


def taken(sheet: Build, idea: Idea) -> Build:
    """The sheet with the idea taken: what alters a bought part as an alteration, all else written in."""
    if idea.first is not None:
        sheet = taken(sheet, idea.first)
    if idea.before is None:
        return sheet
    edits = difference(idea.before, idea.build)
    kind = ALTERS.get(idea.kind.rpartition("+")[2])
    made = [edit for edit in edits if kind is None or edit[0].startswith(MADE_HERE)]
    sheet = applied(sheet, made)
    altered = [edit for edit in edits if edit not in made]
    return _with_alteration(sheet, idea, kind, altered) if kind and altered else sheet


def _with_alteration(sheet: Build, idea: Idea, kind: str, edits: list[Edit]) -> Build:
    known: list[Json] = list(sheet.raw.get(ALTERATIONS) or [])
    number = 1 + max((int(str(a["id"])[1:]) for a in known if str(a["id"])[1:].isdecimal()), default=0)
    before = idea.before or sheet
    changes = [
        {"path": path, "from": before.at(path), "to": idea.build.at(path)}
        for path in dict.fromkeys(_whole(path) for path, _ in edits)
    ]
    title = idea.title.rpartition("; then ")[2]
    title = f"{title[:1].upper()}{title[1:]}"
    return sheet.with_statement(
        ALTERATIONS,
        [*known, {"id": f"a{number}", "title": title, "kind": kind, "changes": changes, "done": None}],
    )


def _whole(path: str) -> str:
    return next((whole for whole in LISTS if path.startswith(f"{whole}.")), path)


def held_back(report: Report, checks: set[str]) -> Iterator[FirstFind]:
    """What to find out first for each of these checks, in the report's order."""
    yield from (first_find(report, found) for found in report.ranked() if found.check in checks)
