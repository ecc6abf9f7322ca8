"""Scenes as pages of a PDF, a millimetre of paper as a millimetre: for print, in ink alone.

A face in its own colours, which is looked at and not measured, is laid in as a picture.
"""

import math
from collections.abc import Sequence
from importlib.resources import as_file, files
from io import BytesIO
from typing import TYPE_CHECKING

from marquetry.drawing.raster import SceneWindow, png_bytes
from marquetry.drawing.scene import (
    Box,
    Circle,
    Cluster,
    CutFace,
    Dot,
    Inlay,
    InlayEdge,
    Label,
    Line,
    Mark,
    Paper,
    Scene,
)
from marquetry.drawing.svg import FACE

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

MM = 72.0 / 25.4
"""Points in a millimetre, exactly: a point is 1/72 inch."""
THIN, PEN = 0.13, 0.2
DASHED = {"centre-line": (5.0, 0.8, 0.7, 0.8)}
FILLED = ("head", "-full", "veneer-a")
"""Ends of the classes of closed lines that are full of ink."""
SHADES = {"made-far": 0.92, "made-near": 1.0, "card-black": 0.0}
EXACT = "card-black"
"""Faces without a pen round them: a pen of two tenths would make a marker as much too large."""
GREY = {"card-ring": 0.55}
PLAIN = "Vera"
"""The type that comes with the PDF library; it has Ø, × and the true minus sign."""
DISPLAY, DISPLAY_FILE = "Fraunces", "fraunces-560.ttf"
PER_MM = 10.0
"""Pixels a millimetre of a face: 254 an inch, in about a second."""


def pdf_bytes(scenes: Sequence[Scene], title: str) -> bytes:
    """One page a scene, each in its own size; the same scenes give the same bytes."""
    from reportlab.pdfbase.pdfmetrics import registerFont  # noqa: PLC0415  # only makers need it
    from reportlab.pdfbase.ttfonts import TTFont  # noqa: PLC0415  # as above
    from reportlab.pdfgen.canvas import Canvas  # noqa: PLC0415  # as above

    registerFont(TTFont(PLAIN, "Vera.ttf"))
    with as_file(files("marquetry.drawing").joinpath("fonts", DISPLAY_FILE)) as file:
        registerFont(TTFont(DISPLAY, str(file)))
    written = BytesIO()
    canvas = Canvas(written, invariant=1)
    canvas.setTitle(title)
    canvas.setAuthor("Marquetry")
    for scene in scenes:
        canvas.setPageSize((scene.width * MM, scene.height * MM))
        canvas.scale(MM, MM)
        for mark in scene.marks:
            if isinstance(mark, Cluster) and mark.classes == FACE:
                _face(canvas, scene, mark)
            else:
                _draw(canvas, mark)
        canvas.showPage()
    canvas.save()
    return written.getvalue()


def _face(canvas: "Canvas", scene: Scene, face: Cluster) -> None:
    from reportlab.lib.utils import ImageReader  # noqa: PLC0415  # as above

    alone = Scene(scene.width, scene.height, "", "", (face,))
    window = _window(alone)
    picture = ImageReader(BytesIO(png_bytes(alone, PER_MM, window=window)))
    canvas.drawImage(picture, *window, mask="auto")


def _window(scene: Scene) -> SceneWindow:
    """What of the paper coloured faces cover, to whole millimetres."""
    inlays = [mark for mark in scene.walk() if isinstance(mark, Inlay)]
    points = [point for inlay in inlays for edge in inlay.outlines for point in _corners(edge)]
    xs, ys = ([point[axis] for point in points] or [0.0, scene.width] for axis in (0, 1))
    left, low = max(math.floor(min(xs)), 0), max(math.floor(min(ys)), 0)
    right, top = min(math.ceil(max(xs)), scene.width), min(math.ceil(max(ys)), scene.height)
    return float(left), float(low), float(right - left), float(top - low)


def _corners(edge: InlayEdge) -> tuple[Paper, ...]:
    if isinstance(edge, Circle):
        (x, y), r = edge.centre, edge.radius
        return (x - r, y - r), (x + r, y + r)
    return edge


def _draw(canvas: "Canvas", mark: Mark) -> None:
    match mark:
        case Cluster():
            for child in mark.children:
                _draw(canvas, child)
        case Line():
            _pen(canvas, mark.classes)
            _path(canvas, (mark.points,), closed=mark.closed, fill=int(mark.classes.endswith(FILLED)))
        case CutFace():
            _pen(canvas, mark.classes)
            canvas.setFillGray(SHADES.get(mark.classes, 0.82))
            _path(canvas, mark.outlines, closed=True, fill=1, stroke=int(mark.classes != EXACT))
        case Dot(centre=(x, y)):
            _pen(canvas, mark.classes)
            canvas.circle(x, y, mark.radius, stroke=1, fill=int(mark.classes.endswith(FILLED)))
        case Box(at=(x, y)):
            _pen(canvas, mark.classes)
            canvas.rect(x, y, mark.width, mark.height, stroke=1, fill=0)
        case Label():
            _label(canvas, mark)
        case _:
            # Faces in colours of their own are looked at, not printed to be measured.
            return


def _pen(canvas: "Canvas", classes: str) -> None:
    canvas.setLineWidth(THIN if classes in {"made-centre", "dimension-extension"} else PEN)
    canvas.setStrokeGray(GREY.get(classes, 0.0))
    canvas.setFillGray(0.0)
    canvas.setDash(*(DASHED.get(classes, ()) and (list(DASHED[classes]), 0)) or ([], 0))


def _path(
    canvas: "Canvas", outlines: tuple[tuple[Paper, ...], ...], *, closed: bool, fill: int, stroke: int = 1
) -> None:
    path = canvas.beginPath()
    for (x, y), *others in outlines:
        path.moveTo(x, y)
        for point in others:
            path.lineTo(*point)
        if closed:
            path.close()
    canvas.drawPath(path, stroke=stroke, fill=fill, fillMode=0)


def _label(canvas: "Canvas", label: Label) -> None:
    canvas.setFillGray(0.35 if "quiet" in label.classes else 0.0)
    canvas.setFont(DISPLAY if "display" in label.classes else PLAIN, label.size)
    x, y = label.at
    if label.anchor == "middle":
        canvas.drawCentredString(x, y, label.text)
    elif label.anchor == "end":
        canvas.drawRightString(x, y, label.text)
    else:
        canvas.drawString(x, y, label.text)
