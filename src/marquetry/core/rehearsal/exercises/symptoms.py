"""What a watch may complain of: its causes, how likely each is, and what looking and trying show.

Figures are a workshop's judgement, stated here and nowhere else: out of a hundred such complaints, so many
have this cause; of a hundred looks where it is the cause, so many show the sign.
"""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Cause:
    """What is wrong: its share of such complaints, 0 to 1, and what mends it."""

    key: str
    words: str
    share: float
    mend: str


@dataclass(frozen=True, slots=True)
class SymptomLook:
    """A look or a try: minutes it takes, how often its sign is seen for each cause, both answers in words.

    `harm` is how often it breaks something, 0 to 1, and `breaks` what.
    """

    key: str
    words: str
    minutes: int
    shows: Mapping[str, float]
    seen: str
    unseen: str
    harm: float = 0.0
    breaks: str = ""


@dataclass(frozen=True, slots=True)
class Symptom:
    """A complaint; `parts` are those that its drawing picks out."""

    key: str
    words: str
    parts: tuple[str, ...]
    causes: tuple[Cause, ...]
    looks: tuple[SymptomLook, ...]


SYMPTOMS = (
    Symptom(
        "rotor_scrapes", "The rotor scrapes: it is heard when the watch is turned.", ("movement", "case_back", "holder"),
        (
            Cause("screw", "The rotor's screw or bearing is loose", 0.30, "Firm its screw; nothing under its bearing."),
            Cause("back", "The back is too shallow", 0.30, "A deeper back, or less height under it."),
            Cause("tab", "A tab or the rim of the holder stands proud", 0.25, "The holder out, the tab filed or printed lower."),
            Cause("chip", "A chip lies on the movement", 0.15, "Back off, chip out with putty, look for its friends."),
        ),
        (
            SymptomLook("edge", "Lift the rotor's edge with a tweezer", 3, {"screw": 0.97, "back": 0.03, "tab": 0.03, "chip": 0.06}, "It tilts.", "It has no play to speak of."),
            SymptomLook("back_off", "Back off, and turn it", 4, {"screw": 0.90, "back": 0.02, "tab": 0.96, "chip": 0.95}, "It scrapes without the back too.", "Without the back it is silent."),
            SymptomLook("shine", "Look inside the back for a bright ring", 2, {"screw": 0.30, "back": 0.95, "tab": 0.02, "chip": 0.04}, "A bright ring.", "No mark."),
            SymptomLook("rim", "Look along the holder's rim", 3, {"screw": 0.04, "back": 0.02, "tab": 0.95, "chip": 0.05}, "Bright at one place.", "No mark on it."),
            SymptomLook("loupe", "The loupe round the bridge", 5, {"screw": 0.03, "back": 0.02, "tab": 0.04, "chip": 0.94}, "Something glitters.", "Clean."),
            SymptomLook("bend", "Bend the rotor up a little", 2, {"screw": 0.5, "back": 0.5, "tab": 0.5, "chip": 0.5}, "It scrapes less.", "It scrapes as before.", 0.8, "The bearing is bent now: a rotor is not a spring."),
        ),
    ),
    Symptom(
        "hand_stops", "The watch stops, always with the minute hand at the same place.", ("hands", "dial", "crystal"),
        (
            Cause("crossing", "Minute and hour hand touch where they meet", 0.35, "Lift the minute hand, press it to its shim again."),
            Cause("feature", "The minute hand touches something raised on the dial", 0.25, "Press it less deep, or another hand."),
            Cause("ring", "The minute hand's tip touches the ring", 0.20, "A shorter hand, or the tip dressed; the dial centred."),
            Cause("date", "The date's jump asks for more than the watch has", 0.20, "Wind it fully; the disc's spring looked at."),
        ),
        (
            SymptomLook("side", "Look from the side where it stands", 3, {"crossing": 0.93, "feature": 0.10, "ring": 0.04, "date": 0.04}, "It lies on the hand below.", "There is air between the hands."),
            SymptomLook("hour", "Is it the same at every hour?", 6, {"crossing": 0.05, "feature": 0.95, "ring": 0.94, "date": 0.02}, "At every hour, there.", "Only at some hours."),
            SymptomLook("low_light", "A low light along the dial", 3, {"crossing": 0.03, "feature": 0.94, "ring": 0.05, "date": 0.02}, "A fine scratch, and no shadow under the hand.", "The hand casts its whole shadow."),
            SymptomLook("tip", "The loupe at the tip", 3, {"crossing": 0.02, "feature": 0.06, "ring": 0.95, "date": 0.02}, "It meets the ring.", "It ends short of the ring."),
            SymptomLook("wind", "Wind it fully, let it run over midnight", 10, {"crossing": 0.10, "feature": 0.06, "ring": 0.06, "date": 0.92}, "It goes through.", "It stops as before."),
            SymptomLook("push", "Push the hand on with a finger", 1, {"crossing": 0.5, "feature": 0.5, "ring": 0.5, "date": 0.5}, "It goes on.", "It stops again.", 0.5, "The hand slipped on its post, and leans now."),
        ),
    ),
    Symptom(
        "crown_out", "The crown does not screw home.", ("crown", "stem", "case"),
        (
            Cause("long", "The stem is too long", 0.45, "Read the gap, file what is left."),
            Cause("seal", "The crown's seal is folded", 0.25, "Crown off, another seal, a trace of grease."),
            Cause("thread", "The tube's thread is dirty or worn", 0.20, "Clean it; a worn tube is replaced."),
            Cause("crossed", "Crown and stem are screwed askew", 0.10, "Two turns back, straight on again; else another stem."),
        ),
        (
            SymptomLook("gap", "Read the gap all round", 3, {"long": 0.95, "seal": 0.50, "thread": 0.30, "crossed": 0.06}, "An even gap.", "No gap, or one that is wider at one side."),
            SymptomLook("without", "Without the stem: does the crown screw home?", 6, {"long": 0.97, "seal": 0.04, "thread": 0.03, "crossed": 0.93}, "It screws home.", "It does not."),
            SymptomLook("inside", "The loupe into the crown", 4, {"long": 0.02, "seal": 0.96, "thread": 0.03, "crossed": 0.03}, "The seal is folded.", "The seal lies flat."),
            SymptomLook("brush", "Brush the tube's thread, and look", 4, {"long": 0.03, "seal": 0.04, "thread": 0.95, "crossed": 0.04}, "Dirt, or flattened turns.", "The thread is clean and sharp."),
            SymptomLook("runs", "Let the crown run on the stem by itself", 3, {"long": 0.03, "seal": 0.03, "thread": 0.03, "crossed": 0.95}, "It wobbles.", "It runs true."),
            SymptomLook("force", "A little harder", 1, {"long": 0.3, "seal": 0.5, "thread": 0.4, "crossed": 0.2}, "It goes a little further.", "It goes no further.", 0.7, "The tube's thread is stripped."),
        ),
    ),
    Symptom(
        "gap_under_ring", "A gap opens under the ring; the dial rattles.", ("chapter_ring", "dial", "holder"),
        (
            Cause("holder", "The back does not reach the holder", 0.40, "A higher rim, or a spacer under it."),
            Cause("foot", "A foot stands on the movement's ring", 0.25, "The dial off, the foot off or straight."),
            Cause("notch", "The ring's notch rides on its detent", 0.20, "The ring turned until it drops."),
            Cause("spacer", "A spacer was left out", 0.15, "The spacer of the sheet laid in."),
        ),
        (
            SymptomLook("even", "Is the gap even all round?", 2, {"holder": 0.94, "foot": 0.08, "notch": 0.10, "spacer": 0.95}, "Even all round.", "Wider at one side."),
            SymptomLook("press", "Press the holder up by hand", 3, {"holder": 0.95, "foot": 0.05, "notch": 0.06, "spacer": 0.80}, "The gap closes.", "It stays."),
            SymptomLook("feet", "The dial off its movement: look at the feet", 8, {"holder": 0.02, "foot": 0.96, "notch": 0.02, "spacer": 0.02}, "A foot is bent, or bright at its end.", "The feet are straight."),
            SymptomLook("ring", "Turn the ring a hair", 3, {"holder": 0.03, "foot": 0.04, "notch": 0.95, "spacer": 0.03}, "It drops.", "Nothing drops."),
            SymptomLook("tube", "Look through the tube at the stem", 4, {"holder": 0.06, "foot": 0.10, "notch": 0.05, "spacer": 0.95}, "The stem stands beside its middle.", "The stem is in the middle."),
            SymptomLook("clamp", "Screw the back on and let it pull", 2, {"holder": 0.2, "foot": 0.4, "notch": 0.3, "spacer": 0.2}, "The gap is smaller.", "It is the same.", 0.6, "The dial is bent over what it stands on."),
        ),
    ),
    Symptom(
        "grinds", "The wheels grind when the hands are set.", ("movement", "dial"),
        (
            Cause("post", "The centre post was pulled up with a hand", 0.35, "Press it down on a rest, dial off."),
            Cause("washer", "The washer under the hour wheel is missing or turned over", 0.30, "Dial off, the washer in, its hollow the right way."),
            Cause("chip", "A chip lies between the wheels", 0.20, "Stop; dial off, chip out."),
            Cause("stem", "The stem is not all the way in", 0.15, "Push it home until it clicks; its screw back."),
        ),
        (
            SymptomLook("hands", "Do the hands follow the crown at once?", 2, {"post": 0.08, "washer": 0.60, "chip": 0.85, "stem": 0.06}, "At once.", "They lag, or skip."),
            SymptomLook("play", "Lift the hour hand's boss a hair", 3, {"post": 0.30, "washer": 0.96, "chip": 0.05, "stem": 0.04}, "It goes up and down.", "It has no play."),
            SymptomLook("height", "Read the minute post against its sheet", 6, {"post": 0.96, "washer": 0.03, "chip": 0.03, "stem": 0.02}, "It stands too high.", "It stands as it should."),
            SymptomLook("home", "Push the stem home, and listen", 2, {"post": 0.03, "washer": 0.03, "chip": 0.03, "stem": 0.95}, "It clicks.", "It is home already."),
            SymptomLook("place", "Is it at one place of every turn?", 4, {"post": 0.06, "washer": 0.08, "chip": 0.94, "stem": 0.10}, "At one place of each turn.", "All the way round."),
            SymptomLook("on", "Turn on until it frees itself", 1, {"post": 0.2, "washer": 0.2, "chip": 0.4, "stem": 0.3}, "It turns easier.", "It grinds on.", 0.75, "Teeth are gone: a wheel that grinds is never turned on."),
        ),
    ),
)  # fmt: skip
