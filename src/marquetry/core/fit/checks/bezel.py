"""Checks of bezel and insert: fit on the case, fit in the channel, and the index at its click."""

from marquetry.core.fit.checks.calendar import wrapped
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number


def bezel_on_case(r: Trace) -> Number:
    """Play of the bezel on its seat, over the diameter, mm."""
    return r["bezel.inner_diameter"] - r["case.bezel_seat_diameter"]


def insert_outer_gap(r: Trace) -> Number:
    """Gap round the insert in its channel, over the diameter, mm."""
    return r["bezel.channel_outer_diameter"] - r["bezel_insert.outer_diameter"]


def insert_inner_gap(r: Trace) -> Number:
    """Gap inside the insert over the channel's inner wall, over the diameter, mm."""
    return r["bezel_insert.inner_diameter"] - r["bezel.channel_inner_diameter"]


def insert_recess(r: Trace) -> Number:
    """How far the insert lies below the channel's rim, mm."""
    return r["bezel.channel_depth"] - r["bezel_insert.thickness"] - r["bezel_insert.adhesive"]


def bezel_index(r: Trace) -> Number | None:
    """How far the index stands off its place at the nearest click, °."""
    clicks = r.whole("bezel.clicks") if r.wants("bezel") else None
    return wrapped(r["bezel.index_offset"], 360.0 / clicks) if clicks else None


CHECKS = (
    FormulaCheck(
        name="bezel_on_case",
        title="Bezel on the case",
        limits=Limits(0.02, 0.15),
        formula=bezel_on_case,
        span=Span("r", "bezel_seat_edge", "bezel_inner", beside="bezel_seat"),
        words=Words(
            means="Play of the bezel on its seat, over the diameter.",
            below="The bezel binds or will not go on.",
            above="The bezel rattles and wanders off centre.",
            helps=("A bezel for this seat.",),
        ),
    ),
    FormulaCheck(
        name="insert_outer_gap",
        title="Insert in its channel",
        limits=Limits(0.02, 0.15),
        formula=insert_outer_gap,
        span=Span("r", "insert_outer", "channel_outer", beside="insert_top"),
        words=Words(
            means="Gap between insert and the channel's outer wall, over the diameter.",
            below="The insert will not drop into its channel.",
            above="The gap shows, and the insert can be glued off centre.",
            helps=("An insert of another outer diameter.",),
        ),
    ),
    FormulaCheck(
        name="insert_inner_gap",
        title="Insert over the channel",
        limits=Limits(0, 0.20),
        formula=insert_inner_gap,
        span=Span("r", "channel_inner", "insert_inner", beside="channel_floor"),
        words=Words(
            means="Gap between insert and the channel's inner wall, over the diameter.",
            below="The insert rides on the channel's inner wall.",
            above="The channel's floor shows inside the insert.",
            helps=("An insert of another inner diameter.",),
        ),
    ),
    FormulaCheck(
        name="insert_recess",
        title="Insert below the rim",
        limits=Limits(-0.05, 0.20),
        formula=insert_recess,
        span=Span("z", "insert_top", "channel_rim", beside="channel_outer"),
        words=Words(
            means="How far the insert lies below the rim of its channel, its adhesive under it.",
            below="The insert stands proud and will be knocked or lifted.",
            above="The insert lies in a pit.",
            helps=("An insert of another thickness, or thinner adhesive.",),
        ),
    ),
    FormulaCheck(
        name="bezel_index",
        title="Bezel index at its click",
        limits=Limits(-0.75, 0.75),
        unit="°",
        formula=bezel_index,
        plan="bezel",
        words=Words(
            means="How far the index stands off 12 o'clock at the nearest click.",
            below="The index points beside the minute at every click.",
            helps=("Set the insert anew, aligned at a click, before its adhesive cures.",),
        ),
    ),
)
