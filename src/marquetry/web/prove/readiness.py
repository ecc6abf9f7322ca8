"""The proofs of one watch for a request, and a new record of this moment."""

import uuid
from collections.abc import Mapping

from marquetry.core.proving.ready import Readiness
from marquetry.core.proving.record import Proof, ProofKind, ProofVerdict
from marquetry.core.sheet.entries import Json
from marquetry.store import proofs
from marquetry.web.build.bench_run import now_ms, proved, run_of
from marquetry.web.watch.visit import Visit


def readiness_of(visit: Visit) -> Readiness:
    """Where the proofs of the watch stand now."""
    return proved(visit, run_of(visit))


def record(  # noqa: PLR0913  # one argument a field of the record
    kind: ProofKind,
    item: str,
    verdict: ProofVerdict = "",
    *,
    words: str = "",
    means: str = "",
    by: str = "",
    result: Mapping[str, Json] | None = None,
    undoes: str = "",
    photo: int | None = None,
    at_ms: int | None = None,
    key: str = "",
) -> Proof:
    """A record of this moment, or of the one given, under a new key or the sender's."""
    moment = now_ms() if at_ms is None else at_ms
    made = key or uuid.uuid4().hex
    return Proof(made, kind, item, moment, verdict, words, means, by, result or {}, undoes, photo)


def kept(visit: Visit, *records: Proof, series: str = "") -> None:
    """Keep records of this watch, and the file that they were read from."""
    proofs.keep_proofs(visit.connection, visit.stored.id, records, series)
