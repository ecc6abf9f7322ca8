"""The log of a watch: read, filtered, searched, printed; notes by hand."""

from typing import Annotated

from fastapi import APIRouter, Form, Query, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.store import photos
from marquetry.store.sent_forms import once
from marquetry.store.story_notes import NoteKind, StoryNote, add_note, withdraw_note
from marquetry.web.site.pages import render
from marquetry.web.site.sent import SentKey
from marquetry.web.story.noted import noted_at
from marquetry.web.story.view import LogLook, log_page
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/story")


@router.get("", name="story")
def show(visit: Visiting, look: Annotated[LogLook, Query()]) -> Response:
    """Everything that happened to the watch, the newest first."""
    return render(visit.request, "story/templates/log.html", {"page": log_page(visit, look)})


@router.post("/notes", name="add_story_note")
def note(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    visit: Visiting,
    words: Annotated[str, Form(max_length=1000)] = "",
    kind: Annotated[NoteKind, Form()] = "note",
    about: Annotated[str, Form(max_length=40)] = "",
    at: Annotated[str, Form(max_length=40)] = "",
    photo: UploadFile | None = None,
    sent: SentKey = "",
) -> Response:
    """Note something by hand, with a picture or without."""
    try:
        if not words.strip():
            raise SheetError("words", "what happened, in a few words")
        if about and about not in visit.stored.build.parts:
            raise SheetError("about", "a part of this watch")
        new = StoryNote(words.strip(), kind, about, noted_at(at))
        with once(visit.connection, sent, visit.stored.id, new, photo and photo.size) as is_first:
            if is_first:
                _keep(visit, new, photo)
    except MarquetryError as error:
        faults = {getattr(error, "path", getattr(error, "field", "words")): f"{error} Nothing was changed."}
        typed = {"words": words, "kind": kind, "about": about, "at": at}
        page = log_page(visit, LogLook(), faults, typed)
        return render(visit.request, "story/templates/log.html", {"page": page}, 422)
    return to_story(visit)


def _keep(visit: Visit, new: StoryNote, photo: UploadFile | None) -> None:
    number = None
    content = photo.file.read(photos.MOST_BYTES + 1) if photo is not None and photo.filename else b""
    if content:
        database = visit.request.app.state.database
        caption = new.words[:200]
        number = photos.add_photo(visit.connection, database, "watch", visit.stored.id, content, caption)
    add_note(visit.connection, visit.stored.id, StoryNote(new.words, new.kind, new.about, new.at, number))


@router.post("/notes/{number}/taken-back", name="withdraw_story_note")
def take_back(visit: Visiting, number: int) -> Response:
    """Take a note by hand back."""
    withdraw_note(visit.connection, visit.stored.id, number)
    address = visit.request.app.url_path_for("story", watch_id=str(visit.stored.id))
    return RedirectResponse(f"{address}?back={number}", status_code=303)


@router.post("/notes/{number}/brought-back", name="restore_story_note")
def bring_back(visit: Visiting, number: int) -> Response:
    """Bring a note back that was taken back just now."""
    withdraw_note(visit.connection, visit.stored.id, number, withdrawn=False)
    return to_story(visit)


def to_story(visit: Visit, route: str = "story", where: str = "") -> Response:
    """To a page of this watch's story."""
    address = visit.request.app.url_path_for(route, watch_id=str(visit.stored.id))
    return RedirectResponse(f"{address}{where}", status_code=303)
