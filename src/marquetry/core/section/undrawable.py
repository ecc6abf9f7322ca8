"""What a model describes and no section could draw, told before anything is drawn.

Whoever adds a check or a part learns in one sentence what is missing, not from a page that fails.
"""

from collections.abc import Iterator

from marquetry.core.fit.checks.check import Span
from marquetry.core.fit.model import Model
from marquetry.core.section.stations import R_STATIONS, Z_STATIONS
from marquetry.core.sheet.schema import Group, PlainRing
from marquetry.core.values.errors import SheetError

LONGEST_TITLE = 25
"""Letters of a title that a note in the margin holds."""


def refuse_undrawable(model: Model) -> None:
    """Raise SheetError where a check or a part of the model names what no drawing knows."""
    for path, expected, found in _faults(model):
        raise SheetError(path, expected, found)


def _faults(model: Model) -> Iterator[tuple[str, str, str]]:
    """What is wrong, what was expected there, and what was found."""
    for check in model.checks:
        if len(check.title) > LONGEST_TITLE:
            yield f"check {check.name}, title", f"at most {LONGEST_TITLE} letters for a note", check.title
        if check.span is not None:
            yield from _astray(check.name, check.span)
    for part in model.anatomy.parts:
        if isinstance(part, Group) and part.drawn is not None:
            yield from _faults_of(part, part.drawn)


def _astray(check: str, span: Span) -> Iterator[tuple[str, str, str]]:
    along, across = (Z_STATIONS, R_STATIONS) if span.axis == "z" else (R_STATIONS, Z_STATIONS)
    ends = (("start", span.start, along), ("end", span.end, along), ("beside", span.beside, across))
    for end, name, known in ends:
        if name not in known:
            yield f"check {check}, span's {end}", "a name in core/section/stations.py", name


def _faults_of(part: Group, ring: PlainRing) -> Iterator[tuple[str, str, str]]:
    if ring.lies_on not in Z_STATIONS:
        yield f"part {part.key}, lies_on", "a height in core/section/stations.py", ring.lies_on
    own = {entry.key for entry in part.entries}
    for size in (ring.inner, ring.outer, ring.thickness):
        if size not in own:
            yield f"part {part.key}, drawn", "a dimension of the part", size
