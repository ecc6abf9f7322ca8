"""The dial as it is seen: markers, track, windows, lines of print, from dimensions and looks."""

from collections.abc import Iterator
from typing import TypeAlias

from marquetry.core.face.cut_windows import SeenCut, seen_cuts
from marquetry.core.face.dress import Dress, Lume
from marquetry.core.face.marker_places import MarkerPlace, apart, marker_places
from marquetry.core.face.outer import legible_on
from marquetry.core.face.seen import SeenDial, SeenLine, SeenLogo, SeenMarker, SeenWindow
from marquetry.core.fit import levels
from marquetry.core.fit.cutouts import CUTOUTS, cutouts
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.sheet.described.faces import FACE

WINDOW_LONG, WINDOW_WIDE = 2.6, 1.9
DAY_LONG = 4.6
TRACK_IN = 0.7
"""How far a minute track reaches inwards, mm."""
MARKER_SHARE = 0.2
"""Length of a marker as a share of the dial's radius, where nothing is told."""
WIDTHS = {"baton": 0.052, "dot": 0.1, "triangle": 0.14, "numerals": 0.2, "roman": 0.2}
APPLIED = 0.3
"""How high applied markers usually stand, mm."""
SHOWN = {"date": "28", "day": "FRI"}
LINE_SIZE = 1.1
LOGO_UP, LOGO_SIZE = 6.0, 1.8
"""Where a logo usually stands above the centre, and how high its letters are, mm."""
HALF_WINDOW = 9.0
"""Half the angle that a window takes from the markers, °."""
Sector: TypeAlias = tuple[float, float, float, float]
"""What a window takes up: its middle's angle and half its angle, °, and from which radius to which, mm."""


def dial(p: Plausible, dress: Dress) -> SeenDial | None:
    """The dial; matt and silver where nothing is told, with plain batons."""
    if not p.has("dial"):
        return None
    coat = dress.coat("dial", "silver", "matt", two=True)
    opening = (
        float(levels.opening(p)) / 2 if p.has("case") or p.has("chapter_ring") else p["dial.diameter"] / 2
    )
    radius = min(opening, p["dial.diameter"] / 2)
    track_radius = min(p["dial.track_radius"], radius - 0.1) if p.known("dial.track_radius") else radius - 0.5
    printed = dress.tint("dial", "print_colour", legible_on(coat.colour))
    lume = dress.lume("dial")
    windows = tuple(_windows(p, dress))
    cuts = tuple(seen_cuts(p, disc_colours(dress))) if p.count(CUTOUTS) else ()
    taken = (*(_sector(window) for window in windows), *(_cut_sector(cut) for cut in cuts))
    ring = dress.size("dial", "inner_ring")
    return SeenDial(
        coat,
        radius,
        printed,
        dress.word("dial", "track", "ticks"),
        track_radius,
        tuple(_markers(p, dress, (radius, track_radius), printed, lume, taken)),
        windows,
        tuple(_lines(p, dress)),
        ring if ring and ring < radius else None,
        lume,
        cuts,
        dress.tint("dial", "marks_colour", printed),
        _logo(dress, printed),
    )


def _windows(p: Plausible, dress: Dress) -> Iterator[SeenWindow]:
    named = [name for name in p.names("dial.windows") if next(cutouts(p, name), None) is None]
    if next(cutouts(p, "date"), None) is not None:
        return
    if not p.known("dial.date_window_angle") and "date" not in named:
        return
    angle, radius = p["dial.date_window_angle"], p["dial.date_window_radius"]
    disc, printed = disc_colours(dress)
    frame, shape = dress.word("dial", "window_frame", "none"), dress.word("dial", "window_shape", "upright")
    yield SeenWindow("date", angle, radius, WINDOW_LONG, WINDOW_WIDE, frame, shape, disc, printed)
    if "day" in named:
        inner = radius - WINDOW_LONG / 2 - DAY_LONG / 2 - 0.2
        yield SeenWindow("day", angle, inner, DAY_LONG, WINDOW_WIDE, frame, "upright", disc, printed)


def disc_colours(dress: Dress) -> tuple[str, str]:
    """Ground and print of the calendar disc, which may be told although it is not described yet."""
    disc = dress.tint("calendar_disc", "colour", "white")
    return disc, dress.tint("calendar_disc", "print_colour", legible_on(disc))


