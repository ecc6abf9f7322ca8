"""The proofs of a watch on disk: records are added and never changed; one that is sent twice is kept once."""

import json
import sqlite3
from collections.abc import Mapping, Sequence

from marquetry.core.proving.record import (
    LONGEST_PROOF_WORDS,
    PROOF_KINDS,
    PROOF_VERDICTS,
    Proof,
    ProofKind,
    ProofVerdict,
)
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store.database import Connection, transaction

LONGEST_RESULT = 400_000
KINDS: Mapping[str, ProofKind] = {kind: kind for kind in PROOF_KINDS}
VERDICTS: Mapping[str, ProofVerdict] = {verdict: verdict for verdict in PROOF_VERDICTS}
LONGEST_SERIES = 1_000_000
LONGEST_MEANS, LONGEST_BY = 120, 80


def proofs_of(connection: Connection, watch_id: int) -> list[Proof]:
    """Every record of a watch by the time it happened, without the series some were read from."""
    rows = connection.execute(
        """SELECT id, key, kind, item, at_ms, verdict, words, means, by, result, undoes, photo_id
             FROM proof WHERE watch_id = :id ORDER BY at_ms, id""",
        {"id": watch_id},
    )
    return [_proof(row) for row in rows]


def series_of(connection: Connection, watch_id: int, number: int) -> str:
    """The file that a record was read from. NotFoundError where there is none."""
    row = connection.execute(
        "SELECT series FROM proof WHERE watch_id = :watch AND id = :id", {"watch": watch_id, "id": number}
    ).fetchone()
    if row is None or not row["series"]:
        raise NotFoundError(f"file of proof {number}")
    return str(row["series"])


def keep_proofs(connection: Connection, watch_id: int, proofs: Sequence[Proof], series: str = "") -> None:
    """Keep records, all or none; a key that is known already is left as it is.

    `series` is the file that they were read from. SheetError where a record says more than can be kept.
    """
    with transaction(connection):
        for proof in proofs:
            result = json.dumps(dict(proof.result), ensure_ascii=False, separators=(",", ":"))
            if len(result) > LONGEST_RESULT or len(series) > LONGEST_SERIES:
                raise SheetError("the record", "a shorter one: ten minutes, or a hundred thousand readings")
            connection.execute(
                """INSERT INTO proof (watch_id, key, kind, item, at_ms, verdict, words, means, by, result,
                   series, undoes, photo_id) VALUES (:watch, :key, :kind, :item, :at, :verdict, :words,
                   :means, :by, :result, :series, :undoes, :photo) ON CONFLICT (watch_id, key) DO NOTHING""",
                {"watch": watch_id, "key": proof.key, "kind": proof.kind, "item": proof.item,
                 "at": proof.at_ms, "verdict": proof.verdict, "words": proof.words[:LONGEST_PROOF_WORDS],
                 "means": proof.means[:LONGEST_MEANS], "by": proof.by[:LONGEST_BY], "result": result,
                 "series": series, "undoes": proof.undoes, "photo": proof.photo},
            )  # fmt: skip


def _proof(row: sqlite3.Row) -> Proof:
    return Proof(
        row["key"],
        KINDS[row["kind"]],
        row["item"],
        row["at_ms"],
        VERDICTS[row["verdict"]],
        row["words"],
        row["means"],
        row["by"],
        {} if row["result"] == "{}" else json.loads(row["result"]),
        row["undoes"],
        row["photo_id"],
        row["id"],
    )
