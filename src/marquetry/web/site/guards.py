"""What every request passes: a limit on its size, a check of where it comes from, and strict headers."""

import asyncio
import re
from dataclasses import dataclass
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from marquetry.formats import build_sheet, pressure_csv, seller_mail, shelf_csv
from marquetry.store import archive, photos

MOST_DRAINED = 100_000_000
SLOWEST_SECONDS = 30.0
"""Between two pieces of one request's body; whoever takes longer is not on this machine."""
CHARSET = re.compile(r"charset=\"?([\w.:+-]*)", re.IGNORECASE)
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
    "Cross-Origin-Resource-Policy": "same-origin",
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


CONTROL = re.compile(r"[\x00-\x1f\x7f]")


class PlainPath:
    """Nothing is at an address with a line break or another control character in it.

    Patterns of addresses stop at a line's end: `/orders` and a line break would be taken for `/orders`.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] == "http" and CONTROL.search(scope["path"]):
            answer = PlainTextResponse("There is nothing at this address.", status_code=404)
            await answer(scope, receive, send)
            return
        await self.app(scope, receive, send)


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
    try:
        return urlsplit(origin).netloc == headers.get("host")
    except ValueError:  # an origin such as http://[ is nobody's
        return False


class BodyLimit:
    """Refuses a body larger than what its address takes, whatever its length claims; nothing is held here.

    A moderately oversized body is read to its end and thrown away: a browser shows the answer only then.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http" or scope["method"] not in UNSAFE:
            await self.app(scope, receive, send)
            return
        if not _is_readable(Headers(scope=scope)):
            words = "The form's letters are in a code this program does not know; UTF-8 is expected."
            await PlainTextResponse(words, status_code=415)(scope, receive, send)
            return
        limit = limit_of(scope["path"])
        size, more = 0, True

        async def counted() -> Message:
            nonlocal size, more
            try:
                message = await asyncio.wait_for(receive(), SLOWEST_SECONDS)
            except TimeoutError:
                raise HTTPException(408, "The request came too slowly.") from None
            size += len(message.get("body", b""))
            more = message.get("more_body", False)
            if size <= limit.most:
                return message
            while more and size <= limit.most + MOST_DRAINED:
                rest = await receive()
                size += len(rest.get("body", b""))
                more = rest.get("more_body", False)
            raise HTTPException(413, limit.told(size))

        await self.app(scope, counted, send)


def _is_readable(headers: Headers) -> bool:
    """Whether a form's letters are in UTF-8 or ASCII, where it names a code at all."""
    named = CHARSET.search(headers.get("content-type", ""))
    return named is None or named[1].lower() in {"utf-8", "utf8", "us-ascii", "ascii"}


@dataclass(frozen=True, slots=True)
class Limit:
    """How much an address takes, and what for."""

    address: re.Pattern[str]
    most: int
    what: str

    def told(self, size: int) -> str:
        """The refusal in words."""
        return (
            f"That is {size / 1e6:.0f} MB. {self.what} has at most {self.most / 1e6:.0f} MB; "
            "please choose the file again. Nothing was changed."
        )


MOST_SOUND = 240_000_000
"""Ten minutes of 48 kHz float with two channels."""
MOST_SERIES = 3 * pressure_csv.MOST_BYTES
"""A series typed into a form is spelled longer there."""
FORM_AROUND = 100_000
"""What a form needs besides its file."""
LIMITS = (
    Limit(
        re.compile(r"/(watches/\d+|parts/\d+|shelf)/listing/file"),
        seller_mail.MOST_BYTES + FORM_AROUND,
        "A mail",
    ),
    Limit(re.compile(r"/shelf/imports"), shelf_csv.MOST_BYTES + FORM_AROUND, "A file of parts"),
    Limit(re.compile(r"/workshop"), archive.MOST_BYTES + FORM_AROUND, "A workshop"),
    Limit(re.compile(r"/parts/\d+/photos"), photos.MOST_BYTES + FORM_AROUND, "A photograph"),
    Limit(re.compile(r"/watches/\d+/prove/sound/(hear|keep)"), MOST_SOUND + FORM_AROUND, "A recording"),
    Limit(re.compile(r"/watches/\d+/prove/dry/(look|keep)"), MOST_SERIES + FORM_AROUND, "A series"),
    Limit(
        re.compile(
            r"/watches/\d+/(brief/pictures|make/(versions|trials)/\d+/photos|build/photos|prove/(photos|wet))"
        ),
        photos.MOST_BYTES + FORM_AROUND,
        "A photograph",
    ),
    Limit(re.compile(r".*", re.DOTALL), build_sheet.MOST_BYTES + FORM_AROUND, "A build sheet"),
)


def limit_of(path: str) -> Limit:
    """The limit of an address."""
    return next(limit for limit in LIMITS if limit.address.fullmatch(path))
