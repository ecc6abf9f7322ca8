"""The story of the demo's Tide Table: what was wished, told, bought, noted, handed over, and a service.

Days are counted from today, as its build is.
"""

import time
from collections.abc import Mapping

from marquetry.core.brief.wish import WishState, WishStep
from marquetry.core.story.fates import WatchFate
from marquetry.core.trade.ledger import pay
from marquetry.core.trade.quote import QuoteLine, QuoteTerms, as_told, quoted
from marquetry.core.values.day import later
from marquetry.core.values.money import Money
from marquetry.demo.dating import dated, moment
from marquetry.demo.orders import arrived_order
from marquetry.store import (
    bookings,
    briefs,
    cards,
    fates,
    leftovers,
    lessons,
    quotes,
    story_notes,
    terms_of_trade,
    watches,
)
from marquetry.store.bookings import NewBooking
from marquetry.store.cards import CardSaid
from marquetry.store.database import Connection
from marquetry.store.leftovers import PutAway
from marquetry.store.lessons import NewLesson
from marquetry.store.story_notes import NoteKind, StoryNote

WISHES: tuple[tuple[int, str, WishState, str, str, str], ...] = (
    (334, "whom", WishState.AGREED, "The pilot who reads the tides for the island's paper", "", "client"),
    (334, "occasion", WishState.AGREED, "Her thousandth table", "", "client"),
    (334, "functions", WishState.AGREED, "hours, minutes, seconds, date", "", "client"),
    (330, "colours", WishState.PROPOSED, "chart blue dial, cream lume, slate insert", "", "workshop"),
    (327, "colours", WishState.AGREED, "chart blue dial, cream lume, slate insert", "as on the old charts", "client"),
    (327, "depth", WishState.AGREED, "100", "she is in the boat more than out of it", "client"),
    (325, "straps", WishState.AGREED, "waxed leather, and a woven one for the boat", "", "client"),
    (325, "budget", WishState.AGREED, "720.00 EUR", "", "client"),
    (321, "lume", WishState.AGREED, "hands bright enough to read at slack water", "", "client"),
)  # fmt: skip
NOTES: tuple[tuple[int, str, NoteKind, str, str], ...] = (
    (318, "18:40", "decision", "dial", "Chart blue with the printed waves, not the plain one: the tide has to be in it."),
    (305, "09:15", "note", "hands", "Lantern set looked at in the dark beside the blue-glowing one: the green reads further."),
    (289, "21:10", "note", "", "Worn to the ferry and back. It sits flat; the crown leaves the wrist alone."),
)  # fmt: skip
BOUGHT: tuple[tuple[str, int, str], ...] = (
    ("Gull grey, date", 1, "38.00"), ("Lantern set, blue-glowing", 1, "22.00"), ("Green insert, hours", 1, "12.00"),
)  # fmt: skip
STRAPS: tuple[tuple[str, int, str], ...] = (("Woven pass-through strap 20", 1, "14.00"),)


def tell_tide_table(connection: Connection, number: int) -> None:
    """All of it, from the first wish to the service it is back for."""
    today = time.strftime("%Y-%m-%d", time.gmtime())
    for ago, topic, state, value, words, teller in WISHES:
        step = WishStep(topic, state, value, words, teller, moment(today, ago))
        briefs.add_history(connection, number, step)
    version = watches.watch(connection, number).version
    briefs.sign(connection, number, version, "The pilot", "just as drawn", moment(today, 319))
    _money(connection, number, today)
    with dated(connection, moment(today, 300)):
        for seller, lines in (("Sandbank Parts", BOUGHT), ("Saltmarsh Tools", STRAPS)):
            arrived_order(connection, seller, later(today, -312), later(today, -300), lines, number)
    for ago, clock, kind, about, words in NOTES:
        at = moment(today, ago, f"{clock}:00")
        story_notes.add_note(connection, number, StoryNote(words, kind, about, at))
    said = CardSaid(
        line="for her thousandth table", promised="One look over within the first year, and new bars."
    )
    cards.say(connection, number, said)
    _out(connection, number, today)


def _money(connection: Connection, number: int, today: str) -> None:
    terms = terms_of_trade.trade_terms(connection)
    for kind, words, minutes, ago in (
        ("talking", "with the pilot", 50, 330), ("bench", "the build", 330, 289), ("drawing", "the card", 20, 287),
    ):  # fmt: skip
        money = pay(minutes, terms.pay(kind))
        new = NewBooking("hours", f"{kind}: {words}", money, later(today, -ago), minutes)
        bookings.book(connection, number, new)
    asked = QuoteTerms(1, 300, step=10)
    told = as_told(
        quoted((QuoteLine("parts", 55000),), asked, terms.pay("bench")), "Tide Table", terms.maker,
        later(today, -290), "One watch, tested to 100 m; a waxed strap and a woven one.",
    )  # fmt: skip
    told["query"] = {"count": 1, "hours": "5", "setting_up": "0", "margin": "0"}
    quotes.tell_quote(connection, number, told, later(today, -322))


def _out(connection: Connection, number: int, today: str) -> None:
    """The second strap goes with it, the insert to the shelf; sold, and back a while ago for its yearly test."""
    goes: Mapping[str, PutAway] = {
        "Woven pass-through strap 20": PutAway("client"),
        "Green insert, hours": PutAway("shelf", "Drawer C2"),
    }
    watch = watches.watch(connection, number)
    with dated(connection, moment(today, 286)):
        for piece in leftovers.leftovers_of(connection, number):
            if piece.name in goes:
                leftovers.put_away(connection, watch, piece.id, goes[piece.name], later(today, -286))
    told = (
        WatchFate("sold", 1, "the pilot", "Handed over on the quay, at low water.", Money(70000, "EUR"), later(today, -285)),
        WatchFate("back", 1, "the pilot", "A year is nearly round: tested again before the season.", None, later(today, -2)),
        WatchFate("found", 1, "", "Runs as it left; one spring bar worn thin at its tip.", None, later(today, -1)),
    )  # fmt: skip
    for fate in told:
        fates.take_fate(connection, watch, fate)


def hand_down_lessons(connection: Connection, finished: Mapping[str, int]) -> None:
    """What later builds said of lessons of earlier ones; and one that no mishap left."""
    today = time.strftime("%Y-%m-%d", time.gmtime())
    known = {one.watch: one.id for one in lessons.lessons(connection)}
    lessons.turn_lesson(
        connection, known["Marram"], "held", finished["Breakwater"], "0.05 apart, and the third agreed.",
        later(today, -440),
    )  # fmt: skip
    lessons.turn_lesson(connection, known["Saltpan"], "held", finished["Half Fathom"], "", later(today, -380))
    lessons.turn_lesson(
        connection, known["Beacon"], "outgrown", finished["Quay Light"],
        "There is a dust hood since spring; nothing is left open for a kettle.", later(today, -130),
    )  # fmt: skip
    words = "Warm pads by hand before they are pressed on: cold ones let go in the first frost."
    by_hand = NewLesson("place_pads", words, later(today, -520), "dial", school="school_feet=pads")
    lessons.add_lesson(connection, finished["Low Stone"], by_hand)
