"""Trials of finishes and gaskets on disk: only added to, but for what is told of one."""

from marquetry.core.making.batch import FinishTrial
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.store.database import Connection


def trials_of(connection: Connection, watch_id: int) -> list[FinishTrial]:
    """Every trial of a watch, those of one kind together, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM finish_trial WHERE watch_id = :id ORDER BY kind, id", {"id": watch_id}
    )
    return [
        FinishTrial(
            id=row["id"],
            kind=row["kind"],
            what=row["what"],
            layers=row["layers"],
            blank=row["blank"],
            did=row["did"],
            is_chosen=bool(row["chosen"]),
            version=row["version"],
            at=row["at"],
            blank_id=row["blank_id"],
        )
        for row in rows
    ]


def add_trial(connection: Connection, watch_id: int, trial: FinishTrial) -> int:
    """Note a trial and return its number; NotFoundError where its blank is none of the watch's."""
    if trial.blank_id is not None:
        query = (
            "SELECT 1 FROM blank JOIN batch ON batch.id = batch_id WHERE blank.id = :id AND watch_id = :watch"
        )
        if connection.execute(query, {"id": trial.blank_id, "watch": watch_id}).fetchone() is None:
            raise NotFoundError(f"blank {trial.blank_id} of this watch")
    cursor = connection.execute(
        """INSERT INTO finish_trial (watch_id, kind, what, layers, blank, did, chosen, at, blank_id)
           VALUES (:watch, :kind, :what, :layers, :blank, :did, :chosen,
           coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')), :blank_id)""",
        {"watch": watch_id, "kind": trial.kind, "what": trial.what, "layers": trial.layers,
         "blank": trial.blank, "did": trial.did, "chosen": int(trial.is_chosen), "at": trial.at,
         "blank_id": trial.blank_id},
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


def remove_trial(connection: Connection, watch_id: int, number: int) -> None:
    """Forget a trial without pictures; TakenError where it has one."""
    trial_of(connection, watch_id, number)
    query = "SELECT 1 FROM photo WHERE owner = 'trial' AND owner_id = :id LIMIT 1"
    if connection.execute(query, {"id": number}).fetchone():
        raise TakenError("This trial has pictures: remove them first. Nothing was changed.")
    connection.execute("DELETE FROM finish_trial WHERE id = :id", {"id": number})
