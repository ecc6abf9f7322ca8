"""The page of Rehearsal: where each exercise lies, what is due, and on which watch it is played."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import House
from marquetry.core.rehearsal.exercise import AnyExercise
from marquetry.core.rehearsal.exercises import EXERCISES
from marquetry.core.rehearsal.practice import RULE, PracticeStand, next_up, standing_of
from marquetry.drawing.rehearsal.chest import Drawerful, chest_scene
from marquetry.drawing.scene import Scene
from marquetry.store import fates, rehearsals
from marquetry.store.database import Connection
from marquetry.store.rehearsals import LastPlay
from marquetry.store.watches import StoredWatch
from marquetry.web.watch.reports import Reports

FEARED = ("stem", "hands", "gasket", "feet")
"""Exercises of what cannot be undone."""


@dataclass(frozen=True, slots=True)
class ExerciseRow:
    """An exercise on the page: where it lies, its last play, and why the chosen watch will not do."""

    exercise: AnyExercise
    standing: PracticeStand
    is_due: bool
    last: LastPlay | None
    goes_on: int | None
    lacking: str
    watch: int = 0
    """Number of the chosen watch, where it will do; 0 for one of the set."""


@dataclass(frozen=True)
class RehearsalsPage:
    """What the page shows; `on` is the watch that it is played on, None for one of the set."""

    rows: tuple[ExerciseRow, ...]
    due: tuple[ExerciseRow, ...]
    watches: Sequence[StoredWatch]
    on: StoredWatch | None
    chest: Scene
    rule: str = RULE

    @property
    def feared(self) -> list[ExerciseRow]:
        """What costs most where it goes wrong, and was not played yet."""
        return [row for row in self.rows if row.exercise.key in FEARED and not row.standing.plays]

    @property
    def played(self) -> int:
        """How many plays were carried to their end."""
        return sum(row.standing.plays for row in self.rows)


def rehearsals_page(
    connection: Connection, reports: Reports, house: House, day: str, on: int | None
) -> RehearsalsPage:
    """The page as it is on a day."""
    made = rehearsals.practised(connection)
    standings = {one.key: standing_of(one.key, made) for one in EXERCISES}
    bench = fates.watches_at_work(connection)
    chosen = next((watch for watch in bench if watch.id == on), None)
    situation = None if chosen is None else situation_of(connection, reports, house, chosen)
    lacking = {one.key: one.lacking(situation) if situation else "" for one in EXERCISES}
    last, going = rehearsals.last_plays(connection), rehearsals.open_plays(connection)
    rows = {
        one.key: ExerciseRow(
            one,
            standings[one.key],
            standings[one.key].is_due(day),
            last.get(one.key),
            going.get(one.key),
            lacking[one.key],
            chosen.id if chosen and not lacking[one.key] else 0,
        )
        for one in EXERCISES
    }
    due = tuple(rows[one.exercise] for one in next_up(standings.values(), day))
    return RehearsalsPage(tuple(rows.values()), due, bench, chosen, chest_scene(_drawers(rows)))


def situation_of(connection: Connection, reports: Reports, house: House, watch: StoredWatch) -> Situation:
    """What the steps of a watch are told from."""
    report: Report = reports.on(watch.build, connection.model.rules_of(watch.build, house))
    return Situation(report)


def _drawers(rows: Mapping[str, ExerciseRow]) -> list[Drawerful]:
    return [
        Drawerful(
            row.exercise.key, row.exercise.title, row.standing.drawer, row.is_due, row.standing.failed_last
        )
        for row in rows.values()
    ]
