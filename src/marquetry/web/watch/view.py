"""The fit page of one watch: plate, tray of the chosen finding, ledger of its parts."""

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TypeAlias
from urllib.parse import urlencode

from fastapi import Request
from starlette.responses import Response

from marquetry.core.evidence.dry_fit import DryFit
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.figures import FigureTold
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report
from marquetry.core.fit.sentence import details, in_short, sentence
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import changed_parts
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.described.target import WISHES, Wish
from marquetry.core.sheet.difference import difference, told
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.statements import TOGETHER, DryFitResult
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.limit_ruler import limit_ruler
from marquetry.drawing.plate import plate
from marquetry.drawing.scene import Scene
from marquetry.drawing.sheet import MEASURED, STRETCHES, USUAL_TIME, Display
from marquetry.store.watches import StoredWatch
from marquetry.web.site.pages import render
from marquetry.web.watch.rows import (
    Fold,
    Rejected,
    Row,
    absent_parts,
    fold,
    folds,
    row_for,
    with_rejected,
)
from marquetry.web.watch.way import WayThrough, way_through
from marquetry.web.watch.worth_rows import fold_with_worth, row_with_worth

LookedAt: TypeAlias = Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Tray:
    """The chosen finding, explained, with every dimension it hangs on."""

    check: Check
    finding: Finding
    sentence: str
    details: tuple[str, ...]
    ruler: Scene | None
    rows: tuple[Row, ...]
    has_spacers: bool
    dry_fit: DryFit | None
    """What could be tried to settle it."""
    seen: DryFitResult | None
    """What trying it showed."""


@dataclass(frozen=True, slots=True)
class FitPage:
    """All that the templates show of one watch."""

    watch: StoredWatch
    report: Report
    display: Display
    plate: Scene
    tray: Tray | None
    parts: list[Fold]
    absent: list[tuple[str, str, str]]
    here: str
    """The address's query for this look and trial, as links and forms repeat it."""
    look: LookedAt
    way: WayThrough
    spacer_error: str = ""
    stored: Build | None = None
    stretches: tuple[float, ...] = STRETCHES

    @property
    def families(self) -> list[tuple[str, list[tuple[Check, Finding]]]]:
        """Every finding that speaks, by family."""
        spoken = {f.check: f for f in self.report.ranked()}
        found = [
            (name, [(c, spoken[c.name]) for c in checks if c.name in spoken])
            for name, checks in self.report.rules.model.families
        ]
        return [(name, findings) for name, findings in found if findings]

    @property
    def figures(self) -> list[tuple[str, str, str]]:
        """Each figure that no limit judges: its name, what it is, and its worst case or what it waits for."""
        label_of = self.watch.build.anatomy.label_of
        return [(told.figure.label, *_figure_told(told, label_of)) for told in self.report.figures.values()]

    @property
    def wishes(self) -> list[tuple[Wish, str]]:
        """What is wanted of the watch as a whole, with its figure where one is set."""
        target = self.watch.build.target
        return [(wish, "" if (set_to := target(wish.key)) is None else f"{set_to:g}") for wish in WISHES]

    @property
    def wished_functions(self) -> str:
        """The functions wanted, as they are typed."""
        return ", ".join(self.watch.build.wanted_functions)

    @property
    def planned(self) -> list[str]:
        """What is to be done to bought parts and is not done yet: drawn and counted as if it were."""
        return [one.title for one in self.watch.build.alterations if one.done is None]

    @property
    def slots(self) -> list[tuple[str, str]]:
        """The parts in the watch that may have come assembled, by slot and label."""
        build = self.watch.build
        return [(part.key, part.label) for part in build.anatomy.parts if build.has(part.key)]

    @property
    def together(self) -> list["CameTogether"]:
        """The groups of parts that came assembled, in words."""
        part = self.watch.build.anatomy.by_key
        groups: list[list[str]] = self.watch.build.raw.get(TOGETHER) or []
        return [CameTogether(tuple(part[slot].label if slot in part else slot for slot in g)) for g in groups]

    @property
    def is_trial(self) -> bool:
        """Whether nothing of what is edited here is stored."""
        return self.stored is not None

    @property
    def tried(self) -> list[str]:
        """What a trial changes against the stored watch, in words."""
        return [] if self.stored is None else told(self.stored, self.watch.build)

    def query(self, **changed: object) -> str:
        """The address's query for the same look and trial with something changed."""
        return _query(self.look, **changed)


