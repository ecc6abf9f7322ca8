"""What the demo's two have practised: plays by sure hands and by usual mistakes, some days ago."""

import time

from marquetry.core.rehearsal.exercises import exercise
from marquetry.core.rehearsal.pieces import piece
from marquetry.core.rehearsal.play import Play, played
from marquetry.core.values.day import later
from marquetry.store import rehearsals
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.rehearsals import NewRehearsal

PRACTISED = (
    # exercise, days ago, how it was played, its seed
    ("stem", 30, "by_eye", 20270116),
    ("section", 27, "", 11),
    ("stem", 26, "", 12),
    ("hands", 25, "", 13),
    ("diagnose", 22, "first_sign", 19),
    ("stem", 21, "", 15),
    ("section", 20, "", 16),
    ("diagnose", 18, "", 17),
    ("feet", 12, "", 18),
    ("stem", 11, "", 21),
    ("order", 9, "", 22),
    ("hands", 3, "unseen", 27),
)
"""In the order in which they ended. An empty way is a sure hand's."""
GOES_ON = ("gasket", 1, 3)
"""Begun so many days ago, and left after so many moves."""


def rehearse(connection: Connection) -> None:
    """All of them, the newest last; and one that was left half way."""
    today = time.strftime("%Y-%m-%d", time.gmtime())
    for key, ago, way, seed in PRACTISED:
        play = _begun(connection, key, seed)
        hand = next((one.move for one in play.exercise.mistakes if one.key == way), play.exercise.sure)
        _keep(connection, played(play, hand), later(today, -ago))
    key, ago, count = GOES_ON
    play = _begun(connection, key, 5)
    _keep(connection, played(play, play.exercise.sure).up_to(count), later(today, -ago))


def _begun(connection: Connection, key: str, seed: int) -> Play:
    one, model = exercise(key), connection.model
    build = piece(one.piece, model.anatomy)
    return Play.begin(one, build, model.rules(model.rules_of(build, rule_values(connection)).raw), seed)


def _keep(connection: Connection, play: Play, day: str) -> None:
    given = piece(play.exercise.piece, connection.model.anatomy)
    rules = connection.model.rules_of(given, rule_values(connection)).raw
    number = rehearsals.begin(connection, NewRehearsal(play.exercise.key, given, rules, play.seed, day))
    for place, move in enumerate(play.moves, 1):
        rehearsals.add_move(connection, number, place, move)
    if play.outcome:
        rehearsals.end(connection, number, play.outcome, day)
