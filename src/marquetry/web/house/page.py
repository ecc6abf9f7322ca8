"""The page of house rules: one chapter at a time, each rule with what it does to today's watches."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.model import Model
from marquetry.core.fit.rules import BandRule, Rule
from marquetry.core.fit.schools import School
from marquetry.core.measuring.listing.learnt import HEADS, LearntLabel
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.entries import Json
from marquetry.core.values.figures import band, entered
from marquetry.drawing.gap_detail import gap_detail
from marquetry.drawing.scene import Scene
from marquetry.store.house import HouseRule
from marquetry.web.house.bench_under_rules import BenchUnderRules, Standing, Turn

NUMBERS, SCHOOLS, INSTRUMENTS, TOOLS, WORDS = "numbers", "schools", "instruments", "tools", "words"
OTHERS = {
    NUMBERS: "Numbers behind", SCHOOLS: "Schools", INSTRUMENTS: "Instruments", TOOLS: "Tools",
    WORDS: "Sellers' words",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Chapter:
    """A family of rules, or one of the other chapters; `changed` counts what differs from the fit model."""

    key: str
    name: str
    changed: int


@dataclass(frozen=True, slots=True)
class RuleRow:
    """One rule as the page shows it; `fields` are name, text and meaning of its one or two inputs."""

    key: str
    title: str
    means: str
    unit: str
    drawing: Scene | None
    default: str
    fields: tuple[tuple[str, str, str], ...]
    origin: str
    standings: tuple[Standing, ...]
    turns: tuple[Turn, ...]


@dataclass(frozen=True, slots=True)
class SchoolRow:
    """A school with the practice in force and what choosing it turns."""

    school: School
    chosen: str
    turns: tuple[Turn, ...]


def families_of(model: Model) -> Mapping[str, tuple[Check, ...]]:
    """The checks that have limits to set, by family, the first of each key."""
    named = {name: tuple(c for c in checks if _bounded(c)) for name, checks in model.families}
    first = model.limit_keys
    kept = {n: tuple(c for c in checks if first[c.key] is c) for n, checks in named.items()}
    return {name: checks for name, checks in kept.items() if checks}


def chapter_of(model: Model, key: str) -> str:
    """The key of the chapter in which a rule stands."""
    if key in model.plain_rules or key in model.bands:
        return NUMBERS
    if key in model.schools:
        return SCHOOLS
    held = (n for n, checks in families_of(model).items() if key in {check.key for check in checks})
    return _key(next(held, ""))


@dataclass(frozen=True)
class HousePage:
    """What the page shows: the chapter asked for, or the first."""

    model: Model
    bench: BenchUnderRules
    asked: str

    @cached_property
    def families(self) -> Mapping[str, tuple[Check, ...]]:
        """The checks that have limits to set, by family."""
        return families_of(self.model)

    @property
    def chapters(self) -> Iterator[Chapter]:
        """Every chapter, for the list at the side."""
        own = self.bench.own.keys()
        for name, checks in self.families.items():
            yield Chapter(_key(name), name, len(own & {check.key for check in checks}))
        yield Chapter(NUMBERS, OTHERS[NUMBERS], len(own & (self.model.plain_rules | self.model.bands).keys()))
        yield Chapter(SCHOOLS, OTHERS[SCHOOLS], len(own & self.model.schools.keys()))
        yield Chapter(INSTRUMENTS, OTHERS[INSTRUMENTS], 0)
        yield Chapter(TOOLS, OTHERS[TOOLS], 0)
        yield Chapter(WORDS, OTHERS[WORDS], 0)

    @cached_property
    def chapter(self) -> Chapter:
        """The chapter that is open."""
        every = list(self.chapters)
        return next((found for found in every if found.key == self.asked), every[0])

    @property
    def changed(self) -> int:
        """Rules that differ from the fit model, schools aside."""
        return len(self.bench.own.keys() - self.model.schools.keys())

    @property
    def rows(self) -> Iterator[RuleRow]:
        """The rules of the open chapter."""
        if self.chapter.key == NUMBERS:
            yield from (self._number(rule) for rule in self.model.rule_list)
            yield from (self._band(rule) for rule in self.model.band_list)
        for check in next((c for n, c in self.families.items() if _key(n) == self.chapter.key), ()):
            yield self._limits(check)

    @property
    def schools(self) -> Iterator[SchoolRow]:
        """The schools, where their chapter is open."""
        if self.chapter.key == SCHOOLS:
            rules = self.model.rules({}, {key: rule.value for key, rule in self.bench.own.items()})
            for school in self.model.school_list:
                turns = tuple(self.bench.turns(school.key))
                yield SchoolRow(school, rules.school(school.key), turns)

    def _limits(self, check: Check) -> RuleRow:
        key, own = check.key, self.bench.own.get(check.key)
        low, high = own.value if own else (check.limits.low, check.limits.high)
        shared = key != check.name
        return RuleRow(
            key,
            check.title.partition(",")[0] if shared else check.title,
            check.words.means,
            check.unit,
            gap_detail(self.model, check.name),
            band(check.limits, check.decimals, check.unit),
            (("low", _open_or(low), "at least"), ("high", _open_or(high), "at most")),
            _origin(own),
            tuple(self.bench.standings(key)),
            tuple(self.bench.turns(key)),
        )

    def _number(self, rule: Rule) -> RuleRow:
        own = self.bench.own.get(rule.key)
        return RuleRow(
            rule.key,
            rule.key.replace("_", " ").capitalize(),
            rule.meaning,
            rule.unit,
            None,
            f"{entered(rule.default)}\u00a0{rule.unit}",
            (("low", entered(own.value if own else rule.default), "value"),),
            _origin(own),
            (),
            tuple(self.bench.turns(rule.key)),
        )

    def _band(self, rule: BandRule) -> RuleRow:
        own = self.bench.own.get(rule.key)
        low, high = own.value if own else (rule.default.low, rule.default.high)
        return RuleRow(
            rule.key,
            rule.key.replace("_", " ").capitalize(),
            rule.meaning,
            rule.unit,
            None,
            band(rule.default, 2, rule.unit),
            (("low", _open_or(low), "at least"), ("high", _open_or(high), "at most")),
            _origin(own),
            (),
            tuple(self.bench.turns(rule.key)),
        )


def defaults(model: Model) -> dict[str, Json]:
    """Every rule the page knows, as the model has it."""
    plain: dict[str, Json] = {rule.key: rule.default for rule in model.rule_list}
    bands: dict[str, Json] = {rule.key: [rule.default.low, rule.default.high] for rule in model.band_list}
    limits = {key: [check.limits.low, check.limits.high] for key, check in model.limit_keys.items()}
    return plain | bands | limits


def _bounded(check: Check) -> bool:
    return check.limits.low is not None or check.limits.high is not None


def _key(family: str) -> str:
    return family.lower().replace(" ", "-")


def _open_or(end: float | None) -> str:
    return "" if end is None else entered(end)


def _origin(own: HouseRule | None) -> str:
    return f"{own.origin}, {own.set_at[:10]}" if own else ""


def means_of(anatomy: Anatomy, label: LearntLabel) -> str:
    """What a seller's word means, for a builder: a quantity of a kind of part, a kind, or no part."""
    if label.kind == HEADS:
        return anatomy.kind(label.means).label if anatomy.has_kind(label.means) else "no part"
    if not anatomy.has_kind(label.kind):
        return label.means
    path = f"{anatomy.kind(label.kind).prefix}.{label.means}"
    return anatomy.label_of(path) if anatomy.is_quantity(path) else label.means
