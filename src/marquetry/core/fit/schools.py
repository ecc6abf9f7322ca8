"""Schools: where good builders disagree the workshop chooses its own way; each choice has its reason."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to work, and why."""

    key: str
    label: str
    reason: str


@dataclass(frozen=True, slots=True)
class School:
    """A question on which builders disagree. `key` is its name among the rules."""

    key: str
    label: str
    choices: tuple[Choice, ...]


SCHOOLS: tuple[School, ...] = (
    School(
        "school_height",
        "Missing height",
        (
            Choice(
                "spacer_dial", "Spacer on the dial side", "Seen as a fine ring; the hands are not affected."
            ),
            Choice(
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
            Choice(
                "pads", "Adhesive pads", "Quick; the dial is aligned to the stem, and can shift in the heat."
            ),
            Choice("new_holes", "New holes in the movement's ring", "Lasting; rotor off, chips kept out."),
            Choice("adapter", "A printed adapter", "Nothing is cut; it takes height."),
            Choice("other_dial", "Another dial", "Nothing is made; it has to be found."),
        ),
    ),
    School(
        "school_calendar",
        "A calendar the dial does not show",
        (
            Choice("leave_calendar", "Leave it", "Nothing to do; one crown position does nothing."),
            Choice(
                "strip_calendar",
                "Take the disc and its parts off",
                "Less height and drag; the parts are kept.",
            ),
            Choice("movement_without_calendar", "A movement without", "Clean; a dearer part."),
        ),
    ),
)
SCHOOL_BY_KEY = {school.key: school for school in SCHOOLS}
