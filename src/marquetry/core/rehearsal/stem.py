"""Cut the stem: read the gap, mark, cut, file, and stop in time. The ledger of the bench keeps the player's own account."""

import math
import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.stem import BY_EYE_U, USUAL_U, StemEvent, StemLedger, StemOf, StemTerms, stem_ledger
from marquetry.core.bench.stem_words import remaining_told
from marquetry.core.fit.checks.stem import stem_cut, stem_thread_left
from marquetry.core.rehearsal.exercise import (
    Aimed,
    At,
    Exercise,
    Mistake,
    MoveOffer,
    PlayMove,
    held_until,
    ticks,
    times,
)
from marquetry.core.rehearsal.twin import Twin
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

JAWS_A_SECOND, SHORT_OF_MARK = 1.2, 1.0
"""How fast the jaws walk along the stem, mm a second, and how far outside a mark they begin, mm."""
FILED_A_SECOND = 0.06
NICKED_MS = 80.0
GUIDED = 0.15
"""Let go so near the mark, mm, the jaws fall into it."""
NOT_HOME, NOT_HOME_MM = 0.5, (0.15, 0.45)
"""How often a stem that nobody pushed home stands out, and by how much, mm: so much too large a gap is read."""
ON_BURR_MM = (0.05, 0.15)
CROSSED = 0.6
"""How often a crown is forced askew over a burr that was left on the thread."""
LONGEST = 15.0
WORTH_CUTTING = 0.3
SURE = 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StemAt(At):
    """`whole` is what had to come off in truth, `off` what did, `mark` where the next cut is marked; mm."""

    of: StemOf
    terms: StemTerms
    whole: float
    off: float = 0.0
    events: tuple[StemEvent, ...] = ()
    mark: float = 0.0
    is_home: bool = False
    has_burr: bool = False

    @property
    def left(self) -> float:
        """What has still to come off, in truth, mm."""
        return self.whole - self.off

    @property
    def ledger(self) -> StemLedger:
        """The player's account."""
        return stem_ledger(self.events, self.terms, self.of)


def jaws(mark: float) -> Callable[[float], float]:
    """How far from the stem's end the jaws stand after so many ms, mm: from the end, or from short of a mark."""
    start = max(mark - SHORT_OF_MARK, 0.0)
    return lambda ms: start + JAWS_A_SECOND * ms / 1000


def filed(ms: float) -> float:
    """What a file takes off in so long, mm."""
    return FILED_A_SECOND * ms / 1000


