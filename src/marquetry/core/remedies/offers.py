"""The remedies of a watch: every idea tried by the whole report; what helps is kept and ranked.

Two steps are tried where one does not do. Where nothing leaves the watch without a clash, `disagreements`
says which parts cannot both stay, and what a matching one would have to measure.
"""

import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace

from marquetry.core.evidence.lapse import without_tried
from marquetry.core.fit.checks.feet import feet_told
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.remedies import (
    calendar,
    feet,
    fits,
    hands,
    links,
    made_here,
    matches,
    spacers,
    tabs,
    windows,
)
from marquetry.core.remedies.altering import ALTERS, FirstFind, held_back, is_founded, is_read, taken
from marquetry.core.remedies.idea import Idea
from marquetry.core.remedies.patch import Operation, patch_between
from marquetry.core.remedies.probe import aim_of, solve
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.change import changed_parts
from marquetry.core.values.errors import MarquetryError
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict

IdeaSource = Callable[[Build, Report, str], Iterator[Idea]]
SOURCES: tuple[IdeaSource, ...] = (
    spacers.ideas,
    fits.ideas,
    feet.ideas,
    hands.ideas,
    calendar.ideas,
    matches.ideas,
    tabs.ideas,
    windows.ideas,
    made_here.ideas,
)
FOLLOWED = 8
"""So many of the best first steps are followed by a second."""
ENOUGH = 2
"""With fewer handy remedies that leave no clash, two steps are tried as well."""
DEAR = 4
MOST_OFFERED = 40
BUCKET = 0.05
MANY = 10_000
MOST_STEPS = 4
"""Beyond two steps only the best is followed, so far."""
_RANK = {
    Verdict.CLASH: 3,
    Verdict.TIGHT: 2,
    Verdict.ASSUMED: 1,
    Verdict.UNMEASURED: 1,
    Verdict.CLEAR: 0,
    Verdict.SKIPPED: 0,
}


@dataclass(frozen=True, slots=True)
class Remedy:
    """An idea that was tried: what it mends, what it worsens, and the report of the watch with it.

    `others` are further ways to the very same watch: filed off or held with tape, bought or lengthened.
    """

    idea: Idea
    report: Report
    patch: tuple[Operation, ...]
    mends: tuple[str, ...]
    worsens: tuple[str, ...]
    taken: Build
    """The sheet once it is taken: what is done to a bought part stands there as an alteration."""
    others: tuple[Idea, ...] = ()

    @property
    def clashes(self) -> int:
        """Clashes that are left."""
        return self.report.count(Verdict.CLASH)

    @property
    def only_moves(self) -> bool:
        """Whether a clash goes only to come up elsewhere."""
        return any(self.report.findings[name].verdict is Verdict.CLASH for name in self.worsens)

    @property
    def margin(self) -> float:
        """The least worst-case room over what the remedy mends and spoils, each in its check's unit."""
        return min((self.report.room(name) for name in (*self.mends, *self.worsens)), default=0.0)


@dataclass(frozen=True, slots=True)
class Disagreement:
    """A clash that no remedy takes away: the parts that disagree, and what each would have to measure."""

    check: str
    parts: tuple[str, ...]
    wanted: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Offers:
    """All remedies, the best first; `disagreements` only where none leaves the watch without a clash.

    `errands` mend nothing that is judged and are to be done all the same.
    """

    remedies: tuple[Remedy, ...]
    disagreements: tuple[Disagreement, ...]
    errands: tuple[Remedy, ...] = ()
    first: tuple[FirstFind, ...] = ()
    """What to try or to read before anything is done to a part that cannot be undone."""


