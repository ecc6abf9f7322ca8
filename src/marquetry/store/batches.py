"""Batches of blanks and trials of finishes: only added to, but for what is told of a trial."""

from marquetry.core.making.batch import Batch, BatchStep, FinishTrial
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.store.database import Connection


def batches_of(connection: Connection, watch_id: int) -> list[Batch]:
    """Every batch of a watch with its steps, the oldest first."""
    rows = connection.execute("SELECT * FROM batch WHERE watch_id = :id ORDER BY id", {"id": watch_id})
    return [
        Batch(row["id"], row["name"], row["wanted"], _steps(connection, row["id"]), row["at"]) for row in rows
    ]


def _steps(connection: Connection, batch_id: int) -> tuple[BatchStep, ...]:
    rows = connection.execute("SELECT * FROM batch_step WHERE batch_id = :id ORDER BY id", {"id": batch_id})
    return tuple(
        BatchStep(row["what"], row["count"], row["stage"], row["why"], row["at"], row["id"]) for row in rows
    )


def add_batch(connection: Connection, watch_id: int, name: str, wanted: int, at: str = "") -> int:
    """Begin a batch of which so many good ones are wanted, and return its number."""
    cursor = connection.execute(
        """INSERT INTO batch (watch_id, name, wanted, at) VALUES (:watch, :name, :wanted,
           coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')))""",
        {"watch": watch_id, "name": name, "wanted": wanted, "at": at},
    )
    return int(cursor.lastrowid or 0)


def add_step(connection: Connection, watch_id: int, batch_id: int, step: BatchStep) -> None:
    """Note what became of some of a batch; NotFoundError where the watch has no such batch."""
    _batch(connection, watch_id, batch_id)
    connection.execute(
        """INSERT INTO batch_step (batch_id, what, count, stage, why, at) VALUES (:batch, :what, :count,
           :stage, :why, coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')))""",
        {"batch": batch_id, "what": step.what, "count": step.count, "stage": step.stage, "why": step.why,
         "at": step.at},
    )  # fmt: skip


def take_back_step(connection: Connection, watch_id: int, batch_id: int) -> None:
    """Take the last step of a batch back, as after a slip of the key."""
    _batch(connection, watch_id, batch_id)
    connection.execute(
        "DELETE FROM batch_step WHERE id = (SELECT max(id) FROM batch_step WHERE batch_id = :batch)",
        {"batch": batch_id},
    )


def remove_batch(connection: Connection, watch_id: int, batch_id: int) -> None:
    """Forget a batch of which nothing is noted any more; TakenError where something is."""
    _batch(connection, watch_id, batch_id)
    if _steps(connection, batch_id):
        raise TakenError("Something is noted of this batch: take its notes back first. Nothing was changed.")
    connection.execute("DELETE FROM batch WHERE id = :id", {"id": batch_id})


def remove_trial(connection: Connection, watch_id: int, number: int) -> None:
    """Forget a trial without pictures; TakenError where it has one."""
    trial_of(connection, watch_id, number)
    query = "SELECT 1 FROM photo WHERE owner = 'trial' AND owner_id = :id LIMIT 1"
    if connection.execute(query, {"id": number}).fetchone():
        raise TakenError("This trial has pictures: remove them first. Nothing was changed.")
    connection.execute("DELETE FROM finish_trial WHERE id = :id", {"id": number})


def _batch(connection: Connection, watch_id: int, batch_id: int) -> None:
    found = connection.execute(
        "SELECT 1 FROM batch WHERE id = :id AND watch_id = :watch", {"id": batch_id, "watch": watch_id}
    ).fetchone()
    if found is None:
        raise NotFoundError(f"batch {batch_id} of this watch")


def trials_of(connection: Connection, watch_id: int) -> list[FinishTrial]:
    """Every trial of a watch, those of one kind together, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM finish_trial WHERE watch_id = :id ORDER BY kind, id", {"id": watch_id}
    )
    return [
        FinishTrial(
            row["id"], row["kind"], row["what"], row["layers"], row["blank"], row["did"],
            bool(row["chosen"]), row["version"], row["at"],
        )
        for row in rows
    ]  # fmt: skip


def add_trial(connection: Connection, watch_id: int, trial: FinishTrial) -> int:
    """Note a trial and return its number."""
    cursor = connection.execute(
        """INSERT INTO finish_trial (watch_id, kind, what, layers, blank, did, chosen, at)
           VALUES (:watch, :kind, :what, :layers, :blank, :did, :chosen,
           coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')))""",
        {"watch": watch_id, "kind": trial.kind, "what": trial.what, "layers": trial.layers,
         "blank": trial.blank, "did": trial.did, "chosen": int(trial.is_chosen), "at": trial.at},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def tell_trial(connection: Connection, watch_id: int, told: FinishTrial) -> None:
    """Note what a trial did and whether it is chosen; StaleVersionError where it changed since."""
    row = connection.execute(
        """UPDATE finish_trial SET did = :did, chosen = :chosen, version = version + 1
            WHERE id = :id AND watch_id = :watch AND version = :based RETURNING version""",
        {
            "id": told.id,
            "watch": watch_id,
            "did": told.did,
            "chosen": int(told.is_chosen),
            "based": told.version,
        },
    ).fetchone()
    if row is None:
        newest = trial_of(connection, watch_id, told.id)
        raise StaleVersionError(told.version, newest.version, "trial")


def trial_of(connection: Connection, watch_id: int, number: int) -> FinishTrial:
    """One trial of the watch; NotFoundError where it has none of that number."""
    found = next((trial for trial in trials_of(connection, watch_id) if trial.id == number), None)
    if found is None:
        raise NotFoundError(f"trial {number} of this watch")
    return found
