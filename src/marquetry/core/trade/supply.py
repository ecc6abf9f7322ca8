"""An order on its way: what was bought, what became of it, and in which state that leaves it."""

from collections import Counter
from dataclasses import dataclass
from decimal import Decimal
from enum import Enum
from functools import cached_property
from typing import Literal

from marquetry.core.trade.landed import Billed, OrderedLine
from marquetry.core.values.errors import TakenError

SupplyWhat = Literal["sent", "arrived", "faulty", "returned", "refunded", "lost", "called off"]


class SupplyState(Enum):
    """Where an order stands. The words are what a builder reads."""

    OPEN = "open"
    SENT = "sent"
    PART_ARRIVED = "part arrived"
    ARRIVED = "arrived"
    LOST = "lost"
    CALLED_OFF = "called off"

    @property
    def is_awaited(self) -> bool:
        """Whether something of it is still to come."""
        return self in {SupplyState.OPEN, SupplyState.SENT, SupplyState.PART_ARRIVED}


@dataclass(frozen=True, slots=True)
class SupplyLine:
    """A line of an order: a part of the catalogue or a sundry, by number, for a watch or for the shelf."""

    id: int
    name: str
    part_id: int | None
    sundry_id: int | None
    pieces: int
    price: Decimal
    watch_id: int | None = None


@dataclass(frozen=True, slots=True)
class SupplyStep:
    """What happened on a day to an order or to so many of a line; `minor` of its currency was refunded."""

    id: int
    what: SupplyWhat
    line_id: int | None
    pieces: int
    minor: int
    words: str
    day: str
    undoes: int | None = None


@dataclass(frozen=True)
class SupplyOrder:
    """An order with its lines and steps, the oldest first; steps that were taken back are marked as that."""

    id: int
    version: int
    supplier_id: int
    bill: Billed
    due: str
    at_worst: str
    notes: str
    lines: tuple[SupplyLine, ...]
    steps: tuple[SupplyStep, ...]

    @cached_property
    def valid_steps(self) -> tuple[SupplyStep, ...]:
        """The steps that hold: neither taken back nor taking one back."""
        undone = {step.undoes for step in self.steps}
        return tuple(step for step in self.steps if step.undoes is None and step.id not in undone)

    def count(self, line: SupplyLine, what: SupplyWhat) -> int:
        """How many pieces of a line that happened to."""
        return sum(s.pieces for s in self.valid_steps if s.line_id == line.id and s.what == what)

    def open_pieces(self, line: SupplyLine) -> int:
        """How many pieces of a line are still to come."""
        return line.pieces - self.count(line, "arrived") - self.count(line, "lost")

    @cached_property
    def state(self) -> SupplyState:
        """Where it stands, by its steps."""
        told = Counter(step.what for step in self.valid_steps)
        arrived = sum(self.count(line, "arrived") for line in self.lines)
        if told["called off"]:
            return SupplyState.CALLED_OFF
        if not any(self.open_pieces(line) for line in self.lines):
            return SupplyState.ARRIVED if arrived else SupplyState.LOST
        if arrived:
            return SupplyState.PART_ARRIVED
        return SupplyState.SENT if told["sent"] else SupplyState.OPEN

    @property
    def troubles(self) -> tuple[str, ...]:
        """What went wrong with it, with the number of pieces, where anything did."""
        counts: Counter[str] = Counter()
        for step in self.valid_steps:
            if step.what in {"faulty", "returned", "lost"}:
                counts[step.what] += step.pieces
        return tuple(f"{pieces} {what}" for what, pieces in counts.items())

    def is_late(self, today: str) -> bool:
        """Whether something of it is awaited that should be here."""
        return self.state.is_awaited and today > self.due

    def days_taken(self) -> str | None:
        """The day on which the last of it arrived, where all has."""
        days = [step.day for step in self.valid_steps if step.what == "arrived"]
        return max(days) if days and self.state is SupplyState.ARRIVED else None

    def line(self, number: int) -> SupplyLine:
        """The line of that number; TakenError where the order has none."""
        found = next((line for line in self.lines if line.id == number), None)
        if found is None:
            raise TakenError(f"This order has no line {number}. Nothing was changed.")
        return found

    def refuse(self, what: SupplyWhat, line: SupplyLine | None, pieces: int) -> None:
        """Raise TakenError where that cannot happen to so many pieces now."""
        if self.state is SupplyState.CALLED_OFF:
            raise TakenError("This order was called off. Nothing was changed.")
        if what in {"sent", "called off"}:
            if what == "called off" and self.state not in {SupplyState.OPEN, SupplyState.SENT}:
                raise TakenError("Some of it is here already; note the rest as lost. Nothing was changed.")
            return
        if line is None or pieces < 1:
            raise TakenError("Say of which line, and of how many pieces. Nothing was changed.")
        there = {
            "arrived": self.open_pieces(line),
            "lost": self.open_pieces(line),
            "faulty": self.count(line, "arrived") - self.count(line, "faulty"),
            "returned": self.count(line, "arrived") - self.count(line, "returned"),
            "refunded": self.count(line, "returned")
            + self.count(line, "lost")
            - self.count(line, "refunded"),
        }[what]
        if pieces > there:
            raise TakenError(f"{line.name}: {pieces} cannot be {what}, {there} at most. Nothing was changed.")


def billed_lines(lines: tuple[SupplyLine, ...]) -> tuple[OrderedLine, ...]:
    """The lines as they are billed."""
    return tuple(OrderedLine(line.name, line.pieces, line.price) for line in lines)
