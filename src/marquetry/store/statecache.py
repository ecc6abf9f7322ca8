"""Answers kept between requests: each as long as all that it hangs on stands, and not a moment longer.

An answer is a function of what it is given and of the rows it reads. What it is given is its key; what it
reads is recorded by the connection while it is worked out (`recording.py`), never declared by whoever asks.
It counts while the counters of the tables that it read stand, and where they moved, while every question
that it put to the database is still answered alike: a tap at one watch's bench forgets no other's.

Left out on purpose: a time to live (what is shown would not be what is on disk), and anything kept of an
open transaction (what is written there may be taken back, and its counters with it).
"""

import gc
import sqlite3
import sys
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import dataclass, fields, is_dataclass
from decimal import Decimal
from functools import singledispatch
from threading import Lock
from types import BuiltinFunctionType, FunctionType, ModuleType
from typing import TYPE_CHECKING, Concatenate, ParamSpec, TypeVar, cast

from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.sellers import SellersWorth
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.kind import Kind
from marquetry.store.recording import Enquiry

if TYPE_CHECKING:  # a connection knows what is kept of its database
    from marquetry.store.database import Connection

Given = ParamSpec("Given")
WorkedOut = TypeVar("WorkedOut")
CacheKey = tuple[Hashable, ...]
WEIGHED_FIRST, WEIGHED_EVERY = 4, 16
"""Of answers of one kind the first few are weighed, then one in so many; others as the heaviest so far."""
MOST_BYTES = 200_000_000
"""Twice what the reports, sheets and drawings of 150 watches weigh."""


@dataclass(slots=True)
class _Held:
    """An answer with what it weighs, what it asked of the database, and the counters it was right at."""

    answer: object
    weight: int
    asked: tuple[Enquiry, ...] = ()
    changes: Mapping[str, int] | None = None


class StateCache:
    """What one program keeps in mind of one workshop: locked, bounded in bytes, keyed by what was given.

    `most_bytes` is what all answers together may weigh; those asked for longest ago go first.
    """

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._held: OrderedDict[CacheKey, _Held] = OrderedDict()
        self._most, self._bytes = most_bytes, 0
        self._weighed: dict[Hashable, tuple[int, int]] = {}
        self._guard = Lock()

    @property
    def weight(self) -> int:
        """What all that is kept weighs, bytes; what two answers share counts twice."""
        return self._bytes

    def pure(self, work: Callable[Given, WorkedOut], *given: Given.args, **named: Given.kwargs) -> WorkedOut:
        """What `work` makes of what it is given; it must ask nothing else, no database and no clock."""
        key = self.key(work, *given, *named.values())
        known = self.find(key)
        if known is None:
            known = work(*given, **named)
            self.keep(key, known)
        return cast("WorkedOut", known)

    def of(
        self,
        connection: "Connection",
        work: Callable[Concatenate["Connection", Given], WorkedOut],
        *given: Given.args,
        **named: Given.kwargs,
    ) -> WorkedOut:
        """What `work` makes of the database and of what it is given; it must ask no clock and no file.

        Within a transaction it is worked out anew, and nothing is kept.
        """
        if connection.in_transaction:
            return work(connection, *given, **named)
        key, now = self.key(work, *given, *named.values()), connection.changes()
        with self._guard:
            known = self._held.get(key)
        if known is not None and self._stands(connection, known, now):
            connection.note(known.asked)
            self._touch(key)
            return cast("WorkedOut", known.answer)
        with connection.recording() as asked:
            answer = work(connection, *given, **named)
        # A commit in between may have shown it one table as it was and another as it is.
        if all(one.repeatable for one in asked) and _alike(asked, now, connection.changes()):
            weight = self._weight(key, answer) + sum(one.weight for one in asked)
            self._put(key, _Held(answer, weight, tuple(asked), now))
        return answer

    def find(self, key: CacheKey) -> object | None:
        """The answer kept under that very key, for work that takes a short cut; None where there is none."""
        with self._guard:
            known = self._held.get(key)
            if known is None:
                return None
            self._held.move_to_end(key)
            return known.answer

    def keep(self, key: CacheKey, answer: object) -> None:
        """Keep an answer that hangs on nothing but its key."""
        self._put(key, _Held(answer, self._weight(key, answer)))

    def key(self, *given: object) -> CacheKey:
        """What tells these from others: values by value, builds by their text, all else itself."""
        return tuple(_key_of(one) for one in given)

    def _stands(self, connection: "Connection", held: _Held, now: Mapping[str, int]) -> bool:
        """Whether it would be worked out alike: no table that it read was written to, or none of its rows."""
        if held.changes is None:
            return False
        if _alike(held.asked, held.changes, now):
            return True
        if any(connection.digest(one.sql, one.values) != one.digest for one in held.asked):
            return False
        # A commit between two questions may have put one right after the other was found right.
        if not _alike(held.asked, now, connection.changes()):
            return False
        held.changes = now
        return True

    def _weight(self, key: CacheKey, answer: object) -> int:
        """What it weighs, or the heaviest of its kind: to weigh a play takes as long as a move in it."""
        with self._guard:
            count, heaviest = self._weighed.get(key[0], (0, 0))
            self._weighed[key[0]] = (count + 1, heaviest)
        if count >= WEIGHED_FIRST and count % WEIGHED_EVERY:
            return heaviest
        weight = weight_of(answer)
        with self._guard:
            self._weighed[key[0]] = (self._weighed[key[0]][0], max(heaviest, weight))
        return weight

    def _touch(self, key: CacheKey) -> None:
        with self._guard:
            if key in self._held:
                self._held.move_to_end(key)

    def _put(self, key: CacheKey, held: _Held) -> None:
        with self._guard:
            before = self._held.pop(key, None)
            self._bytes += held.weight - (before.weight if before else 0)
            self._held[key] = held
            while self._bytes > self._most:
                self._bytes -= self._held.popitem(last=False)[1].weight


