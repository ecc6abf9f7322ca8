"""A spacer on the dial side against the same spacer behind the dial: what the hands lose, what is seen."""

from dataclasses import dataclass

from marquetry.core.fit.levels import opening
from marquetry.core.fit.report import Report, report_on
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import aside
from marquetry.core.making.proposals import proposals
from marquetry.core.making.size_rows import spacer_rows
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

COMPARED = (
    "stem_height", "hand_stack", "hand_track.minute", "foot_engagement", "foot_bottoming", "rotor_clearance", "back_clearance",
    "holder_clamp",
)  # fmt: skip
"""What may differ between the sides, or has to be the same."""


@dataclass(frozen=True, slots=True)
class SpacerSide:
    """The watch with the spacer on one side: its report, what of it is seen, what it does to the hands."""

    side: str
    label: str
    is_here: bool
    build: Build
    report: Report
    seen: str
    hands: str


def both_sides(report: Report, path: str) -> tuple[SpacerSide, SpacerSide]:
    """Both ways, the thickness kept, the Ø as each side wants them; the way it lies now is the report's own."""
    return _side(report, path, "dial"), _side(report, path, "movement")


def _side(report: Report, path: str, side: str) -> SpacerSide:
    build, rules = report.build, report.rules
    is_here = build.at(f"{path}.side") == side
    if not is_here:
        build = build.with_entry(f"{path}.side", side)
        for found in proposals(spacer_rows(path, side)[1:], build, rules):
            build = build.with_entry(found.path, found.entry(build))
        report = report_on(build, rules.of(build), report)
    thick = build.dimensions.get(f"{path}.thickness")
    told = figure(thick.value, 2, "mm") if thick else "it"
    if side == "dial":
        hands = f"The hands lose nothing; the dial lies {told} further from the crystal."
    else:
        hands = f"The posts stand {told} lower over the dial: longer pipes, or less grip."
    label = "On the dial side" if side == "dial" else "Behind the dial"
    return SpacerSide(side, label, is_here, build, report, _seen(build, rules, path, side), hands)


def _seen(build: Build, rules: Rules, path: str, side: str) -> str:
    inner = build.dimensions.get(f"{path}.inner_diameter")
    if side == "movement":
        return "Hidden behind the dial."
    if inner is None:
        return "Seen as a ring round the dial, as wide as its inner Ø leaves it."
    shown = (float(nominal(opening(aside(build, rules)))) - inner.value) / 2
    if shown > 0.005:  # noqa: PLR2004  # a hundredth is the least that is told
        return (
            f"Seen as a ring {figure(shown, 2, 'mm')} wide round the dial: turn or print it clean, colour it."
        )
    return "Hidden under the ring or the ledge: only its inner edge is seen, as a fine step."
