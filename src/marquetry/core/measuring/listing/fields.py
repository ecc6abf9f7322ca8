"""Which figure of a line is which dimension: each label with the figure it stands beside."""

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.measuring.listing.beside import BETWEEN, MADE_FOR, LabelAt, labels_at, stands_behind
from marquetry.core.measuring.listing.by_place import ALONE, ONLY_NAMED, PAIRS, TRIPLES
from marquetry.core.measuring.listing.kinds import own_name
from marquetry.core.measuring.listing.labels import Named, labels_of
from marquetry.core.measuring.listing.lengths import Length, Lengths, lengths_in
from marquetry.core.measuring.listing.line import ListingLine, Segment
from marquetry.core.measuring.listing.places import crown_places, date_places, disc_places
from marquetry.core.measuring.listing.result import Proposed
from marquetry.core.measuring.listing.traps import is_trap
from marquetry.core.sheet.kind import Kind
from marquetry.core.values.entry import INCH_MM

WITH_CROWN = re.compile(
    r"(?:\s(?:wide|across|diameter))?[\s(]*(?:with|incl(?:uding|\.)?|mit|avec)\s(?:the\s)?(?:crown|krone|couronne)\b"
)
"""A case across with its crown is no dimension of the model."""
ONE_IN_TWO_UNITS = re.compile(r"\s*[(/=\[]\s*")
EITHER = re.compile(r"\s+(?:or|oder|ou)\s+")


@dataclass(frozen=True, slots=True)
class Statement:
    """Where a reader is: the line, its number in the listing, the kind of part, and the statement.

    `is_title`: whether the line says what the part is.
    """

    line: ListingLine
    number: int
    kind: Kind
    segment: Segment
    is_title: bool


def fields_of(line: ListingLine, number: int, kind: Kind, *, is_title: bool) -> Iterator[Proposed]:
    """Every dimension that a line of a part's listing tells; the title is the line that says what the part is."""
    taken: list[tuple[int, int]] = []
    for proposed in _angles(line, number, kind):
        taken.append((proposed.start, proposed.end))
        yield proposed
    figures = [
        lengths
        for lengths in lengths_in(line.plain)
        if not any(start < lengths.end and lengths.start < end for start, end in taken)
        and not is_trap(line.plain, lengths.start, lengths.end, has_unit=lengths.has_unit)
        and not (kind.key == "case" and WITH_CROWN.match(line.plain, lengths.end))
    ]
    keys = tuple(path for path, _ in kind.quantities())
    names = labels_of(kind.key, keys)
    for segment in line.segments():
        inside = [f for f in figures if segment.start <= f.start < segment.end]
        labels = labels_at(line.plain, segment, names)
        yield from _paired(Statement(line, number, kind, segment, is_title), inside, labels)


def _angles(line: ListingLine, number: int, kind: Kind) -> Iterator[Proposed]:
    places = {"case": crown_places, "calendar_disc": disc_places, "dial": date_places}.get(kind.key)
    path = {"dial": "date_window_angle"}.get(kind.key, "crown_angle")
    for place in places(line.plain) if places else ():
        words = line.words(place.start, place.end)
        yield Proposed(path, place.angle, None, "°", words, "said", number, place.start, place.end)
        return


def _paired(place: Statement, figures: list[Lengths], labels: list[LabelAt]) -> Iterator[Proposed]:
    """Each figure with the label before it, or behind it where the statement begins with a figure."""
    figure_first = bool(figures) and (not labels or figures[0].start < labels[0].start)
    if figure_first and _stands_alone(place, figures, labels):
        yield from _alone(place, figures[0])
        figures, figure_first = figures[1:], False
    first_sized = next((figure for figure in figures if figure.has_unit), None)
    last: Lengths | None = None
    for figure in figures:
        before = next((label for label in reversed(labels) if label.end <= figure.start), None)
        after = next((label for label in labels if label.start >= figure.end), None)
        gap = BETWEEN.fullmatch(place.line.plain, before.end, figure.start) if before else None
        behind = bool(after and stands_behind(place.line.plain, figure, after))
        if gap is None and before and last and last.start >= before.end and _says_again(place, last, figure):
            gap = BETWEEN.fullmatch(place.line.plain, before.end, last.start)
        last = figure
        if len(figure.values) > 1:
            yield from _of_pair(place, figure, before if gap else after if behind else None)
        elif (
            behind
            and after
            and (figure_first or not gap or _suits_better(place, figure, after, before))
            and not figure.is_thousands
        ):
            yield from _labelled(place, figure, after)
        elif gap and before:
            yield from _labelled(place, _with_unit(figure, gap["unit"]), before)
        elif figure.has_unit and (not labels or (figure is first_sized and not before)):
            yield from _alone(place, figure)


