"""A small close-up of one check's gap in a usual watch: the drawing beside a house rule."""

from dataclasses import replace
from functools import lru_cache

from marquetry.core.fit.checks.holder import CASE_SCREWS
from marquetry.core.fit.model import Model
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import report_on
from marquetry.core.section.lay_out import Gap, Section, lay_out
from marquetry.core.sheet.described.made import SPIGOT
from marquetry.core.sheet.described.words import DRIVES
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.statements import DRIVE
from marquetry.core.sheet.usual_build import usual_build
from marquetry.drawing.front_plate import front_bodies
from marquetry.drawing.margin_notes import gap_marks
from marquetry.drawing.plan import Plan
from marquetry.drawing.plan_spots import plan_anchor
from marquetry.drawing.scene import Cluster, Dot, Scene
from marquetry.drawing.section_plate import draw_bodies
from marquetry.drawing.sheet import Sheet, Window

WIDTH, HEIGHT = 44.0, 22.0
LEAST_SPAN, AROUND = 1.6, 2.2
"""Watch millimetres shown at least, and how many times the gap's own length."""

PLAN_SCALE = 4.0
SHOWN = "finding lit verdict-unmeasured"


OTHERWISE: tuple[tuple[str, Json], ...] = (
    *((DRIVE, drive) for drive in DRIVES),
    ("press_support.form", SPIGOT),
    ("case.holding", CASE_SCREWS),
    ("dial_adapter.grip_height", 0.0),
)
"""Ways in which a watch is built otherwise than the usual one: some gaps are only in these."""


@lru_cache(maxsize=len(OTHERWISE))
def _usual_section(model: Model, path: str, value: Json) -> Section:
    """A usual watch in section, but for one entry."""
    build = usual_build(model.anatomy).with_entry(path, value)
    return lay_out(build, report_on(build, model.rules()))


@lru_cache(maxsize=256)
def gap_detail(model: Model, check: str) -> Scene | None:
    """The close-up in section or, for what only a plan shows, in plan; None for a check of words alone."""
    for path, value in OTHERWISE:
        section = _usual_section(model, path, value)
        gap = next((gap for gap in section.gaps if gap.finding.check == check), None)
        if gap is not None:
            return _drawn(section, gap)
    place = model.check(check).plan
    return None if place is None else _drawn_in_plan(model, check, place)


def _drawn_in_plan(model: Model, check: str, place: str) -> Scene:
    p = Plausible(usual_build(model.anatomy), model.rules())
    x, y = plan_anchor(p, Plan(PLAN_SCALE, centre=(0.0, 0.0)), place, 0)
    plan = Plan(PLAN_SCALE, centre=(WIDTH / 2 - x, HEIGHT / 2 - y))
    ring = Dot((WIDTH / 2, HEIGHT / 2), 3.0, "gap-ring")
    marks = (Cluster(front_bodies(p, plan), "bodies"), Cluster((ring,), SHOWN))
    return Scene(WIDTH, HEIGHT, f"What {check} bounds", "", marks)


def _drawn(section: Section, gap: Gap) -> Scene:
    (r1, z1), (r2, z2) = gap.start, gap.end
    high = max(LEAST_SPAN, AROUND * max(abs(r2 - r1) * HEIGHT / WIDTH, abs(z2 - z1)))
    wide = high * WIDTH / HEIGHT
    r, z = (r1 + r2) / 2, (z1 + z2) / 2
    window = Window(r - wide / 2, r + wide / 2, z - high / 2, z + high / 2)
    scale = WIDTH / wide
    sheet = Sheet(scale, 1.0, (-window.left * scale, -window.low * scale))
    near = replace(section, bodies=tuple(body for body in section.bodies if window.clip(body.outline)))
    marks = (
        Cluster(
            tuple(draw_bodies(near, sheet, replace(window, left=max(window.left, -1.9)), names=False)),
            "bodies",
        ),
        Cluster(gap_marks(gap, sheet), SHOWN),
    )
    return Scene(WIDTH, HEIGHT, f"What {gap.finding.check} bounds", "", marks)
