"""Dates that do not show, or show off their window; functions the dial or the hands ask for in vain."""

from collections.abc import Iterator

from marquetry.core.fit.checks.words import Issues
from marquetry.core.fit.cutouts import windows_shown
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import aside
from marquetry.core.remedies.idea import Idea
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import cutouts_of
from marquetry.core.sheet.described.words import HAND_LABELS

DATE = ("date_angle", "date_radius")
MATERIAL = "sapphire"


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """What can be done about calendar, promised functions and the crystal's material."""
    if check in DATE or check == "functions":
        yield from _calendars(build, report, check)
    if check == "functions":
        yield from _hands_off(build, report)
    if check == "crystal_strength" and build.at("crystal.material") != MATERIAL:
        title = f"A crystal of {MATERIAL} in the same size"
        yield Idea("other_crystal", title, build.with_entry("crystal.material", MATERIAL), 2)


def _calendars(build: Build, report: Report, check: str) -> Iterator[Idea]:
    for what in ("date", "day"):
        promised = what in windows_shown(aside(build, report.rules))
        driven = what in (build.at("movement.functions") or [])
        if driven:
            stripped = _without_function(build, what)
            yield Idea(
                "strip_calendar",
                f"Take the {what} disc and its parts off the movement; keep them",
                stripped,
                2,
                school="strip_calendar",
                caution="Loose springs: cover the works while the plate comes off.",
            )
            yield Idea(
                "movement_without_calendar",
                f"A movement of the same family without {what}",
                stripped,
                4,
                school="movement_without_calendar",
            )
        if promised:
            yield Idea(
                "dial_without_window", f"A dial without a {what} window", _without_window(build, what), 3
            )
            if driven and check in DATE:
                yield Idea(
                    "plain_dial_and_calendar_off",
                    f"A dial without a {what} window, the {what} disc taken off",
                    _without_window(_without_function(build, what), what),
                    3,
                )


def _without_function(build: Build, what: str) -> Build:
    left = [name for name in build.at("movement.functions") if name != what]
    build = build.with_entry("movement.functions", left)
    if what == "date":
        for path in ("movement.date_angle", "movement.date_radius"):
            build = build.without(path) if build.at(path) is not None else build
    return build


def _without_window(build: Build, what: str) -> Build:
    left = [name for name in build.at("dial.windows") or [] if name != what]
    build = build.with_entry("dial.windows", left)
    for path in reversed(cutouts_of(build)):
        if build.at(f"{path}.for") == what:
            build = build.without(path)
    if what == "date":
        for path in ("dial.date_window_angle", "dial.date_window_radius"):
            build = build.without(path) if build.at(path) is not None else build
    return build


def _hands_off(build: Build, report: Report) -> Iterator[Idea]:
    detail = report.findings["functions"].detail
    for issue in detail.issues if isinstance(detail, Issues) else ():
        what, _, hand = issue.partition(":")
        if what == "hand_without_post" and build.has(f"hands.{hand}"):
            title = f"Leave the {HAND_LABELS[hand]} hand off: the movement has no post for it"
            yield Idea("hand_off", title, build.without(f"hands.{hand}"), 1)
