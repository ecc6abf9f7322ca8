"""Lessons as their page shows them: by the group of steps at which they come up; the form of a new one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from marquetry.core.bench.step import GROUP_LABELS
from marquetry.core.bench.steps import STEPS
from marquetry.core.sheet.kind import Kind
from marquetry.store import lessons, watches
from marquetry.store.database import Connection
from marquetry.store.lessons import Lesson


@dataclass(frozen=True)
class LessonsPage:
    """Every lesson, by the group of steps at which it is shown, and the form of a new one."""

    groups: Sequence[tuple[str, Sequence[Lesson]]]
    outgrown: Sequence[Lesson]
    steps: Sequence[tuple[str, str]]
    kinds: Sequence[tuple[str, str]]
    schools: Sequence[tuple[str, str]]
    watches: Sequence[tuple[int, str]]
    described: Mapping[str, Kind]
    back: int = 0
    faults: Mapping[str, str] = field(default_factory=dict)
    typed: Mapping[str, str] = field(default_factory=dict)

    @property
    def titles(self) -> Mapping[str, str]:
        """Every step that a lesson may be shown at, in words."""
        return dict(self.steps)

    @property
    def turn_words(self) -> Mapping[str, str]:
        """What a later build said of a lesson, in words."""
        return {"held": "held again", "outgrown": "outgrown", "shown": "shown once more"}

    @property
    def kind_words(self) -> Mapping[str, str]:
        """Kinds of part in words."""
        return dict(self.kinds)

    @property
    def school_words(self) -> Mapping[str, str]:
        """Ways of working in words."""
        return dict(self.schools)


def step_title(step_id: str) -> str:
    """What a step is called on no watch in particular."""
    title = next((step.title for step in STEPS if step.id == step_id), step_id)
    return title if isinstance(title, str) else step_id.replace("_", " ").capitalize()


def lessons_page(
    connection: Connection,
    back: int = 0,
    faults: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> LessonsPage:
    """Compute the page."""
    model, every = connection.model, lessons.lessons(connection)
    group_of = {step.id: GROUP_LABELS[step.group] for step in STEPS}
    groups: dict[str, list[Lesson]] = {label: [] for label in GROUP_LABELS.values()}
    for one in every:
        if not one.is_outgrown:
            groups.setdefault(group_of.get(one.step, "At any step"), []).append(one)
    schools = [
        (f"{school.key}={practice.key}", f"{school.label}: {practice.label.lower()}")
        for school in model.school_list
        for practice in school.practices
    ]
    return LessonsPage(
        [(label, ours) for label, ours in groups.items() if ours],
        [one for one in every if one.is_outgrown],
        [(step.id, step_title(step.id)) for step in STEPS],
        [(kind.key, kind.label) for kind in model.anatomy.kinds],
        schools,
        watches.watch_names(connection),
        {kind.key: kind for kind in model.anatomy.kinds},
        back,
        {"words": "", **(faults or {})},
        {**dict.fromkeys(("words", "step", "kind", "school", "watch"), ""), **(typed or {})},
    )
