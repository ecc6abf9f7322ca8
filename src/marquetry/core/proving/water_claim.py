"""What may be said of water: only what was tested since the watch was last closed, as it was tested."""

from dataclasses import dataclass

from marquetry.core.proving.pressure_words import metres
from marquetry.core.proving.ready import Readiness
from marquetry.core.proving.record import result_number
from marquetry.core.values.figures import figure


@dataclass(frozen=True, slots=True)
class WaterClaim:
    """A dry test that holds: at so many `bar`, when in milliseconds since 1970, by which means, by whom."""

    bar: float
    at_ms: int
    means: str
    by: str

    @property
    def metres(self) -> float:
        """The depth of still water at whose pressure it was held, in metres."""
        return metres(self.bar)

    def words(self, day: str) -> str:
        """The claim, with what belongs to it."""
        told = [
            f"Tested dry at {figure(self.bar, 1, 'bar')}, as under {figure(self.metres, 0, 'm')} of water,",
            f"on {day}" + (f" with {self.means}" if self.means else ""),
            f"by {self.by}." if self.by else "(nobody named).",
            "It lapses when the watch is opened, and this is not a diving certificate.",
        ]
        return " ".join(told)


def water_claim(ready: Readiness) -> WaterClaim | None:
    """The claim in force; None where nothing was tested since, or the watch is open."""
    if "dry" not in ready.by_key or ready.is_open:
        return None
    records = ready.dry_tests
    last = records[-1] if records else None
    if last is None or last.verdict != "passed":
        return None
    return WaterClaim(result_number(last, "held_bar") or 0.0, last.at_ms, last.means, last.by)
