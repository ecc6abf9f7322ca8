"""Words that several steps share, each following what is known of the watch or how the workshop works."""

from marquetry.core.bench.situation import Situation

EYES = "Eye protection on."
OLD_LUME = (
    "Old luminous paint may be radioactive: do not scrape, file or sand it; have it assessed, and follow local "
    "rules."
)
FUMES = "Air the room; keep solvent off thin paint and printed dials. Try it on the back first."
SPRINGS = "Springs and click balls fly: work in a tray, eye protection on."
GUARDS = {"gloves": "gloves", "cots": "finger_cots", "paper": "foil"}
RELEASES = {
    "lever": "Press the setting lever beside the stem down with a fine point, and draw the stem straight out.",
    "button": "Press the small button beside the stem with a fine point, and draw the stem straight out.",
    "screw": "Turn the setting screw back half a turn, try, then a quarter at a time until the stem comes. "
    "It must not be turned out: the yoke falls aside and the dial has to come off again.",
}
RELEASE_UNKNOWN = (
    "Find what lets the stem go first: a lever or a button is pressed; a screw is only turned back half a turn, "
    "then quarters, and never out."
)


def guard(s: Situation) -> tuple[str, ...]:
    """What the workshop puts between skin and part, as a consumable."""
    return (GUARDS[s.school("school_hands_off")],)


HANDLING = {
    "gloves": "Gloves on.",
    "cots": "Finger cots on thumb and two fingers.",
    "paper": "Paper or foil between finger and part, every time.",
}


def handling(s: Situation) -> str:
    """The same in a sentence."""
    return HANDLING[s.school("school_hands_off")]


def release(s: Situation) -> str:
    """How this movement lets its stem go."""
    return RELEASES.get(s.word("movement.stem_release"), RELEASE_UNKNOWN)


def release_caution(s: Situation) -> str:
    """What must not be done to it."""
    if s.word("movement.stem_release") == "screw":
        return "The setting screw must not be turned out."
    return ""


def donor(s: Situation) -> str:
    """The donors in words."""
    return ", ".join(sorted(set(s.from_donors.values()))) or "the donor"


CLOSINGS_OPENED = {
    "screw-in": "Back turned off with its wrench",
    "pressed": "Case knife into the back's notch, twisted until it lifts, a thumb on the far side",
    "screws": "The back's screws out, crosswise, into the tray",
}
CLOSINGS_CLOSED = {
    "screw-in": "By hand until it stops: no force. If it springs, the holder is proud.",
    "pressed": "Its notch over the stem, pressed home evenly by thumbs or press until it snaps all round.",
    "screws": "Flat all round, then its screws crosswise, a turn each, until they just bear.",
}
CLOSINGS_TIGHT = {
    "screw-in": "Wrench in its slots, pressed down, until metal meets metal",
    "pressed": "A nail round its edge: no gap anywhere",
    "screws": "Screws crosswise, a quarter turn each, until metal meets metal",
}
OPENERS = {"screw-in": ("back_wrench",), "pressed": ("back_knife",), "screws": ("screwdrivers",)}
CLOSERS = {"screw-in": ("back_wrench",), "pressed": ("back_press",), "screws": ("screwdrivers",)}


def closing(s: Situation) -> str:
    """How the case's back is held; most screw in, where nobody said."""
    told = s.word("case_back.closing")
    return told if told in OPENERS else "screw-in"
