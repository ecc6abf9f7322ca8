"""Which spacer, which side: bring the stem to its tube, and see what else moves."""

import random
from dataclasses import dataclass, replace
from typing import Literal

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.check import Check
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove
from marquetry.core.rehearsal.twin import Twin, with_believed
from marquetry.core.remedies.spacers import ring_for
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

Side = Literal["dial", "movement"]
SIDES: dict[Side, str] = {"dial": "On the dial side", "movement": "Behind the dial"}
MOVED = ("stem_height", "hand_stack", "rotor_clearance", "holder_clamp", "foot_engagement", "foot_bottoming")
"""What a spacer moves."""
STEM = "stem_height"
DEPTHS = ("movement.face_to_stem", "movement.face_to_back", "movement.face_to_rotor", "holder.face_to_rim")
"""What lies behind a movement's face."""
LOOK_U = 0.025
"""What a look through the tube leaves in doubt of the stem's height, mm, one standard deviation."""
STEP, THICKEST = 0.05, 1.20
PRINT_U, THINNEST = 0.015, 0.02
"""Spread of a printed spacer's thickness round what was asked for, and the thinnest that holds together; mm."""
LACKS = (0.30, 0.80)
"""How thick a spacer the watch of the set lacks, mm."""
SPACER_TOL = 0.01
AS_LISTED = 0.15
"""How far the listing of the set's other movement may be off, mm."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SpacerAt(At):
    """`side` and `thickness` (mm) of the spacer that lies in it, 0 for none; `seen` what the tube showed, mm."""

    by_figures: Side
    """The side that leaves everything else alone by what is believed."""
    side: Side = "dial"
    thickness: float = 0.0
    is_chosen: bool = False
    seen: float | None = None
    brought: tuple[Check, ...] = ()
    """What clashes with it in truth and did not before, once it is done."""
    made: float = 0.0
    """How thick the spacer truly came out, mm."""

    def true(self) -> Build:
        """The true watch with the spacer in it."""
        return with_spacer(self.twin, self.twin.true, self.side, self.made)


class WhichSpacer(Exercise[SpacerAt]):
    """A stem that does not meet its tube."""

    key = "spacer"
    title = "Which spacer, which side"
    task = "The stem does not meet its tube. Choose a spacer from the rack and the side it goes on; lay it in and look."
    aim = "The stem meets the tube, and nothing that fitted before clashes now."
    steps = ("set_spacer_dial", "set_spacer_movement", "turn_to_tube", "set_adapter")
    counts = (
        (
            "Read how far the stem is off, and which way",
            "A spacer only ever takes the movement towards the back.",
        ),
        (
            "On the dial side nothing moves but the dial",
            "It is seen as a fine ring; hands and feet stay as they were.",
        ),
        (
            "Behind the dial the posts stand lower",
            "The hands need longer pipes, and the feet reach less deep.",
        ),
        (
            "Look through the tube again",
            "What was printed is a hundredth or two off, and what was listed a tenth.",
        ),
    )
    checks = MOVED

    @property
    def mistakes(self) -> tuple[Mistake[SpacerAt], ...]:
        """By the listing; behind the dial without asking; far too thick."""
        return (
            Mistake(
                "unseen", "Chooses by the figures, and never looks through the tube", (0.25, 0.50), _unseen
            ),
            Mistake("behind", "Lays it behind the dial, whatever the posts say", (0.40, 1.0), _behind),
            Mistake(
                "too_thick",
                "Takes a spacer a quarter too thick, so that it clamps well",
                (0.90, 1.0),
                _too_thick,
            ),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch whose stem stands over its tube's middle."""
        finding = situation.report.findings[STEM]
        if finding.verdict is Verdict.SKIPPED:
            return "It takes a case, a dial and a movement."
        if (
            finding.value is not None
            and finding.value < (finding.limits.high or 0.0)
            and not situation.build.has("spacers")
        ):
            return f"This stem is {figure(finding.value, 2, 'mm', signed=True)} off its tube: no spacer is missing."
        return ""

    def prepared(self, twin: Twin, draw: random.Random) -> Twin:
        """Every spacer out. Where none is missing then, a movement of another family in the watch's place."""
        bare = replace(twin, believed=without_spacers(twin.believed), true=without_spacers(twin.true))
        value = _stem(bare.believed, bare)
        if value >= LACKS[0]:
            return bare
        by = draw.uniform(*LACKS) - value
        slip = draw.uniform(-AS_LISTED, AS_LISTED)
        return replace(
            bare, believed=_shallower(bare.believed, by + slip, AS_LISTED), true=_shallower(bare.true, by)
        )

    def begin(self, twin: Twin) -> SpacerAt:
        """Nothing between dial and seat."""
        off = twin.rules.model.check(STEM).find(twin.believed, twin.rules)
        doubt = figure((off.high or 0.0) - (off.value or 0.0), 2, "mm")
        words = f"By the sheet {_told(off.value or 0.0)}, give or take {doubt}."
        return SpacerAt(twin=twin, notes=(words,), by_figures=_better_side(twin, off.value or 0.0))

    def offers(self, at: SpacerAt) -> tuple[MoveOffer, ...]:
        """Side and thickness, look, done."""
        sides = tuple(Option(side, words, side == at.side) for side, words in SIDES.items())
        return (
            MoveOffer("side", "Side", "s", "pick", sides),
            MoveOffer("lay", "Lay one in", "m", "amount", usual=at.thickness, high=THICKEST, step=STEP),
            MoveOffer("look", "Look through the tube", "l"),
            MoveOffer("done", "It meets", "Enter", ends=True),
        )

    def after(self, at: SpacerAt, move: PlayMove, draw: random.Random) -> SpacerAt:
        """The rack has steps of a twentieth; what lies in it is seen in the section."""
        match move.what:
            case "side":
                side: Side = "movement" if move.word == "movement" else "dial"
                return replace(at, side=side, is_chosen=True, seen=None, notes=(*at.notes, f"{SIDES[side]}."))
            case "lay":
                thick = round(round(move.value / STEP) * STEP, 4)
                words = f"{figure(thick, 2, 'mm')} {SIDES[at.side].lower()}." if thick else "No spacer."
                made = max(round(draw.gauss(thick, PRINT_U), 4), THINNEST) if thick else 0.0
                return replace(at, thickness=thick, made=made, seen=None, notes=(*at.notes, words))
            case "look":
                off = _stem(at.true(), at.twin)
                seen = round(draw.gauss(off, LOOK_U), 2)
                return replace(at, seen=seen, notes=(*at.notes, f"Through the tube: {_told(seen)}."))
        return replace(at, done=True, brought=tuple(newly_clashing(at.twin, at.true())))

    def figures(self, at: SpacerAt) -> tuple[Aimed, ...]:
        """The stem in its tube, and how much clashes that did not."""
        limits = at.twin.rules.limits(STEM, at.twin.rules.model.check(STEM).limits)
        spoilt = at.brought
        return (
            Aimed("Stem off its tube", _stem(at.true(), at.twin), limits),
            Aimed(
                "Clashes that were none before",
                float(len(spoilt)),
                Limits(None, _fewest(at.twin) if spoilt else 0.0),
                "",
                0,
            ),
        )

    def praise(self, at: SpacerAt) -> str:
        """What the side costs."""
        cost = (
            "it is seen as a fine ring"
            if at.side == "dial"
            else "the feet reach less deep, and the posts stand lower"
        )
        return f"The crown turns without rubbing. {SIDES[at.side]}: {cost}."

    def blame(self, at: SpacerAt) -> str:
        """What clashes, or how far the stem is off."""
        spoilt = at.brought
        off = self.figures(at)[0]
        if not off.is_reached:
            return f"{_told(off.value).capitalize()}: the stem rubs in its tube, and bends where the crown is screwed home."
        titles = " and ".join(check.title.lower() for check in spoilt)
        return f"The stem meets its tube, but now this clashes: {titles}. The other side leaves it alone."

    def sure(self, at: SpacerAt) -> PlayMove:
        """By the figures first, then by what the tube shows."""
        if not at.thickness:
            return _by_figures(at)
        if at.seen is None:
            return PlayMove("look")
        by = round(at.seen / STEP) * STEP
        if abs(by) < STEP / 2:
            return PlayMove("done")
        return PlayMove("lay", round(min(max(at.thickness + by, 0.0), THICKEST), 4))


