"""The dial in its own colours: ground, track, markers with their light and shadow, windows, print."""

import math
from collections.abc import Iterator

from marquetry.core.face.cut_windows import SeenCut
from marquetry.core.face.dial_seen import SHOWN
from marquetry.core.face.hand_shapes import Contour, FacePoint, shifted, turned
from marquetry.core.face.seen import SeenDial, SeenLogo, SeenMarker, SeenWindow
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.light import LIGHT_FROM, Facets, disc, facing, laid, round_, shadow_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Circle, DividedRing, Inlay, InlayEdge, Lettering, Mark, Paper

SLOPE = 0.75
"""How steep the facets of an applied marker are."""
FRAME = 0.32
"""Metal round the lume of an applied marker, mm."""
SHADE = 0.34
LEGIBLE = 1.6
"""Smaller figures than this, mm of paper, are left out of a small drawing: they would be a blur."""


def dial_face(plan: Plan, dial: SeenDial, *, fine: bool = True) -> Iterator[Mark]:
    """The dial; `fine` leaves out nothing, a small drawing leaves out what would only be a blur."""
    yield from disc(plan, dial.coat, dial.radius)
    if dial.inner_ring:
        ring = round_(plan, dial.inner_ring)
        yield Inlay((ring,), "#000", 0.04)
        yield Inlay((ring,), "none", line=dial.print_colour, line_width=0.07 * plan.scale)
    yield from track(plan, dial, fine=fine)
    yield from _lines(plan, dial, fine=fine)
    if dial.logo and (fine or dial.logo.size * plan.scale >= LEGIBLE):
        yield from _logo(plan, dial.logo)
    yield from _windows(plan, dial)
    yield from markers(plan, dial.markers, fine=fine)
    yield Inlay((round_(plan, dial.radius),), "url(#li-dish)")


def track(plan: Plan, dial: SeenDial, *, fine: bool = True) -> Iterator[Mark]:
    """The minute track at its radius, as many divisions as there are minutes."""
    radius, scale, ink = dial.track_radius, plan.scale, dial.marks_colour
    if dial.track == "none":
        return
    if dial.track == "dots":
        yield DividedRing(plan.centre, (radius - 0.15) * scale, 0.26 * scale, 60, 0.002, ink, is_round=True)
        yield DividedRing(plan.centre, (radius - 0.15) * scale, 0.46 * scale, 12, 0.0005, ink, is_round=True)
        return
    deep = 0.5 if dial.track == "railway" else 0.42
    yield DividedRing(plan.centre, (radius - deep / 2) * scale, deep * scale, 60, 0.085, ink)
    yield DividedRing(plan.centre, (radius - 0.35) * scale, 0.7 * scale, 12, 0.034, ink)
    if dial.track == "railway" and fine:
        for r in (radius, radius - deep):
            yield Inlay((round_(plan, r),), "none", line=ink, line_width=0.07 * scale)


def markers(plan: Plan, found: tuple[SeenMarker, ...], *, fine: bool = True) -> Iterator[Mark]:
    """All markers: shadows first, then facets, then lume."""
    shadows: list[InlayEdge] = []
    facets, tops = Facets(), Facets()
    for marker in found:
        if marker.words:
            continue
        if marker.height:
            shadows.append(flat_marker(plan, marker, shadow_of(marker.height)))
            (_raised if fine else _halved)(plan, marker, facets, tops)
        else:
            facets.add(marker.lume.day if marker.lume else marker.colour, flat_marker(plan, marker))
    if shadows:
        yield Inlay(tuple(shadows), "#000", SHADE)
    yield from facets.marks()
    yield from tops.marks()
    legible = 0.0 if fine else LEGIBLE / plan.scale
    yield from _numerals(plan, tuple(m for m in found if m.outer - m.inner > legible))


def _numerals(plan: Plan, found: tuple[SeenMarker, ...]) -> Iterator[Mark]:
    for marker in found:
        if not marker.words:
            continue
        at = plan.at((marker.inner + marker.outer) / 2, marker.angle)
        size = (marker.outer - marker.inner) * plan.scale
        turn = marker.angle if marker.shape == "roman" else 0.0
        if marker.height:
            across, up = shadow_of(marker.height)
            moved = at[0] + across * plan.scale, at[1] + up * plan.scale
            yield Lettering(
                moved, marker.words, size, mixed(marker.colour, "#000000", 0.75), marker.letters, turn
            )
        ink = marker.lume.day if marker.lume else marker.colour
        yield Lettering(at, marker.words, size, ink, marker.letters, turn)


