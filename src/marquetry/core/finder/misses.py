"""Nothing found is an answer: what came nearest, by how much it misses, what would have to be accepted."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.finder.search import Filling, Search
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.sentence import miss
from marquetry.core.values.verdict import NOT_TOLD, Verdict

MOST_MISSES, MOST_COUNTED = 5, 50
EFFORT = 4_000
"""Partial fillings that are looked at for one answer."""


@dataclass(frozen=True, slots=True)
class Miss:
    """A filling that does not go together: each finding that fails, with its miss in the check's unit."""

    filling: Filling
    fails: tuple[tuple[Finding, float], ...]


def nearest_misses(search: Search) -> list[Miss]:
    """The fillings whose gravest miss is the least, by the same search that found none without."""
    relaxed = replace(search, missing_ok=True, looked_at=0, stop=False)
    return [Miss(filling, tuple(_fails(relaxed, filling))) for filling in _first(relaxed, MOST_MISSES)]


def _fails(search: Search, filling: Filling) -> Iterator[tuple[Finding, float]]:
    """The findings that speak against it and hang on what was chosen, the gravest first."""
    against = {Verdict.CLASH} if search.unmeasured_ok else {Verdict.CLASH, *NOT_TOLD}
    found = [f for f in filling.report.findings.values() if f.verdict in against and search.hangs_on_slots(f)]
    model = filling.report.rules.model
    failing = [f for f in found if f.verdict is Verdict.CLASH or not model.check(f.check).of_looks]
    for finding in sorted(failing, key=lambda f: -miss(f) * model.check(f.check).weight):
        yield finding, miss(finding)


def how_many(search: Search) -> int:
    """How many fillings a search would find, counted up to MOST_COUNTED: a plain count."""
    return len(_first(search, MOST_COUNTED))


def _first(search: Search, most: int) -> list[Filling]:
    found: list[Filling] = []
    for filling in search.best(EFFORT):
        found.append(filling)
        if len(found) == most:
            break
    return found
