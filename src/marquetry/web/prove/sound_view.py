"""Running, heard: the rings of the last recording, the six positions, what they say together."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.proving.asked import round_of, timings_of
from marquetry.core.proving.positions import PAUSE_S, POSITIONS, Position, PositionTiming, RateRound
from marquetry.core.proving.record import Proof, newest, result_number
from marquetry.core.proving.sound.recording import SHORTEST_S
from marquetry.core.proving.sound.rhythm import USUAL_BEATS
from marquetry.core.proving.sound.timing import LIFT_ANGLE, Timing, Traced
from marquetry.core.proving.sound.words import rate_words
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.beat_rings import beat_rings, small_rings
from marquetry.drawing.scene import Scene
from marquetry.web.prove.view import ProvePage, day_of
from marquetry.web.watch.visit import Visit

RECORDED_S = (20, 30, 60)
MOST_TORN = 10
"""So often a recording is begun again by itself because sound is missing from it."""
ROW = 3
USUAL_SECONDS = 20.0
BEATS_TOLD = {0: "as heard", **{beats: f"{beats:,}".replace(",", " ") for beats in USUAL_BEATS}}
"""What may be said of the beats an hour: nothing, or one of the usual."""


@dataclass(frozen=True, slots=True)
class HeardFigures:
    """A recording's figures as the page writes them, and its rings."""

    rate: str
    rate_u: str
    amplitude: str
    beat_error: str
    beats: str
    told: str
    rings: Scene


def heard_figures(found: Timing, label: str) -> HeardFigures:
    """What was heard just now."""
    swing = "" if found.amplitude is None else figure(found.amplitude, 0, "°")
    told = _told(found.beats, found.gaps, found.seconds, found.noise_db)
    return _figures(
        found.rate, found.rate_u, swing, found.beat_error_ms, found.beats_per_hour, told,
        beat_rings(found.trace, found.seconds, found.amplitude, label),
    )  # fmt: skip


def _told(beats: int, gaps: int, seconds: float, ground_db: float) -> str:
    return f"{beats} beats in {seconds:.0f} s, {gaps} missing; {ground_db:.0f} dB over the ground"


def _figures(  # noqa: PLR0913, PLR0917  # one argument a figure
    rate: float, u: float, swing: str, beat: float, beats: int, told: str, rings: Scene
) -> HeardFigures:
    hour = f"{beats:,}".replace(",", " ")
    return HeardFigures(rate_words(rate), figure(u, 2), swing, figure(beat, 2, "ms"), hour, told, rings)


def recorded_figures(proof: Proof, label: str) -> HeardFigures:
    """What a record says."""
    number = {
        key: result_number(proof, key) for key in ("rate_s_per_day", "rate_u", "beat_error_ms", "noise_db")
    }
    amplitude, seconds = (
        result_number(proof, "amplitude_deg"),
        result_number(proof, "seconds") or USUAL_SECONDS,
    )
    beats, gaps = (round(result_number(proof, key) or 0.0) for key in ("beats", "gaps"))
    told = _told(beats, gaps, seconds, number["noise_db"] or 0.0)
    swing = "" if amplitude is None else figure(amplitude, 0, "°")
    rings = beat_rings(tuple(traced(proof)), seconds, amplitude, label)
    rate, u, beat = (number[key] or 0.0 for key in ("rate_s_per_day", "rate_u", "beat_error_ms"))
    return _figures(rate, u, swing, beat, round(result_number(proof, "beats_per_hour") or 0.0), told, rings)


def traced(proof: Proof) -> Iterator[Traced]:
    """The beats that a record kept."""
    rows = proof.result.get("trace")
    for row in rows if isinstance(rows, list) else []:
        if isinstance(row, list) and len(row) == ROW and all(isinstance(each, int | float) for each in row):
            time, deviation, odd = (float(each) for each in row if isinstance(each, int | float))
            yield Traced(time, deviation, int(odd) % 2)


@dataclass(frozen=True, slots=True)
class PositionRow:
    """A position of the round: its small rings, and its figures where it was heard."""

    position: Position
    rings: Scene
    timing: PositionTiming | None = None
    rate: str = ""
    told: str = ""
    key: str = ""


