"""Streams that a session listens to: they end with it, at once and whoever ends it."""

import asyncio
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from threading import Lock

from starlette.types import ASGIApp, Message, Receive, Scope, Send

STREAM = "/stream"
"""How the address of every stream ends."""
Ending = tuple[asyncio.AbstractEventLoop, asyncio.Event]


@dataclass(slots=True)
class Streams:
    """The streams that are open, by session."""

    open: dict[str, set[Ending]] = field(default_factory=dict)
    guard: Lock = field(default_factory=Lock)

    @contextmanager
    def of(self, session: str) -> Iterator[asyncio.Event]:
        """While a stream of that session is open: what is set once it has to end."""
        ending = asyncio.get_running_loop(), asyncio.Event()
        with self.guard:
            self.open.setdefault(session, set()).add(ending)
        try:
            yield ending[1]
        finally:
            with self.guard:
                self.open[session].discard(ending)
                if not self.open[session]:
                    del self.open[session]

    def end(self, session: str | None = None) -> None:
        """End the streams of a session, or of all; from any thread."""
        with self.guard:
            held = [self.open.get(session, set())] if session else list(self.open.values())
            for loop, event in (ending for endings in held for ending in endings):
                loop.call_soon_threadsafe(event.set)


async def until(event: asyncio.Event, app: ASGIApp, scope: Scope, receive: Receive, send: Send) -> None:
    """Serve a stream until it ends by itself or the event is set; then its answer is brought to its end."""
    begun = False

    async def noted(message: Message) -> None:
        nonlocal begun
        begun = begun or message["type"] == "http.response.start"
        await send(message)

    serving = asyncio.ensure_future(app(scope, receive, noted))
    ending = asyncio.ensure_future(event.wait())
    try:
        await asyncio.wait({serving, ending}, return_when=asyncio.FIRST_COMPLETED)
        if serving.done():
            await serving
            return
        serving.cancel()
        with suppress(asyncio.CancelledError):
            await serving
        if begun:
            await send({"type": "http.response.body", "body": b"", "more_body": False})
    finally:
        serving.cancel()
        ending.cancel()
