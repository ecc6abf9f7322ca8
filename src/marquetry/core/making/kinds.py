"""Every kind of part that is made here: its solid, its sizes, its features, each described once."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from marquetry.core.making import adapter_rows, features, marks, measures, notes, support_rows
from marquetry.core.making import size_rows as by
from marquetry.core.making.adapter import adapter_solid
from marquetry.core.making.dial import dial_solid
from marquetry.core.making.features import MadeFeature, RowsOf, fixed
from marquetry.core.making.holder import holder_solid
from marquetry.core.making.measures import Measure, MeasuresOf
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.outline import Edge
from marquetry.core.making.proposals import SizeRow
from marquetry.core.making.shape import Solid
from marquetry.core.making.sizes import Sizes
from marquetry.core.making.spacer import spacer_solid
from marquetry.core.making.support import (
    FACING,
    PARTING,
    bar_stock,
    bar_told,
    cut_length,
    is_spigot,
    support_solid,
    whole_height,
)
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.values.figures import figure


@dataclass(frozen=True, slots=True, eq=False)
class MadeKind:
    """One kind. `key` is its name in commands and addresses, `part` where it stands in a sheet."""

    key: str
    label: str
    part: str
    solid: Callable[[Sizes, str], Solid] | None
    measures: MeasuresOf
    rows: RowsOf
    features: tuple[MadeFeature, ...] = ()
    notes: Callable[[Sizes, str, PrintSetting], Iterator[str]] = lambda _s, _p, _q: iter(())
    checks: tuple[str, ...] = ()
    forms: tuple[SizeRow, ...] = ()
    """Every row of a part that comes in several forms; those that its form does not use are not asked for."""
    material: str = "printed"
    words: str = ""
    spots: marks.SpotsOf = marks.no_spots
    """What beside the axis gets a centre mark, by name."""
    divisions: Callable[[Sizes], Iterator[Edge]] = lambda _: iter(())
    """What is drawn on it and not cut."""
    aside: marks.AsideOf = marks.across
    """Where it is cut open beside the stem; None for a part that knows nothing of a stem."""
    needs: str = ""
    """A list of the part without which there is nothing to be made of it."""
    is_turned: bool = False
    """Whether something of it follows the crown's place."""
    is_fitted: bool = True
    """Whether what is made goes into the watch, and is not only laid in or drilled by."""

    @property
    def is_many(self) -> bool:
        """Whether a watch may have several of it."""
        return self.part == SPACERS.key


def _no_measures(_s: Sizes, _p: str) -> Iterator[Measure]:
    return iter(())


def _support_notes(s: Sizes, path: str, setting: PrintSetting) -> Iterator[str]:
    del setting
    yield f"Ask for round bar Ø {figure(bar_stock(s), 0)} mm or more: a diameter, not a radius"
    takes = f"{figure(PARTING)} for parting, {figure(FACING)} to face each end"
    yield f"Cut {figure(cut_length(s), 1, 'mm')} of it: {figure(whole_height(s), 1)} high, and {takes}"
    if s[f"{path}.relief_depth"] >= s[f"{path}.floor"]:
        yield "The relief goes right through the floor"
    bar = bar_told(s)
    if bar:
        yield bar
    if is_spigot(s):
        yield "A spigot is for an empty case: press the crystal before the movement is in"
    yield "Eyes protected when turning and when pressing glass; chips away from the movement"


HOLDER_CHECKS = (
    "holder_clamp",
    "holder_in_case",
    "holder_on_movement",
    "holder_in_back",
    "holder_tabs",
    "holder_rotor",
    "holder_rotor_rim",
    "holder_on",
    "adapter_holder",
    "rotor_clearance",
    "back_clearance",
)
HEIGHT_CHECKS = (
    "stem_height",
    "hand_stack",
    "rotor_clearance",
    "back_clearance",
    "holder_clamp",
    "foot_engagement",
    "foot_bottoming",
)
WINDOW_CHECKS = ("window_feet", "window_seen", "window_centre", "window_h24")
DIAL_CHECKS = (
    "dial_bore_clearance",
    "dial_cover",
    "dial_centre_hole",
    "dial_feet",
    "foot_engagement",
    "foot_bottoming",
    "date_angle",
    "date_radius",
    *WINDOW_CHECKS,
    "track_seen",
)


