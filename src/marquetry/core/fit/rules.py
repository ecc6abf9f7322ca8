"""The workshop's rules: limits of the checks, and the plain numbers that checks are computed with.

A check brings its default limits itself; the plain numbers are listed here with their meaning.
"""

import json
from collections.abc import Hashable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from marquetry.core.fit.sellers import LEARNED, SCHOOL_LISTED, SellersWorth
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.entry import TypedUnit
from marquetry.core.values.errors import SheetError
from marquetry.core.values.limits import Limits

if TYPE_CHECKING:  # a model makes its rules and stands above them
    from marquetry.core.fit.model import Model


@dataclass(frozen=True, slots=True)
class Rule:
    """A plain number of the workshop: its default, its unit and what it stands for."""

    key: str
    default: float
    unit: TypedUnit
    meaning: str


PLAIN_RULES: tuple[Rule, ...] = (
    Rule("gap_dial", 0.20, "mm", "Air wanted between a hand and the dial or anything raised on it."),
    Rule("gap_hands", 0.15, "mm", "Air wanted between one blade and the next."),
    Rule("gap_pipe", 0.05, "mm", "Air wanted between a hand's pipe and the blade below it."),
    Rule("gap_crystal", 0.30, "mm", "Air wanted between a hand and the crystal."),
    Rule("hand_tilt", 0.20, "°", "How far a hand may lean after pressing; it costs more at a long tip."),
    Rule("hand_engagement", 0.25, "mm", "Least length of post inside a hand's pipe."),
    Rule("foot_bend", 0.05, "mm", "How far a foot may be bent to meet its hole."),
    Rule("rotor_sector", 190.0, "°", "What of the movement a rotor covers, wherever it stands."),
    Rule("warm_by", 60.0, "K", "How much warmer than the room a case is made before its crystal is pressed."),
    Rule("cool_by", 40.0, "K", "How much colder than the room a crystal is made before it is pressed."),
    Rule("dial_turn", 0.5, "°", "How far the dial may stand turned without being seen."),
    Rule("stem_risk", 0.001, "×", "Chance of a stem too short that one cut may carry."),
    Rule(
        "clock_ppm",
        0.0,
        "ppm",
        "Standard uncertainty of the sound card's clock, once compared; 0 where it is not known.",
    ),
    Rule("stem_file_below", 0.30, "mm", "What is left on the stem from here on is filed, not cut."),
    Rule(
        "doubt_left", 0.10, "×", "Doubt of a watch from which on nothing more is worth trying or measuring."
    ),
    Rule("retest_months", 12.0, "months", "How long a pressure test is told to hold, at most."),
)
FURTHEST_RULE = 1e6


@dataclass(frozen=True, slots=True)
class BandRule:
    """A band that no check judges by: its default, its unit and what it stands for."""

    key: str
    default: Limits
    unit: TypedUnit
    meaning: str


BAND_RULES: tuple[BandRule, ...] = (
    BandRule(
        "stem_window",
        Limits(-0.15, 0.10),
        "mm",
        "What may be left on the stem when its crown is seated; below it the stem is too short.",
    ),
    BandRule(
        "rate", Limits(-10.0, 15.0), "s/d", "Rate of a finished watch: the mean of its positions, and worn."
    ),
    BandRule("amplitude", Limits(200.0, None), "°", "How far the balance swings, fully wound and lying."),
    BandRule("beat_error", Limits(None, 0.8), "ms", "Half the difference between tick and tock."),
    BandRule("position_spread", Limits(None, 20.0), "s/d", "From the slowest position to the fastest."),
    BandRule("date_jump", Limits(-10.0, 10.0), "min", "When the date jumps, from midnight."),
    BandRule("hand_angle", Limits(-1.5, 1.5), "°", "How far a hand may stand beside the marker at noon."),
    BandRule("index_angle", Limits(-0.75, 0.75), "°", "How far a bezel's index or a dial may stand turned."),
)


class House(dict[str, Json]):
    """The workshop's own rules by key, and what its sellers' figures are worth where any rules go by it.

    Worked out, never a way to find out: rules live in reports, and those outlive the request's connection.
    """

    sellers: SellersWorth | None = None


