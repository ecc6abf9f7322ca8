"""Sheets with a face on them: large by day or by night, small for a bench or a column."""

from collections.abc import Iterator

from marquetry.core.face.seen import SeenFace
from marquetry.drawing.face.buckle_face import buckle_face
from marquetry.drawing.face.face_drawing import STRAP_SHOWN, drawn_face
from marquetry.drawing.face.night_face import BLACK, night_face
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Inlay, Mark, Scene
from marquetry.drawing.sheet import USUAL_TIME
from marquetry.drawing.svg import FACE

SCALE = 2.0
"""Paper millimetres for one of the watch: hundredths of the paper are then finer than any edge."""
BUCKLE_FROM_EDGE = 7.0
"""How far from the corner the middle of the buckle lies, mm."""
BESIDE = 2.5
"""Ground left and right of the watch, mm."""
SMALL = 1.0


def _sheet(face: SeenFace, scale: float, strap: float) -> tuple[float, float, Plan]:
    """Width, height and plan of a sheet with the whole watch and so much of its strap."""
    half_wide = max(
        [14.0]
        + ([face.case.radius + BESIDE] if face.case else [])
        + ([face.crown.outer] if face.crown else [])
        + ([face.bezel.outer] if face.bezel else [])
    )
    half_high = face.reach + strap
    wide, high = 2 * (half_wide + BESIDE) * scale, 2 * half_high * scale
    return wide, high, Plan(scale, centre=(wide / 2, high / 2))


def by_day(face: SeenFace, name: str, time: str = USUAL_TIME) -> Scene:
    """The watch as it looks in a good light."""
    wide, high, plan = _sheet(face, SCALE, STRAP_SHOWN)
    marks = (*drawn_face(plan, face, time), *_buckle(face, wide))
    return Scene(wide, high, f"{name}: as it looks", "The watch from the front.", (Cluster(marks, FACE),))


def _buckle(face: SeenFace, wide: float) -> Iterator[Mark]:
    """Buckle or clasp in the corner beside the strap, at half the watch's scale."""
    if face.strap:
        place = (wide - BUCKLE_FROM_EDGE * SCALE, BUCKLE_FROM_EDGE * SCALE)
        yield from buckle_face(Plan(SCALE / 2, centre=place), face.strap)


def by_night(face: SeenFace, name: str, minutes: float, time: str = USUAL_TIME) -> Scene:
    """The watch in the dark, so many minutes after light."""
    wide, high, plan = _sheet(face, SCALE, STRAP_SHOWN)
    marks = (_dark(wide, high), *night_face(plan, face, time, minutes))
    title = f"{name}: in the dark, {minutes:g} minutes after light"
    return Scene(wide, high, title, "Only what glows.", (Cluster(marks, FACE),))


def small_night(face: SeenFace, minutes: float) -> Scene:
    """The same small, beside words that say what it shows."""
    wide, high, plan = _sheet(face, SMALL, 0.0)
    marks = (_dark(wide, high), *night_face(plan, face, USUAL_TIME, minutes, fine=False))
    return Scene(wide, high, "", "", (Cluster(marks, FACE),))


def small_face(face: SeenFace) -> Scene:
    """The watch small, for a bench, a variant, a proposal."""
    wide, high, plan = _sheet(face, SMALL, 1.0)
    marks = tuple(drawn_face(plan, face, USUAL_TIME, strap=1.0, fine=False))
    return Scene(wide, high, "", "", (Cluster(marks, FACE),))


def _dark(wide: float, high: float) -> Mark:
    return Inlay((((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)),), BLACK)
