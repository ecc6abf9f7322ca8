"""The case: opened, finished, ring and crystal in, bezel on, the crown's seal in."""

from collections.abc import Callable

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import CLOSINGS_OPENED, EYES, OPENERS, SPRINGS, closing
from marquetry.core.values.figures import figure

RING_WORDS = {
    "": "Notch over the case's detent, then down flat all round; it must not turn.",
    "notch_without_detent": "The ring has a notch and the case no detent: a spot of thin tape at its back keeps "
    "it from turning. Set it upright by the dial's mark.",
    "detent_unused": "The case has a detent and the ring no notch: take the detent off flush, dust kept out, or "
    "the ring rides on it.",
    "nib_without_recess": "The ring has a nib and the case no recess: file the nib off the ring, dust kept out, and hold "
    "it with a spot of thin tape at its back. Set it upright by the dial's mark.",
    "pin_without_notch": "The case has a pin and the ring no notch over it: file a notch into the ring, never the case, "
    "dust kept out; then down flat all round.",
    "ring_unlocated": "Neither notch nor detent: set it by eye, upright, a spot of thin tape at its back.",
}
OPENED = ("open_case", "look_over_case")
RING_UNKNOWN = (
    "Look for a notch in the ring and a detent in the case first: they belong together. Then flat all round."
)
PRESSED = {
    "cold": "Die over the crystal's edge, support under the case, square; press slowly in one go until it lies on.",
    "warm_case": "Case warmed on the plate, crystal cooled in its bag: then quickly, die and support square, in "
    "one go. It gains hundredths, no more.",
}


def _ring_words(s: Situation) -> str:
    issue = s.issue("ring_notch")
    return RING_WORDS[issue] if issue or s.clear("ring_notch") else RING_UNKNOWN


def _press_caution(s: Situation) -> str:
    hot = (
        " Warm case: no cells, no plastics near the heat."
        if s.school("school_crystal") == "warm_case"
        else ""
    )
    return f"{EYES} Glass under a press may burst; a cloth over it.{hot}"


def _squeeze(s: Situation) -> tuple[str, str] | None:
    found = s.report.findings["crystal_squeeze"].value
    return None if found is None else ("Squeeze", figure(found, 1, "%"))


LOOKED_AT = {
    "crystal": "crystal seated level, gasket even, no chip",
    "chapter_ring": "ring upright and flat",
    "bezel": "bezel turns and clicks evenly",
    "bezel_insert": "insert straight and flat",
    "crown": "crown screws home, its seal in its bore",
}
"""What is looked at of each part that came on the case."""
GASKETS_LOOKED_AT = "gaskets there and whole"


def _fits(part: str) -> Callable[[Situation], bool]:
    """Whether the part is fitted here, rather than come on the case."""
    return lambda s: s.to_fit(part)


def _arrived(s: Situation) -> list[str]:
    return [words for part, words in LOOKED_AT.items() if part in s.assembled]


def _looked_over(s: Situation) -> str:
    told = "; ".join((*_arrived(s), GASKETS_LOOKED_AT))
    return f"Loupe, low light, one after another: {told}."