def marker_outline(marker: SeenMarker) -> Contour:
    """A marker with corners from above, mm."""
    half, inner, outer = marker.width / 2, marker.inner, marker.outer
    if marker.shape == "triangle":
        return turned(((-half, outer), (half, outer), (0.0, inner)), marker.angle)
    return turned(((-half, outer), (half, outer), (half, inner), (-half, inner)), marker.angle)


def _centre(marker: SeenMarker) -> FacePoint:
    """The middle of a round marker, mm."""
    angle, middle = math.radians(marker.angle), (marker.inner + marker.outer) / 2
    return middle * math.sin(angle), middle * math.cos(angle)


def flat_marker(plan: Plan, marker: SeenMarker, by: FacePoint = (0.0, 0.0)) -> InlayEdge:
    """The marker on paper, moved by (across, up) mm as its shadow is."""
    if marker.shape == "dot":
        x, y = _centre(marker)
        return round_(plan, marker.width / 2, (x + by[0], y + by[1]))
    return laid(plan, shifted(marker_outline(marker), by))


def _raised(plan: Plan, marker: SeenMarker, facets: Facets, tops: Facets) -> None:
    """An applied marker: facets that lean outwards, a flat lume field or a ridge on top."""
    if marker.shape == "dot":
        _boss(plan, marker, facets, tops)
        return
    outline, inside = marker_outline(marker), narrowed(marker)
    count = len(outline)
    for k in range(count):
        edge = outline[k], outline[(k + 1) % count]
        facet = laid(plan, (*edge, inside[(k + 1) % count], inside[k]))
        facets.add(facing(marker.colour, _azimuth(*edge, inside[k]), SLOPE), facet)
    if marker.lume:
        tops.add(marker.lume.day, laid(plan, inside))


def _halved(plan: Plan, marker: SeenMarker, facets: Facets, tops: Facets) -> None:
    """An applied marker of a small drawing: two slopes along it, and its lume."""
    if marker.shape != "baton":
        _raised(plan, marker, facets, tops)
        return
    half, inner, outer = marker.width / 2, marker.inner, marker.outer
    for side in (-1, 1):
        slope = turned(((0.0, outer), (side * half, outer), (side * half, inner), (0.0, inner)), marker.angle)
        facets.add(facing(marker.colour, marker.angle + side * 90.0, SLOPE), laid(plan, slope))
    if marker.lume:
        tops.add(marker.lume.day, laid(plan, narrowed(marker)))


def narrowed(marker: SeenMarker) -> Contour:
    """The top of the facets: a frame's inner edge round lume, else a ridge along the marker."""
    half, inner, outer = marker.width / 2, marker.inner, marker.outer
    rim = min(FRAME, half * 0.6) if marker.lume else half
    side = half - rim
    ends = min(rim, (outer - inner) / 3)
    if marker.shape == "triangle":
        tall = outer - inner
        top, tip = outer - ends, inner + 2.2 * ends
        wide = max(half * (top - tip) / tall, 0.0) if marker.lume else 0.0
        if not marker.lume:
            middle = (0.0, outer - tall / 3)
            return turned((middle, middle, middle), marker.angle)
        return turned(((-wide, top), (wide, top), (0.0, tip)), marker.angle)
    return turned(
        ((-side, outer - ends), (side, outer - ends), (side, inner + ends), (-side, inner + ends)),
        marker.angle,
    )


def _azimuth(start: FacePoint, end: FacePoint, inside: FacePoint) -> float:
    """Which way the facet over an edge leans, degrees clockwise from twelve: away from what is inside."""
    normal = end[1] - start[1], start[0] - end[0]
    if (start[0] - inside[0]) * normal[0] + (start[1] - inside[1]) * normal[1] < 0:
        normal = -normal[0], -normal[1]
    return math.degrees(math.atan2(normal[0], normal[1]))


