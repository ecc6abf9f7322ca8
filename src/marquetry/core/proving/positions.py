"""The six positions in which a watch is timed, what they say together, and what usually helps."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt
from typing import Literal

from marquetry.core.fit.rules import Rules
from marquetry.core.values.figures import band, figure

PositionKey = Literal["dial_up", "dial_down", "crown_up", "crown_down", "crown_left", "crown_right"]


@dataclass(frozen=True, slots=True)
class Position:
    """How a watch lies or hangs while it is timed."""

    key: PositionKey
    label: str
    is_lying: bool = False


POSITIONS = (
    Position("dial_up", "Dial up", is_lying=True),
    Position("dial_down", "Dial down", is_lying=True),
    Position("crown_up", "Crown up"),
    Position("crown_right", "Crown right"),
    Position("crown_down", "Crown down"),
    Position("crown_left", "Crown left"),
)
"""In the order in which a watch is turned: lying, then once round."""
POSITION_BY_KEY = {position.key: position for position in POSITIONS}
PAUSE_S = 5
"""The balance settles before it is read again."""


@dataclass(frozen=True, slots=True)
class PositionTiming:
    """What was heard in one position; `amplitude` None where it could not be told."""

    rate: float
    rate_u: float
    beat_error: float
    amplitude: float | None = None


@dataclass(frozen=True, slots=True)
class RuleJudged:
    """A figure against its rule: in words, whether it holds, what it usually means, what helps."""

    key: str
    label: str
    value: str
    limit: str
    holds: bool
    means: str = ""
    helps: str = ""


@dataclass(frozen=True, slots=True)
class RateRound:
    """What the positions read so far say together; rates in s a day. `hanging_less_lying` needs both."""

    read: int
    mean: float
    mean_u: float
    spread: float
    hanging_less_lying: float | None
    judged: Sequence[RuleJudged]

    @property
    def holds(self) -> bool:
        """Whether every figure holds."""
        return all(each.holds for each in self.judged)


def rate_round(heard: Mapping[str, PositionTiming], rules: Rules) -> RateRound | None:
    """The positions together; None where none is read yet."""
    if not heard:
        return None
    rates = [timing.rate for timing in heard.values()]
    mean = sum(rates) / len(rates)
    mean_u = sqrt(sum(timing.rate_u**2 for timing in heard.values())) / len(rates)
    lying = [timing for key, timing in heard.items() if POSITION_BY_KEY[_key(key)].is_lying]
    hanging = [timing for key, timing in heard.items() if not POSITION_BY_KEY[_key(key)].is_lying]
    apart = _mean(hanging) - _mean(lying) if lying and hanging else None
    spread = max(rates) - min(rates)
    way = {**(GAINS if mean > 0 else LOSES), "by": figure(abs(mean), 0, "s/d")}
    judged = [
        _judged(RATE, mean, rules, **way),
        _judged(BEAT, max(timing.beat_error for timing in heard.values()), rules),
    ]
    swings = [timing.amplitude for timing in lying if timing.amplitude is not None]
    if swings:
        judged.insert(1, _judged(SWING, min(swings), rules))
    if len(rates) > 1:
        lies = apart is not None and abs(apart) > spread / 2
        judged.append(_judged(SPREAD, spread, rules, why=HANGING if lies else ONE_SIDE))
    return RateRound(len(rates), mean, mean_u, spread, apart, tuple(judged))


def _key(key: str) -> PositionKey:
    return next(position.key for position in POSITIONS if position.key == key)


def _mean(timings: Sequence[PositionTiming]) -> float:
    return sum(timing.rate for timing in timings) / len(timings)


REGULATING = (
    "The lever's marks are not the same on any two movements: a hair at a time, then time it again. "
    "A slip beside the balance ruins it; if in doubt, leave it to a watchmaker."
)
AGAIN = "Wind it fully and hear it again"


@dataclass(frozen=True, slots=True)
class RoundRule:
    """A figure of the round by its house rule: how it is written, what it means where it does not hold.

    `limit_decimals` is how its limits are written.
    """

    key: str
    label: str
    decimals: int
    unit: str
    means: str
    helps: str
    is_signed: bool = False
    limit_decimals: int = 0


RATE = RoundRule(
    "rate", "Mean rate", 1, "s/d",
    "It {way}s: {why}.", f"Demagnetise first. Then regulate by {{by}}: {{lever}}. {REGULATING}",
    is_signed=True,
)  # fmt: skip
SWING = RoundRule(
    "amplitude", "Swing, lying", 0, "°",
    "It swings too little: not fully wound, dry or dirty, or the wrong lift angle was typed.",
    f"{AGAIN}. Check the lift angle. Then it wants a service.",
)  # fmt: skip
BEAT = RoundRule(
    "beat_error", "Beat error", 2, "ms",
    "Tick and tock are not alike: the balance does not rest in the middle.",
    f"Where the movement has a stud carrier that turns, by hairs. {REGULATING}",
    limit_decimals=1,
)  # fmt: skip
SPREAD = RoundRule(
    "position_spread", "Spread", 1, "s/d", "{why}", f"{AGAIN}; if it stays, it wants a watchmaker."
)  # fmt: skip
GAINS = {
    "way": "gain", "lever": "slower, lever towards −",
    "why": "magnetised, or regulated fast; a hairspring that touches gains a great deal",
}  # fmt: skip
LOSES = {
    "way": "lose",
    "why": "regulated slow, low swing, or dirt and old oil",
    "lever": "faster, lever towards +",
}
HANGING = "Hanging and lying differ: friction at the pivots, or low swing."
ONE_SIDE = "It depends on which side hangs down: the balance is heavier at one place."


def _judged(rule: RoundRule, value: float, rules: Rules, **words: str) -> RuleJudged:
    limits = rules.band(rule.key)
    told = figure(value, rule.decimals, rule.unit, signed=rule.is_signed)
    limit = band(limits, rule.limit_decimals, rule.unit)
    if limits.admit(value):
        return RuleJudged(rule.key, rule.label, told, limit, holds=True)
    return RuleJudged(
        rule.key, rule.label, told, limit, holds=False,
        means=rule.means.format(**words), helps=rule.helps.format(**words),
    )  # fmt: skip
