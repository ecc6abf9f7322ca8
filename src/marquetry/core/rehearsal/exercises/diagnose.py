"""Diagnose: a complaint, some looks and tries, a conclusion. What each sign says is weighed as Bayes has it."""

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass, replace

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove, noted
from marquetry.core.rehearsal.exercises.symptoms import SYMPTOMS, Cause, Symptom, SymptomLook
from marquetry.core.rehearsal.twin import Twin, draws
from marquetry.core.values.figures import chance
from marquetry.core.values.limits import Limits

SURE = 0.997
PATIENT_MINUTES = 45.0
"""Who takes longer looks at everything, and at nothing twice as well."""


@dataclass(frozen=True, slots=True, kw_only=True)
class DiagnoseAt(At):
    """`cause` is what is wrong; `signs` what was looked at and whether its sign was seen, in order."""

    symptom: Symptom
    cause: Cause
    signs: tuple[tuple[str, bool], ...] = ()
    minutes: float = 0.0
    concluded: str = ""

    def shares(self) -> Mapping[str, float]:
        """How likely each cause is by what was seen, 0 to 1."""
        looks = {look.key: look for look in self.symptom.looks}
        found = {cause.key: cause.share for cause in self.symptom.causes}
        for key, is_seen in self.signs:
            found = {
                cause: share * _likely(looks[key], cause, is_seen=is_seen) for cause, share in found.items()
            }
        total = sum(found.values())
        return {cause: share / total for cause, share in found.items()}


class Diagnose(Exercise[DiagnoseAt]):
    """One complaint, drawn by its seed."""

    key = "diagnose"
    title = "Diagnose"
    task = "A watch comes back with a complaint. Look and try, as little as it takes, and say what it is."
    aim = f"The right cause, nothing broken on the way, within {PATIENT_MINUTES:.0f} minutes."
    steps = ("rotor_free", "hands_round", "crown_works", "functions_all", "check_movement", "open_donor")
    counts = (
        ("Look before you try, try before you open", "Each opening lets dust in; a look costs nothing."),
        ("Ask what would tell two causes apart", "A sign that all of them show says nothing."),
        ("The commonest is not always it", "One sign against it is worth more than its being common."),
        ("Never force", "What grinds, binds or stops has a reason, and force finds the weakest part."),
    )

    @property
    def mistakes(self) -> tuple[Mistake[DiagnoseAt], ...]:
        """The commonest; the first sign; force."""
        return (
            Mistake("commonest", "Says the commonest without a look", (0.55, 0.75), _commonest),
            Mistake("first_sign", "Believes the first look", (0.25, 0.60), _first_sign),
            Mistake("force", "Helps a little with force first", (0.55, 0.80), _force),
        )

    def lacking(self, situation: Situation) -> str:
        """Something to look at."""
        return "" if situation.has("case", "movement") else "It takes a case and a movement."

    def begin(self, twin: Twin) -> DiagnoseAt:
        """A complaint, its cause drawn by how often it is the cause."""
        draw = draws(twin.seed, "complaint")
        symptom = draw.choice(SYMPTOMS)
        cause = draw.choices(symptom.causes, [one.share for one in symptom.causes])[0]
        return DiagnoseAt(twin=twin, symptom=symptom, cause=cause, notes=(symptom.words,))

    def offers(self, at: DiagnoseAt) -> tuple[MoveOffer, ...]:
        """Look or try; conclude."""
        looks = tuple(Option(look.key, f"{look.words} ({look.minutes} min)") for look in at.symptom.looks)
        causes = tuple(Option(cause.key, cause.words) for cause in at.symptom.causes)
        return (
            MoveOffer("look", "Look or try", "l", "pick", looks),
            MoveOffer("conclude", "It is this", "w", "pick", causes, ends=True),
        )

    def after(self, at: DiagnoseAt, move: PlayMove, draw: random.Random) -> DiagnoseAt:
        """A sign is seen as often as its table says."""
        if move.what == "conclude":
            return replace(at, done=True, concluded=move.word)
        look = next(one for one in at.symptom.looks if one.key == move.word)
        is_seen = draw.random() < look.shows[at.cause.key]
        breaks = draw.random() < look.harm
        words = (
            f"{look.words}{'' if look.words.endswith('?') else ':'} {look.seen if is_seen else look.unseen}"
        )
        spoilt = at.spoilt or (look.breaks if breaks else "")
        at = replace(
            at, signs=(*at.signs, (look.key, is_seen)), minutes=at.minutes + look.minutes, spoilt=spoilt
        )
        return noted(at, f"{words} {look.breaks}" if breaks else words)

    def figures(self, at: DiagnoseAt) -> tuple[Aimed, ...]:
        """Right or not; how long."""
        return (
            Aimed("Right cause", float(at.concluded == at.cause.key), Limits(1.0, None), "", 0),
            Aimed("Time it took", at.minutes, Limits(None, PATIENT_MINUTES), "min", 0),
        )

    def praise(self, at: DiagnoseAt) -> str:
        """What mends it, and how sure it was."""
        return f"It is that, {chance(at.shares()[at.cause.key])} sure by what was seen. {at.cause.mend}"

    def blame(self, at: DiagnoseAt) -> str:
        """What it was, and which look would have told."""
        if at.spoilt:
            return at.spoilt
        if at.concluded == at.cause.key:
            return f"Right, but it took {at.minutes:.0f} minutes. Ask first what tells two causes apart."
        wrong = next(cause for cause in at.symptom.causes if cause.key == at.concluded)
        tells = max(
            (look for look in at.symptom.looks if not look.harm),
            key=lambda look: abs(look.shows[at.cause.key] - look.shows[wrong.key]),
        )
        return f"It was another: {at.cause.words[0].lower()}{at.cause.words[1:]}. “{tells.words}” tells the two apart. {at.cause.mend}"

    def sure(self, at: DiagnoseAt) -> PlayMove:
        """The look that tells most a minute, until one cause is as good as certain."""
        shares = at.shares()
        best = max(shares, key=lambda key: shares[key])
        if shares[best] >= SURE:
            return PlayMove("conclude", word=best)
        return PlayMove("look", word=_telling(at).key)


