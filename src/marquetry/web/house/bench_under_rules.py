"""The watches on the bench under the house's rules: where each stands, and what one rule turns on it."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict
from marquetry.store.database import Connection
from marquetry.store.fates import done_with
from marquetry.store.house import HouseRule, as_house, house_rules
from marquetry.store.watches import StoredWatch, watches_or_faults
from marquetry.web.watch.reports import Reports

MOST_WATCHES = 60
"""So many of the bench are judged for this page; it stays a glance, not a table."""


@dataclass(frozen=True, slots=True)
class Standing:
    """How one watch stands under one rule: the gravest finding that goes by it."""

    watch: int
    name: str
    check: str
    verdict: Verdict
    told: str


@dataclass(frozen=True, slots=True)
class Turn:
    """A finding that a rule of the house's own turns, against the fit model's rule."""

    watch: str
    title: str
    was: Verdict
    now: Verdict


class BenchUnderRules:
    """Every readable watch with its report; unreadable ones are told on the bench."""

    def __init__(self, connection: Connection, reports: Reports) -> None:
        self.model, self.own = connection.model, house_rules(connection)
        self._reports, self._connection = reports, connection

    @cached_property
    def _judged(self) -> tuple[tuple[StoredWatch, Report], ...]:
        gone = done_with(self._connection)
        held = [
            found
            for found in watches_or_faults(self._connection)
            if isinstance(found, StoredWatch) and found.id not in gone
        ]
        return tuple((watch, self._report(watch, self.own)) for watch in held[:MOST_WATCHES])

    def _report(self, watch: StoredWatch, own: dict[str, HouseRule], like: Report | None = None) -> Report:
        values = as_house(self._connection, own)
        return self._reports.on(watch.build, self.model.rules_of(watch.build, values), like)

    def standings(self, key: str) -> Iterator[Standing]:
        """Where the watches stand under the limits of that key."""
        for watch, report in self._judged:
            found = [f for f in report.findings.values() if self.model.check(f.check).key == key]
            spoken = [finding for finding in found if finding.verdict is not Verdict.SKIPPED]
            if spoken:
                gravest = max(spoken, key=_urgency)
                told = self._told(gravest)
                yield Standing(watch.id, watch.build.name, gravest.check, gravest.verdict, told)

    def _told(self, finding: Finding) -> str:
        check = self.model.check(finding.check)
        return "" if finding.value is None else figure(finding.value, check.decimals)

    def turns(self, key: str) -> Iterator[Turn]:
        """What the house's own rule turns; nothing where it goes by the fit model."""
        if key not in self.own:
            return
        others = {name: rule for name, rule in self.own.items() if name != key}
        for watch, report in self._judged:
            before = self._report(watch, others, report)
            for name, finding in report.findings.items():
                was = before.findings[name].verdict
                if was is not finding.verdict:
                    yield Turn(watch.build.name, self.model.title(name), was, finding.verdict)


def _urgency(finding: Finding) -> tuple[int, float]:
    """The graver first, of equals the one with the least room."""
    return finding.verdict.gravity, math.inf if math.isnan(finding.margin) else -finding.margin
