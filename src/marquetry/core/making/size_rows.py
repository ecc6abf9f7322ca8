"""Where each size of a made part comes from: one row a field, the watch's own part and the clearance it wants."""

from collections.abc import Callable

from marquetry.core.evidence.seat import behind_dial
from marquetry.core.fit.checks.dial import outermost_post
from marquetry.core.fit.checks.support import is_spigot
from marquetry.core.fit.levels import back_lip, back_plane, movement_face, rotor_proud, stem_axis, tube_axis
from marquetry.core.making.proposals import Neighbours, SizeRow
from marquetry.core.remedies.spacers import LAYER, THINNEST, ring_for
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.made import SPIGOT
from marquetry.core.values.number import nominal

THIN_PLATE = 0.4
"""A thinner plate bends when it is glued, mm."""
RING_OVERLAP = 1.2
"""By how much a ring in one piece lies over the movement's edge, over the diameter, mm."""
TAB_ROOM = 0.15
"""Room of a tab in its recess on every side, mm: the limit, a print's doubt, and a little."""


def _clamp(p: Neighbours) -> float:
    return float(nominal(movement_face(p) - back_lip(p))) + p.middle("holder_clamp")


def _step(p: Neighbours) -> float:
    deep = float(nominal(movement_face(p) - back_plane(p)))
    return min(max(deep - 0.3, 0.4), 0.65 * float(p["holder.face_to_rim"]))


def _stem_missing(p: Neighbours, own: str) -> float:
    """What the part whose thickness that is has to be, mm, for the stem to meet its tube; never under a sheet's.

    Every other spacer counts as it is, so that a plate and a ring are not both made as thick as what is missing.
    """
    is_there = p.build.has(own.rpartition(".")[0])
    seated = stem_axis(p) - tube_axis(p) + (p[own] if is_there else 0.0)
    return max(round(float(nominal(seated)) / LAYER) * LAYER, THINNEST)


