"""The fields of a made part: sizes with where they come from, features as switches, tabs, where forms go."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.fit.checks.tabs import RECESSES
from marquetry.core.making.features import MadeFeature
from marquetry.core.making.kinds import MADE
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.values.dimension import Source
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import entered
from marquetry.web.watch.editing import Editing
from marquetry.web.watch.rows import PartView, Rejected, Row, part_view
from marquetry.web.watch.visit import Visit


@dataclass(frozen=True, slots=True)
class MadeTab:
    """Another part of the watch that is made here, and whether this is it."""

    name: str
    label: str
    is_here: bool


@dataclass(frozen=True, slots=True)
class FeatureSwitch:
    """A feature, on or off, and whether one more of it has a place."""

    feature: MadeFeature
    is_on: bool
    has_more: bool = False


def as_rejected(part: MadePart, fault: DimensionError) -> Rejected | None:
    """The fault beside its field, as it stands there; None where the field is not one of the part's."""
    dimension = part.build.dimensions.get(fault.field)
    if not fault.field.startswith(f"{part.path}."):
        return None
    if dimension is None:
        return Rejected(fault.field, "ledger", "", "", "assumed", str(fault))
    shown = (entered(dimension.value), entered(dimension.tol), dimension.source.value)
    return Rejected(fault.field, "ledger", *shown, str(fault))


def own_fields(part: MadePart, rejected: Rejected | None) -> PartView | None:
    """The part's own fields; of a list only the one thing that is made."""
    if not part.is_there or part.kind.solid is None:
        return None
    view = part_view(part.build, part.build.anatomy.part(part.kind.part), rejected)
    if part.kind.is_many:
        view = view.inner[int(part.path.rpartition(".")[2])]
    off = {f"{part.path}.{e}" for f in part.kind.features if not part.has(f) for e in f.entries}
    off |= {row.path for row in part.kind.forms} - set(part.proposals())
    rows = tuple(row for row in view.rows if row.path not in off)
    inner = tuple(inside for inside in view.inner if inside.path not in off)
    addable = tuple(thing for thing in view.addable if thing[0].removesuffix(".-") not in off)
    shown = replace(view, rows=rows, inner=inner, addable=addable, removable=False)
    return _with_origins(shown, part)


def recesses_of(part: MadePart, rejected: Rejected | None) -> PartView | None:
    """The movement's recesses with their fields, beside the holder whose tabs go there."""
    if part.kind.key != "holder" or not part.build.has("movement"):
        return None
    movement = part_view(part.build, part.build.anatomy.part("movement"), rejected)
    inner = tuple(inside for inside in movement.inner if inside.path.startswith(RECESSES))
    return PartView(
        "movement", "The movement's recesses", "", (), inner, ((f"{RECESSES}.-", "recess"),), removable=False
    )


def _with_origins(view: PartView, part: MadePart) -> PartView:
    """Each row with where the watch would take its size from, and the size to take where it is another."""
    found = part.proposals()

    def told(row: Row) -> Row:
        origin = found.get(row.path)
        row = replace(row, source=Source.PLANNED.value) if row.missing and not row.error else row
        if origin is None or row.error or not isinstance(origin.value, float):
            return row
        proposed = entered(round(origin.value, 2))
        offers = () if origin.is_so(part.build) else ((f"take {proposed}", proposed),)
        words = f"{row.remark} " if row.remark else ""
        return replace(row, remark=f"{words}{origin.because}", offers=(*row.offers, *offers))

    inner = tuple(_with_origins(inside, part) for inside in view.inner)
    return replace(view, rows=tuple(map(told, view.rows)), inner=inner)


def switches_of(part: MadePart) -> Iterator[FeatureSwitch]:
    """Every feature of the part, on or off."""
    for feature in part.kind.features:
        is_on = part.has(feature)
        yield FeatureSwitch(feature, is_on, is_on and feature.again(part.build))


def tabs_of(part: MadePart) -> Iterator[MadeTab]:
    """This part and the others of the watch that are made here."""
    for kind in MADE:
        count = max(part.build.count(kind.part), 1) if kind.is_many else 1
        for number in range(count):
            name = f"{kind.key}:{number}" if kind.is_many else kind.key
            other = made_part(name, part.build, part.rules)
            if (other.is_there and other.has_its_needs) or other.name == part.name:
                yield MadeTab(name, other.label, name == part.name)


def part_link(visit: Visit, route: str, part: MadePart) -> str:
    """The address of that route for the part."""
    return str(visit.request.app.url_path_for(route, watch_id=str(visit.stored.id), name=part.name))


def editing_made(visit: Visit, part: MadePart, query: str) -> Editing:
    """Where the part's forms go; in a trial they carry it along, and no measuring card is offered."""

    def to(route: str) -> str:
        return f"{part_link(visit, route, part)}{query}"

    card = (
        ""
        if visit.trial is not None
        else str(visit.request.app.url_path_for("watch_card", watch_id=str(visit.stored.id)))
    )
    return Editing(visit.stored.version, to("made_entry"), to("made_thing"), to("made_thing_removed"), card)
