"""What first: steps of this very watch, put into an order that works."""

import random
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import combinations

from marquetry.core.bench.procedure import Procedure, WatchStep, procedure
from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, Option, PlayMove
from marquetry.core.rehearsal.twin import Twin, draws
from marquetry.core.values.limits import Limits

SHOWN = 6
TIED = 6
"""At least so many pairs of those shown wait for one another."""
TRIES = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderAt(At):
    """`steps` are those to put in order, as they lie about; `placed` their ids in the order chosen so far."""

    found: Procedure = field(repr=False)
    steps: tuple[WatchStep, ...]
    before: frozenset[tuple[str, str]]
    """Pairs of ids of which the first has to be done before the second."""
    placed: tuple[str, ...] = ()

    @property
    def left(self) -> tuple[WatchStep, ...]:
        """Those not placed yet."""
        return tuple(step for step in self.steps if step.id not in self.placed)

    def broken(self) -> list[tuple[str, str]]:
        """Pairs of which the second was placed while the first was not."""
        return [
            (first, then)
            for first, then in sorted(self.before)
            if then in self.placed and first not in self.placed[: self.placed.index(then)]
        ]


class WhatFirst(Exercise[OrderAt]):
    """An order of work."""

    key = "order"
    title = "What first"
    task = f"Put these {SHOWN} steps of this watch into an order that works. There may be several."
    aim = "No step comes before one that it waits for."
    steps = ("lay_out_parts", "lock_thread", "close_back", "stick_insert", "fix_dial", "case_up")
    counts = (
        (
            "What cannot be undone comes after its trial",
            "The glue waits for the trial fit, the back for the seal.",
        ),
        (
            "What drops chips comes before what must be clean",
            "A filed foot over pressed hands is dust under the crystal.",
        ),
        (
            "What is looked at is looked at while it can be mended",
            "A post that was pulled up shows before the dial is on.",
        ),
    )

    @property
    def mistakes(self) -> tuple[Mistake[OrderAt], ...]:
        """As they come; the quickest first."""
        return (
            Mistake("as_they_come", "Does them as they come to hand", (0.90, 1.0), _as_they_come),
            Mistake("quickest", "Does the quickest first", (0.75, 1.0), _quickest),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch with enough steps that wait for one another."""
        return (
            ""
            if len(procedure(situation).steps) >= 2 * SHOWN
            else "Too little is in this watch yet: few steps wait for others."
        )

    def begin(self, twin: Twin) -> OrderAt:
        """The steps as they lie about."""
        found = procedure(Situation(twin.report))
        draw = draws(twin.seed, "steps")
        steps, before = _drawn(found, draw)
        return OrderAt(twin=twin, found=found, steps=steps, before=before)

    def offers(self, at: OrderAt) -> tuple[MoveOffer, ...]:
        """The next one, the last one back, done."""
        found: list[MoveOffer] = []
        if at.left:
            options = tuple(Option(step.id, step.title) for step in at.left)
            found.append(MoveOffer("place", "Next comes", "n", "pick", options))
        if at.placed:
            found.append(MoveOffer("back", "Take the last one back", "b"))
        if not at.left:
            found.append(MoveOffer("done", "In this order", "Enter", ends=True))
        return tuple(found)

    def after(self, at: OrderAt, move: PlayMove, draw: random.Random) -> OrderAt:
        """Placed, taken back, done."""
        del draw
        if move.what == "back":
            at = replace(at, placed=at.placed[:-1])
        elif move.what == "place":
            at = replace(at, placed=(*at.placed, move.word))
        broken = at.broken()
        return replace(at, done=move.what == "done", spoilt=self._why(at, *broken[0]) if broken else "")

    def _why(self, at: OrderAt, first: str, then: str) -> str:
        early, late = at.found.by_id[then], at.found.by_id[first]
        return f"“{early.title}” waits for “{late.title}”. {late.step.why}"

    def figures(self, at: OrderAt) -> tuple[Aimed, ...]:
        """Pairs the wrong way round."""
        return (Aimed("Steps before what they wait for", float(len(at.broken())), Limits(None, 0), "", 0),)

    def praise(self, at: OrderAt) -> str:
        """How many ties it kept."""
        return f"It works: {len(at.before)} pairs of these wait for one another, and none was broken."

    def sure(self, at: OrderAt) -> PlayMove:
        """In the bench's own order."""
        ids = [step.id for step in at.found.steps]
        return (
            PlayMove("place", word=min((s.id for s in at.left), key=ids.index))
            if at.left
            else PlayMove("done")
        )


def _drawn(found: Procedure, draw: random.Random) -> tuple[tuple[WatchStep, ...], frozenset[tuple[str, str]]]:
    """Steps of which enough wait for one another, lying about in no order that works."""
    after = {step.id: frozenset(found.depending_on(step.id)) for step in found.steps}
    best: tuple[WatchStep, ...] = ()
    tied: frozenset[tuple[str, str]] = frozenset()
    for _ in range(TRIES):
        chosen = sorted(draw.sample(range(len(found.steps)), min(SHOWN, len(found.steps))))
        steps = tuple(found.steps[place] for place in chosen)
        ties = frozenset((a.id, b.id) for a, b in combinations(steps, 2) if b.id in after[a.id])
        titles = {step.title for step in steps}
        if len(ties) > len(tied) and len(titles) == len(steps):
            best, tied = steps, ties
        if len(tied) >= TIED:
            break
    lying = list(best)
    draw.shuffle(lying)
    return tuple(lying), tied


def _place(steps: Sequence[WatchStep]) -> PlayMove:
    return PlayMove("place", word=steps[0].id) if steps else PlayMove("done")


def _as_they_come(at: OrderAt) -> PlayMove:
    return _place(at.left)


def _quickest(at: OrderAt) -> PlayMove:
    return _place(sorted(at.left, key=lambda step: step.step.minutes))