@dataclass(frozen=True, slots=True)
class CameTogether:
    """Parts that came assembled, by what they are called."""

    labels: tuple[str, ...]


def _figure_told(told: FigureTold, label_of: Callable[[str], str]) -> tuple[str, str]:
    if told.value is None or told.low is None or told.high is None:
        return "?", "Not known: " + "; ".join(map(label_of, told.missing))
    decimals = 0 if told.figure.whole else 2
    worst = f"{figure(told.low)} to {figure(told.high)} at worst"
    return figure(told.value, decimals, told.figure.unit), worst


def look_of(display: Display, stored: Build | None, build: Build) -> LookedAt:
    """What the address has to say for this look, and for a trial all that it changes."""
    look = {"view": display.view, "stretch": f"{display.stretch:g}", "check": display.chosen}
    look["as"] = MEASURED if display.measured else ""
    look["time"] = "" if display.time == USUAL_TIME else display.time
    if stored is not None:
        look["try"] = json.dumps(difference(stored, build), separators=(",", ":"), ensure_ascii=False)
    return {key: value for key, value in look.items() if value and value != AS_USUAL.get(key)}


def _open_query(look: LookedAt) -> str:
    """The address's query, ready for one more field."""
    query = _query(look)
    return query if query == "?" else f"{query}&"


def _query(look: LookedAt, **changed: object) -> str:
    asked = {**look, **{key: str(value) for key, value in changed.items()}}
    return "?" + urlencode(
        {key: value for key, value in asked.items() if value and value != AS_USUAL.get(key)}
    )


USUAL = Display()
AS_USUAL = {"view": f"{USUAL.view}", "stretch": f"{USUAL.stretch:g}"}
"""What an address without a look shows, and need not say."""


def fit_page(  # noqa: PLR0913  # each has its default
    watch: StoredWatch,
    report: Report,
    display: Display,
    rejected: Rejected | None = None,
    stored: Build | None = None,
    *,
    here: str = "watch",
    opened: str = "",
) -> FitPage:
    """Compute everything the page shows; the gravest finding is chosen where the reader chose none.

    `stored` is the watch on disk where `watch` is only tried.
    """
    build = watch.build
    spoken = report.ranked()
    usual = spoken[0].check if spoken else ""
    chosen = display.chosen if display.chosen in {finding.check for finding in spoken} else usual
    look = look_of(replace(display, chosen=""), stored, build)
    display = replace(display, chosen=chosen, link=_open_query(look))
    return FitPage(
        watch,
        report,
        display,
        plate(build, report, display),
        _tray(report, build, report.findings[chosen], rejected, stored) if chosen else None,
        [
            fold_with_worth(one, build, report.rules.worth, in_force=True)
            for one in folds(build, opened, rejected)
        ],
        absent_parts(build),
        _query(look, check=chosen),
        {**look, "check": chosen},
        way_through(watch, report, here),
        rejected.reason if rejected and rejected.path == SPACERS.key else "",
        stored,
    )


def _tray(
    report: Report, build: Build, finding: Finding, rejected: Rejected | None, stored: Build | None
) -> Tray:
    model = report.rules.model
    check = model.check(finding.check)
    dry_fit = model.dry_fit_by_key.get(model.dry_fit_of(finding.check) or "")
    shares = {part.path: part.share for part in finding.contributions}
    paths = finding.uses.dimensions()
    ordered = sorted(paths, key=lambda path: (path not in finding.missing, -shares.get(path, 0.0)))
    return Tray(
        check,
        finding,
        sentence(model, finding),
        details(finding),
        limit_ruler(finding, check.decimals),
        tuple(
            with_rejected(
                row_with_worth(
                    row_for(build, path, "tray", share=shares.get(path), stored=stored),
                    build,
                    report.rules.worth,
                    in_force=True,
                ),
                rejected,
            )
            for path in ordered
        ),
        SPACERS.key in finding.uses.counted(),
        dry_fit,
        build.tried.get(dry_fit.key) if dry_fit else None,
    )


