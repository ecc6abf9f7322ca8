"""Which feet off: dial over movement, looked at from behind, before anything is cut."""

import math
import random
from dataclasses import dataclass, replace
from itertools import combinations

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.feet import CROWN, FEET, FEWEST, HOLES
from marquetry.core.fit.footing import Meeting, Place, best_footing, places
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove
from marquetry.core.rehearsal.twin import Twin, with_figures
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK, Limits

LOOK_U = 0.03
"""What a look through the loupe leaves in doubt of a foot's place, mm, one standard deviation."""
CROWNS = (90.0, 114.0, 102.0)
"""Crown places of the watch of the set: its dial has a pair of feet for either of the first, none for the third."""
DRILL_U, DRILLED_WIDER = 0.04, 0.20
"""Spread of a drilled hole's place each way, mm, and how much wider than its foot it is drilled."""
FOUR = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class FeetAt(At):
    """Feet and holes as they truly lie; `off` are the numbers, from 0, of the feet that came off."""

    feet: tuple[Place, ...]
    holes: tuple[Place, ...]
    bend: float
    reach: float
    off: frozenset[int] = frozenset()
    drilled: tuple[Place, ...] = ()
    missed: tuple[float, ...] = ()
    """By how much each foot was seen to miss its nearest hole, mm; nothing before the first look."""

    def kept(self) -> tuple[int, ...]:
        """Numbers of the feet that are still on."""
        return tuple(k for k in range(len(self.feet)) if k not in self.off)

    def goes_home(self, kept: tuple[int, ...]) -> bool:
        """Whether a dial with these feet alone lies down: any two of them meet holes, or the one does."""
        if len(kept) < FEWEST:
            return all(self._finds_a_hole(self.feet[k]) for k in kept)
        return all(self._meet(pair) for pair in combinations(kept, FEWEST))

    def _finds_a_hole(self, foot: Place) -> bool:
        holes = (*self.holes, *self.drilled)
        return any(Meeting(foot, hole, self.bend).best_margin(self.reach) >= -SLACK for hole in holes)

    def _meet(self, pair: tuple[int, ...]) -> bool:
        feet = tuple(self.feet[k] for k in pair)
        return best_footing(feet, (*self.holes, *self.drilled), self.bend, self.reach).value >= -SLACK

    def stands_off(self, foot: int) -> float:
        """How far a foot stands from its nearest hole, mm."""
        return min(abs(self.feet[foot].at() - hole.at()) for hole in (*self.holes, *self.drilled))

    def play_of(self, foot: int) -> float:
        """The room round a foot in the widest hole, mm."""
        return max((hole.diameter - self.feet[foot].diameter) / 2 for hole in (*self.holes, *self.drilled))

    def best(self) -> tuple[int, ...]:
        """The two feet that meet best; nothing where no two do."""
        found = best_footing(self.feet, self.holes, self.bend, self.reach)
        return tuple(foot for foot, _ in found.pairs) if found.value >= -SLACK else ()