class Rules:
    """Rules in force: the sheet's own where it has them, then the workshop's, the model's otherwise.

    They carry the model they are rules of. Raises SheetError, naming the rule, where a plain number, or the
    shape of anything known, is not what it should be.
    """

    def __init__(
        self, model: "Model", own: Mapping[str, Json] | None = None, house: Mapping[str, Json] | None = None
    ) -> None:
        # A workshop without a rule of its own still tells what its sellers are worth.
        self.model, self._house = model, {} if house is None else house
        self._in_force = {**self._house, **(own or {})}
        self.worth = _worth_in_force(self._in_force, self._house)
        for key, value in self._in_force.items():
            if key in model.plain_rules and not (_is_plain_number(value) and 0 <= value <= FURTHEST_RULE):
                raise SheetError(f"rules.{key}", "a number from 0 to 1,000,000", shown(value))

    @property
    def raw(self) -> Mapping[str, Json]:
        """What differs from the model, by key; to be read only."""
        return self._in_force

    def of(self, build: Build) -> "Rules":
        """The same workshop's rules for another build, which may have its own."""
        return Rules(self.model, build.rules, self._house)

    def changed(self, key: str, value: Json) -> "Rules":
        """The same rules with one of them changed."""
        return Rules(self.model, {**self._in_force, key: value}, self._house)

    @cached_property
    def key(self) -> Hashable:
        """What tells these rules from others: the model, what house and sheet say, what sellers are worth."""
        told = [json.dumps(values, sort_keys=True) for values in (self._house, self._in_force)]
        sellers = self._house.sellers if isinstance(self._house, House) else None
        return Rules, self.model, *told, sellers

    def believed(self, build: Build, path: str) -> Dimension | None:
        """The dimension at a path as the checks take it; None where it is not known."""
        dimension = build.dimensions.get(path)
        return self.worth.believed(build, path, dimension) if self.worth else dimension

    def own(self, key: str) -> Json:
        """What the sheet or the workshop says of the rule; None where it is the model's."""
        return self._in_force.get(key)

    def check(self, key: str) -> None:
        """Raise SheetError where the rule of that name cannot be read."""
        if key in self.model.schools:
            self.school(key)
        elif key in self._in_force and key not in self.model.plain_rules:
            _read_limits(key, self._in_force[key])

    def check_all(self) -> None:
        """Raise SheetError where any rule that means something to the model cannot be read."""
        for key in self._in_force:
            if key in self.model.schools or key in self.model.limit_keys or key in self.model.bands:
                self.check(key)

    def school(self, key: str) -> str:
        """The workshop's choice on a question builders disagree on; the first where it made none.

        Raises SheetError where the rule names no such choice.
        """
        known = [practice.key for practice in self.model.schools[key].practices]
        chosen = self._in_force.get(key, known[0])
        if chosen not in known:
            raise SheetError(f"rules.{key}", " or ".join(known), shown(chosen))
        return str(chosen)

    def number(self, key: str) -> float:
        """The plain number of that name, in its rule's unit."""
        return float(self._in_force.get(key, self.model.plain_rules[key].default))

    def band(self, key: str) -> Limits:
        """The band of that name, in its rule's unit."""
        return self.limits(key, self.model.bands[key].default)

    def limits(self, key: str, default: Limits) -> Limits:
        """The limits of that name, in the check's unit: `[low, high]`, null for an open end."""
        own = self._in_force.get(key)
        return default if own is None else _read_limits(key, own)


def _worth_in_force(values: Mapping[str, Json], house: Mapping[str, Json]) -> SellersWorth | None:
    """What sellers are worth, where the rules go by it and the workshop can tell."""
    if values.get(SCHOOL_LISTED) != LEARNED or not isinstance(house, House) or house.sellers is None:
        return None
    return house.sellers


def shown(value: Json) -> str:
    """A value short enough for a sentence."""
    return f"{value!r:.60}"


def _is_plain_number(value: Json) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) <= FURTHEST_RULE


def _read_limits(key: str, value: Json) -> Limits:
    ends = value if isinstance(value, list) else []
    right = len(ends) == 2 and all(end is None or _is_plain_number(end) for end in ends)  # noqa: PLR2004  # low, high
    if not right:
        raise SheetError(f"rules.{key}", "[low, high], null for an open end", shown(value))
    low, high = (None if end is None else float(end) for end in ends)
    if low is not None and high is not None and low > high:
        raise SheetError(f"rules.{key}", "the lower limit first", shown(value))
    return Limits(low, high)
