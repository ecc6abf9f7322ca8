"""Where each size of a made part comes from: one row a field, the watch's own part and the clearance it wants."""

from collections.abc import Callable

from marquetry.core.evidence.seat import behind_dial
from marquetry.core.fit.checks.dial import outermost_post
from marquetry.core.fit.levels import back_lip, back_plane, movement_face, stem_axis, tube_axis
from marquetry.core.making.proposals import Neighbours, SizeRow
from marquetry.core.remedies.made_here import RING_OVERLAP
from marquetry.core.remedies.spacers import LAYER, THINNEST, ring_for
from marquetry.core.values.number import nominal

THIN_PLATE = 0.4
"""A thinner plate bends when it is glued, mm."""
TAB_ROOM = 0.25
"""Room of a tab in its recess on every side, mm: the limit, a print's doubt, and a little."""


def _clamp(p: Neighbours) -> float:
    return float(nominal(movement_face(p) - back_lip(p))) + p.middle("holder_clamp")


def _step(p: Neighbours) -> float:
    deep = float(nominal(movement_face(p) - back_plane(p)))
    return min(max(deep - 0.3, 0.4), 0.65 * float(p["holder.face_to_rim"]))


def stem_missing(p: Neighbours, own: str) -> float:
    """What the part whose thickness that is has to be, mm, for the stem to meet its tube; never under a sheet's.

    Every other spacer counts as it is, so that a plate and a ring are not both made as thick as what is missing.
    """
    is_there = p.build.has(own.rpartition(".")[0])
    seated = stem_axis(p) - tube_axis(p) + (p[own] if is_there else 0.0)
    return max(round(float(nominal(seated)) / LAYER) * LAYER, THINNEST)


def outermost_diameter(p: Neighbours) -> float:
    """Ø of the post that the dial's hole goes over, mm."""
    return float(p[f"movement.posts.{outermost_post(p)}.diameter"])


SEATED = ("case.seat_to_back_plane", "case_back.lip_recess", "dial.thickness")
STEM = ("case.seat_to_tube", "dial.thickness", "movement.face_to_stem")

HOLDER = (
    SizeRow(
        "holder.outer_diameter",
        lambda p: p["case.movement_bore"] - p.middle("holder_in_case"),
        "the case's movement bore, less the play the house rules want",
        ("case.movement_bore",),
    ),
    SizeRow(
        "holder.inner_diameter",
        lambda p: p["movement.diameter"] + p.middle("holder_on_movement"),
        "the movement's Ø and the play the house rules want",
        ("movement.diameter",),
    ),
    SizeRow(
        "holder.rim_outer_diameter",
        lambda p: p["case_back.lip_inner_diameter"] - p.middle("holder_in_back"),
        "the back's lip, less the play it wants",
        ("case_back.lip_inner_diameter",),
    ),
    SizeRow(
        "holder.face_to_rim",
        _clamp,
        "from the movement's face to the back's lip, and the squeeze the house rules want",
        SEATED,
    ),
)
STEP = (
    SizeRow(
        "holder.step",
        _step,
        "0.30 short of the back plane, a third of the height left for the rim",
        ("case.seat_to_back_plane", "dial.thickness"),
    ),
)
SLOT = (
    SizeRow(
        "holder.slot.width",
        lambda p: p["case.tube_outer_diameter"] + 0.4,
        "the crown's tube and 0.40",
        ("case.tube_outer_diameter",),
    ),
    SizeRow(
        "holder.slot.height",
        lambda p: p["case.tube_outer_diameter"] + 0.4,
        "the crown's tube and 0.40",
        ("case.tube_outer_diameter",),
    ),
    SizeRow("holder.slot.open", lambda _: "closed", "bridged: the stem is put through it"),
)
DIAL_RING = (
    SizeRow(
        "holder.dial_ring.thickness",
        lambda p: stem_missing(p, "holder.dial_ring.thickness"),
        "what is missing between stem and tube",
        STEM,
    ),
    SizeRow(
        "holder.dial_ring.inner_diameter",
        lambda p: p["movement.diameter"] - RING_OVERLAP,
        "the movement's Ø, less 1.2: it lies on its edge",
        ("movement.diameter",),
    ),
)
LUGS = (
    SizeRow("holder.lugs.count", lambda _: 4, "four hold level"),
    SizeRow("holder.lugs.width", lambda _: 2.0, "narrow enough to crush"),
    SizeRow("holder.lugs.height", lambda _: 0.3, "three layers of a tenth"),
    SizeRow("holder.lugs.angle", lambda _: 45.0, "away from the stem"),
)


def tab_rows(number: int, recess: int) -> tuple[SizeRow, ...]:
    """The tab of that number, made for a recess of the movement."""
    tab, into = f"holder.tabs.{number}", f"movement.recesses.{recess}"
    return (
        SizeRow(f"{tab}.angle", lambda p: p[f"{into}.angle"], "where the recess is", (f"{into}.angle",)),
        SizeRow(f"{tab}.shape", lambda _: "flat", "as the recess is"),
        SizeRow(
            f"{tab}.width",
            lambda p: p[f"{into}.width"] - 2 * TAB_ROOM,
            "the recess, 0.25 less on each side",
            (f"{into}.width",),
        ),
        SizeRow(
            f"{tab}.reach",
            lambda p: p[f"{into}.reach"] + TAB_ROOM,
            "0.25 short of the recess's bottom",
            (f"{into}.reach",),
        ),
        SizeRow(
            f"{tab}.from",
            lambda p: p[f"{into}.from"] + TAB_ROOM,
            "0.25 below the recess's upper edge",
            (f"{into}.from",),
        ),
        SizeRow(
            f"{tab}.to",
            lambda p: p[f"{into}.to"] - TAB_ROOM,
            "0.25 above the recess's lower edge",
            (f"{into}.to",),
        ),
    )


