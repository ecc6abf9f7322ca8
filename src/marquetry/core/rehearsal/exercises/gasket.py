"""Gasket and crystal: read the bore, choose a pair that squeezes right, start it level, press it home."""

import random
from dataclasses import replace

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.squeeze_pairs import CHECK, DIAMETER, DIAMETER_STEP, WALL, WALL_STEP
from marquetry.core.rehearsal.actions.crystal_press import (
    A_LITTLE_MS,
    BORE,
    BORE_OFF,
    COUNTS_WITHIN,
    LEANS,
    LOOKED_U,
    MADE_U,
    SEATED,
    STRAIGHT,
    GasketAt,
    band_of,
    down_under_press,
    level,
    press,
    read_bore,
    squeeze,
    waits_ms,
)
from marquetry.core.rehearsal.exercise import (
    Aimed,
    Exercise,
    Mistake,
    MoveOffer,
    Option,
    PlayMove,
    ticks,
)
from marquetry.core.rehearsal.twin import Twin, with_figures
from marquetry.core.values.figures import band, figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict


class GasketAndCrystal(Exercise[GasketAt]):
    """From the bore to the seated crystal."""

    key = "gasket"
    title = "Gasket and crystal"
    task = "Find out the bore, choose crystal and gasket from the rack, start the crystal level and press it home."
    aim = "The gasket is squeezed as it should be, the crystal sits down straight, nothing chips."
    steps = ("press_crystal", "crystal_seated", "crystal_side")
    counts = (
        ("Rock the jaws to the widest", "Inside jaws that stand askew read a chord, never the diameter."),
        (
            "A tenth of diameter is ten per cent of squeeze",
            "The gasket's wall is only half a millimetre thick.",
        ),
        ("Thumb it level before the press", "A crystal that starts crooked goes down crooked, and chips."),
        ("Let go when it seats", "What is pressed on after that bends nothing but the glass."),
    )
    caution = "Glass may burst under the press: eye protection, a cloth over it. Out with every splinter."
    checks = (CHECK,)

    @property
    def mistakes(self) -> tuple[Mistake[GasketAt], ...]:
        """By the listing; not rocked; crooked; leant on."""
        return (
            Mistake(
                "by_listing", "Takes what the listing says, and measures nothing", (0.30, 0.65), _by_listing
            ),
            Mistake("not_rocked", "Reads the bore once, without rocking the jaws", (0.28, 0.50), _not_rocked),
            Mistake("crooked", "Lays the crystal in and presses", (0.62, 0.85), _crooked),
            Mistake(
                "leant_on",
                "Leans on the press until nothing moves any more, and two seconds longer",
                (0.95, 1.0),
                _leant_on,
            ),
        )

    def lacking(self, situation: Situation) -> str:
        """A case, a crystal and its gasket."""
        if situation.report.findings[CHECK].verdict is Verdict.SKIPPED:
            return "It takes a case, a crystal and its gasket."
        return ""

    def prepared(self, twin: Twin, draw: random.Random) -> Twin:
        """The case's bore as such bores come: a tenth this way or that."""
        bore = twin.true.dimensions[BORE].value + draw.uniform(-BORE_OFF, BORE_OFF)
        return replace(twin, true=with_figures(twin.true, {BORE: round(bore, 4)}))

    def begin(self, twin: Twin) -> GasketAt:
        """Nothing measured, the pair of the sheet in hand."""
        known = twin.believed.dimensions
        bore, wanted = known[BORE], band(band_of(twin), 0, "%")
        return GasketAt(
            twin=twin,
            notes=(
                f"By the sheet the bore is {figure(bore.value, 2, 'mm')}; wanted is a squeeze of {wanted}.",
            ),
            diameter=known[DIAMETER].value,
            wall=known[WALL].value,
            true_diameter=twin.true.dimensions[DIAMETER].value,
            true_wall=twin.true.dimensions[WALL].value,
        )

    def offers(self, at: GasketAt) -> tuple[MoveOffer, ...]:
        """Bore and pair first; with the crystal laid in, the press."""
        if at.is_laid:
            return (
                MoveOffer("level", "Thumb it level", "v"),
                MoveOffer("look", "Look along it", "l"),
                MoveOffer("press", "Press", " ", "hold"),
                MoveOffer("done", "It is seated", "Enter", ends=True),
            )
        known = at.twin.believed.dimensions
        return (
            MoveOffer("bore", "Read the bore", "b"),
            MoveOffer("rock", "Read it, jaws rocked", "r"),
            MoveOffer(
                "crystal",
                "Crystal Ø",
                "c",
                "pick",
                _rack(known[DIAMETER].value, DIAMETER_STEP, 4, at.diameter),
            ),
            MoveOffer("wall", "Gasket wall", "g", "pick", _rack(known[WALL].value, WALL_STEP, 2, at.wall)),
            MoveOffer("lay", "Lay them in", "Enter"),
        )

    def track(self, at: GasketAt, what: str, draw: random.Random) -> tuple[float, ...]:
        """How far down the crystal is, mm."""
        if what != "press":
            return ()
        path = down_under_press(at, draw)
        return ticks(lambda ms: path(ms) * at.depth)

    def after(self, at: GasketAt, move: PlayMove, draw: random.Random) -> GasketAt:
        """Each with its own spread."""
        match move.what:
            case "bore" | "rock":
                return read_bore(at, draw, rocked=move.what == "rock")
            case "crystal":
                sold = float(move.word)
                true = sold + draw.gauss(0.0, MADE_U)
                return replace(
                    at,
                    diameter=sold,
                    true_diameter=true,
                    is_chosen=True,
                    notes=(*at.notes, f"Crystal {figure(sold, 2, 'mm')}."),
                )
            case "wall":
                sold = float(move.word)
                true = sold + draw.gauss(0.0, MADE_U / 2)
                return replace(
                    at,
                    wall=sold,
                    true_wall=true,
                    is_chosen=True,
                    notes=(*at.notes, f"Gasket's wall {figure(sold, 2, 'mm')}."),
                )
            case "lay":
                notes = (*at.notes, "Gasket in, crystal laid on it.")
                return replace(
                    at, is_laid=True, lean=draw.gauss(0.0, LEANS), spoilt=_wrong_pair(at), notes=notes
                )
            case "level":
                return level(at, draw)
            case "look":
                seen = round(abs(draw.gauss(at.lean, LOOKED_U)), 1)
                return replace(
                    at,
                    seen=seen,
                    notes=(
                        *at.notes,
                        f"Along the edge: {figure(seen, 1, '°')} askew, {figure(100 * at.down, 0)} % down.",
                    ),
                )
            case "press":
                return press(at, move.value, draw)
        return replace(at, done=True)

    def figures(self, at: GasketAt) -> tuple[Aimed, ...]:
        """Squeeze, seat, lean."""
        return (
            Aimed("The gasket is squeezed by", at.squeeze, band_of(at.twin), "%", 1),
            Aimed("Down on its seat", 100 * at.down, Limits(100 * SEATED, None), "%", 0),
            Aimed("Askew", abs(at.lean), Limits(None, STRAIGHT), "°", 2),
        )

    def praise(self, at: GasketAt) -> str:
        """By how much it is squeezed."""
        return f"Seated and straight, the gasket squeezed by {figure(at.squeeze, 1, '%')}. A pressure test says whether it seals."

    def blame(self, at: GasketAt) -> str:
        """Chipped; too loose or too tight; not down; askew."""
        if at.spoilt:
            return at.spoilt
        _, down, _ = self.figures(at)
        if not down.is_reached:
            return "It is not down on its seat: press on, a little at a time, and look along it."
        return f"It lies {figure(abs(at.lean), 1, '°')} askew. Thumbed level before the press it goes down straight."

    def sure(self, at: GasketAt) -> PlayMove:
        """Reads twice with the jaws rocked, chooses the middle of the band, levels, looks, presses until it seats."""
        if at.is_laid:
            return _pressing(at)
        if len(at.bores) < COUNTS_WITHIN:
            return PlayMove("rock")
        return _choosing(at, sum(at.bores) / len(at.bores))