def _shallower(build: Build, by: float, doubt: float = 0.0) -> Build:
    """A movement of another family: stem, back and holder's rim all that much nearer its face, mm.

    With a `doubt` its figures are as a seller lists them, true within so much.
    """
    known = {path: build.dimensions[path] for path in DEPTHS if path in build.dimensions}
    moved = {
        path: Dimension(d.value - by, doubt or d.tol, Source.LISTED if doubt else d.source)
        for path, d in known.items()
    }
    return with_believed(build, moved)


def _stem(build: Build, twin: Twin) -> float:
    return twin.rules.model.check(STEM).find(build, twin.rules).value or 0.0


def _told(off: float) -> str:
    if abs(off) < STEP / 2:
        return "the stem is in the middle"
    return f"the stem stands {figure(abs(off), 2, 'mm')} towards the {'dial' if off > 0 else 'back'}"


def without_spacers(build: Build) -> Build:
    """The build with no spacer in it."""
    return build.with_parts({"spacers": None}) if build.has("spacers") else build


def with_spacer(twin: Twin, build: Build, side: Side, thickness: float) -> Build:
    """A build of the twin with this spacer, mm, a ring as the remedies make it, and no other."""
    if not thickness:
        return build
    outer, inner = ring_for(build, twin.rules, side)
    ring = {"outer_diameter": outer, "inner_diameter": inner} if outer > inner > 0 else {}
    sizes = {"thickness": thickness, **ring}
    made = {key: dimension_as_json(Dimension(v, SPACER_TOL, Source.MEASURED)) for key, v in sizes.items()}
    return build.with_entry("spacers.-", {"side": side, **made})


