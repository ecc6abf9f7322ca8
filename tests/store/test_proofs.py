"""Proofs on disk: added, never changed; sent twice, kept once; all or none."""

import sqlite3
from dataclasses import replace
from pathlib import Path

import pytest

from marquetry.core.proving.record import Proof
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store import photos, proofs
from marquetry.store.database import connect
from marquetry.store.photo_light import patch_light
from tests.strategies import MODEL

FIRST = Proof(
    "first-001", "dry", "case", 10, "passed", "held", "chamber", "Kittiwake Bench", {"held_bar": 5.0}
)


def test_records_come_back_as_they_went_in_once_each(database: Path) -> None:
    connection = connect(database, MODEL)
    before = proofs.proofs_of(connection, 1)
    proofs.keep_proofs(connection, 1, [FIRST], "0,0,1\n")
    proofs.keep_proofs(
        connection, 1, [replace(FIRST, words="another"), replace(FIRST, key="second-02", at_ms=5)]
    )
    found = proofs.proofs_of(connection, 1)[len(before) :]
    assert [(proof.key, proof.words) for proof in found] == [("second-02", "held"), ("first-001", "held")]
    assert replace(found[1], id=0) == FIRST
    assert proofs.series_of(connection, 1, found[1].id) == "0,0,1\n"
    for watch, number in ((1, found[0].id), (2, found[1].id)):
        with pytest.raises(NotFoundError):
            proofs.series_of(connection, watch, number)
    connection.close()


def test_a_record_that_cannot_be_takes_the_others_with_it(database: Path) -> None:
    connection = connect(database, MODEL)
    count = len(proofs.proofs_of(connection, 2))
    wrong = replace(FIRST, key="wrong-0001", at_ms=-1)
    with pytest.raises(sqlite3.IntegrityError):
        proofs.keep_proofs(connection, 2, [FIRST, wrong])
    with pytest.raises(SheetError):
        proofs.keep_proofs(
            connection, 2, [FIRST, replace(FIRST, key="long-00001", result={"a": "x" * 500_000})]
        )
    assert len(proofs.proofs_of(connection, 2)) == count
    connection.close()


def test_a_patch_of_a_picture_is_read_in_linear_light(database: Path) -> None:
    """The demo's own pictures of lume: what was drawn into them by a law comes out again."""
    connection = connect(database, MODEL)
    dark = [photo for photo in photos.photos_of(connection, "proof", 4) if photo.caption == "lume"]
    lights = [
        patch_light(database, photo, {"dial": (450.0, 130.0), "lamp": (70.0, 70.0)}, 10) for photo in dark
    ]
    ratios = [light["dial"] / light["lamp"] for light in lights]
    assert ratios == pytest.approx([0.62, 0.62 * 10**-0.93, 0.62 * 60**-0.93], rel=0.2)
    with pytest.raises(ValueError, match="patch"):
        patch_light(database, dark[0], {"dial": (3.0, 3.0)}, 10)
    connection.close()
