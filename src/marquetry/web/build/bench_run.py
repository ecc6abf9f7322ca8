"""The run of one watch for a request: its procedure by the report, its log, the moment it is looked at."""

import math
import time

from marquetry.core.bench.log import done_steps
from marquetry.core.bench.procedure import Procedure, procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import Report
from marquetry.core.proving.asked import readiness
from marquetry.core.proving.ready import Readiness
from marquetry.store import bench_log, proofs
from marquetry.store.database import Connection
from marquetry.web.watch.visit import Visit


def now_ms() -> int:
    """This moment, milliseconds since 1970: asked here alone."""
    return time.time_ns() // 1_000_000


def stamp(at_ms: int) -> str:
    """A moment, milliseconds since 1970, as sheets and logs write it: 2026-11-29T09:00:00Z."""
    return time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime(at_ms / 1000))


def procedure_of(visit: Visit) -> Procedure:
    """The steps of the watch as it is stored."""
    report = visit.report(visit.stored.build)
    return _steps_of(visit.connection, visit.stored.id, report)


def _steps_of(connection: Connection, watch_id: int, report: Report) -> Procedure:
    """The steps of a watch, those among them that already did something to a part."""
    entries = bench_log.entries_of(connection, watch_id)
    donors = bench_log.donors_in(connection, watch_id)
    return procedure(Situation(report, donors, done_steps(entries)))


def built(connection: Connection, watch_id: int, report: Report) -> str:
    """How far a watch's build is, in words, and what is next; nothing where it was not begun."""
    told, until = connection.kept.of(connection, _built, watch_id, report, 0.0)
    # A timer that has rung since opens the step that waited for it, and leaves nothing in the log.
    while now_ms() >= until:
        told, until = connection.kept.of(connection, _built, watch_id, report, until)
    return told


def _built(connection: Connection, watch_id: int, report: Report, rung: float) -> tuple[str, float]:
    """The words as they are once that has rung, and until when they hold: milliseconds since 1970."""
    steps = _steps_of(connection, watch_id, report)
    entries = bench_log.entries_of(connection, watch_id)
    run = Run(steps, entries, int(max(rung, entries[-1].at_ms if entries else 0)))
    rings = (timer.rings_ms for timer in run.timers.values())
    until = min((at for at in rings if at > run.now_ms), default=math.inf)
    if run.began_ms is None:
        return "", until
    told = f"Built: {run.settled} of {len(run.stands)} steps"
    following = f"; next “{run.stands[run.here].step.title}”" if run.here else ", all of them"
    return f"{told}{following}", until


def run_of(visit: Visit) -> Run:
    """Where the build stands now."""
    return Run(procedure_of(visit), bench_log.entries_of(visit.connection, visit.stored.id), now_ms())


def proved(visit: Visit, run: Run) -> Readiness:
    """Where the proofs of the watch stand, since the bench closed or opened it."""
    records = proofs.proofs_of(visit.connection, visit.stored.id)
    since = run.opened_ms if run.closed_ms is None else run.closed_ms
    doubts = tuple(stand.step.title for stand in run.doubts)
    return readiness(run.procedure.situation, records, since, is_open=run.is_open, doubts=doubts)
