"""What pages listen to: the local end of a data cable, and what happens on the bench of a watch.

A real cable types as a keyboard and needs none of this; the stand-in has no keyboard, so pages listen here.
"""

import asyncio
from collections.abc import AsyncIterator

BREATH_SECONDS = 15.0
"""An idle stream says something this often, so that a page that went away is noticed."""
Listener = tuple[asyncio.AbstractEventLoop, asyncio.Queue[str]]


class Wedge:
    """Hands keys on to the pages that listen at this moment; nothing is kept for later ones."""

    def __init__(self) -> None:
        self._listeners: set[asyncio.Queue[str]] = set()

    def type(self, keys: str) -> int:
        """Send keys to every page that listens; return how many there are."""
        for listener in self._listeners:
            listener.put_nowait(keys)
        return len(self._listeners)

    async def listen(self) -> AsyncIterator[str]:
        """Server-sent events, one for each reading, until the page goes away."""
        queue: asyncio.Queue[str] = asyncio.Queue()
        self._listeners.add(queue)
        try:
            yield ": listening\n\n"
            while True:
                try:
                    keys = await asyncio.wait_for(queue.get(), BREATH_SECONDS)
                    yield f"event: keys\ndata: {keys.strip()}\n\n"
                except TimeoutError:
                    yield ": still here\n\n"
        finally:
            self._listeners.discard(queue)


class BenchLines:
    """Tells every page that shows a watch on the bench that something was entered there."""

    def __init__(self) -> None:
        self._listeners: dict[int, set[Listener]] = {}

    def tell(self, watch_id: int, words: str) -> None:
        """Send one line to the pages of a watch; from any thread."""
        for loop, queue in tuple(self._listeners.get(watch_id, ())):
            loop.call_soon_threadsafe(queue.put_nowait, words)

    async def listen(self, watch_id: int) -> AsyncIterator[str]:
        """Server-sent events of one watch, until the page goes away."""
        line: Listener = (asyncio.get_running_loop(), asyncio.Queue())
        self._listeners.setdefault(watch_id, set()).add(line)
        try:
            yield ": listening\n\n"
            while True:
                try:
                    words = await asyncio.wait_for(line[1].get(), BREATH_SECONDS)
                    yield f"event: bench\ndata: {words}\n\n"
                except TimeoutError:
                    yield ": still here\n\n"
        finally:
            self._listeners[watch_id].discard(line)
