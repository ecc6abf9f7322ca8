"""What the workshop learned of all its watches: worked out of the records, kept for a moment."""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.bench.log import done_steps
from marquetry.core.bench.mishap_kinds import MISHAP_BY_KEY
from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import report_on
from marquetry.core.fit.rules import House, Rules
from marquetry.core.story.foretold import Foretold, foretold_of
from marquetry.core.story.times import MishapCost, StepTake, mishap_costs, takes_of
from marquetry.store.as_begun import begun_build
from marquetry.store.bench_log import watches_with_log
from marquetry.store.bookings import mishap_bookings
from marquetry.store.database import Connection
from marquetry.store.watches import numbers_in_use


@dataclass(frozen=True, slots=True)
class BuildRecord:
    """What one build tells: what was foretold of it, and what its steps took."""

    watch_id: int
    foretold: tuple[Foretold, ...]
    takes: tuple[StepTake, ...]


def build_records(connection: Connection, house: House) -> list[BuildRecord]:
    """The record of every build of the bench that can be read; what was not touched is not read again."""
    begun, rules = set(watches_with_log(connection)), connection.model.rules(None, house)
    found = [
        connection.kept.of(connection, _record, watch_id, rules)
        for watch_id in numbers_in_use(connection)
        if watch_id in begun
    ]
    return [record for record in found if record is not None]


def _record(connection: Connection, watch_id: int, rules: Rules) -> BuildRecord | None:
    build = begun_build(connection, watch_id)
    if build is None:
        return None
    before = report_on(build.before, rules.of(build.before))
    then = report_on(build.then, rules.of(build.then), before)
    run = Run(
        procedure(Situation(then, kept=done_steps(build.entries))), build.entries, build.entries[-1].at_ms
    )
    foretold = tuple(foretold_of(watch_id, before, run))
    return BuildRecord(watch_id, foretold, tuple(takes_of(run)))


def what_mishaps_cost(connection: Connection) -> list[MishapCost]:
    """By kind of mishap, the dearest first, in home's minor units."""
    labels: Mapping[str, str] = {key: kind.label for key, kind in MISHAP_BY_KEY.items()}
    return mishap_costs(mishap_bookings(connection), labels)