def _stands_alone(place: Statement, figures: list[Lengths], labels: list[LabelAt]) -> bool:
    """Whether the label behind the first figure is the next one's, as in “0.15 mm OD 28.4”."""
    if _claims_the_next(place, figures, labels):
        return True
    if not labels or labels[0].named.path in {"", "thread"} or figures[-1].start < labels[-1].end:
        return False
    return not _is_plausible(place, labels[0].named.path, figures[0].values[0])


def _claims_the_next(place: Statement, figures: list[Lengths], labels: list[LabelAt]) -> bool:
    """Whether the label behind the first of several figures has one of its own, as in “41 mm lug to lug 48 mm”."""
    if not labels or len(figures) < len(("first", "its own")) or not labels[0].named.path:
        return False
    second, plain = figures[1], place.line.plain
    is_sized = second.has_unit or labels[0].named.path == "thread"
    if not (figures[0].has_unit and is_sized and labels[0].end <= second.start):
        return False
    beside = BETWEEN.fullmatch(plain, labels[0].end, second.start)
    taken = any(stands_behind(plain, second, label) for label in labels[1:])
    return beside is not None and not taken and "," not in plain[labels[0].end : second.start]


def _suits_better(place: Statement, figure: Lengths, after: LabelAt, before: LabelAt | None) -> bool:
    """Whether only the label behind a figure names what such a figure plausibly is."""
    length, paths = figure.values[0], (after.named.path, before.named.path if before else "")
    if not all(paths) or "thread" in paths:
        return False
    behind, ahead = (_is_plausible(place, path, length) for path in paths)
    return behind and not ahead


def _says_again(place: Statement, first: Lengths, second: Lengths) -> bool:
    """Whether the second stands for the same quantity as the first, and yet says something else."""
    units = {first.values[-1].unit, second.values[-1].unit}
    in_two_units = "in" in units and bool(units & {"mm", "cm"})
    apart = ONE_IN_TWO_UNITS if in_two_units else EITHER
    return apart.fullmatch(place.line.plain, first.end, second.start) is not None


def _labelled(place: Statement, figure: Lengths, label: LabelAt) -> Iterator[Proposed]:
    if label.named.path == "thread":
        start, end = min(label.start, figure.start), max(label.end, figure.end)
        told = re.search(r"\d+(?:[.,]\d+)?", place.line.text[figure.start : figure.end])
        if told:
            words = place.line.words(start, end)
            yield Proposed(
                "thread", told[0].replace(",", "."), None, "", words, "said", place.number, start, end
            )
    elif label.named.path and not (
        label.named.only_plausible and not _is_plausible(place, label.named.path, figure.values[0])
    ):
        span = (label.start, label.end, figure)
        yield _proposed(place, label.named.path, figure.values[0], span, label.named)


def _of_pair(place: Statement, figure: Lengths, label: LabelAt | None) -> Iterator[Proposed]:
    """Two or three figures with a times sign: the dimensions that such a part is sold by."""
    paths: tuple[str, ...] | None = (PAIRS if len(figure.values) == len(("", "")) else TRIPLES).get(
        place.kind.key
    )
    if paths is None or len(figure.values) != len(paths):
        return
    if label is not None and label.named.path not in paths:
        return
    if not all(paths) and not _are_plausible(place, paths, figure):
        return
    if place.kind.key in ONLY_NAMED and not (label and _are_plausible(place, paths, figure)):
        return
    paths = _turned(place, paths, figure)
    if figure.slashed and not ((label or figure.has_unit) and _are_plausible(place, paths, figure)):
        return  # a choice of two sizes
    span = (label.start, label.end, figure) if label else (figure.start, figure.end, figure)
    for path, length in zip(paths, figure.values, strict=True):
        if not path:
            continue
        named = label.named if label and label.named.path == path else Named(re.compile(""), path, "likely")
        yield _proposed(place, path, length, span, named)


