"""An idea: the watch as it would be after one thing was done to it, not yet tried."""

from dataclasses import dataclass, replace
from typing import Literal

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import with_one_date_window
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension, Source

Effort = Literal[1, 2, 3, 4, 5]
"""1 minutes, 2 an hour or a small part, 3 a part to make or buy, 4 a dear part, 5 nearly another watch."""

EFFORT_WORDS = {
    1: "minutes at the bench",
    2: "an hour, or a small part",
    3: "a part to make or to buy",
    4: "a dear part",
    5: "nearly another watch",
}
MADE_TOL = 0.02
"""A part that is yet to be made or bought will be known to about this."""


@dataclass(frozen=True, slots=True)
class Idea:
    """One thing to do. `school` is the workshop's choice it belongs to, `make` a part to be made."""

    kind: str
    title: str
    build: Build
    effort: Effort
    undo: bool = True
    school: str = ""
    make: str = ""
    caution: str = ""
    before: Build | None = None
    """The watch that it is done to."""
    first: "Idea | None" = None
    """What is done before it."""

    def after(self, first: "Idea") -> "Idea":
        """The same done after another idea; the dearer effort counts, and what cannot be undone stays so."""
        return replace(
            self,
            kind=f"{first.kind}+{self.kind}",
            title=f"{first.title}; then {self.title[0].lower()}{self.title[1:]}",
            effort=max(first.effort, self.effort),
            undo=first.undo and self.undo,
            school=first.school or self.school,
            make=first.make or self.make,
            first=first,
            caution=" ".join(dict.fromkeys(filter(None, (first.caution, self.caution)))),
        )


def with_value(build: Build, path: str, value: float) -> Build:
    """The build with the dimension at the path moved; its tolerance stays, or becomes that of a made part."""
    old = build.dimensions.get(path)
    tol = old.tol if old is not None else MADE_TOL
    # A part to be bought is known as its seller tells it; all else is as planned as what is made here.
    source = old.source if old is not None and old.source is Source.LISTED else Source.PLANNED
    made = build.with_entry(path, dimension_as_json(Dimension(round(value, 4), tol, source)))
    return with_one_date_window(build, made)


def is_possible(build: Build, path: str, value: float) -> bool:
    """Whether a part could plausibly have this value, in mm or degrees."""
    quantity = build.anatomy.quantity_at(path)
    return quantity.is_plausible(value) and (value > 0 or quantity.floor != "positive")


def rounded(value: float, step: float) -> float:
    """The value on the steps that a workshop can make, mm."""
    return round(round(value / step) * step, 6)
