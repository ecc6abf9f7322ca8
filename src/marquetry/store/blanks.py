"""Blanks of batches on disk: pieces with stages and states; whoever is late is told, not overwritten."""

import sqlite3
from collections.abc import Iterable, Sequence

from marquetry.core.making.batch import MOST_BLANKS, Batch, Blank, BlankStage, BlankState
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import LINKS, Part
from marquetry.core.values.errors import DimensionError, NotFoundError, StaleVersionError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import pieces, shelf
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import Stock

NOW = "strftime('%Y-%m-%dT%H:%M:%SZ', 'now')"


def batches_of(connection: Connection, watch_id: int) -> list[Batch]:
    """Every batch of a watch with its blanks, the oldest first."""
    rows = connection.execute("SELECT * FROM batch WHERE watch_id = :id ORDER BY id", {"id": watch_id})
    return [_batch(connection, row) for row in rows.fetchall()]


def batch_of(connection: Connection, watch_id: int, batch_id: int) -> Batch:
    """One batch of the watch; NotFoundError where it has none of that number."""
    row = connection.execute(
        "SELECT * FROM batch WHERE id = :id AND watch_id = :watch", {"id": batch_id, "watch": watch_id}
    ).fetchone()
    if row is None:
        raise NotFoundError(f"batch {batch_id} of this watch")
    return _batch(connection, row)


def _batch(connection: Connection, row: sqlite3.Row) -> Batch:
    stages: dict[int, list[BlankStage]] = {}
    query = """SELECT stage.* FROM blank_stage AS stage JOIN blank ON blank.id = blank_id
                WHERE batch_id = :id ORDER BY stage.id"""
    for one in connection.execute(query, {"id": row["id"]}):
        cost = None if one["cost_minor"] is None else Money(one["cost_minor"], one["currency"])
        stages.setdefault(one["blank_id"], []).append(BlankStage(one["id"], one["stage"], cost, one["at"]))
    blanks = connection.execute("SELECT * FROM blank WHERE batch_id = :id ORDER BY number", {"id": row["id"]})
    found = tuple(
        Blank(
            id=one["id"],
            number=one["number"],
            stages=tuple(stages.get(one["id"], ())),
            state=one["state"],
            spoilt_at=one["spoilt_at"],
            why=one["why"],
            piece_id=one["piece_id"],
            version=one["version"],
        )
        for one in blanks
    )
    return Batch(row["id"], row["name"], row["wanted"], found, row["at"])


def add_batch(connection: Connection, watch_id: int, name: str, wanted: int, at: str = "") -> int:
    """Begin a batch of which so many good ones are wanted, and return its number."""
    cursor = connection.execute(
        f"""INSERT INTO batch (watch_id, name, wanted, at)
            VALUES (:watch, :name, :wanted, coalesce(nullif(:at, ''), {NOW}))""",  # noqa: S608  # a constant
        {"watch": watch_id, "name": name, "wanted": wanted, "at": at},
    )
    return int(cursor.lastrowid or 0)


def add_blanks(connection: Connection, watch_id: int, batch_id: int, count: int, at: str = "") -> list[int]:
    """So many blanks more, numbered on; returns their numbers in the workshop.

    DimensionError where the batch would hold more than it may.
    """
    with transaction(connection):
        there = batch_of(connection, watch_id, batch_id).blanks
        first = max((blank.number for blank in there), default=0) + 1
        if first + count - 1 > MOST_BLANKS:
            raise DimensionError("count", str(count), "", f"at most {MOST_BLANKS} blanks in a batch")
        query = f"""INSERT INTO blank (batch_id, number, at)
                    VALUES (:batch, :number, coalesce(nullif(:at, ''), {NOW}))"""  # noqa: S608  # a constant
        told = ({"batch": batch_id, "number": n, "at": at} for n in range(first, first + count))
        return [int(connection.execute(query, each).lastrowid or 0) for each in told]


def blank_of(connection: Connection, watch_id: int, batch_id: int, blank_id: int) -> Blank:
    """One blank of a batch of the watch; NotFoundError where there is none of that number."""
    return _chosen(connection, watch_id, batch_id, [blank_id])[0]


def remove_blanks(connection: Connection, watch_id: int, batch_id: int, blanks: Iterable[int]) -> None:
    """Forget blanks to which nothing was done yet; TakenError, and none forgotten, where something was."""
    with transaction(connection):
        for blank in _chosen(connection, watch_id, batch_id, blanks):
            if blank.stages or blank.state != "work" or blank.piece_id or _is_named(connection, blank.id):
                raise TakenError(f"Something is noted of blank {blank.number}: it stays in the record.")
            connection.execute("DELETE FROM blank WHERE id = :id", {"id": blank.id})


def _is_named(connection: Connection, blank_id: int) -> bool:
    """Whether a picture or a trial is of this blank."""
    query = """SELECT EXISTS (SELECT 1 FROM photo WHERE owner = 'blank' AND owner_id = :id)
                   OR EXISTS (SELECT 1 FROM finish_trial WHERE blank_id = :id)"""
    return bool(connection.execute(query, {"id": blank_id}).fetchone()[0])


