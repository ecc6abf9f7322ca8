"""Rehearsals on disk: what each was begun from, its moves, from which all else follows, and how it went."""

import json
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.rehearsal.exercise import PlayMove, PlayOutcome
from marquetry.core.rehearsal.exercises import EXERCISE_BY_KEY, exercise
from marquetry.core.rehearsal.play import EDITION, Play
from marquetry.core.rehearsal.practice import Practised
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store.database import Connection, transaction

LONGEST_WORDS = 600


@dataclass(frozen=True, slots=True)
class NewRehearsal:
    """What a rehearsal is begun from: `rules` are those in force, `day` today."""

    exercise: str
    build: Build
    rules: Mapping[str, Json]
    seed: int
    day: str
    watch_id: int | None = None
    step: str = ""


@dataclass(frozen=True, slots=True)
class StoredRehearsal:
    """One rehearsal; `ended` is empty and `reached` None while it goes on."""

    id: int
    exercise: str
    watch_id: int | None
    step: str
    sheet: str
    rules: str
    seed: int
    edition: int
    begun: str
    ended: str
    reached: bool | None
    helped: bool
    words: str
    moves: tuple[PlayMove, ...]

    def begun_play(self, connection: Connection) -> Play:
        """The play before its first move. SheetError where it was played by exercises of another edition."""
        if self.edition != EDITION:
            told = f" It was said of it: “{self.words}”" if self.words else ""
            found = f"one of edition {self.edition}.{told}"
            raise SheetError("this rehearsal", "one that the exercises of today can play", found)
        model = connection.model
        build = Build(json.loads(self.sheet), model.anatomy)
        return Play.begin(exercise(self.exercise), build, model.rules(json.loads(self.rules)), self.seed)


def begin(connection: Connection, new: NewRehearsal) -> int:
    """Keep a rehearsal that begins, and return its number. Earlier days' that nobody moved in are let go."""
    with transaction(connection):
        connection.execute(
            """DELETE FROM rehearsal WHERE begun < :day AND ended = ''
                AND NOT EXISTS (SELECT 1 FROM rehearsal_move WHERE rehearsal_id = rehearsal.id)""",
            {"day": new.day},
        )
        cursor = connection.execute(
            """INSERT INTO rehearsal (exercise, watch_id, step, sheet, rules, seed, edition, begun)
               VALUES (:exercise, :watch, :step, :sheet, :rules, :seed, :edition, :begun)""",
            {"exercise": new.exercise, "watch": new.watch_id, "step": new.step, "sheet": new.build.text,
             "rules": json.dumps(dict(new.rules)), "seed": new.seed, "edition": EDITION,
             "begun": new.day},
        )  # fmt: skip
        return int(cursor.lastrowid or 0)


def rehearsal(connection: Connection, number: int) -> StoredRehearsal:
    """One rehearsal; NotFoundError where there is none of that number."""
    row = connection.execute("SELECT * FROM rehearsal WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"rehearsal {number}")
    moves = connection.execute(
        "SELECT what, value, word FROM rehearsal_move WHERE rehearsal_id = :id ORDER BY number",
        {"id": number},
    )
    names = (
        "id", "exercise", "watch_id", "step", "sheet", "rules", "seed", "edition", "begun", "ended", "words",
    )  # fmt: skip
    return StoredRehearsal(
        **{name: row[name] for name in names},
        reached=None if row["reached"] is None else bool(row["reached"]),
        helped=bool(row["helped"]),
        moves=tuple(PlayMove(move["what"], move["value"], move["word"]) for move in moves),
    )


def add_move(connection: Connection, number: int, place: int, move: PlayMove) -> bool:
    """Keep a move at its place, from 1; False where another stands there already: it was sent twice."""
    cursor = connection.execute(
        """INSERT INTO rehearsal_move (rehearsal_id, number, what, value, word)
           VALUES (:id, :number, :what, :value, :word) ON CONFLICT DO NOTHING""",
        {"id": number, "number": place, "what": move.what, "value": move.value, "word": move.word},
    )
    return cursor.rowcount == 1


def end(connection: Connection, number: int, outcome: PlayOutcome, day: str) -> None:
    """Keep how it went; once only."""
    connection.execute(
        """UPDATE rehearsal SET ended = :day, reached = :reached, words = :words
            WHERE id = :id AND ended = ''""",
        {"id": number, "day": day, "reached": int(outcome.reached), "words": outcome.words[:LONGEST_WORDS]},
    )


def help_shown(connection: Connection, number: int) -> None:
    """Note that a sure hand was shown while it went on."""
    connection.execute("UPDATE rehearsal SET helped = 1 WHERE id = :id AND ended = ''", {"id": number})


def practised(connection: Connection) -> list[Practised]:
    """Every play that was carried to its end, in the order in which they ended."""
    rows = connection.execute(
        "SELECT exercise, ended, reached, helped FROM rehearsal WHERE ended <> '' ORDER BY ended, id"
    )
    return [
        Practised(row["exercise"], row["ended"], bool(row["reached"]), bool(row["helped"]))
        for row in rows
        if row["exercise"] in EXERCISE_BY_KEY
    ]


@dataclass(frozen=True, slots=True)
class LastPlay:
    """The last play of an exercise that ended: its number, how it went, and what was said to it."""

    id: int
    exercise: str
    ended: str
    reached: bool
    words: str


def last_plays(connection: Connection) -> dict[str, LastPlay]:
    """The last play that ended of every exercise."""
    rows = connection.execute(
        "SELECT id, exercise, ended, reached, words FROM rehearsal WHERE ended <> '' ORDER BY ended, id"
    )
    return {
        row["exercise"]: LastPlay(
            row["id"], row["exercise"], row["ended"], bool(row["reached"]), row["words"]
        )
        for row in rows
    }


def open_plays(connection: Connection) -> dict[str, int]:
    """Numbers of the plays that were begun, moved in and not ended, the newest of every exercise."""
    rows = connection.execute(
        """SELECT exercise, max(id) AS id FROM rehearsal WHERE ended = ''
              AND EXISTS (SELECT 1 FROM rehearsal_move WHERE rehearsal_id = rehearsal.id) GROUP BY exercise"""
    )
    return {row["exercise"]: row["id"] for row in rows}
