"""A reading from the wrist: at the full minute with one key, or an offset typed."""

from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import Response

from marquetry.core.proving.asked import wrist_of
from marquetry.core.proving.wrist import HALF_TURN_S, WRIST_WAYS, WristEntry, WristWhat, offset_at_minute
from marquetry.core.proving.wrist_records import wrist_result
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, MarquetryError
from marquetry.core.values.figures import figure
from marquetry.web.build.bench_run import now_ms
from marquetry.web.prove.forms import ShortSaid
from marquetry.web.prove.readiness import kept, readiness_of, record
from marquetry.web.prove.routes import shown, to_proof
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/prove")
SMALLEST_U, WIDEST_U = 0.05, 60.0


@router.post("/wrist", name="prove_wrist")
def read(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    visit: Visiting,
    what: Annotated[WristWhat, Form()] = "read",
    how: Annotated[str, Form(max_length=20)] = "worn",
    offset: ShortSaid = "",
    u: Annotated[str, Form(max_length=10)] = "",
    words: ShortSaid = "",
) -> Response:
    """Where the watch stood at this moment: without an offset, it shows a full minute just now."""
    moment = now_ms()
    try:
        entry = _entry(visit, moment / 1000.0, what, how, (offset, u))
    except MarquetryError as error:
        return shown(visit, "wrist", str(error), 422)
    kept(visit, record("wrist", "worn", words=words, result=wrist_result(entry), at_ms=moment))
    return to_proof(visit, "wrist")


def _entry(visit: Visit, at: float, what: WristWhat, how: str, typed: tuple[str, str]) -> WristEntry:
    if how not in WRIST_WAYS:
        raise DimensionError("Kept", how, "", "worn, or lying in one of six ways")
    doubt = parse_figure("Doubt", typed[1], "s") if typed[1].strip() else WristEntry(at).u
    if not SMALLEST_U <= doubt <= WIDEST_U:
        raise DimensionError("Doubt", figure(doubt, 2), "s", f"{SMALLEST_U:g} to {WIDEST_U:g} s")
    if typed[0].strip():
        offset = parse_figure("Offset", typed[0], "s")
        if abs(offset) > HALF_TURN_S:
            raise DimensionError("Offset", figure(offset, 1), "s", "at most twelve hours either way")
    else:
        before = [] if what == "set" else wrist_of(readiness_of(visit))
        offset = offset_at_minute(at, before[-1].offsets[-1] if before else 0.0)
    return WristEntry(at, what, round(offset, 2), how, doubt)
