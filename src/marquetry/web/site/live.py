"""The local end of a data cable: what is typed into it goes to every page that listens.

A real cable types as a keyboard and needs none of this; the stand-in has no keyboard, so pages listen here.
"""

import asyncio
from collections.abc import AsyncIterator

BREATH_SECONDS = 15.0
"""An idle stream says something this often, so that a page that went away is noticed."""


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
