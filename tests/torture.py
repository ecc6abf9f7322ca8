"""`make torture`: hostile inputs at every address and format, kills at every kind of save, warm against fresh.

Everything stays on this machine, is counted, and ends by itself. The tests run a seeded tenth of it.
"""

import io
import json
import random
import re
import subprocess
import sys
import time
import zipfile
from collections import Counter
from collections.abc import Iterator
from contextlib import closing
from http.client import HTTPException
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from urllib.error import URLError
from urllib.parse import quote, urlencode
from urllib.request import Request, urlopen

from fastapi.routing import APIRoute
from starlette.testclient import TestClient

from marquetry.core.making.kinds import MADE
from marquetry.demo.workshop import make_demo
from marquetry.store.database import Connection, connect
from marquetry.store.sheets import Unreadable
from marquetry.store.watches import watches_or_faults
from marquetry.web.finder import routes as finder
from marquetry.web.site.app import ROUTES, create_app
from tests.e2e.pages import broken_pages
from tests.hostile_files import hostile_files
from tests.nursery import Served, serve
from tests.saves import ROWS, SAVES, Save
from tests.strategies import MODEL
from tests.warm_and_fresh import rounds

INPUTS, FILES, KILLS, ROUNDS = 20_000, 10_000, 200, 200
ENDLESS = ("stream", "stand-in")
"""Addresses that answer for as long as somebody listens, or as long as a chamber takes: 14 s each."""
FINE = {503, 507}
"""Told with when to try again, or that the disk is full: no fault of ours."""
WORDS = (
    "", " ", "\0", "\x1b[31m", "a" * 5000, "\u202e", "é" * 90, "'; DROP TABLE watch; --", "<script>alert(1)</script>",
    "../../etc/passwd", "%00", "-1", "0", "1", "2", "9" * 30, str(2**63), "1e400", "NaN", "inf", "-inf", "1e-320",
    '1\u00a01/8"', '1\t1/8"', "0.4", "½", "²", "٣", "28,5 ±0.02", "±", "1/0", "measured", "dial", "spacers", "on",
    "dial.thickness", "dial.name.-", "spacers.².thickness", "spacers.99.thickness", "spacers.-", "dial.feet.-",
    "dial.feet.0.angle", "case", "movement.posts.minute.top", "__class__", "constructor", "case.lug_width", "{}", "[]",
    "holder.lugs", "holder.slot", "holder.tabs", "dial.cutouts", "press_support.thread", "spacers.0.gap", "tabs", "slot",
)  # fmt: skip
MADE_NAMES = tuple(f"{kind.key}:0" if kind.is_many else kind.key for kind in MADE)
JSONS: tuple[Any, ...] = (
    None, True, 0, -1, 1e300, 2**70, "x", "\0", [], {}, [[]], [{}] * 40, {"value": 1}, {"value": 1e308},
    {"value": 1, "tol": 1e308}, {"value": 1, "tol": -1}, {"value": "x"}, {"value": 0.5, "source": "guessed"},
    {"name": "\x00"}, {"name": " "}, {"name": "n" * 400}, {"shelf_piece": 2**70}, {"side": "dial", "thickness": 1e-300},
    [{"radius": 1e-9, "angle": 720, "diameter": 1e-9, "length": 1e-9}] * 8, {"stem_height": "junk"},
    {"count": 1000, "width": 1, "height": 0.1, "angle": 0}, {"width": 1e-9, "height": 199}, [{"shape": "round"}] * 9,
    [{"shape": "arc", "inner_radius": 1, "outer_radius": 2, "from": 9, "to": 9}] * 24, {"angle": 0, "width": 1e-9},
    [{"angle": 3, "width": 2, "reach": 1e-9, "from": 0, "to": 1e-9}] * 8, {"gap_dial": -1}, {"gap_dial": 1e308}, {"hand_stack": [1, 0]}, {"school_feet": "none"},
)  # fmt: skip
PATHS = (*(w for w in WORDS if "." in w or w in {"case", "dial"}), "rules", "crystal", "hands.h24")
ORIGINS = ("http://127.0.0.1", "http://[", "null", "http://evil.example", "\x7f")
TYPES = ("application/x-www-form-urlencoded", "multipart/form-data", "multipart/form-data; boundary=x; charset=rot",
         "application/json", "text/plain; charset=utf-7", "")  # fmt: skip


