"""One play as its screen shows it: what may be done, what was told, the plate, and how it went."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.rehearsal.exercise import (
    LONGEST_HOLD_MS,
    TICK_MS,
    Aimed,
    AnyExercise,
    MoveOffer,
    PlayMove,
    PlayOutcome,
)
from marquetry.core.rehearsal.play import Play
from marquetry.core.values.figures import band, figure
from marquetry.drawing.rehearsal.aim_ruler import aim_ruler
from marquetry.drawing.rehearsal.plate import play_plate
from marquetry.drawing.rehearsal.shown import Motion, Shown
from marquetry.drawing.scene import Scene
from marquetry.store.rehearsals import StoredRehearsal

SHORT = 7
"""Options whose words are no longer than that stand in one row."""
STAYS_STILL = Motion(0.0, 0.0)


@dataclass(frozen=True, slots=True)
class AimedRow:
    """One figure of the result: its words, its aim, and both on a ruler."""

    aimed: Aimed
    told: str
    aim: str
    ruler: Scene


@dataclass(frozen=True, slots=True)
class MoveRow:
    """One move of a play, in words, and what was told after it; `is_it` where it went wrong there."""

    number: int
    words: str
    note: str
    is_it: bool


@dataclass(frozen=True)
class PlayScreen:
    """A play; `at` is the number of moves it is looked at after, None for now.

    `hint` is what a sure hand would do, `is_sure` where it is a sure hand's play on the same watch.
    """

    stored: StoredRehearsal
    whole: Play
    at: int | None = None
    hint: str = ""
    fault: str = ""
    is_sure: bool = False

    @property
    def play(self) -> Play:
        """As far as it is looked at."""
        return self.whole if self.at is None else self.whole.up_to(self.at)

    @property
    def exercise(self) -> AnyExercise:
        """The exercise."""
        return self.whole.exercise

    @property
    def place(self) -> int:
        """Number of the next move, from 1."""
        return len(self.whole.moves) + 1

    @property
    def on(self) -> str:
        """Name of the watch whose twin it is."""
        return self.whole.now.twin.believed.name

    @property
    def outcome(self) -> PlayOutcome | None:
        """How it went; None while it goes on."""
        return self.whole.outcome

    @property
    def state(self) -> str:
        """A word for it."""
        if self.is_sure:
            return "a sure hand"
        return "goes on" if self.outcome is None else "reached" if self.outcome.reached else "missed"

    @cached_property
    def shown(self) -> Shown:
        """The plate."""
        return play_plate(self.play)

    @cached_property
    def offers(self) -> tuple[MoveOffer, ...]:
        """What may be done now; nothing where it is only looked at."""
        return () if self.at is not None or self.is_sure else self.whole.offers

    @property
    def picks(self) -> list[MoveOffer]:
        """Those that are chosen from several."""
        return [offer for offer in self.offers if offer.kind == "pick"]

    @property
    def taps(self) -> list[MoveOffer]:
        """Those that are done by a tap, a hold or a figure; what ends it stands last."""
        rest = [offer for offer in self.offers if offer.kind != "pick"]
        return sorted(rest, key=lambda offer: offer.ends)

    @property
    def notes(self) -> Sequence[str]:
        """What was told so far, the newest first."""
        return self.play.now.notes[::-1]

    def is_short(self, offer: MoveOffer) -> bool:
        """Whether its options stand in one row."""
        return all(len(option.label) <= SHORT for option in offer.options)

    def track(self, offer: MoveOffer) -> str:
        """How far the move goes while it is held, told at every tick, for the page's script."""
        return ",".join(f"{way:g}" for way in self.whole.track(offer.what))

    def motion(self, offer: MoveOffer) -> Motion:
        """Which way its marks go."""
        return self.shown.motions.get(offer.what, STAYS_STILL)

    @property
    def tick_ms(self) -> int:
        """How long a tick is."""
        return TICK_MS

    @property
    def longest_ms(self) -> int:
        """How long anything is held at most."""
        return LONGEST_HOLD_MS

    @property
    def figures(self) -> list[AimedRow]:
        """The result in figures; nothing while it goes on."""
        return [aimed_row(one) for one in self.outcome.figures] if self.outcome else []

    @cached_property
    def moves(self) -> list[MoveRow]:
        """Every move made, in order."""
        moment = self.outcome.moment if self.outcome else 0
        return [
            MoveRow(number, told_move(self.whole, number), self._after(number), number == moment)
            for number in range(1, len(self.whole.moves) + 1)
        ]

    def _after(self, number: int) -> str:
        before, after = self.whole.states[number - 1].notes, self.whole.states[number].notes
        return " ".join(after[len(before) :])


def aimed_row(one: Aimed) -> AimedRow:
    """A figure with its aim, in words and on a ruler."""
    told = figure(one.value, one.decimals, one.unit)
    return AimedRow(one, told, band(one.band, one.decimals, one.unit), aim_ruler(one))


def told_move(play: Play, number: int) -> str:
    """The move of that number, from 1, in words."""
    before = play.up_to(number - 1)
    return move_words(before.offers, play.moves[number - 1])


def move_words(offers: Sequence[MoveOffer], move: PlayMove) -> str:
    """What a move does, in words: “Mark it, 7.90 mm”."""
    offer = next(one for one in offers if one.what == move.what)
    if offer.kind == "amount":
        return f"{offer.label}, {figure(move.value, 2, offer.unit)}"
    if offer.kind == "hold":
        return f"{offer.label}, held {figure(move.value / 1000, 1, 's')}"
    if offer.kind == "pick":
        option = next(one for one in offer.options if one.word == move.word)
        return f"{offer.label}: {option.label}"
    return offer.label
