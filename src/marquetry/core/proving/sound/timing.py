"""Rate, beat error and amplitude of a watch from a recording, each with what it rests on."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.beat_line import BeatLine, Numbers, Times, first_line, fitted, numbers
from marquetry.core.proving.sound.drops import REACH_S, drops
from marquetry.core.proving.sound.ground import Heard, heard
from marquetry.core.proving.sound.level import noise_db
from marquetry.core.proving.sound.noises import Noises, laid_over, noises
from marquetry.core.proving.sound.recording import Recording, SoundError
from marquetry.core.proving.sound.rhythm import FEWEST_BEATS, MOST_BEATS, Rhythm, rhythm
from marquetry.core.values.errors import DimensionError

SECONDS_A_DAY = 86_400.0
LIFT_ANGLE = 52.0
SMALLEST_LIFT, WIDEST_LIFT = 20.0, 90.0
SMALLEST_SWING, WIDEST_SWING = 100.0, 360.0
NEAR_S = 0.001
"""A beat has a drop where one lies this near to the line."""
FEWEST = 8
REFINED = 2
AROUND = 0.56
"""Of a beat's time must be recorded on each side of it."""
FEWEST_SHARE = 0.4


@dataclass(frozen=True, slots=True)
class Traced:
    """A beat: its `time` in s, how far it lies from a perfect watch's in `deviation` ms, `odd` 0 or 1."""

    time: float
    deviation: float
    odd: int


@dataclass(frozen=True, slots=True)
class Timing:
    """What a recording says; `rate` and `rate_u` in s a day, positive where it gains, `amplitude` in degrees.

    `amplitude` is None where the unlocking cannot be told from the ground. `gaps` are beats expected and
    not found.
    """

    beats_per_hour: int
    rate: float
    rate_u: float
    beat_error_ms: float
    amplitude: float | None
    beats: int
    gaps: int
    seconds: float
    noise_db: float
    trace: Sequence[Traced]


def timing(
    recording: Recording,
    lift_angle: float = LIFT_ANGLE,
    beats: int | None = None,
    clock_ppm: float | None = None,
) -> Timing:
    """What the recording says of the watch. SoundError where no watch is heard in it.

    `beats` an hour where they are known. DimensionError where they, or the lift angle, are none of a watch.
    `clock_ppm` is the standard uncertainty of the sound card's clock, where it is known.
    """
    if not SMALLEST_LIFT <= lift_angle <= WIDEST_LIFT:
        raise DimensionError("lift angle", f"{lift_angle:g}", "°", f"{SMALLEST_LIFT:g} to {WIDEST_LIFT:g}°")
    if beats is not None and not FEWEST_BEATS <= beats <= MOST_BEATS:
        raise DimensionError("beats", beats, "an hour", f"{FEWEST_BEATS} to {MOST_BEATS}")
    sound = heard(recording)
    beat = rhythm(sound, beats)
    line, found, n, times = _refined(sound, beat)
    measured = line.period
    true = 3600.0 / beat.beats
    rate_u = SECONDS_A_DAY * math.hypot(line.u / measured, (clock_ppm or 0.0) * 1e-6)
    off = (times - times[0] - (n - n[0]) * true) * 1000.0
    return Timing(
        beats_per_hour=beat.beats,
        rate=SECONDS_A_DAY * (true / measured - 1.0),
        rate_u=rate_u,
        beat_error_ms=abs(line.odd - line.even) * 1000.0,
        amplitude=_amplitude(found, beat.beats, lift_angle),
        beats=len(n),
        gaps=int(n[-1] - n[0]) + 1 - len(n),
        seconds=recording.seconds,
        noise_db=noise_db(recording, line, n),
        trace=tuple(
            Traced(float(t), float(d), int(k) % 2) for t, d, k in zip(times, off, n - n[0], strict=True)
        ),
    )


def swing(lift_angle: float, t1: float, beats: int) -> float:
    """The amplitude in degrees at which the lift angle takes `t1` s: λ / (2·sin(π·T₁·bph/7200))."""
    return lift_angle / (2.0 * math.sin(math.pi * t1 * beats / 7200.0))


def lift_time(lift_angle: float, amplitude: float, beats: int) -> float:
    """T₁ in s at an amplitude in degrees: the same law the other way round."""
    return 7200.0 / (math.pi * beats) * math.asin(lift_angle / (2.0 * amplitude))


def _amplitude(found: Noises, beats: int, lift_angle: float) -> float | None:
    if found.first is None:
        return None
    degrees = swing(lift_angle, found.drop - found.first, beats)
    return degrees if SMALLEST_SWING <= degrees <= WIDEST_SWING else None


def _refined(sound: Heard, beat: Rhythm) -> tuple[BeatLine, Noises, Numbers, Times]:
    """The line of the drops, a beat's noises on it, and the numbers and times of beats that were found."""
    line = first_line(sound, beat)
    for _ in range(REFINED):
        found, n, times, loud = _dropped(sound, line)
        line, _ = fitted(n[loud], times[loud])
    # Once the line is known each drop is looked for beside it alone: talk is louder than a drop elsewhere.
    found, n, times, loud = _dropped(sound, line, NEAR_S)
    near = loud & (np.abs(times - line.at(n)) <= NEAR_S)
    _enough(near)
    final, _ = fitted(n[near], times[near])
    return final, found, n[near], times[near]


def _dropped(
    sound: Heard, line: BeatLine, reach: float = REACH_S
) -> tuple[Noises, Numbers, Times, NDArray[np.bool_]]:
    """Near a line: the noises of a beat, and each beat's drop, with whether it is heard."""
    n = numbers(line, len(sound.power) / sound.rate, AROUND * line.period)
    laid = laid_over(sound, line, n) if len(n) >= FEWEST else None
    found = noises(laid, sound.smear) if laid else None
    if laid is None or found is None:
        raise _nothing()
    times, loud = drops(sound, line, n, (laid, found), reach)
    _enough(loud)
    return found, n, times, loud


def _enough(heard_in: NDArray[np.bool_]) -> None:
    if heard_in.sum() < max(FEWEST, FEWEST_SHARE * len(heard_in)):
        raise _nothing()


def _nothing() -> SoundError:
    return SoundError(
        "no-beat", "No beat was found that repeats. Lay the watch on the microphone, and keep the room quiet."
    )
