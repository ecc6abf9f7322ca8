"""The hands on their posts as they truly stand, the one at hand free to go down, its shim beside it."""

from dataclasses import replace

from marquetry.core.fit.levels import dial_top
from marquetry.core.rehearsal.actions.hand_press import HandsAt
from marquetry.core.section.body import Drawn
from marquetry.core.section.lay_out import bodies_of, lay_out
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import BENCH_WIDTH, EDGE, TYPE, pointer, sheet_on
from marquetry.drawing.bench.pressing import REACH, SHIM_AT, SHIM_WIDE, STRETCH
from marquetry.drawing.rehearsal.shown import Motion, moving
from marquetry.drawing.scene import Cluster, Label, Line, Mark
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import window_of


def hands_shown(at: HandsAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """Dial, posts, hands and crystal, heights enlarged."""
    twin = at.twin
    drawn = Drawn(twin.true, twin.rules)
    face = float(dial_top(drawn))
    heights = {hand: face + blade.height for hand, blade in at.blades.items()}
    bodies = bodies_of(drawn, heights)
    section = replace(lay_out(twin.true, twin.truth), bodies=bodies)
    window = replace(window_of(section, "hands"), left=-REACH, right=REACH)
    sheet = sheet_on(window, STRETCH)
    on = {f"hands.{hand}" for hand in at.blades}
    held = f"hands.{at.hand}"
    still = tuple(b for b in bodies if b.part != held and (b.kind != "hands" or b.part in on))
    going = tuple(b for b in bodies if b.part == held)
    shim: tuple[Mark, ...] = ()
    if at.shim:
        left, top = SHIM_AT - SHIM_WIDE, face + at.shim
        corners = ((left, face), (SHIM_AT, face), (SHIM_AT, top), (left, top))
        x, y = sheet.at((-REACH, top))
        shim = (
            Line(tuple(map(sheet.at, corners)), "body body-print", closed=True, title="Shim"),
            Label((x, y + 1.6), f"shim {figure(at.shim)}", "figure halo", TYPE),
        )
    top = max((z for body in going for _, z in body.outline), default=window.high)
    x, y = sheet.at((0.0, top))
    press = (*draw_faces(going, sheet, window), *pointer((x, y + 20.0), (x, y + 2.0)))
    marks = (
        Cluster(tuple(draw_faces(still, sheet, window)), "bodies"),
        *shim,
        moving("press", *press),
        Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line"),
        Label((EDGE, 2.4), f"heights drawn {STRETCH:g} times taller", "quiet", TYPE),
        Label((BENCH_WIDTH - EDGE, 2.4), f"{HAND_LABELS[at.hand]} hand", "figure halo", TYPE, "end"),
    )
    return marks, {"press": Motion(0.0, sheet.scale * STRETCH)}
