"""The story of a watch, read out of everything that is stored of it; nothing of it is written twice."""

import sqlite3
from collections.abc import Iterator

from marquetry.core.bench.log import standing
from marquetry.core.proving.record import proofs_standing
from marquetry.core.story.fates import fate_moments
from marquetry.core.story.moment import Moment, StoryPlace, Trade, in_order
from marquetry.core.story.told import (
    EditTold,
    edit_moment,
    entry_moment,
    part_label,
    proof_moment,
    wish_moment,
)
from marquetry.core.values.figures import figure
from marquetry.core.values.money import Money
from marquetry.store import bench_log, briefs, fates, proofs
from marquetry.store.database import Connection


def story_of(connection: Connection, watch_id: int) -> list[Moment]:
    """Everything that happened to a watch, the newest first."""
    tellers = (
        _edits, _bench, _proofs, _brief, _orders, _money, _quotes, _made, _batches, _trials, _variants,
        _series, _lessons, _pictures, _notes, _fates,
    )  # fmt: skip
    return in_order(moment for teller in tellers for moment in teller(connection, watch_id))


def _rows(connection: Connection, query: str, watch_id: int) -> sqlite3.Cursor:
    return connection.execute(query, {"id": watch_id})


def _edits(connection: Connection, watch_id: int) -> Iterator[Moment]:
    read = _read(connection, watch_id)
    query = """SELECT version, change, undo_to, redo_to, saved_at,
                      1000 * strftime('%s', saved_at) AS at_ms FROM revision INDEXED BY revision_told
                WHERE watch_id = :id ORDER BY version"""
    edits = [
        EditTold(
            row["version"], row["change"], row["undo_to"], row["redo_to"], row["at_ms"],
            read.get(row["saved_at"], ""),
        )
        for row in _rows(connection, query, watch_id)
    ]  # fmt: skip
    changes = {edit.version: edit.change for edit in edits}
    for edit in edits:
        yield edit_moment(edit, changes, connection.model.anatomy)


def _read(connection: Connection, watch_id: int) -> dict[str, str]:
    """What was measured in each second, and by what; nothing where several dimensions were."""
    query = """SELECT at, path, value, tol, instrument, count(*) AS many FROM reading
                WHERE source = 'measured' AND owner = 'watch' AND owner_id = :id GROUP BY at"""
    anatomy, told = connection.model.anatomy, {}
    for row in _rows(connection, query, watch_id):
        if row["many"] == 1:
            unit = anatomy.quantity_at(row["path"]).unit
            value = f"{figure(row['value'])} ±{figure(row['tol'], 2, unit)}"
            told[row["at"]] = f"{value}, {row['instrument'].lower()}" if row["instrument"] else value
    return told


def _bench(connection: Connection, watch_id: int) -> Iterator[Moment]:
    entries = bench_log.entries_of(connection, watch_id)
    kept = {entry.key for entry in standing(entries)}
    for entry in entries:
        moment = entry_moment(entry, undone=entry.key not in kept)
        if moment is not None:
            yield moment


def _proofs(connection: Connection, watch_id: int) -> Iterator[Moment]:
    records = proofs.proofs_of(connection, watch_id)
    kept = {proof.key for proof in proofs_standing(records)}
    for proof in records:
        moment = proof_moment(proof, undone=proof.key not in kept)
        if moment is not None:
            yield moment


def _brief(connection: Connection, watch_id: int) -> Iterator[Moment]:
    brief = briefs.brief_of(connection, watch_id)
    query = "SELECT id, 1000 * strftime('%s', at) AS at_ms FROM wish WHERE watch_id = :id"
    when = {row["id"]: row["at_ms"] for row in _rows(connection, query, watch_id)}
    for wish in brief.wishes:
        for step in wish.steps:
            yield wish_moment(step, when[step.number])
    query = "SELECT *, 1000 * strftime('%s', at) AS at_ms FROM sign_off WHERE watch_id = :id"
    for row in _rows(connection, query, watch_id):
        words = f"Version {row['version']} signed off by {row['name']}"
        said = f"{words}. {row['words']}" if row["words"] else words
        yield Moment(row["at_ms"], "decision", said, StoryPlace("brief"), by=row["name"])


