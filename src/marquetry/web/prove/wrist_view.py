"""Running, from the wrist: the offset over days, the rate of each stretch, the power reserve."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.proving.asked import SOONEST_U, wrist_of
from marquetry.core.proving.sound.words import rate_words
from marquetry.core.proving.wrist import WORN_H, WRIST_WAY_WORDS, WristStretch, power_reserve_h
from marquetry.core.proving.wrist_records import wrist_entry
from marquetry.core.values.figures import band, figure
from marquetry.drawing.proving.offset_days import offset_days
from marquetry.drawing.scene import Scene
from marquetry.web.prove.view import ProvePage
from marquetry.web.watch.visit import Visit


@dataclass(frozen=True)
class WristPage:
    """The page of readings against a clock."""

    page: ProvePage
    template: str = "wrist"

    @cached_property
    def stretches(self) -> list[WristStretch]:
        """Every stretch since the watch was closed, the newest first."""
        return list(reversed(wrist_of(self.page.ready)))

    @property
    def last(self) -> WristStretch | None:
        """The stretch that goes on."""
        return self.stretches[0] if self.stretches else None

    @property
    def scene(self) -> Scene | None:
        """Its readings."""
        return offset_days(self.last) if self.last else None

    @property
    def rate(self) -> str:
        """Its rate; empty with one reading, and while its doubt says nothing yet."""
        return rate_words(self.last.rate) if self.last and self.last.rate is not None and self.is_told else ""

    @property
    def is_told(self) -> bool:
        """Whether enough time has passed for a rate."""
        return self.last is not None and (self.last.rate_u or 0.0) <= SOONEST_U

    @property
    def rate_u(self) -> str:
        """Twice its doubt."""
        return figure(2.0 * self.last.rate_u, 1) if self.last and self.last.rate_u is not None else ""

    @property
    def by_way(self) -> list[tuple[str, str]]:
        """Its rate by how the watch was kept."""
        found = self.last.by_way if self.last and self.is_told else ()
        return [
            (WRIST_WAY_WORDS[way], f"{rate_words(rate)} ± {figure(2.0 * u, 1)}") for way, rate, u in found
        ]

    @property
    def reserve(self) -> str:
        """The power reserve; empty where no winding and stopping was told."""
        entries = [wrist_entry(proof) for proof in self.page.ready.counting(self.page.ready.test("wrist"))]
        hours = power_reserve_h([entry for entry in entries if entry])
        return "" if hours is None else figure(hours, 1, "h")

    @property
    def ways(self) -> Mapping[str, str]:
        """How a watch is kept."""
        return WRIST_WAY_WORDS

    @property
    def limit(self) -> str:
        """The rule for its rate."""
        return band(self.page.ready.situation.rules.band("rate"), 0, "s/d")

    @property
    def needed(self) -> str:
        """How long it has to be worn."""
        return figure(WORN_H, 0, "h")


def wrist_page(page: ProvePage, visit: Visit) -> WristPage:
    """The page."""
    del visit
    return WristPage(page)
