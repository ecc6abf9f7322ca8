"""What a check is: the protocol that report, drawings, Finder and forms speak, and what all checks share.

There are four kinds: a formula (`formula.py`), what feet and holes say (`feet.py`), the hand stack
(`hands.py`), and words (`words.py`). Adding a check means adding one of them to a family file in this
folder; `__init__` collects the families.
"""

from abc import ABC, abstractmethod
from dataclasses import dataclass, replace
from typing import Literal, Protocol

from marquetry.core.evidence.ruling import Facts, ruled
from marquetry.core.fit.columns import Columns, Judged, Slopes
from marquetry.core.fit.finding import Finding, Unsure
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

PlanPlace = Literal[
    "date",
    "feet",
    "bezel",
    "strap",
    "bars",
    "track",
    "across",
    "length",
    "tabs",
    "disc",
    "notch",
    "windows",
]
CheckUnit = Literal["mm", "°", "%", "×"]
RARE = 0.004
"""How often a check fails on parts that nobody measured, where nothing else is said of it."""
PER_CENT = 0.01
"""What a check in per cent counts for beside one in millimetres."""


@dataclass(frozen=True, slots=True)
class Words:
    """A check in a builder's words: what it measures, and what it means on the bench beyond each limit."""

    means: str
    below: str = ""
    above: str = ""
    helps: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Span:
    """Where a check is drawn in the section: between two stations that `core/section/stations.py` names.

    `axis` is the direction in which the two stand apart, `beside` the station that gives the place along
    the other direction.
    """

    axis: Literal["z", "r"]
    start: str
    end: str
    beside: str