def newly_clashing(twin: Twin, true: Build) -> list[Check]:
    """What clashes in the true watch with the spacer, and did not without."""
    checks = [twin.rules.model.check(name) for name in MOVED if name != STEM]
    fitted = [check for check in checks if twin.truth.findings[check.name].verdict is not Verdict.CLASH]
    return [check for check in fitted if check.find(true, twin.rules).verdict is Verdict.CLASH]


def _fewest(twin: Twin) -> float:
    """How many clashes the best spacer of the rack brings in truth: in a crowded case it may be one."""
    wanted = round(max(_stem(twin.true, twin), STEP) / STEP) * STEP
    thick = [round(wanted + k * STEP, 4) for k in (-1, 0, 1) if wanted + k * STEP > 0]
    fewest = len(MOVED)
    for side in SIDES:
        for t in thick:
            fewest = min(fewest, len(newly_clashing(twin, with_spacer(twin, twin.true, side, t))))
            if not fewest:
                return 0.0
    return float(fewest)


def _better_side(twin: Twin, off: float) -> Side:
    thick = _nearest(off)
    return min(SIDES, key=lambda side: _clashes(twin, with_spacer(twin, twin.believed, side, thick)))


def _nearest(off: float) -> float:
    """The rack's step that is nearest to what is missing, mm."""
    return round(min(max(round(off / STEP) * STEP, STEP), THICKEST), 4)


def _by_figures(at: SpacerAt, side: Side | None = None, more: float = 0.0) -> PlayMove:
    """The side that leaves everything else alone by what is believed, and the step that is nearest."""
    if not at.is_chosen:
        return PlayMove("side", word=side or at.by_figures)
    return PlayMove("lay", _nearest(_stem(at.twin.believed, at.twin) + more))


def _clashes(twin: Twin, build: Build) -> int:
    found = (twin.rules.model.check(name).find(build, twin.rules).verdict for name in MOVED)
    return sum(verdict is Verdict.CLASH for verdict in found)


def _unseen(at: SpacerAt) -> PlayMove:
    return PlayMove("done") if at.thickness else _by_figures(at)


def _behind(at: SpacerAt) -> PlayMove:
    if at.thickness:
        return WhichSpacer().sure(at)
    return _by_figures(at, "movement")


def _too_thick(at: SpacerAt) -> PlayMove:
    return PlayMove("done") if at.thickness else _by_figures(at, more=0.25)
