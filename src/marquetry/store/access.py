"""Who may come in from another machine: the passphrase, hashed, and the secret that signs its sessions.

A new phrase is a new secret, so every cookie from before it is worth nothing. It never leaves in an archive.
"""

import secrets
from dataclasses import dataclass

from marquetry.core.values.errors import DimensionError
from marquetry.store.database import Connection

SHORTEST_PHRASE, LONGEST_PHRASE = 10, 200


@dataclass(frozen=True, slots=True)
class PhraseKept:
    """The passphrase as it is kept, and what signs sessions."""

    phrase_hash: str
    secret: str
    changed_at: str


def phrase_kept(connection: Connection) -> PhraseKept | None:
    """What is kept; None where no passphrase was set yet."""
    row = connection.execute("SELECT * FROM access").fetchone()
    return None if row is None else PhraseKept(row["phrase_hash"], row["secret"], row["changed_at"])


def set_phrase(connection: Connection, phrase: str) -> None:
    """Set the passphrase; everybody who was in has to give the new one. DimensionError for one too short."""
    from argon2 import PasswordHasher  # noqa: PLC0415  # a shared workshop alone needs it

    if not SHORTEST_PHRASE <= len(phrase) <= LONGEST_PHRASE:
        words = f"{SHORTEST_PHRASE} to {LONGEST_PHRASE} letters; several words are easy to remember"
        raise DimensionError("passphrase", f"{len(phrase)} letters", "", words)
    connection.execute(
        """INSERT INTO access (id, phrase_hash, secret) VALUES (1, :hash, :secret)
           ON CONFLICT (id) DO UPDATE SET phrase_hash = excluded.phrase_hash, secret = excluded.secret,
           changed_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now')""",
        {"hash": PasswordHasher().hash(phrase), "secret": secrets.token_urlsafe(32)},
    )
    connection.execute("DELETE FROM left_session")


ENDED_BY_NOW = "DELETE FROM left_session WHERE at < strftime('%Y-%m-%dT%H:%M:%SZ', 'now', '-30 days')"


def left_sessions(connection: Connection) -> set[str]:
    """Digests of the sessions that were left and would not have ended by themselves yet."""
    connection.execute(
        "DELETE FROM left_session WHERE at < strftime('%Y-%m-%dT%H:%M:%SZ', 'now', '-30 days')"
    )
    return {row["digest"] for row in connection.execute("SELECT digest FROM left_session")}


def note_left(connection: Connection, digest: str) -> None:
    """Note that a session was left: its cookie is worth nothing from now on, after a new start either."""
    connection.execute("INSERT INTO left_session (digest) VALUES (?) ON CONFLICT DO NOTHING", (digest,))


def is_phrase(kept: PhraseKept, phrase: str) -> bool:
    """Whether it is the passphrase: about a fifth of a second, whether or not."""
    from argon2 import PasswordHasher  # noqa: PLC0415  # as above
    from argon2.exceptions import Argon2Error, InvalidHashError  # noqa: PLC0415  # as above

    try:
        return PasswordHasher().verify(kept.phrase_hash, phrase[:LONGEST_PHRASE])
    except (Argon2Error, InvalidHashError):
        return False
