"""Casing up: movement and dial into the case, upright, held, the rotor free."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import release, release_caution
from marquetry.core.values.figures import figure

HOLDERS = {
    "straight": "The holder goes straight on over the rotor.",
    "tilted": "Tilted: one side first, turn the rotor over that tab, then let the other side down.",
    "rotor_off": "Rotor off first: tabs stand all round. Then the holder, then the rotor on again.",
}
HOLDINGS = {
    "case screws": "Case screws with their clamps over the movement's edge, in turn, until they just bear.",
    "clamps": "Clamps over the movement's edge, turned in until they just bear.",
    "cement": "A drop of soft cement between holder and movement, at two places, away from stem and rotor; it sets "
    "before the case is turned.",
    "holder pressed by the back": "Held by its holder once the back is closed: until then keep it face down.",
}


def _cased(s: Situation) -> str:
    held = HOLDINGS.get(s.word("case.holding"), "")
    return f"Case over the dial from above, then turn both over together. {held}".strip()


def _holder(s: Situation) -> str:
    way = (
        HOLDERS.get(s.issue("holder_on"), HOLDERS["straight"])
        if s.has_rotor
        else "The holder goes straight on."
    )
    return f"{way} Down until its rim is level with the back."


def _clamp(s: Situation) -> tuple[str, str] | None:
    found = s.report.findings["holder_clamp"].value
    return None if found is None else ("Clamp", figure(found, 2, "mm"))


def _spacer(s: Situation) -> tuple[str, str] | None:
    path = next((f"spacers.{k}.thickness" for k in s.spacers("dial")), "")
    found = s.build.dimensions.get(path)
    return ("Spacer", figure(found.value, 2, "mm")) if found else None


def _square_waits(s: Situation) -> tuple[str, ...]:
    return ("dial_square",) if s.has("holder") else ()


STEPS = (
    BenchStep(
        id="set_spacer_dial",
        title="Set the spacer on the dial's edge",
        group="casing",
        why="It lowers dial and movement together, so that the stem meets its tube.",
        how="Into the case first, flat on its seat; or on the dial's edge, held by a trace of grease.",
        wrong="It drops askew under the dial: look through the crystal before turning over.",
        applies=lambda s: bool(s.spacers("dial")),
        after=("open_case", "look_over_case", "press_crystal"),
        shows=("spacers",),
        figure=_spacer,
        tools=("tweezers",),
        minutes=3,
    ),
    BenchStep(
        id="dust_case",
        title="Dust out of the case",
        group="casing",
        why="The inside of the crystal is closed in now.",
        how="Blower, putty on the crystal's inside, low light from the side; then straight on.",
        wrong="It is dusted, then left open: nothing between this and the next step.",
        parts=("case",),
        after=("open_case", "look_over_case", "finish_case", "crystal_seated", "seat_ring"),
        shows=("crystal", "case"),
        tools=("blower", "loupe", "dust_cover"),
        consumables=("cleaning_putty",),
        caution="A can of compressed air spits its liquid: use a hand blower.",
        minutes=4,
    ),
    BenchStep(
        id="stem_out",
        title="Stem out, released no further than it needs",
        group="casing",
        why="The movement goes into the case without it.",
        how=release,
        caution=release_caution,
        wrong="Released too far, the works under the dial fall aside: stop as soon as it comes.",
        parts=("stem",),
        after=("hands_round", "look_over_dial"),
        place="release",
        tools=("screwdrivers", "loupe"),
        minutes=2,
    ),
    BenchStep(
        id="case_up",
        title="Case it up",
        group="casing",
        why="From here on everything is looked at through the crystal.",
        how=_cased,
        wrong="A hand touches the ring on its way: case over the dial, not the dial into the case.",
        parts=("case", "movement"),
        after=("dust_case", "clean_dial_and_hands", "stem_out", "set_spacer_dial"),
        gates=("hands_round", "look_over_dial", "crystal_seated", "look_over_case"),
        shows=("movement", "dial", "case"),
        minutes=4,
    ),
    BenchStep(
        id="turn_to_tube",
        title="Turn the stem's hole to the tube",
        group="casing",
        why="A stem pushed in askew bends.",
        how="Look through the tube: the hole in its middle, light behind.",
        wrong="The dial turns and the movement does not: both together, by the movement's edge.",
        parts=("case", "movement"),
        after=("case_up",),
        place="stem",
        points="axis",
        tools=("loupe", "pegwood"),
        minutes=3,
    ),
    BenchStep(
        id="dial_square",
        title="Dial square in the case",
        group="casing",
        why="It can be turned now; under the holder it cannot.",
        how="Twelve under the lugs' middle, six opposite, ring and dial in one line.",
        wrong="Judged through the crystal's edge: straight from above.",
        parts=("case", "dial"),
        after=("case_up", "turn_to_tube"),
        question="Twelve in the middle, ring and dial in one line?",
        place="front",
        minutes=2,
    ),
    BenchStep(
        id="fit_holder",
        title="Fit the holder",
        group="casing",
        why="It keeps the movement from moving when the crown is worked.",
        how=_holder,
        wrong="It rides on a tab and stands proud: the back will press on it askew.",
        parts=("holder",),
        after=("case_up", "turn_to_tube"),
        gates=_square_waits,
        shows=("holder",),
        figure=_clamp,
        minutes=4,
    ),
    BenchStep(
        id="rotor_free",
        title="Rotor free",
        group="casing",
        why="What rubs now grinds dust into the works.",
        how="Turn the watch slowly in every position: the rotor runs by itself, without a sound.",
        wrong="It rubs in one position only: face up, face down, all four sides.",
        parts=("case", "movement"),
        applies=lambda s: s.has_rotor,
        after=("case_up", "fit_holder"),
        question="Does it run free in every position?",
        shows=("rotor", "movement", "case_back"),
        tells=("rotor_clearance",),
        minutes=2,
    ),
)
