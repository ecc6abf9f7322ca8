"""The section alone and small: for the bench, where a watch is known by its outline."""

from marquetry.core.section.lay_out import Section
from marquetry.drawing.scene import Cluster, Line, Scene
from marquetry.drawing.section_plate import draw_bodies
from marquetry.drawing.sheet import Sheet, Window, window_of

WIDTH, HEIGHT, EDGE = 64.0, 30.0, 1.0
STRETCH = 1.5


def section_thumb(section: Section, name: str) -> Scene:
    """The half-section without notes or figures; gaps that are not clear are still marked."""
    window = window_of(section, "half")
    sheet = _fitted(window)
    gaps = tuple(
        Cluster(
            (Line((sheet.at(gap.start), sheet.at(gap.end)), "gap-line"),),
            f"finding verdict-{gap.finding.verdict.value}",
        )
        for gap in section.gaps
        if gap.finding.verdict.gravity > 1
    )
    marks = (Cluster(tuple(draw_bodies(section, sheet, window, names=False)), "bodies"), *gaps)
    return Scene(WIDTH, HEIGHT, f"{name}: small section", "The watch cut through its axis and crown.", marks)


def _fitted(window: Window) -> Sheet:
    across, up = window.right - window.left, (window.high - window.low) * STRETCH
    scale = min((WIDTH - 2 * EDGE) / across, (HEIGHT - 2 * EDGE) / up)
    left = (WIDTH - across * scale) / 2 - window.left * scale
    bottom = (HEIGHT - up * scale) / 2 - window.low * scale * STRETCH
    return Sheet(scale, STRETCH, (left, bottom))