def spacer_rows(path: str, side: str) -> tuple[SizeRow, ...]:
    """A spacer on that side of the dial, as wide as the remedies would have it."""
    on_dial = side == "dial"

    def sized(edge: int, key: str) -> Callable[[Neighbours], float]:
        def of(p: Neighbours) -> float:
            found = ring_for(p.build, p.rules, side)[edge]
            return found if found > 0 else float(nominal(p[f"{path}.{key}"]))

        return of

    needs = ("case.dial_bore",) if on_dial else ("movement.diameter",)
    outside = "the dial's bore, less 0.10" if on_dial else "the movement's Ø"
    inside = "what the dial is seen through" if on_dial else "a ring 1.5 wide: clear of the wheels"
    thick = f"{path}.thickness"
    return (
        SizeRow(thick, lambda p: stem_missing(p, thick), "what is missing between stem and tube", STEM),
        SizeRow(f"{path}.outer_diameter", sized(0, "outer_diameter"), outside, needs),
        SizeRow(f"{path}.inner_diameter", sized(1, "inner_diameter"), inside, needs),
    )


def notch_rows(path: str) -> tuple[SizeRow, ...]:
    """A notch at the crown."""
    return (
        SizeRow(
            f"{path}.notch.angle", lambda p: p["case.crown_angle"], "at the crown", ("case.crown_angle",)
        ),
        SizeRow(f"{path}.notch.width", lambda _: 2.0, "to be found with tweezers"),
        SizeRow(f"{path}.notch.depth", lambda _: 0.5, "within the ring's width"),
    )


def gap_rows(path: str) -> tuple[SizeRow, ...]:
    """A gap across from the crown."""
    return (
        SizeRow(
            f"{path}.gap.angle",
            lambda p: (float(p["case.crown_angle"]) + 180.0) % 360.0,
            "across from the crown",
            ("case.crown_angle",),
        ),
        SizeRow(f"{path}.gap.width", lambda _: 1.5, "so much it can be sprung"),
    )


DIAL = (
    SizeRow(
        "dial.diameter",
        lambda p: p["case.dial_bore"] - 0.12,
        "the dial's bore, less 0.12",
        ("case.dial_bore",),
    ),
    SizeRow("dial.thickness", lambda _: 0.4, "a usual brass blank"),
    SizeRow(
        "dial.centre_hole",
        lambda p: outermost_diameter(p) + 0.30,
        "the outermost post and 0.30",
        ("movement.posts.hour.diameter",),
    ),
)
MARKS = (
    SizeRow("dial.marks.count", lambda _: 60, "a mark a minute"),
    SizeRow(
        "dial.marks.inner_radius",
        lambda p: p["dial.track_radius"] - 0.9,
        "0.90 inside the track's end",
        ("dial.track_radius",),
    ),
    SizeRow(
        "dial.marks.outer_radius",
        lambda p: p["dial.track_radius"],
        "the minute track's outer end",
        ("dial.track_radius",),
    ),
)


def foot_rows(number: int) -> tuple[SizeRow, ...]:
    """A foot for the movement's hole of that number."""
    foot, hole = f"dial.feet.{number}", f"movement.foot_holes.{number}"
    return (
        SizeRow(f"{foot}.radius", lambda p: p[f"{hole}.radius"], "the movement's hole", (f"{hole}.radius",)),
        SizeRow(
            f"{foot}.angle",
            lambda p: (float(p[f"{hole}.angle"]) + float(p["case.crown_angle"])) % 360.0,
            "the movement's hole, turned by the crown's place",
            (f"{hole}.angle", "case.crown_angle"),
        ),
        SizeRow(
            f"{foot}.diameter",
            lambda p: p[f"{hole}.diameter"] - 0.10,
            "the hole, less 0.10",
            (f"{hole}.diameter",),
        ),
        SizeRow(
            f"{foot}.length",
            lambda p: p["movement.foot_hole_depth"] + behind_dial(p) - 0.15,
            "the hole's depth, 0.15 short of its bottom",
            ("movement.foot_hole_depth",),
        ),
    )


def date_rows(path: str) -> tuple[SizeRow, ...]:
    """A window where the movement shows the date."""
    return (
        *((SizeRow(f"{path}.for", lambda _: "date", "the date"),) if path.startswith("dial.") else ()),
        SizeRow(f"{path}.shape", lambda _: "rectangle", "a window for one numeral"),
        SizeRow(
            f"{path}.at_radius",
            lambda p: p["movement.date_radius"],
            "the movement's date",
            ("movement.date_radius",),
        ),
        SizeRow(
            f"{path}.angle",
            lambda p: (float(p["movement.date_angle"]) + float(p["case.crown_angle"])) % 360.0,
            "the movement's date, turned by the crown's place",
            ("movement.date_angle", "case.crown_angle"),
        ),
        SizeRow(f"{path}.width", lambda _: 2.0, "a usual window"),
        SizeRow(f"{path}.height", lambda _: 2.6, "a usual window"),
    )
