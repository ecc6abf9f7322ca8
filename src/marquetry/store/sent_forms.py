"""Forms by the key that each carries: one that is sent twice counts once, whoever sends it again and why."""

import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from hashlib import blake2b

from marquetry.store.database import Connection, transaction

FORM_KEY = r"^([0-9a-f]{32})?$"
"""What a key looks like; a form without one counts each time: a program that sends forms has its own way."""

FORGET = "DELETE FROM sent_form WHERE at < strftime('%Y-%m-%dT%H:%M:%SZ', 'now', '-60 days')"
NOTE = "INSERT INTO sent_form (key) VALUES (?) ON CONFLICT DO NOTHING"


def new_form_key() -> str:
    """A key for a form that is shown now."""
    return secrets.token_hex(16)


@contextmanager
def once(connection: Connection, key: str, *content: object) -> Iterator[bool]:
    """A transaction in which a form is saved; False where it was saved already, key and content alike.

    It is noted with the save itself: one that was refused or broken off may be sent again. A browser's way
    back shows an old form with its old key: with other content it is another form, and counts.
    """
    with transaction(connection):
        if not key:
            yield True
            return
        connection.execute(FORGET)
        mark = f"{key}{blake2b(repr(content).encode(), digest_size=16).hexdigest()}"
        noted = connection.execute(NOTE, (mark,))
        yield noted.rowcount == 1
