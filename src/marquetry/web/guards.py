"""What every request passes: a limit on its size, a check of where it comes from, and strict headers."""

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from marquetry.formats.build_sheet import MOST_BYTES

MOST_BODY = MOST_BYTES + 100_000
MOST_DRAINED = 100_000_000
UNSAFE = {"POST", "PUT", "PATCH", "DELETE"}
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


class SecurityHeaders:
    """Sets the headers that keep a page to what ships with it; a route may bring its own policy."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
                if scope["path"].startswith("/static/"):
                    lasting = b"v=" in scope["query_string"]
                    headers["Cache-Control"] = "max-age=31536000, immutable" if lasting else "no-cache"
                else:
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        await self.app(scope, receive, send_with_headers if scope["type"] == "http" else send)


class OriginGuard:
    """Refuses a changing request that another site's page sent."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] == "http" and scope["method"] in UNSAFE and not _is_own(Headers(scope=scope)):
            words = "This request came from another site's page and was refused. Nothing was changed."
            await PlainTextResponse(words, status_code=403)(scope, receive, send)
            return
        await self.app(scope, receive, send)


def _is_own(headers: Headers) -> bool:
    origin = headers.get("origin")
    if origin is None:
        return headers.get("sec-fetch-site", "none") in {"none", "same-origin"}
    return urlsplit(origin).netloc == headers.get("host")


class BodyLimit:
    """Refuses a body larger than any form of ours, whatever its length claims.

    A moderately oversized body is read to its end and thrown away: a browser shows the answer only then.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http" or scope["method"] not in UNSAFE:
            await self.app(scope, receive, send)
            return
        body, size, more = bytearray(), 0, True
        while more and size <= MOST_DRAINED:
            message = await receive()
            if message["type"] == "http.disconnect":
                return
            chunk = message.get("body", b"")
            size += len(chunk)
            more = message.get("more_body", False)
            if size <= MOST_BODY:
                body += chunk
        if size > MOST_BODY:
            await _too_large(size)(scope, receive, send)
            return
        await self.app(scope, _replay(bytes(body), receive), send)


def _too_large(size: int) -> Response:
    words = (
        f"That is {size / 1e6:.0f} MB. A build sheet has at most {MOST_BYTES / 1e6:.0f} MB; "
        "please choose the file again. Nothing was changed."
    )
    return PlainTextResponse(words, status_code=413)


def _replay(body: bytes, receive: Receive) -> Receive:
    """A receiver that gives the body that was read, then whatever comes after it."""
    given = False

    async def replayed() -> Message:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return replayed
