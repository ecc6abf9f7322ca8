"""Sessions of a shared workshop: signed cookies, and how long somebody waits after wrong phrases."""

import secrets
import time
from collections import OrderedDict
from dataclasses import dataclass, field
from hashlib import sha256
from threading import Lock

from itsdangerous import BadSignature, TimestampSigner

from marquetry.store.access import PhraseKept

COOKIE = "marquetry-session"
LASTS_SECONDS = 14 * 24 * 3600
FREE_TRIES = 3
LONGEST_WAIT_SECONDS = 60.0
FORGETS_SECONDS = 15 * 60.0
MOST_REMEMBERED = 10_000
EVERYBODY = "everybody"
FREE_TRIES_OF_ALL = 1_000
"""Wrong phrases from anywhere, far more than a household mistypes; every further one waits a little."""
LONGEST_WAIT_OF_ALL_SECONDS = 3.0


def new_session(kept: PhraseKept) -> str:
    """A cookie for somebody who gave the phrase."""
    return _signer(kept).sign(secrets.token_urlsafe(16)).decode()


def session_of(kept: PhraseKept, cookie: str) -> str | None:
    """What tells the session from others; None where the cookie was not signed under the phrase in force."""
    try:
        token = _signer(kept).unsign(cookie, max_age=LASTS_SECONDS)
    except BadSignature:
        return None
    # A digest: what is noted of a session that was left must not be a way into another.
    return sha256(token).hexdigest()


def _signer(kept: PhraseKept) -> TimestampSigner:
    return TimestampSigner(kept.secret, salt=COOKIE)


@dataclass(slots=True)
class Throttle:
    """Wrong phrases by address: after a few each costs a wait that doubles; a right one clears it."""

    wrong: "OrderedDict[str, tuple[int, float]]" = field(default_factory=OrderedDict)
    guard: Lock = field(default_factory=Lock)

    def wait(self, address: str, now: float | None = None) -> float:
        """Seconds until this address may try again."""
        now = time.monotonic() if now is None else now
        with self.guard:
            of_all = min(self._wait(EVERYBODY, FREE_TRIES_OF_ALL, now), LONGEST_WAIT_OF_ALL_SECONDS)
            return max(self._wait(address, FREE_TRIES, now), of_all)

    def _wait(self, name: str, free: int, now: float) -> float:
        count, last = self.wrong.get(name, (0, now))
        if now - last > FORGETS_SECONDS:
            self.wrong.pop(name, None)
            return 0.0
        if count < free:
            return 0.0
        return max(last + min(2.0 ** (count - free), LONGEST_WAIT_SECONDS) - now, 0.0)

    def failed(self, address: str, now: float | None = None) -> None:
        """Note a wrong phrase."""
        now = time.monotonic() if now is None else now
        with self.guard:
            for name in (address, EVERYBODY):
                self.wrong[name] = (self.wrong.get(name, (0, now))[0] + 1, now)
                self.wrong.move_to_end(name)
            while len(self.wrong) > MOST_REMEMBERED:
                self.wrong.popitem(last=False)

    def passed(self, address: str) -> None:
        """Forget an address's wrong phrases."""
        with self.guard:
            self.wrong.pop(address, None)
