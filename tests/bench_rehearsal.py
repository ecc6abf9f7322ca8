"""Figures of rehearsal: every move of every exercise from tap to screen, a play replayed, the page."""

from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory
from time import perf_counter

from starlette.testclient import TestClient

from marquetry.core.rehearsal.exercises import EXERCISES
from marquetry.core.rehearsal.play import played
from marquetry.demo.workshop import make_demo
from marquetry.store import rehearsals
from marquetry.store.database import connect
from marquetry.store.statecache import StateCache
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.strategies import MODEL

PLAYS = 4
MOVE_BAR, PAGE_BAR = 100.0, 100.0
FRAGMENT = {"Marquetry-Fragment": "1"}


def moves_ms(client: TestClient, database: Path, key: str) -> list[float]:
    """Milliseconds from each move of some sure plays to its answer, on disk by then."""
    taken: list[float] = []
    for _ in range(PLAYS):
        begun = client.post("/rehearsal/begin", data={"key": key}, follow_redirects=False)
        number = int(begun.headers["location"].rpartition("/")[2])
        with closing(connect(database, MODEL)) as connection:
            play = rehearsals.rehearsal(connection, number).begun_play(connection)
        client.get(f"/rehearsal/{number}")
        for place, move in enumerate(played(play, play.exercise.sure).moves, 1):
            sent = {"place": place, "what": move.what, "value": f"{move.value:.6f}", "word": move.word}
            start = perf_counter()
            answer = client.post(f"/rehearsal/{number}/moves", data=sent, headers=FRAGMENT)
            taken.append(1000 * (perf_counter() - start))
            assert answer.status_code == 200, answer.text
    return sorted(taken)


def bench_rehearsal(database: Path) -> None:
    """One line an exercise: the median and the worst of its moves; then the page, and a play not in mind."""
    application = create_app(database, MODEL)
    with TestClient(application, base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for exercise in EXERCISES:
            taken = moves_ms(client, database, exercise.key)
            middle, worst = taken[len(taken) // 2], taken[-1]
            name = f"rehearsal_move_{exercise.key}"
            tell(name, middle, "ms", bar=MOVE_BAR, worst=worst, ratio=middle / nothing)
        tell("rehearsals", median_ms(lambda: client.get("/rehearsal")), "ms", bar=PAGE_BAR)
        tell("rehearsals_on_a_watch", median_ms(lambda: client.get("/rehearsal?on=1")), "ms", bar=PAGE_BAR)

        def replayed() -> None:
            application.state.kept = StateCache()  # nothing is in mind any more
            client.get("/rehearsal/12")

        tell("rehearsal_replayed", median_ms(replayed), "ms", bar=PAGE_BAR)


def main() -> None:
    with TemporaryDirectory() as folder:
        database = Path(folder) / "bench.sqlite3"
        make_demo(database, MODEL)
        bench_rehearsal(database)


if __name__ == "__main__":
    main()
