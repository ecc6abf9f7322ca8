"""Which exercise rehearses a step on a twin of this very watch, and whether its kind went wrong last."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.exercise import AnyExercise
from marquetry.core.rehearsal.exercises import exercises_for
from marquetry.store.rehearsals import LastPlay


@dataclass(frozen=True)
class Rehearsable:
    """A watch and the last plays of every kind; what it will do for is found out once for all its screens."""

    situation: Situation
    plays: Mapping[str, LastPlay]
    known: dict[str, bool] = field(default_factory=dict)

    def exercise(self, step: str) -> AnyExercise | None:
        """What rehearses the step on this watch; what went wrong last comes first."""
        fitting = [one for one in exercises_for(step) if self._takes(one)]
        return min(fitting, key=lambda one: self.missed(one) is None, default=None)

    def missed(self, one: AnyExercise) -> LastPlay | None:
        """The last play of an exercise, where it missed its aim."""
        last = self.plays.get(one.key)
        return None if last is None or last.reached else last

    def _takes(self, one: AnyExercise) -> bool:
        if one.key not in self.known:
            self.known[one.key] = not one.lacking(self.situation)
        return self.known[one.key]
