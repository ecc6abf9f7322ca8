"""The section as an engraved plate: the cut watch in the middle, findings as margin notes on leader lines."""

from collections.abc import Iterator
from dataclasses import replace

from marquetry.core.section.body import Body
from marquetry.core.section.lay_out import Section
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.drawing.dimension_line import OVERALL, arrows
from marquetry.drawing.labels import LabelBoard
from marquetry.drawing.margin_notes import findings_on, section_spots
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene
from marquetry.drawing.sheet import HEIGHT, MARGIN, WIDTH, Display, Sheet, Window, sheet_for, window_of

NAMED = {"crystal", "movement", "case_back", "dial"}
"""Parts whose name is written on their cut face, where it is large enough to hold it."""

LEAST_FACE = (16.0, 5.0)
SHIM_WIDTH = 0.3
OVERALL_LEFT = 2.5


def section_plate(section: Section, name: str, display: Display | None = None) -> Scene:
    """Draw the section of the watch called `name`."""
    display = display or Display()
    window = window_of(section, display.view)
    sheet = sheet_for(window, display)
    marks = (
        *border(),
        Cluster(tuple(draw_bodies(section, sheet, window)), "bodies"),
        Cluster(tuple(_centre_lines(section, sheet, window, display)), "centre-lines"),
        *(_press_plan(section, sheet) if display.view == "hands" else _overall(section, sheet, window)),
        *findings_on(section_spots(section, sheet, window), display),
        Cluster(tuple(_foot(section, sheet)), "sheet-foot"),
    )
    return Scene(WIDTH, HEIGHT, f"{name}: section", _description(section), marks)


def border() -> Iterator[Mark]:
    """The plate's edge: a double rule with a lozenge let into each corner, as stringing is."""
    for inset, classes in ((1.2, "edge-line heavy"), (2.2, "edge-line")):
        yield Box((inset, inset), WIDTH - 2 * inset, HEIGHT - 2 * inset, classes)
    for x in (1.7, WIDTH - 1.7):
        for y in (1.7, HEIGHT - 1.7):
            yield Line(((x - 1.7, y), (x, y + 1.7), (x + 1.7, y), (x, y - 1.7)), "edge-inlay", closed=True)


def _description(section: Section) -> str:
    told = [
        f"{g.check.title}: {g.finding.verdict.value}" for g in section.gaps if g.finding.verdict.gravity > 1
    ]
    return "The watch cut through its axis and its crown. " + "; ".join(told or ["all clear"]) + "."


def draw_bodies(section: Section, sheet: Sheet, window: Window, *, names: bool = True) -> Iterator[Mark]:
    """The cut faces the window shows, in the order of painting, and the names of the large ones."""
    faces = _faces(section.bodies, window)
    yield from _drawn(faces, sheet, window)
    named = [body for body in faces if names and body.part in NAMED]
    yield from (_name_on(body, sheet) for body in named if _holds_name(body, sheet))


def draw_faces(bodies: tuple[Body, ...], sheet: Sheet, window: Window) -> Iterator[Mark]:
    """What the window shows of the bodies' cut faces, in the order of painting, without names."""
    yield from _drawn(_faces(bodies, window), sheet, window)


def _drawn(faces: list[Body], sheet: Sheet, window: Window) -> Iterator[Mark]:
    if window.left < -2:  # noqa: PLR2004  # a half-section shows no left side
        yield from (_face(body, sheet, -1) for body in faces if body.mirrored)
    yield from (_face(body, sheet, 1) for body in faces)


def _faces(bodies: tuple[Body, ...], window: Window) -> list[Body]:
    shown = [replace(body, outline=window.clip(body.outline)) for body in bodies]
    return [body for body in shown if len(set(body.outline)) > 2]  # noqa: PLR2004  # a face has three corners


def _face(body: Body, sheet: Sheet, side: int) -> Line:
    line = " assumed" if body.assumed else " planned" if body.planned else ""
    classes = f"body body-{body.material}{line}"
    title = body.label
    if body.planned:
        title += " – planned, not real yet"
    if body.assumed:
        title += " – not measured, drawn where usual: " + "; ".join(body.assumed_labels)
    return Line(tuple(sheet.at(point, side) for point in body.outline), classes, closed=True, title=title)


