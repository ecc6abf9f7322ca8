"""The shelf's page: what is looked for, as the address says it, and the slips that were found."""

from dataclasses import dataclass
from typing import Annotated
from urllib.parse import urlencode

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.store.shelf_search import FILTERS, SORTS, STOCK, Found, ShelfQuery
from marquetry.store.watches import StoredWatch

Word = Annotated[str, Field(max_length=120)]


class ShelfLook(BaseModel):
    """The address's query: everything that can be chosen on the shelf; `for` is a watch to be filled."""

    model_config = ConfigDict(extra="ignore", populate_by_name=True)
    q: Word = ""
    kind: Word = ""
    colour: Word = ""
    material: Word = ""
    finish: Word = ""
    glow: Word = ""
    supplier: Word = ""
    stock: Word = ""
    sort: Word = "name"
    by: Word = ""
    low: Word = ""
    high: Word = ""
    page: Annotated[int, Field(ge=1, le=100_000)] = 1
    watch: Annotated[int | None, Field(alias="for")] = None
    removed: int | None = None

    def query(self) -> ShelfQuery:
        """What to search for; a limit that is no number limits nothing."""
        chosen = {key: getattr(self, key) for key in FILTERS if getattr(self, key)}
        low, high = self._limit(self.low), self._limit(self.high)
        return ShelfQuery(
            self.q, chosen, self.stock, self.sort, self.by, low, high, self.page, self.watch or 0
        )

    @staticmethod
    def _limit(text: str) -> float | None:
        try:
            return parse_figure("size", text, "mm") if text.strip() else None
        except DimensionError:
            return None

    def address(self, **changed: object) -> str:
        """The same look with something changed, as the address's query; another choice starts at page 1."""
        now = self.model_dump(by_alias=True, exclude_defaults=True)
        now.pop("removed", None)
        if changed.keys() != {"page"}:
            now.pop("page", None)
        now.update(changed)
        kept = {key: value for key, value in now.items() if value not in {"", None}}
        return f"?{urlencode(kept)}"

    def drawer(self, kind: str) -> str:
        """The same look in another drawer, whose sizes are others."""
        return self.address(kind=kind, by="", low="", high="")


@dataclass(frozen=True, slots=True)
class Drawer:
    """A drawer of the cabinet: one kind of part, and how many of it there are."""

    kind: Kind
    count: int


@dataclass(frozen=True, slots=True)
class ShelfPage:
    """All that the shelf shows."""

    look: ShelfLook
    found: Found
    drawers: tuple[Drawer, ...]
    choices: dict[str, list[str]]
    suppliers: list[str]
    watch: StoredWatch | None
    watches: list[StoredWatch]
    anatomy: Anatomy
    sorts: tuple[tuple[str, str], ...] = tuple((key, words) for key, (words, _) in SORTS.items())
    stocks: tuple[tuple[str, str], ...] = tuple((key, words) for key, (words, _) in STOCK.items())

    @property
    def kind(self) -> Kind | None:
        """The drawer that is open."""
        return self.anatomy.kind(self.look.kind) if self.anatomy.has_kind(self.look.kind) else None

    @property
    def kinds(self) -> tuple[Kind, ...]:
        """Every drawer's kind."""
        return self.anatomy.kinds

    @property
    def sizes(self) -> tuple[tuple[str, Quantity], ...]:
        """The dimensions of the open drawer's kind."""
        return self.kind.quantities() if self.kind else ()

    @property
    def total(self) -> int:
        """Parts in all drawers."""
        return sum(drawer.count for drawer in self.drawers)

    @property
    def wide(self) -> str:
        """The address without any filter: the whole drawer."""
        return self.look.address(**dict.fromkeys((*FILTERS, "q", "stock", "by", "low", "high"), ""))

    @property
    def before(self) -> str:
        """The address of the page before this one; nothing on the first."""
        return self.look.address(page=self.found.page - 1) if self.found.page > 1 else ""

    @property
    def after(self) -> str:
        """The address of the page after this one; nothing on the last."""
        return self.look.address(page=self.found.page + 1) if self.found.page < self.found.pages else ""

    @property
    def is_narrowed(self) -> bool:
        """Whether anything besides the drawer is chosen."""
        return self.look.address(kind="", sort="", **{"for": ""}) != "?"
