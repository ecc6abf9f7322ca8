"""The handbook's figures: drawn from watches that ship with the program, as a chapter asks in words.

`plate:diver-40?view=hands&check=hand_stack&dial.thickness=0.60` is the hands of a usual diver with a thicker
dial; `face:…?minutes=20` a watch by day or, so many minutes after light, in the dark; `gap:CHECK` a check's
place in close-up; `made:holder` a part made here in plan and cut; `caliper:28.50` a caliper that reads so.
"""

from collections.abc import Callable, Mapping
from urllib.parse import parse_qsl

from marquetry.core.face.face import seen_face
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import report_on
from marquetry.core.making.body import made_body
from marquetry.core.making.parts import made_part
from marquetry.core.rehearsal.pieces import PIECES, piece
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import ready_family, usual_watch
from marquetry.core.sheet.ready_families import USUAL_FAMILY
from marquetry.core.values.errors import SheetError
from marquetry.drawing.caliper_drawing import caliper_drawing
from marquetry.drawing.face.face_scene import by_day, by_night
from marquetry.drawing.gap_detail import gap_detail
from marquetry.drawing.made.made_plate import made_plate
from marquetry.drawing.plate import plate
from marquetry.drawing.scene import Scene
from marquetry.drawing.sheet import VIEWS, Display, View

FigureAsked = Mapping[str, str]
SOURCE = "measured"
SPACER = "spacer"
"""`spacer.movement=0.30` puts a ring there, behind the dial; `spacer.dial` before it."""


def figure_scene(model: Model, told: str) -> Scene:
    """The figure of these words; SheetError where they name none."""
    kind, _, rest = told.partition(":")
    name, _, query = rest.partition("?")
    draw = KINDS.get(kind)
    if draw is None:
        raise SheetError("figure", " or ".join(KINDS), told[:60])
    return draw(model, name, dict(parse_qsl(query)))


def _watch(model: Model, name: str, asked: FigureAsked) -> Build:
    """A measured watch of the set for rehearsal, or a family's usual one, with the sizes that are given."""
    build = piece(name, model.anatomy) if name in PIECES else usual_watch(ready_family(name), model.anatomy)
    for path, value in asked.items():
        size = {"value": float(value), "tol": 0.02, "source": SOURCE} if "." in path else None
        kind, _, side = path.partition(".")
        if size and kind == SPACER:
            build = build.with_entry("spacers.-", {"side": side, "thickness": size})
        elif size:
            build = build.with_entry(path, size)
    return build


def _plate(model: Model, name: str, asked: FigureAsked) -> Scene:
    build = _watch(model, name, asked)
    view: View = next((known for known in VIEWS if known == asked.get("view")), "half")
    shown = Display(view, float(asked.get("stretch", "1.5")), asked.get("check", ""), measured=True)
    return plate(build, report_on(build, model.rules_of(build)), shown)


def _face(model: Model, name: str, asked: FigureAsked) -> Scene:
    build = _watch(model, name, asked)
    face = seen_face(build, report_on(build, model.rules_of(build)))
    if "minutes" in asked:
        return by_night(face, build.name, float(asked["minutes"]))
    return by_day(face, build.name)


def _gap(model: Model, name: str, _: FigureAsked) -> Scene:
    found = gap_detail(model, name)
    if found is None:
        raise SheetError("figure", "a check that has a place in the drawing", name[:60])
    return found


def _made(model: Model, name: str, asked: FigureAsked) -> Scene:
    build = _watch(model, asked.get("family", USUAL_FAMILY.key), asked)
    name = name.replace(".", ":")  # `spacer.0`: a colon in an address would be taken for a port's
    part = made_part(name, build, model.rules_of(build))
    part = made_part(name, part.begun(), model.rules_of(build))
    return made_plate(made_body(part).drawing, part.measures(), "print", part.label)


def _caliper(_: Model, name: str, __: FigureAsked) -> Scene:
    return caliper_drawing(float(name), name)


KINDS: Mapping[str, Callable[[Model, str, FigureAsked], Scene]] = {
    "plate": _plate, "face": _face, "gap": _gap, "made": _made, "caliper": _caliper,
}  # fmt: skip