def _boss(plan: Plan, marker: SeenMarker, facets: Facets, tops: Facets) -> None:
    """A round marker: the side towards the lamp bright, the other dark, the top level or lume."""
    centre, radius = _centre(marker), marker.width / 2
    facets.add(facing(marker.colour, LIGHT_FROM, SLOPE), round_(plan, radius, centre))
    away = shadow_of(0.12)
    low = (centre[0] + away[0], centre[1] + away[1])
    tops.add(facing(marker.colour, LIGHT_FROM + 180.0, 0.55), round_(plan, radius * 0.84, low))
    tops.add(marker.lume.day if marker.lume else marker.colour, round_(plan, radius * 0.74, centre))


def _windows(plan: Plan, dial: SeenDial) -> Iterator[Mark]:
    for window in dial.windows:
        yield from _window(plan, window, dial)
    for cut in dial.cuts:
        yield from _cut(plan, cut)


def _cut(plan: Plan, cut: SeenCut) -> Iterator[Mark]:
    """A cut-out in its own outline, what of the movement shows in it, and the shade of the dial's edge."""
    opening = laid(plan, cut.outline)
    dark = mixed(cut.ground, "#000000", 0.7)
    yield Inlay((opening,), cut.ground, line=dark, line_width=0.1 * plan.scale)
    if cut.beneath == "movement":
        yield Inlay((opening,), "url(#li-brush)", 0.9)
    for numeral in cut.shown:
        turn = numeral.angle if cut.beneath == "24-hour disc" else 0.0
        at = plan.at(numeral.radius, numeral.angle)
        yield Lettering(at, numeral.words, numeral.size * plan.scale, cut.print_colour, "plain", turn)
    away = shadow_of(0.12)
    yield Inlay((opening, laid(plan, shifted(cut.outline, away))), "#000", 0.3)


def _window(plan: Plan, window: SeenWindow, dial: SeenDial) -> Iterator[Mark]:
    """The opening with its depth, what shows in it, and a frame where there is one."""
    scale = plan.scale
    at = plan.at(window.radius, window.angle)
    half = window.long / 2, window.wide / 2
    if window.frame != "none":
        rim = 0.28
        frame = _box(plan, at, (half[0] + rim, half[1] + rim), window)
        colour = dial.print_colour if window.frame == "painted" else "#d7dadb"
        yield Inlay((frame,), colour)
        if window.frame == "applied":
            yield Inlay((frame,), "url(#li-sheen)", 0.9)
    opening = _box(plan, at, half, window)
    yield Inlay((opening,), window.disc, line=mixed(window.disc, "#000000", 0.7), line_width=0.1 * scale)
    words = SHOWN.get(window.name, "")
    size = 1.0 if len(words) > 2 else 1.15  # noqa: PLR2004  # a day's three letters
    yield Lettering(at, words, size * scale, window.print_colour, "plain")
    # The edge of the dial throws its shade into the window.
    shade = (
        tuple((x + 0.1 * scale, y - 0.1 * scale) for x, y in opening)
        if isinstance(opening, tuple)
        else opening
    )
    yield Inlay((opening, shade), "#000", 0.3)


def _box(plan: Plan, at: Paper, half: FacePoint, window: SeenWindow) -> InlayEdge:
    """A window's outline, upright as its figure is; a round one is as wide as the figure is long."""
    if window.shape == "round":
        return Circle(at, half[0] * 0.92 * plan.scale)
    x, y = at
    a, b = half[0] * plan.scale, half[1] * plan.scale
    return ((x - a, y + b), (x + a, y + b), (x + a, y - b), (x - a, y - b))


def _logo(plan: Plan, logo: SeenLogo) -> Iterator[Mark]:
    """The logo, an applied one with its shadow."""
    x, y = plan.centre
    size = logo.size * plan.scale
    if logo.is_applied:
        across, up = shadow_of(0.25)
        shade = (x + across * plan.scale, y + (logo.up + up) * plan.scale)
        yield Lettering(shade, logo.words, size, "#0006", logo.letters)
    yield Lettering((x, y + logo.up * plan.scale), logo.words, size, logo.colour, logo.letters)


def _lines(plan: Plan, dial: SeenDial, *, fine: bool) -> Iterator[Mark]:
    x, y = plan.centre
    for line in dial.lines:
        if not fine and line.size * plan.scale < LEGIBLE:
            continue
        at = (x, y + line.up * plan.scale)
        yield Lettering(at, line.words, line.size * plan.scale, dial.print_colour, line.letters)
