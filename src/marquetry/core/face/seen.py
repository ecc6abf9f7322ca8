"""What of a watch is seen from the front: every part as it lies there, in mm and degrees from twelve."""

from dataclasses import dataclass

from marquetry.core.face.cut_windows import SeenCut
from marquetry.core.face.dress import Coat, Dress, Lume
from marquetry.core.face.hand_shapes import HandShape


@dataclass(frozen=True, slots=True)
class SeenCase:
    """The case: half its width, half its length lug to lug, half the gap between the lugs, mm."""

    coat: Coat
    outline: str
    radius: float
    reach: float
    between: float
    lugs: str
    has_guards: bool
    bar_axis: float
    bar_is_seen: bool


@dataclass(frozen=True, slots=True)
class SeenCrown:
    """The crown, its axis at `angle`: between two distances from the centre, and its radius, mm."""

    coat: Coat
    edge: str
    angle: float
    inner: float
    outer: float
    radius: float


@dataclass(frozen=True, slots=True)
class SeenRing:
    """A flat ring that is only coloured: the bezel's turning part, the case's collar, a spacer."""

    coat: Coat
    outer: float
    inner: float
    edge: str = ""


@dataclass(frozen=True, slots=True)
class SeenScale:
    """A ring with a scale on it: insert or chapter ring. `lume` fills its pip, the scale where so said."""

    coat: Coat
    outer: float
    inner: float
    scale: str
    print_colour: str
    pip: str = "none"
    lume: Lume | None = None
    scale_glows: bool = False
    turn: float = 0.0


@dataclass(frozen=True, slots=True)
class SeenMarker:
    """One marker: between two radii, mm; `height` above the face is 0 where it is printed."""

    shape: str
    angle: float
    inner: float
    outer: float
    width: float
    height: float
    colour: str
    lume: Lume | None
    words: str
    letters: str


@dataclass(frozen=True, slots=True)
class SeenWindow:
    """A window in the dial and what shows in it: at an angle and a radius, long and wide in mm."""

    name: str
    angle: float
    radius: float
    long: float
    wide: float
    frame: str
    shape: str
    disc: str
    print_colour: str


@dataclass(frozen=True, slots=True)
class SeenLine:
    """A line of print on the dial: its middle above the centre (below where negative), mm."""

    words: str
    up: float
    size: float
    letters: str


@dataclass(frozen=True, slots=True)
class SeenLogo:
    """A logo: its words above the centre (below where negative), mm; applied ones stand up from the dial."""

    words: str
    up: float
    size: float
    letters: str
    colour: str
    is_applied: bool


@dataclass(frozen=True, slots=True)
class SeenDial:
    """The dial as far as the ring leaves it open."""

    coat: Coat
    radius: float
    print_colour: str
    track: str
    track_radius: float
    markers: tuple[SeenMarker, ...]
    windows: tuple[SeenWindow, ...]
    lines: tuple[SeenLine, ...]
    inner_ring: float | None
    lume: Lume | None
    cuts: tuple[SeenCut, ...] = ()
    """What is cut into it here, with what shows there."""
    marks_colour: str = ""
    logo: SeenLogo | None = None


@dataclass(frozen=True, slots=True)
class SeenHand:
    """A hand lying `height` mm over the dial's face."""

    key: str
    shape: HandShape
    length: float
    width: float
    counterweight: str
    height: float
    colour: str
    edge: str
    finish: str
    lume: Lume | None


@dataclass(frozen=True, slots=True)
class SeenStrap:
    """Strap or bracelet: half its width at the case and thickness, mm."""

    coat: Coat
    surface: str
    half: float
    thickness: float
    stitching: str
    stitch_colour: str
    rows: int
    end_link: float
    buckle: str = "none"
    buckle_coat: Coat | None = None


@dataclass(frozen=True, slots=True)
class SeenFace:
    """The whole, part by part; None or empty where a part is not there.

    `disc` is the calendar disc's ground and print, `crystal` the crystal's radius, `opening` that of the hole
    the case leaves under it, mm.
    """

    case: SeenCase | None
    crown: SeenCrown | None
    bezel: SeenRing | None
    insert: SeenScale | None
    ring: SeenScale | None
    spacer: SeenRing | None
    dial: SeenDial | None
    hands: tuple[SeenHand, ...]
    crystal: float | None
    coating: str
    opening: float
    disc: tuple[str, str]
    strap: SeenStrap | None
    dress: Dress
    spacer_path: str = ""
    """Which spacer is seen through the crystal, by its path in the sheet."""

    @property
    def quiet(self) -> tuple[str, ...]:
        """The parts of which nobody said how they look: drawn quietly."""
        return self.dress.quiet()

    @property
    def reach(self) -> float:
        """How far anything but the strap reaches from the centre, mm."""
        ends = [14.0]
        if self.case:
            ends += [self.case.reach, self.case.radius + 0.5]
        if self.crown:
            ends.append(self.crown.outer)
        if self.bezel:
            ends.append(self.bezel.outer)
        return max(ends)
