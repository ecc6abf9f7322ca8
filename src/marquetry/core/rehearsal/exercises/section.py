"""Read a section: find what clashes by looking, and choose what mends it without spoiling something else."""

import random
from collections.abc import Mapping
from dataclasses import dataclass, replace

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.trace import Trace
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove
from marquetry.core.rehearsal.exercises.faults import FAULTS, MENDS, SPACERS, Mend, SectionFault
from marquetry.core.rehearsal.exercises.spacer import with_spacer
from marquetry.core.rehearsal.twin import Twin, draws, with_figures
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

CHOICES, MOST_CLASHES = 4, 2
REACH, HALVINGS = 12.0, 17
"""How far a dimension is moved at most, mm, and how finely its place is found."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SectionAt(At):
    """`fault` is what is wrong, `shown` the checks that may be marked, `mends` what may be chosen."""

    fault: SectionFault
    shown: tuple[str, ...]
    mends: tuple[Mend, ...]
    right: frozenset[str]
    clashing: frozenset[str]
    marked: frozenset[str] = frozenset()
    chosen: str = ""

    def letter(self, check: str) -> str:
        """The letter by which a place is called in the drawing."""
        return "ABCDEFGH"[self.shown.index(check)]


class ReadSection(Exercise[SectionAt]):
    """A watch with one thing wrong, in section, no figures told."""

    key = "section"
    title = "Read a section"
    task = (
        "Something in this watch does not go together. Mark where, by its letter, and choose what mends it."
    )
    aim = "What clashes is marked and nothing else, and what was chosen mends it without spoiling anything."
    steps = ("trial_dial", "rotor_free", "fit_holder", "close_back", "hands_round")
    counts = (
        (
            "Faces that overlap, gaps that are not there",
            "A section is drawn to scale: what touches in it touches in the case.",
        ),
        ("One thing pulls others along", "A spacer that mends the stem lowers the rotor into the back."),
        (
            "Where a tenth decides, look at the close place",
            "The section tells where to measure, never that nothing need be.",
        ),
    )
    checks = tuple(fault.check for fault in FAULTS)

    @property
    def mistakes(self) -> tuple[Mistake[SectionAt], ...]:
        """The narrowest gap; mends at random."""
        return (
            Mistake("narrowest", "Marks the first place where two parts lie close", (0.85, 1.0), _narrowest),
            Mistake(
                "any_mend", "Sees it, and takes the first thing that comes to mind", (0.60, 0.90), _any_mend
            ),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch of which enough is described, without a clash of its own in section."""
        if not situation.has("case", "dial", "movement", "crystal", "hands"):
            return "It takes a case, a crystal, a dial, hands and a movement."
        own = sorted(_seen_clashing(situation.report))
        if own:
            titles = " and ".join(situation.rules.model.title(name).lower() for name in own)
            return f"This watch has a clash of its own ({titles}): its page shows it."
        return ""

    def begin(self, twin: Twin) -> SectionAt:
        """With the one fault that its seed draws, among those that something on the list mends; nothing marked."""
        draw = draws(twin.seed, "prepared")
        faults = list(FAULTS)
        draw.shuffle(faults)
        for fault in faults:
            true = _with_fault(twin, fault, draw)
            faulty = None if true is None else replace(twin, true=true)
            if faulty and _is_one_thing(faulty, fault):
                after = {mend: _clashing_after(faulty, mend) for mend in MENDS}
                unseen = _clashing(faulty.truth) - _seen_clashing(faulty.truth)
                right = [mend for mend, left in after.items() if left is not None and left <= unseen]
                if right:
                    wrong = [mend for mend, left in after.items() if left is not None and mend not in right]
                    return self._begun(faulty, fault, right, wrong)
        raise SheetError(self.title, "a watch in which something on its list can go wrong and be mended")

    def _begun(self, twin: Twin, fault: SectionFault, right: list[Mend], wrong: list[Mend]) -> SectionAt:
        """One mend that is right among some that are not: they leave the clash, or bring another."""
        draw = draws(twin.seed, "mends")
        mends = [draw.choice(right), *draw.sample(wrong, min(CHOICES - 1, len(wrong)))]
        draw.shuffle(mends)
        return SectionAt(
            twin=twin,
            fault=fault,
            shown=tuple(name for name in self.checks if twin.truth.findings[name].value is not None),
            mends=tuple(mends),
            right=frozenset(mend.key for mend in right),
            clashing=frozenset(_seen_clashing(twin.truth)),
        )

    def offers(self, at: SectionAt) -> tuple[MoveOffer, ...]:
        """Mark, choose, done."""
        model = at.twin.rules.model
        places = tuple(
            Option(name, f"{at.letter(name)}: {model.title(name)}", name in at.marked) for name in at.shown
        )
        mends = tuple(Option(mend.key, mend.words, mend.key == at.chosen) for mend in at.mends)
        found = (
            MoveOffer("mark", "It clashes at", "m", "pick", places),
            MoveOffer("mend", "What mends it", "w", "pick", mends),
        )
        return (
            (*found, MoveOffer("done", "That is it", "Enter", ends=True))
            if at.marked and at.chosen
            else found
        )

    def after(self, at: SectionAt, move: PlayMove, draw: random.Random) -> SectionAt:
        """A mark is put on or taken off; of the mends one is chosen."""
        del draw
        match move.what:
            case "mark":
                return replace(at, marked=at.marked ^ {move.word})
            case "mend":
                return replace(at, chosen=move.word)
        return replace(at, done=True)

    def figures(self, at: SectionAt) -> tuple[Aimed, ...]:
        """Found, falsely marked, mended."""
        return (
            Aimed(
                "Clashes found", float(len(at.marked & at.clashing)), Limits(len(at.clashing), None), "", 0
            ),
            Aimed("Marked, and clear", float(len(at.marked - at.clashing)), Limits(None, 0), "", 0),
            Aimed("Clashes left after it", float(_left(at)), Limits(None, 0), "", 0),
        )

    def praise(self, at: SectionAt) -> str:
        """What would have happened."""
        return f"{at.fault.why} Seen on paper it costs nothing."

    def blame(self, at: SectionAt) -> str:
        """Where it was, or what the mend does."""
        title = at.twin.rules.model.title(at.fault.check)
        value = at.twin.truth.findings[at.fault.check].value or 0.0
        where = f"It was at {at.letter(at.fault.check)}, {title.lower()}: {figure(value, 2, 'mm')}. {at.fault.why}"
        if at.marked != at.clashing:
            return where
        named = {mend.key: mend for mend in at.mends}
        right = next((mend.words for key, mend in named.items() if key in at.right), "none of these")
        return f"Seen rightly, but that does not mend it. {right} does. {at.fault.why}"

    def sure(self, at: SectionAt) -> PlayMove:
        """Marks what overlaps in the drawing, and chooses what the report agrees with."""
        unmarked = sorted(at.clashing - at.marked)
        if unmarked:
            return PlayMove("mark", word=unmarked[0])
        if not at.chosen:
            return PlayMove("mend", word=next(mend.key for mend in at.mends if mend.key in at.right))
        return PlayMove("done")


