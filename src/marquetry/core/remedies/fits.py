"""Remedies that move one dimension to where its check is clear: one row each, solved from the check itself."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from marquetry.core.fit.report import Report
from marquetry.core.remedies.idea import Effort, Idea, is_possible, rounded, with_value
from marquetry.core.remedies.probe import aim_of, solve
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict

STEP = 0.01
SPARE = 0.03
PIPE_MOST = 0.03
"""A pipe is closed or opened by no more: beyond that it splits, or its wall is gone."""
CHIPS = "Eyes protected, chips and dust kept out of the movement."


@dataclass(frozen=True, slots=True)
class Adjustment:
    """One row: to mend `check` move `path`, `only` one way, by at most `most`."""

    check: str
    path: str
    kind: str
    title: str
    effort: Effort
    undo: bool = True
    only: Literal["less", "more", ""] = ""
    most: float = 1e9
    step: float = STEP
    make: str = ""
    caution: str = ""


ADJUSTMENTS: tuple[Adjustment, ...] = (
    Adjustment("stem_height", "chapter_ring.drop", "other_ring", "Chapter ring whose underside stands {value} below the ledge, not {old}", 3),
    Adjustment("stem_height", "chapter_ring.drop", "filed_ring", "File the ring's underside until it stands {value} below the ledge", 2, undo=False, only="less", most=0.3, caution=CHIPS),
    Adjustment("stem_height", "dial.thickness", "thinner_dial", "Thin the dial from behind, where the movement's ring rests, to {value}", 2, undo=False, only="less", most=0.6, caution="Dust of stone and old lume is not to be breathed: wet, masked, and never on lume that may be radioactive."),
    Adjustment("stem_height", "dial.thickness", "other_dial", "A dial {value} thick, not {old}", 3),
    Adjustment("stem_height", "movement.face_to_stem", "other_movement", "A movement whose stem lies {value} below its face, not {old}", 4),
    Adjustment("stem_height", "dial.edge_thickness", "scraped_edge", "Take paint off the dial's edge until it is {value}", 2, undo=False, only="less", most=0.5, caution="Old luminous paint may be radioactive: do not scrape, file or sand it."),
    Adjustment("rotor_clearance", "case_back.inner_recess", "deeper_back", "A case back {value} deep inside, not {old}", 3, only="more"),
    Adjustment("rotor_clearance", "movement.face_to_back", "other_movement", "A movement {value} high from face to rotor, not {old}", 4, only="less"),
    Adjustment("back_clearance", "case_back.inner_recess", "deeper_back", "A case back {value} deep inside, not {old}", 3, only="more"),
    Adjustment("back_clearance", "movement.face_to_back", "other_movement", "A movement {value} high from face to back, not {old}", 4, only="less"),
    Adjustment("rotor_clearance", "rotor.rim_thickness", "other_rotor", "A rotor whose rim is {value} thick, not {old}", 3, only="less"),
    Adjustment("rotor_on_bearing", "rotor.bore", "open_bore", "Broach the rotor's bore to {value}", 2, undo=False, only="more", most=0.1, step=0.005, caution=CHIPS),
    Adjustment("rotor_on_bearing", "rotor.bore", "other_rotor", "A rotor with a bore of {value}, not {old}", 3, step=0.005),
    Adjustment("rotor_in_back", "rotor.diameter", "other_rotor", "A rotor of {value}, not {old}", 3, only="less"),
    Adjustment("rotor_in_back", "case_back.lip_inner_diameter", "other_back", "A case back whose lip is {value} inside, not {old}", 3, only="more"),
    Adjustment("holder_rotor_rim", "holder.inner_diameter", "holder_fit", "Holder of {value} inside, not {old}", 2, only="more", make="holder"),
    Adjustment("holder_rotor_rim", "rotor.diameter", "other_rotor", "A rotor of {value}, not {old}", 3, only="less"),
    Adjustment("holder_rotor", "movement.face_to_rotor", "other_movement", "A movement whose rotor runs {value} behind its face, not {old}", 4, only="more"),
    Adjustment("support_rotor", "press_support.relief_depth", "deeper_relief", "A press support whose relief is {value} deep, not {old}", 2, only="more", make="press support"),
    Adjustment("support_seat", "press_support.seat_diameter", "support_seat", "A press support with a seat of {value}, not {old}", 2, make="press support"),
    Adjustment("support_spigot", "press_support.spigot_diameter", "support_spigot", "A press support with a spigot of {value}, not {old}", 2, make="press support"),
    Adjustment("adapter_holder", "dial_adapter.grip_wall", "thinner_skirt", "A carrier whose skirt is {value} thick, not {old}", 2, make="dial adapter"),
    Adjustment("adapter_holder", "holder.inner_diameter", "holder_fit", "Holder of {value} inside, not {old}", 2, make="holder"),
    Adjustment("case_screws", "movement.clamp_face", "screw_washers", "Washers under the screws' heads: what they press on {value} behind the face, not {old}", 1, only="more", most=0.6),
    Adjustment("case_screws", "case.seat_to_screw_face", "other_case", "A case whose screws are drawn down {value} below the seat, not {old}", 5),
    Adjustment("track_seen", "chapter_ring.inner_diameter", "other_ring", "Chapter ring of {value} inside, not {old}", 3, only="more"),
    Adjustment("track_seen", "dial.track_radius", "other_dial", "A dial whose track ends {value} from the centre, not {old}", 3, only="less"),
    Adjustment("holder_clamp", "holder.face_to_rim", "holder_rim", "Holder with its rim {value} behind the movement's face, not {old}", 2, make="holder"),
    Adjustment("holder_clamp", "case_back.lip_recess", "deeper_back", "A case back whose lip stands {value} outwards, not {old}", 3),
    Adjustment("holder_in_case", "holder.outer_diameter", "holder_fit", "Holder of {value} outside, not {old}", 2, make="holder"),
    Adjustment("holder_on_movement", "holder.inner_diameter", "holder_fit", "Holder of {value} inside, not {old}", 2, make="holder"),
    Adjustment("holder_in_back", "holder.rim_outer_diameter", "holder_fit", "Holder with a rim of {value}, not {old}", 2, make="holder"),
    Adjustment("dial_bore_clearance", "dial.diameter", "other_dial", "A dial of {value}, not {old}", 3),
    Adjustment("dial_cover", "chapter_ring.inner_diameter", "other_ring", "Chapter ring of {value} inside, not {old}", 3, only="less"),
    Adjustment("dial_cover", "case.opening_diameter", "other_case", "A case whose opening is {value}, not {old}", 5, only="less"),
    Adjustment("dial_centre_hole", "dial.centre_hole", "open_hole", "Open the dial's centre hole to {value}", 2, undo=False, only="more", caution=CHIPS),
    Adjustment("date_angle", "dial.date_window_angle", "other_dial", "A dial with its date at {value}°, not {old}°", 3, step=0.5),
    Adjustment("disc_upright", "calendar_disc.crown_angle", "other_disc", "A disc printed for a crown at {value}°, not {old}°", 2, step=0.5),
    Adjustment("date_radius", "dial.date_window_radius", "other_dial", "A dial with its date {value} from the centre, not {old}", 3),
    *(Adjustment(f"hand_grip.{hand}", f"hands.{hand}.bore", "close_pipe", f"Close the {words} hand's pipe to {{value}}", 1, undo=False, only="less", most=PIPE_MOST, step=0.005) for hand, words in HAND_LABELS.items()),
    *(Adjustment(f"hand_grip.{hand}", f"hands.{hand}.bore", "open_pipe", f"Broach the {words} hand to {{value}}", 1, undo=False, only="more", most=PIPE_MOST, step=0.005, caution=CHIPS) for hand, words in HAND_LABELS.items()),
    *(Adjustment(f"hand_grip.{hand}", f"hands.{hand}.bore", "other_hands", f"Another set of hands: its {words} hand with a bore of {{value}}, not {{old}}", 2, step=0.005) for hand, words in HAND_LABELS.items()),
    *(Adjustment(f"hand_reach.{hand}", f"hands.{hand}.length", "other_hands", f"A {HAND_LABELS[hand]} hand of {{value}}, not {{old}}", 2, only="less") for hand in ("minute", "seconds")),
    *(Adjustment(f"hand_reach.{hand}", f"hands.{hand}.length", "trimmed_hand", f"Trim the {HAND_LABELS[hand]} hand to {{value}} and dress its tip", 2, undo=False, only="less", caution=CHIPS) for hand in ("minute", "seconds")),
    *(Adjustment(f"hand_track.{hand}", f"hands.{hand}.length", "other_hand", f"A {HAND_LABELS[hand]} hand of {{value}}, not {{old}}", 2) for hand in ("minute", "seconds")),
    *(Adjustment(f"hand_track.{hand}", "dial.track_radius", "other_dial", "A dial whose track ends {value} from the centre, not {old}", 3) for hand in ("minute", "seconds")),
    Adjustment("stem_cut", "stem.length", "longer_stem", "A stem {value} long, not {old}", 2, only="more", step=0.1),
    Adjustment("stem_cut", "stem.length", "stem_extender", "A stem extender that brings the stem to {value}", 2, only="more", step=0.1),
    Adjustment("stem_thread_left", "stem.thread_length", "longer_thread", "A stem threaded over {value}, not {old}", 2, only="more", step=0.1),
    Adjustment("crystal_squeeze", "crystal_gasket.wall", "gasket_wall", "Crystal gasket with a wall of {value}, not {old}", 2, step=0.005),
    Adjustment("crystal_squeeze", "crystal.diameter", "other_crystal", "Crystal of {value}, not {old}", 2),
    Adjustment("crystal_proud", "crystal_gasket.flange", "higher_gasket", "Crystal gasket with a flange of {value}, not {old}", 2),
    Adjustment("crystal_proud", "bezel_insert.thickness", "other_insert", "Bezel insert {value} thick, not {old}", 2),
    Adjustment("crystal_proud", "crystal.edge_thickness", "other_crystal", "Crystal {value} thick at its edge, not {old}", 2),
    Adjustment("crystal_insert_gap", "bezel_insert.inner_diameter", "other_insert", "Bezel insert of {value} inside, not {old}", 2, only="more"),
    Adjustment("crystal_strength", "crystal.centre_thickness", "thicker_crystal", "Crystal {value} thick, not {old}", 2, only="more", step=0.1),
    Adjustment("back_gasket_squeeze", "back_gasket.cord", "gasket_cord", "Back gasket of {value} cord, not {old}", 1, step=0.05),
    Adjustment("back_gasket_fill", "back_gasket.cord", "gasket_cord", "Back gasket of {value} cord, not {old}", 1, only="less", step=0.05),
    Adjustment("back_gasket_stretch", "back_gasket.inner_diameter", "gasket_ring", "Back gasket of {value} inside, not {old}", 1, step=0.1),
    Adjustment("crown_gasket_squeeze", "crown.gasket_cord", "crown_cord", "Crown gasket of {value} cord, not {old}", 1, step=0.01),
    Adjustment("bezel_on_case", "bezel.inner_diameter", "other_bezel", "Bezel of {value} inside, not {old}", 3),
    Adjustment("insert_outer_gap", "bezel_insert.outer_diameter", "other_insert", "Bezel insert of {value} outside, not {old}", 2),
    Adjustment("insert_inner_gap", "bezel_insert.inner_diameter", "other_insert", "Bezel insert of {value} inside, not {old}", 2),
    Adjustment("insert_recess", "bezel_insert.thickness", "other_insert", "Bezel insert {value} thick, not {old}", 2),
    Adjustment("insert_recess", "bezel_insert.adhesive", "adhesive", "Adhesive of {value} under the insert, not {old}", 1),
    Adjustment("bezel_index", "bezel.index_offset", "turn_insert", "Turn the insert in its channel until the index is {value}° off", 1, step=0.05),
    Adjustment("adhesive_width", "bezel_insert.inner_diameter", "other_insert", "Bezel insert of {value} inside, not {old}", 2, only="less"),
    Adjustment("adhesive_width", "bezel_insert.outer_diameter", "other_insert", "Bezel insert of {value} outside, not {old}", 2, only="more"),
    Adjustment("adhesive_width", "bezel.turning_inner_diameter", "other_bezel", "A bezel whose turning part is {value} inside, not {old}", 3, only="less"),
    Adjustment("bar_length", "spring_bars.length", "other_bar", "Spring bars {value} long, not {old}", 1, step=0.5),
    Adjustment("bar_tip", "spring_bars.tip_diameter", "other_bar", "Spring bars with tips of {value}, not {old}", 1, step=0.05),
    Adjustment("bar_tip", "case.lug_hole_diameter", "open_lug_hole", "Drill the lugs' holes to {value}", 2, undo=False, only="more", most=0.3, step=0.05, caution=CHIPS),
    Adjustment("strap_room", "strap.thickness", "other_strap", "A strap {value} thick, not {old}", 2, only="less", step=0.1),
    Adjustment("strap_room", "case.bar_to_case", "curved_bar", "Curved spring bars that stand {value} off the case, not {old}", 1, only="more", most=1.5, step=0.1),
    Adjustment("height_wish", "crystal.centre_thickness", "slimmer_crystal", "Crystal {value} thick at its centre, not {old}: saves {saved}", 2, only="less", step=0.05),
    Adjustment("height_wish", "crystal.inner_dome", "flatter_crystal", "Crystal whose underside rises {value}, not {old}: saves {saved}", 2, only="less", step=0.05),
    Adjustment("height_wish", "case_back.outer_height", "flatter_back", "Case back {value} high outside, not {old}: saves {saved}", 3, only="less", step=0.05),
    Adjustment("height_wish", "bezel.channel_depth", "flatter_bezel", "Bezel with a channel {value} deep, not {old}: saves {saved}", 3, only="less", step=0.05),
    Adjustment("height_wish", "case.seat_to_back_plane", "slimmer_case", "A case {value} from seat to back, not {old}: saves {saved}", 5, only="less", step=0.05),
    Adjustment("height_wish", "case.seat_to_crystal", "slimmer_case", "A case {value} from seat to crystal, not {old}: saves {saved}", 5, only="less", step=0.05),
    Adjustment("diameter_wish", "case.diameter", "other_case", "A case of {value}, not {old}", 5, only="less", step=0.1),
    Adjustment("span_wish", "case.lug_to_lug", "other_case", "A case {value} from lug to lug, not {old}", 5, only="less", step=0.1),
    Adjustment("strap_width", "strap.width", "other_strap", "A strap {value} wide, not {old}", 2, step=2.0),
    Adjustment("strap_width", "strap.width", "other_strap", "A strap {value} wide, not {old}", 2, step=1.0),
    Adjustment("wrist_span", "strap.end_link_overhang", "other_strap", "A strap or bracelet whose end links reach {value} past the lugs, not {old}", 2, only="less", step=0.5),
    Adjustment("wrist_span", "case.lug_to_lug", "other_case", "A case {value} from lug to lug, not {old}", 5, only="less", step=0.5),
)  # fmt: skip


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """Every row's idea for this check, where its dimension can get there."""
    for fit in ADJUSTMENTS:
        if fit.check == check and (idea := _idea(fit, build, report)) is not None:
            yield idea
            if fit.path == "strap.width":
                return  # even widths stand first: an odd one is only worth it where none of them fits


