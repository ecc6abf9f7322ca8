"""What is lacking once the stock is used, by the days it is wanted; and what no offer can bring in time."""

from collections import defaultdict
from dataclasses import dataclass

from marquetry.core.trade.offer import Demand, Need, Offer
from marquetry.core.values.day import later

WHENEVER = "9999-12-31"
"""The day of a need that has none: after every other."""


@dataclass(frozen=True, slots=True)
class Lacking:
    """Pieces of a part still to be bought: by each day so many in all, the earliest day first."""

    part: str
    until: tuple[tuple[str, int], ...]

    @property
    def pieces(self) -> int:
        """Whole count of pieces in all."""
        return self.until[-1][1]

    @property
    def last_day(self) -> str:
        """The day after which nothing helps."""
        return self.until[-1][0]


def lacking(demand: Demand) -> tuple[Lacking, ...]:
    """What the stock leaves open, in the order of the needs; it serves the earliest day first."""
    needs: dict[str, list[Need]] = defaultdict(list)
    for need in demand.needs:
        needs[need.part].append(need)
    found = []
    for part, wanted in needs.items():
        left, so_far = demand.stock.get(part, 0), 0
        until: dict[str, int] = {}
        for need in sorted(wanted, key=lambda need: need.by or WHENEVER):
            used = min(left, need.pieces)
            left -= used
            so_far += need.pieces - used
            if need.pieces > used:
                until[need.by or WHENEVER] = so_far
        if so_far:
            found.append(Lacking(part, tuple(until.items())))
    return tuple(found)


def arrival(demand: Demand, offer: Offer) -> str:
    """The day on which what is ordered today of the offer arrives."""
    return later(demand.today, next(s.days for s in demand.suppliers if s.name == offer.supplier))


def in_time(demand: Demand, part: Lacking) -> tuple[tuple[int, str], ...]:
    """The offers of the part that arrive while they still help, by their places, with the day of each."""
    found = []
    for place, offer in enumerate(demand.offers):
        if offer.part == part.part and offer.most_packs != 0:
            day = arrival(demand, offer)
            if day <= part.last_day:
                found.append((place, day))
    return tuple(found)


def can_be_had(demand: Demand, part: Lacking) -> bool:
    """Whether the offers in time can bring all of it, minimum orders aside."""
    offers = in_time(demand, part)
    for day, pieces in part.until:
        held = [demand.offers[place] for place, arrives in offers if arrives <= day]
        if all(offer.most_packs is not None for offer in held):
            there = sum((offer.most_packs or 0) * offer.pack for offer in held)
            if there < pieces:
                return False
    return True
