"""What became of a watch: sold, given, kept, taken apart; back for service, looked over, changed, out again.

Rows are only added. Where a watch is, follows from those that were not taken back; of a series each number
has a way of its own.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from marquetry.core.story.moment import Moment, StoryPlace
from marquetry.core.values.errors import TakenError
from marquetry.core.values.money import Money

FateWhat = Literal["sold", "given", "kept", "apart", "back", "found", "changed", "out", "undo"]
FATE_WHATS: tuple[FateWhat, ...] = get_args(FateWhat)
Outcome = Literal["sold", "given", "kept", "apart"]
OUTCOMES: tuple[Outcome, ...] = get_args(Outcome)
OUTCOME_LABELS: dict[Outcome, str] = {
    "sold": "Sold",
    "given": "Given away",
    "kept": "Kept here",
    "apart": "Taken apart again",
}
SERVICE_LABELS: dict[FateWhat, str] = {
    "back": "Came back",
    "found": "Found",
    "changed": "Done",
    "out": "Handed out again",
}
Whereabouts = Literal["bench", "sold", "given", "kept", "apart", "service"]
WHERE_WORDS: dict[Whereabouts, str] = {
    "bench": "on the bench",
    "sold": "sold",
    "given": "given away",
    "kept": "kept here",
    "apart": "taken apart",
    "service": "back for service",
}
LONGEST_WHO, LONGEST_FATE_WORDS = 80, 400


@dataclass(frozen=True, slots=True)
class WatchFate:
    """One step: which `number` of the series, to or by whom, in which words, for how much, on which day.

    `at_ms` is that day's beginning, milliseconds since 1970; `undoes` the row that it takes back.
    """

    what: FateWhat
    number: int = 1
    who: str = ""
    words: str = ""
    price: Money | None = None
    day: str = ""
    undoes: int | None = None
    at_ms: int = 0
    id: int = 0


def fates_standing(fates: Iterable[WatchFate]) -> list[WatchFate]:
    """What was not taken back, in order."""
    every = list(fates)
    undone = {fate.undoes for fate in every}
    return [fate for fate in every if fate.what != "undo" and fate.id not in undone]


def of_number(fates: Iterable[WatchFate], number: int) -> list[WatchFate]:
    """The steps of one number of the series that were not taken back."""
    return [fate for fate in fates_standing(fates) if fate.number == number]


def whereabouts(fates: Iterable[WatchFate], number: int = 1) -> Whereabouts:
    """Where a watch is, or one number of its series."""
    at: Whereabouts = "bench"
    home: Whereabouts = "bench"
    for fate in of_number(fates, number):
        if fate.what in OUTCOMES:
            at = home = fate.what
        elif fate.what == "out":
            at = home
        else:
            at = "service"
    return at


def numbers_out(fates: Sequence[WatchFate], count: int) -> list[int]:
    """Numbers of a series of so many that are neither on the bench nor back for service."""
    return [n for n in range(1, count + 1) if whereabouts(fates, n) not in {"bench", "service"}]


def is_done_with(fates: Sequence[WatchFate], count: int) -> bool:
    """Whether all of it have left the bench: nothing is to be bought, made or built for it any more."""
    return bool(fates) and len(numbers_out(fates, count)) == count


def refuse_fate(fates: Sequence[WatchFate], new: WatchFate, count: int) -> None:
    """Raise TakenError where the step cannot follow what happened so far; nothing is written then."""
    if not 1 <= new.number <= count:
        raise TakenError(f"There is no number {new.number} in a series of {count}. Nothing was changed.")
    at = whereabouts(fates, new.number)
    if new.what in OUTCOMES:
        allowed = at in {"bench", "kept"} and not (at == "kept" and new.what == "kept")
    elif new.what == "back":
        allowed = at in {"sold", "given", "kept"}
    else:
        allowed = at == "service" and new.what in SERVICE_LABELS
    if not allowed:
        raise TakenError(f"The watch is {WHERE_WORDS[at]}. Nothing was changed.")


def last_of(fates: Iterable[WatchFate], number: int) -> WatchFate | None:
    """The newest step of a number: the one that can be taken back."""
    steps = of_number(fates, number)
    return steps[-1] if steps else None


def fate_told(fate: WatchFate, *, named: bool = False) -> str:
    """A step in words; `named` says which number of the series."""
    who = f"No. {fate.number}: " if named else ""
    match fate.what:
        case "sold":
            said = f"Sold{f' to {fate.who}' if fate.who else ''}{f' for {fate.price}' if fate.price else ''}"
        case "given":
            said = f"Given{f' to {fate.who}' if fate.who else ' away'}"
        case "kept":
            said = "Kept here"
        case "apart":
            said = "Taken apart again; its pieces are back on the shelf"
        case "back":
            said = f"Came back for service{f' from {fate.who}' if fate.who else ''}"
        case _:
            said = SERVICE_LABELS.get(fate.what, fate.what.capitalize())
    return f"{who}{said}{f'. {fate.words}' if fate.words else ''}"


def fate_moments(fates: Sequence[WatchFate]) -> Iterator[Moment]:
    """Each step as a moment of the story; one that was taken back is marked as that."""
    kept = {fate.id for fate in fates_standing(fates)}
    named = len({fate.number for fate in fates}) > 1
    for fate in fates:
        if fate.what != "undo":
            words, place = fate_told(fate, named=named), StoryPlace("life", str(fate.number))
            yield Moment(fate.at_ms, "life", words, place, clock=False, undone=fate.id not in kept)


@dataclass(frozen=True, slots=True)
class ServiceVisit:
    """One time that a watch came back: the step that began it, what was found and done, how it went out."""

    back: WatchFate
    steps: tuple[WatchFate, ...]

    @property
    def out(self) -> WatchFate | None:
        """The step that ended it; None while the watch is here."""
        last = self.steps[-1] if self.steps else None
        return last if last is not None and last.what == "out" else None


def service_visits(fates: Iterable[WatchFate]) -> list[ServiceVisit]:
    """Every time that the watch came back, the newest first; of a series those of every number."""
    found: dict[int, list[WatchFate]] = {}
    current: dict[int, int] = {}
    every = fates_standing(fates)
    for fate in every:
        if fate.what == "back":
            current[fate.number] = fate.id
            found[fate.id] = [fate]
        elif fate.what in {"found", "changed", "out"} and fate.number in current:
            found[current[fate.number]].append(fate)
    return [ServiceVisit(steps[0], tuple(steps[1:])) for steps in reversed(found.values())]
