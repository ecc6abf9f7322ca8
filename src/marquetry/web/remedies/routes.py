"""Remedies of a watch: each with what it mends and spoils, to be looked at, taken, or kept as a variant."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Query
from starlette.responses import Response

from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.squeeze_pairs import DIAMETER, WALL, Pairs, Size, squeeze_pairs
from marquetry.core.making.parts import made_name
from marquetry.core.remedies.altering import FirstFind
from marquetry.core.remedies.idea import EFFORT_WORDS, Idea
from marquetry.core.remedies.offers import Remedy, offers
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.difference import difference
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.scene import Scene
from marquetry.drawing.section_thumb import section_thumb
from marquetry.store.shelf_search import ShelfQuery, search
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")
SHOWN = 10
TurnTold = tuple[str, Verdict, Verdict]


@dataclass(frozen=True, slots=True)
class RemedyRow:
    """One remedy as the page shows it; `query` is the trial that it is, `others` come with their effort."""

    remedy: Remedy
    thumb: Scene
    mends: tuple[TurnTold, ...]
    worsens: tuple[TurnTold, ...]
    effort: str
    others: tuple[tuple[str, str], ...]
    query: str
    made: tuple[tuple[str, str], ...]
    """Names and labels of the parts that are to be made for it."""


def _made(before: Build, after: Build) -> Iterator[tuple[str, str]]:
    """Parts made here of which the remedy changes something, those that nobody sells."""
    for key in ("holder", SPACERS.key, "dial_adapter", "press_support"):
        paths = [f"{key}.{k}" for k in range(after.count(key))] if key == SPACERS.key else [key]
        for path in paths:
            if after.has(path) and after.at(path) != before.at(path):
                yield made_name(path), after.anatomy.label_of(path).split(", ")[-1].lower()


def _row(visit: Visit, before: Report, remedy: Remedy) -> RemedyRow:
    build = remedy.taken
    edits = json.dumps(difference(visit.stored.build, build), separators=(",", ":"), ensure_ascii=False)
    thumb = section_thumb(lay_out(remedy.report.build, remedy.report), build.name)
    return RemedyRow(
        remedy,
        thumb,
        _turns(before, remedy, remedy.mends),
        _turns(before, remedy, remedy.worsens),
        _effort(remedy.idea),
        tuple((other.title, _effort(other)) for other in remedy.others),
        f"?{urlencode({'try': edits})}",
        tuple(_made(visit.stored.build, build)) if remedy.idea.make else (),
    )


@dataclass(frozen=True, slots=True)
class FirstRow:
    """What to find out before anything is done to a part: for which check, and how."""

    title: str
    verdict: Verdict
    by_seller: bool
    dry_fit: tuple[str, str] | None
    paths: tuple[tuple[str, str], ...]


def _first(visit: Visit, before: Report, find: FirstFind) -> FirstRow:
    model, finding = visit.model, before.findings[find.check]
    dry_fit = model.dry_fit_by_key[find.dry_fit] if find.dry_fit else None
    return FirstRow(
        model.title(find.check),
        finding.verdict,
        finding.by == "listed",
        (dry_fit.key, dry_fit.title) if dry_fit else None,
        tuple((path, model.anatomy.label_of(path)) for path in find.paths[:MOST_PATHS]),
    )


MOST_PATHS = 6


def _effort(idea: Idea) -> str:
    undone = "can be undone" if idea.undo else "cannot be undone"
    return f"{EFFORT_WORDS[idea.effort]} · {undone}"


def _turns(before: Report, remedy: Remedy, names: tuple[str, ...]) -> tuple[TurnTold, ...]:
    return tuple(
        (before.rules.model.title(name), before.findings[name].verdict, remedy.report.findings[name].verdict)
        for name in names
    )


def _pairs(visit: Visit, rules: Rules) -> Pairs | None:
    """The chart of crystals and gaskets for this bore, with what lies on the shelf."""
    sizes = {}
    for path in (DIAMETER, WALL):
        kind, _, key = path.partition(".")
        found = search(visit.connection, ShelfQuery(chosen={"kind": kind}, stock="owned"))
        known = [(slip.stored.part.dimensions.get(key), slip.stored.part.name) for slip in found.slips]
        sizes[path] = [Size(dimension.value, name) for dimension, name in known if dimension]
    return squeeze_pairs(visit.stored.build, rules, sizes[DIAMETER], sizes[WALL])


@router.get("/remedies", name="remedies")
def show(visit: Visiting, more: Annotated[bool, Query()] = False, now: bool = False) -> Response:  # noqa: FBT001, FBT002  # an address's flags
    """The remedies; the page comes first and asks for them, since trying all of them takes a while."""
    if not (visit.fragments or now):
        context = {
            "watch": visit.stored,
            "ready": False,
            "query": "?more=true" if more else "",
            "way": visit.way("remedies"),
        }
        return render(visit.request, "remedies/templates/remedies.html", context)
    build = visit.stored.build
    rules = visit.rules(build)
    before = visit.report(build)
    found = offers(build, rules)
    shown = found.remedies if more else found.remedies[:SHOWN]
    context = {
        "watch": visit.stored,
        "ready": True,
        "way": visit.way("remedies"),
        "before": before,
        "rows": [_row(visit, before, remedy) for remedy in shown],
        "errands": [_row(visit, before, errand) for errand in found.errands],
        "hidden": len(found.remedies) - len(shown),
        "disagreements": [(visit.model.check(d.check), d) for d in found.disagreements],
        "pairs": _pairs(visit, rules),
        "first": [_first(visit, before, find) for find in found.first],
    }
    return render(
        visit.request,
        "remedies/templates/_remedies.html" if visit.fragments else "remedies/templates/remedies.html",
        context,
    )
