"""The kinds of entry a part is described by; `parts.py` is the description itself.

Forms, help texts, drawings, file checks and paths all read these; nothing else says what a part has.
"""

from dataclasses import dataclass
from typing import Literal, TypeAlias

from marquetry.core.values.dimension import Unit
from marquetry.core.values.errors import DimensionError

Floor = Literal["positive", "zero", "signed"]
Nature = Literal["diameter", "radius", "angle", "thickness", "width", "length", "depth", "height"]
"""What a quantity is: forms, drawings and shapes go by this, never by the words of a label."""
SMALLEST = 1e-9
"""A picometre: what is more than nothing, and can still be divided by."""
FURTHEST: dict[Unit, float] = {"mm": 200.0, "°": 720.0}
"""No watch part reaches further; a larger number is a slip of units or of the decimal point."""


@dataclass(frozen=True, slots=True)
class Way:
    """A way to measure: `key` is what instruments say they reach, `hint` how it is done, in short.

    `steps` and `slips` are what the measuring card tells: how, one step at a time, and what goes wrong.
    """

    key: str
    hint: str
    steps: tuple[str, ...] = ()
    slips: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Quantity:
    """A dimension of a part.

    `usual` (mm or degrees, as `plausible`) is where it lies when nothing is known (drawn dashed), `near` a
    better guess: another path and what is added to it. `nature` says what kind of quantity it is. `plausible`
    is the range outside which a slip is likely, `how` the way to measure it; `floor` says whether it may be
    zero or negative. `differs`: told only of a part where it is not what is `near`, or where a seller names
    it and no check asks for it; a usual part has none.
    """

    key: str
    label: str
    usual: float
    plausible: tuple[float, float]
    how: "Way"
    nature: Nature
    floor: Floor = "positive"
    near: tuple[str, float] | None = None
    differs: bool = False

    @property
    def unit(self) -> Unit:
        """Degrees for an angle, millimetres for all else."""
        return "°" if self.nature == "angle" else "mm"

    @property
    def is_place(self) -> bool:
        """Whether it says where something lies about the centre, as a picture can show."""
        return self.nature in {"radius", "angle"}

    def told(self, figure: str) -> str:
        """The figure with the sign of its nature: Ø before a diameter."""
        return f"Ø {figure}" if self.nature == "diameter" else figure

    @property
    def way(self) -> str:
        """What an instrument must reach to measure it."""
        return self.how.key

    @property
    def hint(self) -> str:
        """How it is measured, for a builder."""
        return self.how.hint

    def refuse_impossible(self, path: str, value: float) -> None:
        """Raise DimensionError where no part could have this value."""
        furthest = FURTHEST[self.unit]
        least = {"positive": SMALLEST, "zero": 0.0, "signed": -furthest}[self.floor]
        fits = least <= value <= furthest
        if not fits:
            bound = "more than 0" if self.floor == "positive" else f"{least:g} or more"
            limit = f"{bound} and at most {furthest:g} {self.unit}"
            raise DimensionError(path, f"{value:g}", self.unit, limit)

    def is_plausible(self, value: float) -> bool:
        """Whether the value is one that such parts have."""
        return self.plausible[0] <= value <= self.plausible[1]


@dataclass(frozen=True, slots=True)
class Choice:
    """A word out of a few; other words are kept but mean nothing to the checks."""

    key: str
    label: str
    options: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Text:
    """Free words, such as a name or a thread."""

    key: str
    label: str


@dataclass(frozen=True, slots=True)
class Names:
    """A list of words, such as a movement's functions."""

    key: str
    label: str
    options: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Count:
    """A whole number of at least one."""

    key: str
    label: str


@dataclass(frozen=True, slots=True)
class Flag:
    """Yes or no; `default` where nothing is said, None where nothing said means it is not known."""

    key: str
    label: str
    default: bool | None


@dataclass(frozen=True, slots=True)
class Tint:
    """A colour: a name of the palette, or `#rrggbb`; other words are kept and read as far as they go."""

    key: str
    label: str
    options: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class PlainSize:
    """A plain number of mm without a tolerance: only the looks need it, or the bench alone writes it."""

    key: str
    label: str
    most: float = 30.0


@dataclass(frozen=True, slots=True)
class PlainRing:
    """A part that is a flat ring in section: keys of its inner and outer Ø and of its thickness, mm.

    It lies on `lies_on`, a height among the section's stations.
    """

    inner: str
    outer: str
    thickness: str
    lies_on: str
    material: Literal["steel", "brass", "rubber", "spacer"] = "spacer"


@dataclass(frozen=True, slots=True)
class Group:
    """Entries under one key. `optional`: it is itself a part that may be absent, as one hand of a set.

    `looks` is how the part looks and what it is made of: kept with it, told on the shelf, used by no check.
    `drawn` is how the section draws it, where it is a plain ring; other shapes have an outline of their own.
    `face` is how it is seen from the front, in the words the face is drawn by, where it is seen at all.
    """

    key: str
    label: str
    entries: tuple["Entry", ...]
    optional: bool = False
    looks: tuple["Look", ...] = ()
    drawn: "PlainRing | None" = None
    face: "Group | None" = None

    @property
    def within(self) -> tuple["Entry", ...]:
        """All that a path may go on to: entries, looks, and how it is seen from the front."""
        return (*self.entries, *self.looks, *((self.face,) if self.face else ()))


@dataclass(frozen=True, slots=True)
class Many:
    """A list of like things, such as feet; `singular` names one of them, `looks` as for a group.

    `most` is the longest list that is read: a longer one is a slip or a strain on the program.
    """

    key: str
    label: str
    singular: str
    entries: tuple["Entry", ...]
    looks: tuple["Look", ...] = ()
    most: int = 24
    face: "Group | None" = None

    @property
    def within(self) -> tuple["Entry", ...]:
        """All that a path may go on to within one of its things."""
        return (*self.entries, *self.looks, *((self.face,) if self.face else ()))


Look: TypeAlias = Text | Choice
Entry: TypeAlias = Quantity | Choice | Text | Names | Count | Flag | Tint | PlainSize | Group | Many
