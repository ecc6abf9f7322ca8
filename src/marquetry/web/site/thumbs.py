"""Parts drawn small, for every page that shows some; a drawing is kept while the part stays as it is."""

from collections.abc import Callable

from fastapi import FastAPI
from markupsafe import Markup

from marquetry.core.face.face import seen_face
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report, report_on
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.families import usual_watch
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.ready_families import USUAL_FAMILY
from marquetry.core.sheet.usual_build import usual_build
from marquetry.drawing.caliper_drawing import caliper_drawing
from marquetry.drawing.face.face_scene import small_face
from marquetry.drawing.face.part_face import part_face
from marquetry.drawing.part_thumb import part_thumb
from marquetry.drawing.section_thumb import section_thumb
from marquetry.drawing.svg import SMALL
from marquetry.drawing.trade.label_code import label_code
from marquetry.web.site.drawn import drawn

Thumb = Callable[[Part], Markup]
Sign = Callable[[Kind], Markup]


def thumbs(app: FastAPI) -> Thumb:
    """Draws parts small: as they look, where they are chosen by that, else in section."""
    return lambda part: app.state.kept.pure(_thumb, app.state.model, part)


def face_thumbs(app: FastAPI) -> Thumb:
    """Draws parts small as they look from the front, whatever their kind; nothing where that is not seen."""
    return lambda part: app.state.kept.pure(_face_thumb, app.state.model, part)


def _thumb(model: Model, part: Part) -> Markup:
    rules = model.rules()
    return drawn(part_face(part, rules) or part_thumb(part, rules), SMALL)


def _face_thumb(model: Model, part: Part) -> Markup:
    return drawn(part_face(part, model.rules(), all_kinds=True), SMALL)


ReportThumb = Callable[[Report], Markup]


def watch_thumbs(app: FastAPI) -> ReportThumb:
    """Draws the section of a watch alone and small; its hatches come with the page."""
    return lambda report: app.state.kept.pure(_section, report)


def watch_faces(app: FastAPI) -> ReportThumb:
    """Draws a watch small from the front; its lights come with the page."""
    return lambda report: app.state.kept.pure(_front, report)


def _section(report: Report) -> Markup:
    return drawn(section_thumb(lay_out(report.build, report), report.build.name))


def _front(report: Report) -> Markup:
    return drawn(small_face(seen_face(report.build, report)), SMALL)


def drawn_code(address: str, words: str) -> Markup:
    """The code of a page's address for a label."""
    return drawn(label_code(address, words))


Emblem = Callable[[str], Markup]


def emblems(app: FastAPI) -> Emblem:
    """Draws what an empty page would hold: `watch`, a usual one in section; `caliper`, one that measures."""
    return lambda name: app.state.kept.pure(
        _caliper if name == "caliper" else _usual_section, app.state.model
    )


def _caliper(_: Model) -> Markup:
    return drawn(caliper_drawing(28.5, "28.50"))


def _usual_section(model: Model) -> Markup:
    build = usual_watch(USUAL_FAMILY, model.anatomy)
    return _section(report_on(build, model.rules_of(build)))


def signs(app: FastAPI) -> Sign:
    """Draws a kind of part by a usual one, for a place where none is."""
    thumb, usual = thumbs(app), usual_build(app.state.model.anatomy)
    return lambda kind: thumb(Part.of(kind, usual.at(kind.key)))
