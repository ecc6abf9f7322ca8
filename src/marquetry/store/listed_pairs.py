"""Listed figures with what was measured of them later, read from the readings; nothing of it is kept twice.

Of a piece: its newest value, where that was measured, and what its part listed before. Of a part of the
catalogue: the same.
Of a part that is only described in a watch: what was listed there before, where it is the same part still.
"""

from collections.abc import Iterator

from marquetry.core.fit.sellers import KIND_OF_NATURE
from marquetry.core.story.worth import ListedPair
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection

PART_OF_PATH = "substr(r.path, 1, instr(r.path, '.') - 1)"
OF_PIECES = """
    SELECT r.path, r.value, r.tol, part.id AS part_id, part.kind, part.name,
           coalesce(s.name, t.name, '') AS supplier,
           (SELECT l.id FROM reading AS l WHERE l.source = 'listed' AND l.path = r.path AND l.id < r.id
               AND ((l.owner = 'piece' AND l.owner_id = piece.id)
                 OR (l.owner = 'part' AND l.owner_id = part.id))
             ORDER BY l.id DESC LIMIT 1) AS listed_id
      FROM reading AS r JOIN piece ON piece.id = r.owner_id JOIN part ON part.id = piece.part_id
      LEFT JOIN supplier AS s ON s.id = piece.supplier_id
      LEFT JOIN supplier AS t ON t.id = part.supplier_id
     WHERE r.source = 'measured' AND r.owner = 'piece'
       AND NOT EXISTS (SELECT 1 FROM reading AS n WHERE n.owner = 'piece' AND n.owner_id = r.owner_id
                          AND n.path = r.path AND n.id > r.id)
"""
OF_PARTS = """
    SELECT r.path, r.value, r.tol, part.id AS part_id, part.kind, part.name,
           coalesce(supplier.name, '') AS supplier,
           (SELECT l.id FROM reading AS l WHERE l.owner = 'part' AND l.owner_id = part.id
               AND l.path = r.path AND l.source = 'listed' AND l.id < r.id
             ORDER BY l.id DESC LIMIT 1) AS listed_id
      FROM reading AS r JOIN part ON part.id = r.owner_id LEFT JOIN supplier ON supplier.id = supplier_id
     WHERE r.source = 'measured' AND r.owner = 'part'
       AND NOT EXISTS (SELECT 1 FROM reading AS n WHERE n.owner = 'part' AND n.owner_id = r.owner_id
                          AND n.path = r.path AND n.id > r.id)
"""
OF_WATCHES = f"""
    SELECT r.path, r.value, r.tol, 0 AS part_id, '' AS kind, '' AS name, '' AS supplier, l.id AS listed_id
      FROM reading AS r JOIN reading AS l ON l.id = (
           SELECT max(id) FROM reading WHERE owner = 'watch' AND owner_id = r.owner_id AND path = r.path
              AND id < r.id)
      JOIN watch ON watch.id = r.owner_id
      JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
     WHERE r.source = 'measured' AND r.owner = 'watch' AND l.source = 'listed'
       AND json_extract(sheet, '$.parts.' || {PART_OF_PATH} || '.shelf_part') IS NULL
       AND json_extract(sheet, '$.parts.' || {PART_OF_PATH} || '.name') IS (
           SELECT json_extract(was.sheet, '$.parts.' || {PART_OF_PATH} || '.name')
             FROM revision AS was WHERE was.watch_id = r.owner_id AND was.saved_at >= l.at
            ORDER BY was.version LIMIT 1)
"""


def listed_pairs(connection: Connection) -> list[ListedPair]:
    """Every pair of the workshop, in the order in which they were measured by owner."""
    return [pair for query in (OF_PIECES, OF_PARTS, OF_WATCHES) for pair in _pairs(connection, query)]


def _pairs(connection: Connection, query: str) -> Iterator[ListedPair]:
    rows = connection.execute(
        f"""SELECT found.*, reading.value AS listed, reading.tol AS claimed FROM ({query}) AS found
              JOIN reading ON reading.id = listed_id ORDER BY listed_id"""
    )
    anatomy = connection.model.anatomy
    for row in rows:
        try:
            prefix = f"{anatomy.kind(row['kind']).prefix}." if row["kind"] else ""
            quantity = anatomy.quantity_at(f"{prefix}{row['path']}")
        except NotFoundError:
            continue  # of a part that another model described
        yield ListedPair(
            row["supplier"],
            KIND_OF_NATURE[quantity.nature],
            quantity.unit,
            Dimension(row["listed"], row["claimed"], Source.LISTED),
            Dimension(row["value"], row["tol"], Source.MEASURED),
            row["name"],
            f"{prefix}{row['path']}",
            row["part_id"],
        )
