"""Every kind of save that a killed server may have been at, and how to see afterwards whether it is there.

Each save carries a mark of its own into the database; what was acknowledged is looked for by that mark.
"""

import io
import sqlite3
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from urllib.error import HTTPError
from urllib.parse import urlencode
from urllib.request import HTTPRedirectHandler, Request, build_opener

from PIL import Image

Form = Mapping[str, str]
SEE_OTHER = 303
ROWS = 40
"""Parts in a file that is brought in: all of them or none."""


@dataclass(frozen=True, slots=True)
class Save:
    """One kind of save: where it is sent, what with, and the query that finds its mark as `:mark`."""

    name: str
    path: str
    form: Callable[[sqlite3.Connection, str], Form]
    found: str
    file: Callable[[str], tuple[str, str, bytes]] | None = None
    """The field's name, the file's and its content, where a file is sent."""
    overwrites: bool = False
    """Whether each save takes the place of the one before it."""

    def send(self, address: str, connection: sqlite3.Connection, mark: str) -> None:
        """Save once; HTTPError where it was refused, OSError where the server was gone."""
        form = dict(self.form(connection, mark))
        if self.file is None:
            body, kind = urlencode(form).encode(), "application/x-www-form-urlencoded"
        else:
            body, kind = multipart(form, self.file(mark))
        request = Request(f"{address}{self.path}", body, {"Content-Type": kind})  # noqa: S310  # our own server
        try:
            build_opener(_Staying).open(request, timeout=5).read()
        except HTTPError as answer:
            if answer.code != SEE_OTHER:
                raise AssertionError(f"{self.name}: {answer.code} {answer.read()[:400]!r}") from answer

    def is_there(self, connection: sqlite3.Connection, mark: str) -> bool:
        """Whether what carried that mark is on disk."""
        return bool(connection.execute(self.found, {"mark": mark}).fetchone()[0])


class _Staying(HTTPRedirectHandler):
    """The acknowledgement is the answer itself; the page it leads on to is none of a save's business."""

    def redirect_request(self, *_: object) -> None:
        return None


def multipart(form: Form, file: tuple[str, str, bytes]) -> tuple[bytes, str]:
    """A form with a file as a browser sends it, and its content type."""
    edge = "edge-of-a-part"
    fields = [
        f'--{edge}\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{value}\r\n'.encode()
        for key, value in form.items()
    ]
    field, name, content = file
    head = f'--{edge}\r\nContent-Disposition: form-data; name="{field}"; filename="{name}"\r\n\r\n'.encode()
    return b"".join(
        [*fields, head, content, f"\r\n--{edge}--\r\n".encode()]
    ), f"multipart/form-data; boundary={edge}"


def _version(table: str, number: int) -> Callable[[sqlite3.Connection], str]:
    query = f"SELECT version FROM {table} WHERE id = {number}"  # noqa: S608  # our own words
    return lambda connection: str(connection.execute(query).fetchone()[0])


def _in(table: str, column: str, *, whole: bool = True) -> str:
    """The query that finds the mark in a column: as all of it, or somewhere in it."""
    asked = "= :mark" if whole else "LIKE '%' || :mark || '%'"
    return f"SELECT count(*) FROM {table} WHERE {column} {asked}"  # noqa: S608  # as above


def _with_version(
    table: str, number: int, key: str, **more: str
) -> Callable[[sqlite3.Connection, str], Form]:
    version = _version(table, number)
    return lambda connection, mark: {"version": version(connection), key: mark, **more}


def _words(key: str, **more: str) -> Callable[[sqlite3.Connection, str], Form]:
    return lambda _, mark: {key: mark, **more}


def _wish(connection: sqlite3.Connection, mark: str) -> Form:
    seen = connection.execute("SELECT coalesce(max(id), 0) FROM wish WHERE watch_id = 3").fetchone()[0]
    return {"seen": str(seen), "topic": "whom", "value": mark, "words": ""}