def nested(levels: int) -> Any:
    node: Any = 1
    for _ in range(levels):
        node = {"a": node}
    return node


class Hostile:
    """Seeded requests: an address of the application's own, with whatever a stranger would put into it."""

    def __init__(self, client: TestClient, seed: int) -> None:
        self.client, self.dice = client, random.Random(seed)  # noqa: S311  # a test's dice
        routers = [*(room.router for room in ROUTES), finder.watch_router]
        found = (route for router in routers for route in router.routes)
        self.routes = [
            route
            for route in found
            if isinstance(route, APIRoute) and not any(word in route.path for word in ENDLESS)
        ]

    def send(self) -> tuple[str, int, str]:
        """One request; its method and address's pattern, the status, and what was sent."""
        route = self.dice.choice(self.routes)
        method = self.dice.choice(sorted(route.methods or ()))
        path = re.sub(r"\{(\w+)\}", lambda found: self._step(found[1]), route.path)
        query = f"?{self._query()}" if self.dice.random() < 0.5 else ""
        headers = {"Origin": self.dice.choice(ORIGINS)} if self.dice.random() < 0.1 else {}
        if self.dice.random() < 0.4:
            headers["Marquetry-Fragment"] = "1"
        body: dict[str, Any] = {} if method == "GET" else self._body(route, headers)
        told = f"{method} {path}{query} {str(body)[:300]}"
        try:
            answer = self.client.request(
                method, path + query, headers=headers, follow_redirects=False, **body
            )
        except (UnicodeEncodeError, ValueError):  # the client itself refuses to send this
            return route.path, 0, told
        return f"{method} {route.path}", answer.status_code, told

    def _step(self, what: str) -> str:
        if what == "name" and self.dice.random() < 0.8:
            return self.dice.choice(MADE_NAMES)
        usual = self.dice.choice(("1", "2", "3", "4", "14"))
        return usual if self.dice.random() < 0.7 else quote(self.dice.choice(WORDS)[:200], safe="")

    def _query(self) -> str:
        fields = {
            name: self.dice.choice(WORDS)[:300]
            for name in ("view", "check", "time", "path", "q", "page", "kind", "part")
        }
        chosen = {k: v for k, v in fields.items() if self.dice.random() < 0.4}
        if self.dice.random() < 0.4:
            edits = [
                [self.dice.choice(PATHS), self.dice.choice(JSONS)] for _ in range(self.dice.randint(0, 3))
            ]
            chosen["try"] = json.dumps(edits) if self.dice.random() < 0.9 else self.dice.choice(WORDS)
        return urlencode(chosen)

    def _body(self, route: APIRoute, headers: dict[str, str]) -> dict[str, Any]:
        roll = self.dice.random()
        if roll < 0.08:
            headers["Content-Type"] = self.dice.choice(TYPES)
            return {"content": self.dice.randbytes(self.dice.randint(0, 400))}
        if roll < 0.3 and any(
            word in route.path for word in ("sheets", "donors", "imports", "workshop", "photos")
        ):
            name = {"photos": "photo", "sheets": "sheet", "donors": "sheet"}
            field = next((field for word, field in name.items() if word in route.path), "file")
            return {"files": {field: (self.dice.choice(WORDS)[:50] or "f", self._file())}}
        fields = {name: self.dice.choice(WORDS) for name in self._names(route) if self.dice.random() < 0.8}
        if "version" in fields or self.dice.random() < 0.5:
            fields["version"] = self.dice.choice(("1", "2", "3", *WORDS))
        return {"data": fields}

    def _names(self, route: APIRoute) -> Iterator[str]:
        for param in route.dependant.body_params:
            inner = getattr(param.field_info.annotation, "model_fields", None)
            yield from inner or [param.name]
        yield from ("path", "value", "tol", "source", "readings", "reading", "former", "in-seat")

    def _file(self) -> bytes:
        roll = self.dice.random()
        if roll < 0.5:
            parts = {
                self.dice.choice(("dial", "case", "hands", "spacers", "x")): self.dice.choice(JSONS)
                for _ in range(3)
            }
            sheet = {"format": "marquetry-build/1", "name": self.dice.choice(WORDS), "parts": parts,
                     "rules": self.dice.choice(JSONS), "target": {"water_depth_m": self.dice.choice(JSONS)}}  # fmt: skip
            if roll < 0.1:
                sheet["parts"] = nested(self.dice.choice((60, 70, 490, 900)))
            return json.dumps(sheet).encode()
        if roll < 0.7:
            rows = [",".join(self.dice.choice(WORDS).replace(",", "") for _ in range(4)) for _ in range(5)]
            return "\n".join(["kind,name,thickness,price", *rows]).encode("utf-8", "replace")
        if roll < 0.9:
            made = io.BytesIO()
            with zipfile.ZipFile(made, "w") as archive:
                for name in ("manifest.json", "tables/watch.jsonl", f"x{self.dice.choice(WORDS)[:60]}"):
                    archive.writestr(name, json.dumps(self.dice.choice(JSONS)))
            return made.getvalue()
        return self.dice.randbytes(500)


