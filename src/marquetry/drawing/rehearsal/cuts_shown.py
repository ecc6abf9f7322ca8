"""Parts of the twin in section: for reading it, for a spacer, for a crystal, for a complaint."""

from collections.abc import Iterator
from dataclasses import replace

from marquetry.core.fit.report import report_on
from marquetry.core.rehearsal.actions.crystal_press import GasketAt
from marquetry.core.rehearsal.exercises.diagnose import DiagnoseAt
from marquetry.core.rehearsal.exercises.section import SectionAt
from marquetry.core.rehearsal.exercises.spacer import SpacerAt
from marquetry.core.rehearsal.twin import with_figures
from marquetry.core.section.body import Body
from marquetry.core.section.lay_out import Gap, Section, lay_out
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.cut import cut_marks
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE, sheet_on, window_round
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.rehearsal.shown import Motion, moving
from marquetry.drawing.scene import Cluster, Dot, Label, Line, Mark
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window

LEFT = -1.2
LETTER = 4.4
"""Radius of the ring round a letter, mm on paper."""
APART = 2.3 * LETTER


def section_shown(at: SectionAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """The half-section, a letter at each place that may be marked; no figure, no verdict."""
    section = lay_out(at.twin.true, at.twin.truth)
    points = [point for body in section.bodies for point in body.outline]
    window = window_round(points, 0.8)
    window = replace(window, left=max(window.left, LEFT))
    sheet = sheet_on(window, 1.0)
    gaps = {gap.check.name: gap for gap in section.gaps if gap.check.name in at.shown}
    marks = (
        Cluster(tuple(draw_faces(section.bodies, sheet, window)), "bodies"),
        Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line"),
        *_letters(at, gaps, sheet),
    )
    return marks, {}


def _letters(at: SectionAt, gaps: dict[str, Gap], sheet: Sheet) -> Iterator[Mark]:
    """Letters in a row over or under the watch, each with a leader to its gap, none over another."""
    places = sorted((sheet.between(gap.start, gap.end), name) for name, gap in gaps.items())
    rows: dict[bool, float] = {True: EDGE, False: EDGE}
    for (x, y), name in places:
        is_high = y > BENCH_HEIGHT / 2
        at_x = min(max(x, rows[is_high] + LETTER), BENCH_WIDTH - EDGE - LETTER)
        rows[is_high] = at_x + APART - LETTER
        at_y = BENCH_HEIGHT - EDGE - LETTER if is_high else EDGE + LETTER
        yield Line(((x, y), (at_x, at_y - LETTER if is_high else at_y + LETTER)), "frame")
        yield Dot((x, y), 1.0, "turn-line")
        yield Dot((at_x, at_y), LETTER, "letter-on" if name in at.marked else "letter")
        yield Label((at_x, at_y - 2.1), at.letter(name), "figure", TYPE, "middle")


def spacer_shown(at: SpacerAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """Dial, spacer, movement and tube near the crown, both axes drawn."""
    true = at.true()
    section = lay_out(true, report_on(true, at.twin.rules, at.twin.truth))
    end = float(at.twin.reader["case.centre_to_tube_end"])
    window = Window(end * 0.52, end + 2.6, -5.6, 2.4)
    sheet = sheet_on(window)
    marks: list[Mark] = [Cluster(tuple(draw_faces(section.bodies, sheet, window)), "bodies")]
    for axis in section.axes:
        left = sheet.at((max(axis.from_r, window.left), axis.z))
        right = sheet.at((min(axis.to_r, window.right), axis.z))
        marks.append(Line((left, right), "centre-line"))
        if axis.name == "tube":
            marks.append(Label((right[0], right[1] + 1.4), "tube’s middle", "quiet halo", TYPE, "end"))
        else:
            marks.append(Label((left[0] + 2.0, left[1] - TYPE - 0.6), "stem", "quiet halo", TYPE))
    if at.thickness:
        words = f"{figure(at.thickness)} {'on the dial side' if at.side == 'dial' else 'behind the dial'}"
        marks.append(Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), words, "figure halo", TYPE))
    return tuple(marks), {}


def gasket_shown(at: GasketAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """The crystal's edge over its seat, as far down as it is, in the bore as it truly is."""
    true = with_figures(
        at.twin.true, {"crystal.diameter": at.true_diameter, "crystal_gasket.wall": at.true_wall}
    )
    section = lay_out(true, report_on(true, at.twin.rules, at.twin.truth))
    crystal = [body for body in section.bodies if body.part == "crystal"]
    edge = max(r for body in crystal for r, _ in body.outline)
    seat = min(z for body in crystal for r, z in body.outline if r > edge - 0.05)
    raised = at.depth * (1.0 - at.down) if at.is_laid else at.depth + 0.5
    window = Window(edge - 6.2, edge + 2.4, seat - 1.8, seat + at.depth * 2 + 2.6)
    sheet = sheet_on(window)
    still = tuple(body for body in section.bodies if body.part != "crystal")
    going = tuple(_lifted(body, raised) for body in crystal)
    x, y = sheet.at((edge - 1.2, seat + at.depth + raised))
    top = min(y + 16.0, BENCH_HEIGHT - EDGE)
    press = (Line(((x, top), (x, y + 1.0)), "point-line"),)
    words = f"crystal {figure(at.diameter)}, gasket’s wall {figure(at.wall)}"
    marks: tuple[Mark, ...] = (
        Cluster(tuple(draw_faces(still, sheet, window)), "bodies"),
        moving("press", *draw_faces(going, sheet, window), *press),
        Label((EDGE, 2.4), words, "quiet halo", TYPE),
        *_seat(sheet, edge, seat, raised),
    )
    return marks, {"press": Motion(0.0, -sheet.scale)}


def _seat(sheet: Sheet, edge: float, seat: float, raised: float) -> Iterator[Mark]:
    """How far it is still from its seat."""
    if raised * sheet.scale < 1.0:
        return
    low, high = sheet.at((edge - 5.4, seat)), sheet.at((edge - 5.4, seat + raised))
    yield from arrows((low, high), ((low[0] - 0.1, low[1]), (high[0] - 0.1, high[1])))


def _lifted(body: Body, by: float) -> Body:
    return replace(body, outline=tuple((r, z + by) for r, z in body.outline))


def diagnose_shown(at: DiagnoseAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """The parts that the complaint is about, cut; the others pale."""
    section: Section = lay_out(at.twin.true, at.twin.truth)
    return tuple(cut_marks(section, at.symptom.parts)), {}
