"""Findings on the plate: each gap dimensioned where it is, and a note in the margin on a leader line."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from textwrap import shorten, wrap

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.sentence import details
from marquetry.core.section.lay_out import Gap, Section
from marquetry.core.values.figures import band, figure
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.labels import LabelBoard
from marquetry.drawing.scene import Box, Cluster, Dot, Label, Line, Mark, Paper
from marquetry.drawing.sheet import (
    FOOT,
    HEIGHT,
    MARGIN,
    NOTE_HEIGHT,
    NOTE_WIDTH,
    WIDTH,
    Display,
    Sheet,
    Window,
)
from marquetry.drawing.verdict_mark import verdict_mark

ARROW = 1.5
TICK, BETWEEN = 4.0, 2.4
FEW_NOTES, MOST_NOTES = 6, 14
"""Seven notes fill a margin; more than three on a side are read only if they must be."""
ROOM_FOR_ARROWS = 5 * ARROW
NOTE_LETTERS = 40
"""Letters of small text that fit on one line of a note."""


@dataclass(frozen=True, slots=True)
class Spot:
    """Where one finding is seen on the sheet: the point its leader ends at, and what draws it there."""

    check: Check
    finding: Finding
    anchor: Paper
    draw: Callable[[], tuple[Mark, ...]]
    label_of: Callable[[str], str]


def section_spots(section: Section, sheet: Sheet, window: Window) -> list[Spot]:
    """The gaps of a section that the window shows."""
    return [
        Spot(
            gap.check,
            gap.finding,
            sheet.between(gap.start, gap.end),
            partial(gap_marks, gap, sheet),
            section.label_of,
        )
        for gap in section.gaps
        if window.shows(gap.start) and window.shows(gap.end)
    ]


def findings_on(spots: list[Spot], display: Display) -> Iterator[Cluster]:
    """Every finding where it is seen, and a note tied to it for those that matter most.

    A brief drawing leaves out what stays hidden until somebody points at it: nearly half of all marks.
    """
    board = LabelBoard()
    noted = _noted(spots, display.chosen)
    names = {spot.check.name for spot in noted}
    for spot in spots:
        unnoted = spot.check.name not in names
        if not (unnoted and display.brief):
            yield _tied(spot, spot.draw(), display, unnoted=unnoted)
    # Figures and notes come after all lines, so that none is struck through.
    for spot, corner, on_left in _placed(noted):
        note = _note(spot, corner, display.link, on_left=on_left)
        leader = _leader(corner, spot.anchor, on_left=on_left)
        yield _tied(spot, (*leader, *_figure(spot, board), note), display)


def _noted(spots: list[Spot], chosen: str) -> list[Spot]:
    """The spots that get a note: the chosen one, the gravest, then clear ones nearest to their limits."""

    def urgency(spot: Spot) -> tuple[bool, int, float]:
        finding = spot.finding
        doubt = (finding.high or 0.0) - (finding.low or 0.0)
        room = finding.margin / doubt if doubt > 0 else math.inf
        return finding.check != chosen, -finding.verdict.gravity, room

    ranked = sorted(spots, key=urgency)
    grave = [s for s in ranked if s.finding.check == chosen or s.finding.verdict is not Verdict.CLEAR]
    most = min(max(len(grave), FEW_NOTES), MOST_NOTES)
    return ranked[:most]


def _tied(spot: Spot, marks: tuple[Mark, ...], display: Display, *, unnoted: bool = False) -> Cluster:
    """Marks that belong to a finding and light up with it."""
    chosen = " chosen" if spot.finding.check == display.chosen else ""
    classes = f"finding verdict-{spot.finding.verdict.value}{chosen}" + (" unnoted" if unnoted else "")
    return Cluster(marks, classes, {"check": spot.finding.check})


def _figure(spot: Spot, board: LabelBoard) -> Iterator[Label]:
    words = _told(spot)
    if words:
        yield Label(board.place(spot.anchor, words, 3.6), words, "figure gap-figure halo", 3.6)


def _placed(spots: list[Spot]) -> Iterator[tuple[Spot, Paper, bool]]:
    """Give every spot a place in a margin: on its own side where there is room, in the order of height."""
    by_x = sorted(spots, key=lambda spot: spot.anchor[0])
    most = min(max(4, math.ceil(0.6 * len(by_x))), MOST_NOTES // 2)
    on_left_side = sum(spot.anchor[0] < WIDTH / 2 for spot in by_x)
    half = min(max(on_left_side, len(by_x) - most), most)
    for group, x, on_left in ((by_x[:half], MARGIN, True), (by_x[half:], WIDTH - MARGIN - NOTE_WIDTH, False)):
        ordered = sorted(group, key=lambda spot: -spot.anchor[1])
        room = (HEIGHT - FOOT - 2 * MARGIN) / max(len(ordered), 1)
        for index, spot in enumerate(ordered):
            slot_top = HEIGHT - MARGIN - index * room
            wanted = spot.anchor[1] + NOTE_HEIGHT / 2
            top = min(max(wanted, slot_top - room + NOTE_HEIGHT + BETWEEN), slot_top)
            yield spot, (x, top - NOTE_HEIGHT), on_left


def _arrow(tip: Paper, away: tuple[int, int]) -> Line:
    """An arrowhead at `tip`, its body lying in the direction `away`."""
    x, y = tip
    dx, dy = away
    back = (x + dx * ARROW, y + dy * ARROW)
    half = ARROW * 0.28
    wing = ((back[0] + dy * half, back[1] + dx * half), (back[0] - dy * half, back[1] - dx * half))
    return Line((tip, *wing), "arrow", closed=True)


def gap_marks(gap: Gap, sheet: Sheet) -> tuple[Mark, ...]:
    """A gap where it is, ready to be lit."""
    return tuple(_gap_marks(gap, sheet))


def _gap_marks(gap: Gap, sheet: Sheet) -> Iterator[Mark]:
    """Extension lines, the gap between arrowheads (from outside where it is small)."""
    low, high = sorted((sheet.at(gap.start), sheet.at(gap.end)))
    dx, dy = (0, 1) if gap.axis == "z" else (1, 0)
    length = (high[0] - low[0]) + (high[1] - low[1])
    inward = 1 if length > ROOM_FOR_ARROWS else -1
    yield Box(
        (low[0] - (TICK if dy else 0.8), low[1] - (TICK if dx else 0.8)),
        high[0] - low[0] + 2 * (TICK if dy else 0.8),
        high[1] - low[1] + 2 * (TICK if dx else 0.8),
        "gap-area",
    )
    for x, y in (low, high):
        yield Line(((x - TICK * dy, y - TICK * dx), (x + TICK * dy, y + TICK * dx)), "extension")
    yield Line((low, high), "gap-line")
    yield _arrow(low, (dx * inward, dy * inward))
    yield _arrow(high, (-dx * inward, -dy * inward))


def _leader(corner: Paper, anchor: Paper, *, on_left: bool) -> Iterator[Mark]:
    edge, y = corner[0] + (NOTE_WIDTH if on_left else 0.0), corner[1] + NOTE_HEIGHT / 2
    yield Line(((edge, y), (edge + (5.0 if on_left else -5.0), y), anchor), "leader")
    yield Dot(anchor, 0.55, "anchor")


def _note(spot: Spot, corner: Paper, link: str, *, on_left: bool) -> Cluster:
    x, y = corner
    check, finding = spot.check, spot.finding
    edge = x + NOTE_WIDTH if on_left else x
    text_x, first = x + 2.4, y + NOTE_HEIGHT - 4.6
    after_word = text_x + 4.4 + 2.5 * len(finding.verdict.value) + 1.6
    lines = (
        Box(corner, NOTE_WIDTH, NOTE_HEIGHT, "note-back"),
        Line(((edge, y), (edge, y + NOTE_HEIGHT)), "note-rule"),
        verdict_mark(finding.verdict, (text_x + 1.4, first + 1.0)),
        Label((text_x + 4.4, first), finding.verdict.value.upper(), "word", 3.5),
        Label((after_word, first), check.title, "title", 3.6),
        *_note_figures(spot, (text_x, y)),
    )
    spoken = f"{check.title}: {finding.verdict.value} {_told(spot)}".strip()
    address = f"{link}check={finding.check}" if link else ""
    return Cluster(lines, "note", {}, address, spoken)


def _note_figures(spot: Spot, corner: Paper) -> Iterator[Mark]:
    x, y = corner
    check, finding = spot.check, spot.finding
    if finding.verdict is Verdict.UNMEASURED:
        first, *others = finding.missing
        more = f" and {len(others)} more" if others else ""
        yield Label((x, y + 5.8), f"waits for {spot.label_of(first)}{more}", "quiet", 3.5)
    elif finding.value is not None and finding.low is not None and finding.high is not None:
        worst = f"worst {figure(finding.low, check.decimals)} … {figure(finding.high, check.decimals)}"
        # The worst case of what nobody measured says nothing but that nobody measured it.
        worst = RESTS_ON.get(finding.by or "", worst)
        yield Label((x, y + 6.0), figure(finding.value, check.decimals, check.unit), "figure", 3.8)
        yield Label((x + 21.0, y + 6.0), worst, "figure quiet", 3.5)
    else:
        told = (*details(finding), check.words.means)[0]
        for row, words in enumerate(wrap(shorten(told, 2 * NOTE_LETTERS, placeholder="…"), NOTE_LETTERS)[:2]):
            yield Label((x, y + 6.0 - 4.6 * row), words, "quiet", 3.5)
        return
    wanted = f"wanted {band(finding.limits, check.decimals, check.unit)}"
    yield Label((x, y + 1.4), wanted, "figure quiet", 3.5)


RESTS_ON = {
    "listed": "by a seller's figure",
    "together": "but came together",
    "sold for it": "but sold for it",
    "spread": "nobody measured it",
    "tried": "tried on the bench",
}
"""What a verdict rests on beyond known figures, in the few words that a note has room for."""


def _told(spot: Spot) -> str:
    check, finding = spot.check, spot.finding
    if finding.value is None:
        return ""
    unit = "" if check.unit == "mm" else check.unit
    return f"{check.told_as} {figure(finding.value, check.decimals, unit)}".strip()