def hostile_inputs(count: int, seed: int, database: Path) -> tuple[Counter[int], list[str]]:
    """Send so many; return how often each status came, and every answer that is a fault of ours."""
    make_demo(database, MODEL)
    statuses: Counter[int] = Counter()
    faults: list[str] = []
    with TestClient(
        create_app(database, MODEL), base_url="http://127.0.0.1", raise_server_exceptions=False
    ) as client:
        sender = Hostile(client, seed)
        for _ in range(count):
            route, status, told = sender.send()
            statuses[status] += 1
            if status >= 500 and status not in FINE:
                faults.append(f"{status} {route}: {told}")
        faults += [f"broken afterwards: {page}" for page in broken_pages(client)]
    return statuses, faults


def kills(count: int, seed: int, folder: Path) -> tuple[int, list[str]]:
    """Kill a server so many times while something is being saved, each kind of save in its turn.

    Returns how many saves were acknowledged and what was lost: a save whose mark is not on disk, a file of
    parts of which some came in and some did not, a database that is not whole.
    """
    dice = random.Random(seed)  # noqa: S311  # a test's dice
    database, acknowledged, lost = folder / "killed.sqlite3", 0, []
    make_demo(database, MODEL)
    for number in range(count):
        save = SAVES[number % len(SAVES)]
        served = serve(database)
        with closing(connect(database, MODEL)) as connection:
            mark, moment = f"mark-{seed}{number:03}", dice.uniform(0.02, 0.9)
            told, trying = _saved(served, connection, save, mark, moment)
            acknowledged += len(told)
            wanted = [[told[-1], trying]] if save.overwrites and told else [[mark] for mark in told]
            missing = [marks for marks in wanted if not any(save.is_there(connection, m) for m in marks)]
            lost += [f"kill {number}, {save.name}: {marks} not there" for marks in missing]
            if not told:
                lost.append(f"kill {number}, {save.name}: nothing was saved before it")
            lost += [f"kill {number}, {save.name}: {fault}" for fault in unwhole(connection)]
    return acknowledged, lost


