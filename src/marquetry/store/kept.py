"""Answers worked out of a workshop's records, kept as long as those records stand as they stood.

What a page of all watches tells is mostly what it told a minute ago: of 150 watches one was touched since.
"""

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import TypeVar

Recalled = TypeVar("Recalled")
MOST_KEPT = 4096


class InMind:
    """Answers by what was asked and of which watch, each with the state it was worked out in.

    A whole program has one; a connection that is opened alone has its own, and keeps nothing for another.
    """

    def __init__(self) -> None:
        self._held: OrderedDict[tuple[str, int], tuple[object, object]] = OrderedDict()
        self._guard = Lock()

    def of(self, what: str, number: int, state: object, work: Callable[[], Recalled]) -> Recalled:
        """The answer of that name about a thing in this state; worked out where the state is another."""
        with self._guard:
            known = self._held.get((what, number))
        if known is not None and known[0] == state:
            return known[1]  # type: ignore[return-value]  # kept under this very name, by this very work
        answer = work()
        with self._guard:
            self._held[what, number] = (state, answer)
            self._held.move_to_end((what, number))
            while len(self._held) > MOST_KEPT:
                self._held.popitem(last=False)
        return answer