@dataclass(frozen=True)
class SoundPage:
    """The page on which a watch is heard."""

    page: ProvePage
    chosen: str = ""
    template: str = "sound"

    @cached_property
    def records(self) -> Mapping[str, Proof]:
        """The newest record of each position that counts."""
        return newest(self.page.ready.counting(self.page.ready.test("sound")), "sound")

    @cached_property
    def rows(self) -> list[PositionRow]:
        """The six positions."""
        timings = timings_of(dict(self.records))
        return [self._row(position, timings.get(position.key)) for position in POSITIONS]

    def _row(self, position: Position, timing: PositionTiming | None) -> PositionRow:
        if timing is None:
            return PositionRow(position, small_rings((), USUAL_SECONDS, position.key, "Not heard yet."))
        proof = self.records[position.key]
        swing = "swing not told" if timing.amplitude is None else figure(timing.amplitude, 0, "°")
        told = f"{swing}, beat error {figure(timing.beat_error, 2, 'ms')}"
        seconds = result_number(proof, "seconds") or USUAL_SECONDS
        rings = small_rings(
            tuple(traced(proof)), seconds, position.key, f"{position.label}: {rate_words(timing.rate)}"
        )
        return PositionRow(position, rings, timing, rate_words(timing.rate), told, proof.key)

    @property
    def next(self) -> str:
        """The position to hear next: the one chosen, else the first not heard."""
        unheard = [row.position.key for row in self.rows if row.timing is None]
        known = {position.key for position in POSITIONS}
        return self.chosen if self.chosen in known else next(iter(unheard), POSITIONS[0].key)

    @property
    def round(self) -> RateRound | None:
        """What the positions say together."""
        return round_of(self.page.ready)

    @property
    def mean(self) -> str:
        """The mean of the positions, with its doubt."""
        found = self.round
        return "" if found is None else f"{rate_words(found.mean)} ± {figure(2.0 * found.mean_u, 1)}"

    @property
    def apart(self) -> str:
        """How hanging differs from lying; empty until both are heard."""
        found = self.round
        if found is None or found.hanging_less_lying is None:
            return ""
        return rate_words(found.hanging_less_lying)

    @property
    def last(self) -> HeardFigures | None:
        """The newest recording."""
        every = sorted(self.records.values(), key=lambda proof: proof.at_ms)
        return recorded_figures(every[-1], self.last_told) if every else None

    @property
    def empty(self) -> Scene:
        """The rings before a beat is heard."""
        return beat_rings((), USUAL_SECONDS, None, "No beat is heard yet.")

    @property
    def last_told(self) -> str:
        """Which recording that is."""
        every = sorted(self.records.values(), key=lambda proof: proof.at_ms)
        labels: Mapping[str, str] = {str(position.key): position.label for position in POSITIONS}
        return f"{labels[every[-1].item]}, {day_of(every[-1].at_ms)}" if every else ""

    @property
    def lift(self) -> str:
        """The lift angle last used with this watch, or the usual one."""
        angles = [
            result_number(proof, "lift_angle_deg")
            for proof in self.page.ready.standing
            if proof.kind == "sound"
        ]
        return f"{next((angle for angle in reversed(angles) if angle), LIFT_ANGLE):g}"

    @property
    def beats(self) -> Mapping[int, str]:
        """What may be said of the beats an hour."""
        return BEATS_TOLD

    @property
    def seconds(self) -> tuple[int, ...]:
        """How long may be recorded."""
        return RECORDED_S

    @property
    def first_after(self) -> float:
        """Seconds after which first figures are asked for."""
        return SHORTEST_S + 1.0

    @property
    def pause(self) -> int:
        """Seconds to turn the watch."""
        return PAUSE_S

    @property
    def most_torn(self) -> int:
        """How often a recording is begun again where sound is missing."""
        return MOST_TORN

    @property
    def positions(self) -> tuple[Position, ...]:
        """The six."""
        return POSITIONS


def sound_page(page: ProvePage, visit: Visit) -> SoundPage:
    """The page; the position may be chosen in the address."""
    return SoundPage(page, visit.request.query_params.get("position", ""))