class FeetOff(Exercise[FeetAt]):
    """The dial's feet over the movement's holes."""

    key = "feet"
    title = "Which feet off"
    task = "Lay the dial over the movement, and take off the feet that no hole waits for. None grows back."
    aim = "Two feet that meet holes stay, and no more comes off than has to."
    steps = ("remove_feet", "trial_dial", "drill_feet_holes", "place_pads")
    counts = (
        ("Look from behind", "Seen from the front, left and right are the other way round."),
        ("Two that meet are enough", "Every foot that stays and meets nothing holds the dial up."),
        ("Crown first", "A dial made for another crown place has its holes elsewhere; its angle tells."),
        ("Try before the next", "A foot that is off is off, and a hole that was drilled stays."),
    )
    caution = "Nippers and chips: eye protection, the dial face down on putty."
    piece = "four-feet"
    checks = ("dial_feet",)

    @property
    def mistakes(self) -> tuple[Mistake[FeetAt], ...]:
        """Left for right; by guess; all of them."""
        return (
            Mistake(
                "mirrored",
                "Sees it from the front, and takes off the pair on the wrong side",
                (0.95, 1.0),
                _mirrored,
            ),
            Mistake("by_guess", "Takes two off by guess", (0.72, 0.92), _by_guess),
            Mistake("all_off", "Takes them all off, to be sure", (0.58, 0.75), _all_off),
        )

    def lacking(self, situation: Situation) -> str:
        """A dial with feet, and a movement with holes."""
        build = situation.build
        if build.count(FEET) < FEWEST or build.count(HOLES) < FEWEST or not build.has("case"):
            return (
                "It takes a dial described with two feet or more, a movement with holes for them, and a case."
            )
        return ""

    def prepared(self, twin: Twin, draw: random.Random) -> Twin:
        """The watch of the set with its crown at one of three places; one's own watch as it is."""
        if twin.believed.count(FEET) < FOUR or twin.believed.name != SET_NAME:
            return twin
        crown = {CROWN: draw.choice(CROWNS)}
        return replace(twin, believed=with_figures(twin.believed, crown), true=with_figures(twin.true, crown))

    def begin(self, twin: Twin) -> FeetAt:
        """Every foot on."""
        r = twin.formulas
        return FeetAt(
            twin=twin,
            feet=places(r, FEET),
            holes=places(r, HOLES, turned_by=CROWN),
            bend=r.rule("foot_bend"),
            reach=r.rule("dial_turn"),
        )

    def offers(self, at: FeetAt) -> tuple[MoveOffer, ...]:
        """Look, take one off, try, done."""
        options = tuple(Option(str(k + 1), f"Foot {k + 1}") for k in at.kept())
        found = [MoveOffer("look", "Look through the loupe", "l")]
        if options:
            found.append(MoveOffer("off", "Take off", "o", "pick", options))
            found.append(MoveOffer("drill", "Drill a hole for", "d", "pick", options))
        return (*found, MoveOffer("try", "Try it on", "t"), MoveOffer("done", "It sits", "Enter", ends=True))

    def after(self, at: FeetAt, move: PlayMove, draw: random.Random) -> FeetAt:
        """A look is read with its doubt; a foot that is off stays off."""
        match move.what:
            case "look":
                missed = tuple(
                    round(max(at.stands_off(k) + draw.gauss(0.0, LOOK_U), 0.0), 2)
                    for k in range(len(at.feet))
                )
                told = "; ".join(f"foot {k + 1} by {figure(missed[k])}" for k in at.kept())
                return replace(at, missed=missed, notes=(*at.notes, f"From the nearest hole: {told} mm."))
            case "off":
                return _off(at, int(move.word) - 1)
            case "drill":
                return _drill(at, int(move.word) - 1, draw)
            case "try":
                sits = (
                    "It lies down."
                    if at.goes_home(at.kept())
                    else "It does not lie down: a foot stands on the ring."
                )
                return replace(at, notes=(*at.notes, sits))
        stands = not at.goes_home(at.kept())
        why = at.spoilt or (
            "A foot stands on the movement's ring: the dial does not lie down, and bends when pressed."
            if stands
            else ""
        )
        return replace(at, done=True, spoilt=why)

    def figures(self, at: FeetAt) -> tuple[Aimed, ...]:
        """How many feet hold the dial."""
        most = float(FEWEST)
        least = most if at.best() or at.drilled else 0.0
        needless = float(len(at.drilled)) if at.best() else 0.0
        return (
            Aimed(
                "Feet that hold the dial", float(len(at.kept())), Limits(least, most if least else 0.0), "", 0
            ),
            Aimed("Holes drilled that need not be", needless, Limits(None, 0.0), "", 0),
        )

    def praise(self, at: FeetAt) -> str:
        """Which two."""
        if not at.kept():
            return "No two of them meet holes: pads, or new holes. That had to be seen before the first one came off."
        if at.drilled:
            return (
                "They stand in holes of their own. Every chip out with putty before the rotor goes on again."
            )
        names = " and ".join(str(k + 1) for k in at.kept())
        return f"Feet {names} hold it. Dress the stubs of the others flat, and clear every chip."

    def blame(self, at: FeetAt) -> str:
        """What came off too much, stayed, or was drilled for nothing."""
        if at.spoilt:
            return at.spoilt
        if at.best() and at.drilled:
            return "Two feet had holes of their own already: a movement's ring is not drilled for the others."
        return "It lies down, but what is left of its feet does not hold it: two that meet, or none and pads."

    def sure(self, at: FeetAt) -> PlayMove:
        """Looks, and keeps the two feet that are seen to lie over holes; where none do, by the workshop's school."""
        if not at.missed:
            return PlayMove("look")
        near = sorted(range(len(at.feet)), key=lambda k: at.missed[k])[:FEWEST]
        meets = all(at.missed[k] <= at.bend + at.play_of(k) + LOOK_U for k in near)
        drills = at.twin.rules.school("school_feet") == "new_holes"
        keep = near if meets or drills else []
        if drills and not meets and len(at.drilled) < FEWEST:
            return PlayMove("drill", word=str(keep[len(at.drilled)] + 1))
        return _next_off(at, tuple(keep))


SET_NAME = "Practice watch with four feet"
"""Name of the one of the set whose crown may stand at any of them."""


def _off(at: FeetAt, foot: int) -> FeetAt:
    off = at.off | {foot}
    held = at.best()
    why = f"Foot {foot + 1} had its hole, and is off." if foot in held and not at.spoilt else at.spoilt
    return replace(at, off=off, spoilt=why, notes=(*at.notes, f"Foot {foot + 1} is off."))


def _drill(at: FeetAt, foot: int, draw: random.Random) -> FeetAt:
    """A hole under a foot, marked through it: as far off as a hand-held drill wanders."""
    place = at.feet[foot]
    aside = math.degrees(draw.gauss(0.0, DRILL_U) / place.radius)
    hole = replace(
        place,
        radius=place.radius + draw.gauss(0.0, DRILL_U),
        angle=place.angle + aside,
        diameter=place.diameter + DRILLED_WIDER,
    )
    words = f"A hole drilled for foot {foot + 1}, rotor off, chips taken up."
    return replace(at, drilled=(*at.drilled, hole), notes=(*at.notes, words))


def _next_off(at: FeetAt, keep: tuple[int, ...]) -> PlayMove:
    go = next((k for k in at.kept() if k not in keep), None)
    return PlayMove("done") if go is None else PlayMove("off", word=str(go + 1))


def _mirrored(at: FeetAt) -> PlayMove:
    return _next_off(at, tuple(k for k in range(len(at.feet)) if k not in at.best()))


def _by_guess(at: FeetAt) -> PlayMove:
    pairs = list(combinations(range(len(at.feet)), FEWEST))
    return _next_off(at, pairs[at.twin.seed % len(pairs)])


def _all_off(at: FeetAt) -> PlayMove:
    return _next_off(at, ())
