"""The stem: tried, read, cut by its ledger, dressed, the crown proved and locked."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep, Curing
from marquetry.core.bench.steps.wording import EYES
from marquetry.core.values.figures import figure

CUTTING = {
    "once": "The calculated cut, marked from the end, all at once; its reserve stays and is filed.",
    "creep": "The calculated cut, no more; then in again, read the gap, cut again. Each cut is smaller than the last.",
    "eye": "By eye, short of the mark: the ledger counts with a wide doubt, so more stays to be filed.",
}
HOME = "Stem pushed home; crown screwed home to the bottom of its bore"
SHORT = "A crown that will not go home: count the turns it stands short, and tell them."
READING = {
    "once": f"{HOME}; the gap from crown to tube's end by caliper: twice. {SHORT}",
    "creep": f"After every cut: {HOME[:1].lower()}{HOME[1:]}; the gap from crown to tube's end by caliper. {SHORT}",
    "eye": f"{HOME}; look at the gap with the loupe beside a steel rule; a caliper's figure is better.",
}
DRESSING = {
    "once": "Reserve off with the file, a stroke at a time, end flat, burr taken off; the thread starts cleanly.",
    "creep": "End flat and burr off after each cut, so that the crown goes on every time.",
    "eye": "File to length, a stroke at a time, trying the crown; end flat, burr off.",
}
LOCKS = {
    "threadlocker": "A drop of low-strength threadlocker in the crown, screw it on, hold it for a minute.",
    "soft_cement": "A drop of soft cement on the thread; it can be undone by hand.",
    "none": "",
}
WIPES = {
    "threadlocker": "Wipe what came out at the crown, before it reaches the tube.",
    "soft_cement": "Take off what came out with a wooden stick while it is soft.",
    "none": "",
}
LOCK_MINUTES = {"threadlocker": 20, "soft_cement": 60, "none": 0}
SEATED = {
    "threadlocker": "Once it has set: stem in for good, pull to feel that it holds, screw the crown home.",
    "soft_cement": "Once it is hard: stem in for good, pull to feel that it holds, screw the crown home.",
    "none": "Crown tight on its stem, stem in for good, pull to feel that it holds, screw the crown home.",
}
CUT_CAUTION = f"{EYES} What is cut off flies: cut inside a bag or a cloth."
NEEDED = ("stem", "crown")


def _cut(s: Situation) -> tuple[str, str] | None:
    return None if s.stem.start is None else ("To come off", figure(s.stem.start.r, 2, "mm"))


STEPS = (
    BenchStep(
        id="trial_stem",
        title="Try the stem",
        group="stem",
        why="It tells whether stem and tube meet before anything is cut.",
        how="Stem in, without its crown: straight through the tube, home with a click, drawn and pushed.",
        wrong="It has to be bent to enter: the height is wrong. Stop, and look at the section.",
        parts=("stem",),
        after=("case_up", "turn_to_tube"),
        gates=lambda s: () if s.has("holder") else ("dial_square",),
        place="stem",
        points="axis",
        tells=("stem_height",),
        minutes=3,
    ),
    BenchStep(
        id="measure_gap",
        title="Measure the gap",
        group="stem",
        why="What stands out between crown and tube is what must come off.",
        how=lambda s: READING[s.school("school_stem")],
        wrong="The crown was not screwed home, or the stem not pushed home: it reads too much, and "
        "that much too much is cut. Both home, then read again.",
        parts=NEEDED,
        after=("trial_stem",),
        place="stem",
        points="gap",
        entry="gap",
        figure=_cut,
        tools=("caliper",),
        minutes=4,
    ),
    BenchStep(
        id="cut_stem",
        title="Cut the stem",
        group="stem",
        why="Too long, the crown stands off and the seal is loose. Too short, it is scrap.",
        how=lambda s: CUTTING[s.school("school_stem")],
        wrong="Measured from the wrong end: the thread's end is cut, never the end in the movement.",
        parts=("stem",),
        applies=lambda s: s.cuts_stem,
        after=("measure_gap", "trial_stem"),
        gates=("check_movement",),
        caution=CUT_CAUTION,
        place="stem",
        entry="cut",
        figure=_cut,
        tools=("stem_cutter", "pin_vice", "eye_protection"),
        minutes=6,
    ),
    BenchStep(
        id="dress_stem_end",
        title="Dress the stem's end",
        group="stem",
        why="A burr ruins the crown's thread.",
        how=lambda s: DRESSING[s.school("school_stem")],
        wrong="A rounded end starts askew: flat first, then break the edge.",
        parts=("stem",),
        applies=lambda s: s.cuts_stem,
        after=("cut_stem",),
        gates=("check_movement",),
        caution=f"{EYES} Filings away from the open watch.",
        place="stem",
        entry="file",
        tools=("fine_file", "pin_vice"),
        consumables=("abrasive_paper",),
        minutes=5,
    ),
    BenchStep(
        id="crown_works",
        title="Crown works in every position",
        group="stem",
        why="Once its thread is locked nothing can be changed.",
        how="Wind, quick-set, set; push home. A screwed crown goes home with no gap and comes back by itself.",
        wrong="It springs back before it is home: a trace too long. Read the gap again.",
        parts=("crown",),
        after=("trial_stem", "measure_gap", "cut_stem", "dress_stem_end", "crown_seal"),
        question="Every position, and home without a gap?",
        place="positions",
        minutes=3,
    ),
    BenchStep(
        id="lock_thread",
        title="Lock the crown's thread",
        group="stem",
        why="An unlocked crown comes off in the wearer's fingers.",
        how=lambda s: LOCKS[s.school("school_lock")],
        wrong="Too early: a locked crown comes off only with heat. Only after the last trial.",
        parts=NEEDED,
        applies=lambda s: s.school("school_lock") != "none",
        after=("crown_works",),
        gates=("crown_works",),
        caution="Fumes, and skin: a drop, in an aired room.",
        place="crown",
        points="drop",
        tools=("pin_vice",),
        consumables=lambda s: (s.school("school_lock"),),
        minutes=3,
        curing=Curing(
            lambda s: "Threadlocker sets" if s.school("school_lock") == "threadlocker" else "Cement hardens",
            lambda s: LOCK_MINUTES[s.school("school_lock")],
            ("seat_crown",),
        ),
    ),
    BenchStep(
        id="wipe_excess",
        title="Wipe the excess",
        group="stem",
        why="What creeps into the tube glues the crown to the case.",
        how=lambda s: WIPES[s.school("school_lock")],
        wrong="Wiped towards the tube: away from it.",
        parts=NEEDED,
        applies=lambda s: s.school("school_lock") != "none",
        after=("lock_thread",),
        place="crown",
        points="wipe",
        tools=("pegwood",),
        minutes=2,
    ),
    BenchStep(
        id="seat_crown",
        title="Seat the crown",
        group="stem",
        why="The watch is whole only with its stem in.",
        how=lambda s: SEATED[s.school("school_lock")],
        wrong="Not pushed home, it comes out at the first setting: pull to feel.",
        parts=("crown",),
        after=("crown_works", "wipe_excess"),
        place="crown",
        points="pull",
        minutes=2,
    ),
)