def pictured(model: Model, build: Build, report: Report, folded: Fold) -> Fold:
    """A folded part with its picture, and how many of its dimensions a finding waits for."""
    missing = sum(path.partition(".")[0] == folded.key for path in report.missing())
    kind = model.anatomy.kind(folded.key)
    held = build.at(folded.key)
    document = held[0] if isinstance(held, list) else held
    return replace(folded, missing=missing, part=Part.of(kind, document))


def whole_page(request: Request, page: FitPage, status: int = 200) -> Response:
    """The page as a whole."""
    return render(request, "watch/templates/watch.html", {"page": page, "turned": []}, status)


def slid_fragments(request: Request, was: Report, page: FitPage) -> Response:
    """What a slider moves while a hand is on it: the drawing, the chosen finding's words, what turned."""
    after, model = page.report, page.report.rules.model
    marks = [(model.check(name), after.findings[name]) for name in turned_checks(was, after)]
    context = {"page": page, "turned": turned_verdicts(was, after), "marks": marks}
    return render(request, "watch/templates/_slid.html", context)


def changed_fragments(
    request: Request, before: Build, was: Report, page: FitPage, rejected: Rejected | None = None
) -> Response:
    """Only what an edit may have changed: status line, plate, tray, and the parts that differ.

    A refused entry is answered this way too, as a part of the page like any other: 200.
    """
    after = page.watch.build
    keys = changed_parts(before, after)
    if rejected and rejected.place == "ledger":
        keys = [rejected.path.partition(".")[0]]
    turned = turned_verdicts(was, page.report) if keys else []
    worth = page.report.rules.worth
    parts = [
        fold_with_worth(fold(after, after.anatomy.part(key), rejected), after, worth, in_force=True)
        for key in keys
        if after.has(key)
    ]
    moved = any(before.has(key) != after.has(key) for key in keys)
    context = {"page": page, "parts": parts, "whole_ledger": moved, "turned": turned}
    return render(request, "watch/templates/_changed.html", context)


def turned_verdicts(before: Report, after: Report) -> list[tuple[str, Verdict, Verdict]]:
    """Title and verdicts of every check that an edit turned: what it mended and what it spoiled."""
    title = after.rules.model.title
    return [
        (title(name), before.findings[name].verdict, after.findings[name].verdict)
        for name in turned_checks(before, after)
    ]


def turned_checks(before: Report, after: Report) -> list[str]:
    """The names of the checks whose verdict is another one."""
    was = before.findings
    return [name for name, found in after.findings.items() if was[name].verdict is not found.verdict]


def waits_for(report: Report) -> str:
    """One line for the bench: the gravest finding in short, or what to measure first."""
    spoken = report.ranked()
    if not spoken:
        return "Nothing described yet that could be checked."
    gravest = spoken[0]
    if gravest.verdict is Verdict.CLEAR:
        return "Everything that was checked is clear."
    model, standing = report.rules.model, report.standing
    if standing.verdict == "open":
        told = [f"not there yet: {', '.join(standing.lacks)}"] if standing.lacks else []
        told += [f"{count} {word}" for word, count in open_words(report) if count]
        line = f"{'; '.join(told)}; doubt {figure(standing.doubt)}."
        return line[0].upper() + line[1:]
    return f"{model.title(gravest.check)}: {in_short(model, gravest)}"


def open_words(report: Report) -> tuple[tuple[str, int], ...]:
    """What is open of a watch in words, and counts: what nothing vouches for, and what something does."""
    return (
        ("open", len(report.open_names)),
        ("open but sold for each other or come together", len(report.vouched_names)),
    )
