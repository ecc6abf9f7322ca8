"""A check of the chapter ring: whether something in the case holds it upright."""

from marquetry.core.fit.checks.check import Words
from marquetry.core.fit.checks.words import Issues, Said, WordsCheck
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

CASE, RING = "case.ring_notch", "chapter_ring.notch"
CASE_KEY, RING_KEY = "case.ring_key", "chapter_ring.key"
SAID: dict[tuple[bool, bool], tuple[Verdict, str, str]] = {
    (False, True): (
        Verdict.CLASH,
        "notch_without_detent",
        "The ring has a notch and the case no detent for it: the ring is free to turn.",
    ),
    (True, False): (
        Verdict.TIGHT,
        "detent_unused",
        "The case has a detent and the ring no notch: it rides on the detent, unless that is taken off.",
    ),
    (False, False): (
        Verdict.TIGHT,
        "ring_unlocated",
        "Neither notch nor detent: the ring is set by eye and held only by what presses it.",
    ),
}


NIB_WORDS = (
    "The ring has a nib and the case no recess for it: the ring will not lie down. "
    "File the nib off the ring, and hold the ring with a spot of tape."
)
PIN_WORDS = (
    "The case has a pin and the ring no notch over it: the ring rides on the pin. "
    "File a notch into the ring, never the case."
)
FREE_WORDS = (
    "Nothing of the ring meets anything of the case: it is set by eye and held only by what presses it."
)


def _by_key(ring: str, case: str) -> Said:
    """What ring (nib, notch, none) and case (recess, pin, none) are to each other; nib over pin is both."""
    if (ring, case) in {("nib", "recess"), ("notch", "pin")}:
        return Verdict.CLEAR, Issues((), ())
    told = {
        **({"nib_without_recess": NIB_WORDS} if ring == "nib" else {}),
        **({"pin_without_notch": PIN_WORDS} if case == "pin" else {}),
    }
    verdict = Verdict.CLASH if told else Verdict.TIGHT
    told = told or {"ring_unlocated": FREE_WORDS}
    return verdict, Issues(tuple(told), tuple(told.values()))


def ring_notch_said(r: Trace) -> Said | None:
    """`ring_notch`: clear where something of the ring meets something of the case; keys go before notches."""
    if not r.wants("case", "chapter_ring"):
        return None
    keyed = [r.known(RING_KEY), r.known(CASE_KEY)]
    ring_key, case_key = (r.word(RING_KEY), r.word(CASE_KEY)) if all(keyed) else (None, None)
    if ring_key and case_key:
        return _by_key(ring_key, case_key)
    case, ring = (r.flag(path) for path in (CASE, RING))
    for path, found in ((CASE, case), (RING, ring)):
        if found is None:
            r.lack(path)
    if case is None or ring is None:
        return None
    verdict, *told = SAID.get((case, ring), (Verdict.CLEAR,))
    return verdict, Issues(tuple(told[:1]), tuple(told[1:]))


CHECKS = (
    WordsCheck(
        name="ring_notch",
        title="Ring held upright",
        limits=Limits(None, None),
        says=ring_notch_said,
        plan="notch",
        words=Words(
            means="A notch of the chapter ring sits on a detent of the case, so that its marks stay upright.",
            below="The ring's marks do not stay with the dial's, or the ring does not lie down.",
            helps=(
                "A nib and no recess: file the nib off. A pin and no notch: file the ring, never the case.",
                "A ring with a notch on a case without a detent: a ring without, or a spot of adhesive tape.",
                "A ring without a notch on a detent: file a notch, dust kept out; or take the detent off.",
                "Neither: line ring and dial up under the loupe before the crystal is pressed.",
            ),
        ),
    ),
)
