"""What was clicked in a photograph becomes a record: an angle, or how bright lume was."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from marquetry.core.proving.lume_decay import lume_reading
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.store.photo_light import patch_light
from marquetry.store.photos import Photo
from marquetry.web.prove.light_view import REFERENCE, LightPage, patched_of
from marquetry.web.prove.pages import page_of
from marquetry.web.prove.readiness import kept, record
from marquetry.web.prove.routes import shown, to_proof
from marquetry.web.prove.straight_view import limits_of, picked_of, verdict_of
from marquetry.web.prove.view import prove_page
from marquetry.web.site.deps import SentForm
from marquetry.web.site.sent import Sent, first, whole
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/prove")


def _photo(photos: dict[int, Photo], sent: Sent) -> Photo:
    found = photos.get(whole(sent, "picture"))
    if found is None:
        raise NotFoundError("that photograph of this watch's proofs")
    return found


@router.post("/angle", name="prove_angle")
def angle(visit: Visiting, sent: SentForm) -> Response:
    """Keep an angle read in a photograph."""
    page = prove_page(visit, "angle")
    item = first(sent, "item")
    photo = _photo(dict(page.photos), sent)
    picked = picked_of(photo, item, sent)
    if item not in {each.key for each in page.state.items} or picked.angle is None:
        return shown(
            visit, "angle", picked.fault or "Click centre, marker and tip first. Nothing was kept.", 422
        )
    verdict = verdict_of(limits_of(page, item), picked.angle)
    result = {"degrees": round(picked.angle.degrees, 4), "u_degrees": round(picked.angle.u, 4)}
    kept(visit, record("angle", item, verdict, means="photograph", result=result, photo=photo.id))
    return to_proof(visit, "angle", f"?picture={photo.id}")


@router.post("/lume", name="prove_lume")
def lume(visit: Visiting, request: Request, sent: SentForm) -> Response:
    """Keep how bright each patch of a photograph was over its reference."""
    page = page_of(visit, "lume")
    if not isinstance(page, LightPage):
        raise NotFoundError("lume of this watch")
    photo = _photo(dict(page.page.photos), sent)
    try:
        _keep_light(visit, request, page, photo, sent)
    except MarquetryError as error:
        return shown(visit, "lume", f"{error} Nothing was kept.", 422)
    return to_proof(visit, "lume")


def _keep_light(visit: Visit, request: Request, page: LightPage, photo: Photo, sent: Sent) -> None:
    patched = patched_of(photo, list(page.names), sent)
    if not patched.is_whole:
        raise NotFoundError(patched.fault or "a clicked patch and the reference")
    minutes = parse_figure("Minutes since light", patched.minutes, "min")
    lights = patch_light(request.app.state.database, photo, dict(patched.spots), patched.radius)
    reference = lights.pop(REFERENCE)
    readings = {key: lume_reading(minutes, light, reference) for key, light in lights.items()}
    kept(
        visit,
        *(
            record("lume", key, means="photograph", photo=photo.id,
                   result={"minutes": found.minutes, "brightness": round(found.brightness, 6)})
            for key, found in readings.items()
        ),
    )  # fmt: skip
