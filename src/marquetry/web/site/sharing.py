"""A workshop shared on the local network: nothing but the door itself answers without the passphrase."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from threading import BoundedSemaphore, Lock
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
from marquetry.web.site.sessions import COOKIE, LASTS_SECONDS, Throttle, new_session, session_of
from marquetry.web.site.streams import STREAM, Streams, until

router = APIRouter()
OPEN_TO_ALL = ("/enter", "/static/")
MOST_HASHED = 2
"""A hash takes a fifth of a second and 64 MB: no more of them at once than this machine has cores."""


class Asking:
    """Who is trying a phrase: one at a time of each address, two in all."""

    def __init__(self) -> None:
        self._by_address: dict[str, tuple[Lock, int]] = {}
        self._guard, self._in_all = Lock(), BoundedSemaphore(MOST_HASHED)

    @contextmanager
    def of(self, address: str) -> Iterator[None]:
        """While somebody at that address tries; those before them there are waited for first."""
        with self._guard:
            lock, count = self._by_address.get(address, (Lock(), 0))
            self._by_address[address] = (lock, count + 1)
        try:
            with lock, self._in_all:
                yield
        finally:
            with self._guard:
                lock, count = self._by_address.pop(address)
                if count > 1:
                    self._by_address[address] = (lock, count - 1)


@dataclass(slots=True)
class Sharing:
    """What a shared workshop goes by: its address, whether the line is encrypted, the phrase in force."""

    address: str
    is_encrypted: bool
    throttle: Throttle = field(default_factory=Throttle)
    asking: Asking = field(default_factory=Asking)
    kept: PhraseKept | None = None
    left: set[str] = field(default_factory=set)
    """Sessions that were left (`store/access.py`)."""
    streams: Streams = field(default_factory=Streams)

    def session(self, cookie: str) -> str | None:
        """The session of whoever has this cookie; None where they are not in."""
        found = None if self.kept is None else session_of(self.kept, cookie)
        return None if found in self.left else found


AT_HOME = Sharing("", is_encrypted=False)
"""A workshop that is not shared: there too whoever tries the old phrase again and again waits."""


class Doorkeeper:
    """Refuses every request without a session, but for the door; knows nothing of what lies behind it."""

    def __init__(self, app: ASGIApp, sharing: Sharing) -> None:
        self.app, self.sharing = app, sharing

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] == "lifespan" or _is_open(scope.get("path", "")):
            await self.app(scope, receive, send)
            return
        session = self._session(scope)
        if session is not None and scope.get("path", "").endswith(STREAM):
            with self.sharing.streams.of(session) as ended:
                # Asked again: it may have been left before the stream was there to be ended.
                if self._session(scope) is not None:
                    await until(ended, self.app, scope, receive, send)
                    return
        elif session is not None:
            await self.app(scope, receive, send)
            return
        if scope["type"] != "http":
            return
        if scope["method"] == "GET" and "text/html" in HTTPConnection(scope).headers.get("accept", ""):
            answer: Response = RedirectResponse("/enter", status_code=303)
        else:
            answer = PlainTextResponse("Give the passphrase first, at /enter.", status_code=401)
        await answer(scope, receive, send)

    def _session(self, scope: Scope) -> str | None:
        return self.sharing.session(HTTPConnection(scope).cookies.get(COOKIE, ""))


def _is_open(path: str) -> bool:
    return path == OPEN_TO_ALL[0] or path.startswith(OPEN_TO_ALL[1])


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
    wait, right = _tried(sharing, sharing.kept, request, phrase)
    if wait > 0:
        answer = _door(request, f"Too many wrong phrases. Wait {wait:.0f} s, then try again.", 429)
        answer.headers["Retry-After"] = f"{wait + 1:.0f}"
        return answer
    if not right:
        return _door(request, "That is not the passphrase.", 403)
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


def _tried(sharing: Sharing, kept: PhraseKept, request: Request, phrase: str) -> tuple[float, bool]:
    """Seconds that this address has to wait, or whether its phrase is the right one."""
    who = request.client.host if request.client else "unknown"
    # One at a time from one address: many at once must not go round the wait. Others do not wait for it.
    with sharing.asking.of(who):
        wait = sharing.throttle.wait(who)
        if wait > 0:
            return wait, False
        right = access.is_phrase(kept, phrase)
        sharing.throttle.passed(who) if right else sharing.throttle.failed(who)
        return 0.0, right


@router.post("/leave", name="leave")
def leave(request: Request, connection: Connection) -> Response:
    """Out again: the session ends here on the server, wherever its cookie may lie, and what it listens to."""
    sharing: Sharing | None = request.app.state.sharing
    session = sharing.session(request.cookies.get(COOKIE, "")) if sharing else None
    if sharing is not None and session is not None:
        access.note_left(connection, session)
        sharing.left.add(session)
        sharing.streams.end(session)
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


def _unknown(request: Request, connection: Connection, old: str) -> tuple[str, int]:
    """Why somebody may not change the phrase, and the status of that; nothing where they know the old one."""
    kept = access.phrase_kept(connection)
    if kept is None:
        return "", 200
    wait, right = _tried(request.app.state.sharing or AT_HOME, kept, request, old)
    if wait > 0:
        return f"Too many wrong phrases. Wait {wait:.0f} s, then try again. Nothing was changed.", 429
    return ("", 200) if right else ("That is not the passphrase until now. Nothing was changed.", 403)


@router.post("/sharing", name="change_phrase")
def change(
    request: Request,
    connection: Connection,
    phrase: Annotated[str, Form(max_length=400)],
    again: Annotated[str, Form(max_length=400)],
    old: Annotated[str, Form(max_length=400)] = "",
) -> Response:
    """Another passphrase, by whoever knows the old one: everybody has to give it, this device too."""
    fault, status = _unknown(request, connection, old)
    if fault:
        return _page(request, connection, fault, status)
    if phrase != again:
        return _page(request, connection, "The two are not the same. Nothing was changed.", 422)
    try:
        access.set_phrase(connection, phrase)
    except DimensionError as error:
        return _page(request, connection, f"{error} Nothing was changed.", 422)
    sharing: Sharing | None = request.app.state.sharing
    if sharing is not None:
        sharing.kept = access.phrase_kept(connection)
        sharing.left.clear()
        sharing.streams.end()
    return RedirectResponse(request.app.url_path_for("sharing"), status_code=303)
