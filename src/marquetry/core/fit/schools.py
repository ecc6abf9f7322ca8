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
)