SUPPLY_TOLD = {
    "sent": "sent", "arrived": "arrived", "faulty": "faulty", "returned": "returned to the seller",
    "refunded": "refunded", "lost": "lost", "called off": "called off",
}  # fmt: skip


def _orders(connection: Connection, watch_id: int) -> Iterator[Moment]:
    lines = """SELECT line.order_id, line.pieces, coalesce(part.name, sundry.name) AS name,
                      supplier.name AS seller, 1000 * strftime('%s', day) AS at_ms
                 FROM supply_line AS line JOIN supply_order ON supply_order.id = line.order_id
                 JOIN supplier ON supplier.id = supply_order.supplier_id
                 LEFT JOIN part ON part.id = line.part_id LEFT JOIN sundry ON sundry.id = line.sundry_id
                WHERE line.watch_id = :id ORDER BY line.id"""
    for row in _rows(connection, lines, watch_id):
        words = f"{row['pieces']} × {row['name']} ordered from {row['seller']}"
        yield Moment(row["at_ms"], "order", words, StoryPlace("order", str(row["order_id"])), clock=False)
    steps = """SELECT step.order_id, step.what, step.pieces, step.words, seller.name AS seller,
                      coalesce(part.name, sundry.name, '') AS name, 1000 * strftime('%s', step.day) AS at_ms,
                      EXISTS (SELECT 1 FROM supply_step AS later WHERE later.undoes = step.id) AS undone
                 FROM supply_step AS step JOIN supply_order ON supply_order.id = step.order_id
                 JOIN supplier AS seller ON seller.id = supply_order.supplier_id
                 LEFT JOIN supply_line AS line ON line.id = step.line_id
                 LEFT JOIN part ON part.id = line.part_id LEFT JOIN sundry ON sundry.id = line.sundry_id
                WHERE step.undoes IS NULL AND (line.watch_id = :id OR (step.line_id IS NULL AND step.order_id
                      IN (SELECT order_id FROM supply_line WHERE watch_id = :id))) ORDER BY step.id"""
    for row in _rows(connection, steps, watch_id):
        what = (
            f"{row['pieces']} × {row['name']}" if row["name"] else f"Order {row['order_id']}, {row['seller']}"
        )
        words = f"{what}: {SUPPLY_TOLD[row['what']]}" + (f". {row['words']}" if row["words"] else "")
        place = StoryPlace("order", str(row["order_id"]))
        yield Moment(row["at_ms"], "order", words, place, clock=False, undone=bool(row["undone"]))


