"""Work that takes more than a moment: done in a thread of its own, with a bar that shows how far it is."""

import logging
from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import count
from threading import Thread

from marquetry.core.values.errors import MarquetryError, NotFoundError

Progress = Callable[[int], None]
Task = Callable[[Progress], None]
log = logging.getLogger("marquetry")
MOST_KEPT = 50


@dataclass(slots=True)
class Work:
    """One piece of work; `goes_to` is the page to open once it is done."""

    title: str
    total: int
    goes_to: str
    done: int = 0
    finished: bool = False
    fault: str = ""

    @property
    def percent(self) -> int:
        """How far it is, never more than the whole."""
        return min(100, round(100 * self.done / self.total)) if self.total else 0

    def advance(self, done: int) -> None:
        """Note how far it is."""
        self.done = done


@dataclass(slots=True)
class Works:
    """All work since the program started; the oldest is forgotten."""

    held: dict[int, Work] = field(default_factory=dict)
    numbers: "count[int]" = field(default_factory=lambda: count(1))

    def start(self, work: Work, task: Task) -> int:
        """Begin the task in a thread and return the work's number."""
        number = next(self.numbers)
        self.held[number] = work
        for old in list(self.held)[:-MOST_KEPT]:
            del self.held[old]
        Thread(target=_run, args=(work, task), daemon=True).start()
        return number

    def work(self, number: int) -> Work:
        """One piece of work; NotFoundError where it was before the program started."""
        if number not in self.held:
            raise NotFoundError(f"work {number} in progress; the program was started since")
        return self.held[number]


def _run(work: Work, task: Task) -> None:
    try:
        task(work.advance)
    except MarquetryError as error:
        work.fault = f"{error} Nothing was changed."
    except Exception:  # whatever it is, the page that waits must be told
        log.exception("unforeseen error in “%s”", work.title)
        work.fault = "The program met something it did not expect. Nothing was changed."
    work.finished = True
