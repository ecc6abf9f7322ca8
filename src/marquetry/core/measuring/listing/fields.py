"""Which figure of a line is which dimension: each label with the figure it stands beside."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.measuring.listing.labels import ALONE, PAIRS, Named, labels_of
from marquetry.core.measuring.listing.lengths import Length, Lengths, lengths_in
from marquetry.core.measuring.listing.line import ListingLine, Segment
from marquetry.core.measuring.listing.places import crown_places, date_places
from marquetry.core.measuring.listing.result import Proposed, Sure
from marquetry.core.measuring.listing.traps import is_trap
from marquetry.core.sheet.kind import Kind
from marquetry.core.values.entry import INCH_MM

FILLER = (
    r"is|are|of|approx(?:imately|\.)?|around|about|ca\.?|circa|c\.|environ|etwa|ungefahr|de|von|the|size|max\.?|min\.?|"
    r"diameter|in|with|at|ist|est|total|overall|nominal|exactly|only|just|range|each|per|hands?"
)
ABOUT_THE_UNIT = (
    r"[(\[]\s*(?:in\s+)?(?:mm|millimet(?:er|re)s?|cm|in|inch(?:es)?|\"|″)\s*[)\]]|\bin (?:mm|inch(?:es)?)\b"
    r"|,?\s*(?:mm|inch)\b(?=\s*:|\t)"
)
LOOSE = r"[\s:=.\-|ø⌀~≈]*"
BETWEEN = re.compile(
    rf"{LOOSE}(?:(?:{FILLER})(?![a-z]){LOOSE})*(?P<unit>{ABOUT_THE_UNIT})?{LOOSE}(?:(?:{FILLER})(?![a-z]){LOOSE})*"
)
"""What may stand between a label and its figure."""
AFTER = re.compile(r"\s*(?:\([^)]*\)\s*)?(?:in |of |de |im |the |for the |at the |-)?\s*")
ONLY_PART = re.compile(r"[\d\s.,x×*ø⌀mcin\"″'°±+\-/()]*")


@dataclass(frozen=True, slots=True)
class Label:
    """A label where it stands in a line."""

    named: Named
    start: int
    end: int


def labels_at(plain: str, segment: Segment, names: tuple[Named, ...]) -> list[Label]:
    """Labels of a statement in their order; of two at one place the longer, then the one named first."""
    found = [
        Label(named, match.start(), match.end())
        for named in names
        for match in named.pattern.finditer(plain, segment.start, segment.end)
    ]
    rank = {id(named): place for place, named in enumerate(names)}
    found.sort(key=lambda label: (label.start, -(label.end - label.start), rank[id(label.named)]))
    kept: list[Label] = []
    for label in found:
        if not kept or label.start >= kept[-1].end:
            kept.append(label)
    return kept


def fields_of(line: ListingLine, number: int, kind: Kind) -> Iterator[Proposed]:
    """Every dimension that a line of a part's listing tells."""
    taken: list[tuple[int, int]] = []
    for proposed in _angles(line, number, kind):
        taken.append((proposed.start, proposed.end))
        yield proposed
    figures = [
        lengths
        for lengths in lengths_in(line.plain)
        if not any(start < lengths.end and lengths.start < end for start, end in taken)
        and not is_trap(line.plain, lengths.start, lengths.end, has_unit=lengths.has_unit)
    ]
    keys = tuple(path for path, _ in kind.quantities())
    names = labels_of(kind.key, keys)
    for segment in line.segments():
        inside = [f for f in figures if segment.start <= f.start < segment.end]
        labels = labels_at(line.plain, segment, names)
        yield from _paired(line, number, kind, inside, labels)


def _angles(line: ListingLine, number: int, kind: Kind) -> Iterator[Proposed]:
    places = {"case": crown_places, "calendar_disc": crown_places, "dial": date_places}.get(kind.key)
    path = {"dial": "date_window_angle"}.get(kind.key, "crown_angle")
    for place in places(line.plain) if places else ():
        words = line.words(place.start, place.end)
        yield Proposed(path, place.angle, None, "°", words, "said", number, place.start, place.end)
        return


def _paired(
    line: ListingLine, number: int, kind: Kind, figures: list[Lengths], labels: list[Label]
) -> Iterator[Proposed]:
    """Each figure with the label before it, or behind it where the statement begins with a figure."""
    figure_first = bool(figures) and (not labels or figures[0].start < labels[0].start)
    for figure in figures:
        before = next((label for label in reversed(labels) if label.end <= figure.start), None)
        after = next((label for label in labels if label.start >= figure.end), None)
        gap = BETWEEN.fullmatch(line.plain, before.end, figure.start) if before else None
        behind = bool(after and AFTER.fullmatch(line.plain, figure.end, after.start))
        if len(figure.values) > 1:
            yield from _of_pair(line, number, kind, figure, before if gap else after if behind else None)
        elif behind and after and (figure_first or not gap):
            yield from _labelled(line, number, figure, after)
        elif gap and before:
            yield from _labelled(line, number, _with_unit(figure, gap["unit"]), before)
        elif not labels and figure.has_unit:
            yield from _alone(line, number, kind, figure)


def _labelled(line: ListingLine, number: int, figure: Lengths, label: Label) -> Iterator[Proposed]:
    if label.named.path == "thread":
        start, end = min(label.start, figure.start), max(label.end, figure.end)
        told = re.search(r"\d+(?:[.,]\d+)?", line.text[figure.start : figure.end])
        if told:
            words = line.words(start, end)
            yield Proposed("thread", told[0].replace(",", "."), None, "", words, "said", number, start, end)
    elif label.named.path:
        yield _proposed(
            line, number, label.named.path, figure.values[0], (label.start, label.end, figure), label.named
        )


def _of_pair(
    line: ListingLine, number: int, kind: Kind, figure: Lengths, label: Label | None
) -> Iterator[Proposed]:
    """Two figures with a times sign: the two dimensions that such a part is sold by."""
    paths = PAIRS.get(kind.key)
    if paths is None or len(figure.values) != len(paths) or (label is not None and not label.named.path):
        return
    span = (label.start, label.end, figure) if label else (figure.start, figure.end, figure)
    for path, length in zip(paths, figure.values, strict=True):
        yield _proposed(line, number, path, length, span, Named(re.compile(""), path, "likely"))


def _alone(line: ListingLine, number: int, kind: Kind, figure: Lengths) -> Iterator[Proposed]:
    """One figure beside the part's own name and nothing else."""
    path = ALONE.get(kind.key)
    length = figure.values[0]
    if (
        path is None
        or number > 0
        or not kind.anatomy.quantity_at(f"{kind.prefix}.{path}").is_plausible(length.value)
    ):
        return
    if re.search(r"\b(?:for|fits?|fitting|suits?|takes?|fur|pour|passend)\b", line.plain[: figure.start]):
        return
    yield _proposed(
        line, number, path, length, (figure.start, figure.end, figure), Named(re.compile(""), path, "likely")
    )


def _proposed(
    line: ListingLine, number: int, path: str, length: Length, span: tuple[int, int, Lengths], named: Named
) -> Proposed:
    start, end = min(span[0], span[2].start), max(span[1], span[2].end)
    sure: Sure = named.sure
    return Proposed(
        path, round(length.value + named.plus_mm, 4), length.tol, "mm", line.words(start, end), sure, number, start, end,
        length.about,
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
