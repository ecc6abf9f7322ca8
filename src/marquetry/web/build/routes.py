"""The page of Build, the screens of its steps, the entries they send, and the stream that they listen to."""

import uuid
from dataclasses import dataclass
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import JSONResponse, RedirectResponse, Response, StreamingResponse

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.run import Run
from marquetry.core.trade.ledger import pay
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.core.values.figures import entered
from marquetry.store import bench_log, bookings, made, photos, rehearsals, terms_of_trade, watches
from marquetry.store.bookings import NewBooking
from marquetry.store.database import transaction
from marquetry.store.lessons import shown_lessons
from marquetry.web.build.bench_run import now_ms, proved, run_of
from marquetry.web.build.forms import STEP, SentEntries, TapForm
from marquetry.web.build.screen import SKIP_REASONS, Around, Screen, screens_of
from marquetry.web.build.side_view import side_view
from marquetry.web.build.state import state_document
from marquetry.web.build.stem_screen import STEM_SCHOOL
from marquetry.web.build.taking import Taking, take
from marquetry.web.build.view import BY_THE_CLOCK, build_page, unbooked_minutes
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/build")


def screens(visit: Visit, run: Run) -> dict[str, Screen]:
    """Every screen of the watch."""
    connection, watch = visit.connection, visit.stored.id
    around = Around(
        shown_lessons(connection),
        photos.photos_of(connection, "bench", watch),
        made.versions_of(connection, watch),
        bench_log.settings(connection),
        proved(visit, run),
        rehearsals.last_plays(connection),
        terms_of_trade.lacking_tools(connection),
    )
    return screens_of(run, around)


@dataclass(frozen=True, slots=True)
class NotKept:
    """Why what was typed is not kept, and what it was: it stays in its field; `asks` where it needs a yes."""

    words: str = ""
    what: str = ""
    value: str = ""
    turns: str = ""
    pitch: str = ""
    asks: bool = False


ALL_KEPT = NotKept()


def shown(visit: Visit, run: Run, step: str, not_kept: NotKept = ALL_KEPT) -> Response:
    """One screen, as a page of its own or as what changed of it."""
    screen = screens(visit, run).get(step)
    if screen is None:
        raise NotFoundError(f"step “{step[:40]}” of this watch")
    template = "_screen" if visit.fragments else "step"
    context = {
        "screen": screen,
        "watch": visit.stored,
        "run": run,
        "typed": not_kept,
        "reasons": SKIP_REASONS,
    }
    status = 422 if not_kept.words else 200
    return render(visit.request, f"build/templates/{template}.html", context, status)


def to_step(visit: Visit, step: str) -> Response:
    """To a step's screen; to the list where there is none to go to."""
    links, watch = visit.request.app, str(visit.stored.id)
    address = (
        links.url_path_for("build_step", watch_id=watch, step=step)
        if step
        else links.url_path_for("build", watch_id=watch)
    )
    return RedirectResponse(address, status_code=303)


def told(visit: Visit, taking: Taking) -> None:
    """Tell the other screens of this watch."""
    if taking.kept:
        words = "measured" if taking.is_measured else "entered"
        visit.request.app.state.bench_lines.tell(visit.stored.id, words)


@router.get("", name="build")
def show(visit: Visiting) -> Response:
    """Where the watch stands, and what it takes from here."""
    return render(visit.request, "build/templates/build.html", {"page": build_page(visit)})


@router.get("/sheet", name="build_sheet")
def sheet(visit: Visiting) -> Response:
    """All steps as a work sheet with boxes, to be printed."""
    return render(visit.request, "build/templates/sheet.html", {"page": build_page(visit)})


@router.get("/at/{step}", name="build_step")
def show_step(visit: Visiting, step: str) -> Response:
    """One step, readable at arm's length."""
    return shown(visit, run_of(visit), step)


@router.get("/at/{step}/picture/{number}", name="side_view")
def show_picture(visit: Visiting, step: str, number: int) -> Response:
    """A hand's height read in a photograph of its step."""
    run = run_of(visit)
    found = run.procedure.by_id.get(step)
    taken = {photo.id: photo for photo in photos.photos_of(visit.connection, "bench", visit.stored.id)}
    if found is None or not found.step.hand or number not in taken:
        raise NotFoundError(f"photograph {number} of a hand at this step")
    query = visit.request.query_params
    sent = {key: query.getlist(key) for key in query}
    shim = run.procedure.situation.shims.get(found.step.hand)
    usual = "" if shim is None else entered(round(shim, 2))
    view = side_view(taken[number], step, found.step.hand, usual, sent)
    return render(visit.request, "build/templates/side_view.html", {"view": view, "watch": visit.stored})


@router.get("/screens", name="build_screens")
def show_screens(visit: Visiting) -> Response:
    """Every screen at once, so that a tablet goes on where the line does not reach."""
    context = {
        "screens": screens(visit, run_of(visit)), "watch": visit.stored, "reasons": SKIP_REASONS,
        "typed": ALL_KEPT,
    }  # fmt: skip
    return render(visit.request, "build/templates/_screens.html", context)


@router.get("/state.json", name="build_state")
def state(visit: Visiting) -> Response:
    """Where every step stands."""
    return JSONResponse(state_document(run_of(visit)))


