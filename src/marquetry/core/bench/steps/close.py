"""Closing: the last dust, the back's gasket greased, the back on and tight."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import CLOSERS, CLOSINGS_CLOSED, CLOSINGS_TIGHT, closing
from marquetry.core.values.figures import figure


def _squeeze(s: Situation) -> tuple[str, str] | None:
    found = s.report.findings["back_gasket_squeeze"].value
    return None if found is None else ("Squeeze", figure(found, 1, "%"))


def _closed(s: Situation) -> str:
    battery = "The battery goes in first, its seconds seen to step. " if s.drive == "battery" else ""
    return f"{battery}{CLOSINGS_CLOSED[closing(s)]}"


def _tightened(s: Situation) -> str:
    last = "; then the rotor once more, by ear" if s.has_rotor else ""
    return f"{CLOSINGS_TIGHT[closing(s)]}{last}."


STEPS = (
    BenchStep(
        id="last_dust",
        title="The last dust",
        group="close",
        why="After this nobody looks inside for years.",
        how="Blower over the movement, then through the crystal against a low light, all the dial.",
        wrong="A fibre on the dial's edge is seen only from the side: turn it.",
        parts=("case",),
        after=("case_up", "fit_holder", "rotor_free", "seat_crown"),
        shows=("movement", "case"),
        tools=("blower", "loupe"),
        minutes=4,
    ),
    BenchStep(
        id="grease_back_gasket",
        title="Back gasket greased and in its groove",
        group="close",
        why="Dry, it rolls out of its groove and is cut.",
        how="A trace all round, into its groove without a twist; the groove clean.",
        wrong="It is left on the bench: look into the groove, not at the list.",
        parts=("back_gasket",),
        after=("open_case",),
        question="Is it in its groove, greased, untwisted?",
        shows=("back_gasket", "case_back"),
        figure=_squeeze,
        consumables=("gasket_grease",),
        minutes=2,
    ),
    BenchStep(
        id="close_back",
        title="Close the back",
        group="close",
        why="It presses the holder, and the holder the dial against its seat.",
        how=_closed,
        wrong="Crossed thread: back a turn until it clicks in, then on.",
        parts=("case_back",),
        after=("last_dust", "grease_back_gasket"),
        gates=("rotor_free", "crown_works", "grease_back_gasket"),
        shows=("case_back", "back_gasket"),
        tools=lambda s: CLOSERS[closing(s)],
        tells=("holder_clamp",),
        minutes=3,
    ),
    BenchStep(
        id="tighten_back",
        title="Tighten the back",
        group="close",
        why="The gasket is squeezed by turning, not by pressing.",
        how=_tightened,
        wrong="The wrench slips across the back: tape over it first.",
        parts=("case_back",),
        after=("close_back",),
        shows=("case_back", "back_gasket"),
        tools=lambda s: CLOSERS[closing(s)],
        minutes=2,
    ),
)
