"""Rehearsal: its page, plays begun from it or from a step of the bench, their moves."""

import secrets
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.rehearsal.exercise import PlayMove
from marquetry.core.rehearsal.exercises import exercise
from marquetry.core.rehearsal.pieces import piece
from marquetry.core.rehearsal.play import played
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import rehearsals, watches
from marquetry.store.database import transaction
from marquetry.store.house import rule_values
from marquetry.store.rehearsals import NewRehearsal
from marquetry.web.rehearsal.page import rehearsals_page, situation_of
from marquetry.web.rehearsal.plays import keep_play, play_of
from marquetry.web.rehearsal.view import PlayScreen, move_words
from marquetry.web.site.deps import Connection, Fragments
from marquetry.web.site.pages import render
from marquetry.web.site.today import today

router = APIRouter(prefix="/rehearsal")
SEEDS = 2**31
LookedAfter = Annotated[int | None, Query(alias="at", ge=0, le=400)]
"""After how many moves a play that is over is looked at; None for its end."""


def screen_of(connection: Connection, number: int) -> PlayScreen:
    """A rehearsal as far as its record goes."""
    stored = rehearsals.rehearsal(connection, number)
    return PlayScreen(stored, play_of(connection, stored))


def shown(request: Request, screen: PlayScreen, fragments: str = "", status: int = 200) -> Response:
    """The screen, as a page of its own or as what a move changed of it."""
    template = "_play" if fragments else "play"
    return render(request, f"rehearsal/templates/{template}.html", {"screen": screen}, status)


@router.get("", name="rehearsals")
def show_all(request: Request, connection: Connection, on: Annotated[int, Query(ge=0)] = 0) -> Response:
    """What is practised, and what is due."""
    page = rehearsals_page(
        connection, request.app.state.reports, rule_values(connection), today(), on or None
    )
    return render(request, "rehearsal/templates/rehearsals.html", {"page": page})


@router.post("/begin", name="begin_rehearsal")
def begin(
    request: Request,
    connection: Connection,
    key: Annotated[str, Form(max_length=40)],
    watch: Annotated[int, Form(ge=0)] = 0,
    step: Annotated[str, Form(pattern=r"^[a-z0-9_]{0,40}$")] = "",
) -> Response:
    """A play on a watch of one's own, or on one of the set; SheetError where that watch will not do."""
    one, house = exercise(key), rule_values(connection)
    build = piece(one.piece, connection.model.anatomy)
    if watch:
        stored = watches.watch(connection, watch)
        lacking = one.lacking(situation_of(connection, request.app.state.reports, house, stored))
        if lacking:
            raise SheetError(one.title, "another watch, or one of the set", lacking.rstrip("."))
        build = stored.build
    rules = connection.model.rules_of(build, house).raw
    new = NewRehearsal(key, build, rules, secrets.randbelow(SEEDS), today(), watch or None, step)
    number = rehearsals.begin(connection, new)
    return RedirectResponse(request.app.url_path_for("rehearsal", number=str(number)), 303)


@router.get("/{number}", name="rehearsal")
def show(request: Request, connection: Connection, number: int, after: LookedAfter = None) -> Response:
    """A play as it stands, or as it stood after so many moves."""
    screen = screen_of(connection, number)
    looked = None if after is None or screen.outcome is None else min(after, len(screen.whole.moves))
    return shown(request, PlayScreen(screen.stored, screen.whole, looked))


@router.get("/{number}/sure", name="sure_hand")
def show_sure(request: Request, connection: Connection, number: int, after: LookedAfter = None) -> Response:
    """The same watch in a sure hand, once one's own play is over."""
    screen = screen_of(connection, number)
    if screen.outcome is None:
        return RedirectResponse(request.app.url_path_for("rehearsal", number=str(number)), 303)
    sure = played(screen.whole.up_to(0), screen.exercise.sure)
    looked = None if after is None else min(after, len(sure.moves))
    return shown(request, PlayScreen(screen.stored, sure, looked, is_sure=True))


@router.post("/{number}/moves", name="rehearsal_move")
def move(  # noqa: PLR0913, PLR0917  # one argument a field of the form
    request: Request,
    connection: Connection,
    fragments: Fragments,
    number: int,
    place: Annotated[int, Form(ge=1, le=400)],
    what: Annotated[str, Form(max_length=40)],
    value: Annotated[str, Form(max_length=40)] = "",
    word: Annotated[str, Form(max_length=120)] = "",
) -> Response:
    """One move more, answered once it is on disk. One that was sent twice counts once."""
    screen = screen_of(connection, number)
    if place != screen.place or screen.outcome is not None:
        return answered(request, screen, fragments)
    try:
        made = PlayMove(what, parse_figure(what, value, "mm") if value else 0.0, word)
        after = screen.whole.after(made)
    except (SheetError, DimensionError) as error:
        return shown(request, PlayScreen(screen.stored, screen.whole, fault=str(error)), fragments, 422)
    with transaction(connection):
        is_kept = rehearsals.add_move(connection, number, place, made)
        if is_kept and after.outcome:
            rehearsals.end(connection, number, after.outcome, today())
    if is_kept:
        keep_play(connection, screen.stored, after)
    return answered(request, screen_of(connection, number), fragments)


def answered(request: Request, screen: PlayScreen, fragments: str) -> Response:
    """The screen for the page's own script; the way to it for a form that was sent without."""
    if fragments:
        return shown(request, screen, fragments)
    return RedirectResponse(request.app.url_path_for("rehearsal", number=str(screen.stored.id)), 303)


@router.post("/{number}/hint", name="rehearsal_hint")
def hint(request: Request, connection: Connection, fragments: Fragments, number: int) -> Response:
    """What a sure hand would do now; a play with help stays in its drawer."""
    screen = screen_of(connection, number)
    if screen.outcome is not None:
        return answered(request, screen, fragments)
    rehearsals.help_shown(connection, number)
    words = move_words(screen.whole.offers, screen.exercise.sure(screen.whole.now))
    stored = rehearsals.rehearsal(connection, number)
    return shown(request, PlayScreen(stored, screen.whole, hint=words), fragments)
