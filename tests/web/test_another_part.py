"""Another part is another part: nothing of the old one stays in the watch, and undo is whole."""

import json
import uuid
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.store import shelf
from marquetry.store.database import Connection
from marquetry.store.watches import StoredWatch, watch
from tests.strategies import case_build

TRIED = {"dial_on": {"fits": True}, "insert_in_bezel": {"fits": True}}
SPARE = "Spare Tern"


def brought(client: TestClient, connection: Connection, source: str) -> StoredWatch:
    """A watch whose movement is only described in it, with what was said and tried of it."""
    document: Any = case_build(1).document
    document["parts"]["movement"] |= {
        "name": SPARE,
        "calibres": ["Tern 27"],
        "diameter": {"value": 26.31, "tol": 0.02, "source": source},
    }
    document |= {"tried": TRIED, "together": [["movement", "dial", "hands"]]}
    answer = client.post("/sheets", files={"sheet": ("x.json", json.dumps(document).encode())})
    return watch(connection, int(answer.url.path.rsplit("/", 1)[-1]))


def pieces_of(connection: Connection, name: str) -> list[tuple[str, str, bool]]:
    """State, condition and whether it is in a watch of every piece of that name."""
    rows = connection.execute(
        """SELECT piece.state, piece.condition, part.kind, part.sheet,
                  EXISTS (SELECT 1 FROM in_watch WHERE piece_id = piece.id) AS used
             FROM piece JOIN part ON part.id = piece.part_id"""
    ).fetchall()
    return [(r["state"], r["condition"], bool(r["used"])) for r in rows if name in r["sheet"]]


def tap(client: TestClient, stored: StoredWatch, **entry: str) -> None:
    sent = {"entries": [{"key": uuid.uuid4().hex, "step": "", **entry}]}
    client.post(f"/watches/{stored.id}/build/entries", json=sent)


@pytest.mark.parametrize("source", ["measured", "listed"])
def test_of_a_movement_that_was_faulty_nothing_stays(
    client: TestClient, connection: Connection, source: str
) -> None:
    stored = brought(client, connection, source)
    form = {"step": "check_movement", "kind": "movement_faulty", "way": "other"}
    answer = client.post(f"/watches/{stored.id}/build/mishap", data=form)
    assert answer.url.path == f"/watches/{stored.id}/parts", "its figures come before the work goes on"
    after = watch(connection, stored.id)
    sizes = after.build.sizes_of("movement")
    assert sizes
    assert not [path for path, found in sizes.items() if found.source.is_known]
    for gone in (SPARE, "Tern 27", "26.31"):
        assert gone not in after.build.text
    assert list(after.build.raw["tried"]) == ["insert_in_bezel"], "what was tried with it lapses, no more"
    assert after.build.raw["together"] == [["dial", "hands"]]
    assert pieces_of(connection, SPARE) == [("shelf", "faulty", False)]
    tap(client, stored, what="undo")
    back = watch(connection, stored.id).build
    assert back.at("movement.name") == SPARE
    assert back.raw["tried"] == stored.build.raw["tried"]
    assert pieces_of(connection, SPARE) == [("shelf", "new", True)], "one piece, and it never failed"


def test_a_part_of_the_shelf_in_the_place_of_another_leaves_one_piece_whatever_is_undone(
    client: TestClient, connection: Connection
) -> None:
    stored = brought(client, connection, "measured")
    row = connection.execute(
        "SELECT id FROM part WHERE kind = 'movement' AND removed_at IS NULL LIMIT 1"
    ).fetchone()
    chosen = shelf.part(connection, row["id"])
    form = {"version": str(stored.version), "part": str(chosen.id)}
    for stale in ("99", str(stored.version + 1)):
        refused = client.post(f"/watches/{stored.id}/filled", data={**form, "version": stale})
        assert refused.status_code == 409
    assert not pieces_of(connection, SPARE)
    client.post(f"/watches/{stored.id}/filled", data=form)
    now = watch(connection, stored.id)
    assert now.build.at("movement.name") == chosen.part.name
    assert pieces_of(connection, SPARE) == [("shelf", "new", False)]
    client.post(f"/watches/{stored.id}/undo", data={"version": str(now.version)})
    assert watch(connection, stored.id).build.at("movement.name") == SPARE
    assert pieces_of(connection, SPARE) == [("shelf", "new", True)]
