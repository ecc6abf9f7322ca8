"""What the workshop learned of all its watches; lessons noted, held, outgrown."""

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.values.errors import MarquetryError, NotFoundError, SheetError
from marquetry.store import lessons, watches
from marquetry.store.lessons import NewLesson, TurnWhat
from marquetry.store.sent_forms import once
from marquetry.web.site.addresses import addresses
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.sent import SentKey
from marquetry.web.site.today import today
from marquetry.web.story.lessons_view import lessons_page
from marquetry.web.story.workshop_view import record_page, worth_page
from marquetry.web.story.years_view import years_page

router = APIRouter(prefix="/workshop")


@router.get("/years", name="years")
def years(request: Request, connection: Connection) -> Response:
    """The workshop over the years: watches, hours, money, what came of them."""
    page = years_page(connection, request.app.state.reports, addresses(request.app))
    return render(request, "story/templates/years.html", {"page": page})


@router.get("/report", name="report_record")
def report_record(request: Request, connection: Connection) -> Response:
    """How good the report was: gaps, chances, times, money."""
    return render(request, "story/templates/record.html", {"page": record_page(connection)})


@router.get("/sellers", name="worth")
def worth(request: Request, connection: Connection) -> Response:
    """What sellers' figures are worth."""
    return render(request, "story/templates/worth.html", {"page": worth_page(connection)})


@router.get("/lessons", name="lessons")
def show_lessons(request: Request, connection: Connection, back: Annotated[int, Query(ge=0)] = 0) -> Response:
    """Every lesson, where it is shown, and what later builds said of it."""
    return render(request, "story/templates/lessons.html", {"page": lessons_page(connection, back)})


@router.post("/lessons", name="add_lesson")
def add_lesson(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    request: Request,
    connection: Connection,
    words: Annotated[str, Form(max_length=400)] = "",
    step: Annotated[str, Form(max_length=40)] = "",
    kind: Annotated[str, Form(max_length=40)] = "",
    school: Annotated[str, Form(max_length=80)] = "",
    watch: Annotated[str, Form(max_length=20)] = "",
    sent: SentKey = "",
) -> Response:
    """Keep a lesson by hand: at a step, of a kind of part, of a way of working, or several of these."""
    page = lessons_page(connection)
    known = (page.titles, page.kind_words, page.school_words)
    try:
        if not words.strip():
            raise SheetError("words", "the lesson, in a sentence")
        if not (step or kind or school):
            raise SheetError("words", "a step, a part or a way of working, so that it comes up again")
        if any(told and told not in there for told, there in zip((step, kind, school), known, strict=True)):
            raise NotFoundError("step, part or way of working of that name")
        number = watches.watch(connection, int(watch)).id if watch.isdecimal() else None
        new = NewLesson(step, words.strip(), today(), kind, None, school)
        with once(connection, sent, new, watch) as is_first:
            if is_first:
                lessons.add_lesson(connection, number, new)
    except MarquetryError as error:
        typed = {"words": words, "step": step, "kind": kind, "school": school, "watch": watch}
        page = lessons_page(connection, 0, {"words": f"{error} Nothing was changed."}, typed)
        return render(request, "story/templates/lessons.html", {"page": page}, 422)
    return _back(request)


@router.post("/lessons/{number}/turns", name="turn_lesson")
def turn(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    request: Request,
    connection: Connection,
    number: int,
    what: Annotated[TurnWhat, Form()],
    watch: Annotated[str, Form(max_length=20)] = "",
    words: Annotated[str, Form(max_length=400)] = "",
) -> Response:
    """It held again, or it is outgrown; or it is shown once more."""
    of = watches.watch(connection, int(watch)).id if watch.isdecimal() else None
    lessons.turn_lesson(connection, number, what, of, words.strip(), today())
    return _back(request, f"#lesson-{number}")


@router.post("/lessons/{number}/taken-back", name="withdraw_lesson")
def withdraw(request: Request, connection: Connection, number: int) -> Response:
    """Take a lesson back that was a slip."""
    lessons.withdraw_lesson(connection, number)
    return _back(request, f"?back={number}")


@router.post("/lessons/{number}/brought-back", name="restore_lesson")
def restore(request: Request, connection: Connection, number: int) -> Response:
    """Bring it back."""
    lessons.withdraw_lesson(connection, number, withdrawn=False)
    return _back(request, f"#lesson-{number}")


def _back(request: Request, where: str = "") -> Response:
    return RedirectResponse(f"{request.app.url_path_for('lessons')}{where}", status_code=303)