def _chosen(connection: Connection, watch_id: int, batch_id: int, blanks: Iterable[int]) -> Sequence[Blank]:
    """The batch's blanks of these numbers in the workshop; NotFoundError where one is not of this batch."""
    known = {blank.id: blank for blank in batch_of(connection, watch_id, batch_id).blanks}
    wanted = list(dict.fromkeys(blanks))
    missing = [number for number in wanted if number not in known]
    if missing:
        raise NotFoundError(f"blank {missing[0]} of this batch")
    return [known[number] for number in wanted]


def through(  # noqa: PLR0913, PLR0917  # one argument a thing that is told
    connection: Connection,
    watch_id: int,
    batch_id: int,
    blanks: Iterable[int],
    stage: str,
    cost: Money | None = None,
    at: str = "",
) -> None:
    """Note a stage of these blanks, with what it cost for each of them."""
    query = f"""INSERT INTO blank_stage (blank_id, stage, cost_minor, currency, at)
                VALUES (:blank, :stage, :cost, :currency, coalesce(nullif(:at, ''), {NOW}))"""  # noqa: S608  # a constant
    with transaction(connection):
        for blank in _chosen(connection, watch_id, batch_id, blanks):
            connection.execute(
                query,
                {
                    "blank": blank.id,
                    "stage": stage,
                    "cost": cost.minor if cost else None,
                    "currency": cost.currency if cost else "",
                    "at": at,
                },
            )


def take_back_stage(connection: Connection, watch_id: int, batch_id: int, stage_id: int) -> None:
    """Take a stage of a blank back, as after a slip of the key; NotFoundError where there is none such."""
    known = {stage.id for blank in batch_of(connection, watch_id, batch_id).blanks for stage in blank.stages}
    if stage_id not in known:
        raise NotFoundError(f"stage {stage_id} of a blank of this batch")
    connection.execute("DELETE FROM blank_stage WHERE id = :id", {"id": stage_id})


def become(  # noqa: PLR0913, PLR0917  # one argument a thing that is told
    connection: Connection,
    watch_id: int,
    batch_id: int,
    blanks: Iterable[tuple[int, int]],
    state: BlankState,
    stage: str = "",
    why: str = "",
    at: str = "",
) -> None:
    """Note what became of blanks, each with the version it was seen at; StaleVersionError where one changed.

    Stage and reason are kept of what is spoilt; another state takes them off.
    """
    seen = dict(blanks)
    spoilt = state == "spoilt"
    with transaction(connection):
        for blank in _chosen(connection, watch_id, batch_id, seen):
            if blank.version != seen[blank.id]:
                raise StaleVersionError(seen[blank.id], blank.version, f"blank {blank.number}")
            connection.execute(
                f"""UPDATE blank SET state = :state, spoilt_at = :stage, why = :why, version = version + 1,
                           told_at = coalesce(nullif(:at, ''), {NOW}) WHERE id = :id""",  # noqa: S608  # a constant
                {
                    "id": blank.id,
                    "state": state,
                    "stage": stage if spoilt else "",
                    "why": why if spoilt else "",
                    "at": at,
                },
            )


def remove_batch(connection: Connection, watch_id: int, batch_id: int) -> None:
    """Forget a batch without blanks; TakenError where there is one."""
    if batch_of(connection, watch_id, batch_id).blanks:
        raise TakenError("This batch has blanks: remove them first. Nothing was changed.")
    connection.execute("DELETE FROM batch WHERE id = :id", {"id": batch_id})


def as_piece(connection: Connection, watch_id: int, batch_id: int, blank_id: int, build: Build) -> int:
    """The blank as a piece of the shelf, made one now where it is none yet: a dial as the sheet plans it."""
    with transaction(connection):
        (blank,) = _chosen(connection, watch_id, batch_id, [blank_id])
        if blank.piece_id is not None:
            return blank.piece_id
        batch = batch_of(connection, watch_id, batch_id)
        kind = build.anatomy.kind("dial")
        held = build.at("dial")
        plain = (
            {key: value for key, value in held.items() if key not in LINKS} if isinstance(held, dict) else {}
        )
        name = f"{batch.name}, made for {build.name}"[:120]
        known = shelf.part_named(connection, kind.key, name)
        part = (
            shelf.add_part(connection, Part.of(kind, {**plain, "name": name})) if known is None else known.id
        )
        paid = blank.costs[0] if len(blank.costs) == 1 else None
        made = pieces.add_piece(connection, part, Stock(paid=paid))
        pieces.tell(connection, made, f"blank {blank.number} of {batch.name}", watch_id)
        connection.execute(
            "UPDATE blank SET piece_id = :piece, version = version + 1 WHERE id = :id",
            {"piece": made, "id": blank.id},
        )
        return made
