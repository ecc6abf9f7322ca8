"""A crystal over its bore: what the bore reads, how a pair squeezes, and how it goes down under the press."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace

from marquetry.core.fit.checks.crystal import crystal_squeeze
from marquetry.core.fit.squeeze_pairs import CHECK, DIAMETER, WALL
from marquetry.core.fit.trace import Trace
from marquetry.core.rehearsal.exercise import At, held_until
from marquetry.core.rehearsal.twin import Twin
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import nominal

BORE = "case.crystal_bore"
BORE_OFF = 0.12
"""How far the bore of the set's case may be from its listing, mm."""
READ_U, SMALL, SMALL_MM = 0.01, 0.5, (0.05, 0.14)
"""Of a bore, mm: spread of a reading; how often jaws that were not rocked read too little, and by how much."""
MADE_U = 0.008
"""Spread of a bought crystal's diameter and a gasket's wall round what they are sold as, mm."""
LEANS, THUMBED, LOOKED_U = 0.8, 0.08, 0.05
"""How crooked a crystal starts, degrees: laid in, and thumbed level all round; and what a look leaves in doubt."""
STRAIGHT = 0.30
FORCE_A_SECOND, ASKS, SINKS, HASTE = 60.0, 6.0, 0.9, (0.85, 1.15)
"""Newtons a second of the press; newtons for each per cent of squeeze; mm a second once it goes; spread of that."""
BREAKS_AFTER_MS = 900.0
"""A crystal that is seated and still pressed on for longer chips at its edge."""
SEATED = 0.98
A_LITTLE_MS = 450.0
"""How long a sure hand presses once the crystal goes, before it looks again."""
COUNTS_WITHIN = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class GasketAt(At):
    """`diameter` and `wall` as sold, 0 while none is chosen; the true ones beside; `down` from 0 to 1."""

    bores: tuple[float, ...] = ()
    diameter: float
    wall: float
    true_diameter: float
    true_wall: float
    is_laid: bool = False
    lean: float = 0.0
    seen: float | None = None
    down: float = 0.0
    pressed_on_ms: float = 0.0
    is_chosen: bool = False

    @property
    def squeeze(self) -> float:
        """The true squeeze of what was chosen, per cent."""
        return squeeze(self.twin.true, self.twin, self.true_diameter, self.true_wall)

    @property
    def depth(self) -> float:
        """How deep the crystal lies when it is seated, mm."""
        return float(self.twin.reader["crystal.edge_thickness"])


def band_of(twin: Twin) -> Limits:
    """How much a gasket may be squeezed in this workshop, per cent."""
    return twin.rules.limits(CHECK, twin.rules.model.check(CHECK).limits)


def squeeze(build: Build, twin: Twin, diameter: float, wall: float, bore: float | None = None) -> float:
    """The squeeze of a pair by the report's own formula, per cent; in the build's bore, or in one as read."""
    moved = {DIAMETER: _exactly(diameter), WALL: _exactly(wall)}
    if bore is not None:
        moved[BORE] = _exactly(bore)
    return float(nominal(crystal_squeeze(Trace(build, twin.rules, moved))))


def _exactly(value: float) -> Dimension:
    return Dimension(value, 0.0, Source.EXACT)


def read_bore(at: GasketAt, draw: random.Random, *, rocked: bool) -> GasketAt:
    """Inside jaws in the bore: rocked to the widest they read the diameter, else often a chord."""
    small = draw.uniform(*SMALL_MM) if draw.random() < SMALL and not rocked else 0.0
    read = round(draw.gauss(at.twin.true.dimensions[BORE].value - small, READ_U), 2)
    how = "at its widest" if rocked else "as the jaws stood"
    return replace(at, bores=(*at.bores, read), notes=(*at.notes, f"Bore {figure(read, 2, 'mm')}, {how}."))


def level(at: GasketAt, draw: random.Random) -> GasketAt:
    """A thumb all round, while the crystal is not in yet."""
    if at.down > 0.5:  # noqa: PLR2004  # half in its gasket it no longer gives to a thumb
        return replace(at, notes=(*at.notes, "It is in too far to be levelled by a thumb."))
    return replace(
        at, lean=draw.gauss(0.0, THUMBED), seen=None, notes=(*at.notes, "Thumbed level, all round.")
    )


def down_under_press(at: GasketAt, draw: random.Random) -> Callable[[float], float]:
    """What share of its way down it is, 0 to 1, after so many ms under the press."""
    waits = waits_ms(at)
    speed = SINKS / max(at.depth, 0.5) * draw.uniform(*HASTE)

    def down(ms: float) -> float:
        return min(at.down + speed * max(ms - waits, 0.0) / 1000, 1.0)

    return down


def waits_ms(at: GasketAt) -> float:
    """For how many thousandths of seconds the press is held before the crystal moves: a hand feels it go."""
    return 1000 * ASKS * max(at.squeeze, 1.0) / FORCE_A_SECOND / 4


def press(at: GasketAt, ms: float, draw: random.Random) -> GasketAt:
    """The press held for so many ms: down it goes, crooked it chips, seated and leant on it chips as well."""
    path = down_under_press(at, draw)
    down = path(ms)
    over = ms - held_until(path, 1.0) if down >= 1.0 else 0.0
    why = ""
    if abs(at.lean) > 2 * STRAIGHT and down > SEATED / 2:
        why = "It went down crooked, and the edge chipped. Out with every splinter; another crystal, another gasket."
    elif at.pressed_on_ms + over > BREAKS_AFTER_MS:
        why = "It sat, and was pressed on: the edge chipped. Let go when it no longer moves."
    words = f"Pressed: {figure(100 * down, 0)} % down."
    return replace(
        at,
        down=down,
        seen=None,
        pressed_on_ms=at.pressed_on_ms + over,
        spoilt=at.spoilt or why,
        notes=(*at.notes, words),
    )
