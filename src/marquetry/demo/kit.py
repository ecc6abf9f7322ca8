"""A mail that has just come: eleven parts, a tool, two figures for one length, a word of the seller's own."""

from importlib.resources import files

from marquetry.store import pasted, sellers_words
from marquetry.store.database import Connection
from marquetry.store.pasted import ON_THE_SHELF, Decided

SELLER, SENDER = "Longshore Horology", "orders@longshore.example"


def receive_mail(connection: Connection) -> None:
    """Lay the mail on the shelf's desk, its seller known by the sender; nothing of it is used yet."""
    row = connection.execute("SELECT id FROM supplier WHERE name = :name", {"name": SELLER}).fetchone()
    sellers_words.know_sender(connection, int(row["id"]), SENDER)
    text = files("marquetry.demo").joinpath("mail.txt").read_text("utf-8")
    pasted.keep(connection, "shelf", ON_THE_SHELF, text, Decided(seller=SELLER, sender=SENDER))
