"""A step of the way on: the movement from behind with its rotor, the holder's tabs round it."""

from marquetry.core.making.way_on import WayOn, WayStep
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Line, Mark, Scene

SIZE, RADIUS = 46.0, 17.0
RIM, TAB = 19.6, 5.0


def way_scene(way: WayOn, step: WayStep) -> Scene:
    """The step small, seen from behind: what goes on is dark, what is on already outlined."""
    plan = Plan(1.0, hand=-1, centre=(SIZE / 2, SIZE / 2))
    marks: list[Mark] = [
        plan.circle(2 * RIM, "plan-line"),
        plan.circle(2 * RADIUS, "body body-movement"),
        _rotor(plan, step.rotor + 90.0, way.sector),
        plan.tick(RIM, RIM + 2.8, 90.0, "centre-line"),
    ]
    for number, angle in enumerate(way.angles):
        going = number in step.going
        classes = "body body-hand" if going else "body body-print" if number in step.on_already else "body"
        marks.append(plan.bar(RADIUS - TAB, RIM, angle + 90.0, 4.0, classes, f"Tab {number + 1}"))
    return Scene(SIZE, SIZE, step.words, "", tuple(marks))


def _rotor(plan: Plan, middle: float, sector: float) -> Line:
    """The sector that the rotor's weight covers."""
    steps = 24
    edge = [plan.at(RADIUS - 1.4, middle + sector * (k / steps - 0.5)) for k in range(steps + 1)]
    return Line((plan.centre, *edge), "body body-rotor", closed=True)
