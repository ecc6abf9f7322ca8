"""One step as its screen shows it: its figure large, what it waits for, what was read, earlier lessons."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.pressed import Pressed, PressedGap, pressed, ways_out
from marquetry.core.bench.procedure import WatchStep
from marquetry.core.bench.run import SETTLED, Run, Stand
from marquetry.core.bench.step import GROUP_LABELS
from marquetry.core.making.kinds import MADE
from marquetry.core.making.version import MadeVersion
from marquetry.core.proving.ready import Readiness
from marquetry.core.rehearsal.exercise import AnyExercise
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.trade.sundries import SUNDRY_BY_KEY
from marquetry.core.values.errors import MarquetryError
from marquetry.drawing.bench.place import place_scene
from marquetry.drawing.scene import Scene
from marquetry.store.lessons import Lesson, lessons_at
from marquetry.store.photos import Photo
from marquetry.store.rehearsals import LastPlay
from marquetry.web.build.rehearsable import Rehearsable
from marquetry.web.build.stem_screen import STEM_ENTRIES, Field, StemScreen

SKIP_REASONS = (
    "Not needed for this watch",
    "Done before the program was asked",
    "The part is not here yet",
    "Looked at in another way",
)
"""What most skips are for: each a key, 1 to 4; other words are typed."""
STATE_WORDS = {
    "open": "open",
    "waiting": "waits",
    "done": "done",
    "passed": "passed",
    "skipped": "skipped",
    "failed": "answered no",
    "unsure": "not sure",
}


@dataclass(frozen=True)
class Screen:
    """One step of a run for its screen."""

    run: Run
    stand: Stand
    known: Sequence[Lesson]
    photos: Mapping[int, Photo]
    guided: bool
    versions: Sequence[MadeVersion]
    ready: Readiness
    rehearsable: Rehearsable
    lacking: frozenset[str]

    @property
    def step(self) -> WatchStep:
        """The step itself."""
        return self.stand.step

    @property
    def id(self) -> str:
        """Its name in addresses."""
        return self.step.id

    @property
    def group(self) -> str:
        """The group it belongs to, in words."""
        return GROUP_LABELS[self.step.group]

    @property
    def state(self) -> str:
        """Its state in a word."""
        return STATE_WORDS[self.stand.state]

    @property
    def is_settled(self) -> bool:
        """Whether nothing more is asked of it."""
        return self.stand.state in SETTLED

    @property
    def why_not_yet(self) -> str:
        """What it waits for, or why it is open again, in a sentence; empty where neither."""
        return why_not_yet(self.run, self.stand)

    @property
    def doubts(self) -> list[WatchStep]:
        """Questions that are asked once more here, before the back is closed."""
        return [self.run.stands[name].step for name in self.stand.asks_again]

    @property
    def scene(self) -> Scene:
        """Where it happens."""
        return place_scene(self.step, self.run)

    @property
    def at_hand(self) -> str:
        """Tools and consumables, in a line."""
        keys = (*self.step.tools, *self.step.consumables)
        return ", ".join(SUNDRY_BY_KEY[key].name for key in keys)

    @property
    def instead(self) -> list[str]:
        """What does instead of each tool that the workshop said it has not."""
        lacking = (SUNDRY_BY_KEY[key] for key in self.step.tools if key in self.lacking)
        return [
            f"No {tool.name[:1].lower()}{tool.name[1:]}? {tool.instead}" for tool in lacking if tool.instead
        ]

    @cached_property
    def stem(self) -> StemScreen | None:
        """The ledger of the stem, where it stands on this screen."""
        return StemScreen(self.run, self.step.step.entry) if self.step.step.entry in STEM_ENTRIES else None

    @cached_property
    def fields(self) -> list[Field]:
        """What may be read or taken off here, what is asked for first."""
        if self.stem is not None:
            return self.stem.fields
        # Neither is asked for: digits are the keys of a question, and a height is read where one can.
        match self.step.step.entry:
            case "height":
                hand = HAND_LABELS[self.step.step.hand]
                return [Field("height", f"Height of the {hand} hand over the dial, mm")]
            case "pads":
                return [Field("height", "Thickness of a pad, mm")]
        return []

    @cached_property
    def pressed(self) -> Pressed | None:
        """The gaps of the hands read so far; None where nothing was read or a dimension lacks."""
        situation = self.run.procedure.situation
        heights = self.run.heights
        if not self.step.step.hand or self.step.step.hand not in heights:
            return None
        try:
            return pressed(situation.build, situation.rules, heights)
        except MarquetryError:
            return None

    @property
    def gaps(self) -> tuple[PressedGap, ...]:
        """The gaps that this hand has a part in, the least spare first."""
        return self.pressed.about(self.step.step.hand) if self.pressed else ()

    @property
    def ways_out(self) -> tuple[str, ...]:
        """What to do about them."""
        return ways_out(self.pressed) if self.pressed else ()

    @cached_property
    def exercise(self) -> AnyExercise | None:
        """What rehearses this step on a twin of this very watch."""
        return self.rehearsable.exercise(self.id)

    @property
    def missed(self) -> LastPlay | None:
        """The last rehearsal of this kind of step, where it went wrong and the step is still ahead."""
        return None if self.exercise is None or self.is_settled else self.rehearsable.missed(self.exercise)

    @property
    def lessons(self) -> list[Lesson]:
        """What earlier builds taught at this step."""
        return lessons_at(self.known, self.step, self.run.procedure)

    @property
    def notes(self) -> list[LogEntry]:
        """Notes and mishaps at this step."""
        return [
            entry
            for entry in self.run.of(self.id)
            if entry.what in {"note", "mishap", "skip"} and entry.words
        ]

    @property
    def pictures(self) -> list[Photo]:
        """Photographs taken at this step."""
        numbers = [entry.value for entry in self.run.of(self.id) if entry.what == "photo"]
        return [
            self.photos[int(number)]
            for number in numbers
            if number is not None and int(number) in self.photos
        ]

    @property
    def made(self) -> str:
        """Where a part of this step is made here: its last version, and how it came out."""
        told = [one for one in self.versions if MADE_FOR.get(one.part.partition(":")[0]) in self.step.parts]
        if not told:
            return ""
        last = max(told, key=lambda version: version.number)
        notes = f": {last.notes}" if last.notes else ""
        return f"Made here, version {last.number}, {MADE_STATES[last.state]}{notes}."

    @property
    def proved(self) -> str:
        """Where what this step proves stands, in words; empty for a step that proves nothing."""
        key = self.step.step.proof
        if not key:
            return ""
        if key == "all":
            return f"{self.ready.passed} of {len(self.ready.states)} proofs have passed."
        state = self.ready.by_key.get(key)
        return f"{state.test.label}: {state.words}." if state else ""

    @property
    def number(self) -> int:
        """Its place in the list, from 1."""
        return list(self.run.stands).index(self.id) + 1

    @property
    def before(self) -> str:
        """The step before it; empty at the first."""
        return self._beside(-1)

    @property
    def next(self) -> str:
        """The step after it; empty at the last."""
        return self._beside(1)

    def _beside(self, by: int) -> str:
        ids = list(self.run.stands)
        place = ids.index(self.id) + by
        return ids[place] if 0 <= place < len(ids) else ""

    @property
    def minutes(self) -> int:
        """Minutes spent on it so far."""
        return round(self.run.seconds.get(self.id, 0.0) / 60)


def why_not_yet(run: Run, stand: Stand) -> str:
    """What a step waits for, or why it is open again, in a sentence; empty where neither."""
    told: list[str] = []
    if stand.again:
        told.append(f"Open again: {stand.again}.")
    doubts = set(stand.asks_again)
    waits = [name for name in stand.waits if name not in doubts]
    if waits and stand.state == "waiting":
        titles = ", ".join(f"“{run.stands[name].step.title}”" for name in waits)
        told.append(f"Waits for {titles}.")
    if doubts:
        titles = ", ".join(f"“{run.stands[name].step.title}”" for name in stand.asks_again)
        told.append(f"You were not sure at {titles}: asked once more before the back is closed.")
    if stand.timer:
        told.append(f"Waits until this has set: {stand.timer.words}.")
    return " ".join(told)


MADE_FOR = {kind.key: kind.part for kind in MADE if kind.is_fitted}
"""Part of the sheet that each made thing is, by its kind."""
MADE_STATES = {"asked": "asked for and not measured yet", "good": "good", "spoilt": "spoilt"}


@dataclass(frozen=True, slots=True)
class Around:
    """What screens show beside the run itself."""

    lessons: Sequence[Lesson]
    photos: Sequence[Photo]
    versions: Sequence[MadeVersion]
    settings: Mapping[str, bool]
    ready: Readiness
    plays: Mapping[str, LastPlay]
    lacking: frozenset[str]
    """Tools that the workshop said it has not."""


def screens_of(run: Run, around: Around) -> dict[str, Screen]:
    """Every screen of a run, by its step."""
    pictures = {photo.id: photo for photo in around.photos}
    guided, rehearsable = around.settings["guided"], Rehearsable(run.procedure.situation, around.plays)
    return {
        name: Screen(
            run=run,
            stand=stand,
            known=around.lessons,
            photos=pictures,
            guided=guided,
            versions=around.versions,
            ready=around.ready,
            rehearsable=rehearsable,
            lacking=around.lacking,
        )
        for name, stand in run.stands.items()
    }
