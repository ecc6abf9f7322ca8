"""What may be wrong in a section, and what might be done about it: two tables, one line a thing."""

from dataclasses import dataclass

from marquetry.core.rehearsal.exercises.spacer import DEPTHS


@dataclass(frozen=True, slots=True)
class SectionFault:
    """What is wrong: a dimension brought so far that a check is beyond one of its limits, by so much, mm."""

    check: str
    path: str
    beyond: tuple[float, float]
    is_over: bool = False
    why: str = ""
    also: tuple[str, ...] = ()
    """Dimensions that go with it, by as much."""


FAULTS = (
    SectionFault("hand_stack", "case.seat_to_crystal", (0.02, 0.05), why="The seconds hand meets the crystal: it stops where it passes under the dome's edge."),
    SectionFault("rotor_clearance", "case_back.inner_recess", (0.25, 0.45), why="The rotor runs on the back: it is heard, and the watch does not wind."),
    SectionFault("stem_height", "movement.face_to_stem", (0.22, 0.36), is_over=True, why="The stem runs askew through its tube: the crown binds, and the stem bends.", also=DEPTHS),
    SectionFault("holder_clamp", "holder.face_to_rim", (0.15, 0.40), why="The back does not reach the holder: a gap opens under the ring, and the dial rattles."),
    SectionFault("crystal_proud", "crystal.edge_thickness", (0.25, 0.60), is_over=True, why="The crystal stands far out of the insert: the first door frame finds it."),
    SectionFault("stem_cut", "stem.length", (0.40, 1.50), why="The stem is too short before anything was cut: the crown never seats."),
)  # fmt: skip
"""One a seed; each is a clash that is seen in section."""


@dataclass(frozen=True, slots=True)
class Mend:
    """Something that could be done: a dimension more or less by so much, mm, or a spacer on the dial side."""

    key: str
    words: str
    path: str
    by: float


SPACERS = "spacers"
MENDS = (
    Mend(
        "flange",
        "A crystal gasket with a flange 0.40 mm thick under the crystal",
        "crystal_gasket.flange",
        0.40,
    ),
    Mend("dome", "A crystal with half a millimetre more inner dome", "crystal.inner_dome", 0.50),
    Mend("back", "A back that is 0.60 mm deeper inside", "case_back.inner_recess", 0.60),
    Mend("spacer", "A spacer of 0.40 mm on the dial side", SPACERS, 0.40),
    Mend("rim", "A holder with a rim 0.40 mm higher", "holder.face_to_rim", 0.40),
    Mend("low_rim", "The holder's rim filed down by 0.40 mm", "holder.face_to_rim", -0.40),
    Mend("edge", "A crystal with an edge 0.60 mm thinner", "crystal.edge_thickness", -0.60),
    Mend("stem", "A stem that is 2.00 mm longer", "stem.length", 2.00),
    Mend("dial", "A dial 0.15 mm thinner", "dial.thickness", -0.15),
    Mend("hand", "A minute hand 1.00 mm shorter", "hands.minute.length", -1.00),
)
