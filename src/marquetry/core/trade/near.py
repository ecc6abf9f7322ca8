"""Ways to buy each part as tables of numbers, and the sets of them that may still be the best."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from marquetry.core.trade.offer import Offer
from marquetry.core.trade.ways import Buying, Packs

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Whole = NDArray[np.int64]
    Real = NDArray[np.float64]

MOST_ROWS = 20_000
"""Sets of ways that are reckoned one by one; more are parted first."""
MOST_PAIRS = 2_000_000


@dataclass(frozen=True)
class Table:
    """The ways of one part: goods in minor units and use by supplier, pieces, cost in home's minor units."""

    goods: "Whole"
    used: "Whole"
    pieces: "Whole"
    cost: "Real"
    taken: tuple[tuple[Packs, ...], ...]

    def only(self, rows: "Whole") -> "Table":
        """The same with some rows."""
        taken = tuple(self.taken[row] for row in rows.tolist())
        return Table(self.goods[rows], self.used[rows], self.pieces[rows], self.cost[rows], taken)

    def reduced(self, prices: "Real") -> "Real":
        """What each way costs where every limit has its price, home's minor units."""
        reduced: Real = self.cost - self.goods @ prices
        return reduced


@dataclass(frozen=True)
class Near:
    """The tables of all parts."""

    tables: tuple[Table, ...]

    @classmethod
    def of(
        cls, ways: Sequence[Sequence[Buying]], names: list[str], offers: Sequence[Offer], each: "Real"
    ) -> "Near":
        """Tables of the ways, by suppliers in the order of their names; `each` is what their goods cost."""
        column = {name: place for place, name in enumerate(names)}
        return cls(tuple(_table(found, column, offers, each) for found in ways))

    def least(self, prices: "Real") -> float:
        """What the cheapest ways cost together, home's minor units."""
        return float(sum(table.reduced(prices).min() for table in self.tables))

    def cheapest(self, prices: "Real") -> "tuple[float, Whole]":
        """The same with the goods that they are, minor units by supplier."""
        import numpy as np  # noqa: PLC0415  # heavy

        cost, goods = 0.0, np.zeros(len(prices), dtype=np.int64)
        for table in self.tables:
            reduced = table.reduced(prices)
            row = int(reduced.argmin())
            cost += float(reduced[row])
            goods += table.goods[row]
        return cost, goods

    def can_reach(self, wants: "Whole") -> bool:
        """Whether the goods can reach every limit at all."""
        return bool((sum(table.goods.max(axis=0) for table in self.tables) >= wants).all())

    def within(self, prices: "Real", room: float, wants: "Whole") -> "Near | None":
        """Without the ways that cost more than the room beyond the cheapest, or keep off a limit.

        None where a part has none left.
        """
        import numpy as np  # noqa: PLC0415  # heavy

        most = sum(table.goods.max(axis=0) for table in self.tables)
        kept = []
        for table in self.tables:
            reduced = table.reduced(prices)
            fits = reduced - reduced.min() <= room
            fits &= (table.goods + (most - table.goods.max(axis=0)) >= wants).all(axis=1)
            if not fits.any():
                return None
            kept.append(table if fits.all() else table.only(np.flatnonzero(fits)))
        return Near(tuple(kept))

    def parted(self, prices: "Real") -> "tuple[Near, Near]":
        """Two halves: the part whose goods weigh most by the limits' prices, parted between few and many."""
        import numpy as np  # noqa: PLC0415  # heavy

        spreads = np.array([np.ptp(table.goods, axis=0) * prices for table in self.tables])
        place, column = divmod(int(spreads.argmax()), len(prices))
        if spreads[place, column] > 0:
            goods = self.tables[place].goods[:, column]
            few = goods <= (int(goods.min()) + int(goods.max())) // 2
        else:
            place = int(np.argmax([len(table.cost) for table in self.tables]))
            few = np.arange(len(self.tables[place].cost)) % 2 == 0
        return tuple(
            Near(
                (
                    *self.tables[:place],
                    self.tables[place].only(np.flatnonzero(half)),
                    *self.tables[place + 1 :],
                )
            )
            for half in (few, ~few)
        )  # type: ignore[return-value]  # two of them


