"""Figures as builders read them: fixed decimals, a true minus sign, the unit behind a thin gap.

The one place that turns a number into words; pages, drawings and the command line all call it.
"""

from marquetry.core.values.limits import Limits

MINUS = "−"
SPACE = "\u00a0"


def figure(value: float, decimals: int = 2, unit: str = "", *, signed: bool = False) -> str:
    """The value with that many decimals; −0.00 is told as 0.00, and `signed` writes the plus as well."""
    rounded = round(value, decimals) + 0.0
    text = f"{abs(rounded):.{decimals}f}"
    sign = MINUS if rounded < 0 else "+" if signed and rounded > 0 else ""
    return f"{sign}{text}{SPACE if unit else ''}{unit}"


def is_told_as_nothing(value: float, decimals: int = 2) -> bool:
    """Whether the value, with that many decimals, is told as 0."""
    return round(value, decimals) == 0


def band(limits: Limits, decimals: int = 2, unit: str = "") -> str:
    """Limits in words: `−0.10 … 0.10 mm`, `at least 0.20 mm`, `at most 85 %`."""
    if limits.low is not None and limits.high is not None:
        low = figure(limits.low, decimals)
        return f"{low} … {figure(limits.high, decimals, unit)}"
    if limits.low is not None:
        return f"at least {figure(limits.low, decimals, unit)}"
    if limits.high is not None:
        return f"at most {figure(limits.high, decimals, unit)}"
    return "no limit"


SMALL = (
    "no",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)


def in_words(count: int) -> str:
    """A count as it stands in a sentence: up to twelve in words."""
    return SMALL[count] if 0 <= count < len(SMALL) else str(count)


def chance(probability: float) -> str:
    """A chance in words that promise no more than was computed."""
    percent = 100 * probability
    if percent >= 99.5:  # noqa: PLR2004  # what would round to 100 is told as «over 99»
        return "over 99 %"
    if percent < 0.5:  # noqa: PLR2004  # what would round to 0 is told as «under 1»
        return "under 1 %"
    return f"{percent:.0f} %"


def entered(value: float) -> str:
    """A figure as an input field shows it: two decimals, more only where the value has them."""
    whole, _, decimals = f"{value:.4f}".rstrip("0").partition(".")
    return f"{whole}.{decimals.ljust(2, '0')}".replace("-", MINUS)
