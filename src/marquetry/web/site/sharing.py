"""A workshop shared on the local network: nothing but the door itself answers without the passphrase."""

from dataclasses import dataclass, field
from threading import Lock
from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.requests import HTTPConnection
from starlette.responses import PlainTextResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from marquetry.core.values.errors import DimensionError
from marquetry.drawing.trade.label_code import label_code
from marquetry.store import access
from marquetry.store.access import PhraseKept
from marquetry.web.site.deps import Connection
from marquetry.web.site.pages import render
from marquetry.web.site.sessions import COOKIE, LASTS_SECONDS, Throttle, is_session, new_session

router = APIRouter()
OPEN_TO_ALL = ("/enter", "/static/")


@dataclass(slots=True)
class Sharing:
    """What a shared workshop goes by: its address, whether the line is encrypted, the phrase in force."""

    address: str
    is_encrypted: bool
    throttle: Throttle = field(default_factory=Throttle)
    asking: Lock = field(default_factory=Lock)
    kept: PhraseKept | None = None

    def lets_in(self, cookie: str) -> bool:
        """Whether whoever has this cookie is in."""
        return self.kept is not None and is_session(self.kept, cookie)


class Doorkeeper:
    """Refuses every request without a session, but for the door; knows nothing of what lies behind it."""

    def __init__(self, app: ASGIApp, sharing: Sharing) -> None:
        self.app, self.sharing = app, sharing

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] == "lifespan" or self._may(scope):
            await self.app(scope, receive, send)
            return
        if scope["type"] != "http":
            return
        if scope["method"] == "GET" and "text/html" in HTTPConnection(scope).headers.get("accept", ""):
            answer: Response = RedirectResponse("/enter", status_code=303)
        else:
            answer = PlainTextResponse("Give the passphrase first, at /enter.", status_code=401)
        await answer(scope, receive, send)

    def _may(self, scope: Scope) -> bool:
        path = scope.get("path", "")
        if path == OPEN_TO_ALL[0] or path.startswith(OPEN_TO_ALL[1]):
            return True
        return self.sharing.lets_in(HTTPConnection(scope).cookies.get(COOKIE, ""))


def _door(request: Request, fault: str = "", status: int = 200) -> Response:
    sharing: Sharing | None = request.app.state.sharing
    context = {"fault": fault, "is_encrypted": sharing is not None and sharing.is_encrypted}
    return render(request, "site/templates/enter.html", context, status)


@router.get("/enter", name="enter")
def door(request: Request) -> Response:
    """The door: what is asked, and what the line protects."""
    return _door(request) if request.app.state.sharing else RedirectResponse("/", status_code=303)


@router.post("/enter", name="come_in")
def come_in(request: Request, phrase: Annotated[str, Form(max_length=400)] = "") -> Response:
    """In with the right phrase; a wrong one waits longer each time."""
    sharing: Sharing | None = request.app.state.sharing
    if sharing is None or sharing.kept is None:
        return RedirectResponse("/", status_code=303)
    who = request.client.host if request.client else "unknown"
    # One at a time: a hash takes a fifth of a second and 64 MB, and many at once must not go round the wait.
    with sharing.asking:
        wait = sharing.throttle.wait(who)
        if wait > 0:
            answer = _door(request, f"Too many wrong phrases. Wait {wait:.0f} s, then try again.", 429)
            answer.headers["Retry-After"] = f"{wait + 1:.0f}"
            return answer
        if not access.is_phrase(sharing.kept, phrase):
            sharing.throttle.failed(who)
            return _door(request, "That is not the passphrase.", 403)
        sharing.throttle.passed(who)
    answer = RedirectResponse("/", status_code=303)
    answer.set_cookie(
        COOKIE,
        new_session(sharing.kept),
        max_age=LASTS_SECONDS,
        httponly=True,
        samesite="strict",
        secure=sharing.is_encrypted,
    )
    return answer


@router.post("/leave", name="leave")
def leave(request: Request) -> Response:
    """Out again, on this device."""
    answer = RedirectResponse(request.app.url_path_for("sharing"), status_code=303)
    answer.delete_cookie(COOKIE)
    return answer


def _page(request: Request, connection: Connection, fault: str = "", status: int = 200) -> Response:
    sharing: Sharing | None = request.app.state.sharing
    code = label_code(sharing.address, "this workshop's address") if sharing else None
    kept = access.phrase_kept(connection)
    context = {"sharing": sharing, "code": code, "kept": kept, "fault": fault}
    return render(request, "site/templates/sharing.html", context, status)


@router.get("/sharing", name="sharing")
def show(request: Request, connection: Connection) -> Response:
    """Where a tablet finds this workshop, what protects it, and how the phrase is changed."""
    return _page(request, connection)


@router.post("/sharing", name="change_phrase")
def change(
    request: Request,
    connection: Connection,
    phrase: Annotated[str, Form(max_length=400)],
    again: Annotated[str, Form(max_length=400)],
) -> Response:
    """Another passphrase: everybody has to give it, this device too."""
    if phrase != again:
        return _page(request, connection, "The two are not the same. Nothing was changed.", 422)
    try:
        access.set_phrase(connection, phrase)
    except DimensionError as error:
        return _page(request, connection, f"{error} Nothing was changed.", 422)
    if request.app.state.sharing is not None:
        request.app.state.sharing.kept = access.phrase_kept(connection)
    return RedirectResponse(request.app.url_path_for("sharing"), status_code=303)
