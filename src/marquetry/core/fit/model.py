"""The model: parts, checks, rules and schools in one object that is handed in, never reached for.

Whatever needs one of them gets it from the model it was given: a build from its anatomy, a report from its
rules. A test, or a workshop with a part or a check of its own, makes another model and nothing else changes.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from marquetry.core.evidence.dry_fit import DryFit
from marquetry.core.fit.checks import FAMILIES
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.dry_fits import DRY_FITS
from marquetry.core.fit.figures import FIGURES, Figure
from marquetry.core.fit.rules import BAND_RULES, PLAIN_RULES, BandRule, Rule, Rules
from marquetry.core.fit.schools import SCHOOLS, School
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.parts import PARTS
from marquetry.core.sheet.schema import Group, Many
from marquetry.core.values.errors import NotFoundError

Family = tuple[str, tuple[Check, ...]]


@dataclass(frozen=True, eq=False)
class Model:
    """Parts by their anatomy, checks by family, plain rules and bands, schools, figures without a limit."""

    anatomy: Anatomy
    families: tuple[Family, ...]
    rule_list: tuple[Rule, ...]
    school_list: tuple[School, ...]
    figures: tuple[Figure, ...] = ()
    band_list: tuple[BandRule, ...] = BAND_RULES
    dry_fits: tuple[DryFit, ...] = DRY_FITS

    @cached_property
    def checks(self) -> tuple[Check, ...]:
        """Every check, in the order in which a builder reads them."""
        return tuple(check for _, checks in self.families for check in checks)

    @cached_property
    def check_by_name(self) -> dict[str, Check]:
        """Every check by its name."""
        return {check.name: check for check in self.checks}

    @cached_property
    def dry_fit_by_key(self) -> dict[str, DryFit]:
        """Every dry fit by its key."""
        return {dry_fit.key: dry_fit for dry_fit in self.dry_fits}

    @cached_property
    def _dry_fit_of_check(self) -> dict[str, str]:
        return {check: dry_fit.key for dry_fit in self.dry_fits for check in dry_fit.settles}

    def dry_fit_of(self, check: str) -> str | None:
        """The key of the dry fit that settles the check of that name; None where none does."""
        return self._dry_fit_of_check.get(check)

    @cached_property
    def plain_rules(self) -> dict[str, Rule]:
        """Plain numbers that checks are computed with, by key."""
        return {rule.key: rule for rule in self.rule_list}

    @cached_property
    def bands(self) -> dict[str, BandRule]:
        """Bands that the bench goes by and no check judges by, by key."""
        return {rule.key: rule for rule in self.band_list}

    @cached_property
    def schools(self) -> dict[str, School]:
        """Questions on which builders disagree, by key."""
        return {school.key: school for school in self.school_list}

    @cached_property
    def limit_keys(self) -> dict[str, Check]:
        """Names under which rules may set limits, with the first check that goes by each."""
        found: dict[str, Check] = {}
        for check in self.checks:
            found.setdefault(check.key, check)
        return found

    def check(self, name: str) -> Check:
        """The check of that name; NotFoundError where there is none."""
        if name not in self.check_by_name:
            raise NotFoundError(f"check “{name[:40]}”")
        return self.check_by_name[name]

    def title(self, name: str) -> str:
        """What a builder calls the check of that name."""
        return self.check(name).title

    def rules(self, own: Mapping[str, Json] | None = None, house: Mapping[str, Json] | None = None) -> Rules:
        """Rules in force: a sheet's own, under them the workshop's."""
        return Rules(self, own, house)

    def rules_of(self, build: Build, house: Mapping[str, Json] | None = None) -> Rules:
        """The rules for one build."""
        return Rules(self, build.rules, house)

    def with_check(self, check: Check, family: str = "More") -> "Model":
        """The model with one check more, in a family of its own."""
        return replace(self, families=(*self.families, (family, (check,))))

    def with_part(self, part: Group | Many) -> "Model":
        """The model with one kind of part more."""
        return replace(self, anatomy=Anatomy((*self.anatomy.parts, part)))


@lru_cache(maxsize=1)
def usual_model() -> Model:
    """The model as it ships: for whoever puts a program together, to hand in."""
    return Model(Anatomy(PARTS), FAMILIES, PLAIN_RULES, SCHOOLS, FIGURES)
