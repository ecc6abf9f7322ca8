"""How a supplier's texts are known and read: the addresses they come from, and what its own words mean."""

from dataclasses import dataclass

from marquetry.core.measuring.listing.learnt import LearntLabel
from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection


@dataclass(frozen=True, slots=True)
class KnownWord:
    """A seller's word as it is on disk, with whose it is."""

    id: int
    seller: str
    label: LearntLabel
    learnt_at: str


def seller_of(connection: Connection, sender: str) -> str:
    """The supplier whose texts come from a mail address; nothing where none is known to."""
    row = connection.execute(
        "SELECT name FROM supplier_sender JOIN supplier ON supplier.id = supplier_id WHERE address = :sender",
        {"sender": sender.casefold()},
    ).fetchone()
    return "" if row is None else str(row["name"])


def know_sender(connection: Connection, supplier_id: int, sender: str) -> None:
    """Know the supplier by a mail address from now on."""
    if sender:
        connection.execute(
            "INSERT OR REPLACE INTO supplier_sender (address, supplier_id) VALUES (:sender, :supplier)",
            {"sender": sender.casefold(), "supplier": supplier_id},
        )


def learn(connection: Connection, supplier_id: int, label: LearntLabel) -> None:
    """Remember what a supplier's word means; the newest meaning stands."""
    connection.execute(
        """INSERT INTO supplier_label (supplier_id, kind, label, means)
           VALUES (:supplier, :kind, :label, :means)
           ON CONFLICT (supplier_id, kind, label) DO UPDATE SET means = excluded.means""",
        {"supplier": supplier_id, "kind": label.kind, "label": label.label, "means": label.means},
    )


QUERY = """
    SELECT supplier_label.*, supplier.name FROM supplier_label JOIN supplier ON supplier.id = supplier_id
"""


def words_of(connection: Connection, seller: str) -> tuple[LearntLabel, ...]:
    """What the words of the supplier of that name mean."""
    rows = connection.execute(f"{QUERY} WHERE name = :seller ORDER BY supplier_label.id", {"seller": seller})
    return tuple(LearntLabel(row["kind"], row["label"], row["means"]) for row in rows)


def known_words(connection: Connection) -> list[KnownWord]:
    """Every word that was learnt, by supplier."""
    return [
        KnownWord(
            row["id"], row["name"], LearntLabel(row["kind"], row["label"], row["means"]), row["learnt_at"]
        )
        for row in connection.execute(f"{QUERY} ORDER BY name, supplier_label.id")
    ]


def forget(connection: Connection, number: int) -> None:
    """Take a word back; NotFoundError where there is none."""
    gone = connection.execute("DELETE FROM supplier_label WHERE id = :id", {"id": number})
    if not gone.rowcount:
        raise NotFoundError(f"word {number} of a seller")