def _money(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT kind, words, minor, currency, 1000 * strftime('%s', day) AS at_ms,
                      EXISTS (SELECT 1 FROM booking AS later WHERE later.undoes = booking.id) AS undone
                 FROM booking WHERE watch_id = :id AND undoes IS NULL ORDER BY id"""
    for row in _rows(connection, query, watch_id):
        words = f"{row['kind'].capitalize()}: {row['words']}, {Money(row['minor'], row['currency'])}"
        undone = bool(row["undone"])
        yield Moment(row["at_ms"], "money", words, StoryPlace("money"), clock=False, undone=undone)


def _quotes(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT number, withdrawn, json_extract(told, '$.total') AS total,
                      1000 * strftime('%s', day) AS at_ms FROM quote WHERE watch_id = :id ORDER BY number"""
    for row in _rows(connection, query, watch_id):
        place = StoryPlace("quote", str(row["number"]))
        words, undone = f"Quote {row['number']} told: {row['total']}", bool(row["withdrawn"])
        yield Moment(row["at_ms"], "decision", words, place, clock=False, undone=undone)


MADE_TOLD = {"asked": "asked for", "good": "good", "spoilt": "spoilt"}


def _made(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT version.*, 1000 * strftime('%s', version.at) AS at_ms,
                      count(reading.path) AS sizes, 1000 * strftime('%s', max(reading.at)) AS read_ms
                 FROM made_version AS version LEFT JOIN made_reading AS reading ON version_id = version.id
                WHERE watch_id = :id GROUP BY version.id ORDER BY version.id"""
    for row in _rows(connection, query, watch_id):
        name = f"{part_label(connection.model.anatomy, row['part'])}, v{row['number']}"
        by = ", ".join(filter(None, (row["printer"], row["material"])))
        words = f"{name}: {MADE_TOLD[row['state']]}" + (f", {by}" if by else "")
        said = f"{words}. {row['notes']}" if row["notes"] else words
        place = StoryPlace("made", row["part"])
        yield Moment(row["at_ms"], "making", said, place)
        if row["sizes"]:
            sizes = "one size" if row["sizes"] == 1 else f"{row['sizes']} sizes"
            yield Moment(row["read_ms"], "measuring", f"{name}: {sizes} measured", place)


def _batches(connection: Connection, watch_id: int) -> Iterator[Moment]:
    """Blanks bought, taken through a stage, and what became of them: those of one moment in one sentence."""
    for query in BLANK_MOMENTS:
        for row in _rows(connection, query, watch_id):
            numbers = ", ".join(sorted(row["numbers"].split(","), key=int))
            which = f"blank {numbers}" if row["count"] == 1 else f"blanks {numbers}"
            words = f"{row['name']}: {which} {row['told']}"
            yield Moment(row["at_ms"], "making", words, StoryPlace("made"))


BLANKS = "FROM blank JOIN batch ON batch.id = batch_id"
MOMENT = "count(*) AS count, group_concat(blank.number) AS numbers, batch.name"
BLANK_MOMENTS = (
    f"""SELECT {MOMENT}, 'bought' AS told, 1000 * strftime('%s', blank.at) AS at_ms {BLANKS}
         WHERE watch_id = :id GROUP BY batch_id, blank.at ORDER BY min(blank.id)""",  # constants
    f"""SELECT {MOMENT}, 'through ' || stage AS told, 1000 * strftime('%s', blank_stage.at) AS at_ms
          {BLANKS}
          JOIN blank_stage ON blank_id = blank.id
         WHERE watch_id = :id GROUP BY batch_id, stage, blank_stage.at
         ORDER BY min(blank_stage.id)""",  # constants
    f"""SELECT {MOMENT}, 1000 * strftime('%s', told_at) AS at_ms,
              CASE state WHEN 'test' THEN 'kept as a test piece' ELSE state END
              || CASE WHEN spoilt_at <> '' THEN ' at ' || spoilt_at ELSE '' END
              || CASE WHEN why <> '' THEN ': ' || why ELSE '' END AS told {BLANKS}
         WHERE watch_id = :id AND state <> 'work'
         GROUP BY batch_id, state, spoilt_at, why, told_at ORDER BY min(blank.id)""",  # constants
)
"""When blanks were bought, went through a stage, and came out as they did."""


def _trials(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT kind, what, layers, did, chosen, 1000 * strftime('%s', at) AS at_ms FROM finish_trial
                WHERE watch_id = :id ORDER BY id"""
    for row in _rows(connection, query, watch_id):
        layers = f", {row['layers']} layers" if row["layers"] > 1 else ""
        words = f"Trial of {row['kind']}: {row['what']}{layers}" + (f". {row['did']}" if row["did"] else "")
        yield Moment(
            row["at_ms"], "making", f"{words}{' Chosen.' if row['chosen'] else ''}", StoryPlace("made")
        )


def _variants(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = "SELECT name, 1000 * strftime('%s', made_at) AS at_ms FROM variant WHERE watch_id = :id"
    for row in _rows(connection, query, watch_id):
        yield Moment(row["at_ms"], "decision", f"Kept as another way: {row['name']}", StoryPlace("variant"))


def _series(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT number, buyer, words, 1000 * strftime('%s', day) AS at_ms FROM series_number
                WHERE watch_id = :id ORDER BY number"""
    for row in _rows(connection, query, watch_id):
        words = f"Number {row['number']} promised to {row['buyer']}" + (
            f". {row['words']}" if row["words"] else ""
        )
        yield Moment(row["at_ms"], "decision", words, StoryPlace("series"), clock=False)


def _lessons(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT id, words, withdrawn, 1000 * strftime('%s', day) AS at_ms FROM lesson
                WHERE watch_id = :id ORDER BY id"""
    for row in _rows(connection, query, watch_id):
        place, undone = StoryPlace("lesson", str(row["id"])), bool(row["withdrawn"])
        yield Moment(row["at_ms"], "note", f"Lesson: {row['words']}", place, clock=False, undone=undone)
    query = """SELECT lesson_id, what, lesson_turn.words, lesson.words AS lesson,
                      1000 * strftime('%s', lesson_turn.day) AS at_ms
                 FROM lesson_turn JOIN lesson ON lesson.id = lesson_id WHERE lesson_turn.watch_id = :id"""
    for row in _rows(connection, query, watch_id):
        held = "Lesson held" if row["what"] == "held" else "Lesson outgrown"
        words = f"{held}: {row['lesson']}" + (f" {row['words']}" if row["words"] else "")
        yield Moment(row["at_ms"], "note", words, StoryPlace("lesson", str(row["lesson_id"])), clock=False)


PICTURE_PLACES = {"watch": StoryPlace("brief"), "bench": StoryPlace("step"), "proof": StoryPlace("proof")}


def _pictures(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT owner, digest, caption, 1000 * strftime('%s', at) AS at_ms FROM photo
                WHERE owner IN ('watch', 'bench', 'proof') AND owner_id = :id
                  AND id NOT IN (SELECT photo_id FROM story_note WHERE photo_id IS NOT NULL) ORDER BY id"""
    for row in _rows(connection, query, watch_id):
        words = row["caption"] or "Picture"
        yield Moment(row["at_ms"], "picture", words, PICTURE_PLACES[row["owner"]], photo=row["digest"])


def _notes(connection: Connection, watch_id: int) -> Iterator[Moment]:
    query = """SELECT story_note.*, coalesce(digest, '') AS digest,
                      1000 * strftime('%s', story_note.at) AS at_ms
                 FROM story_note LEFT JOIN photo ON photo.id = photo_id
                WHERE watch_id = :id AND withdrawn = 0 ORDER BY story_note.id"""
    for row in _rows(connection, query, watch_id):
        place = StoryPlace("part", row["about"]) if row["about"] else StoryPlace()
        trade: Trade = "decision" if row["kind"] == "decision" else "note"
        yield Moment(row["at_ms"], trade, row["words"], place, photo=row["digest"], note=row["id"])


def _fates(connection: Connection, watch_id: int) -> Iterator[Moment]:
    yield from fate_moments(fates.fates_of(connection, watch_id))


def matching(moments: list[Moment], typed: str) -> list[Moment]:
    """Those with all the words that were typed, each by its first letters; accents make no difference.

    The index is made of the words as they are told and thrown away again: kept, it would be a second copy.
    """
    words = [word for word in "".join(c if c.isalnum() else " " for c in typed).split() if word]
    if not words:
        return moments
    index = sqlite3.connect(":memory:")
    try:
        index.execute(
            "CREATE VIRTUAL TABLE told USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2')"
        )
        rows = ((at, f"{moment.words} {moment.by}") for at, moment in enumerate(moments, 1))
        index.executemany("INSERT INTO told (rowid, words) VALUES (?, ?)", rows)
        query = " ".join(f'"{word}"*' for word in words[:12])
        found = index.execute("SELECT rowid FROM told WHERE told MATCH ? ORDER BY rowid", (query,))
        return [moments[row[0] - 1] for row in found]
    finally:
        index.close()
