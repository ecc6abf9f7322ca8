"""The run of one watch for a request: its procedure by the report, its log, the moment it is looked at."""

import time

from marquetry.core.bench.procedure import Procedure, procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.store import bench_log
from marquetry.web.watch.visit import Visit


def now_ms() -> int:
    """This moment, milliseconds since 1970: asked here alone."""
    return time.time_ns() // 1_000_000


def procedure_of(visit: Visit) -> Procedure:
    """The steps of the watch as it is stored."""
    report = visit.report(visit.stored.build)
    return procedure(Situation(report, bench_log.donors_in(visit.connection, visit.stored.id)))


def run_of(visit: Visit) -> Run:
    """Where the build stands now."""
    return Run(procedure_of(visit), bench_log.entries_of(visit.connection, visit.stored.id), now_ms())