def _table(ways: Sequence[Buying], column: dict[str, int], offers: Sequence[Offer], each: "Real") -> Table:
    """The ways of one part; of those with the same goods at the same suppliers the fewest pieces."""
    import numpy as np  # noqa: PLC0415  # heavy

    best: dict[tuple[int, ...], tuple[int, tuple[Packs, ...]]] = {}
    for taken, _ in ways:
        goods, used = [0] * len(column), [0] * len(column)
        pieces = 0
        for packs in taken:
            place = column[offers[packs.place].supplier]
            goods[place] += packs.goods
            used[place] = 1
            pieces += packs.packs * offers[packs.place].pack
        key = (*goods, *used)
        if key not in best or pieces < best[key][0]:
            best[key] = (pieces, taken)
    keys = np.array(list(best), dtype=np.int64).reshape(len(best), 2 * len(column))
    goods_by = keys[:, : len(column)]
    pieces_by = np.array([pieces for pieces, _ in best.values()], dtype=np.int64)
    return Table(
        goods_by,
        keys[:, len(column) :],
        pieces_by,
        goods_by @ each,
        tuple(taken for _, taken in best.values()),
    )


@dataclass
class Rows:
    """Sets of ways as rows, with the way of each part by which they came."""

    goods: "Whole"
    used: "Whole"
    pieces: "Whole"
    dearer: "Real"
    order: list[int]
    steps: "list[tuple[Whole, Whole]]" = field(default_factory=list)

    def packs_of(self, near: Near, row: int) -> dict[int, int]:
        """Packs by offer of one row."""
        packs: dict[int, int] = {}
        for place, (rows, by) in zip(reversed(self.order), reversed(self.steps), strict=True):
            packs.update({taken.place: taken.packs for taken in near.tables[place].taken[int(by[row])]})
            row = int(rows[row])
        return packs


def grown(near: Near, prices: "Real", room: float, wants: "Whole") -> Rows | None:
    """Every set of ways within the room that reaches the limits, part by part; None where they are too many.

    A row goes on only while its ways, and what its goods go beyond the limits at their price, cost no more
    than the cheapest ways and the room.
    """
    import numpy as np  # noqa: PLC0415  # heavy

    order = sorted(range(len(near.tables)), key=lambda place: -len(near.tables[place].cost))
    width = len(wants)
    rows = Rows(
        np.zeros((1, width), np.int64),
        np.zeros((1, width), np.int64),
        np.zeros(1, np.int64),
        np.zeros(1),
        order,
    )
    fewest = sum(table.goods.min(axis=0) for table in near.tables)
    most = sum(table.goods.max(axis=0) for table in near.tables)
    for place in order:
        table = near.tables[place]
        fewest, most = fewest - table.goods.min(axis=0), most - table.goods.max(axis=0)
        costs = table.reduced(prices)
        costs = costs - costs.min()
        if len(rows.dearer) * len(costs) > MOST_PAIRS:
            return None
        at, by = np.nonzero(rows.dearer[:, None] + costs[None, :] <= room)
        dearer, goods = rows.dearer[at] + costs[by], rows.goods[at] + table.goods[by]
        beyond = np.maximum(goods + fewest - wants, 0) @ prices
        fits = (dearer + beyond <= room) & (goods + most >= wants).all(axis=1)
        at, by = at[fits], by[fits]
        used, pieces = rows.used[at] | table.used[by], rows.pieces[at] + table.pieces[by]
        kept = _fewest_pieces(goods[fits], used, pieces)
        if len(kept) > MOST_ROWS:
            return None
        rows.goods, rows.used, rows.pieces = goods[fits][kept], used[kept], pieces[kept]
        rows.dearer = dearer[fits][kept]
        rows.steps.append((at[kept], by[kept]))
    return rows


def _fewest_pieces(goods: "Whole", used: "Whole", pieces: "Whole") -> "Whole":
    """Of rows with the same goods at the same suppliers, which cost the same, the fewest pieces."""
    import numpy as np  # noqa: PLC0415  # heavy

    keys = np.column_stack([goods, used, pieces])
    order = np.lexsort(keys.T[::-1])
    ordered = keys[order, :-1]
    first = np.ones(len(order), dtype=bool)
    first[1:] = (ordered[1:] != ordered[:-1]).any(axis=1)
    kept: Whole = np.sort(order[first])
    return kept
