"""What the workshop learned of all its watches: worked out of the records, kept for a moment."""

from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock

from marquetry.core.bench.mishaps import MISHAP_BY_KEY
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import report_on
from marquetry.core.fit.rules import House
from marquetry.core.story.foretold import Foretold, foretold_of
from marquetry.core.story.times import MishapCost, StepTake, mishap_costs, takes_of
from marquetry.store.as_begun import BegunBuild, begun_builds
from marquetry.store.bookings import mishap_bookings
from marquetry.store.database import Connection


@dataclass(frozen=True, slots=True)
class BuildRecord:
    """What one build tells: what was foretold of it, and what its steps took."""

    watch_id: int
    name: str
    foretold: tuple[Foretold, ...]
    takes: tuple[StepTake, ...]


class BuildRecords:
    """Records of builds by all that they hang on; a build that was not touched is not read again."""

    def __init__(self) -> None:
        self._held: dict[int, tuple[str, BuildRecord]] = {}
        self._guard = Lock()

    def all(self, connection: Connection, house: House) -> list[BuildRecord]:
        """The record of every build of the bench that can be read."""
        return [self._of(connection, build, house) for build in begun_builds(connection)]

    def _of(self, connection: Connection, build: BegunBuild, house: House) -> BuildRecord:
        last = build.entries[-1]
        rules = connection.model.rules_of(build.before, house)
        state = (
            f"{build.watch.version} {len(build.entries)} {last.id} {sorted(rules.raw.items())} {rules.stamp}"
        )
        with self._guard:
            known = self._held.get(build.watch.id)
        if known is not None and known[0] == state:
            return known[1]
        before = report_on(build.before, rules)
        then = report_on(build.then, connection.model.rules_of(build.then, house), before)
        run = Run(procedure(Situation(then)), build.entries, last.at_ms)
        foretold = tuple(foretold_of(build.watch.id, before, run))
        record = BuildRecord(build.watch.id, build.watch.build.name, foretold, tuple(takes_of(run)))
        with self._guard:
            self._held[build.watch.id] = (state, record)
        return record


def what_mishaps_cost(connection: Connection) -> list[MishapCost]:
    """By kind of mishap, the dearest first, in home's minor units."""
    labels: Mapping[str, str] = {key: kind.label for key, kind in MISHAP_BY_KEY.items()}
    return mishap_costs(mishap_bookings(connection), labels)
