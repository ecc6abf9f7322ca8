"""The workshop's rules: limits of the checks, and the plain numbers that checks are computed with.

A check brings its default limits itself; the plain numbers are listed here with their meaning.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.fit.schools import SCHOOL_BY_KEY
from marquetry.core.sheet.build import Build, Json
from marquetry.core.values.errors import SheetError
from marquetry.core.values.limits import Limits


@dataclass(frozen=True, slots=True)
class Rule:
    """A plain number of the workshop: its default, its unit and what it stands for."""

    key: str
    default: float
    unit: str
    meaning: str


PLAIN_RULES: tuple[Rule, ...] = (
    Rule("gap_dial", 0.20, "mm", "Air wanted between a hand and the dial or anything raised on it."),
    Rule("gap_hands", 0.15, "mm", "Air wanted between one blade and the next."),
    Rule("gap_pipe", 0.05, "mm", "Air wanted between a hand's pipe and the blade below it."),
    Rule("gap_crystal", 0.30, "mm", "Air wanted between a hand and the crystal."),
    Rule("hand_tilt", 0.20, "°", "How far a hand may lean after pressing; it costs more at a long tip."),
    Rule("hand_engagement", 0.25, "mm", "Least length of post inside a hand's pipe."),
    Rule("foot_bend", 0.05, "mm", "How far a foot may be bent to meet its hole."),
    Rule("dial_turn", 0.5, "°", "How far the dial may stand turned without being seen."),
)
_DEFAULTS = {rule.key: rule.default for rule in PLAIN_RULES}
PLAIN_KEYS = frozenset(_DEFAULTS)


class Rules:
    """Rules in force: the sheet's own where it has them, then the workshop's, the defaults otherwise.

    Raises SheetError, naming the rule, where one of the sheet's rules is not what it should be.
    """

    def __init__(
        self, own: Mapping[str, Json] | None = None, house: Mapping[str, Json] | None = None
    ) -> None:
        self._own = {**(house or {}), **(own or {})}
        for key, value in self._own.items():
            if key in _DEFAULTS and not (_is_plain_number(value) and value >= 0):
                raise SheetError(f"rules.{key}", "a number of 0 or more", repr(value))

    @classmethod
    def of(cls, build: Build, house: Mapping[str, Json] | None = None) -> "Rules":
        """The rules of this build, and under them the workshop's own."""
        return cls(build.rules, house)

    def changed(self, key: str, value: Json) -> "Rules":
        """The same rules with one of them changed."""
        return Rules({**self._own, key: value})

    def check(self, key: str) -> None:
        """Raise SheetError where the rule of that name cannot be read."""
        if key in SCHOOL_BY_KEY:
            self.school(key)
        elif key in self._own and key not in _DEFAULTS:
            _read_limits(key, self._own[key])

    def school(self, key: str) -> str:
        """The workshop's choice on a question builders disagree on; the first where it made none.

        Raises SheetError where the rule names no such choice.
        """
        known = [choice.key for choice in SCHOOL_BY_KEY[key].choices]
        chosen = self._own.get(key, known[0])
        if chosen not in known:
            raise SheetError(f"rules.{key}", " or ".join(known), repr(chosen))
        return str(chosen)

    def number(self, key: str) -> float:
        """The plain number of that name."""
        return float(self._own.get(key, _DEFAULTS[key]))

    def limits(self, key: str, default: Limits) -> Limits:
        """The limits of that name: `[low, high]`, null for an open end."""
        own = self._own.get(key)
        return default if own is None else _read_limits(key, own)


def _is_plain_number(value: Json) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _read_limits(key: str, value: Json) -> Limits:
    ends = value if isinstance(value, list) else []
    right = len(ends) == 2 and all(end is None or _is_plain_number(end) for end in ends)  # noqa: PLR2004  # low, high
    if not right:
        raise SheetError(f"rules.{key}", "[low, high], null for an open end", repr(value))
    low, high = (None if end is None else float(end) for end in ends)
    if low is not None and high is not None and low > high:
        raise SheetError(f"rules.{key}", "the lower limit first", repr(value))
    return Limits(low, high)
