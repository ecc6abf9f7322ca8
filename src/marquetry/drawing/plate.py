"""The plate in the view the reader chose: one of the sections, the front, or the dial's back."""

from marquetry.core.fit.report import Report
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.drawing.back_plate import back_plate
from marquetry.drawing.front_plate import front_plate
from marquetry.drawing.scene import Scene
from marquetry.drawing.section_plate import section_plate
from marquetry.drawing.sheet import Display


def plate(build: Build, report: Report, display: Display) -> Scene:
    """Draw the build as the display asks."""
    if display.view == "front":
        return front_plate(build, report, display)
    if display.view == "back":
        return back_plate(build, report, display)
    return section_plate(lay_out(build, report), build.name, display)
