"""The six positions in which a watch is timed, what they say together, and what usually helps."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt
from typing import Literal

from marquetry.core.fit.rules import Rules
from marquetry.core.values.figures import band, figure
from marquetry.core.values.limits import Limits

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
    judged = [_rate(mean, rules), _beat(max(t.beat_error for t in heard.values()), rules)]
    swings = [timing.amplitude for timing in lying if timing.amplitude is not None]
    if swings:
        judged.insert(1, _swing(min(swings), rules))
    if len(rates) > 1:
        judged.append(_spread(spread, apart, rules))
    return RateRound(len(rates), mean, mean_u, spread, apart, tuple(judged))


def _key(key: str) -> PositionKey:
    return next(position.key for position in POSITIONS if position.key == key)


def _mean(timings: Sequence[PositionTiming]) -> float:
    return sum(timing.rate for timing in timings) / len(timings)


REGULATING = (
    "The lever's marks are not the same on any two movements: a hair at a time, then time it again. "
    "A slip beside the balance ruins it; if in doubt, leave it to a watchmaker."
)


def _rate(mean: float, rules: Rules) -> RuleJudged:
    limits = rules.band("rate")
    value, limit = figure(mean, 1, "s/d", signed=True), band(limits, 0, "s/d")
    if limits.admit(mean):
        return RuleJudged("rate", "Mean rate", value, limit, holds=True)
    way = "slower, lever towards −" if mean > 0 else "faster, lever towards +"
    means = (
        "It gains: magnetised, or regulated fast; a hairspring that touches gains a great deal."
        if mean > 0
        else "It loses: regulated slow, low swing, or dirt and old oil."
    )
    helps = f"Demagnetise first. Then regulate by {figure(abs(mean), 0, 's/d')}: {way}. {REGULATING}"
    return RuleJudged("rate", "Mean rate", value, limit, holds=False, means=means, helps=helps)


def _swing(least: float, rules: Rules) -> RuleJudged:
    limits = rules.band("amplitude")
    value, limit = figure(least, 0, "°"), band(limits, 0, "°")
    if limits.admit(least):
        return RuleJudged("amplitude", "Swing, lying", value, limit, holds=True)
    return RuleJudged(
        "amplitude", "Swing, lying", value, limit, holds=False,
        means="It swings too little: not fully wound, dry or dirty, or the wrong lift angle was typed.",
        helps="Wind it fully and hear it again. Check the lift angle. Then it wants a service.",
    )  # fmt: skip


def _beat(most: float, rules: Rules) -> RuleJudged:
    limits = rules.band("beat_error")
    value, limit = figure(most, 2, "ms"), band(limits, 1, "ms")
    if limits.admit(most):
        return RuleJudged("beat_error", "Beat error", value, limit, holds=True)
    return RuleJudged(
        "beat_error", "Beat error", value, limit, holds=False,
        means="Tick and tock are not alike: the balance does not rest in the middle.",
        helps=f"Where the movement has a stud carrier that turns, by hairs. {REGULATING}",
    )  # fmt: skip


def _spread(spread: float, apart: float | None, rules: Rules) -> RuleJudged:
    limits: Limits = rules.band("position_spread")
    value, limit = figure(spread, 1, "s/d"), band(limits, 0, "s/d")
    if limits.admit(spread):
        return RuleJudged("position_spread", "Spread", value, limit, holds=True)
    lies = apart is not None and abs(apart) > spread / 2
    return RuleJudged(
        "position_spread", "Spread", value, limit, holds=False,
        means="Hanging and lying differ: friction at the pivots, or low swing."
        if lies
        else "It depends on which side hangs down: the balance is heavier at one place.",
        helps="Wind it fully and hear it again; if it stays, it wants a watchmaker.",
    )  # fmt: skip
