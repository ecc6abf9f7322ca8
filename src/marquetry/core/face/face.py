"""A watch, or a part of one, as it is seen from the front."""

from collections.abc import Mapping

from marquetry.core.face import outer
from marquetry.core.face.dial_seen import dial, disc_colours
from marquetry.core.face.dress import Dress
from marquetry.core.face.hands_seen import hands
from marquetry.core.face.seen import SeenFace
from marquetry.core.fit.levels import dial_top
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.section.body import Drawn
from marquetry.core.section.lay_out import blade_heights
from marquetry.core.sheet.build import Build

LOWEST = 0.1
"""A hand is never drawn lower over the dial than this, mm: that it clashes, the report says."""


def seen_face(build: Build, report: Report) -> SeenFace:
    """The whole watch, its hands at the heights that the press plan gives them."""
    p = Drawn(build, report.rules)
    heights: Mapping[str, float] = {}
    if build.has("hands") and build.has("movement"):
        face = float(dial_top(p)) if build.has("dial") else 0.0
        heights = {hand: max(z - face, LOWEST) for hand, z in blade_heights(p, report).items()}
    return _seen(p, heights)


def seen_part(build: Build, rules: Rules) -> SeenFace:
    """A part alone, as it lies in a drawer."""
    return _seen(Drawn(build, rules), {})


def _seen(p: Drawn, heights: Mapping[str, float]) -> SeenFace:
    dress = Dress(p.build)
    return SeenFace(
        case=outer.case(p, dress),
        crown=outer.crown(p, dress),
        bezel=outer.bezel(p, dress),
        insert=outer.insert(p, dress),
        ring=outer.ring(p, dress),
        spacer=outer.spacer(p, dress),
        dial=dial(p, dress),
        hands=tuple(hands(p, dress, heights)),
        crystal=p["crystal.diameter"] / 2 if p.has("crystal") else None,
        coating=dress.word("crystal", "coating", "none") if p.has("crystal") else "none",
        opening=p["case.crystal_bore"] / 2 if p.has("case") else 0.0,
        disc=disc_colours(dress) if p.has("calendar_disc") else ("", ""),
        strap=outer.strap(p, dress),
        dress=dress,
        spacer_path=outer.seen_spacer(p),
    )