def offers(build: Build, rules: Rules) -> Offers:
    """Try everything that may help against the clashes and the tight fits of a watch."""
    before = report_on(build, rules)
    build = before.build
    troubled = [f.check for f in before.ranked() if f.verdict in {Verdict.CLASH, Verdict.TIGHT}]
    held: set[str] = set()
    ideas = _ideas(build, before, troubled, held)
    found = [remedy for remedy in _tried(build, before, ideas) if remedy.mends]
    held |= {name for name in troubled if before.findings[name].by == "listed"}
    if before.count(Verdict.CLASH) and sum(_is_handy(remedy) for remedy in found) < ENOUGH:
        found += _second_steps(build, before, found)
    if found and not any(remedy.clashes == 0 for remedy in found):
        found += _further_steps(build, before, min(found, key=_as_first))
    schools = frozenset(before.rules.school(key) for key in before.rules.model.schools)
    ranked = sorted(_distinct(found), key=lambda remedy: _rank(remedy, schools))
    ranked = list(_once_a_pair(ranked))[:MOST_OFFERED]
    left = before.count(Verdict.CLASH) and not any(remedy.clashes == 0 for remedy in ranked)
    errands = tuple(_tried(build, before, _errands(build, before, held)))
    return Offers(
        tuple(ranked),
        tuple(_disagreements(build, before)) if left else (),
        errands,
        tuple(held_back(before, held)),
    )


def _errands(build: Build, before: Report, held: set[str]) -> Iterator[Idea]:
    """What is to be done all the same; feet come off only once it was read which ones meet."""
    yield from links.errands(build, before)
    finding = before.findings["dial_feet"]
    # Which feet meet may not even be guessed: more feet than holes is enough to be asked about.
    told, spare = feet_told(finding), build.count("dial.feet") > build.count("movement.foot_holes") > 0
    if finding.verdict is not Verdict.CLEAR and finding.is_open and (spare or (told and told.remove)):
        held.add("dial_feet")
    for idea in feet.left_over(build, before):
        if is_read(finding, build):
            yield replace(idea, before=build)
        else:
            held.add("dial_feet")


def _is_handy(remedy: Remedy) -> bool:
    """Whether it leaves no clash and asks for no dear part, nor for a dial without numerals."""
    return remedy.clashes == 0 and remedy.idea.effort < DEAR and remedy.idea.kind != "dial_turn"


def _ideas(
    build: Build, report: Report, checks: Iterable[str], held: set[str] | None = None
) -> Iterator[Idea]:
    """Every idea for the checks; what cannot be undone only where nothing is assumed or a seller's word.

    Checks that such an idea was kept back for are added to `held`.
    """
    for check in checks:
        founded = is_founded(report.findings[check], build)
        for source in SOURCES:
            for idea in source(build, report, check):
                if founded or idea.kind not in ALTERS:
                    yield replace(idea, before=build)
                elif held is not None:
                    held.add(check)


def _tried(build: Build, before: Report, ideas: Iterable[Idea]) -> list[Remedy]:
    """Run each idea through the whole report; the same watch is tried once, with all the ways to it."""
    by_watch: dict[str, list[Idea]] = {}
    for idea in ideas:
        by_watch.setdefault(idea.build.text, []).append(idea)
    return [_tried_one(build, before, first, others) for first, *others in by_watch.values()]


def _tried_one(build: Build, before: Report, idea: Idea, others: list[Idea]) -> Remedy:
    changed = changed_parts(build, idea.build)
    # What was tried with a part as it is says nothing of it once something was done to it.
    made = without_tried(idea.build, changed, before.rules.model.dry_fit_by_key)
    after = report_on(made, before.rules.of(made), before)
    sheet = taken(before.real, idea if idea.before is not None else replace(idea, before=build))
    turned = {
        name: _RANK[finding.verdict] - _RANK[before.findings[name].verdict]
        for name, finding in after.findings.items()
    }
    return Remedy(
        idea,
        after,
        tuple(patch_between(before.real.raw, sheet.raw)),
        tuple(name for name, change in turned.items() if change < 0),
        tuple(name for name, change in turned.items() if change > 0),
        sheet,
        tuple({_steps(other): other for other in others if _steps(other) != _steps(idea)}.values()),
    )


def _steps(idea: Idea) -> tuple[str, ...]:
    """What is done, in whichever order."""
    return tuple(sorted(idea.kind.split("+")))