def unwhole(connection: Connection) -> Iterator[str]:
    """What a kill must not leave behind: damage, loose ends, half a file of parts, an unreadable watch."""
    if (found := connection.execute("PRAGMA integrity_check").fetchone()[0]) != "ok":
        yield str(found)
    yield from (str(tuple(row)) for row in connection.execute("PRAGMA foreign_key_check"))
    halves = connection.execute(
        """SELECT file_name, count(*) FROM import JOIN part ON part.name LIKE replace(file_name, '.csv', '') || ' %'
            WHERE part.removed_at IS NULL AND file_name LIKE 'mark-%' GROUP BY file_name"""
    )
    yield from (f"{count} of {ROWS} parts of {name}" for name, count in halves if count != ROWS)
    yield from (found.why for found in watches_or_faults(connection) if isinstance(found, Unreadable))


def _saved(
    served: tuple[Served, str], connection: Connection, save: Save, mark: str, moment: float
) -> tuple[list[str], str]:
    """Save until the server is killed, so many seconds after the first save was acknowledged.

    Returns the marks that were acknowledged, and the one that was on its way.
    """
    (process, address), told = served, list[str]()
    killer: subprocess.Popen[bytes] | None = None
    trying = ""
    try:
        for place in range(1, 400):
            trying = f"{mark}-{place:03}"
            save.send(address, connection, trying)
            told.append(trying)
            if save.path.endswith("/imports"):
                _take_in(address, connection)
            killer = killer or _killer(process.pid, moment)
    except (URLError, OSError, HTTPException):
        pass
    finally:
        if killer:
            killer.wait(10)
        process.kill()
        process.wait(10)
    return told, trying


def _take_in(address: str, connection: Connection) -> None:
    """Wait until the newest file of parts was read, then ask for it to be taken in; that goes on by itself."""
    newest = "SELECT id, state FROM import ORDER BY id DESC LIMIT 1"
    while (row := connection.execute(newest).fetchone())["state"] == "reading":
        time.sleep(0.01)
        urlopen(f"{address}/static/inlay.svg", timeout=5).close()  # ends this where the server is gone
    request = Request(f"{address}/shelf/imports/{row['id']}/taken", b"", method="POST")
    urlopen(request, timeout=5).close()


def _killer(process: int, seconds: float) -> "subprocess.Popen[bytes]":
    """A program that kills another after so long: nothing here gets in its way."""
    order = f"import time, os; time.sleep({seconds:.3f}); os.kill({process}, 9)"
    return subprocess.Popen([sys.executable, "-c", order])


def main() -> None:
    with TemporaryDirectory() as folder:
        start = time.perf_counter()
        statuses, faults = hostile_inputs(INPUTS, 1, Path(folder) / "hostile.sqlite3")
        print(
            json.dumps(
                {
                    "hostile_inputs": INPUTS,
                    "seconds": round(time.perf_counter() - start),
                    "statuses": dict(sorted(statuses.items())),
                    "faults": len(faults),
                }
            )
        )
        start = time.perf_counter()
        ended, bent = hostile_files(FILES, 1, Path(folder), WORDS, JSONS)
        told = {"hostile_files": FILES, "seconds": round(time.perf_counter() - start), "ended": ended}
        print(json.dumps({**told, "faults": len(bent)}))
        start = time.perf_counter()
        acknowledged, lost = kills(KILLS, 1, Path(folder))
        print(
            json.dumps(
                {
                    "kills": KILLS,
                    "seconds": round(time.perf_counter() - start),
                    "saves_acknowledged": acknowledged,
                    "kinds_of_save": len(SAVES),
                    "lost": len(lost),
                }
            )
        )
        start = time.perf_counter()
        taken, old = rounds(ROUNDS, 1, Path(folder))
        told = {"warm_and_fresh_rounds": ROUNDS, "seconds": round(time.perf_counter() - start)}
        print(json.dumps({**told, "saves_taken": taken, "differences": len(old)}))
        for fault in (*faults[:20], *bent[:20], *lost[:20], *old[:20]):
            print(fault)
        sys.exit(1 if faults or bent or lost or old else 0)


if __name__ == "__main__":
    main()