def _wrong_pair(at: GasketAt) -> str:
    """Why the pair that is laid in will not do in this bore; it shows when it is pressed, or under water."""
    band = band_of(at.twin)
    if band.admit(at.squeeze):
        return ""
    loose = band.shortfall(at.squeeze) > 0
    why = "too little: it may push out, and leaks" if loose else "too much: it shears, or the crystal chips"
    return f"The gasket is squeezed by {figure(at.squeeze, 1, '%')}, {why}. The bore read rightly tells the pair."


def _rack(middle: float, step: float, reach: int, chosen: float) -> tuple[Option, ...]:
    sizes = [round(middle + k * step, 2) for k in range(-reach, reach + 1)]
    return tuple(
        Option(f"{size:.2f}", figure(size), abs(size - chosen) < step / 2) for size in sizes if size > 0
    )


def _pressing(at: GasketAt) -> PlayMove:
    if at.down == 0.0:
        if at.seen is None:
            return PlayMove("look") if at.notes[-1].startswith("Thumbed") else PlayMove("level")
        return PlayMove("level") if at.seen > STRAIGHT / 2 else PlayMove("press", waits_ms(at) + A_LITTLE_MS)
    return PlayMove("done") if at.down >= SEATED else PlayMove("press", waits_ms(at) + A_LITTLE_MS)


def _choosing(at: GasketAt, bore: float) -> PlayMove:
    """The pair whose squeeze comes nearest the middle of the band, with this bore."""
    limits = band_of(at.twin)
    middle = ((limits.low or 0.0) + (limits.high or 0.0)) / 2
    known = at.twin.believed.dimensions
    crystals = _rack(known[DIAMETER].value, DIAMETER_STEP, 4, 0.0)
    walls = _rack(known[WALL].value, WALL_STEP, 2, 0.0)
    off = [
        (
            abs(squeeze(at.twin.believed, at.twin, float(crystal.word), float(wall.word), bore) - middle),
            crystal.word,
            wall.word,
        )
        for crystal in crystals
        for wall in walls
    ]
    best = min(off)[1:]
    if f"{at.diameter:.2f}" != best[0]:
        return PlayMove("crystal", word=best[0])
    return PlayMove("wall", word=best[1]) if f"{at.wall:.2f}" != best[1] else PlayMove("lay")


def _by_listing(at: GasketAt) -> PlayMove:
    return _pressing(at) if at.is_laid else PlayMove("lay")


def _not_rocked(at: GasketAt) -> PlayMove:
    if at.is_laid:
        return _pressing(at)
    return _choosing(at, at.bores[0]) if at.bores else PlayMove("bore")


def _crooked(at: GasketAt) -> PlayMove:
    if not at.is_laid:
        return GasketAndCrystal().sure(at)
    return PlayMove("done") if at.down >= SEATED else PlayMove("press", waits_ms(at) + A_LITTLE_MS)


def _leant_on(at: GasketAt) -> PlayMove:
    move = GasketAndCrystal().sure(at)
    if move.what != "press":
        return move
    return PlayMove("press", 7000.0)