def _spacer_rows(build: Build, path: str) -> tuple[SizeRow, ...]:
    return by.spacer_rows(path, "dial" if build.at(f"{path}.side") == "dial" else "movement")


MADE: tuple[MadeKind, ...] = (
    MadeKind(
        "holder",
        "Holder",
        "holder",
        lambda s, _: holder_solid(s),
        measures.of_holder,
        fixed(by.HOLDER),
        features.HOLDER_FEATURES,
        lambda s, _, q: notes.holder_notes(s, q),
        HOLDER_CHECKS,
        words="the ring between movement and case",
        aside=marks.at_tab,
        is_turned=True,
    ),
    MadeKind(
        "spacer",
        "Spacer",
        SPACERS.key,
        spacer_solid,
        measures.of_spacer,
        _spacer_rows,
        features.SPACER_FEATURES,
        notes.spacer_notes,
        HEIGHT_CHECKS,
        words="the ring that brings the stem to its tube",
    ),
    MadeKind(
        "dial",
        "Dial",
        "dial",
        lambda s, _: dial_solid(s),
        measures.of_dial,
        fixed(by.DIAL),
        features.DIAL_FEATURES,
        checks=DIAL_CHECKS,
        material="brass",
        words="blank, windows, marks and feet",
        spots=marks.feet_spots,
        divisions=marks.divisions,
        aside=marks.at_foot,
    ),
    MadeKind(
        "test-dial",
        "Dial to try",
        "dial",
        lambda s, _: dial_solid(s, feet=False),
        measures.of_dial,
        fixed(by.DIAL),
        features.DIAL_FEATURES[1:],
        checks=DIAL_CHECKS,
        words="the dial without feet, printed first to be laid in",
        divisions=marks.divisions,
        is_fitted=False,
    ),
    MadeKind(
        "dial-adapter",
        "Dial adapter",
        "dial_adapter",
        lambda s, _: adapter_solid(s),
        measures.of_adapter,
        fixed(adapter_rows.ADAPTER),
        features.ADAPTER_FEATURES,
        notes.adapter_notes,
        ("adapter_holder", *HEIGHT_CHECKS),
        words="a carrier for a dial too thin for feet",
        spots=marks.peg_spots,
        aside=marks.at_peg,
        is_turned=True,
    ),
    MadeKind(
        "press-support",
        "Press support",
        "press_support",
        lambda s, _: support_solid(s),
        measures.of_support,
        lambda build, _: support_rows.support_rows(build),
        features.SUPPORT_FEATURES,
        _support_notes,
        ("support_seat", "support_spigot", "support_rotor", "crystal_squeeze", "crystal_proud"),
        forms=(*support_rows.RECESS_SUPPORT, *support_rows.SPIGOT_SUPPORT),
        material="aluminium",
        words="holds the case, back off, under the crystal press",
        aside=marks.no_stem,
    ),
    MadeKind(
        "window-sheet",
        "Cut-outs only",
        "dial",
        None,
        _no_measures,
        fixed(()),
        checks=(*WINDOW_CHECKS, "date_angle", "date_radius"),
        material="",
        words="the cut-outs alone, to be cut into a bought blank",
        needs="dial.cutouts",
        is_turned=True,
        is_fitted=False,
    ),
    MadeKind(
        "drilling-sheet",
        "Drilling sheet",
        "dial",
        None,
        _no_measures,
        fixed(()),
        checks=("dial_feet", "foot_engagement"),
        material="",
        words="new foot holes in the movement's ring",
        is_turned=True,
        is_fitted=False,
    ),
)
