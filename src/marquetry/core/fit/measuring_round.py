"""The measuring round: all that is worth measuring, one thing after another, little changing hands.

Each part is taken up once, and with it each instrument once; the next part begins with the instrument that
lies in the hand where it can. Parts, and what is done within each, come in the order of what matters most.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

from marquetry.core.fit.assumption import is_assumed
from marquetry.core.fit.next_step import possible_steps
from marquetry.core.fit.report import Report
from marquetry.core.measuring.instrument import Instrument, best_for
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.verdict import Verdict

Why = Literal["unknown", "assumed", "worth it"]


@dataclass(frozen=True, slots=True)
class ToMeasure:
    """One dimension of a round: of which part, its path, with what, and why. `rank` 0 matters most."""

    part: str
    path: str
    instrument: str
    why: Why
    rank: int


def round_of_watch(build: Build, report: Report, instruments: tuple[Instrument, ...]) -> list[ToMeasure]:
    """Everything unknown or assumed that a finding reads, and all that would make one surer, in order.

    What the page Next would have read first comes first: the two never send to different work.
    """
    proposed = [step.key for step in possible_steps(report, instruments) if step.kind == "reading"]
    told = (finding for finding in report.findings.values() if finding.verdict is not Verdict.SKIPPED)
    read = dict.fromkeys(path for finding in told for path in finding.uses.dimensions())
    wanted = [path for path in report.missing() if build.anatomy.is_quantity(path)]
    assumed = [path for path in read if is_assumed(build, path)]
    places = {path: place for place, path in enumerate(dict.fromkeys([*proposed, *wanted, *assumed]))}
    found = (_to_measure(build, path, part_of(path), rank, instruments) for path, rank in places.items())
    return in_order([one for one in found if one is not None])


def round_of_part(
    build: Build, whose: str, prefix: str, instruments: tuple[Instrument, ...]
) -> list[ToMeasure]:
    """Every dimension of a part that was not measured, in the order in which it is described."""
    kind = build.anatomy.kind(prefix.partition(".")[0])
    paths = [f"{prefix}.{below}" for below, quantity in kind.quantities() if not quantity.differs]
    paths = [path for path in paths if build.has(build.anatomy.owner_of(path))]
    listed = [path for path in build.dimensions if path not in paths]
    found = (
        _to_measure(build, path, whose, rank, instruments)
        for rank, path in enumerate([*paths, *listed])
        if not _is_measured(build, path)
    )
    return in_order([one for one in found if one is not None])


def part_of(path: str) -> str:
    """The part that is taken up to measure it: the first word of the path."""
    return path.partition(".")[0]


def _is_measured(build: Build, path: str) -> bool:
    known = build.dimensions.get(path)
    return known is not None and known.source in {Source.MEASURED, Source.EXACT}


def _to_measure(
    build: Build, path: str, part: str, rank: int, instruments: tuple[Instrument, ...]
) -> ToMeasure | None:
    """None where no instrument of the workshop reaches it."""
    tool = best_for(build.anatomy.quantity_at(path), instruments)
    why: Why = (
        "unknown" if path not in build.dimensions else "assumed" if is_assumed(build, path) else "worth it"
    )
    return None if tool is None else ToMeasure(part, path, tool.name, why, rank)


def in_order(found: Iterable[ToMeasure]) -> list[ToMeasure]:
    """The round's order: part by part, within a part instrument by instrument, what matters most first."""
    by_part = _groups(found, lambda one: one.part)
    hand, made = "", list[ToMeasure]()
    for part in by_part:
        by_tool = _groups(part, lambda one: one.instrument)
        by_tool.sort(key=lambda group: group[0].instrument != hand)
        for group in by_tool:
            made += group
            hand = group[0].instrument
    return made


def _groups(found: Iterable[ToMeasure], key: Callable[[ToMeasure], str]) -> list[list[ToMeasure]]:
    """Groups by a key, each in the order of rank, the group with what matters most first."""
    ranked = sorted(found, key=lambda one: one.rank)
    groups: dict[str, list[ToMeasure]] = {}
    for one in ranked:
        groups.setdefault(key(one), []).append(one)
    return list(groups.values())
