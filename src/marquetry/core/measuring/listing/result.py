"""What was read of a listing: a kind, and proposals with the words each was read from."""

from dataclasses import dataclass, field
from typing import Literal

from marquetry.core.values.dimension import USUAL_TOLERANCE, Dimension, Source, Unit

ABOUT: dict[Unit, float] = {"mm": 0.15, "°": 2.0}
"""Tolerance of a figure that the seller gives as "about" so much."""
Sure = Literal["said", "likely", "ask"]


@dataclass(frozen=True, slots=True)
class Proposed:
    """A value for one field, in mm or degrees or, where a field holds words, as words.

    `path` is within the part; `words` and where they stand: which line, from and to which letter.
    """

    path: str
    value: float | str
    tol: float | None
    unit: str
    words: str
    sure: Sure
    line: int = -1
    start: int = 0
    end: int = 0
    about: bool = False

    @property
    def source(self) -> Source:
        """Listed; assumed where the seller says it is only about so much."""
        return Source.ASSUMED if self.about else Source.LISTED

    @property
    def dimension(self) -> Dimension | None:
        """The dimension that is proposed, in mm or degrees; None for words."""
        if isinstance(self.value, str):
            return None
        unit: Unit = "°" if self.unit == "°" else "mm"
        return Dimension(self.value, self._tolerance(unit), self.source)

    def _tolerance(self, unit: Unit) -> float:
        """As told; else the usual one of a seller's figure, wider where he says "about"."""
        if self.tol is not None:
            return self.tol
        return ABOUT[unit] if self.about else USUAL_TOLERANCE[unit][Source.LISTED]

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        unit: Unit = "°" if self.unit == "°" else "mm"
        tol = self.tol if isinstance(self.value, str) else self._tolerance(unit)
        return {
            "path": self.path,
            "value": self.value,
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
    meant: float


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

    def as_dict(self) -> dict[str, object]:
        """As JSON carries it."""
        price = None if self.price is None else {"amount": self.price[0], "currency": self.price[1]}
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
            "price": price,
            "unread": self.unread,
            "notes": self.notes,
            "asks": [{"path": s.path, "text": s.words, "meant": s.meant} for s in self.asks],
        }