def _extent(body: Body, sheet: Sheet) -> tuple[float, float, float, float]:
    xs, ys = zip(*(sheet.at(point) for point in body.outline), strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def _holds_name(body: Body, sheet: Sheet) -> bool:
    left, low, right, high = _extent(body, sheet)
    return body.material != "void" and right - left > LEAST_FACE[0] and high - low > LEAST_FACE[1]


def _name_on(body: Body, sheet: Sheet) -> Label:
    left, low, right, high = _extent(body, sheet)
    x, y = left + (right - left) * 0.3, (low + high) / 2
    if body.part == "movement":
        y = low + 3.2
    if body.part == "case_back":
        y = low + 2.0
    return Label((x, y - 1.0), body.label.lower(), "display part-name halo", 3.6, "middle")


def _centre_lines(section: Section, sheet: Sheet, window: Window, display: Display) -> Iterator[Mark]:
    yield Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line")
    if display.view != "hands":
        board = LabelBoard()
        for axis in section.axes:
            ends = sheet.at((axis.from_r, axis.z)), sheet.at((axis.to_r, axis.z))
            words = f"{axis.name} axis"
            yield Line(ends, "centre-line")
            if display.view == "half":  # the whole section has no room beside the crown
                yield Label(board.place(ends[1], words, 3.6), words, "quiet halo", 3.6)


def _overall(section: Section, sheet: Sheet, window: Window) -> Iterator[Mark]:
    """How high the watch is over all, as a dimension left of the drawing."""
    told = section.overall
    tops = [z for b in section.bodies if b.kind in {"crystal", "bezel"} for _, z in b.outline]
    backs = [z for b in section.bodies if b.kind == "case_back" for _, z in b.outline]
    if told is None or told.value is None or told.high is None or not tops or not backs:
        return
    x = sheet.at((window.left, 0.0))[0] - OVERALL_LEFT
    high, low = sheet.at((0.0, max(tops)))[1], sheet.at((0.0, min(backs)))[1]
    inner = sheet.at((max(window.left, 0.0), 0.0))[0]
    yield from arrows(((inner, low), (inner, high)), ((x, low), (x, high)), OVERALL)
    words = f"{figure(told.value)} ±{figure(told.high - told.value)} over all"
    yield Label((x - 1.5, high + 1.8), words, "figure halo", 3.6)


def _press_plan(section: Section, sheet: Sheet) -> Iterator[Mark]:
    """For each hand the shim to press it against: as thick as its blade is to stand over the dial."""
    face = max((z for body in section.bodies if body.part == "dial" for _, z in body.outline), default=0.0)
    for index, (hand, height) in enumerate(section.heights.items()):
        left = -1.3 - 0.72 * index
        corners = ((left - SHIM_WIDTH, face), (left, face), (left, height), (left - SHIM_WIDTH, height))
        words = f"Shim for the {HAND_LABELS[hand]} hand"
        yield Line(tuple(map(sheet.at, corners)), "body body-print", closed=True, title=words)
        yield Line((sheet.at((left, height)), sheet.at((0.0, height))), "press-line")
        x, y = sheet.at((left - SHIM_WIDTH / 2, height))
        yield Label((x, y + 4.4), HAND_LABELS[hand], "quiet halo", 3.6, "middle")
        yield Label((x, y + 1.0), figure(height - face), "figure halo", 3.6, "middle")


def _foot(section: Section, sheet: Sheet) -> Iterator[Mark]:
    """Scale, scale bar, and what is drawn dashed because nobody measured it."""
    words = f"Scale {figure(sheet.scale, 1)} : 1"
    if sheet.stretch != 1.0:
        words += f", heights drawn {sheet.stretch:g} times taller"
    yield Label((MARGIN, 4.4), words, "quiet", 3.6)
    bar = MARGIN + 88.0
    yield Line(((bar, 5.4), (bar, 4.4), (bar + sheet.scale, 4.4), (bar + sheet.scale, 5.4)), "frame")
    yield Label((bar + sheet.scale + 1.5, 4.4), "1 mm", "quiet", 3.6)
    if section.assumed:
        first, *others = section.assumed
        more = f" and {len(others)} more" if others else ""
        told = f"Dashed: not measured, drawn where usual ({first}{more})"
        yield Label((WIDTH - MARGIN, 4.4), told, "quiet", 3.6, "end")
