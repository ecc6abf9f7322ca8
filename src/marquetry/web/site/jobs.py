"""Work that takes more than a moment: in a thread of its own, looked at while it goes on, few at a time."""

import logging
from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import count
from threading import Lock, Thread
from typing import Generic, Protocol, TypeVar

from marquetry.core.values.errors import BusyError, MarquetryError, NotFoundError
from marquetry.store.progress import Progress

Task = Callable[[Progress], None]
log = logging.getLogger("marquetry")
MOST_KEPT = 40
MOST_RUNNING = 2
"""A machine of two cores still answers pages beside so many."""


class Job(Protocol):
    """Something long: `finished` once it is over, `stop` asks it to be."""

    finished: bool

    def run(self) -> None:
        """Do it, from beginning to end; nothing may be raised."""

    def stop(self) -> None:
        """Ask it to end soon."""


AnyJob = TypeVar("AnyJob", bound=Job)


@dataclass(slots=True)
class Jobs(Generic[AnyJob]):
    """The latest jobs of a kind by number; the oldest is stopped and forgotten."""

    what: str
    held: dict[int, AnyJob] = field(default_factory=dict)
    numbers: "count[int]" = field(default_factory=lambda: count(1))
    guard: Lock = field(default_factory=Lock)

    def start(self, job: AnyJob) -> int:
        """Begin a job in a thread and return its number. BusyError where enough of them are running."""
        with self.guard:
            if sum(not other.finished for other in self.held.values()) >= MOST_RUNNING:
                raise BusyError(f"{MOST_RUNNING} {self.what} are going on already")
            number = next(self.numbers)
            self.held[number] = job
            for old in list(self.held)[:-MOST_KEPT]:
                self.held.pop(old).stop()
        Thread(target=job.run, daemon=True).start()
        return number

    def job(self, number: int) -> AnyJob:
        """One job; NotFoundError where it was before the program started, or long ago."""
        if number not in self.held:
            raise NotFoundError(f"number {number} among the {self.what}; the program was started since")
        return self.held[number]


@dataclass(slots=True)
class Work:
    """One piece of work with a bar; `goes_to` is the page to open once it is done."""

    title: str
    total: int
    goes_to: str
    task: Task
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

    def run(self) -> None:
        """Do the task; whatever it meets, the page that waits is told."""
        try:
            self.task(self.advance)
        except MarquetryError as error:
            self.fault = f"{error} Nothing was changed."
        except Exception:  # whatever it is, the page that waits must be told
            log.exception("unforeseen error in “%s”", self.title)
            self.fault = "The program met something it did not expect. Nothing was changed."
        finally:
            self.finished = True

    def stop(self) -> None:
        """Work on the shelf is done to its end; only the record of it goes."""