def _turned(place: Statement, paths: tuple[str, ...], figure: Lengths) -> tuple[str, ...]:
    """The first two the other way round, where only so an outer is not less than its inner, or each is plausible."""
    first, second = (length.value for length in figure.values[:2])
    back = (paths[1], paths[0], *paths[2:])
    if len(paths) > len(("", "")):
        inner_first = paths[0].startswith("inner") and first > second
        return back if inner_first or (paths[0].startswith("outer") and first < second) else paths
    if not all(paths):
        return paths
    inside_out = paths[0].startswith("outer") and first < second
    only_back = not _are_plausible(place, paths, figure) and _are_plausible(place, back, figure)
    return back if inside_out or only_back else paths


def _alone(place: Statement, figure: Lengths) -> Iterator[Proposed]:
    """One figure beside the part's own name, or alone on its line: what its size makes it most likely."""
    own = place.line.plain[place.segment.start : place.segment.end] if _is_first(place) else place.line.plain
    own = own_name(place.kind.key).sub("", own, count=1)
    lonely = not re.search(r"[a-z]", own.replace("mm", ""))
    if not (place.is_title or lonely) or MADE_FOR.search(place.line.plain, place.segment.start, figure.start):
        return
    length = figure.values[0]
    for path in ALONE.get(place.kind.key, ()):
        if _is_plausible(place, path, length):
            named = Named(re.compile(""), path, "likely")
            yield _proposed(place, path, length, (figure.start, figure.end, figure), named)
            return


def _are_plausible(place: Statement, paths: tuple[str, ...], figure: Lengths) -> bool:
    return all(
        not path or _is_plausible(place, path, length)
        for path, length in zip(paths, figure.values, strict=True)
    )


def _is_plausible(place: Statement, path: str, length: Length) -> bool:
    """Whether such a part can be of that size; what is no dimension of it has a range of its own, or any."""
    low, high = PLAIN_RANGES.get(path, (0.0, math.inf))
    if not _is_quantity(place, path):
        return low <= length.value <= high
    return place.kind.anatomy.quantity_at(f"{place.kind.prefix}.{path}").is_plausible(length.value)


PLAIN_RANGES = {"claimed_height": (3.0, 25.0)}
"""mm; a claimed height is no dimension that the fit computes with."""


def _is_quantity(place: Statement, path: str) -> bool:
    return place.kind.anatomy.is_quantity(f"{place.kind.prefix}.{path}")


def _is_first(place: Statement) -> bool:
    """Whether the line begins with the statement."""
    return not place.line.plain[: place.segment.start].strip()


def _proposed(
    place: Statement, path: str, length: Length, span: tuple[int, int, Lengths], named: Named
) -> Proposed:
    start, end = min(span[0], span[2].start), max(span[1], span[2].end)
    value, words = round(length.value + named.plus_mm, 4), place.line.words(start, end)
    return Proposed(
        path, value, length.tol, "mm", words, named.sure, place.number, start, end, length.about,
        is_plain=not _is_quantity(place, path), in_mm=length.unit not in {"in", "ligne"},
    )  # fmt: skip


def _with_unit(figure: Lengths, written: str | None) -> Lengths:
    """The figure in the unit that its label names, where it has none of its own."""
    if not written or figure.values[0].unit:
        return figure
    inches = re.search(r"in|\"|″", written) is not None and "mm" not in written and "millim" not in written
    factor = INCH_MM if inches else 10.0 if "cm" in written else 1.0
    values = tuple(
        replace(
            v,
            value=round(v.value * factor, 6),
            tol=None if v.tol is None else v.tol * factor,
            unit="in" if inches else "mm",
        )
        for v in figure.values
    )
    return Lengths(values, figure.start, figure.end)