def _order(connection: sqlite3.Connection, mark: str) -> Form:
    row = connection.execute("SELECT version, day, due FROM supply_order WHERE id = 2").fetchone()
    return {"version": str(row[0]), "day": row[1], "due": row[2], "notes": mark}


def _card(connection: sqlite3.Connection, mark: str) -> Form:
    row = connection.execute("SELECT version FROM spec_card WHERE watch_id = 1").fetchone()
    return {"version": str(row[0] if row else 0), "line": mark}


def _rate(_: sqlite3.Connection, mark: str) -> Form:
    return {"currency": "GBP", "rate": f"1.{mark.rpartition('-')[2]}", "day": "2026-01-01"}


@cache
def _picture() -> bytes:
    held = io.BytesIO()
    Image.new("RGB", (60, 40), (120, 90, 60)).save(held, "JPEG")
    return held.getvalue()


def _parts(mark: str) -> tuple[str, str, bytes]:
    rows = "\n".join(f"dial,{mark} {n},28.50±0.02 measured" for n in range(ROWS))
    return "file", f"{mark}.csv", f"kind,name,diameter\n{rows}\n".encode()


SAVES = (
    Save("a dimension", "/watches/1/entries", _with_version("watch", 1, "value", path="dial.name"),
         _in("revision", "sheet", whole=False)),
    Save("a tap at the bench", "/watches/2/build/taps", _words("words", what="note", step="cut_stem"),
         _in("bench_entry", "words")),
    Save("a proof", "/watches/1/prove/tried", _words("words", kind="loupe", item="dial", verdict="passed"),
         _in("proof", "words")),
    Save("a wish", "/watches/3/brief/wishes", _wish, _in("wish", "value")),
    Save("a booking", "/watches/1/money", _words("words", kind="other", amount="1.50"),
         _in("booking", "words")),
    Save("a note", "/watches/1/story/notes", _words("words", kind="note"), _in("story_note", "words")),
    Save("the card", "/watches/1/story/card", _card, _in("spec_card", "line"), overwrites=True),
    Save("a lesson", "/workshop/lessons", _words("words", step="cut_stem"), _in("lesson", "words")),
    Save("a part's terms", "/parts/14/terms", _with_version("part", 14, "notes"), _in("part", "notes"),
         overwrites=True),
    Save("a new part", "/shelf/parts", _words("name", kind="dial", owned="yes"), _in("part", "name")),
    Save("where a piece lies", "/pieces/14", _with_version("piece", 14, "place", condition="new"),
         _in("piece", "place"), overwrites=True),
    Save("a photograph", "/parts/14/photos", _words("caption"), _in("photo", "caption"),
         lambda mark: ("photo", f"{mark}.jpg", _picture())),
    Save("a version made", "/watches/1/make/part/holder/versions", _with_version("watch", 1, "notes"),
         _in("made_version", "notes")),
    Save("a batch", "/watches/1/make/batches", _words("name", wanted="2"), _in("batch", "name")),
    Save("a blank's stage", "/watches/1/make/batches/1/told", _words("stage", what="stage", blanks="5:1"),
         _in("blank_stage", "stage")),
    Save("a trial of a finish", "/watches/1/make/trials", _words("what", kind="paint"),
         _in("finish_trial", "what")),
    Save("an order's bill", "/orders/2/bill", _order, _in("supply_order", "notes"), overwrites=True),
    Save("a sundry", "/sundries", _words("name", kind="tool"), _in("sundry", "name")),
    Save("a rate", "/rates", _rate,
         "SELECT count(*) FROM rate WHERE :mark LIKE '%-' || substr(rate, 3)", overwrites=True),
    Save("a listing", "/watches/3/listing", _words("text"), _in("pasted", "text", whole=False),
         overwrites=True),
    Save("a file of parts", "/shelf/imports", _words("x"),
         "SELECT count(*) FROM import WHERE file_name LIKE :mark || '%'", _parts),
)  # fmt: skip
