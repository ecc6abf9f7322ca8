"""Parts drawn small, for every page that shows some; a drawing is kept while the part stays as it is."""

import json
from collections.abc import Callable
from functools import lru_cache
from typing import TYPE_CHECKING

from markupsafe import Markup

from marquetry.core.fit.model import Model
from marquetry.core.sheet.families import usual_watch
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.ready_families import USUAL_FAMILY
from marquetry.core.sheet.usual_build import usual_build
from marquetry.drawing.caliper_drawing import caliper_drawing
from marquetry.drawing.face.part_face import part_face
from marquetry.drawing.part_thumb import part_thumb
from marquetry.drawing.scene import Scene
from marquetry.drawing.svg import SMALL
from marquetry.drawing.trade.label_code import label_code
from marquetry.store.shelf import sheet_text
from marquetry.web.site.drawn import drawn

if TYPE_CHECKING:  # reports draw thumbs themselves
    from marquetry.web.watch.reports import Reports

Thumb = Callable[[Part], Markup]
Sign = Callable[[Kind], Markup]


@lru_cache(maxsize=4)
def thumbs(model: Model) -> Thumb:
    """Draws parts small: as they look, where they are chosen by that, else in section."""
    rules = model.rules()
    return _kept(model, lambda part: part_face(part, rules) or part_thumb(part, rules))


@lru_cache(maxsize=4)
def face_thumbs(model: Model) -> Thumb:
    """Draws parts small as they look from the front, whatever their kind; nothing where that is not seen."""
    rules = model.rules()
    return _kept(model, lambda part: part_face(part, rules, all_kinds=True))


def _kept(model: Model, draw: Callable[[Part], Scene | None]) -> Thumb:
    """A drawer of parts that keeps a drawing as long as the part does not change."""

    @lru_cache(maxsize=2048)
    def thumb(kind: str, document: str) -> Markup:
        return drawn(draw(Part.of(model.anatomy.kind(kind), json.loads(document))), SMALL)

    return lambda part: thumb(part.kind.key, sheet_text(part.document))


MOST_CODES = 400
"""A sheet of labels has as many."""


@lru_cache(maxsize=MOST_CODES)
def drawn_code(address: str, words: str) -> Markup:
    """The code of a page's address for a label, drawn once: a sheet is looked at before it is printed."""
    return drawn(label_code(address, words))


Emblem = Callable[[str], Markup]


def emblems(model: Model, reports: "Reports") -> Emblem:
    """Draws what an empty page would hold: `watch`, a usual one in section; `caliper`, one that measures."""

    @lru_cache(maxsize=4)
    def emblem(name: str) -> Markup:
        if name == "caliper":
            return drawn(caliper_drawing(28.5, "28.50"))
        build = usual_watch(USUAL_FAMILY, model.anatomy)
        return reports.thumb(build, reports.on(build, model.rules_of(build)))

    return emblem


def signs(model: Model) -> Sign:
    """Draws a kind of part by a usual one, for a place where none is."""
    thumb, usual = thumbs(model), usual_build(model.anatomy)
    return lambda kind: thumb(Part.of(kind, usual.at(kind.key)))
