"""What a check is: the one description that findings, drawings, help texts and forms read.

Adding a check means adding one `Check` to a family file in this folder; `__init__` collects the families.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from marquetry.core.fit.finding import Finding, judge
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Readings
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number
from marquetry.core.values.verdict import Verdict

Formula = Callable[[Readings], Number | None]
Plan = Literal["date", "feet", "bezel", "strap"]
Solver = Callable[["Check", Readings], Finding | None]
CheckUnit = Literal["mm", "°", "%", "×"]


@dataclass(frozen=True, slots=True)
class Words:
    """A check in a builder's words: what it measures, and what it means on the bench beyond each limit."""

    means: str
    below: str = ""
    above: str = ""
    helps: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Span:
    """Where a check is drawn in the section: between two stations that `core/section.py` names.

    `axis` is the direction in which the two stand apart, `beside` the station that gives the place along
    the other direction.
    """

    axis: Literal["z", "r"]
    start: str
    end: str
    beside: str


@dataclass(frozen=True, slots=True)
class Check:
    """One check. `formula` gives its quantity; where that is not one number, `solver` does instead.

    `plan` is the place in the drawings of front and back where the check is seen. A formula that gives None
    is about something this watch does not have.

    `rule` is the name its limits go by in the rules, `decimals` how finely its figures are told, `told_as`
    a word before the figure where the drawn distance is not the figure itself. `details` says in words what
    stands in the finding's extras.
    """

    name: str
    title: str
    limits: Limits
    words: Words
    formula: Formula | None = None
    solver: Solver | None = None
    span: Span | None = None
    plan: Plan | None = None
    unit: CheckUnit = "mm"
    decimals: int = 2
    rule: str = ""
    told_as: str = ""
    details: Callable[[Finding], tuple[str, ...]] | None = None

    def find(self, build: Build, rules: Rules) -> Finding:
        """Run the check on a build; nothing missing or absent ever raises."""
        readings = Readings(build, rules)
        limits = rules.limits(self.rule or self.name, self.limits)
        checked = replace(self, limits=limits)
        finding = _by_formula(checked, readings) if self.solver is None else self.solver(checked, readings)
        uses = tuple(readings.uses)
        if readings.absent or (finding is None and not readings.missing):
            return Finding(self.name, Verdict.SKIPPED, limits, uses=uses)
        if readings.missing or finding is None:
            missing = tuple(readings.missing)
            return Finding(self.name, Verdict.UNMEASURED, limits, missing=missing, uses=uses)
        return replace(finding, uses=uses)


def _by_formula(check: Check, readings: Readings) -> Finding | None:
    if check.formula is None:
        raise TypeError(f"check {check.name} has neither formula nor solver")
    number = check.formula(readings)
    if number is None or readings.missing or readings.absent:
        return None
    return judge(check.name, number, check.limits, readings.build.dimensions)
