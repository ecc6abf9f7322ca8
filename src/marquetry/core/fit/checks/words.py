"""A check of words: threads that are to be the same, functions that are promised and driven."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.checks.check import Described
from marquetry.core.fit.columns import Columns, Judged, Slopes
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict


@dataclass(frozen=True, slots=True)
class Issues:
    """What was found, by name (`date_missing`, `hand_without_post:h24`), and each in a sentence."""

    issues: tuple[str, ...]
    sentences: tuple[str, ...]

    def as_dict(self) -> Mapping[str, object]:
        """As JSON carries it."""
        return {"issues": list(self.issues)}

    def told(self) -> tuple[str, ...]:
        """Each issue in a sentence."""
        return self.sentences


Said = tuple[Verdict, Issues | None]


def by_gravity(broken: Sequence[str], unused: Sequence[str]) -> Verdict:
    """Clash where a promise is broken, tight where something is of no use, clear otherwise."""
    return Verdict.CLASH if broken else Verdict.TIGHT if unused else Verdict.CLEAR


def of_one_kind(
    r: Trace, key: str, parts: tuple[str, str], compared: Callable[[str], object] = str.casefold
) -> Said | None:
    """Clear where two parts have the same word under the key, as `compared` takes words; clash where not."""
    if not r.wants(*parts):
        return None
    words = {path: (r.word(path) or "").strip() for path in (f"{part}.{key}" for part in parts)}
    for path, word in words.items():
        if not word:
            r.lack(path)
    if r.missing:
        return None
    return Verdict.CLEAR if len(set(map(compared, words.values()))) == 1 else Verdict.CLASH, None


@dataclass(frozen=True, slots=True, kw_only=True)
class WordsCheck(Described):
    """`says` gives the verdict and its issues; None where it is about nothing, or something is missing."""

    says: Callable[[Trace], Said | None]
    of_names: bool = True

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The verdict, without any figure."""
        said = self.says(trace)
        return None if said is None else Finding(self.name, said[0], limits, detail=said[1])

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:  # noqa: ARG002  # words are no columns
        """One verdict for all: parts that words tell apart are not put into one column."""
        verdict = self.find(build, rules).verdict
        if verdict is Verdict.SKIPPED:
            return None
        unknown = {Verdict.UNMEASURED: np.nan, Verdict.ASSUMED: np.nan}
        nominal = {Verdict.CLASH: -np.inf, **unknown}.get(verdict, np.inf)
        worst = np.inf if verdict is Verdict.CLEAR else -np.inf
        return Judged(np.array([nominal]), np.array([worst]))
