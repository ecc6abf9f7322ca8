"""The ready families, each told by what sets it apart from a usual watch."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.core.sheet.described.words import HANDS
from marquetry.core.sheet.entries import Json


@dataclass(frozen=True, slots=True, eq=False)
class WatchFamily:
    """One ready family. `sets` gives dimensions in mm and degrees by path, `says` all other entries."""

    key: str
    name: str
    words: str
    parts: tuple[str, ...]
    hands: tuple[str, ...] = ("hour", "minute", "seconds")
    sets: Mapping[str, float] = field(default_factory=dict)
    says: Mapping[str, Json] = field(default_factory=dict)


PLAIN = (
    "case", "case_back", "crystal", "crystal_gasket", "chapter_ring", "dial", "hands", "movement", "holder", "crown",
    "crown_gasket", "stem", "back_gasket", "strap", "spring_bars",
)  # fmt: skip
WITH_BEZEL = (*PLAIN, "bezel", "bezel_insert")
WITH_DATE = {
    "movement.functions": ["hours", "minutes", "seconds", "date", "hacking", "hand_winding"], "dial.windows": ["date"],
    "crystal.material": "sapphire", "crown.thread": "0.90", "stem.thread": "0.90",
    "case.ring_notch": True, "chapter_ring.notch": True,
}  # fmt: skip
CLICKING = {"bezel.clicks": 120, "bezel.click": "ring spring", "case.click": "ring spring"}
WITHOUT_DATE = {**WITH_DATE, "movement.functions": ["hours", "minutes", "seconds"], "dial.windows": []}
AUTOMATIC = {
    "case.seat_to_tube": 2.62, "movement.face_to_stem": 2.22, "case.seat_to_back_plane": 5.85,
    "case_back.inner_recess": 1.05, "holder.face_to_rim": 5.17, "dial.features.0.height": 0.3,
    "movement.posts.hour.top": 1.32, "movement.posts.minute.top": 1.86, "movement.posts.seconds.top": 2.36,
    "hands.seconds.pipe": 0.38, "case.seat_to_crystal": 2.72, "crystal.inner_dome": 0.3, "crystal.centre_thickness": 2.6,
    "hands.hour.pipe": 0.25, "hands.minute.pipe": 0.22,
}  # fmt: skip
SLIM = {
    "case.diameter": 36.0, "case.dial_bore": 26.52, "case.seat_to_tube": 2.15, "case.seat_to_back_plane": 4.35,
    "case.seat_to_crystal": 2.45, "case.centre_to_tube_end": 16.9, "case.lug_width": 18.0, "case.lug_to_lug": 42.0,
    "case.ledge_to_bezel_seat": 1.2, "case.back_groove_inner_diameter": 28.3, "case.movement_bore": 27.2,
    "case_back.inner_recess": 0.55, "case_back.lip_recess": -0.3, "case_back.lip_inner_diameter": 26.1,
    "case_back.outer_height": 1.6, "crystal.diameter": 27.4, "case.crystal_bore": 28.3, "crystal.edge_thickness": 1.9,
    "crystal.centre_thickness": 1.9, "movement.diameter": 25.0, "movement.face_to_stem": 1.75,
    "movement.face_to_back": 3.85, "movement.centre_to_stem_tip": 3.6, "movement.foot_hole_depth": 1.5,
    "movement.foot_holes.0.radius": 11.6, "movement.foot_holes.1.radius": 11.6, "dial.feet.0.radius": 11.6,
    "dial.feet.1.radius": 11.6, "dial.feet.0.length": 1.2, "dial.feet.1.length": 1.2, "dial.track_radius": 11.6,
    "hands.hour.length": 7.0, "hands.minute.length": 10.8, "hands.seconds.length": 11.2, "stem.length": 23.0,
    "movement.posts.hour.top": 1.15, "movement.posts.minute.top": 1.6, "movement.posts.seconds.top": 2.05,
    "strap.width": 17.8, "strap.thickness": 2.2, "holder.face_to_rim": 3.77,
    "hands.hour.pipe": 0.25, "hands.minute.pipe": 0.22, "hands.seconds.pipe": 0.3,
}  # fmt: skip
FOUR = {
    **AUTOMATIC, "movement.posts.h24.top": 0.95, "movement.posts.hour.top": 1.5, "movement.posts.minute.top": 2.05,
    "movement.posts.seconds.top": 2.55, "dial.centre_hole": 2.3, "case.seat_to_crystal": 3.05,
}  # fmt: skip
READY: tuple[WatchFamily, ...] = (
    WatchFamily(
        "slim-36", "Slim 36", "A slim dress watch, crown at three, no date.", PLAIN, sets=SLIM, says=WITHOUT_DATE,
    ),
    WatchFamily(
        "three-hands-39", "Three hands 39", "The usual automatic with a date, crown at three.", PLAIN, sets=AUTOMATIC,
        says=WITH_DATE,
    ),
    WatchFamily(
        "diver-40", "Diver 40", "A turning bezel with its insert, crown below four.", WITH_BEZEL,
        sets={**AUTOMATIC, "case.crown_angle": 114.0, "case.diameter": 40.0}, says={**WITH_DATE, **CLICKING},
    ),
    WatchFamily(
        "four-hands-40", "Four hands 40", "A second time on a 24-hour hand, under a bezel.", WITH_BEZEL, HANDS,
        {**FOUR, "case.diameter": 40.0},
        {**WITHOUT_DATE, **CLICKING, "movement.functions": ["hours", "minutes", "seconds", "h24"]},
    ),
)  # fmt: skip
USUAL_FAMILY = READY[1]
"""The one that serves where nobody chose: three hands."""