def _likely(look: SymptomLook, cause: str, *, is_seen: bool) -> float:
    return look.shows[cause] if is_seen else 1 - look.shows[cause]


def _telling(at: DiagnoseAt) -> SymptomLook:
    """The harmless look that takes away most uncertainty (entropy, Shannon 1948) a minute."""
    return max(
        (look for look in at.symptom.looks if not look.harm),
        key=lambda look: _gain(at.shares(), look) / look.minutes,
    )


def _gain(shares: Mapping[str, float], look: SymptomLook) -> float:
    expected = 0.0
    for is_seen in (True, False):
        joint = [share * _likely(look, cause, is_seen=is_seen) for cause, share in shares.items()]
        total = sum(joint)
        expected += total * _entropy([share / total for share in joint]) if total else 0.0
    return _entropy(list(shares.values())) - expected


def _entropy(shares: list[float]) -> float:
    return -sum(share * math.log2(share) for share in shares if share > 0)


def _commonest(at: DiagnoseAt) -> PlayMove:
    return PlayMove("conclude", word=max(at.symptom.causes, key=lambda cause: cause.share).key)


def _first_sign(at: DiagnoseAt) -> PlayMove:
    if not at.signs:
        return PlayMove("look", word=_telling(at).key)
    shares = at.shares()
    return PlayMove("conclude", word=max(shares, key=lambda key: shares[key]))


def _force(at: DiagnoseAt) -> PlayMove:
    if not at.signs:
        return PlayMove("look", word=next(look.key for look in at.symptom.looks if look.harm))
    return Diagnose().sure(at)