def _markers(  # noqa: PLR0913, PLR0917  # each names something of the dial
    p: Plausible,
    dress: Dress,
    radii: tuple[float, float],
    printed: str,
    lume: Lume | None,
    taken: tuple[Sector, ...],
) -> Iterator[SeenMarker]:
    count = p.count(f"dial.{FACE}.markers")
    if not count:
        yield from _quiet_markers(p, radii, printed, lume, taken)
        return
    for index in range(count):
        below = f"markers.{index}"
        shape = dress.word("dial", "shape", "baton", below)
        made = dress.word("dial", "made", "printed", below)
        outer = dress.size("dial", "outer_radius", below) or radii[1] - TRACK_IN - 0.3
        inner = dress.size("dial", "inner_radius", below) or outer - MARKER_SHARE * radii[0]
        width = dress.size("dial", "width", below) or WIDTHS.get(shape, 0.1) * radii[0]
        steel = PALETTE["steel"] if made == "applied" else printed
        colour = dress.tint("dial", "colour", steel, below)
        filled = dress.lume("dial", below, lume) if dress.flag("dial", "lume", below) else None
        letters = dress.word("dial", "letters", "upright", below)
        height = _height_at(p, inner, outer) if made == "applied" else 0.0
        for place in marker_places(dress.word("dial", "places", "all twelve", below)):
            if not _covered(place, inner, outer, taken):
                words = _words(shape, place)
                yield SeenMarker(
                    shape, place.angle, inner, outer, width, height, colour, filled, words, letters
                )


def _quiet_markers(
    p: Plausible,
    radii: tuple[float, float],
    printed: str,
    lume: Lume | None,
    taken: tuple[Sector, ...],
) -> Iterator[SeenMarker]:
    """Batons where something raised is measured, else printed ones: nobody said what they look like."""
    raised = p.count("dial.features") > 0
    outer = radii[1] - TRACK_IN - 0.3
    inner = min(p["dial.features.0.inner_radius"], outer - 1.0) if raised else outer - MARKER_SHARE * radii[0]
    colour = PALETTE["steel"] if raised else printed
    height = p["dial.features.0.height"] if raised else 0.0
    for place in marker_places("all twelve"):
        if not _covered(place, inner, outer, taken):
            yield SeenMarker(
                "baton",
                place.angle,
                inner,
                outer,
                WIDTHS["baton"] * radii[0],
                height,
                colour,
                lume,
                "",
                "plain",
            )


def _height_at(p: Plausible, inner: float, outer: float) -> float:
    """How high the raised feature that begins there stands, mm; the usual height where none is measured."""
    for index in range(p.count("dial.features")):
        if inner - 1.5 <= p[f"dial.features.{index}.inner_radius"] <= outer:
            return float(p[f"dial.features.{index}.height"])
    return APPLIED


def _sector(window: SeenWindow) -> Sector:
    return window.angle, HALF_WINDOW, window.radius - window.long / 2, window.radius + window.long / 2


def _cut_sector(cut: SeenCut) -> Sector:
    return cut.angle, max(cut.half_angle, HALF_WINDOW), cut.radius - cut.long / 2, cut.radius + cut.long / 2


def _covered(place: MarkerPlace, inner: float, outer: float, taken: tuple[Sector, ...]) -> bool:
    """Whether a window stands where the marker would."""
    return any(
        apart(place.angle, angle) < half and inner < far and near < outer for angle, half, near, far in taken
    )


def _words(shape: str, place: MarkerPlace) -> str:
    return {"numerals": place.numeral, "roman": place.roman}.get(shape, "")


def _logo(dress: Dress, printed: str) -> SeenLogo | None:
    """The logo where one is told; applied ones are of steel unless another colour is chosen."""
    words = dress.told(f"dial.{FACE}.logo.words")
    if not isinstance(words, str) or not words:
        return None
    is_applied = dress.word("dial", "made", "printed", "logo") == "applied"
    up = dress.size("dial", "above", "logo") or -(dress.size("dial", "below", "logo") or -LOGO_UP)
    return SeenLogo(
        words,
        up,
        dress.size("dial", "size", "logo") or LOGO_SIZE,
        dress.word("dial", "letters", "upright", "logo"),
        dress.tint("dial", "colour", PALETTE["steel"] if is_applied else printed, "logo"),
        is_applied,
    )


def _lines(p: Plausible, dress: Dress) -> Iterator[SeenLine]:
    for index in range(p.count(f"dial.{FACE}.lines")):
        below = f"lines.{index}"
        words = dress.told(f"dial.{FACE}.{below}.words")
        if isinstance(words, str) and words:
            up = dress.size("dial", "above", below) or -(dress.size("dial", "below", below) or 0.0)
            size = dress.size("dial", "size", below) or LINE_SIZE
            yield SeenLine(words, up, size, dress.word("dial", "letters", "upright", below))
