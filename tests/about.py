"""Which parts each check is about, read off the tables of the fit model by hand: nothing here is computed."""

from tests.strategies import MODEL

STACK = {"dial", "spacers", "dial_adapter", "holder"}
SEAT = {"case", "chapter_ring"}
FEET = {"dial", "movement", "case"}
SEEN = {*SEAT, "dial", "spacers"}
HANDS = {"hands", "movement"}
INSERT = {"bezel", "bezel_insert"}
CUT = {"stem", "case", "crown", "movement"}
ABOUT: dict[str, set[str]] = {
    "dial_bore_clearance": {"case", "dial"},
    "dial_cover": {*SEAT, "dial"},
    "dial_centre_hole": {"dial", "movement"},
    "dial_feet": FEET,
    "foot_engagement": {*FEET, *STACK},
    "foot_bottoming": {*FEET, *STACK},
    "date_angle": {"movement", "case", "dial"},
    "date_radius": {"movement", "dial"},
    "functions": {"dial", "movement", "hands"},
    "ring_notch": {"case", "chapter_ring"},
    "disc_upright": {"calendar_disc", "case"},
    "rotor_on_bearing": {"rotor", "movement"},
    "rotor_in_back": {"rotor", "case_back"},
    "bar_length": {"spring_bars", "case"},
    "bar_tip": {"spring_bars", "case"},
    "strap_room": {"strap", "case"},
    "hand_track": {"dial", "hands"},
    "bezel_click": {"bezel", "case"},
    "adhesive_width": INSERT,
    "holder_tabs": {"holder", "movement"},
    "holder_rotor": {"holder", "movement", "rotor"},
    "holder_rotor_rim": {"holder", "movement", "rotor"},
    "holder_on": {"holder", "movement", "rotor"},
    "height_wish": {"case", "crystal", "case_back"},
    "diameter_wish": {"case"},
    "span_wish": {"case"},
    "functions_wish": {"movement"},
    "stem_height": {*SEAT, *STACK, "movement"},
    "rotor_clearance": {*SEAT, *STACK, "movement", "case_back"},
    "back_clearance": {*SEAT, *STACK, "movement", "case_back"},
    "holder_clamp": {*SEAT, *STACK, "holder", "case_back"},
    "holder_in_case": {"case", "holder"},
    "holder_on_movement": {"holder", "movement"},
    "holder_in_back": {"case_back", "holder"},
    "hand_grip": HANDS,
    "hand_stack": {*HANDS, *SEAT, *STACK, "crystal", "crystal_gasket"},
    "hand_reach": {*SEAT, "dial", "hands"},
    "stem_thread": {"crown", "stem"},
    "stem_cut": CUT,
    "stem_thread_left": CUT,
    "crystal_squeeze": {"crystal", "crystal_gasket", "case"},
    "crystal_proud": {"crystal", "crystal_gasket", "case", *INSERT},
    "crystal_insert_gap": {"crystal", "bezel_insert"},
    "crystal_strength": {"crystal", "case"},
    "back_gasket_squeeze": {"back_gasket", "case"},
    "back_gasket_stretch": {"back_gasket", "case"},
    "back_gasket_fill": {"back_gasket", "case"},
    "crown_gasket_squeeze": {"crown", "crown_gasket", "case"},
    "bezel_on_case": {"bezel", "case"},
    "insert_outer_gap": INSERT,
    "insert_inner_gap": INSERT,
    "insert_recess": INSERT,
    "bezel_index": {"bezel"},
    "strap_width": {"case", "strap"},
    "wrist_span": {"case", "strap"},
    "support_seat": {"case", "press_support"},
    "support_spigot": {"case", "press_support"},
    "support_rotor": {*SEAT, *STACK, "movement", "press_support", "rotor"},
    "window_feet": {"dial", "dial_adapter"},
    "window_seen": SEEN,
    "window_centre": {"dial"},
    "window_h24": {"dial", "movement"},
    "track_seen": SEEN,
    "adapter_holder": {"dial_adapter", "movement", "holder"},
    "case_screws": {*SEAT, *STACK, "movement"},
}


def about(check: str) -> set[str]:
    """The parts that a check is about; checks of single hands stand under their common name."""
    return ABOUT[check.partition(".")[0]]


def test_every_check_stands_in_the_table() -> None:
    assert {name.partition(".")[0] for name in MODEL.check_by_name} == set(ABOUT)