class CutStem(Exercise[StemAt]):
    """The stem's length, from the first reading to the seated crown."""

    key = "stem"
    title = "Cut the stem"
    task = (
        "Bring the stem to its length, so that the crown seats on its tube and the keyless works still reach."
    )
    aim = "What is left on it lies within the window, the end is dressed, enough thread is left."
    steps = ("trial_stem", "measure_gap", "cut_stem", "dress_stem_end")
    counts = (
        ("Push it home before each reading", "A stem half a turn out reads as if more had to come off."),
        ("Mark, then cut at the mark", "Nippers that stand free on a stem slip by tenths."),
        ("Read again after every cut", "A cut is worth a twentieth; two of them unread are worth a stem."),
        ("Stop cutting, start filing", "Under three tenths a cut can take more than there is."),
        ("Dress the end", "Forced over a burr, the crown's thread crosses."),
    )
    caution = "Eye protection: a cut end flies. Point it down, into a cloth."
    checks = ("stem_cut", "stem_thread_left")

    @property
    def mistakes(self) -> tuple[Mistake[StemAt], ...]:
        """By eye; all at once; without pushing home; with the burr on."""
        return (
            Mistake("by_eye", "Cuts once, by eye, without a mark", (0.60, 0.78), _by_eye),
            Mistake(
                "at_once", "Cuts all that one reading says, and does not read again", (0.02, 0.09), _at_once
            ),
            Mistake(
                "not_home",
                "The same without pushing the stem home first",
                (0.45, 0.60),
                partial(_at_once, home=False),
            ),
            Mistake("with_burr", "Leaves the burr on", (0.58, 0.80), _with_burr),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch with a stem that has to be cut."""
        if not situation.has("case", "movement", "crown", "stem"):
            return "It takes a case, a movement, a crown and a stem."
        start = situation.stem.start
        if start is not None and start.r < WORTH_CUTTING:
            return f"Only {figure(start.r, 2, 'mm')} have to come off this stem."
        return ""

    def begin(self, twin: Twin) -> StemAt:
        """The stem as it was bought, in the watch."""
        whole = float(nominal(stem_cut(twin.formulas)))
        of = StemOf.sheet(twin.believed, twin.rules)
        return StemAt(
            twin=twin,
            notes=(f"By the sheet {remaining_told(of.start)} have to come off.",),
            of=of,
            terms=StemTerms.of(twin.rules),
            whole=whole,
        )

    def offers(self, at: StemAt) -> tuple[MoveOffer, ...]:
        """Read, mark, cut, file, dress, seat."""
        usual = at.ledger.amount or max(at.ledger.now.r if at.ledger.now else 0.0, 0.0)
        return (
            MoveOffer("home", "Push the stem home", "h"),
            MoveOffer("gap", "Read the gap", "g"),
            MoveOffer("length", "Stem out, read its length", "l"),
            MoveOffer("mark", "Mark it", "m", "amount", usual=round(usual, 2), high=LONGEST),
            MoveOffer("cut", "Cut", " ", "hold"),
            MoveOffer("file", "File", "f", "hold"),
            MoveOffer("dress", "Dress the burr", "d"),
            MoveOffer("seat", "Seat the crown", "Enter", ends=True),
        )

    def track(self, at: StemAt, what: str, draw: random.Random) -> tuple[float, ...]:
        """Where the jaws stand, or what the file took, from the end."""
        del draw
        return ticks(jaws(at.mark) if what == "cut" else filed)

    def after(self, at: StemAt, move: PlayMove, draw: random.Random) -> StemAt:
        """Each with its own spread."""
        match move.what:
            case "home":
                return replace(at, is_home=True, notes=(*at.notes, "Pushed home: it clicks."))
            case "gap":
                return _read_gap(at, draw)
            case "length":
                true = at.left + (at.of.target.r if at.of.target else 0.0)
                read = round(draw.gauss(true, USUAL_U["length"]), 2)
                return _kept(
                    at, StemEvent("length", read), f"Stem {figure(read, 2, 'mm')} long.", is_home=False
                )
            case "mark":
                return replace(
                    at,
                    mark=move.value,
                    notes=(*at.notes, f"Marked {figure(move.value, 2, 'mm')} from the end."),
                )
            case "cut":
                return _cut(at, move.value, draw)
            case "file":
                return _file(at, filed(move.value), draw)
            case "dress":
                return replace(
                    at, has_burr=False, notes=(*at.notes, "Burr off, two turns back with the die.")
                )
        return _seat(at, draw)

    def figures(self, at: StemAt) -> tuple[Aimed, ...]:
        """What is left on the stem, and of its thread."""
        thread = float(nominal(stem_thread_left(at.twin.formulas))) + at.left
        limits = at.twin.report.findings["stem_thread_left"].limits
        left = Aimed("Left on the stem", at.left, at.terms.window)
        return (left,) if math.isnan(thread) else (left, Aimed("Thread left", thread, limits))

    def praise(self, at: StemAt) -> str:
        """By how many cuts and readings."""
        cuts = sum(event.what == "cut" for event in at.events)
        reads = sum(event.what in {"gap", "length"} for event in at.events)
        told = f"It seats, cut {times(cuts)} and read {times(reads)}."
        return told if reads > cuts else f"{told} That was luck: read again after every cut."

    def blame(self, at: StemAt) -> str:
        """Too short, too long, or the thread."""
        if at.spoilt:
            return at.spoilt
        if at.terms.window.excess(at.left) > 0:
            return f"It stands {figure(at.left, 2, 'mm')} out: nothing is lost. Read the gap once more, then file."
        return "It seats, but too little thread is left to hold the crown: a stem with a longer thread."

    def sure(self, at: StemAt) -> PlayMove:
        """Reads twice at first, once after every cut; marks what the ledger says; files at the end."""
        if at.has_burr:
            return PlayMove("dress")
        ledger = at.ledger
        if ledger.advice in {"seat", "short"} and _is_read(at):
            return (
                PlayMove("seat")
                if _is_sure(at)
                else PlayMove("file", held_until(filed, max(_remains(at), 0.0)))
            )
        if not _is_read(at) or ledger.advice == "measure":
            return PlayMove("gap") if at.is_home else PlayMove("home")
        if ledger.advice == "file":
            return PlayMove("file", held_until(filed, ledger.amount))
        return _marked_cut(at, ledger.amount)


def _remains(at: StemAt) -> float:
    return at.ledger.now.r if at.ledger.now else 0.0


def _is_sure(at: StemAt) -> bool:
    """Whether the window's upper end is three standard uncertainties away: a stroke of the file costs little."""
    now = at.ledger.now
    return now is not None and at.terms.window.excess(now.r + SURE * now.u) <= 0


def _is_read(at: StemAt) -> bool:
    """Whether the last thing that happened to the stem was a reading."""
    return bool(at.events) and at.events[-1].what in {"gap", "length"}


def _marked_cut(at: StemAt, amount: float) -> PlayMove:
    if abs(at.mark - amount) > 1e-6:  # noqa: PLR2004  # the same mark
        return PlayMove("mark", round(amount, 4))
    return PlayMove("cut", held_until(jaws(at.mark), amount))


def _kept(at: StemAt, event: StemEvent, words: str, **also: object) -> StemAt:
    kept = replace(at, events=(*at.events, event), **also)  # type: ignore[arg-type]  # fields by name
    return replace(
        kept, notes=(*at.notes, f"{words} By the ledger {remaining_told(kept.ledger.now)} remain.")
    )


def _read_gap(at: StemAt, draw: random.Random) -> StemAt:
    too_much = draw.uniform(*NOT_HOME_MM) if draw.random() < NOT_HOME and not at.is_home else 0.0
    too_much += draw.uniform(*ON_BURR_MM) if at.has_burr else 0.0
    read = round(
        max(draw.gauss(at.left + too_much, USUAL_U["gap"]), 0.0), 2
    )  # a crown on its tube shows none
    return _kept(at, StemEvent("gap", read), f"Gap {figure(read, 2, 'mm')}.", is_home=False)


def _cut(at: StemAt, ms: float, draw: random.Random) -> StemAt:
    """At the mark where the jaws feel it, else where they slip to."""
    stands = jaws(at.mark)(ms)
    if ms < NICKED_MS:
        return replace(at, notes=(*at.notes, "Let go before the jaws closed: nothing was cut."))
    is_guided = at.mark > 0 and abs(stands - at.mark) <= GUIDED
    meant = at.mark if is_guided else stands
    came_off = max(draw.gauss(meant, USUAL_U["cut"] if is_guided else BY_EYE_U), 0.0)
    how = "at the mark" if is_guided else "without a mark under the jaws"
    event = StemEvent("cut", round(meant, 4), None if is_guided else BY_EYE_U)
    cut = replace(at, off=at.off + came_off, mark=0.0, has_burr=True)
    words = f"Cut {figure(meant, 2, 'mm')}, {how}."
    return _watched(
        _kept(cut, event, words, is_home=False), _too_short(f"That cut took {figure(came_off)} off")
    )


def _file(at: StemAt, meant: float, draw: random.Random) -> StemAt:
    came_off = max(draw.gauss(meant, USUAL_U["file"]), 0.0) if meant > 0 else 0.0
    event = StemEvent("file", round(meant, 4))
    now = replace(at, off=at.off + came_off)
    words = f"Filed {figure(meant, 2, 'mm')}."
    return _watched(_kept(now, event, words, is_home=False), _too_short("The file went on too long"))


def _too_short(why: str) -> str:
    return f"{why}: the stem is too short. Nothing can be added to a stem; it is scrap, or wants an extender."


def _watched(at: StemAt, why: str) -> StemAt:
    """Note the moment at which the stem became too short; the player learns of it at the end."""
    return at if at.spoilt or at.terms.window.shortfall(at.left) <= 0 else replace(at, spoilt=why)


def _seat(at: StemAt, draw: random.Random) -> StemAt:
    crossed = at.has_burr and draw.random() < CROSSED
    why = at.spoilt or ("Screwed on over the burr: the crown's thread is crossed." if crossed else "")
    return replace(at, done=True, spoilt=why)


def _by_eye(at: StemAt) -> PlayMove:
    if not at.off:
        return PlayMove("cut", held_until(jaws(0.0), at.of.start.r if at.of.start else 0.0))
    return PlayMove("dress") if at.has_burr else PlayMove("seat")


def _at_once(at: StemAt, *, home: bool = True) -> PlayMove:
    if not at.events:
        return PlayMove("home") if home and not at.is_home else PlayMove("gap")
    if at.off:
        return PlayMove("dress") if at.has_burr else PlayMove("seat")
    return _marked_cut(at, at.events[0].value)


def _with_burr(at: StemAt) -> PlayMove:
    return CutStem().sure(replace(at, has_burr=False))
