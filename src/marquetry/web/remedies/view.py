"""Remedies as the page shows them: what each mends, spoils and buys, and what is to be found out first."""

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from urllib.parse import urlencode

from marquetry.core.fit.report import Report
from marquetry.core.making.parts import made_name
from marquetry.core.remedies.altering import FirstFind
from marquetry.core.remedies.bought import bought
from marquetry.core.remedies.idea import EFFORT_WORDS, Idea
from marquetry.core.remedies.offers import Remedy
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.difference import difference
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.scene import Scene
from marquetry.drawing.section_thumb import section_thumb
from marquetry.store.finder_parts import ShelfCandidate
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.watch.visit import Visit

MOST_PATHS = 6
KnownParts = Callable[[str], list[ShelfCandidate]]
"""The parts that the workshop knows for a slot."""
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
    known: tuple[str, ...] = ()
    """Parts that the workshop knows which would do, each with what it costs, or that it lies there."""


def _made(before: Build, after: Build) -> Iterator[tuple[str, str]]:
    """Parts made here of which the remedy changes something, those that nobody sells."""
    for key in ("holder", SPACERS.key, "dial_adapter", "press_support"):
        paths = [f"{key}.{k}" for k in range(after.count(key))] if key == SPACERS.key else [key]
        for path in paths:
            if after.has(path) and after.at(path) != before.at(path):
                yield made_name(path), after.anatomy.label_of(path).split(", ")[-1].lower()


def remedy_row(visit: Visit, before: Report, remedy: Remedy, shelf: KnownParts) -> RemedyRow:
    """A remedy in words and as a drawing; `shelf` says which parts are known that would do."""
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
        tuple(_known(trade_terms(visit.connection).home, shelf, remedy.idea)),
    )


def _known(home: str, shelf: KnownParts, idea: Idea) -> Iterator[str]:
    """For each part that is to be bought the best that is known: one that lies here, else the cheapest."""
    for want in bought(idea):
        met = [one for one in shelf(want.slot) if want.is_met_by(one.part)]
        here = next((f"{one.part.name}: on the shelf" for one in met if one.piece is not None), "")
        # What is priced in another currency comes last: it cannot be told which is cheaper.
        sold = [
            (one.price.currency != home, one.price.minor, f"{one.part.name}: {one.price}")
            for one in met
            if one.price is not None
        ]
        if here or sold:
            yield here or min(sold)[2]


@dataclass(frozen=True, slots=True)
class FirstRow:
    """What to find out before anything is done to a part: for which check, and how."""

    title: str
    verdict: Verdict
    by_seller: bool
    dry_fit: tuple[str, str] | None
    paths: tuple[tuple[str, str], ...]


def first_row(before: Report, find: FirstFind) -> FirstRow:
    """What to find out first in words, at most MOST_PATHS sizes named."""
    model, finding = before.rules.model, before.findings[find.check]
    dry_fit = model.dry_fit_by_key[find.dry_fit] if find.dry_fit else None
    return FirstRow(
        model.title(find.check),
        finding.verdict,
        finding.by == "listed",
        (dry_fit.key, dry_fit.title) if dry_fit else None,
        tuple((path, model.anatomy.label_of(path)) for path in find.paths[:MOST_PATHS]),
    )


def _effort(idea: Idea) -> str:
    undone = "can be undone" if idea.undo else "cannot be undone"
    return f"{EFFORT_WORDS[idea.effort]} · {undone}"


def _turns(before: Report, remedy: Remedy, names: tuple[str, ...]) -> tuple[TurnTold, ...]:
    return tuple(
        (before.rules.model.title(name), before.findings[name].verdict, remedy.report.findings[name].verdict)
        for name in names
    )