def _second_steps(build: Build, before: Report, singles: list[Remedy]) -> Iterator[Remedy]:
    """Two steps, for the clashes that the best first steps leave; kept where neither alone does as much."""
    alone = {remedy.idea.title: remedy.clashes for remedy in singles}
    for first in sorted(filter(_mends_a_clash(before), singles), key=_as_first)[:FOLLOWED]:
        left = [f.check for f in first.report.ranked() if f.verdict is Verdict.CLASH]
        seconds = list(_ideas(first.idea.build, first.report, left))
        for remedy in _tried(build, before, (second.after(first.idea) for second in seconds)):
            best_alone = min(
                first.clashes, *(alone.get(s.title, MANY) for s in seconds if _is_part(s, remedy))
            )
            if remedy.clashes < min(best_alone, before.count(Verdict.CLASH)):
                yield remedy


def _further_steps(build: Build, before: Report, start: Remedy) -> Iterator[Remedy]:
    """From the best so far one more step after the other, as long as each leaves fewer clashes."""
    now = start
    for _ in range(MOST_STEPS):
        left = [f.check for f in now.report.ranked() if f.verdict is Verdict.CLASH]
        then = (idea.after(now.idea) for idea in _ideas(now.idea.build, now.report, left))
        ahead = min(_tried(build, before, then), key=_as_first, default=now)
        if ahead.clashes >= now.clashes:
            return
        now = ahead
        yield now


def _mends_a_clash(before: Report) -> Callable[[Remedy], bool]:
    return lambda remedy: any(before.findings[name].verdict is Verdict.CLASH for name in remedy.mends)


def _as_first(remedy: Remedy) -> tuple[int, int]:
    return remedy.clashes, remedy.idea.effort


def _is_part(second: Idea, remedy: Remedy) -> bool:
    return second.build == remedy.idea.build


def _distinct(remedies: Iterable[Remedy]) -> Iterator[Remedy]:
    seen: set[str] = set()
    for remedy in remedies:
        if remedy.idea.build.text not in seen:
            seen.add(remedy.idea.build.text)
            yield remedy


def _once_a_pair(ranked: Iterable[Remedy]) -> Iterator[Remedy]:
    """Of the same steps in another order, or to another figure, only the best; single steps all stay."""
    seen: set[tuple[str, ...]] = set()
    for remedy in ranked:
        steps = _steps(remedy.idea)
        if len(steps) == 1 or steps not in seen:
            seen.add(steps)
            yield remedy


def _rank(remedy: Remedy, schools: frozenset[str]) -> tuple[object, ...]:
    """Clashes left, then the workshop's schools, worst margin, effort, and whether it can be undone."""
    return (
        remedy.clashes,
        # Nearly another watch: never before what a spacer, a ring or a holder mends as well.
        "other_movement" in remedy.idea.kind,
        _school(remedy.idea.school, schools),
        len(remedy.worsens) > len(remedy.mends),
        remedy.report.count(Verdict.TIGHT),
        -math.floor(min(remedy.margin, 0.0) / BUCKET),
        remedy.idea.effort,
        not remedy.idea.undo,
        len(remedy.worsens),
        -round(remedy.margin, 3),
    )


def _school(school: str, chosen: frozenset[str]) -> int:
    """The workshop's own way first, what no school is about next, other schools last."""
    return 0 if school in chosen else 2 if school else 1


def _disagreements(build: Build, report: Report) -> Iterator[Disagreement]:
    for finding in report.ranked():
        if finding.verdict is Verdict.CLASH:
            parts = dict.fromkeys(path.partition(".")[0] for path in finding.uses.dimensions())
            labels = tuple(build.anatomy.part(part).label for part in parts)
            yield Disagreement(finding.check, labels, tuple(_wanted(build, report, finding)))


def _wanted(build: Build, report: Report, finding: Finding) -> Iterator[str]:
    """For each dimension of a clash what it would have to be, everything else as it is."""
    check, aim = report.rules.model.check(finding.check), aim_of(finding, fits.SPARE)
    for path in finding.uses.dimensions():
        if aim is None or path not in build.dimensions:
            continue
        value = solve(check, build, report.rules, path, aim)
        try:
            if value is not None:
                build.anatomy.quantity_at(path).refuse_impossible(path, value)
                told = figure(value, check.decimals, build.anatomy.quantity_at(path).unit)
                yield f"{build.anatomy.label_of(path)}: {told}, not {figure(build.dimensions[path].value)}"
        except MarquetryError:
            continue