STEPS = (
    BenchStep(
        id="open_case",
        title="Open the case",
        group="case",
        why="Back, gaskets, crown and film come off before anything is pressed.",
        how=lambda s: (
            f"{CLOSINGS_OPENED[closing(s)]}; gaskets out and bagged, crown out, protective film off all surfaces "
            "that will be hidden."
        ),
        wrong="Film left under the bezel lifts it: look along every edge.",
        parts=("case",),
        after=("lay_out_parts",),
        shows=("case", "case_back", "back_gasket"),
        tools=lambda s: (*OPENERS[closing(s)], "tray"),
        minutes=4,
    ),
    BenchStep(
        id="look_over_case",
        title="Look the case over as it came",
        group="case",
        why="Whoever assembled it was not you: what is wrong with it shows now, and is the seller's.",
        how=_looked_over,
        wrong="A gasket left out at the maker's leaks at the first test: look into every groove.",
        parts=("case",),
        applies=lambda s: bool(_arrived(s)),
        after=("open_case",),
        question=lambda s: f"{', '.join((*_arrived(s), GASKETS_LOOKED_AT))}: all in order?".capitalize(),
        shows=("case", "crystal", "bezel"),
        tools=("loupe",),
        minutes=4,
    ),
    BenchStep(
        id="finish_case",
        title="Brush the case",
        group="case",
        why="Once crystal and bezel are in, no edge is free.",
        how="Along lug, round ring, across back: one direction each, tape over what stays polished.",
        wrong="Grit goes into the tube and the thread: plug both first.",
        parts=("case",),
        applies=lambda s: s.flag("case.refinish"),
        after=(*OPENED,),
        place="front",
        consumables=("abrasive_pad",),
        caution="Metal dust: wet, or with a mask; wash the case before anything goes in.",
        minutes=40,
    ),
    BenchStep(
        id="seat_ring",
        title="Seat the chapter ring",
        group="case",
        why="The crystal locks it: what is crooked now stays so.",
        how=_ring_words,
        wrong="A ring a degree off is seen for ever: compare it with the crown's axis and the lugs.",
        parts=("case", "chapter_ring"),
        applies=_fits("chapter_ring"),
        after=(*OPENED, "finish_case"),
        shows=("chapter_ring",),
        tools=("tweezers", "loupe"),
        minutes=4,
    ),
    BenchStep(
        id="crystal_side",
        title="Which face of the crystal is inside?",
        group="case",
        why="The coating belongs inside unless the seller says otherwise; a dome only goes one way.",
        how="Breath on each face, or a lamp's reflection: the coloured one is coated. Mark the outside with tape.",
        wrong="Turned over while wiping: the tape stays on until it is pressed.",
        parts=("crystal",),
        applies=_fits("crystal"),
        after=(*OPENED,),
        question="Are you sure which face goes inside?",
        points="inside",
        consumables=("cleaning_putty",),
        minutes=3,
    ),
    BenchStep(
        id="press_crystal",
        title="Press the crystal",
        group="case",
        why="It holds the gasket, and the gasket keeps the water out.",
        how=lambda s: PRESSED[s.school("school_crystal")],
        wrong="It starts crooked: out again at once. Forced straight, it chips at its edge.",
        parts=("case", "crystal"),
        applies=_fits("crystal"),
        after=("look_over_case", "seat_ring", "crystal_side", "finish_case"),
        gates=("check_movement", "crystal_side"),
        caution=_press_caution,
        points="press",
        shows=("crystal", "crystal_gasket"),
        figure=_squeeze,
        tools=("crystal_press",),
        minutes=8,
    ),
    BenchStep(
        id="crystal_seated",
        title="Crystal seated and level",
        group="case",
        why="A crystal proud on one side leaks there.",
        how="Straight edge across, four ways; gasket seen even all round, from inside, with the loupe.",
        wrong="A gasket pinched out shows as a bright line: out and anew, with another gasket.",
        parts=("case", "crystal"),
        applies=_fits("crystal"),
        after=("press_crystal",),
        question="Level four ways, gasket even all round?",
        shows=("crystal", "crystal_gasket"),
        tools=("loupe",),
        tells=("crystal_squeeze",),
        minutes=3,
    ),
    BenchStep(
        id="grease_click",
        title="Grease the click",
        group="case",
        why="Dry springs wear through the bezel's teeth.",
        how="A trace on springs or ball; leaf springs bent up a little where the click is weak.",
        wrong="Too much creeps out at the edge: wipe, then a trace.",
        parts=("bezel",),
        applies=_fits("bezel"),
        after=(*OPENED, "finish_case"),
        place="insert",
        tools=("tweezers",),
        consumables=("gasket_grease",),
        caution=SPRINGS,
        minutes=4,
    ),
    BenchStep(
        id="fit_bezel",
        title="Fit the bezel",
        group="case",
        why="It goes over the crystal's edge, so after it.",
        how="Level over its seat, thumbs across, until it snaps all round.",
        wrong="One side in, one out: lift it with a blade wrapped in tape, never by the crystal.",
        parts=("bezel",),
        applies=_fits("bezel"),
        after=("look_over_case", "press_crystal", "crystal_seated", "grease_click"),
        shows=("bezel",),
        place="insert",
        caution="A blade slips: away from the other hand.",
        minutes=4,
    ),
    BenchStep(
        id="bezel_turns",
        title="Bezel turns and clicks",
        group="case",
        why="Under its insert nothing can be mended.",
        how="Once right round: even clicks, no lift, no scrape.",
        wrong="It lifts where a spring stands proud: feel for it with a fingernail.",
        parts=("bezel",),
        applies=_fits("bezel"),
        after=("fit_bezel",),
        question="Even all round, and it does not lift?",
        place="insert",
        tells=("bezel_on_case",),
        minutes=2,
    ),
    BenchStep(
        id="crown_seal",
        title="Seal in the crown",
        group="case",
        why="The tiny ring is left out more often than any other part.",
        how="Look into the crown's bore: seal there, whole, a trace of grease.",
        wrong="It stayed in the donor's crown, or on its tube.",
        parts=("crown",),
        applies=_fits("crown"),
        after=(*OPENED,),
        shows=("crown",),
        tools=("tweezers", "loupe"),
        consumables=("gasket_grease",),
        place="crown",
        points="seal",
        minutes=2,
    ),
)  # fmt: skip
