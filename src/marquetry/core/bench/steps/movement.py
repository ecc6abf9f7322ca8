"""What is altered in the movement before a dial goes on: calendar, disc, rotor, a seconds post."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep

CHECKED = ("check_movement",)
CLEARED = ("hands_off_movement", "dial_off_movement")
"""What arrived on the movement and is another's comes off before anything is done to it."""


def _told_calendar(s: Situation) -> str:
    gone = " and ".join(s.stripped)
    return (
        f"Take the {gone} disc and its parts off, in order, photographed; keep them bagged with its screws."
    )


STEPS = (
    BenchStep(
        id="strip_calendar",
        title="Strip the calendar no one will see",
        group="movement",
        why="The dial has no window for it: less drag, and a crown position less to explain.",
        how=_told_calendar,
        wrong="The jumper's spring flies: cover it with a stick of soft wood while its plate comes off.",
        parts=("movement",),
        applies=lambda s: bool(s.stripped),
        after=CLEARED,
        gates=CHECKED,
        place="calendar",
        points="off",
        tools=("screwdrivers", "tweezers", "tray", "pegwood"),
        caution="Small springs fly: eye protection on, over a tray.",
        minutes=20,
    ),
    BenchStep(
        id="swap_disc",
        title="Change the calendar's disc",
        group="movement",
        why="This watch shows a disc of its own.",
        how="Under its plate, teeth on the driving wheel, jumper between two teeth; numerals upright in the "
        "window. The ring under the calendar's plates goes with the disc: a disc for another place of the crown "
        "may want its own, swapped and seated before the plate is on.",
        wrong="The disc rides on its jumper and stands proud: it must turn freely before the plate is tight.",
        parts=("movement", "calendar_disc"),
        after=(*CHECKED, *CLEARED, "strip_calendar"),
        place="calendar",
        points="disc",
        tools=("screwdrivers", "tweezers", "tray"),
        caution="Small springs fly: eye protection on, over a tray.",
        minutes=20,
    ),
    BenchStep(
        id="swap_rotor",
        title="Change the rotor",
        group="movement",
        why="The rotor of this watch's own is seen, or clears what the old one did not.",
        how="Hold the rotor, loosen its screw, lift straight. The new one on its bearing, screw firm; it turns "
        "by itself.",
        wrong="A screw a little proud rubs on the back: look along it from the side.",
        parts=("movement", "rotor"),
        applies=lambda s: s.has_rotor,
        after=(*CHECKED, *CLEARED),
        shows=("rotor", "movement"),
        tools=("screwdrivers", "movement_rest"),
        minutes=6,
    ),
    BenchStep(
        id="take_out_seconds_post",
        title="Take the seconds post out",
        group="movement",
        why="No seconds hand goes on; its post would touch or show.",
        how="From the back: its bridge off, the wheel with its long post out, and kept.",
        wrong="The wheel's spring is lost with it, and the train drags: note how it lay.",
        parts=("movement",),
        applies=lambda s: s.loses_seconds,
        after=(*CHECKED, *CLEARED),
        place="hands",
        points="post",
        tools=("screwdrivers", "tweezers", "movement_rest"),
        minutes=15,
    ),
    BenchStep(
        id="calendar_works",
        title="Does the calendar work?",
        group="movement",
        why="Under the dial it is out of reach.",
        how="Through midnight twice by the hands' arbor, then quick-set over a whole month; it must jump, not "
        "creep.",
        wrong="Tried once only: a disc that sits on its jumper fails at the thirty-first.",
        parts=("movement",),
        applies=lambda s: bool(s.stripped or s.calendar) or s.has("calendar_disc"),
        after=(*CHECKED, *CLEARED, "strip_calendar", "swap_disc"),
        question="Does it jump every time, by itself and by quick-set?",
        place="calendar",
        points="jump",
        tools=("movement_rest", "loupe"),
        minutes=6,
    ),
    BenchStep(
        id="washer_seated",
        title="Washer or wheel under the hour pipe in place",
        group="movement",
        why="Without it the hour wheel rises, and the hand with it.",
        how="The spring washer, dished side to the dial, or the small wheel under the 24-hour pipe: seen, seated.",
        wrong="It sticks to the dial that came off: look at the dial's back.",
        parts=("movement",),
        applies=lambda s: not s.arrived_stays,
        after=(*CHECKED, *CLEARED),
        question="Is it there, and seated?",
        place="hands",
        points="washer",
        tools=("tweezers", "loupe"),
        minutes=2,
    ),
)