def _alike(
    asked: "tuple[Enquiry, ...] | list[Enquiry]", was: Mapping[str, int], now: Mapping[str, int]
) -> bool:
    """Whether no table that was read was written to in between."""
    return was is now or all(was[table] == now[table] for one in asked for table in one.tables)


@singledispatch
def _key_of(given: object) -> Hashable:
    """What tells one thing from another: dataclasses by what they are made of, others are themselves.

    The key holds on to them: a number that `id()` gives would come again once its object is gone.
    """
    if is_dataclass(given) and type(given).__eq__ is not object.__eq__:
        told = [field.name for field in fields(given) if field.init]
        return type(given), *(_key_of(getattr(given, name)) for name in told)
    return given


@_key_of.register
def _(given: Build) -> Hashable:
    return Build, given.anatomy, given.text


@_key_of.register
def _(given: Kind) -> Hashable:
    return Kind, given.anatomy, given.key


@_key_of.register
def _(given: Rules) -> Hashable:
    return given.key


@_key_of.register
def _(given: Report) -> Hashable:
    """By what it is on: a report follows from that."""
    return Report, _key_of(given.build), given.rules.key


@_key_of.register
def _(given: SellersWorth) -> Hashable:
    return given


@_key_of.register(list)
@_key_of.register(tuple)
def _(given: Iterable[object]) -> Hashable:
    return tuple(_key_of(one) for one in given)


@_key_of.register(dict)
def _(given: Mapping[Hashable, object]) -> Hashable:
    return tuple((key, _key_of(value)) for key, value in given.items())


@_key_of.register(bool)
@_key_of.register(int)
@_key_of.register(float)
@_key_of.register(Decimal)
def _(given: object) -> Hashable:
    # To a dictionary True, 1 and 1.0 are one key, and Decimals of any exponent; to an answer they are not.
    return type(given), str(given)


SHARED = (
    type, ModuleType, BuiltinFunctionType, property, Model, Anatomy, Kind,
)  # fmt: skip
"""What is there once for a whole program, however many answers point to it."""


def weight_of(answer: object) -> int:
    """What an answer and all that it holds weighs, bytes; arrays with what they hold, connections never.

    A report of seventy findings is walked in about 1.5 ms.
    """
    seen: set[int] = set()
    total, level = 0, [answer]
    while level:
        new = []
        for one in level:
            if id(one) in seen or isinstance(one, SHARED):
                continue
            if isinstance(one, sqlite3.Connection):
                raise TypeError("an answer that holds a connection would outlive it")
            seen.add(id(one))
            new.append(one)
        total += sum(map(sys.getsizeof, new))
        level = _held_by(new)
    return total


def _held_by(objects: list[object]) -> list[object]:
    """What these hold on to; of a function only what it closes over, for the rest of it is the program's."""
    functions = [one for one in objects if isinstance(one, FunctionType)]
    found = gc.get_referents(*(one for one in objects if not isinstance(one, FunctionType)))
    return [*found, *(cell for one in functions for cell in one.__closure__ or ())]
