"""Schools: where good builders disagree the workshop chooses its own way; each choice has its reason."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Practice:
    """One way to work, and why."""

    key: str
    label: str
    reason: str


@dataclass(frozen=True, slots=True)
class School:
    """A question on which builders disagree. `key` is its name among the rules."""

    key: str
    label: str
    practices: tuple[Practice, ...]


SCHOOLS: tuple[School, ...] = (
    School(
        "school_height",
        "Missing height",
        (
            Practice(
                "spacer_dial", "Spacer on the dial side", "Seen as a fine ring; the hands are not affected."
            ),
            Practice(
                "spacer_movement",
                "Spacer behind the dial",
                "Hidden; feet engage less, posts stand lower, so hands need longer pipes.",
            ),
        ),
    ),
    School(
        "school_feet",
        "Feet that miss their holes",
        (
            Practice(
                "pads", "Adhesive pads", "Quick; the dial is aligned to the stem, and can shift in the heat."
            ),
            Practice("new_holes", "New holes in the movement's ring", "Lasting; rotor off, chips kept out."),
            Practice("adapter", "A printed adapter", "Nothing is cut; it takes height."),
            Practice("other_dial", "Another dial", "Nothing is made; it has to be found."),
        ),
    ),
    School(
        "school_calendar",
        "A calendar the dial does not show",
        (
            Practice("leave_calendar", "Leave it", "Nothing to do; one crown position does nothing."),
            Practice(
                "strip_calendar",
                "Take the disc and its parts off",
                "Less height and drag; the parts are kept.",
            ),
            Practice("movement_without_calendar", "A movement without", "Clean; a dearer part."),
        ),
    ),
    School(
        "school_order",
        "Order of work",
        (
            Practice(
                "movement_first",
                "Movement, dial and hands first",
                "The fine work is done while the table is clean; the case comes to it closed and dusted.",
            ),
            Practice(
                "case_first",
                "The case first, from the outside in",
                "Crystal and bezel are pressed before anything delicate lies about; what chips, chips alone.",
            ),
        ),
    ),
    School(
        "school_stem",
        "Shortening the stem",
        (
            Practice(
                "once",
                "Caliper the gap, cut once with a reserve",
                "One cut, one burr; the reserve is reckoned from the doubt, the rest is filed.",
            ),
            Practice(
                "creep",
                "Creep up in shrinking steps",
                "Nothing hangs on one reading; more cuts, more fitting, more burrs.",
            ),
            Practice(
                "eye",
                "By eye",
                "Quick, and not advised: the cut is six times as doubtful, so more is left to file.",
            ),
        ),
    ),
    School(
        "school_lock",
        "Crown on the stem",
        (
            Practice(
                "threadlocker",
                "Threadlocker, low strength",
                "Holds for good; comes off only with heat. After the last trial fit.",
            ),
            Practice(
                "soft_cement", "A soft cement", "Can be undone by hand; holds less. After the last trial fit."
            ),
            Practice("none", "Nothing", "Screwed tight and left; may turn loose when the crown is used."),
        ),
    ),
    School(
        "school_crystal",
        "Pressing the crystal",
        (
            Practice("cold", "Cold", "Nothing is heated; the gasket gives what is needed."),
            Practice(
                "warm_case",
                "Case warmed, crystal cooled",
                "Gains a few hundredths at most (α·Ø·ΔT, told at the press support); seals must be out.",
            ),
        ),
    ),
    School(
        "school_hands_off",
        "Between skin and part",
        (
            Practice("gloves", "Gloves", "The whole hand is covered; thick ones cost feeling."),
            Practice("cots", "Finger cots", "Thumb and two fingers covered; fits any hand."),
            Practice("paper", "Paper and foil", "Nothing worn; a slip of paper or foil under every touch."),
        ),
    ),
    School(
        "school_listed",
        "What a seller's figure is worth",
        (
            Practice(
                "claimed", "What the seller claims", "Its own tolerance, or the usual one where none is told."
            ),
            Practice(
                "learned",
                "What it was worth so far",
                "The tolerance that this seller's figures of that kind have earned where they were measured.",
            ),
        ),
    ),
)