def _is_one_thing(twin: Twin, fault: SectionFault) -> bool:
    """Whether the fault alone is seen: its own clash, and at most one that it brings along."""
    found = _seen_clashing(twin.truth)
    return fault.check in found and len(found) <= MOST_CLASHES


def _seen_clashing(report: Report) -> set[str]:
    """What clashes of the places that have a letter."""
    return {fault.check for fault in FAULTS} & _clashing(report)


def _clashing(report: Report) -> set[str]:
    return {name for name, found in report.findings.items() if found.verdict is Verdict.CLASH}


def _with_fault(twin: Twin, fault: SectionFault, draw: random.Random) -> Build | None:
    check = twin.rules.model.check(fault.check)
    found = twin.truth.findings[fault.check]
    limit = found.limits.high if fault.is_over else found.limits.low
    if found.value is None or limit is None:
        return None
    aim = limit + draw.uniform(*fault.beyond) * (1 if fault.is_over else -1)
    value = _solved(check, twin, fault, aim)
    if value is None or not _may_be(twin.true, fault.path, value):
        return None
    by = value - twin.true.dimensions[fault.path].value
    known = {
        path: twin.true.dimensions[path].value
        for path in (fault.path, *fault.also)
        if path in twin.true.dimensions
    }
    return with_figures(twin.true, {path: round(old + by, 4) for path, old in known.items()})


def _solved(check: Check, twin: Twin, fault: SectionFault, aim: float) -> float | None:
    """The figure at which the check's quantity is as wanted, by halving: the stack of hands has kinks."""

    def found(value: float) -> float:
        moved = {fault.path: Dimension(value, 0.0, Source.EXACT)}
        return check.found(Trace(twin.true, twin.rules, moved)).value or 0.0

    here = twin.true.dimensions[fault.path].value
    rises = found(here + 0.1) > found(here - 0.1)
    low, high = here - REACH, here + REACH
    if not min(found(low), found(high)) <= aim <= max(found(low), found(high)):
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if (found(middle) < aim) == rises else (low, middle)
    return high


def _may_be(build: Build, path: str, value: float) -> bool:
    """Whether a part could measure that."""
    try:
        build.anatomy.quantity_at(path).refuse_impossible(path, value)
    except MarquetryError:
        return False
    return True


def _clashing_after(twin: Twin, mend: Mend) -> set[str] | None:
    """What clashes with it done; None where it is about a part that is not there.

    Of one dimension moved only what hangs on it is asked again: ten mends are tried before a play begins.
    """
    if mend.path == SPACERS:
        return _clashing(report_on(with_spacer(twin, twin.true, "dial", mend.by), twin.rules, twin.truth))
    known = twin.true.dimensions.get(mend.path)
    if known is None:
        return None
    moved = {mend.path: Dimension(known.value + mend.by, 0.0, Source.EXACT)}
    return {
        name
        for name, found in twin.truth.findings.items()
        if _verdict(twin, found, moved, mend.path) is Verdict.CLASH
    }


def _verdict(twin: Twin, found: Finding, moved: Mapping[str, Dimension], path: str) -> Verdict:
    if not found.uses.hangs_on(path):
        return found.verdict
    return twin.rules.model.check(found.check).found(Trace(twin.true, twin.rules, moved)).verdict


def _left(at: SectionAt) -> int:
    """How many clashes are left or new with what was chosen."""
    mend = next(mend for mend in at.mends if mend.key == at.chosen)
    return len((_clashing_after(at.twin, mend) or set()) - (_clashing(at.twin.truth) - at.clashing))


def _narrowest(at: SectionAt) -> PlayMove:
    if not at.marked:
        findings = at.twin.truth.findings
        return PlayMove("mark", word=min(at.shown, key=lambda name: abs(findings[name].value or 0.0)))
    return (
        PlayMove("done")
        if at.chosen
        else PlayMove("mend", word=next(m.key for m in at.mends if m.key in at.right))
    )


def _any_mend(at: SectionAt) -> PlayMove:
    if at.clashing - at.marked:
        return ReadSection().sure(at)
    return PlayMove("done") if at.chosen else PlayMove("mend", word=at.mends[0].key)
