"""The brief of a watch: wishes, pictures, the client's sheet and answer, the sign-off."""

from typing import Annotated

from fastapi import APIRouter, Form, Query, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.brief.answer import read_answer
from marquetry.core.brief.topics import LONGEST
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import briefs, photos
from marquetry.store.sent_forms import once
from marquetry.web.brief.forms import AnswerForm, SignForm, WishForm
from marquetry.web.brief.sheet import SHEET_POLICY, client_sheet
from marquetry.web.brief.view import RefusedWish, brief_page, letter_pieces, next_open, reply_lines
from marquetry.web.shelf.parts import MOST_READ
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.downloads import attachment
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/brief")


def _page(
    visit: Visit, refused: RefusedWish | None = None, picture_fault: str = "", opened: str = ""
) -> Response:
    page = brief_page(visit, refused, picture_fault, opened)
    status = 422 if refused or picture_fault else 200
    return render(visit.request, "brief/templates/brief.html", {"page": page}, status)


def _back(visit: Visit, anchor: str = "") -> Response:
    address = visit.request.app.url_path_for("brief", watch_id=str(visit.stored.id))
    return RedirectResponse(f"{address}{anchor}", status_code=303)


@router.get("", name="brief")
def show(visit: Visiting, opened: Annotated[str, Query(alias="open", max_length=40)] = "") -> Response:
    """What is wanted: settled, asked, open; one wish may be unfolded, ready to be typed into."""
    return _page(visit, opened=opened)


@router.post("/wishes", name="take_wish")
def take_wish(visit: Visiting, form: Annotated[WishForm, Form()]) -> Response:
    """Take a step on a wish; what cannot be is refused beside its field."""
    brief = briefs.brief_of(visit.connection, visit.stored.id)
    try:
        steps = form.steps(brief)
    except (DimensionError, SheetError) as error:
        return _page(visit, RefusedWish(form.topic, form.value, form.words, str(error)))
    with once(visit.connection, form.sent, visit.stored.id, form) as is_first:
        if is_first:
            briefs.take_steps(visit.connection, visit.stored.id, steps, form.seen)
    following = next_open(brief, form.topic) if form.act in {"propose", "settle"} else ""
    # No fragment beside it: where an address has one, a browser gives no field the cursor by itself.
    return _back(visit, f"?open={following}" if following else f"#wish-{form.topic}")


@router.post("/signed", name="sign_brief")
def sign(visit: Visiting, form: Annotated[SignForm, Form()]) -> Response:
    """Note the client's yes: this version is what was agreed to."""
    name = " ".join(form.name.split()) or "the client"
    with once(visit.connection, form.sent, visit.stored.id, form) as is_first:
        if is_first:
            briefs.sign(visit.connection, visit.stored.id, form.version, name, " ".join(form.words.split()))
    return _back(visit, "#signed")


@router.get("/sheet.html", name="client_sheet")
def sheet(visit: Visiting, save: Annotated[str, Query(max_length=10)] = "") -> Response:
    """The client's sheet: one file that needs nothing but a browser."""
    headers = {"Content-Security-Policy": f"{SHEET_POLICY}; frame-ancestors 'none'"}
    if save:
        headers |= attachment(visit.stored.build.name, "for-the-client.html")
    return Response(client_sheet(visit), media_type="text/html", headers=headers)


@router.post("/answer", name="read_client_answer")
def answer(visit: Visiting, form: Annotated[AnswerForm, Form()]) -> Response:
    """Show how the client's answer is understood; nothing is stored yet."""
    brief = briefs.brief_of(visit.connection, visit.stored.id)
    read = read_answer(form.text, today())
    context = {
        "watch": visit.stored,
        "way": visit.way("brief"),
        "answer": read,
        "text": form.text,
        "letter": letter_pieces(form.text, read),
        "seen": briefs.last_step(visit.connection, visit.stored.id),
        "lines": reply_lines(brief, read),
    }
    return render(visit.request, "brief/templates/answer.html", context)


@router.post("/answer/taken", name="take_client_answer")
def take_answer(visit: Visiting, form: Annotated[AnswerForm, Form()]) -> Response:
    """Take the answer as it was understood, all of it at once."""
    brief = briefs.brief_of(visit.connection, visit.stored.id)
    read = read_answer(form.text, today())
    steps = [line.step for line in reply_lines(brief, read) if line.step]
    if read.words:
        steps.append(brief.wish("other").propose(read.words[:LONGEST], "", "client"))
    with once(visit.connection, form.sent, visit.stored.id, form) as is_first:
        if is_first:
            briefs.take_steps(visit.connection, visit.stored.id, steps, form.seen)
    return _back(visit)


@router.post("/pictures", name="add_brief_picture")
def add_picture(
    visit: Visiting, photo: UploadFile, caption: Annotated[str, Form(max_length=200)] = ""
) -> Response:
    """Keep a picture for reference with what is liked in it; what is no picture changes nothing."""
    database = visit.request.app.state.database
    try:
        content = photo.file.read(MOST_READ)
        photos.add_photo(visit.connection, database, "watch", visit.stored.id, content, caption.strip())
    except SheetError as error:
        return _page(visit, picture_fault=f"{error} Nothing was changed.")
    return _back(visit, "#pictures")


@router.post("/pictures/{number}/removed", name="remove_brief_picture")
def remove_picture(visit: Visiting, number: int) -> Response:
    """Forget a picture."""
    photos.remove_photo(visit.connection, visit.request.app.state.database, "watch", visit.stored.id, number)
    return _back(visit, "#pictures")
