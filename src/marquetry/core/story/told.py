"""What is stored of a watch, told as moments: of each kind of record the trade, the words and the place.

One teller a kind of record; the store reads the rows and asks here. What only carries the program (a step
begun, a timer heard) is no part of the story.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from marquetry.core.bench.log import LogEntry, is_unsure
from marquetry.core.bench.steps import STEPS
from marquetry.core.brief.topics import TOPIC_BY_KEY
from marquetry.core.brief.wish import WishState, WishStep
from marquetry.core.proving.record import Proof
from marquetry.core.proving.told import proof_told
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.story.moment import NOWHERE, Moment, StoryPlace, Trade
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.figures import figure

MEASURED, MEASURED_END = "measured: ", " measured"
"""How the words of an edit begin or end where a measured value came in."""


def _title(step: str) -> str:
    title = TITLES.get(step)
    return title if isinstance(title, str) else step.replace("_", " ").capitalize()


TITLES: Mapping[str, object] = {step.id: step.title for step in STEPS}


@dataclass(frozen=True, slots=True)
class EditTold:
    """A revision as its history has it: `undo_to` and `redo_to` are the versions it leads to.

    `read` tells what was measured with it, and by what.
    """

    version: int
    change: str
    undo_to: int | None
    redo_to: int | None
    at_ms: int
    read: str = ""


def edit_moment(edit: EditTold, changes: Mapping[int, str], anatomy: Anatomy) -> Moment:
    """A change of the sheet; one that an undo wrote says what it took back."""
    before, words = edit.version - 1, edit.change.removeprefix(MEASURED)
    is_measured = edit.change.startswith(MEASURED) or edit.change.endswith(MEASURED_END)
    if is_measured and edit.read:
        words = f"{words}: {edit.read}" if edit.change.startswith(MEASURED) else f"{words}, {edit.read}"
    if edit.redo_to is not None and edit.redo_to == before:
        words = f"Taken back: {changes.get(before, edit.change)}"
    elif edit.version > 1 and edit.undo_to != before:
        words = f"Brought back: {edit.change}"
    trade: Trade = "measuring" if is_measured else "parts"
    place = _part_in(edit.change.removeprefix(MEASURED), anatomy)
    return Moment(edit.at_ms, trade, f"{words[:1].upper()}{words[1:]}", place)


def _part_in(words: str, anatomy: Anatomy) -> StoryPlace:
    """The part that the words of a change begin with."""
    said = words.partition(": ")[2] if words.startswith(("added: ", "removed: ")) else words
    begins = said.partition(",")[0].partition(":")[0]
    return next((StoryPlace("part", part.key) for part in anatomy.parts if part.label == begins), NOWHERE)


EntryTeller = Callable[[LogEntry, str], tuple[Trade, str]]


def _mm(entry: LogEntry) -> str:
    return figure(entry.value or 0.0, 2, "mm")


def _happened(entry: LogEntry) -> str:
    """What happened, in the builder's own words, after those of its kind."""
    words = entry.detail.get("happened")
    return f": {words}" if words else ""


ENTRY_TELLERS: Mapping[str, EntryTeller] = {
    "done": lambda _, title: ("bench", f"{title}: done"),
    "yes": lambda _, title: ("bench", f"{title}: passed"),
    "no": lambda _, title: ("bench", f"{title}: not passed"),
    "skip": lambda entry, title: (
        "bench",
        f"{title}: not sure" if is_unsure(entry) else f"{title}: skipped. {entry.words}",
    ),
    "open": lambda entry, title: ("bench", f"{title}: opened again. {entry.words}".rstrip()),
    "gap": lambda entry, title: ("measuring", f"{title}: {_mm(entry)} read"),
    "length": lambda entry, title: ("measuring", f"{title}: stem {_mm(entry)} long"),
    "height": lambda entry, title: ("measuring", f"{title}: {_mm(entry)} over the dial"),
    "cut": lambda entry, title: ("bench", f"{title}: {_mm(entry)} cut off"),
    "file": lambda entry, title: ("bench", f"{title}: {_mm(entry)} filed off"),
    "timer": lambda entry, _: ("bench", f"{entry.words}: sets for {figure(entry.value or 0.0, 0, 'min')}"),
    "mishap": lambda entry, title: ("mishap", f"{entry.words} ({title.lower()}){_happened(entry)}"),
    "note": lambda entry, title: ("note", f"{title}: {entry.words}"),
}
"""What is told of the log of the bench; starts, pauses and what was laid ready are not, nor pictures."""


def entry_moment(entry: LogEntry, *, undone: bool) -> Moment | None:
    """An entry of the bench's log; None where it is no part of the story."""
    teller = ENTRY_TELLERS.get(entry.what)
    if teller is None:
        return None
    trade, words = teller(entry, _title(entry.step))
    return Moment(entry.at_ms, trade, words, StoryPlace("step", entry.step), undone=undone)


def proof_moment(proof: Proof, *, undone: bool) -> Moment | None:
    """A record of the proofs; None for one that takes another back, which is told at that one."""
    if proof.kind == "undo":
        return None
    page = "dry" if proof.kind == "wet" else "" if proof.kind == "opened" else proof.kind
    trade: Trade = "life" if proof.kind == "opened" else "proof"
    return Moment(
        proof.at_ms, trade, proof_told(proof), StoryPlace("proof", page), undone=undone, by=proof.by
    )


WISH_WORDS = {
    WishState.OPEN: "open again", WishState.PROPOSED: "proposed", WishState.AGREED: "agreed",
    WishState.CHANGED: "wanted otherwise",
}  # fmt: skip


def wish_moment(step: WishStep, at_ms: int) -> Moment:
    """A step of a wish in the brief."""
    topic = TOPIC_BY_KEY.get(step.topic)
    label = topic.label if topic else step.topic
    value = topic.told(step.value) if topic and step.value else step.value
    said = f"{label}: {value}, {WISH_WORDS[step.state]}" if value else f"{label}: {WISH_WORDS[step.state]}"
    words = f"{said}. {step.words}" if step.words else said
    by = "the client" if step.teller == "client" else ""
    return Moment(at_ms, "decision", words, StoryPlace("brief", step.topic), by=by)


def part_label(anatomy: Anatomy, key: str) -> str:
    """What a builder calls the part; its key where this program knows none of that name."""
    try:
        return anatomy.part(key).label
    except NotFoundError:
        return key.replace("_", " ").capitalize()
