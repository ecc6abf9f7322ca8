"""Figures of the story: the log of a watch with 2,000 entries, the card, what the workshop learned."""

from contextlib import closing
from pathlib import Path

from starlette.testclient import TestClient

from marquetry.core.bench.log import LogEntry
from marquetry.core.proving.record import Proof
from marquetry.core.values.money import Money
from marquetry.store import bench_log, bookings, proofs, watches
from marquetry.store.bookings import NewBooking
from marquetry.store.database import connect
from marquetry.store.listed_pairs import listed_pairs
from marquetry.store.story_log import story_of
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.strategies import MODEL

ENTRIES = 2000
WATCH = 2


def fill(database: Path) -> int:
    """Give one watch so many moments, edits, bench entries, proofs and bookings by turns; how many it has."""
    connection = connect(database, MODEL)
    there = len(story_of(connection, WATCH))
    quarter = (ENTRIES - there) // 4
    stored = watches.watch(connection, WATCH)
    with connection:
        connection.execute("BEGIN")
        for place in range(quarter):
            build = stored.build.renamed(f"Night Ferry {place % 2}")
            stored = watches.save(connection, WATCH, stored.version, build, f"Name: {place}", stored)
            entry = LogEntry(f"bench-{place:05}", "cut_stem", "file", 10**12 + place, 0.01)
            bench_log.add_entries(connection, WATCH, [entry])
            proof = Proof(f"proof-{place:05}", "loupe", "dial", 10**12 + place, "passed")
            proofs.keep_proofs(connection, WATCH, [proof])
            bookings.book(
                connection, WATCH, NewBooking("other", f"thing {place}", Money(5, "EUR"), "2026-05-05")
            )
    count = len(story_of(connection, WATCH))
    connection.close()
    return count


def bench_story(database: Path) -> None:
    """The log as its page and as a whole, a search in it; the card's files; the pages of the workshop."""
    count = fill(database)
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for name, address, bar in (
            ("log_2000", f"/watches/{WATCH}/story", 60.0),
            ("log_2000_searched", f"/watches/{WATCH}/story?words=loupe", 60.0),
            ("log_2000_to_print", f"/watches/{WATCH}/story?all=1", 1000.0),
            ("card", "/watches/4/story/card", 100.0),
            ("hand_over", "/watches/4/story/sheet", 100.0), ("away", "/watches/4/story/away", 100.0),
            ("years", "/workshop/years", 100.0), ("report_record", "/workshop/report", 100.0),
            ("worth", "/workshop/sellers", 100.0), ("lessons", "/workshop/lessons", 100.0),
        ):  # fmt: skip
            client.get(address)
            page = median_ms(lambda address=address: client.get(address), rounds=20)  # type: ignore[misc]  # a default of a lambda
            tell(
                f"page_story_{name}",
                page,
                "ms",
                bar=bar,
                bare=nothing,
                times_bare=page / nothing,
                entries=count,
            )
        for ending in ("png", "pdf"):
            client.get(f"/watches/1/story/card.{ending}")
            first = median_ms(lambda ending=ending: client.get(f"/watches/3/story/card.{ending}"), rounds=1)  # type: ignore[misc]  # as above
            tell(f"card_{ending}_at_first", first, "ms", bar=2000.0)
    with closing(connect(database, MODEL)) as connection:
        tell(
            "listed_pairs",
            median_ms(lambda: listed_pairs(connection), rounds=10),
            "ms",
            pairs=len(listed_pairs(connection)),
        )