@router.get("/stream", name="build_stream")
async def stream(visit: Visiting) -> Response:
    """A line for each entry, from whichever device."""
    lines = visit.request.app.state.bench_lines
    return StreamingResponse(lines.listen(visit.stored.id), media_type="text/event-stream")


@router.post("/entries", name="build_entries")
def send(visit: Visiting, sent: SentEntries) -> Response:
    """Entries of a screen; answered once they are on disk. Those that cannot be are told by their keys."""
    taking = take(visit, sent)
    told(visit, taking)
    answer = {
        "kept": [key for entry in sent.entries if (key := str(entry.get("key"))) not in taking.refused],
        "refused": taking.refused,
        "asked": taking.asked,
        "measured": taking.is_measured,
        "state": state_document(taking.run),
    }
    return JSONResponse(answer)


@router.post("/taps", name="build_tap")
def tap(visit: Visiting, form: Annotated[TapForm, Form()]) -> Response:
    """The same for a form that is sent without the page's script."""
    what, step = form.what, form.step
    taking = take(visit, SentEntries(entries=[{"key": uuid.uuid4().hex, **form.model_dump()}]))
    told(visit, taking)
    if taking.refused:
        why = next(iter(taking.refused.values()))
        typed = NotKept(why, what, form.value, form.turns, form.pitch, asks=bool(taking.asked))
        return shown(visit, taking.run, step or taking.run.here, typed)
    if what == "no":
        mishap = visit.request.app.url_path_for("mishap", watch_id=str(visit.stored.id))
        return RedirectResponse(f"{mishap}?{urlencode({'step': step})}", status_code=303)
    stays = what in {"gap", "length", "cut", "file", "height", "note", "undo", "open"}
    return to_step(visit, step if stays and step else taking.run.here)


@router.post("/photos", name="add_build_photo")
def add_photo(
    visit: Visiting,
    photo: UploadFile,
    step: Annotated[str, Form(pattern=STEP)],
    caption: Annotated[str, Form(max_length=200)] = "",
) -> Response:
    """Keep a picture of a step, from a tablet's camera or a file; what is no picture changes nothing."""
    run, content = run_of(visit), photo.file.read(photos.MOST_BYTES + 1)
    found = run.procedure.by_id.get(step)
    if found is None:
        raise NotFoundError(f"step “{step}” of this watch")
    try:
        with transaction(visit.connection):
            database = visit.request.app.state.database
            words = caption or found.title
            number = photos.add_photo(visit.connection, database, "bench", visit.stored.id, content, words)
            entry = LogEntry(uuid.uuid4().hex, step, "photo", now_ms(), float(number), words=words)
            bench_log.add_entries(visit.connection, visit.stored.id, [entry])
    except SheetError as error:
        return shown(visit, run, step, NotKept(f"{error} Nothing was changed."))
    visit.request.app.state.bench_lines.tell(visit.stored.id, "measured")
    return to_step(visit, step)


@router.post("/hours", name="book_bench_hours")
def book_hours(visit: Visiting) -> Response:
    """Book what the clock counted and nobody booked yet, at the bench's pay."""
    minutes = unbooked_minutes(visit, run_of(visit))
    if minutes:
        cost = pay(minutes, terms_of_trade.trade_terms(visit.connection).pay("bench"))
        new = NewBooking("hours", BY_THE_CLOCK, cost, today(), minutes)
        bookings.book(visit.connection, visit.stored.id, new)
    return RedirectResponse(visit.request.app.url_path_for("money", watch_id=str(visit.stored.id)), 303)


@router.post("/settings", name="set_build")
def settings(
    visit: Visiting,
    key: Annotated[str, Form(pattern="^(guided|sounds)$")],
    value: Annotated[bool, Form()],
    step: Annotated[str, Form(pattern=STEP)] = "",
) -> Response:
    """Whether screens guide, whether timers sound."""
    bench_log.set_setting(visit.connection, key, value)
    return to_step(visit, step)


@router.post("/stem-school", name="set_stem_school")
def set_stem_school(
    visit: Visiting,
    school: Annotated[str, Form(pattern="^(once|creep)$")],
    step: Annotated[str, Form(pattern=STEP)] = "",
) -> Response:
    """Cut this watch's stem all at once, or creep up on it: its own rule, which the house's stays beside."""
    stored, build = visit.stored, visit.stored.build
    made = build.with_rules({**build.rules, STEM_SCHOOL: school})
    if made != build:
        watches.save(visit.connection, stored.id, stored.version, made, f"stem cut: {school}")
    visit.request.app.state.bench_lines.tell(stored.id, "measured")
    return to_step(visit, step)


@router.post("/stands", name="build_stands")
def stands(visit: Visiting) -> Response:
    """Steps that opened again, by another part or another way, stand as they are: all answered anew."""
    run = run_of(visit)
    sent = [
        {"key": uuid.uuid4().hex, "step": stand.step.id, "what": "yes" if stand.step.is_gate else "done",
         "words": "stands as it is"}
        for stand in run.may_stand
    ]  # fmt: skip
    told(visit, take(visit, SentEntries(entries=sent)))
    return to_step(visit, "")
