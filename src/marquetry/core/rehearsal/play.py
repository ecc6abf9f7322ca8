"""A play: an exercise on a twin and the moves so far; every state follows from seed and moves alone."""

import math
import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from marquetry.core.fit.rules import Rules
from marquetry.core.rehearsal.exercise import (
    LONGEST_HOLD_MS,
    AnyExercise,
    At,
    MoveOffer,
    PlayMove,
    PlayOutcome,
    is_admitted,
)
from marquetry.core.rehearsal.twin import draw_twin, draws
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import DimensionError, SheetError

EDITION = 1
"""Of the exercises: raised where one comes to draw or act otherwise, as old moves then mean other things."""
MOST_MOVES = 300
"""A play that goes on for longer goes nowhere."""


@dataclass(frozen=True)
class Play:
    """One play so far. `states` are where it stood at first and after every move."""

    exercise: AnyExercise
    seed: int
    moves: tuple[PlayMove, ...]
    states: tuple[At, ...] = field(repr=False)

    @classmethod
    def begin(cls, exercise: AnyExercise, build: Build, rules: Rules, seed: int) -> "Play":
        """A play before its first move."""
        twin = draw_twin(build, rules, seed, exercise.checks)
        twin = exercise.prepared(twin, draws(seed, "prepared"))
        return cls(exercise, seed, (), (exercise.begin(twin),))

    @property
    def now(self) -> At:
        """Where it stands."""
        return self.states[-1]

    @cached_property
    def offers(self) -> tuple[MoveOffer, ...]:
        """What may be done now; nothing once it is done."""
        return () if self.now.done else self.exercise.offers(self.now)

    def track(self, what: str) -> tuple[float, ...]:
        """How far a held move goes, by ticks, in the move's unit, were it made now."""
        return self.exercise.track(self.now, what, self._draw(what))

    def after(self, move: PlayMove) -> "Play":
        """The play with a move more. SheetError or DimensionError for one that is not offered so."""
        self._refuse(move)
        return self.made(move)

    def made(self, move: PlayMove) -> "Play":
        """The same for a move that is known to be offered: by a hand that looked at what is."""
        state = self.exercise.after(self.now, move, self._draw(move.what))
        return Play(self.exercise, self.seed, (*self.moves, move), (*self.states, state))

    def replayed(self, moves: Sequence[PlayMove]) -> "Play":
        """The play with all these moves made."""
        found = self
        for move in moves:
            found = found.after(move)
        return found

    def up_to(self, count: int) -> "Play":
        """The play as it stood after so many moves."""
        return Play(self.exercise, self.seed, self.moves[:count], self.states[: count + 1])

    def _draw(self, what: str) -> random.Random:
        return draws(self.seed, f"{len(self.moves)}/{what}")

    def _refuse(self, move: PlayMove) -> None:
        offer = next((one for one in self.offers if one.what == move.what), None)
        if offer is None:
            raise SheetError("move", "one of those that are offered", f"“{move.what[:30]}”")
        if len(self.moves) >= MOST_MOVES:
            raise SheetError("moves", f"at most {MOST_MOVES}; begin again")
        if offer.kind == "pick" and move.word not in {option.word for option in offer.options}:
            raise SheetError(offer.label, "one of those to choose from", f"“{move.word[:40]}”")
        low, high = {"hold": (0.0, float(LONGEST_HOLD_MS)), "amount": (offer.low, offer.high)}.get(
            offer.kind, (0.0, 0.0)
        )
        if offer.kind in {"hold", "amount"} and not (
            math.isfinite(move.value) and low - SLACK <= move.value <= high + SLACK
        ):
            unit = "ms" if offer.kind == "hold" else offer.unit
            raise DimensionError(offer.label, move.value, unit, f"from {low:g} to {high:g} {unit}")

    @cached_property
    def outcome(self) -> PlayOutcome | None:
        """How it went; None while it goes on."""
        if not self.now.done:
            return None
        figures = self.exercise.figures(self.now)
        reached = not self.now.spoilt and is_admitted(figures)
        words = self.exercise.praise(self.now) if reached else self.exercise.blame(self.now)
        return PlayOutcome(reached, figures, words, 0 if reached else self._moment())

    def _moment(self) -> int:
        """The move since which the aim is out of reach; the last, where only the end shows it."""
        told = self.exercise.moment(self.now)
        if told:
            return told
        number = len(self.states)
        while number and self.states[number - 1].spoilt:
            number -= 1
        return min(max(number, 1), len(self.moves))


SLACK = 1e-9
PATIENCE = 120


def played(play: Play, hand: Callable[[At], PlayMove]) -> Play:
    """The play carried to its end by a hand that chooses each move from where it stands."""
    for _ in range(PATIENCE):
        if play.now.done:
            return play
        play = play.made(hand(play.now))
    return play
