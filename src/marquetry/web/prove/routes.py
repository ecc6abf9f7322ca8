"""All proofs of a watch, the page of each, what is tried by hand, and what lapses when it is opened."""

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.proving.meeting import minutes_from_midnight
from marquetry.core.proving.ready import OpenedWhat
from marquetry.core.proving.record import ProofKind
from marquetry.core.values.errors import MarquetryError, NotFoundError, SheetError
from marquetry.store import photos, proofs
from marquetry.store.database import transaction
from marquetry.web.prove.forms import ItemName, SaidVerdict, ShortSaid, TriedKind
from marquetry.web.prove.pages import PAGES, page_of
from marquetry.web.prove.readiness import kept, readiness_of, record
from marquetry.web.prove.view import prove_page
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/prove")


def shown(visit: Visit, key: str, fault: str = "", status: int = 200) -> Response:
    """The page of one proof. NotFoundError where this watch asks for none of that name."""
    page = page_of(visit, key, fault)
    return render(visit.request, f"prove/templates/{page.template}.html", {"page": page}, status)


def to_proof(visit: Visit, key: str, where: str = "") -> Response:
    """To the page of a proof; to that of all without one."""
    links, watch = visit.request.app, str(visit.stored.id)
    address = (
        links.url_path_for("proof", watch_id=watch, key=key)
        if key
        else links.url_path_for("prove", watch_id=watch)
    )
    return RedirectResponse(f"{address}{where}", status_code=303)


@router.get("", name="prove")
def show(visit: Visiting) -> Response:
    """Ready to hand over, or what is still open."""
    return render(visit.request, "prove/templates/prove.html", {"page": prove_page(visit)})


@router.get("/{key}", name="proof")
def show_proof(visit: Visiting, key: str) -> Response:
    """One proof: how, where it stands, what was found."""
    return shown(visit, key)


@router.get("/records/{number}/series.csv", name="proof_series")
def series(visit: Visiting, number: int) -> Response:
    """The file that a record was read from."""
    text = proofs.series_of(visit.connection, visit.stored.id, number)
    headers = {"Content-Disposition": f'attachment; filename="dry-test-{number}.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/tried", name="prove_tried")
def tried(
    visit: Visiting,
    kind: Annotated[TriedKind, Form()],
    item: ItemName,
    verdict: SaidVerdict,
    words: ShortSaid = "",
) -> Response:
    """Something was tried or looked at, and held or did not."""
    state = readiness_of(visit).by_key.get(kind)
    if state is None or item not in {each.key for each in state.items}:
        raise NotFoundError(f"“{item[:40]}” among what this watch is to be tried by")
    kept(visit, record(kind, item, verdict, words=words))
    return to_proof(visit, kind, f"#item-{item}")


@router.post("/date", name="prove_date")
def date(visit: Visiting, jumped: ShortSaid, began: ShortSaid = "", words: ShortSaid = "") -> Response:
    """When the date jumped, and when it began to move."""
    ready = readiness_of(visit)
    try:
        jump = minutes_from_midnight("Jumped at", jumped)
        start = minutes_from_midnight("Began at", began) if began.strip() else None
    except MarquetryError as error:
        return shown(visit, "date", str(error), 422)
    passes = ready.situation.rules.band("date_jump").admit(float(jump))
    result = {"jump_min": jump, "began_min": start}
    kept(visit, record("date", "jump", "passed" if passes else "failed", words=words, result=result))
    return to_proof(visit, "date")


@router.post("/opened", name="prove_opened")
def opened(visit: Visiting, what: Annotated[OpenedWhat, Form()], words: ShortSaid = "") -> Response:
    """The watch was opened and closed again: what must be done again lapses."""
    kept(visit, record("opened", what, words=words))
    return to_proof(visit, "")


@router.post("/undo", name="prove_undo")
def undo(visit: Visiting, key: Annotated[str, Form(max_length=64)], back: ShortSaid = "") -> Response:
    """Take back a record that was a slip; it stays in the log, taken back."""
    found = {proof.key for proof in readiness_of(visit).standing}
    if key not in found:
        raise NotFoundError("that record, or it was taken back already")
    kept(visit, record("undo", "", undoes=key))
    return to_proof(visit, back if back in PAGES else "")


@router.post("/photos", name="add_proof_photo")
def add_photo(
    visit: Visiting,
    photo: UploadFile,
    kind: Annotated[ProofKind, Form()],
    item: ItemName = "",
    words: ShortSaid = "",
) -> Response:
    """Keep a picture: of what was seen under the loupe, of the hands at noon, of lume in the dark."""
    content = photo.file.read(photos.MOST_BYTES + 1)
    try:
        with transaction(visit.connection):
            number = add(visit, content, words or kind)
            if kind == "loupe" and item:
                kept(visit, record("loupe", item, "failed", words=words, photo=number))
    except SheetError as error:
        return shown(visit, kind if kind in PAGES else "loupe", f"{error} Nothing was changed.", 422)
    return to_proof(visit, kind if kind in PAGES else "", f"?picture={number}")


def add(visit: Visit, content: bytes, words: str) -> int:
    """Keep a picture of this watch's proofs. SheetError, and nothing kept, where it is none."""
    database = visit.request.app.state.database
    return photos.add_photo(visit.connection, database, "proof", visit.stored.id, content, words[:200])
