"""A printed minute track: where it ends outwards."""

import numpy as np

from marquetry.core.seeing.circles import LUMA, SeenCircle, rays
from marquetry.core.seeing.found import Findings, circle_mark
from marquetry.core.seeing.profiles import peaks, slopes

LEAST, MOST = 0.62, 0.99
"""Shares of the dial's radius between which a track may end."""
COUNT = 1440


def track_of(found: Findings, outline: SeenCircle, above: float) -> None:
    """The track's outer end: a printed circle's outer edge, or where sixty strokes end together."""
    plane = found.plane
    radii, light = rays(
        plane,
        outline.middle + plane.displaced(outline.middle, above),
        LEAST * outline.radius,
        MOST * outline.radius - 3 * plane.blur,
        COUNT,
    )
    brightness = light @ LUMA
    line = np.median(brightness, axis=0)
    # Strokes of sixty minutes are the sixtieth wave of the round; a printed circle is its mean.
    waves = np.abs(np.fft.rfft(brightness, axis=0)) / COUNT
    strokes = np.sqrt(waves[60] ** 2 + waves[120] ** 2 + waves[180] ** 2)
    other = np.sqrt(np.mean(waves[190:260] ** 2, axis=0))
    width = max(plane.blur / plane.step, 1.2)
    ends = []
    for told, least in (
        (strokes, max(6 * float(np.median(other)), 0.01)),
        (np.abs(line - np.median(line)), 0.04),
    ):
        if float(told.max()) < least:
            continue
        high = float(np.quantile(told[told > 0.5 * told.max()], 0.5))
        fall = -slopes(told[None, :], width)[0]
        columns = np.nonzero(
            (fall >= np.roll(fall, 1)) & (fall > np.roll(fall, -1)) & (fall * width * 2.5 > 0.45 * high)
        )[0]
        columns = columns[(columns > 2) & (columns < len(fall) - 3)]  # not the window's own ends
        ends += [float(radii[0] + peaks(fall[None, :], columns[-1:])[0] * plane.step)] if len(columns) else []
    if ends:
        # Hours repeat among sixty too: of what ends in strokes and what in a line, the track is the outer.
        radius = max(ends)
        lowered = radius * plane.shrunk(above)
        mark = circle_mark(outline.middle + plane.displaced(outline.middle, above), radius)
        found.length("track_radius", lowered, radius - lowered, 0.02, mark)
        return
    found.ask(
        "track_radius",
        "No minute track is told from the rest: point at its outer end, or leave it.",
        outline.middle,
    )
