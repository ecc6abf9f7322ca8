"""What may not be in a workshop brought in: rows that no page could show, and rows that belie each other."""

import json
from collections.abc import Callable, Mapping
from typing import get_args

from marquetry.core.brief.topics import TOPIC_BY_KEY
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import report_on
from marquetry.core.making.measures import MEASURE_KINDS, SIZE_KINDS
from marquetry.core.making.parts import made_part
from marquetry.core.measuring.instrument import WAYS
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import Part
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.core.values.verdict import Verdict
from marquetry.store.archive import Contents
from marquetry.store.bench_faults import BENCH_FAULTS
from marquetry.store.database import Connection
from marquetry.store.rehearsal_faults import REHEARSAL_FAULTS
from marquetry.store.rounds import OwnerOfStep
from marquetry.store.story_faults import STORY_FAULTS
from marquetry.store.trade_faults import TRADE_FAULTS


def refuse_unreadable(model: Model, table: str, place: str, row: dict[str, Json]) -> None:
    """Raise SheetError where a page would later meet something that it cannot show."""
    try:
        if table in {"revision", "variant", "donor", "family"}:
            build = Build(json.loads(row["sheet"]), model.anatomy)
            model.rules_of(build).check_all()
            if table == "donor":
                report_on(build, model.rules_of(build))
        elif table in {"part", "part_past"} and "kind" in row:
            Part.of(model.anatomy.kind(row["kind"]), json.loads(row["sheet"]))
        elif table == "reading":
            Dimension(row["value"], row["tol"], Source(row["source"]))
            json.loads(row["taken"])
        elif table in OWN_FAULTS:
            OWN_FAULTS[table](model, row)
        elif table == "house_rule":
            model.rules({row["key"]: json.loads(row["value"])}).check(row["key"])
        elif table == "instrument" and not set(json.loads(row["ways"])) <= set(WAYS):
            raise SheetError("ways", f"some of {', '.join(WAYS)}")  # told with its place below
    except (MarquetryError, ValueError, TypeError, RecursionError) as error:
        raise SheetError(place, "what this program can read", str(error)[:160]) from None


def _refuse_made(model: Model, row: dict[str, Json]) -> None:
    """Raise SheetError for a version of a part that is not made here, or that was asked for no sizes."""
    nothing = Build.empty("nothing", model.anatomy)
    made_part(row["part"], nothing, model.rules_of(nothing))
    for path, (kind, nominal) in json.loads(row["asked"]).items():
        model.anatomy.quantity_at(path)
        told = Dimension(nominal, 0.0, Source.EXACT).value
        if kind not in SIZE_KINDS or (kind in MEASURE_KINDS and not told >= 0):
            raise SheetError(path, "a size that could be asked for")


def _refuse_made_reading(model: Model, row: dict[str, Json]) -> None:
    """Raise where a reading of a made part is none, or of no dimension."""
    model.anatomy.quantity_at(row["path"])
    Dimension(row["value"], row["tol"], Source.MEASURED)


def _refuse_wish(model: Model, row: dict[str, Json]) -> None:
    """Raise SheetError for a wish that its topic would not have kept so; one on an unknown topic is kept."""
    del model
    topic = TOPIC_BY_KEY.get(row["topic"])
    if topic is not None and topic.read(row["value"]) != row["value"]:
        raise SheetError(topic.label, "the wish as it is kept", f"“{row['value'][:40]}”")


def _refuse_round(model: Model, row: dict[str, Json]) -> None:
    """Raise where a measuring round on its way could not be gone on with."""
    plan, taken = json.loads(row["plan"]), json.loads(row["taken"])
    for owner, number, path, *words in plan:
        is_step = owner in get_args(OwnerOfStep) and type(number) is int and isinstance(path, str)
        if not is_step or [type(word) for word in words] != [str, str]:
            raise SheetError("plan", "steps, each with owner, number, path, tool and why")
        if owner == "watch":
            model.anatomy.quantity_at(path)
    gone = [*json.loads(row["done"]), *json.loads(row["skipped"])]
    if any(type(place) is not int or not 0 <= place < len(plan) for place in gone):
        raise SheetError("done", "places of the plan")
    if any(type(value) not in {int, float} for value in taken):
        raise SheetError("taken", "readings")
    for check, verdict in json.loads(row["verdicts"]).items():
        model.check(check)
        Verdict(verdict)