def _idea(fit: Adjustment, build: Build, report: Report) -> Idea | None:
    old = build.dimensions.get(fit.path)
    aim = aim_of(report.findings[fit.check], SPARE)
    if old is None or aim is None:
        return None
    found = solve(report.rules.model.check(fit.check), build, report.rules, fit.path, aim)
    if found is None:
        return None
    value = rounded(found, fit.step)
    if fit.path == "strap.width" and not _fits(fit, build, report, value):
        return None
    change = value - old.value
    if abs(change) < fit.step / 2 or abs(change) > fit.most or not is_possible(build, fit.path, value):
        return None
    if (fit.only == "less" and change > 0) or (fit.only == "more" and change < 0):
        return None
    decimals, unit = (
        3 if fit.step < STEP else 2,
        "" if build.anatomy.quantity_at(fit.path).unit == "°" else "mm",
    )
    title = fit.title.format(
        value=figure(value, decimals, unit),
        old=figure(old.value, decimals, unit),
        saved=figure(abs(change), decimals, unit),
    )
    return Idea(
        fit.kind, title, with_value(build, fit.path, value), fit.effort, fit.undo, "", fit.make, fit.caution
    )


def _fits(fit: Adjustment, build: Build, report: Report, value: float) -> bool:
    """Whether the check no longer clashes with this value, in mm or degrees."""
    moved = with_value(build, fit.path, value)
    return report.rules.model.check(fit.check).find(moved, report.rules).verdict is not Verdict.CLASH
