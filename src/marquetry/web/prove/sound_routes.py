"""A recording of a watch: heard while it grows, kept when it is done."""

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.proving.positions import POSITION_BY_KEY, PositionKey
from marquetry.core.proving.sound.timing import Timing
from marquetry.core.values.errors import MarquetryError
from marquetry.web.prove.pages import page_of
from marquetry.web.prove.readiness import kept, readiness_of, record
from marquetry.web.prove.routes import shown
from marquetry.web.prove.sound_view import heard_figures
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/prove/sound")

LiftAngle = Annotated[float, Form(allow_inf_nan=False)]
Beats = Annotated[int, Form(ge=0)]
Means = Annotated[str, Form(max_length=120)]
NewKey = Annotated[str, Form(pattern=r"^[A-Za-z0-9_-]{8,60}$|^$")]


def _heard(visit: Visit, raw: bytes, lift: float, beats: int) -> Timing:
    # numpy's transforms are wanted where a watch is heard, and nowhere before.
    from marquetry.core.proving.sound.timing import timing  # noqa: PLC0415
    from marquetry.formats.wav import read_wav  # noqa: PLC0415

    ppm = readiness_of(visit).situation.rules.number("clock_ppm")
    return timing(read_wav(raw), lift, beats or None, ppm or None)


@router.post("/hear", name="hear_watch")
def hear(
    visit: Visiting,
    sound: UploadFile,
    position: Annotated[PositionKey, Form()],
    lift: LiftAngle = 52.0,
    beats: Beats = 0,
) -> Response:
    """First figures of a recording that goes on; nothing is kept."""
    fault, figures = "", None
    try:
        found = _heard(visit, sound.file.read(), lift, beats)
        figures = heard_figures(found, POSITION_BY_KEY[position].label)
    except MarquetryError as error:
        fault = str(error)
    context = {"figures": figures, "fault": fault, "label": POSITION_BY_KEY[position].label, "kept": False}
    return render(visit.request, "prove/templates/_heard.html", context, 422 if fault else 200)


@router.post("/keep", name="keep_sound")
def keep(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    visit: Visiting,
    sound: UploadFile,
    position: Annotated[PositionKey, Form()],
    lift: LiftAngle = 52.0,
    beats: Beats = 0,
    means: Means = "",
    key: NewKey = "",
) -> Response:
    """Analyse a whole recording and keep what it says; where it says nothing, nothing is kept."""
    from marquetry.formats.timing_json import timing_document  # noqa: PLC0415  # as above

    try:
        found = _heard(visit, sound.file.read(), lift, beats)
    except MarquetryError as error:
        if visit.fragments:
            context = {"figures": None, "fault": f"{error} Nothing was kept.", "label": "", "kept": False}
            return render(visit.request, "prove/templates/_heard.html", context, 422)
        return shown(visit, "sound", f"{error} Nothing was kept.", 422)
    result = {**timing_document(found), "lift_angle_deg": lift}
    kept(visit, record("sound", position, means=means or _file_name(sound), result=result, key=key))
    if visit.fragments:
        return render(visit.request, "prove/templates/_round.html", {"page": page_of(visit, "sound")})
    address = visit.request.app.url_path_for("proof", watch_id=str(visit.stored.id), key="sound")
    return RedirectResponse(address, status_code=303)


def _file_name(sound: UploadFile) -> str:
    """The file's name, as a word about where it came from and nothing else."""
    plain = "".join(letter for letter in (sound.filename or "") if letter.isalnum() or letter in " ._-")
    return f"file {plain[:60]}".strip()