def _refuse_pasted(model: Model, row: dict[str, Json]) -> None:
    """Raise where what was decided about a text is no object; what is odd in it is left out as it is read."""
    del model
    if not isinstance(json.loads(row["decided"]), dict):
        raise SheetError("decided", "an object in braces")


def _refuse_label(model: Model, row: dict[str, Json]) -> None:
    """Raise SheetError for a seller's word that is none, or too long for a line."""
    del model
    if not all(isinstance(row[key], str) for key in ("kind", "label", "means")) or not row["label"].strip():
        raise SheetError("label", "words of a seller, and what they mean")


OWN_FAULTS: Mapping[str, Callable[[Model, dict[str, Json]], None]] = {
    "wish": _refuse_wish,
    "made_version": _refuse_made,
    "made_reading": _refuse_made_reading,
    "measuring_round": _refuse_round,
    "pasted": _refuse_pasted,
    "supplier_label": _refuse_label,
    **TRADE_FAULTS,
    **BENCH_FAULTS,
    **STORY_FAULTS,
    **REHEARSAL_FAULTS,
}
"""Tables whose rows have rules of their own."""

WRONG: Mapping[str, str] = {
    "a day as 2026-11-25T12:00:00Z": """
        SELECT 'day' FROM (
            SELECT saved_at AS day FROM revision UNION ALL SELECT made_at FROM variant
            UNION ALL SELECT taken_apart_at FROM donor UNION ALL SELECT added_at FROM part
            UNION ALL SELECT at FROM wish UNION ALL SELECT at FROM sign_off
            UNION ALL SELECT at FROM made_version UNION ALL SELECT at FROM made_reading
            UNION ALL SELECT at FROM batch UNION ALL SELECT at FROM blank UNION ALL SELECT at FROM blank_stage
            UNION ALL SELECT told_at FROM blank WHERE told_at <> ''
            UNION ALL SELECT at FROM finish_trial
            UNION ALL SELECT at FROM story_note UNION ALL SELECT at FROM import
            UNION ALL SELECT begun_at FROM measuring_round
            UNION ALL SELECT at FROM move UNION ALL SELECT at FROM reading UNION ALL SELECT at FROM photo
            UNION ALL SELECT removed_at FROM watch WHERE removed_at IS NOT NULL
            UNION ALL SELECT removed_at FROM part WHERE removed_at IS NOT NULL)
         WHERE strftime('%Y-%m-%dT%H:%M:%SZ', day, '+0 days') IS NOT day LIMIT 1
    """,
    "an undo or redo to a version that is there": """
        SELECT 'revision' FROM revision
         WHERE (undo_to IS NOT NULL AND NOT EXISTS (SELECT 1 FROM revision AS o
                 WHERE o.watch_id = revision.watch_id AND o.version = revision.undo_to))
            OR (redo_to IS NOT NULL AND NOT EXISTS (SELECT 1 FROM revision AS o
                 WHERE o.watch_id = revision.watch_id AND o.version = revision.redo_to)) LIMIT 1
    """,
    "a piece in a watch that is on the shelf's books": """
        SELECT 'in_watch' FROM in_watch JOIN piece ON piece.id = piece_id WHERE state <> 'shelf' LIMIT 1
    """,
    "fates that undo one of their own watch, and pieces that went with one sold": """
        SELECT 'fate' FROM fate AS f LEFT JOIN fate AS u ON u.id = f.undoes
         WHERE (f.what = 'undo') <> (f.undoes IS NOT NULL)
            OR (f.undoes IS NOT NULL AND (u.watch_id <> f.watch_id OR u.what = 'undo' OR u.id >= f.id))
        UNION ALL
        SELECT 'piece' FROM piece WHERE went_with IS NOT NULL AND state <> 'sold' LIMIT 1
    """,
    "pieces of a line that it has": """
        SELECT 'piece' FROM piece JOIN supply_line ON supply_line.id = line_id
         WHERE line_place IS NULL OR line_place >= supply_line.pieces
            OR supply_line.part_id IS NOT piece.part_id LIMIT 1
    """,
    "steps and bookings that undo one of their own": """
        SELECT 'supply_step' FROM supply_step AS s JOIN supply_step AS u ON u.id = s.undoes
         WHERE u.order_id <> s.order_id OR u.undoes IS NOT NULL OR u.id >= s.id
        UNION ALL
        SELECT 'booking' FROM booking AS b JOIN booking AS u ON u.id = b.undoes
         WHERE u.watch_id <> b.watch_id OR u.undoes IS NOT NULL OR u.minor <> -b.minor LIMIT 1
    """,
    "an owner for every reading": """
        SELECT 'reading' FROM reading
         WHERE (owner = 'watch' AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'part' AND owner_id NOT IN (SELECT id FROM part))
            OR (owner = 'piece' AND owner_id NOT IN (SELECT id FROM piece)) LIMIT 1
    """,
    "an owner for every photograph": """
        SELECT 'photo' FROM photo
         WHERE (owner = 'watch' AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'part' AND owner_id NOT IN (SELECT id FROM part))
            OR (owner = 'piece' AND owner_id NOT IN (SELECT id FROM piece))
            OR (owner = 'donor' AND owner_id NOT IN (SELECT id FROM donor))
            OR (owner = 'made' AND owner_id NOT IN (SELECT id FROM made_version))
            OR (owner IN ('bench', 'proof') AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'trial' AND owner_id NOT IN (SELECT id FROM finish_trial))
            OR (owner = 'blank' AND owner_id NOT IN (SELECT id FROM blank)) LIMIT 1
    """,
    "an import that is over": """
        SELECT 'import' FROM import WHERE state NOT IN ('done', 'failed') LIMIT 1
    """,
    "an owner for every text that is being read": """
        SELECT 'pasted' FROM pasted
         WHERE (owner = 'watch' AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'part' AND owner_id NOT IN (SELECT id FROM part)) LIMIT 1
    """,
    "pieces where the newest sheet of their watch has them": """
        SELECT 'in_watch' FROM in_watch
          JOIN watch ON watch.id = in_watch.watch_id
          JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
         WHERE coalesce(json_extract(sheet, '$.parts.' || CASE
                   WHEN slot GLOB '*.[0-9]*' THEN replace(slot, '.', '[') || ']' ELSE slot END
                   || '.shelf_piece'), -1) <> piece_id LIMIT 1
    """,
}
"""What may not be in a workshop, each with the query that finds it."""


def _refuse_wrong_links(connection: Connection) -> None:
    """Raise SheetError where rows say of each other what cannot be."""
    for expected, query in WRONG.items():
        found = connection.execute(query).fetchone()
        if found is not None:
            raise SheetError(found[0], expected)


def refuse_loose_ends(connection: Connection, contents: Contents) -> None:
    """Raise SheetError where rows name what is not there: pictures, or owners of readings."""
    wanted = {row[0] for row in connection.execute("SELECT DISTINCT digest FROM photo")}
    if wanted - contents.lost != set(contents.photographs):
        raise SheetError("photographs", "a picture for every row and a row for every picture")
    _refuse_wrong_links(connection)
    broken = connection.execute("PRAGMA foreign_key_check").fetchone()
    if broken is not None:
        raise SheetError(broken[0], "rows that name only what is there")
    for piece in connection.execute(
        "SELECT piece.id, kind, piece.sheet FROM piece JOIN part ON part.id = part_id"
        " WHERE piece.sheet IS NOT NULL"
    ):
        refuse_unreadable(
            connection.model, "part", f"piece {piece['id']}", {"kind": piece["kind"], "sheet": piece["sheet"]}
        )
