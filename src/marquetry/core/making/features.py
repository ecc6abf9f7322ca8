"""What a made part may have or not: what each feature does, what it costs, and what it begins with."""

from collections.abc import Callable
from dataclasses import dataclass

from marquetry.core.fit.checks.tabs import RECESSES
from marquetry.core.making import adapter_rows, support_rows
from marquetry.core.making import size_rows as by
from marquetry.core.making.proposals import SizeRow
from marquetry.core.sheet.build import Build

RowsOf = Callable[[Build, str], tuple[SizeRow, ...]]


@dataclass(frozen=True, slots=True)
class MadeFeature:
    """Something of a part that can be there or not. `entries` are its fields below the part.

    `does` and `costs` say what it is good for and what it takes; `rows` what it begins with.
    """

    key: str
    label: str
    does: str
    costs: str
    entries: tuple[str, ...]
    rows: RowsOf
    present: RowsOf | None = None
    """The rows of what is there already, where those are others than the rows it begins with."""
    again: Callable[[Build], bool] = lambda _build: False
    """Whether one more of it can be added: a second tab where another recess waits."""
    more: str = ""
    more_words: str = ""
    """What the button for one more says, and what that does."""

    def rows_present(self, build: Build, path: str) -> tuple[SizeRow, ...]:
        """Where the sizes come from that the feature has while it is on."""
        return (self.present or self.rows)(build, path)


def fixed(rows: tuple[SizeRow, ...]) -> RowsOf:
    """The same rows for every watch."""
    return lambda _build, _path: rows


def _tab_rows(build: Build, _: str) -> tuple[SizeRow, ...]:
    """One tab more, in the next recess that no tab is near; where none is described, a usual one."""
    taken = (
        {_nearest(build, tab) for tab in range(build.count("holder.tabs"))} if build.count(RECESSES) else ()
    )
    free = (recess for recess in range(build.count(RECESSES)) if recess not in taken)
    return by.tab_rows(build.count("holder.tabs"), next(free, 0))


def _tabs_there(build: Build, _: str) -> tuple[SizeRow, ...]:
    """Each tab that is there, made for the recess that is nearest to it."""
    if not build.count(RECESSES):
        return ()
    return tuple(
        row for tab in range(build.count("holder.tabs")) for row in by.tab_rows(tab, _nearest(build, tab))
    )


def _nearest(build: Build, tab: int) -> int:
    place = build.dimensions.get(f"holder.tabs.{tab}.angle")

    def off(recess: int) -> float:
        found = build.dimensions.get(f"movement.recesses.{recess}.angle")
        if place is None or found is None:
            return 360.0
        return abs((place.value - found.value + 180.0) % 360.0 - 180.0)

    return min(range(build.count(RECESSES)), key=off)


def _nothing(_build: Build, _path: str) -> tuple[SizeRow, ...]:
    return ()


def _foot_rows(build: Build, _: str) -> tuple[SizeRow, ...]:
    holes = build.count("movement.foot_holes")
    return tuple(row for number in range(min(holes, 4)) for row in by.foot_rows(number))


HOLDER_FEATURES = (
    MadeFeature(
        "step",
        "Step",
        "goes thinner beside the back's thread",
        "a wall that may be too thin to print",
        ("step",),
        fixed(by.STEP),
    ),
    MadeFeature(
        "slot",
        "Stem slot",
        "lets stem and tube through",
        "weakens the ring there",
        ("slot",),
        fixed(by.SLOT),
    ),
    MadeFeature(
        "tabs",
        "Tab in a recess",
        "keeps the movement from turning",
        "hangs in the air in the print; must pass the rotor",
        ("tabs",),
        _tab_rows,
        _tabs_there,
        again=lambda build: 0 < build.count("holder.tabs") < build.count(RECESSES),
        more="Tab in the next recess",
        more_words="at the next recess, with its sizes: two hold the movement level",
    ),
    MadeFeature(
        "lugs",
        "Lugs that crush",
        "take up what the back's height varies",
        "crushed once: a new print after every opening or two",
        ("lugs",),
        fixed(by.LUGS),
    ),
    MadeFeature(
        "dial_ring",
        "Dial ring in one piece",
        "does for a spacer behind the dial, and centres itself",
        "both are printed anew when one does not fit; goes on from the dial side where it is the narrower",
        ("dial_ring",),
        fixed(by.DIAL_RING),
    ),
)
SPACER_FEATURES = (
    MadeFeature(
        "notch",
        "Notch",
        "shows which way round it lies",
        "seen, on the dial side",
        ("notch",),
        lambda _b, path: by.notch_rows(path),
    ),
    MadeFeature(
        "gap",
        "Gap",
        "lets it be sprung in past an edge",
        "a ring that no longer centres itself",
        ("gap",),
        lambda _b, path: by.gap_rows(path),
    ),
)
DIAL_FEATURES = (
    MadeFeature(
        "feet",
        "Feet",
        "hold it on the movement",
        "soldered or printed: heat before paint",
        ("feet",),
        _foot_rows,
    ),
    MadeFeature(
        "cutouts",
        "Window",
        "shows the date, or whatever lies below",
        "cut before paint; wider than drawn by the cutter's kerf",
        ("cutouts",),
        lambda build, _: by.date_rows(f"dial.cutouts.{build.count('dial.cutouts')}"),
        _nothing,
    ),
    MadeFeature(
        "marks",
        "Marks",
        "drawn for print, paint or appliques",
        "nothing: drawn, not cut",
        ("marks",),
        fixed(by.MARKS),
    ),
)
ADAPTER_FEATURES = (
    MadeFeature(
        "windows",
        "Window",
        "lets the date be seen",
        "weakens the plate",
        ("windows",),
        lambda build, _: by.date_rows(f"dial_adapter.windows.{build.count('dial_adapter.windows')}"),
        _nothing,
    ),
    MadeFeature(
        "slits",
        "Sighting slits",
        "line the dial's 12 and 6 up when it is glued",
        "two cuts in the edge",
        ("slit_width", "slit_inner_radius"),
        fixed(adapter_rows.SLITS),
    ),
    MadeFeature(
        "pegs",
        "Pegs",
        "snap into the movement's foot holes",
        "thin: they break before they bend",
        ("peg_play", "peg_length"),
        fixed(adapter_rows.PEGS),
    ),
    MadeFeature(
        "skirt",
        "Skirt",
        "centres it on the movement",
        "needs room between movement and holder",
        ("grip_play", "grip_wall", "grip_height", "stem_opening"),
        fixed(adapter_rows.SKIRT),
    ),
)
SUPPORT_FEATURES = (
    MadeFeature(
        "thread",
        "Bore for the press",
        "screws it onto the press",
        "a drill and a tap",
        ("thread",),
        fixed(support_rows.THREAD),
    ),
)
