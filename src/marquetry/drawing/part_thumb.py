"""A part alone and small, in section: how a drawer's slip shows it."""

from marquetry.core.fit.rules import Rules
from marquetry.core.section.extent import part_bodies
from marquetry.core.sheet.part import Part
from marquetry.drawing.dimension_drawing import among_usual
from marquetry.drawing.scene import Cluster, Dot, Line, Mark, Scene
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window

WIDTH, HEIGHT, EDGE = 40.0, 18.0, 1.4
TALLEST = 2.4
"""Thin parts are drawn taller, as far as this."""

SLENDER = 0.6
"""A ring whose inside is wider than this share of its outside is shown without the air inside it."""


def part_thumb(part: Part, rules: Rules) -> Scene:
    """The part in half-section, heights stretched so that thin ones are seen; a sign where none is drawn."""
    key = part.kind.key
    found = part_bodies(part.build, rules, key) or part_bodies(among_usual(part), rules, key)
    bodies = tuple(body.of_its_own() for body in found)
    points = [point for body in bodies for point in body.outline]
    if not points:
        return Scene(WIDTH, HEIGHT, "", "", _sign(part.kind.key))
    inner, right = min(r for r, _ in points), max(r for r, _ in points)
    left = inner if inner > SLENDER * right else 0.0
    low, high = min(z for _, z in points), max(z for _, z in points)
    scale = (WIDTH - 2 * EDGE) / (right - left)
    stretch = min(max((HEIGHT - 2 * EDGE) / ((high - low or 0.1) * scale), 0.2), TALLEST)
    scale = min(scale, (HEIGHT - 2 * EDGE) / ((high - low or 0.1) * stretch))
    up = (HEIGHT - (high - low) * scale * stretch) / 2 - low * scale * stretch
    across = (WIDTH - (right - left) * scale) / 2 - left * scale
    sheet, window = (
        Sheet(scale, stretch, (across, up)),
        Window(left - 0.1, right + 0.1, low - 0.1, high + 0.1),
    )
    return Scene(WIDTH, HEIGHT, "", "", (Cluster(tuple(draw_faces(bodies, sheet, window)), "bodies"),))


def _sign(kind: str) -> tuple[Mark, ...]:
    """What stands for a part that no section shows: a ring for round ones, a band for the wrist, a bar."""
    x, y = WIDTH / 2, HEIGHT / 2
    if kind in {"strap", "spring_bars"}:
        half = 3.4 if kind == "strap" else 1.1
        corners = ((4.0, y - half), (WIDTH - 4.0, y - half), (WIDTH - 4.0, y + half), (4.0, y + half))
        return (Line(corners, f"body body-{'strap' if kind == 'strap' else 'post'}", closed=True),)
    inner = {"crown_gasket": 3.0, "back_gasket": 6.6}.get(kind, 4.0)
    tone = "rubber" if "gasket" in kind else "rotor"
    return (Dot((x, y), HEIGHT / 2 - EDGE, f"body body-{tone}"), Dot((x, y), inner, "body body-void"))
