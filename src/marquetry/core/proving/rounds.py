"""What is tried and looked at by hand: every function, every crown position, and all under the loupe."""

from collections.abc import Callable
from dataclasses import dataclass

from marquetry.core.bench.situation import Situation

FORBIDDEN = "Not between nine in the evening and three: the calendar is in gear."


def _always(s: Situation) -> bool:
    del s
    return True


def _can(function: str) -> Callable[[Situation], bool]:
    return lambda s: function in s.names("movement.functions")


@dataclass(frozen=True, slots=True)
class Tried:
    """One thing to try: `crown` says where the crown stands meanwhile, `how` what is done and seen.

    `short` is what the crown itself does there, in a word or two; empty for what is tried without it.
    `when`: whether this watch can do it at all.
    """

    key: str
    label: str
    crown: str
    how: str
    caution: str = ""
    short: str = ""
    when: Callable[[Situation], bool] = _always


def _winds(s: Situation) -> bool:
    """A hand-wound movement is wound by its crown, whatever functions it is said to have."""
    return s.drive == "hand-wound" or (s.drive != "battery" and _can("hand_winding")(s))


QUICK = "Through all of them once; it stops dead on each."
FUNCTIONS = (
    Tried("rotor", "Rotor turns and winds", "in", "Turn the watch slowly: it falls both ways, nothing scrapes.", when=lambda s: s.has_rotor),
    Tried("stepping", "Seconds step", "in", "A minute by a clock: a step a second; every fourth second only, its battery is low.", when=lambda s: s.drive == "battery"),
    Tried("winding", "Winding by the crown", "in", "Twenty turns: no slip, no catch.", "", "winds", _winds),
    Tried("quick_date", "Quick-set of the date", "first", QUICK, FORBIDDEN, "date", _can("date")),
    Tried("quick_day", "Quick-set of the day", "first", QUICK, FORBIDDEN, "day", _can("day")),
    Tried("quick_h24", "Quick-set of the 24-hour hand", "first", "Once round: the hour hand stays.", "", "24-hour hand", _can("h24")),
    Tried("setting", "Setting the hands", "last", "Forwards twelve hours: no drag, no jump, hands stay together.", "", "sets the hands"),
    Tried("hacking", "Seconds stop", "last", "Drawn: they stop. Pressed in: they go on.", "", "seconds stop", _can("hacking")),
    Tried("home", "Crown home", "in", "Pressed or screwed home, no gap all round, hands do not turn.", "", "home, no gap"),
    Tried("bezel", "Bezel turns", "in", "Once round: even clicks, index at twelve.", when=lambda s: s.has("bezel")),
)  # fmt: skip
"""In the order of the crown's positions, from pressed in to drawn out and home again."""
LOUPE = (
    Tried("dust", "Dust under the crystal", "", "Light from the side, turned slowly: every speck throws a shadow."),
    Tried("dial", "Dial and hands", "", "Marks of tweezers, prints, lume that crumbles, a hand that leans."),
    Tried("crystal", "Crystal", "", "Chips at the edge, film still on, scratches; seated level all round."),
    Tried("case", "Case, lugs and back", "", "Slips of tools at lugs and back; bars sprung home."),
)  # fmt: skip
"""What is looked at under the loupe, last of all."""


def functions_of(s: Situation) -> list[Tried]:
    """Everything this watch can do."""
    return [each for each in FUNCTIONS if each.when(s)]


CROWN_PLACES = {"in": "pressed in", "first": "drawn once", "last": "drawn out"}
"""Where the crown stands, from the case outwards, in words."""


def crown_places(s: Situation) -> dict[str, list[str]]:
    """What this watch's crown does in each of its places, in a few words; a place that does nothing is left out."""
    told = {
        place: [each.short for each in functions_of(s) if each.crown == place and each.short]
        for place in CROWN_PLACES
    }
    return {place: words for place, words in told.items() if words}
