"""Lessons of builds: kept with step, kind, part or school, and shown where the same comes up again.

What later builds say of one is added to it: that it held again, that it is outgrown and is shown no more.
"""

import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

from marquetry.core.bench.procedure import Procedure, WatchStep
from marquetry.core.bench.situation import Situation
from marquetry.core.sheet.part import PART_LINK
from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection

TurnWhat = Literal["held", "outgrown", "shown"]


@dataclass(frozen=True, slots=True)
class LessonTurn:
    """What a later build said of a lesson."""

    what: TurnWhat
    watch_id: int | None
    watch: str
    words: str
    day: str


@dataclass(frozen=True, slots=True)
class Lesson:
    """One lesson: where it comes from, what it is about, its words, what was said of it since."""

    id: int
    watch_id: int | None
    watch: str
    step: str
    kind: str
    part_id: int | None
    part: str
    school: str
    mishap: str
    words: str
    day: str
    turns: tuple[LessonTurn, ...] = ()

    @property
    def held(self) -> int:
        """How often a later build found it right."""
        return sum(turn.what == "held" for turn in self.turns)

    @property
    def is_outgrown(self) -> bool:
        """Whether it is shown no more."""
        last = next((turn for turn in reversed(self.turns) if turn.what != "held"), None)
        return last is not None and last.what == "outgrown"


@dataclass(frozen=True, slots=True)
class NewLesson:
    """A lesson as it is noted: `kind` of part, the catalogue's part, `school` as `key=choice`."""

    step: str
    words: str
    day: str
    kind: str = ""
    part_id: int | None = None
    school: str = ""
    mishap: str = ""


def add_lesson(connection: Connection, watch_id: int | None, new: NewLesson) -> int:
    """Keep a lesson of a watch, or of none, and return its number."""
    cursor = connection.execute(
        """INSERT INTO lesson (watch_id, step, kind, part_id, school, mishap, words, day)
           VALUES (:watch, :step, :kind, :part, :school, :mishap, :words, :day)""",
        {"watch": watch_id, "step": new.step, "kind": new.kind, "part": new.part_id, "school": new.school,
         "mishap": new.mishap, "words": new.words, "day": new.day},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def withdraw_lesson(connection: Connection, number: int, *, withdrawn: bool = True) -> None:
    """Show a lesson no more, or again; NotFoundError where there is none."""
    row = connection.execute(
        "UPDATE lesson SET withdrawn = :is WHERE id = :id RETURNING id",
        {"is": int(withdrawn), "id": number},
    ).fetchone()
    if row is None:
        raise NotFoundError(f"lesson {number}")


def turn_lesson(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection, number: int, what: TurnWhat, watch_id: int | None, words: str, day: str
) -> None:
    """Note what a build said of a lesson; NotFoundError where there is none."""
    if number not in {one.id for one in lessons(connection)}:
        raise NotFoundError(f"lesson {number}")
    connection.execute(
        """INSERT INTO lesson_turn (lesson_id, what, watch_id, words, day)
           VALUES (:id, :what, :watch, :words, :day)""",
        {"id": number, "what": what, "watch": watch_id, "words": words, "day": day},
    )


NAME = """coalesce((SELECT json_extract(sheet, '$.name') FROM revision JOIN watch ON watch.id = watch_id
          AND revision.version = watch.version WHERE watch.id = {table}.watch_id), '') AS watch"""


def lessons(connection: Connection) -> list[Lesson]:
    """Every lesson that was not withdrawn, outgrown ones too, the newest first."""
    said: dict[int, list[LessonTurn]] = {}
    for row in connection.execute(
        f"SELECT *, {NAME.format(table='lesson_turn')} FROM lesson_turn ORDER BY id"
    ):
        turn = LessonTurn(row["what"], row["watch_id"], row["watch"], row["words"], row["day"])
        said.setdefault(row["lesson_id"], []).append(turn)
    rows = connection.execute(
        f"""SELECT lesson.*, coalesce(part.name, '') AS part, {NAME.format(table="lesson")} FROM lesson
              LEFT JOIN part ON part.id = part_id WHERE withdrawn = 0 ORDER BY lesson.id DESC"""
    )
    return [_lesson(row, said.get(row["id"], ())) for row in rows]


def _lesson(row: sqlite3.Row, turns: Iterable[LessonTurn]) -> Lesson:
    names = (
        "id", "watch_id", "watch", "step", "kind", "part_id", "part", "school", "mishap", "words", "day",
    )  # fmt: skip
    return replace(Lesson(*(row[name] for name in names)), turns=tuple(turns))


def shown_lessons(connection: Connection) -> list[Lesson]:
    """Those that are shown at work: not withdrawn, not outgrown."""
    return [one for one in lessons(connection) if not one.is_outgrown]


def lessons_at(known: Iterable[Lesson], step: WatchStep, procedure: Procedure) -> list[Lesson]:
    """Those that belong to a step of this watch: by the same part, kind or school, or by the step alone.

    One without a step is shown once: at the first step about its part, or at the first of all.
    """
    return [
        one for one in known if step.id == _shown_at(one, procedure) and _shares(one, procedure.situation)
    ]


def _shown_at(one: Lesson, procedure: Procedure) -> str:
    about = (step.id for step in procedure.steps if not one.kind or one.kind in step.parts)
    return one.step or next(about, "")


def lessons_about(known: Iterable[Lesson], kind: str, part_id: int | None = None) -> list[Lesson]:
    """Those about a kind of part: of another part of the catalogue only where they name none."""
    return [one for one in known if one.kind == kind and one.part_id in {None, part_id}]


def lessons_by_school(known: Iterable[Lesson]) -> dict[str, list[Lesson]]:
    """Those about a question on which builders disagree, by the question."""
    found: dict[str, list[Lesson]] = {}
    for one in known:
        if one.school:
            found.setdefault(one.school.partition("=")[0], []).append(one)
    return found


def _shares(one: Lesson, situation: Situation) -> bool:
    build = situation.build
    part = build.at(one.kind) if one.kind else None
    if one.part_id is not None and isinstance(part, dict) and part.get(PART_LINK) == one.part_id:
        return True
    if one.school:
        key, _, choice = one.school.partition("=")
        return key in situation.rules.model.schools and situation.school(key) == choice
    return not one.kind or build.has(one.kind)
