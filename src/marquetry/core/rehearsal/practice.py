"""Practice that comes back: five drawers, each looked into half as often as the one before.

The rule is Leitner's (S. Leitner, So lernt man lernen, 1972): what was reached goes one drawer on, what was
not goes back to the first. Here a play that was reached with the sure hand's help stays where it was.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from marquetry.core.values.day import later

DRAWER_DAYS = (2, 4, 8, 16, 32)
"""Days until what lies in each drawer is due again."""
RULE = (
    "What you reach goes one drawer on, what goes wrong goes back to the first; what you reached with a sure "
    "hand shown stays. A drawer is due again after "
    f"{', '.join(map(str, DRAWER_DAYS[:-1]))} or {DRAWER_DAYS[-1]} days (the rule is Leitner's, of 1972)."
)


@dataclass(frozen=True, slots=True)
class Practised:
    """One play that was carried to its end: of what, on which day, how it went, whether help was shown."""

    exercise: str
    day: str
    reached: bool
    helped: bool = False


@dataclass(frozen=True, slots=True)
class PracticeStand:
    """Where an exercise lies: its drawer from 0, when it is due, how often it was played and reached.

    `drawer` is −1 and `due` empty where it was never played; `failed_last` where the last play missed.
    """

    exercise: str
    drawer: int = -1
    due: str = ""
    plays: int = 0
    reached: int = 0
    failed_last: bool = False

    def is_due(self, today: str) -> bool:
        """Whether it should be played again by that day."""
        return self.drawer >= 0 and self.due <= today


def standing_of(exercise: str, plays: Iterable[Practised]) -> PracticeStand:
    """Where an exercise lies after these plays, in the order in which they were made."""
    found = PracticeStand(exercise)
    for play in plays:
        if play.exercise == exercise:
            found = _after(found, play)
    return found


def _after(found: PracticeStand, play: Practised) -> PracticeStand:
    if not play.reached:
        drawer = 0
    elif play.helped:
        drawer = max(found.drawer, 0)
    else:
        drawer = min(found.drawer + 1, len(DRAWER_DAYS) - 1)
    due = later(play.day, DRAWER_DAYS[drawer])
    return PracticeStand(
        found.exercise, drawer, due, found.plays + 1, found.reached + play.reached, not play.reached
    )


def next_up(standings: Iterable[PracticeStand], today: str) -> list[PracticeStand]:
    """What is due by that day, the longest due first; what went wrong last before what did not."""
    due = [one for one in standings if one.is_due(today)]
    return sorted(due, key=lambda one: (not one.failed_last, one.due))