def _post(p: Neighbours) -> float:
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
        lambda p: _stem_missing(p, "holder.dial_ring.thickness"),
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
            "the recess, 0.15 less on each side",
            (f"{into}.width",),
        ),
        SizeRow(
            f"{tab}.reach",
            lambda p: p[f"{into}.reach"] + TAB_ROOM,
            "0.15 short of the recess's bottom",
            (f"{into}.reach",),
        ),
        SizeRow(
            f"{tab}.from",
            lambda p: p[f"{into}.from"] + TAB_ROOM,
            "0.15 below the recess's upper edge",
            (f"{into}.from",),
        ),
        SizeRow(
            f"{tab}.to",
            lambda p: p[f"{into}.to"] - TAB_ROOM,
            "0.15 above the recess's lower edge",
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
        SizeRow(thick, lambda p: _stem_missing(p, thick), "what is missing between stem and tube", STEM),
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
        lambda p: _post(p) + 0.30,
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


ADAPTER = (
    SizeRow(
        "dial_adapter.thickness",
        lambda p: max(_stem_missing(p, "dial_adapter.thickness"), THIN_PLATE),
        "what is missing between stem and tube",
        STEM,
    ),
    SizeRow(
        "dial_adapter.outer_diameter",
        lambda p: p["dial.diameter"] - 0.10,
        "the dial, less 0.10",
        ("dial.diameter",),
    ),
    SizeRow(
        "dial_adapter.opening_diameter",
        lambda p: _post(p) + 2.5,
        "the outermost post and room for its wheel",
        ("movement.posts.hour.diameter",),
    ),
)
SLITS = (
    SizeRow("dial_adapter.slit_width", lambda _: 0.4, "one line of the nozzle"),
    SizeRow(
        "dial_adapter.slit_inner_radius",
        lambda p: p["dial_adapter.outer_diameter"] / 2 - 1.8,
        "1.80 inside the edge",
    ),
)
PEGS = (
    SizeRow("dial_adapter.peg_play", lambda _: 0.06, "snaps in and can be drawn out"),
    SizeRow(
        "dial_adapter.peg_length",
        lambda p: p["movement.foot_hole_depth"] - 0.30,
        "the holes' depth, less 0.30",
        ("movement.foot_hole_depth",),
    ),
)
THINNEST_SKIRT, USUAL_SKIRT = 0.4, 0.8
"""One line of the nozzle, and two, mm."""


def _skirt_wall(p: Neighbours) -> float:
    """As thick as leaves the holder its play; what is thinner than a line of the nozzle is no wall."""
    if not p.has("holder"):
        return USUAL_SKIRT
    left = (p["holder.inner_diameter"] - p["movement.diameter"]) / 2 - p["dial_adapter.grip_play"]
    return min(max(float(left) - p.middle("adapter_holder"), THINNEST_SKIRT), USUAL_SKIRT)


def _has_room(p: Neighbours) -> bool:
    """Whether a skirt of one line of the nozzle goes between movement and holder."""
    if not p.has("holder"):
        return True
    left = (p["holder.inner_diameter"] - p["movement.diameter"]) / 2 - p["dial_adapter.grip_play"]
    least = p.rules.limits("adapter_holder", p.rules.model.check("adapter_holder").limits).low or 0.0
    return float(left) - least >= THINNEST_SKIRT


SKIRT = (
    SizeRow("dial_adapter.grip_play", lambda _: 0.05, "goes on by hand"),
    SizeRow("dial_adapter.grip_wall", _skirt_wall, "two lines of the nozzle, clear of the holder"),
    SizeRow(
        "dial_adapter.grip_height",
        lambda p: 1.0 if _has_room(p) else 0.0,
        "enough to centre it; none where the holder leaves no room for a skirt",
    ),
    SizeRow("dial_adapter.stem_opening", lambda _: 4.0, "the stem and its tube"),
)


def _relief(p: Neighbours) -> float:
    """Wider than what turns above it, and within what it is turned into: seat or spigot."""
    inside = p["rotor.diameter"] if p.has("rotor") else p["case_back.lip_inner_diameter"]
    around = f"{SUPPORT_PART}.spigot_diameter" if is_spigot(p) else f"{SUPPORT_PART}.seat_diameter"
    web = SPIGOT_WEB if is_spigot(p) else SEAT_WEB
    return min(float(inside) + 1.0, float(p[around]) - 2 * web)


def _relief_depth(p: Neighbours) -> float:
    return max(float(nominal(rotor_proud(p))) + 0.5, 0.5)


SUPPORT_PART = "press_support"
SEAT_WEB, SPIGOT_WEB = 0.8, 1.0
"""What is left of a seat's floor, and of a spigot's wall, round the relief, mm."""
PROUD_NEEDS = ("movement.face_to_back", "case.seat_to_back_plane")
RELIEF = (
    SizeRow(
        f"{SUPPORT_PART}.relief_diameter", _relief, "rotor or lip and 1.0, the wall round it left standing"
    ),
    SizeRow(
        f"{SUPPORT_PART}.relief_depth",
        _relief_depth,
        "what the rotor stands beyond the back plane and 0.5",
        PROUD_NEEDS,
    ),
)
RECESS_SUPPORT = (
    SizeRow(
        f"{SUPPORT_PART}.seat_diameter",
        lambda p: p["case.underside_diameter"] + 0.20,
        "the Ø of the case's underside and 0.20",
        ("case.underside_diameter",),
    ),
    SizeRow(f"{SUPPORT_PART}.shoulder", lambda _: 2.0, "holds the case's edge"),
    SizeRow(f"{SUPPORT_PART}.wall", lambda _: 3.0, "stiff under the press"),
    *RELIEF,
    SizeRow(f"{SUPPORT_PART}.floor", lambda p: _relief_depth(p) + 6.0, "six under the relief"),
)
SPIGOT_SUPPORT = (
    SizeRow(
        f"{SUPPORT_PART}.spigot_diameter",
        lambda p: p["case.back_opening_diameter"] - 0.15,
        "the opening of the back, less 0.15",
        ("case.back_opening_diameter",),
    ),
    SizeRow(f"{SUPPORT_PART}.spigot_height", lambda _: 1.5, "centres the case, clear of its inside"),
    SizeRow(
        f"{SUPPORT_PART}.rim_diameter",
        lambda p: p["case.underside_diameter"],
        "the Ø of the case's underside",
        ("case.underside_diameter",),
    ),
    *RELIEF,
    SizeRow(f"{SUPPORT_PART}.floor", lambda p: max(8.0, _relief_depth(p) + 6.0), "stiff under the press"),
)


def support_rows(build: Build) -> tuple[SizeRow, ...]:
    """A press support of the form that the sheet says; without a word a recess."""
    return SPIGOT_SUPPORT if build.at(f"{SUPPORT_PART}.form") == SPIGOT else RECESS_SUPPORT


THREAD = (SizeRow("press_support.thread", lambda _: "M6 × 1", "what many presses have: look at yours"),)
