"""A wish on its way: open, proposed, agreed, and changed once more; every step with its day and words.

Steps are only ever added. What was agreed last stays in force until a change of it is agreed too.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from marquetry.core.brief.topics import FINISHES, TOPICS, Topic
from marquetry.core.face.wording import colours_in, word_in
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json


class WishState(StrEnum):
    """How far a wish is. CHANGED: something was agreed, and something else is wanted instead."""

    OPEN = "open"
    PROPOSED = "proposed"
    AGREED = "agreed"
    CHANGED = "changed"


TAKEN_BACK = "taken back"


@dataclass(frozen=True, slots=True)
class WishStep:
    """One step: what was said, by `teller`, on which day. `number` counts the steps of a workshop."""

    topic: str
    state: WishState
    value: str
    words: str = ""
    teller: str = "workshop"
    at: str = ""
    number: int = 0


@dataclass(frozen=True)
class ClientWish:
    """A topic with every step that was taken on it, the oldest first."""

    topic: Topic
    steps: tuple[WishStep, ...] = ()

    @property
    def last(self) -> WishStep | None:
        """Where it stands."""
        return self.steps[-1] if self.steps else None

    @property
    def state(self) -> WishState:
        """How far it is; open where nobody said anything."""
        return self.last.state if self.last else WishState.OPEN

    @property
    def value(self) -> str:
        """What is said of it now, agreed or not."""
        return self.last.value if self.last else ""

    @property
    def told(self) -> str:
        """The same as a reader has it."""
        return self.topic.told(self.value) if self.value else ""

    @cached_property
    def in_force(self) -> str:
        """What was agreed last; nothing where nothing ever was, or where it was opened again."""
        kept = ""
        for step in self.steps:
            if step.state is WishState.AGREED:
                kept = step.value
            elif step.state is WishState.OPEN:
                kept = ""
        return kept

    def propose(self, typed: str, words: str = "", teller: str = "workshop") -> WishStep:
        """Say something else, or something for the first time; errors as `Topic.read` raises them."""
        value = self.topic.read(typed)
        if not value:
            return WishStep(self.topic.key, WishState.OPEN, "", words, teller)
        state = WishState.CHANGED if self.in_force and value != self.in_force else WishState.PROPOSED
        return WishStep(self.topic.key, state, value, words, teller)

    def agree(self, words: str = "", teller: str = "workshop") -> WishStep:
        """Agree to what is said now."""
        return WishStep(self.topic.key, WishState.AGREED, self.value, words, teller)

    def take_back(self, teller: str = "workshop") -> tuple[WishStep, ...]:
        """The steps that make the wish what it was before its last one; what was said stays on record."""
        before = ClientWish(self.topic, self.steps[:-1])
        steps: list[WishStep] = []
        if before.in_force != self.in_force:
            state = WishState.AGREED if before.in_force else WishState.OPEN
            steps.append(WishStep(self.topic.key, state, before.in_force, TAKEN_BACK, teller))
        now = steps[-1] if steps else self.last
        if now and (now.state, now.value) != (before.state, before.value):
            steps.append(WishStep(self.topic.key, before.state, before.value, TAKEN_BACK, teller))
        return tuple(steps)


@dataclass(frozen=True, slots=True)
class SignOff:
    """The client's yes to a version of the watch: by whom, on which day, in which words."""

    number: int
    version: int
    name: str
    words: str
    at: str
    last_step: int
    """The last step of any wish that it was a yes to."""


@dataclass(frozen=True)
class Brief:
    """All wishes of a watch in the order in which they are talked over, and its sign-offs."""

    wishes: tuple[ClientWish, ...]
    sign_offs: tuple[SignOff, ...] = ()

    @classmethod
    def of(cls, steps: Iterable[WishStep], sign_offs: Iterable[SignOff] = ()) -> "Brief":
        """The brief that these steps make, the oldest first; steps on what nobody asks are left out."""
        by_topic: dict[str, list[WishStep]] = {}
        for step in steps:
            by_topic.setdefault(step.topic, []).append(step)
        wishes = tuple(ClientWish(topic, tuple(by_topic.get(topic.key, ()))) for topic in TOPICS)
        return cls(wishes, tuple(sign_offs))

    def wish(self, key: str) -> ClientWish:
        """The wish on a topic; KeyError where nobody asks that."""
        return {wish.topic.key: wish for wish in self.wishes}[key]

    @property
    def settled(self) -> tuple[ClientWish, ...]:
        """What is agreed."""
        return tuple(wish for wish in self.wishes if wish.state is WishState.AGREED)

    @property
    def asked(self) -> tuple[ClientWish, ...]:
        """What is proposed or changed, and waits for a yes."""
        return tuple(w for w in self.wishes if w.state in {WishState.PROPOSED, WishState.CHANGED})

    @property
    def open(self) -> tuple[ClientWish, ...]:
        """What nobody said anything of."""
        return tuple(wish for wish in self.wishes if wish.state is WishState.OPEN)

    @property
    def signed(self) -> SignOff | None:
        """The newest sign-off."""
        return self.sign_offs[-1] if self.sign_offs else None

    @property
    def looks_wished(self) -> str:
        """The looks that are agreed, as the Finder ranks by them: colours and finishes, each word once."""
        found: list[str] = []
        for wish in self.wishes:
            if wish.topic.looks:
                found += colours_in(wish.in_force)
            if wish.topic.key == FINISHES:
                found.append(word_in("finish", wish.in_force))
        return " ".join(dict.fromkeys(word for words in found for word in words.split()))


def targeted(build: Build, wish: ClientWish) -> Build:
    """The build with what is in force of the wish in its target, where the report checks anything of it."""
    if not wish.topic.target:
        return build
    target: dict[str, Json] = dict(build.raw.get("target") or {})
    value = wish.topic.in_target(wish.in_force)
    target.pop(wish.topic.target, None)
    if value is not None:
        target[wish.topic.target] = value
    return build.with_target(target)


def in_sheet(build: Build, topic: Topic) -> str:
    """What the sheet's target has of a topic, as a wish would be kept; nothing where it has nothing."""
    found: Mapping[str, Json] = build.raw.get("target") or {}
    value = found.get(topic.target) if topic.target else None
    if value is None or value == []:
        return ""
    return ", ".join(value) if isinstance(value, list) else f"{float(value):g}"
