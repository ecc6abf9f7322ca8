"""What was read of a listing: a kind, and proposals with the words each was read from."""

from dataclasses import dataclass, field
from typing import Literal

from marquetry.core.values.dimension import USUAL_TOLERANCE, Dimension, Source, Unit
from marquetry.core.values.figures import figure

ABOUT: dict[Unit, float] = {"mm": 0.15, "°": 2.0}
"""Tolerance of a figure that the seller gives as "about" so much."""
Value = float | str | bool | tuple[str, ...]
"""What a field holds: mm or degrees, a word, yes or no, or the words of a list."""
Sure = Literal["said", "likely", "ask"]


@dataclass(frozen=True, slots=True)
class Proposed:
    """A value for one field, in mm or degrees or, where a field holds words, as words.

    `path` is within the part; `words` and where they stand: which line, from and to which letter.
    """

    path: str
    value: "Value"
    tol: float | None
    unit: str
    words: str
    sure: Sure
    line: int = -1
    start: int = 0
    end: int = 0
    about: bool = False
    is_plain: bool = False
    """Whether it is no dimension of the sheet: words, yes or no, a list, or a number without a tolerance."""
    in_mm: bool = True
    """Whether it was written in millimetres; what was written so goes before lignes and inches."""

    @property
    def source(self) -> Source:
        """Listed; assumed where the seller says it is only about so much."""
        return Source.ASSUMED if self.about else Source.LISTED

    @property
    def dimension(self) -> Dimension | None:
        """The dimension that is proposed, in mm or degrees; None for words and plain numbers."""
        if self.is_plain or not isinstance(self.value, int | float):
            return None
        unit: Unit = "°" if self.unit == "°" else "mm"
        return Dimension(self.value, self._tolerance(unit), self.source)

    @property
    def entry(self) -> "float | str | bool | list[str]":
        """The value as JSON and a sheet's plain entry carry it."""
        return list(self.value) if isinstance(self.value, tuple) else self.value

    @property
    def shown(self) -> str:
        """The value as a builder reads it: with its unit, yes or no, or the words of a list."""
        if isinstance(self.value, bool):
            return "yes" if self.value else "no"
        if isinstance(self.value, tuple):
            return ", ".join(self.value) or "none"
        if self.is_plain and isinstance(self.value, float):
            return f"{self.value:g} {self.unit}".strip()
        return self.value if isinstance(self.value, str) else figure(self.value, 2, self.unit)

    def _tolerance(self, unit: Unit) -> float:
        """As told; else the usual one of a seller's figure, wider where he says "about"."""
        if self.tol is not None:
            return self.tol
        return ABOUT[unit] if self.about else USUAL_TOLERANCE[unit][Source.LISTED]

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        unit: Unit = "°" if self.unit == "°" else "mm"
        tol = self.tol if self.dimension is None else self._tolerance(unit)
        return {
            "path": self.path,
            "value": self.entry,
            "tol": tol,
            "unit": self.unit,
            "text": self.words,
            "sure": self.sure,
            "source": self.source.value,
        }


@dataclass(frozen=True, slots=True)
class Doubted:
    """A value outside the plausible range: the question, and what was probably meant, in mm or degrees."""

    path: str
    words: str
    meant: float | str


@dataclass(slots=True)
class Listing:
    """One part of a listing. `kind_sure` tells whether words name its kind; `price` in its currency."""

    kind: str | None
    kind_sure: Sure | None
    name: str = ""
    fields: list[Proposed] = field(default_factory=list)
    looks: dict[str, str] = field(default_factory=dict)
    functions: list[str] = field(default_factory=list)
    windows: list[str] = field(default_factory=list)
    price: tuple[float, str] | None = None
    unread: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    asks: list[Doubted] = field(default_factory=list)
    text: str = ""
    suits: list[str] = field(default_factory=list)
    """Calibres that the part is sold for."""
    calibres: list[str] = field(default_factory=list)
    """Names that a movement goes by."""
    drive: str = ""
    """What drives a movement; empty where that is not told."""
    quantity: int = 1
    """How many pieces are sold at the price of one."""
    kit_price: tuple[float, str] | None = None
    """What the whole order costs; told of its first part only."""
    without: list[str] = field(default_factory=list)
    """What the part is said not to have and that stands in no field: `seconds`."""
    adhesive: bool | None = None
    """Whether an insert is said to have adhesive under it."""
    numbers: list[int] = field(default_factory=list)
    """Which lines of the seller's text are the part's, in the order of `text`."""

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        price = None if self.price is None else _money(self.price)
        return {
            "kind": self.kind,
            "kind_sure": self.kind_sure,
            "name": self.name,
            "fields": [proposed.as_dict() for proposed in self.fields],
            "looks": self.looks,
            "functions": self.functions,
            "windows": self.windows,
            **({"suits": self.suits} if self.suits else {}),
            **({"calibres": self.calibres} if self.calibres else {}),
            **({"drive": self.drive} if self.drive else {}),
            **({"without": self.without} if self.without else {}),
            "price": price,
            "quantity": self.quantity,
            **({"kit_price": _money(self.kit_price)} if self.kit_price else {}),
            "unread": self.unread,
            "notes": self.notes,
            "asks": [{"path": s.path, "text": s.words, "meant": s.meant} for s in self.asks],
        }


def _money(price: tuple[float, str]) -> dict[str, float | str]:
    return {"amount": price[0], "currency": price[1]}
