"""Lessons of builds: kept with their step, and shown there where part, kind or school is the same again."""

from dataclasses import dataclass

from marquetry.core.bench.procedure import WatchStep
from marquetry.core.bench.situation import Situation
from marquetry.core.sheet.part import PART_LINK
from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection


@dataclass(frozen=True, slots=True)
class Lesson:
    """One lesson: the watch and step it comes from, what it is about, its words."""

    id: int
    watch_id: int | None
    watch: str
    step: str
    kind: str
    part_id: int | None
    school: str
    mishap: str
    words: str
    day: str


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


def add_lesson(connection: Connection, watch_id: int, new: NewLesson) -> int:
    """Keep a lesson and return its number."""
    cursor = connection.execute(
        """INSERT INTO lesson (watch_id, step, kind, part_id, school, mishap, words, day)
           VALUES (:watch, :step, :kind, :part, :school, :mishap, :words, :day)""",
        {"watch": watch_id, "step": new.step, "kind": new.kind, "part": new.part_id, "school": new.school,
         "mishap": new.mishap, "words": new.words, "day": new.day},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def withdraw_lesson(connection: Connection, number: int) -> None:
    """Show a lesson no more; NotFoundError where there is none."""
    row = connection.execute(
        "UPDATE lesson SET withdrawn = 1 WHERE id = :id RETURNING id",
        {"id": number},
    ).fetchone()
    if row is None:
        raise NotFoundError(f"lesson {number}")


def lessons(connection: Connection) -> list[Lesson]:
    """Every lesson that is shown, the newest first."""
    rows = connection.execute(
        """SELECT lesson.*, coalesce(json_extract(sheet, '$.name'), '') AS watch FROM lesson
             LEFT JOIN watch ON watch.id = lesson.watch_id
             LEFT JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
            WHERE withdrawn = 0 ORDER BY lesson.id DESC"""
    )
    names = ("id", "watch_id", "watch", "step", "kind", "part_id", "school", "mishap", "words", "day")
    return [Lesson(*(row[name] for name in names)) for row in rows]


def lessons_at(known: list[Lesson], step: WatchStep, situation: Situation) -> list[Lesson]:
    """Those that belong to a step of this watch: by the same part, kind or school, or by the step alone."""
    return [one for one in known if one.step == step.id and _shares(one, situation)]


def _shares(one: Lesson, situation: Situation) -> bool:
    build = situation.build
    part = build.at(one.kind) if one.kind else None
    if one.part_id is not None and isinstance(part, dict) and part.get(PART_LINK) == one.part_id:
        return True
    if one.school:
        key, _, choice = one.school.partition("=")
        return key in situation.rules.model.schools and situation.school(key) == choice
    return not one.kind or build.has(one.kind)
