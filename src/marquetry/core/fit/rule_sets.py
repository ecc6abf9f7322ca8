"""Three ready sets of rules: the usual ones, and what a cautious or a close-fitting workshop takes instead.

`usual` is fit-model.md's defaults. The other two are the house's own proposals, wider or narrower by what a
careful hand can hold; each value may be changed one by one afterwards.
"""

from collections.abc import Mapping

from marquetry.core.sheet.entries import Json

RULE_SETS: Mapping[str, Mapping[str, Json]] = {
    "usual": {},
    "cautious": {
        "dial_bore_clearance": [0.05, 0.30],
        "dial_cover": [0.25, None],
        "foot_engagement": [0.80, None],
        "stem_height": [-0.06, 0.06],
        "rotor_clearance": [0.30, None],
        "holder_clamp": [0.03, 0.20],
        "hand_grip": [0.008, 0.030],
        "hand_reach": [0.25, None],
        "stem_thread_left": [1.50, None],
        "crystal_squeeze": [6, 15],
        "crystal_strength": [4, None],
        "back_gasket_squeeze": [18, 28],
        "gap_dial": 0.25,
        "gap_hands": 0.20,
        "gap_crystal": 0.40,
        "hand_tilt": 0.30,
        "hand_engagement": 0.30,
    },
    "close-fitted": {
        "dial_bore_clearance": [0.01, 0.20],
        "dial_cover": [0.10, None],
        "foot_engagement": [0.50, None],
        "stem_height": [-0.12, 0.12],
        "rotor_clearance": [0.12, None],
        "holder_clamp": [0.0, 0.15],
        "hand_reach": [0.10, None],
        "gap_dial": 0.15,
        "gap_hands": 0.10,
        "gap_crystal": 0.20,
        "hand_tilt": 0.15,
        "hand_engagement": 0.20,
    },
}