class Check(Protocol):
    """One check: what it says of itself, its finding on one build, and its room over columns of many."""

    @property
    def name(self) -> str:
        """Its key in sheets, JSON and addresses."""

    @property
    def title(self) -> str:
        """Its name for a builder."""

    @property
    def limits(self) -> Limits:
        """Its default limits, in its unit."""

    @property
    def words(self) -> Words:
        """What it means on the bench."""

    @property
    def span(self) -> Span | None:
        """Where it is drawn in section."""

    @property
    def plan(self) -> PlanPlace | None:
        """Where it is seen in the drawings of front and back."""

    @property
    def unit(self) -> CheckUnit:
        """What its figures are in."""

    @property
    def decimals(self) -> int:
        """How finely its figures are told."""

    @property
    def told_as(self) -> str:
        """A word before the figure where the drawn distance is not the figure itself."""

    @property
    def key(self) -> str:
        """The name its limits go by in the rules."""

    @property
    def weight(self) -> float:
        """What one of its units counts for beside a millimetre."""

    @property
    def one_length(self) -> bool:
        """Whether it takes columns of one length only, cell by cell, and is dear."""

    @property
    def skips_by_figures(self) -> bool:
        """Whether the figures of parts, not only what they have, may decide that it is about nothing."""

    @property
    def of_looks(self) -> bool:
        """Whether it is a matter of looks: nothing fails to go together for it."""

    def find(self, build: Build, rules: Rules) -> Finding:
        """Its finding on a build; nothing missing or absent ever raises."""

    def found(self, trace: Trace) -> Finding:
        """Its finding by a reading that may have dimensions moved."""

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:
        """Its room where some dimensions are columns; None where it is about nothing in this build."""

    def flat(self, build: Build, rules: Rules, sample: Columns) -> Slopes:
        """Slopes that are the same whichever of a sample of parts are put together, by path."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Described(ABC):
    """What every check says of itself, and the one way from a reading to a finding."""

    name: str
    title: str
    limits: Limits
    words: Words
    span: Span | None = None
    plan: PlanPlace | None = None
    unit: CheckUnit = "mm"
    decimals: int = 2
    rule: str = ""
    told_as: str = ""
    skips_by_figures: bool = False
    of_looks: bool = False
    rate: float = RARE
    may_be_vouched: bool = True
    """Whether parts that came together, or are sold for each other, speak for it."""
    of_names: bool = False
    """Whether it compares names, so that no spread of a size settles it."""

    @property
    def key(self) -> str:
        """The name its limits go by in the rules."""
        return self.rule or self.name

    @property
    def weight(self) -> float:
        """What one of its units counts for beside a millimetre."""
        return PER_CENT if self.unit == "%" else 1.0

    @property
    def one_length(self) -> bool:
        """Whether it takes columns of one length only, cell by cell, and is dear."""
        return False

    def find(self, build: Build, rules: Rules) -> Finding:
        """Its finding on a build; nothing missing or absent ever raises."""
        return self.found(Trace(build, rules))

    def found(self, trace: Trace) -> Finding:
        """Its finding by a reading that may have dimensions moved, judged by what is known of the parts."""
        figured = self._by_figures(trace)
        dry_fit = trace.rules.model.dry_fit_of(self.name)
        vouched = trace.stated(dry_fit, may_be_vouched=self.may_be_vouched)
        ruling = ruled(self.name, self._facts(trace, figured), vouched)
        return replace(
            figured,
            verdict=ruling.verdict,
            by=ruling.by,
            is_open=ruling.is_open,
            unsure=_unsure(trace, figured) if ruling.is_open else (),
            rate=self.rate,
            of_names=self.of_names,
            uses=trace.uses,
        )

    def _facts(self, trace: Trace, figured: Finding) -> Facts:
        read = (*figured.reads, *trace.exactly)
        sources = {found.source for path in read if (found := trace.dimension(path)) is not None}
        words = trace.build.assumed_words
        return Facts(
            verdict=figured.verdict,
            limits=figured.limits,
            low=figured.low,
            high=figured.high,
            has_missing=bool(figured.missing),
            has_assumed=Source.ASSUMED in sources,
            has_assumed_word=bool(words) and not words.isdisjoint(trace.uses.words()),
            has_listed=Source.LISTED in sources,
            of_names=self.of_names,
        )

    def _by_figures(self, trace: Trace) -> Finding:
        """What the figures say, whoever said them."""
        limits = trace.limits(self.key, self.limits)
        finding = self.judge(trace, limits)
        if trace.absent or (finding is None and not trace.missing):
            return Finding(self.name, Verdict.SKIPPED, limits, uses=trace.uses)
        if trace.missing or finding is None:
            missing = tuple(trace.missing)
            return Finding(self.name, Verdict.UNMEASURED, limits, missing=missing, uses=trace.uses)
        return finding

    @abstractmethod
    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The finding, its uses left to `found`; None where it is about nothing, or something is missing."""

    @abstractmethod
    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:
        """Its room where some dimensions are columns."""

    def flat(self, build: Build, rules: Rules, sample: Columns) -> Slopes:  # noqa: ARG002  # only formulas have slopes
        """Slopes that are the same all over a sample; none where no formula says so."""
        return {}


def room_of(check: Check, finding: Finding) -> float:
    """Worst-case room in millimetres; per cents and degrees on a scale of their own; 0 where none is told."""
    return 0.0 if finding.low is None else finding.margin * check.weight


def _unsure(trace: Trace, figured: Finding) -> tuple[Unsure, ...]:
    """What of all that a finding reads is only assumed, the size that spreads it most first."""
    slopes = {part.path: part.sensitivity for part in figured.contributions}
    reads = figured.reads or trace.uses.dimensions()
    assumed = [
        Unsure(path, found.value, slopes.get(path, 0.0), abs(slopes.get(path, 0.0)) * found.tol)
        for path in reads
        if (found := trace.dimension(path)) is not None and not found.source.is_known
    ]
    words = [Unsure(path) for path in trace.uses.words() if path in trace.build.assumed_words]
    return (*sorted(assumed, key=lambda one: -one.spread), *words)
