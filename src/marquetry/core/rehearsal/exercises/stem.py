"""Cut the stem: read the gap, mark, cut, file, and stop in time. The ledger of the bench keeps the player's own account."""

import math
import random
from dataclasses import replace
from functools import partial

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.stem import USUAL_U, StemEvent, StemOf, StemTerms
from marquetry.core.bench.stem_words import remaining_told
from marquetry.core.fit.checks.stem import stem_cut, stem_thread_left
from marquetry.core.rehearsal.actions.stem_cut import StemAt, cut, file_off, filed, jaws, kept, read_gap, seat
from marquetry.core.rehearsal.exercise import (
    Aimed,
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

LONGEST = 15.0
WORTH_CUTTING = 0.3
SURE = 3.0


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
        (
            "Push the stem home before each reading",
            "A stem that is half out reads as if more had to come off.",
        ),
        ("Screw the crown home before each reading", "Two turns short stand out by half a millimetre."),
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
            Mistake(
                "crown_short",
                "The same with the crown some turns short",
                (0.9, 1.0),
                partial(_at_once, crown=False),
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
            MoveOffer("crown", "Screw the crown home", "c"),
            MoveOffer("gap", "Read the gap", "g"),
            MoveOffer("length", "Stem out, read its length", "l"),
            MoveOffer("mark", "Mark it", "m", "amount", usual=round(usual, 2), high=LONGEST),
            MoveOffer("cut", "Cut", " ", "hold"),
            MoveOffer("file", "File", "f", "hold"),
            MoveOffer("dress", "Dress the burr", "d"),
            MoveOffer("seat", "Seat the crown", "Enter", ends=True),
        )

    def track(self, at: StemAt, what: str, draw: random.Random) -> tuple[float, ...]:
        """Where the jaws stand, or what the file took, mm from the end."""
        del draw
        return ticks(jaws(at.mark) if what == "cut" else filed)

    def after(self, at: StemAt, move: PlayMove, draw: random.Random) -> StemAt:
        """Each with its own spread."""
        match move.what:
            case "home":
                return replace(at, is_home=True, notes=(*at.notes, "Pushed home: it clicks."))
            case "crown":
                return replace(
                    at, is_screwed=True, notes=(*at.notes, "Crown screwed home, to its bore's bottom.")
                )
            case "gap":
                return read_gap(at, draw)
            case "length":
                true = at.left + (at.of.target.r if at.of.target else 0.0)
                read = round(draw.gauss(true, USUAL_U["length"]), 2)
                return kept(
                    at,
                    StemEvent("length", read),
                    f"Stem {figure(read, 2, 'mm')} long.",
                    is_home=False,
                    is_screwed=False,
                )
            case "mark":
                return replace(
                    at,
                    mark=move.value,
                    notes=(*at.notes, f"Marked {figure(move.value, 2, 'mm')} from the end."),
                )
            case "cut":
                return cut(at, move.value, draw)
            case "file":
                return file_off(at, filed(move.value), draw)
            case "dress":
                return replace(
                    at, has_burr=False, notes=(*at.notes, "Burr off, two turns back with the die.")
                )
        return seat(at, draw)

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
            return _both_home(at) or PlayMove("gap")
        if ledger.advice == "file":
            return PlayMove("file", held_until(filed, ledger.amount))
        return _marked_cut(at, ledger.amount)


def _both_home(at: StemAt, *, home: bool = True, crown: bool = True) -> PlayMove | None:
    """What still comes before a reading: stem pushed home, crown screwed home."""
    if home and not at.is_home:
        return PlayMove("home")
    return PlayMove("crown") if crown and not at.is_screwed else None


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


def _by_eye(at: StemAt) -> PlayMove:
    if not at.off:
        return PlayMove("cut", held_until(jaws(0.0), at.of.start.r if at.of.start else 0.0))
    return PlayMove("dress") if at.has_burr else PlayMove("seat")


def _at_once(at: StemAt, *, home: bool = True, crown: bool = True) -> PlayMove:
    if not at.events:
        return _both_home(at, home=home, crown=crown) or PlayMove("gap")
    if at.off:
        return PlayMove("dress") if at.has_burr else PlayMove("seat")
    return _marked_cut(at, at.events[0].value)


def _with_burr(at: StemAt) -> PlayMove:
    return CutStem().sure(replace(at, has_burr=False))
