"""What arrives assembled, with dial and hands on, or driven otherwise: which steps it takes away and brings."""

import copy
import json
from typing import Any

import pytest

from marquetry.core.bench.procedure import Procedure, procedure
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from tests.bench.test_worked_cases import cases
from tests.strategies import ANATOMY, MODEL, report_on

PLAIN = json.loads(cases("steps")[0].read_text("utf-8"))["build"]
CRYSTAL = {"crystal_side", "press_crystal", "crystal_seated"}
BEZEL = {"grease_click", "fit_bezel", "bezel_turns"}
INSERT = {"bezel_at_click", "stick_insert", "insert_straight"}
DIAL = {"clean_dial", "trial_dial", "fix_dial", "date_in_window"}
HANDS = {
    "movement_on_rest", "find_midnight", "press_hour", "check_hour", "press_minute", "check_minute", "press_seconds",
    "check_seconds", "hands_round", "clean_dial_and_hands",
}  # fmt: skip
CAME_OFF = {"hands_off_movement", "dial_off_movement"}
STAYS = {"arrives_with": ["dial", "hands"], "arrives_stays": True}
GASKET = {"crown_gasket": {"name": "Crown seal"}}
OPENED = {
    "id": "a",
    "title": "Open the bezel",
    "kind": "other",
    "changes": [{"path": "bezel.inner_diameter", "from": 1.0, "to": 2.0}],
}
HOLES = {
    "id": "h",
    "title": "Drill",
    "kind": "holes_drilled",
    "changes": [{"path": "movement.foot_holes", "from": [], "to": []}],
}
PIPE = {
    "id": "p",
    "title": "Open the pipe",
    "kind": "pipe_opened",
    "changes": [{"path": "hands.minute.bore", "from": 0.88, "to": 0.89}],
}


def steps_of(movement: Any = None, parts: Any = None, **said: Any) -> Procedure:
    sheet = copy.deepcopy(PLAIN)
    sheet["parts"]["movement"] |= movement or {}
    for key, part in (parts or {}).items():
        sheet["parts"][key] = {**sheet["parts"].get(key, {}), **part}
    build = Build({**sheet, **said}, ANATOMY)
    return procedure(Situation(report_on(build, Rules(MODEL, build.rules))))


BEFORE = set(steps_of().by_id)
CHANGES: dict[str, tuple[dict[str, Any], set[str], set[str]]] = {
    "a ring on the case": ({"together": [["case", "chapter_ring"]]}, {"seat_ring"}, {"look_over_case"}),
    "a crystal": ({"together": [["dial", "hands"], ["crystal", "case"]]}, CRYSTAL, {"look_over_case"}),
    "a crystal that came with another part": ({"together": [["crystal", "bezel"]]}, set(), set()),
    "only the back": ({"together": [["case", "case_back", "back_gasket"]]}, set(), set()),
    "bezel and insert": ({"together": [["case", "bezel", "bezel_insert"]]}, BEZEL | INSERT, {"look_over_case"}),
    "ring and bezel, told apart": (
        {"together": [["case", "chapter_ring"], ["case", "bezel"]]}, BEZEL | {"seat_ring"}, {"look_over_case"},
    ),
    "a bezel alone: the insert waits": ({"together": [["case", "bezel"]]}, BEZEL, {"look_over_case"}),
    "a bezel to be worked on": ({"together": [["case", "bezel"]], "alterations": [OPENED]}, set(), {"alter:a"}),
    "a crown": ({"together": [["case", "crown"]]}, {"crown_seal"}, {"look_over_case"}),
    "a crown whose gasket is bought": ({"together": [["case", "crown"]], "parts": GASKET}, set(), set()),
    "a crown with its gasket": (
        {"together": [["case", "crown", "crown_gasket"]], "parts": GASKET}, {"crown_seal"}, {"look_over_case"},
    ),
    "another's dial and hands": ({"movement": {"arrives_with": ["dial", "hands"]}}, set(), CAME_OFF),
    "another's dial": ({"movement": {"arrives_with": ["dial"]}}, set(), {"dial_off_movement"}),
    "dial and hands that stay": ({"movement": STAYS}, {*DIAL, *HANDS, "washer_seated"}, {"look_over_dial"}),
    "a dial that stays": (
        {"movement": {**STAYS, "arrives_with": ["dial"]}}, {*DIAL, "washer_seated"}, {"look_over_dial"},
    ),
    "nothing that could stay": ({"movement": {"arrives_stays": True}}, set(), set()),
    "what stays has a pipe to be opened": (
        {"movement": STAYS, "alterations": [PIPE]}, set(), {*CAME_OFF, "alter:p"},
    ),
    "what stays needs another disc": (
        {"movement": STAYS, "parts": {"calendar_disc": {"name": "Disc"}}}, set(), {*CAME_OFF, "swap_disc"},
    ),
    "a donor's movement": (
        {"movement": {"arrives_with": ["dial", "hands"], "donor": "Old Ebb"}}, set(),
        {"open_donor", "stem_out_of_donor", "hands_off_donor", "dial_off_donor", "keep_donor_gaskets"},
    ),
    "a battery": (
        {"movement": {"drive": "battery"}, "parts": {"rotor": {"name": "A rotor"}}},
        {"rotor_free", "rate_positions"}, {"insulate_battery", "rate_worn"},
    ),
    "a battery that a family assumed": (
        {"movement": {"drive": "battery"}, "assumed_words": ["movement.drive"]}, set(), set(),
    ),
    "wound by hand": ({"movement": {"drive": "hand-wound"}}, {"rotor_free"}, set()),
    "wound by hand, holes to be drilled": (
        {"movement": {"drive": "hand-wound"}, "alterations": [HOLES]}, {"rotor_free"}, {"drill_feet_holes", "clear_chips"},
    ),
    "a case that claims nothing": ({"target": {}}, {"pressure_dry"}, set()),
    "a case that claims 200 m": ({"target": {}, "parts": {"case": {"water_rating_m": 200}}}, set(), set()),
    "an assumed claim": (
        {"target": {}, "parts": {"case": {"water_rating_m": 200}}, "assumed_words": ["case.water_rating_m"]},
        {"pressure_dry"}, set(),
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", CHANGES)
def test_what_arrives_takes_steps_away_and_brings_its_own(name: str) -> None:
    said, gone, new = CHANGES[name]
    found = steps_of(**said)
    assert set(found.by_id) == (BEFORE - gone) | new
    order = list(found.by_id)
    for asked in new & {"look_over_case", "look_over_dial"}:
        assert asked in found.by_id["case_up"].gates
        assert found.by_id[asked].is_gate
    if "look_over_case" in new:
        of_case = [step.id for step in found.steps if step.group == "case"]
        assert of_case[:2] == ["open_case", "look_over_case"]
    if "bezel" in name and "stick_insert" in found.by_id and new == {"look_over_case"}:
        assert {"look_over_case", "bezel_at_click"} <= set(found.by_id["stick_insert"].gates)
    for step in CAME_OFF & new:
        assert order.index("check_movement") < order.index(step) < order.index("washer_seated")
