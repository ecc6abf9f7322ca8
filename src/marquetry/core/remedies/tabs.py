"""Tabs of a holder that miss their recesses, rub on the rotor, or stand all round: a holder with other tabs."""

from collections.abc import Iterator, Mapping

from marquetry.core.fit.checks.calendar import wrapped
from marquetry.core.fit.checks.tabs import RECESSES, ROUND, TABS, tabs_in_the_way
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import Trace
from marquetry.core.remedies.idea import MADE_TOL, Idea, is_possible, with_value
from marquetry.core.sheet.build import Build

SPARE = 0.03
"""What a made tab is smaller than it would have to be, beside its own tolerance, mm."""


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """Holders with tabs elsewhere, shorter towards the rotor, or fewer."""
    if check == "holder_tabs":
        yield from _moved(build, report)
    if check == "holder_rotor":
        yield from _clear_of_the_rotor(build, report)
    if check in {"holder_on", "holder_tabs", "holder_rotor"}:
        yield from _fewer(build)


def _moved(build: Build, report: Report) -> Iterator[Idea]:
    """Every tab turned to the nearest recess, and made to go into it."""
    limit = report.findings["holder_tabs"].limits.low or 0.0
    room = limit + SPARE + 2 * MADE_TOL
    values: dict[str, float] = {}
    for tab in _paths(build, TABS):
        recess = _nearest(build, tab)
        if recess is None:
            return
        values |= {f"{tab}.{key}": value for key, value in _inside(build, tab, recess, room).items()}
    yield from _made(build, values, "moved_tabs", "A holder with its tabs where the movement's recesses are")


def _made(build: Build, values: Mapping[str, float], kind: str, title: str) -> Iterator[Idea]:
    """A holder made with these dimensions, in mm and degrees; nothing where no tab can have them."""
    if values and all(is_possible(build, path, value) for path, value in values.items()):
        made = build
        for path, value in values.items():
            made = with_value(made, path, value)
        yield Idea(kind, title, made, 2, make="holder")


def _inside(build: Build, tab: str, recess: str, room: float) -> Mapping[str, float]:
    """The tab's dimensions, in mm and degrees, at which it goes into the recess with that room."""
    known = build.dimensions
    wide = known[f"{recess}.width"].value - 2 * room
    found = {
        "angle": known[f"{recess}.angle"].value,
        "from": max(known[f"{tab}.from"].value, known[f"{recess}.from"].value + room),
        "to": min(known[f"{tab}.to"].value, known[f"{recess}.to"].value - room),
    }
    if build.at(f"{tab}.shape") == ROUND:
        return {**found, "radius": min(known[f"{tab}.radius"].value, wide / 2)}
    reach = max(known[f"{tab}.reach"].value, known[f"{recess}.reach"].value + room)
    return {**found, "width": min(known[f"{tab}.width"].value, wide), "reach": reach}


def _nearest(build: Build, tab: str) -> str | None:
    place = build.dimensions[f"{tab}.angle"].value
    found = {path: build.dimensions.get(f"{path}.angle") for path in _paths(build, RECESSES)}
    turns = {path: abs(wrapped(place - angle.value)) for path, angle in found.items() if angle is not None}
    return min(turns, key=lambda path: turns[path], default=None)


def _clear_of_the_rotor(build: Build, report: Report) -> Iterator[Idea]:
    """Those tabs that reach within the rotor made to end before it, or to stop outside it."""
    limit = report.findings["holder_rotor"].limits.low or 0.0
    known = build.dimensions
    end = known["movement.face_to_rotor"].value - limit - SPARE - 2 * MADE_TOL
    clear = known["rotor.diameter"].value / 2 + limit
    shorter: dict[str, float] = {}
    outside: dict[str, float] = {}
    for tab in tabs_in_the_way(Trace(build, report.rules)) or ():
        path = f"{TABS}.{tab}"
        shorter[f"{path}.to"] = min(known[f"{path}.to"].value, end)
        if build.at(f"{path}.shape") == ROUND:
            outside[f"{path}.radius"] = known["holder.inner_diameter"].value / 2 - clear
        else:
            outside[f"{path}.reach"] = clear
    yield from _made(build, shorter, "shorter_tabs", "A holder whose tabs end nearer the dial")
    yield from _made(build, outside, "short_tabs", "A holder whose tabs stop outside the rotor")


def _fewer(build: Build) -> Iterator[Idea]:
    tabs = _paths(build, TABS)
    for number, tab in enumerate(tabs, 1):
        if len(tabs) > 1:
            title = f"Cut tab {number} off the holder"
            yield Idea(
                "tab_off", title, build.without(tab), 1, undo=False, caution="Blades: cut away from you."
            )


def _paths(build: Build, many: str) -> list[str]:
    return [f"{many}.{index}" for index in range(build.count(many))]
