"""Checks of bezel and insert: fit on the case, fit in the channel, and the index at its click."""

from marquetry.core.fit.checks.calendar import wrapped
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.checks.words import Said, WordsCheck, of_one_kind
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, greatest


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


def adhesive_width(r: Trace) -> Number:
    """Width of the ring that the insert's adhesive holds on: only what turns counts, mm."""
    inner = r["bezel_insert.inner_diameter"] if r.wants("bezel") else 0.0
    if r.known(TURNING):
        inner = greatest([inner, r[TURNING]])
    return (r["bezel_insert.outer_diameter"] - inner) / 2


def same_click(r: Trace) -> Said | None:
    """`bezel_click`: case and bezel are made for the same click."""
    return of_one_kind(r, "click", ("bezel", "case"))


TURNING = "bezel.turning_inner_diameter"


def bezel_index(r: Trace) -> Number | None:
    """How far the index stands off its place at the nearest click, °."""
    clicks = r.whole("bezel.clicks") if r.wants("bezel") else None
    return wrapped(r["bezel.index_offset"], 360.0 / clicks) if clicks else None


CHECKS = (
    FormulaCheck(
        name="bezel_on_case",
        rate=0.03,
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
        rate=0.04,
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
        rate=0.02,
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
        may_be_vouched=False,
        title="Bezel index at its click",
        limits=Limits(-0.75, 0.75),
        unit="°",
        formula=bezel_index,
        plan="bezel",
        of_looks=True,
        words=Words(
            means="How far the index stands off 12 o'clock at the nearest click.",
            below="The index points beside the minute at every click.",
            helps=("Set the insert anew, aligned at a click, before its adhesive cures.",),
        ),
    ),
    WordsCheck(
        name="bezel_click",
        title="Click of bezel and case",
        limits=Limits(None, None),
        says=same_click,
        words=Words(
            means="Bezel and case are made for the same kind of click.",
            below="The bezel does not click on this case, or does not go on at all.",
            helps=(
                "A bezel made for this case's click.",
                "A spring of the other kind, where the groove takes it.",
            ),
        ),
    ),
    FormulaCheck(
        name="adhesive_width",
        title="Ring to glue on",
        limits=Limits(1.00, None),
        formula=adhesive_width,
        span=Span("r", "glued_inner", "insert_outer", beside="channel_floor"),
        words=Words(
            means="Width of the ring that the insert is glued on: only what turns with it counts.",
            below="Little is left to glue on: the insert comes off, or is glued to what must not turn.",
            helps=(
                "Cut the adhesive back to the turning part, and degrease both faces; fumes: fresh air.",
                "An insert with more width on the turning part.",
            ),
        ),
    ),
)
