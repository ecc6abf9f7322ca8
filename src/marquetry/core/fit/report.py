"""Every check on one build: what page, command line and JSON all show."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from marquetry.core.fit.checks.check import room_of
from marquetry.core.fit.figures import FigureTold, figures_of
from marquetry.core.fit.finding import Finding, tidy
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import OF_NO_PART, Access, observed
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.statements import ASSUMED_WORDS, MOVEMENT, TOGETHER, TRIED
from marquetry.core.values.verdict import Verdict

WatchWord = Literal["clash", "tight", "open", "clear"]
NEEDED = ("case", "dial", "hands", "movement")
"""Without one of them there is no watch to be called clear."""


@dataclass(frozen=True, slots=True, kw_only=True)
class WatchStanding:
    """The watch's own word: red for what is known to clash, open for what nobody knows.

    `lacks` are the parts that every watch has and this one has not yet, `doubt` the sum of all findings'.
    """

    verdict: WatchWord
    lacks: tuple[str, ...]
    assumed: tuple[str, ...]
    unmeasured: tuple[str, ...]
    doubt: float

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        return {
            "verdict": self.verdict,
            "lacks": list(self.lacks),
            "assumed": list(self.assumed),
            "unmeasured": list(self.unmeasured),
            "doubt": tidy(self.doubt),
        }


@dataclass(frozen=True)
class Report:
    """The findings on a build, by check, in the checks' own order."""

    findings: Mapping[str, Finding]
    rules: Rules
    build: Build
    """The watch as it will be: with every alteration that is not done yet."""
    sheet: Build | None = None
    """The watch as it is, where that differs."""

    @property
    def real(self) -> Build:
        """The watch with its parts as they really are."""
        return self.build if self.sheet is None else self.sheet

    @cached_property
    def figures(self) -> Mapping[str, FigureTold]:
        """The figures that no limit judges, by their keys; told once, when they are first asked for."""
        return figures_of(self.rules.model, self.build, self.rules)

    @property
    def worst(self) -> Verdict:
        """The gravest verdict of all; skipped where no check had anything to say."""
        verdicts = (finding.verdict for finding in self.findings.values())
        return max(verdicts, key=lambda verdict: verdict.gravity, default=Verdict.SKIPPED)

    def ranked(self) -> list[Finding]:
        """Findings that speak, the gravest first; those of one verdict in the checks' order."""
        spoken = [f for f in self.findings.values() if f.verdict is not Verdict.SKIPPED]
        return sorted(spoken, key=lambda finding: -finding.verdict.gravity)

    def count(self, verdict: Verdict) -> int:
        """How many findings have this verdict."""
        return sum(finding.verdict is verdict for finding in self.findings.values())

    def room(self, name: str) -> float:
        """Worst-case room of one finding in mm; per cents and degrees on a scale of their own."""
        return room_of(self.rules.model.check(name), self.findings[name])

    def missing(self) -> list[str]:
        """Paths that findings wait for, those that most of them wait for first."""
        waiting: dict[str, int] = {}
        for finding in self.findings.values():
            for path in finding.missing:
                waiting[path] = waiting.get(path, 0) + 1
        return sorted(waiting, key=lambda path: -waiting[path])

    def as_dict(self) -> dict[str, object]:
        """Findings by check, as JSON carries them."""
        return {name: finding.as_dict() for name, finding in self.findings.items()}

    def named(self, verdict: Verdict) -> list[str]:
        """Names of the checks with that verdict, in the checks' order."""
        return [name for name, finding in self.findings.items() if finding.verdict is verdict]

    @property
    def open_names(self) -> list[str]:
        """Checks that nobody measured and nothing vouches for; matters of looks are left out."""
        model = self.rules.model
        told = (f for f in self.findings.values() if f.verdict is Verdict.UNMEASURED or f.by == "spread")
        return [finding.check for finding in told if not model.check(finding.check).of_looks]

    @property
    def vouched_names(self) -> list[str]:
        """Checks that nobody measured, of parts that came together or are sold for each other."""
        found = self.findings.values()
        return [
            f.check for f in found if f.verdict is Verdict.ASSUMED and f.by in {"together", "sold for it"}
        ]

    @cached_property
    def standing(self) -> "WatchStanding":
        """Where the watch as a whole stands."""
        return WatchStanding(
            verdict=self._word(),
            lacks=tuple(part for part in NEEDED if not self.build.has(part)),
            assumed=tuple(self.named(Verdict.ASSUMED)),
            unmeasured=tuple(self.named(Verdict.UNMEASURED)),
            doubt=sum(finding.doubt for finding in self.findings.values()),
        )

    def _word(self) -> WatchWord:
        if self.count(Verdict.CLASH):
            return "clash"
        if self.count(Verdict.TIGHT):
            return "tight"
        is_open = self.count(Verdict.ASSUMED) or self.count(Verdict.UNMEASURED)
        return "open" if is_open or not all(map(self.build.has, NEEDED)) else "clear"


def report_on(build: Build, rules: Rules, like: Report | None = None) -> Report:
    """Run every check of the model that the rules are rules of.

    Of a report on a build much `like` this one each finding is taken over whose every question has the
    same answer here. Raises SheetError where one of the rules cannot be read.
    """
    sheet, build = build, build.as_planned
    if like is None or like.rules.model is not rules.model:
        return Report(
            {check.name: check.find(build, rules) for check in rules.model.checks}, rules, build, sheet
        )
    same = _Same(like.build, like.rules, build, rules)
    found = {
        check.name: known if same.for_all(known := like.findings[check.name]) else check.find(build, rules)
        for check in rules.model.checks
    }
    return Report(found, rules, build, sheet)


class _Same:
    """Whether two builds answer alike; each question is put to them once."""

    def __init__(self, before: Build, before_rules: Rules, after: Build, after_rules: Rules) -> None:
        self._before, self._after = (before, before_rules), (after, after_rules)
        self._known: dict[Access, bool] = {}
        self._whole: dict[str, bool] = {}
        # Where these are the same, what is said of a part hangs on nothing but the part.
        self._is_said_alike = before_rules.worth == after_rules.worth and all(
            before.raw.get(key) == after.raw.get(key) for key in (ASSUMED_WORDS, TOGETHER, TRIED)
        )

    def for_all(self, finding: Finding) -> bool:
        """Whether everything that a finding asked is answered alike."""
        return all(map(self._alike, finding.uses))

    def _alike(self, access: Access) -> bool:
        if access not in self._known:
            self._known[access] = self._is_untouched(access) or observed(access, *self._before) == observed(
                access, *self._after
            )
        return self._known[access]

    def _is_untouched(self, access: Access) -> bool:
        """Whether all that the question is about is the same whole: most edits change one part of many."""
        how, path = access
        if how in OF_NO_PART or not self._is_said_alike:
            return False
        if how == "stated":
            return all(map(self._is_sold_alike, (MOVEMENT, *path.partition(":")[2].split(","))))
        return self._is_the_same_part(path.partition(".")[0])

    def _is_sold_alike(self, slot: str) -> bool:
        """Whether the part in the slot goes by the same names, and is sold for the same."""
        before, after = self._before[0].sold_for, self._after[0].sold_for
        return before.get(slot) == after.get(slot)

    def _is_the_same_part(self, slot: str) -> bool:
        if slot not in self._whole:
            self._whole[slot] = self._before[0].parts.get(slot) == self._after[0].parts.get(slot)
        return self._whole[slot]
